#!/usr/bin/env python3
"""Spring rates by finite elements: our STEP file meshed into tetrahedra, pressed or pulled a little, the force read back.

A second route to the rate that the sheet says by EN 13906: nothing in it knows that the body is a spring. One end is held,
the other one moved along the axis without turning; the sum of the reactions over the way is the rate.

    tests/spring_fe.py build/release/bin/whorl [words of the springs to try]

Needs gmsh and calculix-ccx, which are Debian packages; only scripts/test --long runs this.
"""
import json
import math
import pathlib
import re
import subprocess
import sys
import tempfile

E, G = 206000.0, 81500.0  # MPa, EN 10270-1

# what is written, the largest edge of a tetrahedron in mm, and what the rates may differ by
SPRINGS = [
    ("spring d2 D20 p6 n5 open", 0.8, 0.03),
    ("spring d2 D26..16 p7 n5 open", 0.8, 0.03),
    ("spring d2 D20 p5..8 n5 open LH", 0.8, 0.03),
    ("spring d4x2.5 D32 p5 n8 open", 0.9, 0.03),
    ("spring d2x4 D28 p9 n4 open", 0.9, 0.03),
    ("extension spring d2 D16 n20 hooks half", 0.9, 0.03),
]


def mesh(step, size, folder):
    """Nodes and ten-node tetrahedra."""
    msh = folder / "spring.msh"
    run = subprocess.run(["gmsh", step, "-3", "-order", "2", "-clmax", str(size), "-format", "msh2", "-o", msh, "-v", "1"],
                         capture_output=True, text=True)
    if run.returncode:
        raise RuntimeError("the mesher stopped: " + run.stdout[-400:] + run.stderr[-400:])
    nodes, elements, mode = {}, [], ""
    for line in msh.open():
        if line.startswith("$"):
            mode = line.strip()
            continue
        w = line.split()
        if mode == "$Nodes" and len(w) == 4:
            nodes[int(w[0])] = tuple(map(float, w[1:]))
        elif mode == "$Elements" and len(w) > 4 and w[1] == "11":
            n = list(map(int, w[-10:]))
            n[8], n[9] = n[9], n[8]  # the mesher's order and the solver's
            elements.append(n)
    return nodes, elements


def tips(text, nodes):
    """Nodes of the wire's two flat ends, or of the two hooks' crowns."""
    across, along = re.search(r"\bd([\d.]+)(?:x([\d.]+))?", text).groups()
    wire = float(along or across)  # along the axis
    reach = math.hypot(float(across), float(along)) / 2 if along else wire / 2  # of its section
    low, high = min(p[2] for p in nodes.values()), max(p[2] for p in nodes.values())
    if text.startswith("extension"):
        return ([n for n, p in nodes.items() if p[2] < low + wire], [n for n, p in nodes.items() if p[2] > high - wire])
    turns = float(re.search(r"\bn([\d.]+)", text).group(1))
    D = [float(v) for v in re.search(r"\bD([\d.]+(?:\.\.[\d.]+)?)", text).group(1).split("..")]
    hand = -1 if text.endswith("LH") else 1
    out = []
    for far in (False, True):
        theta = 2 * math.pi * turns * far
        R = D[-1 if far else 0] / 2
        centre = (R * math.cos(theta), hand * R * math.sin(theta), high - wire / 2 if far else low + wire / 2)
        # the end is square to the wire, whose lead hardly matters over its thickness
        near = [n for n, p in nodes.items() if math.dist(p, centre) < reach * 1.02]
        flat = [n for n in near if abs((nodes[n][1] - centre[1]) * math.cos(theta) -
                                       (nodes[n][0] - centre[0]) * math.sin(theta)) < 0.2 * wire]
        out.append(flat)
    return out


def rate(nodes, elements, held, moved, folder, way=0.1):
    deck = folder / "spring.inp"
    with deck.open("w") as f:
        f.write("*NODE, NSET=ALL\n")
        for n, p in nodes.items():
            f.write("%d, %.9g, %.9g, %.9g\n" % (n, *p))
        f.write("*ELEMENT, TYPE=C3D10, ELSET=BODY\n")
        for k, e in enumerate(elements, 1):
            f.write(", ".join(map(str, [k, *e])) + "\n")
        for name, which in (("HELD", held), ("MOVED", moved)):
            f.write("*NSET, NSET=%s\n" % name + "".join("%d,\n" % n for n in which))
        f.write("*MATERIAL, NAME=WIRE\n*ELASTIC\n%g, %g\n*SOLID SECTION, ELSET=BODY, MATERIAL=WIRE\n" % (E, E / (2 * G) - 1))
        f.write("*STEP\n*STATIC\n*BOUNDARY\nHELD, 1, 3, 0.\nMOVED, 1, 2, 0.\nMOVED, 3, 3, %g\n" % way)
        f.write("*NODE PRINT, NSET=MOVED, TOTALS=ONLY\nRF\n*END STEP\n")
    run = subprocess.run(["ccx", "spring"], cwd=folder, capture_output=True, text=True)
    if run.returncode:
        raise RuntimeError("the solver stopped: " + run.stdout[-400:])
    total = re.search(r"total force.*?\n\s*\n\s*(\S+)\s+(\S+)\s+(\S+)", (folder / "spring.dat").read_text())
    return abs(float(total.group(3))) / way


def main():
    whorl, words, bad = sys.argv[1], sys.argv[2:], 0
    for text, size, off in SPRINGS:
        if words and not all(w in text for w in words):
            continue
        with tempfile.TemporaryDirectory() as place:
            folder = pathlib.Path(place)
            step = folder / "spring.step"
            subprocess.run([whorl, "make", text, "-o", step], check=True, capture_output=True)
            said = json.loads(subprocess.run([whorl, "show", text, "--json"], check=True, capture_output=True).stdout)
            value = said["values"]["spring_rate"]
            expected = value["value"] if isinstance(value, dict) else value
            nodes, elements = mesh(step, size, folder)
            used = {n for e in elements for n in e}
            nodes = {n: p for n, p in nodes.items() if n in used}
            held, moved = tips(text, nodes)
            found = rate(nodes, elements, held, moved, folder)
        wrong = found / expected - 1
        bad += abs(wrong) > off
        print("%-45s %8.4f N/mm by our sheet, %8.4f by %d elements: %+.2f %%%s" %
              (text, expected, found, len(elements), 100 * wrong, "" if abs(wrong) <= off else "  TOO FAR"), flush=True)
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
