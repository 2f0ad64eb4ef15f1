#include "pair/gear_mesh.hpp"

#include "pair/tip_path.hpp"
#include "pair/tooth_pair.hpp"

#include "form/tooth/measure.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace whorl {
namespace {

std::string length(double v) {
    return length_words(v);
}

class Meshing {
public:
    Meshing(const ResolvedGear& a, const ResolvedGear& b, std::optional<Length> centre, double width)
        : a_(a), b_(b), width_(width) {
        m_.internal = b.spec.internal;
        if (!alike()) return;
        m_.ratio = static_cast<double>(b.spec.teeth) / a.spec.teeth;
        if (!place(centre)) return;
        contact();
        m_.meshes = true;
        interference();
        list();
    }
    GearMesh take() { return std::move(m_); }

private:
    void wrong(MeshFault what, bool stops, std::string sentence, double value, double limit) {
        m_.mistakes.push_back({what, stops, std::move(sentence), value, limit});
    }

    bool alike() {
        const GearSpec &s = a_.spec, &t = b_.spec;
        if (s.internal && t.internal)
            wrong(MeshFault::both_internal, true,
                  "Both gears are internal: one of a pair must have its teeth outside.", 0, 0);
        compare_teeth(m_.mistakes, s, t, m_.internal);
        if (m_.internal && !s.internal && b_.spec.teeth <= a_.spec.teeth)
            wrong(MeshFault::internal_tips, true,
                  "The ring has " + std::to_string(b_.spec.teeth) + " teeth and the pinion " +
                      std::to_string(a_.spec.teeth) + ": the pinion does not fit inside.",
                  b_.spec.teeth, a_.spec.teeth);
        return m_.mistakes.empty() && a_.trouble == ToothTrouble::none && b_.trouble == ToothTrouble::none;
    }

    double sum(double first, double second) const { return m_.internal ? second - first : first + second; }

    bool place(std::optional<Length> centre) {
        const double alpha = a_.transverse_pressure_angle, bases = sum(a_.base_radius, b_.base_radius);
        const double shifts = a_.spec.profile_shift + b_.spec.profile_shift;
        const double inv = involute(alpha) + (m_.internal ? -1 : 1) * 2 * shifts *
                                                 std::tan(in_rad(a_.spec.pressure_angle)) /
                                                 sum(a_.spec.teeth, b_.spec.teeth);
        if (centre) {
            m_.centre = in_mm(*centre);
        } else {
            if (inv <= 0) {
                wrong(MeshFault::centre, true,
                      "The profile shifts of these gears together are too negative: no centre distance "
                      "brings their "
                      "flanks into contact.",
                      shifts, 0);
                return false;
            }
            m_.centre = bases / std::cos(inverse_involute(inv));
        }
        if (m_.centre <= bases) {
            wrong(MeshFault::centre, true,
                  "At a centre distance of " + length(m_.centre) +
                      " there is no line of action; it must be more than " + length(bases) +
                      ", the base circles' distance.",
                  m_.centre, bases);
            return false;
        }
        m_.working_angle = std::acos(bases / m_.centre);
        m_.first_radius = a_.base_radius / std::cos(m_.working_angle);
        m_.second_radius = b_.base_radius / std::cos(m_.working_angle);
        m_.backlash = 2 * pi * m_.first_radius / a_.spec.teeth - tooth_thickness_at(a_, m_.first_radius) -
                      tooth_thickness_at(b_, m_.second_radius);
        m_.first_string = a_.base_radius * std::tan(m_.working_angle);
        m_.second_string = b_.base_radius * std::tan(m_.working_angle);
        m_.second_phase = m_.internal ? -b_.pitch_angle() / 2 : pi - b_.pitch_angle() / 2;
        if (centre) {
            const double both = (m_.internal ? -1 : 1) * (involute(m_.working_angle) - involute(alpha)) *
                                sum(a_.spec.teeth, b_.spec.teeth) / 2 /
                                std::tan(in_rad(a_.spec.pressure_angle));
            m_.closing_shift = both - a_.spec.profile_shift;
            judge_looseness(m_.mistakes, m_, in_mm(a_.spec.thinning + b_.spec.thinning),
                            in_mm(a_.spec.module), "the second gear");
        }
        if (m_.backlash < -1e-6)
            wrong(MeshFault::centre, true,
                  "The teeth overlap by " + length(-m_.backlash) +
                      " on the pitch circles at a centre distance of " + length(m_.centre) +
                      "; without backlash it is " +
                      length(inv > 0 ? bases / std::cos(inverse_involute(inv)) : 0) + ".",
                  m_.centre, inv > 0 ? bases / std::cos(inverse_involute(inv)) : 0);
        return true;
    }

    // by the involute, also where the outline has a chamfer there
    static double tooth_thickness_at(const ResolvedGear& g, double radius) {
        return 2 * radius * (pi / g.spec.teeth - involute_half_space(g, radius));
    }

    void contact() {
        const double tan_w = std::tan(m_.working_angle);
        m_.base_pitch = a_.pitch_angle() * a_.base_radius;
        m_.contact_to = string_at(a_, flank_tip(a_)) - a_.base_radius * tan_w;
        const double second = string_at(b_, flank_tip(b_)) - b_.base_radius * tan_w;
        m_.contact_from = m_.internal ? second : -second;
        // tips that pass an undercut foot have nothing to touch there
        first_clear_ = passes_undercut(a_, string_at(a_, a_.form_radius) - m_.first_string - m_.contact_from,
                                       b_, Host::first);
        if (first_clear_) m_.contact_from = string_at(a_, a_.form_radius) - m_.first_string;
        if (!m_.internal) {
            const double end = m_.second_string - string_at(b_, b_.form_radius);
            second_clear_ = passes_undercut(b_, m_.contact_to - end, a_, Host::second);
            if (second_clear_) m_.contact_to = end;
        }
        m_.contact_ratio = (m_.contact_to - m_.contact_from) / m_.base_pitch;
        m_.overlap_ratio = width_ * std::sin(in_rad(a_.spec.helix_angle)) / (pi * in_mm(a_.spec.module));
    }

    // `short_by`: how far the other's tips reach beyond this gear's form circle, along the line of action
    bool passes_undercut(const ResolvedGear& host, double short_by, const ResolvedGear& guest,
                         Host which) const {
        return host.undercut && short_by > 0 &&
               tip_overlap(host, guest, m_, which) < 1e-4 * in_mm(host.spec.module);
    }

    void interference() {
        const double m = in_mm(a_.spec.module), tan_w = std::tan(m_.working_angle);
        // how far the flanks go down, as strings
        const double first_low = a_.base_radius * tan_w + m_.contact_from,
                     first_form = string_at(a_, a_.form_radius);
        if (!first_clear_ && first_low < first_form - 1e-4 * m)
            wrong(MeshFault::root_contact, true,
                  "The second gear's tips reach below the first one's involute, into its root (form Ø " +
                      length(2 * a_.form_radius) +
                      "): shorten those tips or give the first gear a larger profile shift.",
                  2 * std::hypot(a_.base_radius, std::max(0.0, first_low)), 2 * a_.form_radius);
        const double end =
            m_.internal ? b_.base_radius * tan_w + m_.contact_to : b_.base_radius * tan_w - m_.contact_to;
        const double second_form = string_at(b_, b_.form_radius);
        if (!second_clear_ && (m_.internal ? end > second_form + 1e-4 * m : end < second_form - 1e-4 * m))
            wrong(MeshFault::root_contact, true,
                  "The first gear's tips reach past the second one's involute, into its root (form Ø " +
                      length(2 * b_.form_radius) +
                      "): shorten those tips or give the second gear a larger profile shift.",
                  2 * std::hypot(b_.base_radius, std::max(0.0, end)), 2 * b_.form_radius);
        const double at_second_root = m_.internal ? b_.root_radius - m_.centre - a_.tip_radius
                                                  : m_.centre - a_.tip_radius - b_.root_radius,
                     at_first_root = m_.internal ? b_.tip_radius - m_.centre - a_.root_radius
                                                 : m_.centre - b_.tip_radius - a_.root_radius;
        m_.tip_clearance = std::min(at_first_root, at_second_root);
        judge_clearance(m_.mistakes, m_.tip_clearance, m);
        if (m_.internal && ring_tips_foul())
            wrong(MeshFault::internal_tips, true,
                  "Tips of pinion and ring foul each other beside the mesh: " +
                      std::to_string(b_.spec.teeth - a_.spec.teeth) +
                      " teeth of difference are too few for this profile; shorten the tips or take more.",
                  b_.spec.teeth - a_.spec.teeth, 0);
        judge_contact_ratio(m_.mistakes, m_.contact_ratio + m_.overlap_ratio);
    }

    // The pinion's tip corners followed round, in the ring's own frame: inside its tip circle nothing is in
    // the way, beyond it they must stay in a space.
    bool ring_tips_foul() const {
        const double tip_half = pi / a_.spec.teeth - space_half_angle_at(a_, flank_tip(a_) - 1e-9);
        for (int i = 1; i < 2000; ++i) {
            // the tooth's middle, turned from the line of centres by up to half a turn
            const double turn = pi * i / 2000, corner = turn - tip_half;
            const double x = a_.tip_radius * std::cos(corner) + m_.centre,
                         y = a_.tip_radius * std::sin(corner);
            const double r = std::hypot(x, y);
            if (r < b_.tip_radius || r > b_.root_radius) continue;
            // the space this tooth sits in has turned with it
            const double space = turn * a_.spec.teeth / b_.spec.teeth;
            if (std::abs(std::atan2(y, x) - space) > space_half_angle_at(b_, r) + 1e-7) return true;
            const double other = turn + tip_half;
            const double x2 = a_.tip_radius * std::cos(other) + m_.centre,
                         y2 = a_.tip_radius * std::sin(other);
            const double r2 = std::hypot(x2, y2);
            if (r2 > b_.tip_radius && r2 < b_.root_radius &&
                std::abs(std::atan2(y2, x2) - space) > space_half_angle_at(b_, r2) + 1e-7)
                return true;
        }
        return false;
    }

    void list() {
        auto& v = m_.values;
        const auto put = [&](const char* key, const char* label, ValueKind kind, double value,
                             std::string source) {
            v.push_back(
                {.key = key, .label = label, .kind = kind, .value = value, .source = std::move(source)});
        };
        put("centre_distance", "Centre distance", ValueKind::length, m_.centre,
            m_.closing_shift
                ? "as asked; the working angle follows: cos αw = (rb2 ± rb1)/a"
                : "a = (rb2 ± rb1)/cos αw, inv αw = inv αt + 2·tan αn·(x1 + x2)/(z1 + z2), ISO 21771");
        put("ratio", "Ratio", ValueKind::number, m_.ratio, "z2/z1");
        if (m_.closing_shift)
            put("closing_shift", "Shift for it", ValueKind::number, *m_.closing_shift,
                "of the second: x2 = (inv αw − inv αt)·(z1 + z2)/(2·tan αn) − x1");
        put("working_pressure_angle", "Working angle", ValueKind::angle, m_.working_angle,
            "cos αw = (rb2 ± rb1)/a");
        put("first_working_diameter", "Working Ø, first", ValueKind::length, 2 * m_.first_radius,
            "dw = db/cos αw");
        put("second_working_diameter", "Working Ø, second", ValueKind::length, 2 * m_.second_radius,
            "dw = db/cos αw");
        list_running(m_, a_.spec, "pw − sw1 − sw2, on the pitch circles", first_clear_ || second_clear_,
                     "first", "second");
    }

    const ResolvedGear &a_, &b_;
    double width_;
    bool first_clear_ = false, second_clear_ = false; // undercut, and passed by the other's tips
    GearMesh m_;
};

} // namespace

double GearMesh::second_turn(double first) const {
    return second_phase + (internal ? first : -first) / ratio;
}

bool GearMesh::runs() const {
    return meshes &&
           std::none_of(mistakes.begin(), mistakes.end(), [](const MeshMistake& m) { return m.stops; });
}

GearMesh mesh_of(const ResolvedGear& first, const ResolvedGear& second, std::optional<Length> centre,
                 double width) {
    return Meshing(first, second, centre, width).take();
}

const char* key_word(MeshFault what) {
    constexpr const char* words[]{"both_internal", "module",        "pressure_angle", "helix",
                                  "hand",          "centre",        "loose",          "root_contact",
                                  "tip_clearance", "internal_tips", "contact_ratio",  "internal_rack"};
    return words[static_cast<int>(what)];
}

std::vector<double> contact_places(const ResolvedGear& first, const GearMesh& m, double turned) {
    // a flank's contact moves along by the base circle's arc; at no turn it stands half a space before the
    // pitch point
    const double start = first.base_radius * (turned - involute_half_space(first, m.first_radius));
    std::vector<double> out;
    for (double s = start - std::ceil((start - m.contact_from) / m.base_pitch) * m.base_pitch;
         s <= m.contact_to + 1e-9; s += m.base_pitch)
        if (s >= m.contact_from - 1e-9) out.push_back(s);
    return out;
}

Sliding sliding_at(const GearMesh& m, double place) {
    // rolling speeds are the radii of curvature times the turning; their difference slides. A rack's flank
    // goes along itself at the same speed everywhere
    const double first = m.first_string + place;
    const double rolled =
        m.rack ? m.first_string : (m.second_string + (m.internal ? place : -place)) / m.ratio;
    return {first > 1e-9 ? 1 - rolled / first : -1e9, rolled > 1e-9 ? 1 - first / rolled : -1e9};
}

std::vector<RatioChoice> teeth_for_ratio(double ratio, double tolerance, int least, int largest,
                                         std::size_t most) {
    std::vector<RatioChoice> out;
    for (int z1 = least; z1 <= largest; ++z1) {
        const double wanted = ratio * z1;
        const int from = std::max(least, static_cast<int>(std::ceil(wanted * (1 - tolerance) - 1e-9))),
                  to = std::min(largest, static_cast<int>(std::floor(wanted * (1 + tolerance) + 1e-9)));
        for (int z2 = from; z2 <= to; ++z2)
            out.push_back({z1, z2, z2 / wanted - 1, std::gcd(z1, z2) == 1});
    }
    std::stable_sort(out.begin(), out.end(), [](const RatioChoice& a, const RatioChoice& b) {
        if (a.hunting != b.hunting) return a.hunting;
        if (std::abs(std::abs(a.error) - std::abs(b.error)) > 1e-9)
            return std::abs(a.error) < std::abs(b.error);
        return a.first < b.first;
    });
    if (out.size() > most) out.resize(most);
    return out;
}

} // namespace whorl
