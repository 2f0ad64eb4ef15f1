// Involute splines, teeth that hold a shaft and its hub together: what is asked, and what follows from it.
//
//   SplineSpec --resolve_spline()--> ResolvedSpline (values with sources, the teeth as a ResolvedGear)
//
// DIN 5480-1 starts from a round reference diameter dB, α = 30°: the profile is shifted so that it comes out,
//
//   x1·m = (dB − m·z − 1.1·m)/2     da1 = dB − 0.2·m     da2 = dB − 2·m     s1 = e2 = m·π/2 + 2·x1·m·tan α
//   df = m·z + 2·x1·m ∓ 2·hfP,      hfP = 0.55·m broached, 0.60·m hobbed, 0.65·m shaped;  ρfP = 0.16·m
//
// with the shaft's x1 between −0.05 and 0.45. Its tolerances are a table that is not here: such splines are made at their
// basic size.
//
// ISO 4156-1 is not shifted; D = m·z, and by its angle and root
//
//                  shaft's tip DEE   root: hub +, shaft −   hs         ρ
//   30° flat       m·(z + 1)         m·(z ± 1.5)            0.6·m      0.2·m
//   30° fillet     m·(z + 1)         m·(z ± 1.8)            0.6·m      0.4·m
//   37.5° fillet   m·(z + 0.9)       m·(z ± 1.4)            0.55·m     0.3·m
//   45° fillet     m·(z + 0.8)       m·(z ± 1.2)            0.5·m      0.25·m
//
// and the hub's tip DII = DFE + 0.2·m, DFE = 2·√((D·cos α/2)² + (D·sin α/2 − hs/sin α)²) of a shaft without deviation.
// Space and tooth on the pitch circle, E and S, have limits by class and fundamental deviation es (clause 9), which also
// draws the shaft's diameters in by es/tan α:
//
//   i* = 0.45·∛D + 0.001·D up to 500 mm, i** = 0.45·∛(m·π/2) + 0.001·m·π/2 (µm)
//   T + λ = 10·i* + 40·i** in class 4, 16 and 64 in class 5, 25 and 100 in 6, 40 and 160 in 7
//   λ = 0.6·√(Fp² + Fα² + Fβ²), the pitch, profile and helix deviations of the class
//   Ev min = m·π/2, E min = Ev min + λ, E max = Ev min + (T + λ); Sv max = m·π/2 − es, S max = Sv max − λ, …
//
// es is that of ISO 286-1 on D: 16·D^0.44 for d, 11·D^0.41 for e, 5.5·D^0.41 for f, 2.5·D^0.34 for g (µm), 0 for h.
#pragma once

#include "form/tooth/gear.hpp"
#include "form/written.hpp"

#include <optional>
#include <string_view>

namespace whorl {

// How the root of the teeth is: by DIN 5480 what makes it says so.
enum class SplineRoot { flat, fillet, broached, hobbed, shaped };
constexpr int spline_root_count = 5;
std::string_view word(SplineRoot root);

struct SplineSpec {
    bool hub = false; // teeth in a bore
    Length module = mm(2);
    int teeth = 14;                           // 6 to 200
    std::optional<Length> reference_diameter; // dB of DIN 5480; none: ISO 4156
    Angle pressure_angle = deg(30);           // 30°, of ISO 4156 also 37.5° and 45°
    std::optional<SplineRoot> root;           // none: the usual one
    std::string tolerance_class;              // "5f" of a shaft, "5H" of a hub; empty: the basic size
    Length thinning =
        mm(0); // off each tooth beside that, up to 0.2 modules: play for printing, a deviation typed
    friend bool operator==(const SplineSpec&, const SplineSpec&) = default;
};

// Space width of a hub, tooth thickness of a shaft, on the pitch circle: ISO 4156's limits, mm.
struct SplineLimits {
    double effective = 0;       // Ev min, Sv max: what a perfect counterpart of the same length would fill
    double least = 0, most = 0; // E or S as measured
    double variation = 0;       // λ: what pitch, profile and helix take
    double deviation = 0;       // es of the shaft, positive
    double middle() const { return (least + most) / 2; }
};

struct ResolvedSpline {
    SplineSpec spec;
    ResolvedGear gear; // at the middle of its limits, or its basic size
    SplineRoot root = SplineRoot::flat;
    double shift = 0;                   // x1, of the shaft × module; its hub's is −x1
    double width = 0;                   // basic tooth thickness or space width on the pitch circle, mm
    std::optional<SplineLimits> limits; // with a class of ISO 4156
    std::vector<ResolvedValue> values;
};

// `length` of the teeth, for the helix deviation. Throws InputError for a value outside its range, or a class or root
// that the standard hasn't.
ResolvedSpline resolve_spline(const SplineSpec& spec, Length length);

// The tooth count that DIN 5480 has for a reference diameter: whose x1 lies in its range, the even one where two do; none
// below 6 teeth.
std::optional<int> usual_spline_teeth(Length reference_diameter, Length module);
constexpr double least_spline_shift = -0.05, most_spline_shift = 0.45;

// The other part of it, with a usual class where this one has one.
SplineSpec counterpart(const SplineSpec& spec);

// Modules of DIN 5480 (dB) or of ISO 4156, ascending.
const std::vector<double>& spline_modules(bool din);

// Reading and writing.
//
//   spline W 30x2x14 x 25           spline N 30x2x14 x 25 shaped       DIN 5480 W 120 x 3 x 38 x 8f x 60
//   spline EXT 24z x 2.5m x 30P x 5f x 40                              spline INT 24z x 2.5m x 30R x 5H
//
// W or EXT is the shaft, N or INT the hub; reference diameter x module x teeth by DIN 5480, teeth, module and angle by
// ISO 4156 with P for a flat root and R for a fillet; a class; `thin 0.05` off each tooth; the length last.
using SplineDesignation = Written<SplineSpec>;
bool is_spline(std::string_view text);
SplineDesignation parse_spline(std::string_view text); // throws InputError with the place
std::string write_spline(const SplineSpec& spec, std::optional<Length> length = {});

} // namespace whorl
