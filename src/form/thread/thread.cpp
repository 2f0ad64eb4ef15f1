#include "form/thread/thread.hpp"

#include "form/thread/family.hpp"
#include "form/thread/thread_values.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

using std::numbers::pi;

// The diameter of the solid, for a limit that has both ends.
double modelled(const Limits& l, double basic, const ThreadSpec& spec, bool more_material_is_larger) {
    const ModelledAt at = spec.modelled_at;
    if (at == ModelledAt::basic) return basic;
    const double low = l.min.value_or(basic), high = l.max.value_or(low);
    if (at == ModelledAt::middle) return (low + high) / 2;
    if (at == ModelledAt::chosen)
        return more_material_is_larger ? low + spec.material * (high - low)
                                       : high - spec.material * (high - low);
    return (at == ModelledAt::maximum_material) == more_material_is_larger ? high : low;
}

StandardStatus status_of(const ThreadSpec& s) {
    StandardStatus out;
    const auto& series = listed_threads(s.family);
    if (series.empty()) return out;
    if (const auto* listed = standard::find_listed(series, s.diameter, s.pitch)) {
        out.listed = true;
        out.series = listed->series;
        out.source = listed->source;
    } else {
        out.nearest = standard::nearest_listed(series, s.diameter, s.pitch);
    }
    return out;
}

void require_sensible(const ThreadSpec& s) {
    const auto outside = [](Length l, double low, double high) {
        return !(in_mm(l) >= low && in_mm(l) <= high);
    };
    if (outside(s.diameter, 0.1, 2000))
        throw InputError("A thread diameter of " + outside_text(in_mm(s.diameter), 0.1, 2000) +
                         " mm can't be made; it must be between 0.1 and 2000 mm.");
    if (outside(s.pitch, 0.01, 500))
        throw InputError("A pitch of " + outside_text(in_mm(s.pitch), 0.01, 500) +
                         " mm can't be made; it must be between 0.01 and 500 mm.");
    if (s.starts < 1 || s.starts > 8)
        throw InputError("A thread has 1 to 8 starts, not " + std::to_string(s.starts) + ".");
    if (s.depth && outside(*s.depth, 1e-4, 1000))
        throw InputError("A thread depth must be between 0.0001 and 1000 mm.");
    if (!(s.material >= 0 && s.material <= 1))
        throw InputError("A chosen point in the band lies between 0 and 100 %.");
    if (s.taper && has_own_taper(s))
        throw InputError("This thread has its taper by its standard, 1:16; another can't be asked for.");
    if (s.taper && !(std::abs(*s.taper) <= 1.0 / 6 + 1e-12))
        throw InputError("A taper is at most 1:3 on the diameter, a cone angle of 18.9°.");
    if (outside(s.allowance, -5, 5)) throw InputError("A printing allowance is between −5 and 5 mm.");
    if (s.root_flat && outside(*s.root_flat, 0, 500))
        throw InputError("A root flat must be between 0 and 500 mm.");
}

// The radius of an arc that touches two flanks and lies `room` above the point where they would meet.
double full_rounding(double room, double lower, double upper) {
    return room / (std::cos((lower - upper) / 2) / std::sin((lower + upper) / 2) - 1);
}

// The section at its modelled radii. All heights are measured from the pitch line, outwards from the
// material.
ThreadSection section_of(const ThreadSpec& spec, const FamilyProfile& f, double crest, double pitch_radius,
                         double root) {
    const double p = in_mm(spec.pitch), sign = spec.side == Side::external ? 1 : -1;
    // an even layer off the surface: crest and root sink by it, flanks by its slant
    const double layer = in_mm(spec.allowance);
    const double mean_angle = (f.lower_angle + f.upper_angle) / 2;
    crest -= sign * layer;
    root -= sign * layer;
    pitch_radius -= sign * layer / std::sin(mean_angle);

    ThreadSection s;
    s.pitch = p;
    s.starts = spec.starts;
    s.hand = spec.hand;
    s.side = spec.side;
    s.flank_half_angle = f.lower_angle;
    s.other_half_angle = f.upper_angle;
    s.pitch_radius = pitch_radius;
    s.crest_radius = crest;
    s.root_radius = root;
    s.taper = f.taper;
    s.start_angle = in_rad(spec.start_angle);

    // flanks in a section that is sheared until the taper is level
    const double lean = sign * f.taper;
    const double tl = 1 / (1 / std::tan(f.lower_angle) + lean), tu = 1 / (1 / std::tan(f.upper_angle) - lean);
    const double leaned_low = std::atan(tl), leaned_high = std::atan(tu);
    const double yc = sign * (crest - pitch_radius), yr = sign * (root - pitch_radius); // yr < 0
    const double half = f.pitch_line_groove / 2;
    double root_low = -half - yr * tl, root_high = half + yr * tu;
    const bool own_flat = spec.root_flat.has_value();
    bool round_root = f.round_root && !own_flat;
    const double least = p / 1000;
    double width = root_high - root_low;
    if (own_flat || (!round_root && width < p / 100)) {
        // a flat of its own, or a groove deeper than the triangle, which keeps a narrow root: the groove
        // widens
        const double wanted = own_flat ? in_mm(*spec.root_flat) : p / 100, more = (wanted - width) / 2;
        // the sharp V has no flat but the least there is
        const double grown = f.sharp && !own_flat ? std::max(0.0, (least - width) / 2) : more;
        root_low -= grown;
        root_high += grown;
        width = root_high - root_low;
    }
    const double crest_low = root_low - (yc - yr) * tl, crest_high = root_high + (yc - yr) * tu; // A and B
    s.root_flat = width;
    s.crest_flat = p - (crest_high - crest_low);

    const double apex =
        (crest_low + (crest_high - crest_low) * tl / (tl + tu)); // z of the flanks' meeting point
    const double apex_y = yc - (crest_high - crest_low) / (tl + tu);
    double root_rounding = f.root_rounding, crest_rounding = f.crest_rounding;
    if (own_flat) root_rounding = 0;
    if (round_root) {
        const double r = full_rounding(yr - apex_y, leaned_low, leaned_high);
        if (r > p / 1e4) {
            root_rounding = r;
            s.root_flat = 0;
        } else {
            round_root = false;
        }
    }
    // the sharp ridge between two grooves, one flank on either side of the crest
    const double ridge_y = yc + s.crest_flat / (tl + tu), ridge = crest_high + (ridge_y - yc) * tu;
    bool round_crest = f.round_crest;
    if (round_crest) {
        crest_rounding = full_rounding(ridge_y - yc, leaned_low, leaned_high);
        if (crest_rounding > p / 1e4)
            s.crest_flat = 1e-3 * p;
        else
            round_crest = false, crest_rounding = 0;
    }
    // arcs that would reach past each other, or past the crest, on a depth of one's own: flats in their place
    const auto reach = [&](double r) { // from the flanks' meeting point to where the arc leaves them
        return r / std::sin((leaned_low + leaned_high) / 2) - r * std::sin((leaned_low + leaned_high) / 2);
    };
    if (const double top = round_crest ? ridge_y - reach(crest_rounding) : yc,
        bottom = round_root ? apex_y + reach(root_rounding) : yr;
        (round_root || round_crest) && bottom >= top) {
        if (round_root) s.root_flat = width;
        if (round_crest) s.crest_flat = p - (crest_high - crest_low);
        round_root = round_crest = false;
        root_rounding = crest_rounding = 0;
    }
    const double inner = std::min(crest, root);
    const bool possible = s.depth() > 0 && inner > 0 && s.crest_flat >= 0.999 * least &&
                          (round_root || s.root_flat >= 0.999 * least);
    if (!possible) return s;

    const double base = sign * pitch_radius;
    // a rounding that does not fit beside its neighbour is made smaller until it does
    for (int attempt = 0; attempt < 40; ++attempt) {
        std::vector<ProfileCorner> corners;
        if (round_root) {
            corners.push_back({apex, base + apex_y, root_rounding});
        } else {
            corners.push_back({root_low, base + yr, root_rounding});
            corners.push_back({root_high, base + yr, root_rounding});
        }
        if (round_crest) {
            corners.push_back({ridge, base + ridge_y, crest_rounding});
        } else {
            corners.push_back({crest_high, base + yc, crest_rounding});
            corners.push_back({crest_low + p, base + yc, crest_rounding});
        }
        s.groove = groove_of(corners, p, spec.side);
        if (!s.groove.empty()) break;
        root_rounding *= 0.9;
        crest_rounding *= 0.9;
    }
    if (!s.groove.empty() && !round_crest) s.crest_flat = p - (s.groove.back().z - s.groove.front().z);
    if (!s.groove.empty() && !round_root && root_rounding > 0) s.root_flat = std::max(0.0, s.root_flat);
    return s;
}

// A section of one's own, scaled to the pitch.
ThreadSection own_section_at(const ThreadSpec& spec, const FamilyProfile& f) {
    const double p = in_mm(spec.pitch), sign = spec.side == Side::external ? 1 : -1,
                 layer = in_mm(spec.allowance);
    const OwnShape shape = shape_of(spec.own_section);
    ThreadSection s;
    s.pitch = p;
    s.starts = spec.starts;
    s.hand = spec.hand;
    s.side = spec.side;
    s.start_angle = in_rad(spec.start_angle);
    s.taper = f.taper;
    s.flank_half_angle = f.lower_angle;
    s.other_half_angle = f.upper_angle;
    const double outer = f.basic_major / 2 - sign * layer, inner = f.basic_minor / 2 - sign * layer;
    s.crest_radius = spec.side == Side::external ? outer : inner;
    s.root_radius = spec.side == Side::external ? inner : outer;
    s.pitch_radius =
        f.basic_pitch / 2 - sign * layer / std::max(0.1, std::sin((f.lower_angle + f.upper_angle) / 2));
    s.crest_flat = p * (spec.side == Side::external ? shape.crest_flat : shape.root_flat);
    s.root_flat = p * (spec.side == Side::external ? shape.root_flat : shape.crest_flat);
    if (inner <= 0) return s;
    s.groove = groove_of(spec.own_section, p, f.basic_major / 2, spec.side, layer);
    if (s.groove.empty()) return s;
    // the layer moves level pieces only: what is at the crest now is read back
    s.crest_flat = p - (s.groove.back().z - s.groove.front().z);
    s.crest_radius = s.groove.front().r;
    double root = s.crest_radius;
    for (const GroovePoint& g : s.groove)
        if (sign * g.r < sign * root) root = g.r;
    s.root_radius = root;
    s.root_flat = 0;
    for (std::size_t i = 0; i + 1 < s.groove.size(); ++i)
        if (s.groove[i].arc_radius <= 0 && std::abs(s.groove[i].r - root) < 1e-6 * p &&
            std::abs(s.groove[i + 1].r - root) < 1e-6 * p)
            s.root_flat = s.groove[i + 1].z - s.groove[i].z;
    return s;
}

} // namespace

std::string taper_text(double taper) {
    return "1:" + number_text(1 / (2 * std::abs(taper)), 4);
}

bool has_own_taper(const ThreadSpec& s) {
    const FamilyPage& page = page_of(s.family);
    return page.own_taper && page.own_taper(s);
}

double threads_per_inch(Length pitch) {
    return 1 / in_inch(pitch);
}

const char* word(Hand hand) {
    return hand == Hand::left ? "left" : "right";
}
const char* word(ModelledAt at) {
    switch (at) {
    case ModelledAt::basic:
        return "basic";
    case ModelledAt::maximum_material:
        return "maximum material";
    case ModelledAt::middle:
        return "middle of limits";
    case ModelledAt::minimum_material:
        return "minimum material";
    case ModelledAt::chosen:
        return "chosen point";
    }
    return "";
}
std::string modelled_text(const ThreadSpec& s) {
    if (s.modelled_at != ModelledAt::chosen) return word(s.modelled_at);
    return number_text(100 * s.material, 2) + " % of the way to maximum material";
}

namespace {
void require_no_class(const FamilyPage& page, const ThreadSpec& s) {
    if (page.classless && !s.tolerance_class.empty())
        throw InputError(std::string("A ") + page.word + " thread has no class here; leave '" +
                             s.tolerance_class + "' away.",
                         0, s.tolerance_class.size());
}
} // namespace

ResolvedThread resolve_thread(const ThreadSpec& asked) {
    require_sensible(asked);
    ResolvedThread r;
    r.spec = asked;
    if (const auto side = side_of_class(asked.family, asked.tolerance_class)) r.spec.side = *side;
    const ThreadSpec& spec = r.spec;
    r.side = spec.side;
    r.status = status_of(spec);
    const bool external = r.side == Side::external;
    const FamilyPage& page = page_of(spec.family);
    require_no_class(page, spec);
    FamilyProfile d = page.profile(spec, r.status);
    if (spec.taper) d.taper = *spec.taper;
    const double p = in_mm(spec.pitch);
    const auto limited = [](const Limits& l) { return l.min || l.max; };
    // without limits there is no band to choose from
    if (!limited(d.major) && !limited(d.pitch) && !limited(d.minor)) r.spec.modelled_at = ModelledAt::basic;

    // The section, at the size it is modelled. For internal threads the crest is the minor diameter.
    const double pitch_radius = modelled(d.pitch, d.basic_pitch, spec, external) / 2;
    double crest, root;
    if (external) {
        crest = modelled(d.major, d.basic_major, spec, true) / 2;
        root = modelled(d.minor, d.basic_root, spec, true) / 2;
    } else {
        crest = modelled(d.minor, d.basic_minor, spec, false) / 2;
        root = (d.major.min.value_or(d.basic_root)) / 2;
    }
    if (spec.depth) root = crest - (external ? 1 : -1) * in_mm(*spec.depth);
    r.section = spec.family == ThreadFamily::own ? own_section_at(spec, d)
                                                 : section_of(spec, d, crest, pitch_radius, root);
    r.gauge_distance = mm(d.gauge_distance);

    const double lead = spec.starts * p;
    // a pitch so coarse that the pitch line lies beyond the axis has no lead angle; a right angle stands for
    // it
    r.lead_angle = rad(d.basic_pitch > 0 ? std::atan(lead / (pi * d.basic_pitch)) : pi / 2);

    r.values = thread_values(r, d);
    return r;
}

ThreadSpec counterpart(const ThreadSpec& s) {
    ThreadSpec out = s;
    out.side = s.side == Side::external ? Side::internal : Side::external;
    const FamilyPage& page = page_of(s.family);
    out.tolerance_class =
        page.counterpart_class ? page.counterpart_class(s, out.side) : usual_class(s.family, out.side);
    out.depth.reset();
    out.root_flat.reset();
    out.rounded_root = false;
    return out;
}

} // namespace whorl
