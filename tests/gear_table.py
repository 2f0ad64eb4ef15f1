#!/usr/bin/env python3
"""Writes gear_table.hpp: measures of 48 gears from the geometry itself, without the handbook formulas.

The transverse flank is a cloud of points on the string unwound from the base circle, turned until the tooth is as
thick on the pitch circle as its rack's space allows. Span: the widest distance of two parallel lines touching two
opposite flanks. Pins: a disc (of a helical gear its ellipse's touch in the base helix) pushed outwards between two flanks until
both touch, found by bisection. Contact: where the tip circles cross the common tangent of the base circles. Undercut: the
profile shift at which the lowest point the rack's straight flank cuts lies where the string begins, by bisection
on the rack's own geometry. Where it undercuts, contact ends at the lowest point of the flank that the rack's rounded
corner never covers on its way past, found by bisection, too.
"""
from math import *
import random

def gear(m, z, a, b, x):
    at = atan(tan(a) / cos(b)); mt = m / cos(b); r = z * mt / 2; rb = r * cos(at)
    s = (pi * m / 2 + 2 * x * m * tan(a)) / cos(b)
    # half angle of the tooth on the pitch circle; the string's angle there
    half = s / 2 / r
    u = sqrt((r / rb) ** 2 - 1)
    polar = u - atan(u)
    return dict(m=m, z=z, a=a, b=b, x=x, at=at, mt=mt, r=r, rb=rb, start=half + polar, bb=atan(tan(b) * cos(at)))

def flank(g, u, side, tooth):
    """Point at string angle u on a flank of the tooth with this number, side +1 the later one."""
    base = tooth * 2 * pi / g['z'] + side * g['start']
    ang = base - side * (u - atan(u)); rad = g['rb'] * sqrt(1 + u * u)
    return rad * cos(ang), rad * sin(ang)

def golden(f, lo, hi):
    k = (sqrt(5) - 1) / 2
    for _ in range(200):
        p, q = hi - k * (hi - lo), lo + k * (hi - lo)
        if f(p) < f(q): hi = q
        else: lo = p
    return (lo + hi) / 2

def span(g, k):
    """Anvils square to a direction: the later flank of tooth k−1 and the earlier one of tooth 0 reach farthest."""
    mid = (k - 1) * pi / g['z']
    d = (-sin(mid), cos(mid))
    f = lambda side, tooth: (lambda u: -side * sum(c * p for c, p in zip(d, flank(g, u, side, tooth))))
    hi = max(3.0, (k + 2) * pi / g['z'] + 2)
    u1 = golden(f(1, k - 1), 0, hi); u0 = golden(f(-1, 0), 0, hi)
    w = -f(1, k - 1)(u1) - f(-1, 0)(u0)
    return w * cos(g['bb'])            # measured square to the teeth

def pins(g, D):
    """A ball touches both flanks of a space where its normal section does: in the transverse plane a disc of D/cos βb."""
    R = D / 2 / cos(g['bb'])
    mid = pi / g['z']                  # middle of the space after tooth 0
    def gap(c):
        cx, cy = c * cos(mid), c * sin(mid)
        dist = lambda u: hypot(flank(g, u, 1, 0)[0] - cx, flank(g, u, 1, 0)[1] - cy)
        n = 4000
        best = min(range(n + 1), key=lambda i: dist(3.0 * i / n))
        return dist(golden(dist, max(0, 3.0 * (best - 1) / n), 3.0 * (best + 1) / n)) - R
    lo, hi = g['rb'], g['r'] + 4 * g['m'] + D
    for _ in range(80):
        c = (lo + hi) / 2
        if gap(c) < 0: lo = c
        else: hi = c
    c = (lo + hi) / 2
    return (2 * c if g['z'] % 2 == 0 else 2 * c * cos(pi / 2 / g['z'])) + D

def uncut(g, hf, rho):
    """String angle of the lowest flank point outside the rack's corner at every turn of the gear; the corner is a
    circle in the plane square to the teeth."""
    m, a, b, x, r = g['m'], g['a'], g['b'], g['x'], g['r']
    if x >= least_shift(m, g['z'], a, b, hf, rho): return 0
    fits = min(rho, (pi / 4 - hf * tan(a) - 1e-3) * cos(a) / (1 - sin(a))) * m
    deep = hf * m - x * m - fits
    aside = (pi * m / 4 - hf * m * tan(a) - fits * (1 - sin(a)) / cos(a)) / cos(b)
    def outside(u):
        ang = pi / g['z'] - g['start'] + u - atan(u); rad = g['rb'] * sqrt(1 + u * u)   # from the space's middle
        far = lambda t: hypot((rad * sin(ang + t) - r * t - aside) * cos(b), rad * cos(ang + t) - (r - deep))
        n = 600
        best = min(range(n + 1), key=lambda i: far(-1.5 + 3.0 * i / n))
        return far(golden(far, -1.5 + 3.0 * (best - 1) / n, -1.5 + 3.0 * (best + 1) / n)) - fits
    lo, hi = 0, sqrt(((r + m * (1 + x)) / g['rb']) ** 2 - 1)
    for _ in range(60):
        u = (lo + hi) / 2
        if outside(u) < 0: lo = u
        else: hi = u
    return (lo + hi) / 2

def contact(g, h):
    """Without backlash: the axes apart until the pitch circles rolled on have tooth + tooth = pitch, by bisection."""
    def thick(q, rad):
        u = sqrt(max(0, (rad / q['rb']) ** 2 - 1))
        return 2 * rad * (q['start'] - (u - atan(u)))
    lo, hi = (g['rb'] + h['rb']) * (1 + 1e-12), (g['r'] + h['r']) * 1.2
    for _ in range(200):
        c = (lo + hi) / 2; w = acos((g['rb'] + h['rb']) / c)
        r1, r2 = g['rb'] / cos(w), h['rb'] / cos(w)
        if thick(g, r1) + thick(h, r2) > 2 * pi * r1 / g['z']: lo = c
        else: hi = c
    w = acos((g['rb'] + h['rb']) / c)
    ra1, ra2 = g['r'] + g['m'] * (1 + g['x']), h['r'] + h['m'] * (1 + h['x'])
    # the tangent in a frame with the first axis at 0 and the second at c
    t = (-sin(w), cos(w)); foot1 = (g['rb'] * cos(w), g['rb'] * sin(w))
    out = sqrt(ra1 ** 2 - g['rb'] ** 2)                  # from foot 1 to the first tips' crossing
    whole = c * sin(w); into = whole - sqrt(ra2 ** 2 - h['rb'] ** 2)
    into = max(into, g['rb'] * uncut(g, 1.25, 0.38)); out = min(out, whole - h['rb'] * uncut(h, 1.25, 0.38))
    return c, (out - into) / (2 * pi * g['rb'] / g['z'])

def least_shift(m, z, a, b, hf, rho):
    """The rack's flank ends where its rounded tip begins; the line of action through the pitch point at that height
    must still meet the string, which begins at the base circle."""
    def lowest(x):
        # a rounded tip as far as half the rack's tooth has room for it, but for a land of a thousandth
        fits = min(rho, (pi / 4 - hf * tan(a) - 1e-3) * cos(a) / (1 - sin(a)))
        g = gear(m, z, a, b, 0); depth = hf * m - x * m - fits * m * (1 - sin(a))   # below the pitch line
        # the contact at this depth: back along the line of action by depth/sin αt from the pitch point
        return g['rb'] * tan(g['at']) - depth / sin(g['at'])
    lo, hi = -z, 5
    for _ in range(200):
        x = (lo + hi) / 2
        if lowest(x) < 0: lo = x
        else: hi = x
    return (lo + hi) / 2

def main():
    random.seed(20)
    rows = []
    fixed = [(2, 24, 20, 0, 0), (1.25, 19, 20, 0, 0), (1.25, 73, 20, 0, 0), (1, 17, 20, 0, 0), (3, 12, 20, 0, 0.3), (2, 100, 20, 0, 0),
             (4, 30, 14.5, 0, 0), (2.5, 40, 25, 0, 0), (2, 20, 20, 30, 0), (1, 131, 20, 0, 0), (5, 11, 20, 0, 0.4), (2, 43, 20, 15, 0)]
    while len(rows) < 48:
        if len(rows) < len(fixed): m, z, a, b, x = fixed[len(rows)]
        else:
            m = random.choice([0.5, 0.8, 1, 1.5, 2, 3, 4, 6, 8]); z = random.randint(12, 150); a = random.choice([20, 20, 20, 14.5, 25])
            b = random.choice([0, 0, 8, 15, 22.5, 30]); x = random.choice([0, 0, 0.1, 0.25, 0.5, -0.1 if z > 30 else 0.1])
        z2 = random.randint(max(z, 20), 160); x2 = random.choice([0, 0, 0.1, -0.2])
        g = gear(m, z, radians(a), radians(b), x); h = gear(m, z2, radians(a), radians(b), x2)
        k = max(2, round(z * degrees(g['at']) / 180 + 0.5))
        D = round(1.75 * m, 2)
        c, eps = contact(g, h)
        rows.append((m, z, a, b, x, k, span(g, k), D, pins(g, D), z2, x2, c, eps, least_shift(m, z, radians(a), radians(b), 1.25, 0.38)))
    with open(__file__.rsplit('/', 1)[0] + '/gear_table.hpp', 'w') as f:
        f.write("// Measures of gears from a second derivation; written by gear_table.py, which says how. mm and degrees.\n#pragma once\n\n#include \"form/tooth/gear.hpp\"\n\n")
        f.write("namespace whorl::test {\n\nstruct GearRow {\n    double module;\n    int teeth;\n    double pressure_angle, helix_angle, profile_shift;\n    int spanned;\n    double span, pin, over_balls;\n    int other_teeth;\n    double other_shift, centre, contact_ratio, least_shift;\n};\n\n// clang-format off\nconstexpr GearRow gear_table[]{\n")
        for r in rows:
            f.write("    {" + ", ".join(f"{v:.9f}".rstrip('0').rstrip('.') if isinstance(v, float) else str(v) for v in r) + "},\n")
        f.write("};\n// clang-format on\n\ninline GearSpec spec_of(const GearRow& row) {\n    GearSpec s;\n    s.module = mm(row.module);\n    s.teeth = row.teeth;\n    s.pressure_angle = deg(row.pressure_angle);\n    s.helix_angle = deg(row.helix_angle);\n    s.profile_shift = row.profile_shift;\n    return s;\n}\n\n} // namespace whorl::test\n")

main()
