#!/usr/bin/env python3
"""Solids of every family meshed into tetrahedra by a common mesher, as for an analysis of strength.

A mesher starts from the faces of our STEP file and makes its own triangles of them, so that faces which touch
where they should not, are folded, or lie twice on each other stop it. What it fills is then weighed: the sum of
its tetrahedra must be the volume that the piece says, within what chords leave of round faces.

    tests/volume_mesh.py build/release/bin/whorl [words of the pieces to try]

Needs gmsh, which is a Debian package; only scripts/test --long runs this.
"""
import pathlib
import re
import subprocess
import sys
import tempfile

# what is written, the largest edge of a tetrahedron in mm, and how much of the volume chords of that size may cost
PIECES = [
    ("M10 x 12", 1.5, 0.02),
    ("ISO 4032 M10", 1.5, 0.02),
    ("ISO 4762 M6 x 12", 1, 0.02),
    ("Tr20x4 x 20", 2, 0.02),
    ("1/4-20 UNC x 1/2", 1, 0.02),
    ("R1/2 x 16", 2, 0.02),
    ("gear m2 z17 b8", 1.5, 0.02),
    ("gear m2 z12 b6 helix 20 RH", 1.5, 0.02),
    ("internal gear m2 z40 b6", 1.5, 0.02),
    ("rack m2 z8", 1.5, 0.02),
    ("cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120, dwell 60; roller 8; b10", 2, 0.02),
    ("drum cam d40 b40: rise 15 in 150 cycloidal, dwell 30, return in 150 cycloidal, dwell; groove 6 wide 4 deep",
     2, 0.02),
    ("knurl axial pitch 1 on 20 x 5", 0.7, 0.02),
    ("knurl crossed pitch 1.6 on 12 x 4", 0.7, 0.02),
    ("groove rect 2 x 1 pitch 8 on 20 x 24", 1.5, 0.02),
    ("spring d2 D20 L40 n4", 0.4, 0.03),
    ("spring d2 D30..18 L60 n5 ground", 0.4, 0.03),
    ("u-clamp M6 for 40 x 50", 1, 0.02),
    ("elbow G1/4 90", 1.5, 0.02),
    ("elbow G1/2 90", 1.5, 0.02),
    ("elbow G3/4 60", 1.5, 0.02),
    ("cup 40 x 50", 2, 0.05),
    ("bottle 40 x 80", 2, 0.05),
    ("thumb screw M5 x 16", 1, 0.02),
]


def tetrahedra_volume(path):
    """Of a mesh in the mesher's text format, version 2."""
    points, total, count, mode = {}, 0.0, 0, ""
    for line in path.open():
        if line.startswith("$"):
            mode = line.strip()
            continue
        w = line.split()
        if mode == "$Nodes" and len(w) == 4:
            points[w[0]] = tuple(map(float, w[1:]))
        elif mode == "$Elements" and len(w) > 4 and w[1] == "4":
            a, b, c, d = (points[n] for n in w[-4:])
            u, v, t = ([q[i] - a[i] for i in range(3)] for q in (b, c, d))
            total += abs(u[0] * (v[1] * t[2] - v[2] * t[1]) - u[1] * (v[0] * t[2] - v[2] * t[0])
                         + u[2] * (v[0] * t[1] - v[1] * t[0])) / 6
            count += 1
    return total, count


def try_piece(whorl, words, size, bound, folder):
    step, mesh = folder / "piece.step", folder / "piece.msh"
    for f in (step, mesh):
        f.unlink(missing_ok=True)
    made = subprocess.run([whorl, "make", words, "-o", step], capture_output=True, text=True)
    if made.returncode or not step.exists():
        return "not made: " + (made.stderr or made.stdout).strip()
    said = subprocess.run([whorl, "show", words], capture_output=True, text=True).stdout
    volume = re.search(r"^Volume\s+([0-9.]+) (cm³|mm³|in³)", said, re.M)
    if not volume:
        return "says no volume"
    expected = float(volume[1]) * {"cm³": 1000, "mm³": 1, "in³": 25.4**3}[volume[2]]
    try:
        run = subprocess.run(["gmsh", "-3", "-nt", "1", "-v", "2", "-clmax", str(size), "-format", "msh2", "-o", mesh, step],
                             capture_output=True, text=True, timeout=300)
    except subprocess.TimeoutExpired:
        return "the mesher takes longer than 300 s"
    errors = [x for x in (run.stdout + run.stderr).splitlines() if "Error" in x]
    if not mesh.exists():
        return "no mesh: " + "; ".join(errors[:2])
    total, count = tetrahedra_volume(mesh)
    if count == 0:
        return "no tetrahedra: " + "; ".join(errors[:2])
    off = total / expected - 1
    print(f"{words}: {count} tetrahedra, volume {off:+.2%}")
    return "" if abs(off) <= bound else f"its tetrahedra are {off:+.2%} off the volume {expected:.4g} mm³"


def main():
    whorl = sys.argv[1]
    pieces = [p for p in PIECES if len(sys.argv) < 3 or p[0] in sys.argv[2:]]
    failed = 0
    with tempfile.TemporaryDirectory() as folder:
        for words, size, bound in pieces:
            if wrong := try_piece(whorl, words, size, bound, pathlib.Path(folder)):
                failed += 1
                print(f"FAILED {words}: {wrong}")
            sys.stdout.flush()
    print(f"{len(pieces) - failed} of {len(pieces)} pieces meshed")
    return 1 if failed or not pieces else 0


if __name__ == "__main__":
    sys.exit(main())
