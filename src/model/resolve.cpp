#include "model/resolve.hpp"

#include "standard/keyway.hpp"

#include <sstream>

#include "model/tooth_edit.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

constexpr double shortest = 0.01, longest = 10000; // mm

// Runs `work` and says where it was if it fails.
template<class Work>
auto at(const std::string& place, Work work) {
    try {
        return work();
    } catch (const JobError&) {
        throw;
    } catch (const InputError& e) {
        throw JobError(e, place);
    }
}

Length length_in_range(const Number& n, const Names& names, const char* what, double least = shortest) {
    const Length l = resolve_length(n, names);
    if (!(in_mm(l) >= least && in_mm(l) <= longest))
        throw InputError(std::string("The ") + what + " is " + number_text(in_mm(l), 4) +
                             " mm; it must be between " + number_text(least, 4) + " and " +
                             number_text(longest, 0) + " mm.",
                         0, n.text.size());
    return l;
}

// Just below the thread's root, down to a round twentieth of a millimetre, so that the thread starts cleanly.
// `inset`: how far before the zone's end the chamfer's small circle lies.
Length default_chamfer(const ResolvedZone& z, bool far, double inset = 0) {
    const double outer = 2 * in_mm(z.outer_radius());
    // what a taper makes of the thread's radii at this end
    const Length plane = far ? z.end() - mm(inset) : z.start + mm(inset);
    const double gain = z.thread ? z.taper * in_mm(plane - z.taper_from) : 0;
    if (z.in_bore()) { // a countersink a twentieth wider than the thread, or half a millimetre on a plain
                       // bore
        const double wide =
            z.thread ? 2 * (std::max(z.thread->section.crest_radius, z.thread->section.root_radius) + gain)
                     : 2 * in_mm(z.largest_radius());
        return mm(z.thread ? std::ceil((1.02 * wide + 0.05) / 0.05) * 0.05
                           : wide + std::min(1.0, 0.1 * wide));
    }
    if (z.outline !=
        Outline::round) // fasteners' corners: 0.95 of the width across flats, ISO 4017 and its kin
        return mm(std::round(0.95 * in_mm(z.diameter) * 20) / 20);
    if (z.thread) {
        const double root =
            2 * (std::min(z.thread->section.crest_radius, z.thread->section.root_radius) + gain);
        const double round = std::floor((root - 0.02) / 0.05) * 0.05;
        return mm(round > 0.1 ? round : std::max(root * 0.9, 0.02));
    }
    return mm(std::max(outer - 2, outer * 0.8));
}

// A flat a hundredth as wide as the zone stays where a cone or a dome comes to the axis.
Length tip_flat(const ResolvedZone& z) {
    return mm(std::max(0.02, 0.01 * in_mm(z.diameter)));
}

// ISO 4753, RN: a dome of about 1.4 d. The dome itself stands on the circle below the thread's root, since
// its trace in the flanks has no closed form; between root and crest the cone that touches it there goes on.
ResolvedEnd rounded_end(const EndTreatment& e, const ResolvedZone& z, const Names& names, bool far) {
    if (z.in_bore() || z.outline != Outline::round)
        throw InputError("Only the outside of a round zone can have a rounded end; choose flat or chamfer.");
    ResolvedEnd r;
    r.follows = e.radius.text.empty();
    const double d = in_mm(far ? z.far_diameter : z.diameter);
    const double radius =
        r.follows ? 1.4 * d : in_mm(length_in_range(e.radius, names, "radius of the rounded end"));
    const double widest = z.thread ? in_mm(z.largest_radius()) : d / 2;
    if (!(radius >= widest - 1e-9 && radius <= 4 * d))
        throw InputError("The radius of a rounded end is " + number_text(radius, 4) +
                             " mm; here it must be between " + number_text(widest, 3) +
                             " mm, half the diameter, and " + number_text(4 * d, 3) + " mm.",
                         0, e.radius.text.size());
    const auto depth = [&](double at) { return std::sqrt(std::max(0.0, radius * radius - at * at)); };
    r.dome_radius = mm(radius);
    r.tip_diameter = tip_flat(z);
    const double tip = depth(in_mm(r.tip_diameter) / 2);
    double base = d / 2;
    if (z.thread) { // below the root where the dome ends, also where a taper narrows the thread on the way
                    // there
        base = in_mm(default_chamfer(z, far)) / 2;
        base = std::min(base, in_mm(default_chamfer(z, far, tip - depth(base))) / 2);
    }
    r.dome_height = mm(tip - depth(base));
    if (z.thread) {
        r.kind = EndKind::chamfer;
        r.diameter = mm(2 * base);
        r.angle = rad(std::atan2(depth(base), base));
    }
    return r;
}

ResolvedEnd resolve_end(const EndTreatment& e, const ResolvedZone& z, const Names& names, bool closed_bottom,
                        bool far) {
    ResolvedEnd r;
    r.kind = e.kind;
    if (e.kind == EndKind::chamfer) {
        r.follows = e.diameter.text.empty();
        r.diameter =
            r.follows ? default_chamfer(z, far) : length_in_range(e.diameter, names, "chamfer diameter");
        r.angle = evaluate_angle(e.angle.text, names);
        if (!(in_deg(r.angle) >= 5 && in_deg(r.angle) <= 85))
            throw InputError("A chamfer angle must be between 5° and 85° to the axis.", 0,
                             e.angle.text.size());
    } else if (e.kind == EndKind::point) {
        if (z.in_bore() && !closed_bottom)
            throw InputError("Only the bottom of a blind bore can end in a point; this end is open.");
        r.kind = EndKind::chamfer;
        r.diameter = tip_flat(z); // as a drill's web leaves it
        r.angle = evaluate_angle(e.angle.text, names);
        if (!(in_deg(r.angle) >= 5 && in_deg(r.angle) <= 85))
            throw InputError("The angle of a point must be between 5° and 85° to the axis.", 0,
                             e.angle.text.size());
    } else if (e.kind == EndKind::rounded) {
        return rounded_end(e, z, names, far);
    } else if (e.kind == EndKind::run_out) {
        if (!z.thread) throw InputError("Only a threaded zone can have a run-out; choose flat or chamfer.");
        r.turns = evaluate_number(e.turns.text, names);
        if (!(r.turns >= 0.05 && r.turns <= 20))
            throw InputError("A run-out takes 0.05 to 20 turns.", 0, e.turns.text.size());
    }
    return r;
}

} // namespace

const std::vector<Finish>& finishes() {
    static const std::vector<Finish> all{
        {"brass", 0.71, 0.53, 0.24, 8.5},           {"steel", 0.55, 0.58, 0.60, 7.85},
        {"stainless steel", 0.70, 0.72, 0.73, 7.9}, {"bronze", 0.58, 0.42, 0.25, 8.8},
        {"aluminium", 0.78, 0.79, 0.80, 2.7},       {"nylon", 0.90, 0.88, 0.82, 1.14}};
    return all;
}

std::vector<OwnSection> sections_in(const Job& job) {
    std::vector<OwnSection> out;
    for (const Piece& p : job.pieces)
        for (const Zone& z : p.zones)
            if (z.thread && z.thread->family == ThreadFamily::own &&
                std::none_of(out.begin(), out.end(),
                             [&](const OwnSection& s) { return s.name == z.thread->own_section.name; }))
                out.push_back(z.thread->own_section);
    return out;
}

const Finish& finish_of(const Piece& piece) {
    for (const auto& f : finishes())
        if (piece.finish == f.name) return f;
    return finishes().front();
}

Length ResolvedEnd::radius_at(double from_end) const {
    if (is_dome() && from_end < in_mm(dome_height)) {
        const double r = in_mm(dome_radius), tip = in_mm(tip_diameter) / 2,
                     below = std::sqrt(r * r - tip * tip) - std::max(0.0, from_end); // the sphere's centre
        return mm(std::sqrt(std::max(0.0, r * r - below * below)));
    }
    if (kind == EndKind::chamfer)
        return diameter / 2 + mm((from_end - in_mm(dome_height)) * std::tan(in_rad(angle)));
    return mm(1e6);
}

Length ResolvedZone::outer_radius() const {
    if (thread || teeth || rack) return in_bore() ? smallest_radius() : largest_radius();
    return in_bore() ? std::min(diameter, far_diameter) / 2 : largest_radius();
}

namespace {
// The thread's radii at its two ends, by which a taper widens or narrows it.
std::pair<double, double> taper_gain(const ResolvedZone& z) {
    const double a = z.taper * in_mm(z.start - z.taper_from), b = z.taper * in_mm(z.end() - z.taper_from);
    return std::minmax(a, b);
}
} // namespace

Length ResolvedZone::largest_radius() const {
    if (teeth) return mm(std::max(teeth->tip_radius, teeth->root_radius));
    if (rack) return mm(std::hypot(in_mm(rack->spec.height), in_mm(rack->spec.width)) / 2);
    if (thread) {
        const auto& s = thread->section;
        return mm(std::max(s.crest_radius, s.root_radius) + taper_gain(*this).second);
    }
    if (outline != Outline::round)
        return diameter / 2 / std::cos(std::numbers::pi / (outline == Outline::square ? 4 : 6));
    if (keyway) return mm(std::hypot(in_mm(diameter / 2 + keyway->depth), in_mm(keyway->width) / 2));
    return std::max(diameter, far_diameter) / 2;
}

Length ResolvedZone::smallest_radius() const {
    if (teeth) return mm(std::min(teeth->tip_radius, teeth->root_radius));
    if (thread) {
        const auto& s = thread->section;
        return mm(std::min(s.crest_radius, s.root_radius) + taper_gain(*this).first);
    }
    return std::min(diameter, far_diameter) / 2;
}

Length ResolvedPiece::length() const {
    Length l = mm(0);
    for (const auto& z : zones)
        if (!z.in_bore()) l += z.length;
    return l;
}

std::vector<std::size_t> ResolvedPiece::chain(Where where) const {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < zones.size(); ++i)
        if (zones[i].where == where) out.push_back(i);
    if (where == Where::far_bore) std::reverse(out.begin(), out.end());
    return out;
}

Length ResolvedPiece::largest_radius() const {
    Length r = mm(0);
    for (const auto& z : zones)
        if (!z.in_bore()) r = std::max(r, z.largest_radius());
    return r;
}

Length resolve_length(const Number& n, const Names& names) {
    return evaluate_length(n.text, n.unit, names);
}

Names resolve_names(const Job& job) {
    Names names;
    for (std::size_t i = 0; i < job.values.size(); ++i) {
        const auto& v = job.values[i];
        at("values[" + std::to_string(i) + "]", [&] {
            require_usable_name(v.name);
            if (names.contains(v.name))
                throw InputError("The name '" + v.name + "' is used twice.", 0, v.name.size());
            names[v.name] = evaluate(v.number.text, names);
            return 0;
        });
    }
    return names;
}

namespace {

ThreadSpec thread_spec(const ThreadForm& f, const ResolvedZone& z, const std::string& place, bool small_far,
                       const Names& names) {
    ThreadSpec s;
    s.family = f.family;
    s.diameter = z.diameter;
    s.pitch = at(place + "pitch", [&] { return length_in_range(f.pitch, names, "pitch"); });
    s.tolerance_class = f.tolerance_class;
    s.side = z.in_bore() ? Side::internal : Side::external;
    s.hand = f.hand;
    s.starts = f.starts;
    s.modelled_at = f.modelled_at;
    s.rounded_root = f.rounded_root;
    s.own_section = f.own_section;
    if (f.modelled_at == ModelledAt::chosen)
        s.material = at(place + "material", [&] {
            const double percent = evaluate_number(f.material.text, names);
            if (!(percent >= 0 && percent <= 100))
                throw InputError(
                    "A chosen point in the band lies between 0 (minimum material) and 100 (maximum "
                    "material) percent.",
                    0, f.material.text.size());
            return percent / 100;
        });
    if (!f.start_angle.text.empty())
        s.start_angle = at(place + "start_angle", [&] { return evaluate_angle(f.start_angle.text, names); });
    if (!f.flank_angle.text.empty())
        s.flank_angle = at(place + "flank_angle", [&] { return evaluate_angle(f.flank_angle.text, names); });
    if (!f.taper.text.empty()) {
        const double lost =
            at(place + "taper", [&] { return resolve_taper(f.taper, z.diameter, z.length, names); });
        if (lost != 0) s.taper = (small_far ? -lost : lost) / 2;
    }
    if (!f.depth.text.empty())
        s.depth = at(place + "depth", [&] { return length_in_range(f.depth, names, "thread depth", 1e-4); });
    if (!f.root_flat.text.empty())
        s.root_flat =
            at(place + "root_flat", [&] { return length_in_range(f.root_flat, names, "root flat", 0); });
    if (!f.allowance.text.empty())
        s.allowance = at(place + "allowance", [&] { return resolve_length(f.allowance, names); });
    at(place + "thread", [&] {
        const auto side = side_of_class(s.family, s.tolerance_class);
        if (side && *side != s.side) {
            const std::string usual = usual_class(s.family, s.side);
            throw InputError(
                s.side == Side::external
                    ? "Class " + s.tolerance_class +
                          " is for nuts; a zone of a piece is an external thread and takes a class such as " +
                          usual + "."
                    : (s.tolerance_class.empty() ? "This is an external thread"
                                                 : "Class " + s.tolerance_class + " is for screws") +
                          "; a bore has an internal thread and takes " +
                          (usual.empty() ? "no class." : "a class such as " + usual + "."));
        }
        return 0;
    });
    return s;
}

} // namespace

namespace {

// The teeth of a zone go on from those of the zone before, where they are the same but for their hand.
void resolve_teeth(const Zone& z, ResolvedZone& r, const ResolvedPiece& before, const std::string& place,
                   const Names& names) {
    if (z.thread || z.outline != Outline::round)
        throw JobError(InputError("Teeth need a round zone without a thread."), place + "teeth");
    for (const EndTreatment* e : {&z.near_end, &z.far_end})
        if (e->kind != EndKind::flat)
            throw JobError(
                InputError("A toothed zone ends flat; its tips are broken by the tip edge instead."),
                place + (e == &z.near_end ? "near_end" : "far_end"));
    const GearSpec s = gear_spec(*z.teeth, r.in_bore(), place, names);
    r.teeth = at(place + "teeth", [&] { return resolve_gear(s); });
    r.diameter = mm(2 * r.teeth->tip_radius);
    for (const ResolvedZone& other : before.zones) {
        if (!other.teeth || other.where != r.where || std::abs(in_mm(other.end() - r.start)) > 1e-9) continue;
        GearSpec alike = other.teeth->spec;
        alike.hand = s.hand;
        if (alike == s) r.teeth_turned = other.teeth_turned + other.teeth->twist * in_mm(other.length);
    }
}

ResolvedKeyway resolve_keyway(const Zone& z, const ResolvedZone& r, const Names& names) {
    if (!r.in_bore() || z.thread || z.teeth || z.outline != Outline::round || r.far_diameter != r.diameter)
        throw InputError("A keyway is cut along a plain round bore; this zone is none.", 0,
                         z.keyway.text.size());
    ResolvedKeyway k;
    if (z.keyway.text == "standard") {
        const auto* row = standard::keyway_for(r.diameter);
        if (!row)
            throw InputError("DIN 6885-1 has keyways for bores over 6 to 230 mm; for Ø " +
                                 number_text(in_mm(r.diameter), 3) + " mm write its width x depth.",
                             0, z.keyway.text.size());
        return {row->width, row->hub, 0, standard::keyway_source()};
    }
    const auto cross = z.keyway.text.find('x');
    if (cross == std::string::npos)
        throw InputError("A keyway is standard, none, or its width x depth in the hub, such as 5 x 2.3.", 0,
                         z.keyway.text.size());
    k.width = evaluate_length(z.keyway.text.substr(0, cross), z.keyway.unit, names);
    k.depth = evaluate_length(z.keyway.text.substr(cross + 1), z.keyway.unit, names);
    const double d = in_mm(r.diameter);
    if (!(in_mm(k.width) >= 0.02 * d && in_mm(k.width) <= 0.8 * d))
        throw InputError("A keyway in this bore is between " + number_text(0.02 * d, 3) + " and " +
                             number_text(0.8 * d, 3) + " mm wide.",
                         0, z.keyway.text.size());
    if (!(in_mm(k.depth) >= 0.01 * d && in_mm(k.depth) <= d))
        throw InputError("A keyway in this bore is between " + number_text(0.01 * d, 3) + " and " +
                             number_text(d, 3) + " mm deep, from the bore's surface.",
                         0, z.keyway.text.size());
    k.source = "as asked";
    return k;
}

// By the textbooks' rules: a web of 0.3 of the width, two and a half modules (a plain disc: a tenth of its
// radius) of rim, a hub of 1.6 times the bore, or a module wider than what stands beside.
ResolvedWeb resolve_web(const Zone& z, const ResolvedZone& r, const ResolvedPiece& piece,
                        const Names& names) {
    if (r.in_bore() || z.thread || z.outline != Outline::round || r.far_diameter != r.diameter)
        throw InputError("A web is sunk into a gear or a plain round disc; this zone is neither.", 0,
                         z.web.text.size());
    const double width = in_mm(r.length), outside = r.teeth ? r.teeth->root_radius : in_mm(r.diameter) / 2;
    const double module = r.teeth ? in_mm(r.teeth->spec.module) : 0.04 * outside;
    double bore = 0, beside[2]{0, 0};
    for (const ResolvedZone& other : piece.zones) {
        if (other.in_bore() && other.start < r.end() && other.end() > r.start)
            bore = std::max(bore, in_mm(other.largest_radius()));
        if (other.in_bore()) continue;
        if (std::abs(in_mm(other.end() - r.start)) < 1e-9) beside[0] = in_mm(other.largest_radius());
        if (std::abs(in_mm(other.start - r.end())) < 1e-9) beside[1] = in_mm(other.largest_radius());
    }
    ResolvedWeb w;
    w.thickness = 0.3 * width;
    w.rim = outside - 2.5 * module;
    w.hub = std::max(1.6 * bore, 0.15 * outside);
    for (const double shoulder : beside) // what is as wide as the disc leaves that side no web
        if (shoulder + module < w.rim) w.hub = std::max(w.hub, shoulder + module);
    w.source = "web 0.3 b, rim 2.5 modules, hub 1.6 of the bore";
    if (z.web.text != "standard") {
        std::istringstream words(z.web.text);
        std::string word;
        for (double* value : {&w.thickness, &w.rim, &w.hub})
            if (words >> word)
                *value = in_mm(evaluate_length(word, z.web.unit, names)) / (value == &w.thickness ? 1 : 2);
        if (words >> word)
            throw InputError(
                "A web is standard, none, its thickness, or its thickness, the rim's inner and the hub's "
                "diameter, such as 3 70 26.",
                0, z.web.text.size());
        w.source = "as asked";
    }
    if (!(w.thickness >= 0.05 * width && w.thickness <= 0.95 * width))
        throw InputError("The web is " + number_text(w.thickness, 3) + " mm thick; in a width of " +
                             number_text(width, 3) + " mm it must be between " +
                             number_text(0.05 * width, 3) + " and " + number_text(0.95 * width, 3) + " mm.",
                         0, z.web.text.size());
    if (!(w.rim < outside - 0.05 * module && w.hub > 0.02 * outside && w.rim > w.hub + 0.02 * outside))
        throw InputError("Between a rim of Ø " + number_text(2 * w.rim, 3) + " mm inside and a hub of Ø " +
                             number_text(2 * w.hub, 3) + " mm there is no room for a web under Ø " +
                             number_text(2 * outside, 3) + " mm.",
                         0, z.web.text.size());
    w.near = beside[0] < w.hub;
    w.far = beside[1] < w.hub;
    if (!w.near && !w.far)
        throw InputError(
            "Neither side of this zone is free between rim and hub, so no web can be sunk into it.", 0,
            z.web.text.size());
    w.depth = (width - w.thickness) / (w.near && w.far ? 2 : 1);
    return w;
}

ResolvedZone resolve_rack_zone(const Zone& z, const std::string& place, const Names& names) {
    if (z.thread || z.outline != Outline::round || z.where != Where::outer)
        throw JobError(
            InputError("A rack is a bar with teeth along it; it can't be a thread, a hexagon or a bore."),
            place + "teeth");
    ResolvedZone r;
    const RackSpec s = rack_spec(z, place, names);
    r.rack = at(place + "teeth", [&] { return resolve_rack(s); });
    r.length = mm(r.rack->length);
    r.diameter = r.far_diameter = s.height;
    return r;
}

} // namespace

ResolvedPiece resolve_piece(const Piece& piece, const Names& names) {
    ResolvedPiece out;
    out.name = piece.name;
    const auto place_of = [](std::size_t i) { return "zones[" + std::to_string(i) + "]."; };
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        if (!piece.zones[i].teeth || !piece.zones[i].teeth->is_rack()) continue;
        if (piece.zones.size() > 1)
            throw JobError(
                InputError("A rack is a piece of its own, with no other zones or bores; what is left "
                           "uncut at its ends is said by its plain ends."),
                place_of(i) + "teeth");
        out.zones.push_back(resolve_rack_zone(piece.zones[i], place_of(i), names));
        return out;
    }
    Length whole = mm(0);
    bool any = false;
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        if (piece.zones[i].where == Where::outer) {
            any = true;
            whole += at(place_of(i) + "length",
                        [&] { return length_in_range(piece.zones[i].length, names, "length"); });
        }
    if (!any) throw JobError(InputError("A piece needs at least one outer zone."), "zones");

    // how far each chain has come: outer and near bore from the near face, far bore from the far face
    Length outer_at = mm(0), near_at = mm(0), far_at = whole;
    std::vector<std::size_t> outer;
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        if (piece.zones[i].where == Where::outer) outer.push_back(i);
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        const Zone& z = piece.zones[i];
        const std::string place = place_of(i);
        ResolvedZone r;
        r.where = z.where;
        r.outline = z.outline;
        const bool through = r.in_bore() && z.length.text.empty();
        const Length left = z.where == Where::far_bore ? far_at : whole - near_at;
        if (through && !(in_mm(left) >= shortest))
            throw JobError(
                InputError("The bores already reach the other face; nothing is left for this zone."),
                place + "length");
        r.length =
            through ? left : at(place + "length", [&] { return length_in_range(z.length, names, "length"); });
        // typed lengths that come out at the far face but for rounding go through
        if (r.in_bore() && std::abs(in_mm(r.length - left)) < 1e-7) r.length = left;
        Length& reached = z.where == Where::outer ? outer_at : z.where == Where::near_bore ? near_at : far_at;
        r.start = z.where == Where::far_bore ? reached - r.length : reached;
        reached = z.where == Where::far_bore ? r.start : reached + r.length;
        if (z.where == Where::far_bore && std::abs(in_mm(r.start)) < 1e-7) r.start = mm(0);
        if (z.teeth)
            resolve_teeth(z, r, out, place, names);
        else
            r.diameter =
                at(place + "diameter", [&] { return length_in_range(z.diameter, names, "diameter", 0.1); });
        r.far_diameter = r.diameter;
        if (!z.far_diameter.text.empty()) {
            at(place + "far_diameter", [&] {
                if (z.thread || z.teeth || z.outline != Outline::round)
                    throw InputError("Only a plain round zone can be conical.", 0,
                                     z.far_diameter.text.size());
                r.far_diameter = length_in_range(z.far_diameter, names, "far diameter", 0.1);
                return 0;
            });
        }
        if (!z.keyway.text.empty()) {
            r.keyway = at(place + "keyway", [&] { return resolve_keyway(z, r, names); });
            for (const ResolvedZone& other : out.zones)
                if (other.teeth && !other.in_bore()) {
                    r.keyway->at = other.teeth_turned + other.teeth->pitch_angle() / 2;
                    break;
                }
        }
        if (z.thread) {
            if (z.outline != Outline::round)
                throw JobError(InputError("A thread needs a round zone; this one is a hexagon or square."),
                               place + "thread");
            // outside the small end is the piece's nearer end, inside the one away from the mouth
            const bool last = !outer.empty() && outer.back() == i && outer.front() != i;
            const bool small_far = z.where == Where::outer ? last : z.where == Where::near_bore;
            const ThreadSpec s = thread_spec(*z.thread, r, place, small_far, names);
            r.thread = at(place + "thread", [&] { return resolve_thread(s); });
            r.simplified = z.thread->simplified;
            if (s.taper) {
                r.taper = *s.taper;
                r.taper_from = r.taper > 0 ? r.end() : r.start;
                if (!(in_mm(r.smallest_radius()) > 0.02 * in_mm(r.diameter)))
                    throw JobError(
                        InputError("With this taper the thread's root comes to the axis within the "
                                   "zone; make the taper or the length smaller.",
                                   0, z.thread->taper.text.size()),
                        place + "taper");
            } else if (const double k = r.thread->section.taper; k > 0) {
                r.taper = small_far ? -k : k;
                const double gauge = in_mm(r.thread->gauge_distance);
                if (z.where == Where::outer)
                    r.taper_from = small_far ? r.end() - mm(gauge) : r.start + mm(gauge);
                else
                    r.taper_from = small_far ? r.start + mm(gauge) : r.end() - mm(gauge);
                if (small_far) r.thread->section.groove = mirrored(r.thread->section.groove);
            }
        }
        const bool inner = r.in_bore() && !through;
        r.near_end = at(place + "near_end", [&] {
            return resolve_end(z.near_end, r, names, inner && z.where == Where::far_bore, false);
        });
        r.far_end = at(place + "far_end", [&] {
            return resolve_end(z.far_end, r, names, inner && z.where == Where::near_bore, true);
        });
        out.zones.push_back(std::move(r));
    }
    for (std::size_t i = 0; i < out.zones.size(); ++i)
        if (!piece.zones[i].web.text.empty())
            out.zones[i].web = at(place_of(i) + "web",
                                  [&] { return resolve_web(piece.zones[i], out.zones[i], out, names); });
    return out;
}

double resolve_taper(const Number& taper, Length diameter, Length length, const Names& names) {
    std::string text = taper.text;
    const auto strip = [&] {
        while (!text.empty() && text.front() == ' ')
            text.erase(0, 1);
        while (!text.empty() && text.back() == ' ')
            text.pop_back();
    };
    strip();
    if (text.empty()) return 0;
    const auto refuse = [&](const std::string& why) {
        return InputError(
            why + " Write a taper as 1:16 on the diameter, 3.6° for the cone's angle, or to 19 for "
                  "the diameter at the small end.",
            0, taper.text.size());
    };
    double lost = 0;
    if (text.starts_with("to")) {
        text.erase(0, 2);
        strip();
        for (const char* sign : {"\xC3\x98", "\xE2\x8C\x80"})
            if (text.starts_with(sign)) text.erase(0, std::string_view(sign).size());
        strip();
        const Length end = evaluate_length(text, taper.unit, names);
        if (!(end < diameter) || in_mm(end) <= 0)
            throw refuse("The small end must be narrower than the thread's " +
                         number_text(in_mm(diameter), 4) + " mm.");
        lost = (diameter - end) / length;
    } else if (const auto colon = text.find(':'); colon != std::string::npos) {
        const double run = evaluate_number(text.substr(colon + 1), names);
        if (!(run > 0)) throw refuse("Nothing can be lost over a length of none.");
        lost = evaluate_number(text.substr(0, colon), names) / run;
    } else {
        lost = 2 * std::tan(in_rad(evaluate_angle(text, names)) / 2);
    }
    if (!(std::abs(lost) <= 1.0 / 3 + 1e-9))
        throw refuse("A taper is at most 1:3 on the diameter, a cone angle of 18.9°.");
    if (lost != 0 && std::abs(lost) < 1e-5) throw refuse("A taper below 1:100000 is none.");
    return lost;
}

void require_resolvable(const Job& job) {
    const Names names = resolve_names(job);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        try {
            (void)resolve_piece(job.pieces[i], names);
        } catch (const JobError& e) {
            throw JobError(InputError(std::string(e.what()).substr(e.place.size() + 2), e.position, e.extent),
                           "pieces[" + std::to_string(i) + "]." + e.place);
        }
    }
    for (std::size_t i = 0; i < job.pairs.size(); ++i)
        if (!job.pairs[i].centre.text.empty())
            at("pairs[" + std::to_string(i) + "].centre",
               [&] { return resolve_length(job.pairs[i].centre, names); });
}

} // namespace whorl
