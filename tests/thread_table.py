#!/usr/bin/env python3
"""Every listed key of threads of every family, by a second derivation; writes thread_table.hpp.

Nothing is taken from the program: what standards tabulate is typed here once more, the rest follows from the
triangle, the circle and the inclined plane. Lengths in mm, angles in degrees, areas in mm2.
"""
from decimal import Decimal, ROUND_HALF_UP
from math import atan, cos, degrees, pi, radians, sin, sqrt, tan

IN = 25.4
rows = []


def rounded(x, places):
    return float(Decimal(repr(x)).quantize(Decimal(1).scaleb(-places), ROUND_HALF_UP))


def middle(low, high):
    return (low + high) / 2


def thread(designation, p, starts, lower, upper, major, pitch, minor, basic, crest, pitch_made, root, *,
           external, hand='right', cls, at, series, tpi=None, allowance=None, stress=None, taper=None,
           gauge=None, round_crest=False, round_root=False, crest_r=0.0, root_r=0.0, groove_wider=0.0,
           wires=True, power=False, drill=None, extra=()):
    """major, pitch, minor: (min, max), None where there is none; basic: the three diameters; crest, pitch_made,
    root: the diameters as modelled. lower, upper: flank angles to the plane square to the axis."""
    def put(key, value=None, low=None, high=None, text=''):
        rows.append((designation, key, value, low, high, text))
    for key, limits, nominal in (('major_diameter', major, basic[0]), ('pitch_diameter', pitch, basic[1]),
                                 ('minor_diameter', minor, basic[2])):
        if limits is None:
            put(key, nominal)
        else:
            put(key, None, *limits)
    put('pitch', p)
    if tpi:
        put('threads_per_inch', tpi)
    lead = starts * p
    put('lead', lead)
    put('starts', starts)
    put('hand', text=hand)
    put('thread_depth', abs(crest - root) / 2)
    sign = 1 if external else -1
    up, down = sign * (crest - pitch_made) / 2, sign * (pitch_made - root) / 2   # from the pitch line
    tl, tu = tan(radians(lower)), tan(radians(upper))
    half = radians((lower + upper) / 2)
    sharp = p / 2 / (tl + tu)                       # from the pitch line to where flanks meet
    # a circle that touches both flanks and reaches the crest or the root
    touching = lambda room: room / (1 / sin(half) - 1)
    if round_crest:
        put('crest_rounding', touching(sharp - up))
    elif crest_r:
        put('crest_rounding', crest_r)
    if not round_crest:
        corner = crest_r * (tan((pi / 2 - radians(lower)) / 2) + tan((pi / 2 - radians(upper)) / 2))
        flat = p / 2 - up * (tl + tu) - corner - groove_wider
        if flat > 1.001e-3 * p:
            put('crest_flat', flat)
    if round_root:
        put('root_rounding', touching(sharp - down))
    elif root_r:
        put('root_rounding', root_r)
    if not round_root:
        put('root_flat', p / 2 - down * (tl + tu) + groove_wider)
    put('flank_angle', lower + upper)
    if lower != upper:
        put('load_flank_angle', min(lower, upper))
    rise = atan(lead / (pi * basic[1]))
    put('lead_angle', degrees(rise))
    if taper:
        put('taper', text='1:16')
        put('cone_angle', degrees(2 * atan(1 / 32)))
        put('gauge_distance', gauge)
    put('major_diameter_basic', basic[0])
    put('pitch_diameter_basic', basic[1])
    put('minor_diameter_basic', basic[2])
    if allowance is not None:
        put('allowance', allowance)
    if stress is not None:
        put('stress_area', stress)
    if external and wires and not taper and lower == upper and lower > 6:
        w = p / 2 / cos(half)
        put('best_wire', w)
        low, high = pitch if pitch else (basic[1], basic[1])
        phi = atan(p * starts / (pi * basic[1]))
        more = 3 * w if lower == 30 else w * (1 + 1 / sin(half))
        over = more - p / 2 / tan(half) + w / 2 * tan(phi) ** 2 * cos(half) / tan(half)
        put('over_wires', None, low + over, high + over)
    for e in extra:
        put(*e)
    if drill is not None:
        put('tap_drill', drill)
    if power:
        rho = atan(0.1 / cos(radians(min(lower, upper))))
        put('efficiency', tan(rise) / tan(rise + rho))
        # a kilonewton on a ramp at the pitch radius
        put('torque_to_lift', basic[1] / 2 * tan(rise + rho))
        put('torque_to_lower', basic[1] / 2 * tan(rho - rise))
        put('self_locking', text='yes' if rise < rho else 'no')
    put('tolerance_class', text=cls)
    put('modelled_at', text=at)
    put('series', text=series)


MID = 'middle of limits'


def metric(designation, d, p, *, es=0, td=0, td2=0, ei=0, nut2=0, nut1=0, external, cls, starts=1, series='coarse'):
    """Deviations and tolerances in micrometres: ISO 965-1 tables 1 to 5."""
    H = p * sqrt(3) / 2
    d2, d1 = rounded(d - 2 * 3 / 8 * H, 3), rounded(d - 2 * 5 / 8 * H, 3)
    if external:
        major = (d - (es + td) / 1000, d - es / 1000)
        pitch = (d2 - (es + td2) / 1000, d2 - es / 1000)
        exact = d - 0.75 * H - es / 1000
        minor = (rounded(exact - td2 / 1000 - 0.75 * H, 3), rounded(exact - 2 * H / 3, 3))
        d3 = d1 - H / 6
        thread(designation, p, starts, 30, 30, major, pitch, minor, (d, d2, d1), middle(*major), middle(*pitch),
               middle(*minor), external=True, cls=cls, at=MID, series=series, allowance=es / 1000,
               stress=pi / 4 * ((d2 + d3) / 2) ** 2)
    else:
        pitch = (d2 + ei / 1000, d2 + (ei + nut2) / 1000)
        minor = (d1 + ei / 1000, d1 + (ei + nut1) / 1000)
        thread(designation, p, starts, 30, 30, (d + ei / 1000, None), pitch, minor, (d, d2, d1), middle(*minor),
               middle(*pitch), d + ei / 1000, external=False, cls=cls, at=MID, series=series,
               allowance=ei / 1000, drill=d - p)


metric('M10x1.5-6g', 10, 1.5, es=32, td=236, td2=132, external=True, cls='6g')
metric('M10x1.5-6H', 10, 1.5, nut2=180, nut1=300, external=False, cls='6H')
metric('M20x2.5-6G', 20, 2.5, ei=42, nut2=224, nut1=450, external=False, cls='6G')
metric('M24x2-4h', 24, 2, td=180, td2=106, external=True, cls='4h', series='fine')
metric('M30x3.5-8g', 30, 3.5, es=53, td=670, td2=335, external=True, cls='8g')
metric('M16xPh4P2-6H', 16, 2, nut2=212, nut1=375, external=False, cls='6H', starts=2)
metric('M6x1-6e', 6, 1, es=60, td=180, td2=112, external=True, cls='6e')


def unified(designation, d, tpi, limits, *, external, cls, series, allowance):
    """Limits as ASME B1.1 table 2 prints them, inch: major, pitch, (minor)."""
    p = IN / tpi
    H = p * sqrt(3) / 2
    d2 = rounded(d - 0.75 * H / IN, 4) * IN
    d1 = d * IN - 1.25 * H
    major, pitch = [tuple(None if x is None else x * IN for x in l) for l in limits[:2]]
    if external:
        minor = (pitch[0] - 0.75 * H, pitch[1] - 0.625 * H)
        thread(designation, p, 1, 30, 30, major, pitch, minor, (d * IN, d2, d1), middle(*major), middle(*pitch),
               middle(*minor), external=True, cls=cls, at=MID, series=series, tpi=tpi, allowance=allowance * IN,
               stress=pi / 4 * (d * IN - 0.9743 * p) ** 2)
    else:
        minor = tuple(x * IN for x in limits[2])
        thread(designation, p, 1, 30, 30, major, pitch, minor, (d * IN, d2, d1), middle(*minor), middle(*pitch),
               d * IN, external=False, cls=cls, at=MID, series=series, tpi=tpi, allowance=0, drill=d * IN - p)


unified('1/4-20 UNC-1A', .25, 20, [(.2367, .2489), (.2108, .2164)], external=True, cls='1A', series='UNC', allowance=.0011)
unified('1/4-20 UNC-2A', .25, 20, [(.2408, .2489), (.2127, .2164)], external=True, cls='2A', series='UNC', allowance=.0011)
unified('1/4-20 UNC-3A', .25, 20, [(.2419, .2500), (.2147, .2175)], external=True, cls='3A', series='UNC', allowance=0)
unified('1/4-20 UNC-1B', .25, 20, [(.25, None), (.2175, .2248), (.196, .207)], external=False, cls='1B', series='UNC', allowance=0)
unified('1/4-20 UNC-2B', .25, 20, [(.25, None), (.2175, .2224), (.196, .207)], external=False, cls='2B', series='UNC', allowance=0)
unified('1/4-20 UNC-3B', .25, 20, [(.25, None), (.2175, .2211), (.196, .2067)], external=False, cls='3B', series='UNC', allowance=0)
unified('1/2-13 UNC-2A', .5, 13, [(.4876, .4985), (.4435, .4485)], external=True, cls='2A', series='UNC', allowance=.0015)
unified('1/2-13 UNC-3B', .5, 13, [(.5, None), (.45, .4548), (.417, .4284)], external=False, cls='3B', series='UNC', allowance=0)


def whitworth(designation, d, tpi, factor, *, external, cls):
    p = 1 / tpi
    h, T = 0.640327 * p, factor * (0.002 * d ** (1 / 3) + 0.003 * d ** 0.5 + 0.005 * p ** 0.5)
    d2, d1 = d - h, d - 2 * h
    mm = lambda *l: tuple(x * IN for x in l)
    basic = mm(d, d2, d1)
    if external:
        major, pitch = mm(d - T - 0.01 * p ** 0.5, d), mm(d2 - T, d2)
        minor = mm(d1 - T - 0.013 * p ** 0.5, d1)
        thread(designation, p * IN, 1, 27.5, 27.5, major, pitch, minor, basic, middle(*major), middle(*pitch),
               middle(*minor), external=True, cls=cls, at=MID, series='BSW', tpi=tpi, allowance=0,
               round_crest=True, round_root=True, stress=pi / 4 * ((basic[1] + basic[2]) / 2) ** 2)
    else:
        pitch, minor = mm(d2, d2 + T), mm(d1, d1 + 0.2 * p + 0.007)
        thread(designation, p * IN, 1, 27.5, 27.5, (d * IN, None), pitch, minor, basic, middle(*minor),
               middle(*pitch), d * IN, external=False, cls=cls, at=MID, series='BSW', tpi=tpi, allowance=0,
               round_crest=True, round_root=True, drill=minor[0] + (minor[1] - minor[0]) * 5 / 6)


whitworth('1/2-12 BSW-medium', .5, 12, 1, external=True, cls='medium')
whitworth('3/8-16 BSW-free', .375, 16, 1.5, external=True, cls='free')
whitworth('1/2-12 BSW-close internal', .5, 12, 2 / 3, external=False, cls='close')


def pipe(designation, d, tpi, d2, d1, *, external, cls, series, td2=None, td=None, td1=None, gauge=None, useful=None,
         tapered=False, drill=None):
    p = IN / tpi
    basic = (d, d2, d1)
    common = dict(external=external, cls=cls, series=series, tpi=tpi, round_crest=True, round_root=True)
    if series == 'G' and external:
        major, pitch = (d - td, d), (d2 - td2, d2)
        thread(designation, p, 1, 27.5, 27.5, major, pitch, None, basic, middle(*major), middle(*pitch), d1,
               at=MID, allowance=0, **common)
    elif series == 'G':
        pitch, minor = (d2, d2 + td2), (d1, d1 + td1)
        thread(designation, p, 1, 27.5, 27.5, (d, None), pitch, minor, basic, middle(*minor), middle(*pitch), d,
               at=MID, allowance=0, drill=middle(*minor), **common)
    else:
        extra = [] if not tapered else [('hand_tight_engagement', gauge), ('useful_length', useful),
                                        ('pitch_diameter_small_end', d2 - gauge / 16)]
        common.update(round_crest=not tapered, round_root=not tapered)
        row = len(rows)
        thread(designation, p, 1, 27.5, 27.5, None, None, None, basic, d if external else d1, d2,
               d1 if external else d, at='basic', taper=tapered, gauge=gauge if external else 0, extra=extra,
               drill=drill, **common)
        if tapered:  # flanks lean to the cone, and the arcs touch the leaning ones
            tl, tu = 1 / (1 / tan(radians(27.5)) + 1 / 32), 1 / (1 / tan(radians(27.5)) - 1 / 32)
            low, high = atan(tl), atan(tu)
            room = p / 2 / (tl + tu) - (d - d2) / 2
            r = room / (cos((low - high) / 2) / sin((low + high) / 2) - 1)
            rows[row:] = [x for x in rows[row:] if x[1] not in ('crest_flat', 'root_flat')]
            rows.extend((designation, key, r, None, None, '') for key in ('crest_rounding', 'root_rounding'))


pipe('G1/2 A', 20.955, 14, 19.793, 18.631, external=True, cls='A', series='G', td2=.142, td=.284)
pipe('G1/2 B', 20.955, 14, 19.793, 18.631, external=True, cls='B', series='G', td2=.284, td=.284)
pipe('G1', 33.249, 11, 31.770, 30.291, external=False, cls='none', series='G', td2=.180, td1=.640)
pipe('R1/2', 20.955, 14, 19.793, 18.631, external=True, cls='R', series='R', tapered=True, gauge=8.2, useful=13.2)
pipe('Rc3/4', 26.441, 14, 25.279, 24.117, external=False, cls='Rc', series='R', tapered=True, gauge=9.5, useful=14.5,
     drill=24.117 - 9.5 / 32)
pipe('Rp1/2', 20.955, 14, 19.793, 18.631, external=False, cls='Rp', series='R', drill=18.631)


def trapezoidal(designation, d, p, pitch, minor, major, *, external, starts=1, cls, series='Tr', ac, allowance=0):
    d3, D1 = d - p - 2 * ac, d - p
    if external:
        basic = (d, d - p / 2, d3)
        thread(designation, p, starts, 15, 15, major, pitch, minor, basic, middle(*major), middle(*pitch),
               middle(*minor), external=True, cls=cls, at=MID, series=series, allowance=allowance, crest_r=ac / 2,
               root_r=ac, power=True, stress=pi / 4 * ((basic[1] + d3) / 2) ** 2)
    else:
        D4 = d + 2 * ac
        thread(designation, p, starts, 15, 15, (D4, None), pitch, minor, (D4, d - p / 2, D1), middle(*minor),
               middle(*pitch), D4, external=False, cls=cls, at=MID, series=series, allowance=0, root_r=ac,
               power=True, drill=middle(*minor))


# ISO 2903 tables: Td2 355, es 125, Td 425; TD2 475; two starts x 1.12
trapezoidal('Tr40x7-7e', 40, 7, (36.020, 36.375), (rounded(32 - 1.25 * .355 - .125, 3), 32), (39.575, 40), external=True, cls='7e',
            ac=.5, allowance=.125)
trapezoidal('Tr40x7-7H', 40, 7, (36.5, 36.975), (33, 33.560), None, external=False, cls='7H', ac=.5)
trapezoidal('Tr40x14(P7)-7H', 40, 7, (36.5, 36.5 + .475 * 1.12), (33, 33.560), None, external=False, cls='7H', ac=.5,
            starts=2)


def buttress(designation, d, p, *, external):
    """DIN 513: H1 = 0.75 P, h3 = 0.86777 P, R = 0.12427 P, axial play 0.1 root P."""
    d2, d3, D1 = d - 0.75 * p, d - 2 * 0.86777 * p, d - 1.5 * p
    power = dict(power=True, cls='none', at='basic', series='S')
    if external:
        a = 0.1 * sqrt(p)
        thread(designation, p, 1, 30, 3, None, None, None, (d, d2, d3), d, d2, d3, external=True, root_r=0.12427 * p,
               allowance=a, groove_wider=a, stress=pi / 4 * ((d2 + d3) / 2) ** 2, **power)
    else:
        thread(designation, p, 1, 30, 3, None, None, None, (d, d2, D1), D1, d2, d, external=False, allowance=0,
               drill=D1, **power)


buttress('S40x7', 40, 7, external=True)
buttress('S40x7 internal', 40, 7, external=False)


def simple(designation, d, p, half, depth, *, clearance=0.0, external=True, series='none', rounded_form=False, tpi=None,
           power=False):
    """Depth from crest to root all of one form; an internal thread is moved out by its clearance."""
    D = d if external else d + 2 * clearance
    d2 = d - depth
    d1 = d - 2 * depth if external else d - 2 * depth + 2 * clearance
    basic = (D, d2, d1)
    thread(designation, p, 1, half, half, None, None, None, basic, D if external else d1, d2, d1 if external else D,
           external=external, cls='none', at='basic', series=series, round_crest=rounded_form, round_root=rounded_form,
           tpi=tpi, power=power, stress=pi / 4 * ((d2 + d1) / 2) ** 2 if external else None,
           drill=None if external else d1, wires=half > 6)


simple('Rd40x1/6', 40, IN / 6, 15, IN / 12, series='Rd', rounded_form=True, tpi=6)
simple('Rd40x1/6 internal', 40, IN / 6, 15, IN / 12, clearance=IN / 120, external=False, series='Rd', rounded_form=True,
       tpi=6)

simple('V60 1-18', IN, IN / 18, 30, 0.998 * IN / 36 / tan(pi / 6))
simple('SQ20x4', 20, 4, degrees(atan(0.0005 / 2)), 2, power=True)


def acme(designation, d, tpi, *, stub=False, external):
    """ASME B1.5 and B1.8, class 2G, inch: allowance 0.008 root D, tolerance 0.030 root p + 0.006 root D."""
    p = 1 / tpi
    h = 0.3 * p if stub else 0.5 * p
    T, es = 0.030 * p ** 0.5 + 0.006 * d ** 0.5, 0.008 * d ** 0.5
    mm = lambda *l: tuple(None if x is None else x * IN for x in l)
    name = 'STUB ACME' if stub else 'ACME'
    common = dict(cls='2G', at=MID, series=name, tpi=tpi, power=True, external=external)
    if external:
        root = d - 2 * h - 0.02
        major, pitch, minor = mm(d - 0.05 * p, d), mm(d - h - es - T, d - h - es), mm(root - 1.5 * T, root)
        basic = mm(d, d - h, root)
        thread(designation, p * IN, 1, 14.5, 14.5, major, pitch, minor, basic, middle(*major), middle(*pitch),
               middle(*minor), allowance=es * IN, stress=pi / 4 * ((basic[1] + basic[2]) / 2) ** 2, **common)
    else:
        basic = mm(d + 0.02, d - h, d - 2 * h)
        major, pitch, minor = mm(d + 0.02, d + 0.04), mm(d - h, d - h + T), mm(d - 2 * h, d - 2 * h + 0.05 * p)
        thread(designation, p * IN, 1, 14.5, 14.5, major, pitch, minor, basic, middle(*minor), middle(*pitch),
               basic[0], allowance=0, drill=middle(*minor), **common)


acme('1-5 ACME-2G', 1, 5, external=True)
acme('1-5 ACME-2G internal', 1, 5, external=False)
acme('1/2-10 STUB ACME-2G', .5, 10, stub=True, external=True)


def npt(designation, d, tpi, l1, *, external):
    p = 1 / tpi
    e0 = d - (0.05 * d + 1.1) * p
    e1 = e0 + l1 / 16
    e = e0 if external else e1
    basic = tuple(x * IN for x in (e + 0.8 * p, e, e - 0.8 * p))
    # flats of the form cut by the taper: from the flanks leaning to the cone
    lean = 1 / 32
    tl, tu = 1 / (sqrt(3) + lean), 1 / (sqrt(3) - lean)
    row = len(rows)
    thread(designation, p * IN, 1, 30, 30, None, None, None, basic, basic[0] if external else basic[2], basic[1],
           basic[2] if external else basic[0], external=external, cls='none', at='basic', series='NPT', tpi=tpi,
           taper=True, gauge=0,
           extra=[('hand_tight_engagement', l1 * IN), ('useful_length', (0.8 * d + 6.8) * p * IN),
                  ('pitch_diameter_small_end', e0 * IN), ('pitch_diameter_hand_tight', e1 * IN)],
           drill=None if external else basic[2] - l1 * IN / 32)
    for i in range(row, len(rows)):
        if rows[i][1] in ('crest_flat', 'root_flat'):
            rows[i] = rows[i][:2] + (p * IN * (0.5 - 0.4 * (tl + tu)),) + rows[i][3:]


npt('1/2-14 NPT', .84, 14, .32, external=True)
npt('1/2-14 NPT internal', .84, 14, .32, external=False)


def npsm(designation, p, e1, major, pitch, minor, es):
    """Printed limits of ASME B1.20.1, inch."""
    H = p * sqrt(3) / 2
    mm = lambda *l: tuple(x * IN for x in l)
    basic = mm(e1 + 0.75 * H, e1, e1 - 0.5 * H)
    tpi = 1 / p
    if es:
        major, pitch = mm(*major), mm(*pitch)
        thread(designation, p * IN, 1, 30, 30, major, pitch, None, basic, middle(*major), middle(*pitch),
               basic[1] - 0.625 * H * IN, external=True, cls='none', at=MID, series='NPSM', tpi=tpi, allowance=es * IN)
    else:
        pitch, minor = mm(*pitch), mm(*minor)
        thread(designation, p * IN, 1, 30, 30, (basic[0], None), pitch, minor, basic, middle(*minor), middle(*pitch),
               basic[0], external=False, cls='none', at=MID, series='NPSM', tpi=tpi, allowance=0, drill=middle(*minor))


npsm('1/2-14 NPSM', 1 / 14, .7784, (.813, .823), (.7718, .7769), None, .0015)
npsm('1/2-14 NPSM internal', 1 / 14, .7784, None, (.7784, .7851), (.747, .759), 0)

out = open(__file__.replace('.py', '.hpp'), 'w')
out.write('''// Every listed key of threads of every family by a second derivation. Written by thread_table.py; do not edit.
#pragma once

#include <cmath>

namespace whorl::test {

struct ThreadRow {
    const char* designation;
    const char* key;
    double value, min, max; // NAN: none
    const char* text;
};

// clang-format off
constexpr ThreadRow thread_table[]{
''')
number = lambda x: 'NAN' if x is None else repr(round(x, 7))
for r in rows:
    out.write('    {"%s", "%s", %s, %s, %s, "%s"},\n' % (r[0], r[1], number(r[2]), number(r[3]), number(r[4]), r[5]))
out.write('};\n// clang-format on\n\n} // namespace whorl::test\n')
