#include "model/resolve.hpp"

#include "model/resolve_zone.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {

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

std::string typed_as(const Number& n, LengthUnit unit, const Names& names) {
    if (n.text.empty() || n.unit == unit) return n.text;
    const Length value = resolve_length(n, names);
    try {
        if (std::abs(in_mm(evaluate_length(n.text, unit, names) - value)) < 1e-9) return n.text;
    } catch (const InputError&) { // it means nothing there
    }
    return length_text(value, unit);
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
        if (through && !(in_mm(left) >= shortest_length))
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
