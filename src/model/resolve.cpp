#include "model/resolve.hpp"

#include "model/forms/forms.hpp"
#include "model/free_place.hpp"
#include "model/pair_model.hpp"
#include "model/resolve_zone.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <map>

namespace whorl {

const std::vector<Finish>& finishes() {
    static const std::vector<Finish> all{
        {"brass", 0.71, 0.53, 0.24, 8.5},
        {"steel", 0.55, 0.58, 0.60, 7.85, Shaping::cold, 0.26, "S235JR, EN 10025-2"},
        {"stainless steel", 0.70, 0.72, 0.73, 7.9, Shaping::cold, 0.45, "1.4301, EN 10088-3"},
        {"bronze", 0.58, 0.42, 0.25, 8.8, Shaping::poured},
        {"aluminium", 0.78, 0.79, 0.80, 2.7},
        {"nylon", 0.90, 0.88, 0.82, 1.14, Shaping::poured},
        {"copper", 0.74, 0.43, 0.31, 8.94},
        {"acetal", 0.93, 0.93, 0.90, 1.41, Shaping::poured},
        {"PLA", 0.55, 0.70, 0.45, 1.24, Shaping::poured},
        {"PETG", 0.42, 0.58, 0.72, 1.27, Shaping::poured},
        {"ABS", 0.30, 0.31, 0.34, 1.04, Shaping::poured},
        {"glass", 0.72, 0.83, 0.82, 2.5, Shaping::poured}};
    return all;
}

std::vector<OwnSection> sections_in(const Job& job) {
    std::vector<OwnSection> out;
    for (const Piece& p : job.pieces)
        for (const Zone& z : p.zones)
            if (const auto* f = z.as<ThreadForm>();
                f && f->family == ThreadFamily::own &&
                std::none_of(out.begin(), out.end(),
                             [&](const OwnSection& s) { return s.name == f->own_section.name; }))
                out.push_back(f->own_section);
    return out;
}

namespace {
// "steel", "steel #7A5AA8", or "#7A5AA8" on another one.
const Finish& finish_named(const std::string& text, const Finish& otherwise) {
    const std::size_t sign = text.find('#');
    const std::string name = text.substr(0, sign == 0 || sign == std::string::npos ? sign : sign - 1);
    const Finish* found = &otherwise;
    for (const auto& f : finishes())
        if (name == f.name) found = &f;
    if (sign == std::string::npos || text.size() != sign + 7) return *found;
    thread_local std::map<std::string, Finish> known; // by the whole text: what is given out stays as it is
    Finish& own = known[found->name + text];
    own = *found;
    const auto part = [&](std::size_t i) {
        return static_cast<double>(std::strtoul(text.substr(sign + 1 + 2 * i, 2).c_str(), nullptr, 16)) / 255;
    };
    own.red = part(0), own.green = part(1), own.blue = part(2);
    return own;
}
} // namespace

const Finish& finish_called(const std::string& text) {
    return finish_named(text, finishes().front());
}
const Finish& finish_of(const Piece& piece) {
    return finish_called(piece.finish);
}
const Finish& finish_of(const Piece& piece, std::size_t zone) {
    return finish_named(piece.zones.at(zone).finish, finish_of(piece));
}

Length ResolvedEnd::radius_at(double from_end) const {
    if (is_dog() && from_end < in_mm(dome_height)) return tip_diameter / 2;
    if (is_dome() && from_end < in_mm(dome_height)) {
        const double r = in_mm(dome_radius), middle = in_mm(arc_middle),
                     tip = in_mm(tip_diameter) / 2 - middle,
                     below = std::sqrt(r * r - tip * tip) - std::max(0.0, from_end); // the arc's centre
        return mm(middle + (hollow ? -1 : 1) * std::sqrt(std::max(0.0, r * r - below * below)));
    }
    if (kind == EndKind::chamfer)
        return diameter / 2 + mm((from_end - in_mm(dome_height)) * std::tan(in_rad(angle)));
    return mm(1e6);
}

namespace {
Radii radii_of(const ResolvedZone& z) {
    return with_model(z, [&]<class Model>(Model) { return Model::radii(z); });
}
} // namespace

Length ResolvedZone::outer_radius() const {
    return in_bore() ? smallest_radius() : largest_radius();
}
Length ResolvedZone::largest_radius() const {
    return mm(radii_of(*this).largest);
}
Length ResolvedZone::smallest_radius() const {
    return mm(radii_of(*this).smallest);
}

Length ResolvedPiece::length() const {
    Length l = mm(0);
    for (const auto& z : zones)
        if (!z.in_bore()) l += z.length;
    return l;
}

bool ResolvedPiece::bent() const {
    return std::any_of(zones.begin(), zones.end(), [](const ResolvedZone& z) { return z.bend(); });
}

BentLine ResolvedPiece::centreline() const {
    BentLine out;
    for (const ResolvedZone& z : zones)
        if (const ResolvedBend* b = z.bend())
            out.add_bend(b->radius, b->angle, b->spec.roll);
        else if (!z.in_bore())
            out.add_straight(in_mm(z.length));
    return out;
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

namespace {
Names names_of(const std::vector<NamedValue>& values) {
    Names names;
    for (std::size_t i = 0; i < values.size(); ++i) {
        const auto& v = values[i];
        at("values[" + std::to_string(i) + "]", [&] {
            require_usable_name(v.name);
            if (names.find(v.name))
                throw InputError("The name '" + v.name + "' is used twice.", 0, v.name.size());
            Value value = evaluate(v.number.text, names);
            if (const auto* plain = std::get_if<double>(&value); plain && v.number.unit == LengthUnit::inch)
                value = InchNumber{*plain};
            names.set(v.name, value);
            return 0;
        });
    }
    return names;
}
} // namespace

Names resolve_names(const Job& job) {
    if (job.values.empty()) return {};
    // an edit asks for those of the job before and after it, over and over
    struct Known {
        std::vector<NamedValue> values;
        Names names;
    };
    thread_local std::array<Known, 4> known;
    thread_local std::size_t oldest = 0;
    for (const Known& k : known)
        if (k.values == job.values) return k.names;
    Names names = names_of(job.values);
    known[oldest++ % known.size()] = {job.values, names};
    return names;
}

namespace {

std::string capital(std::string s) {
    s[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(s[0])));
    return s;
}

void resolve_form(ZoneInPiece& at) {
    with_model(at.zone, [&]<class Model>(Model) { Model::resolve(at); });
}

// Of a zone that is not a bore: as asked, or where its form says it as that does.
Length outer_length(const Zone& z, const std::string& place, const Names& names) {
    return at(place + "length", [&] {
        return with_model(z, [&]<class Model>(Model) {
            if constexpr (requires { Model::length(z, names); })
                return Model::length(z, names);
            else
                return length_in_range(z.length, names, "length");
        });
    });
}

Length bottom_of(const Zone& z, const Names& names) {
    return with_model(z, [&]<class Model>(Model) {
        if constexpr (requires { Model::bottom(z, names); })
            return Model::bottom(z, names);
        else
            return mm(0);
    });
}

// How far each chain has come: outer and near bore from the near face, far bore from the far face.
struct Chains {
    Length whole, far_bores; // those that are said
    Length outer_at = mm(0), near_at = mm(0), far_at = whole;

    // Gives the zone its place. Throws JobError.
    void place(const Zone& z, ResolvedZone& r, const std::string& place, const Names& names) {
        const bool through = r.in_bore() && z.length.text.empty();
        const Length left = z.where == Where::far_bore ? far_at : whole - far_bores - near_at;
        if (through && !(in_mm(left) >= shortest_length))
            throw JobError(
                InputError("The bores already reach the other face or its bores; nothing is left for this "
                           "zone."),
                place + "length");
        // a hollow that says its bottom instead of its depth
        const Length bottom =
            through ? at(place + "silhouette.bottom", [&] { return bottom_of(z, names); }) : mm(0);
        if (in_mm(bottom) > 0 && !(in_mm(left - bottom) >= shortest_length))
            throw JobError(InputError("The bottom is " + number_text(in_mm(bottom), 3) +
                                      " mm thick and the piece has only " + number_text(in_mm(left), 3) +
                                      " mm there; make it thinner."),
                           place + "silhouette.bottom");
        r.length = through ? left - bottom
                   : z.where == Where::outer
                       ? outer_length(z, place, names)
                       : at(place + "length", [&] { return length_in_range(z.length, names, "length"); });
        // typed lengths that come out at the far face but for rounding go through
        if (r.in_bore() && std::abs(in_mm(r.length - left)) < 1e-7) r.length = left;
        Length& reached = z.where == Where::outer ? outer_at : z.where == Where::near_bore ? near_at : far_at;
        r.start = z.where == Where::far_bore ? reached - r.length : reached;
        reached = z.where == Where::far_bore ? r.start : reached + r.length;
        if (z.where == Where::far_bore && std::abs(in_mm(r.start)) < 1e-7) r.start = mm(0);
    }
};

ResolvedPiece resolve_afresh(const Piece& piece, const Names& names) {
    ResolvedPiece out;
    out.name = piece.name;
    out.finish = piece.finish;
    const auto place_of = [](std::size_t i) { return "zones[" + std::to_string(i) + "]."; };
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        if (!stands_alone(piece.zones[i])) continue;
        if (piece.zones.size() > 1)
            with_model(piece.zones[i], [&]<class Model>(Model) {
                throw JobError(
                    InputError(capital(Model::what(piece.zones[i])) +
                               " is a piece of its own, with no other zones or bores; start it as a new "
                               "piece with Shift+Enter."),
                    place_of(i) + Model::key);
            });
        ResolvedZone r;
        r.where = piece.zones[i].where;
        const std::string place = place_of(i);
        ZoneInPiece at{piece.zones[i], r, piece.zones, out, place, names, false};
        resolve_form(at);
        out.zones.push_back(std::move(r));
        return out;
    }
    Length whole = mm(0);
    std::vector<std::size_t> outer;
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        if (piece.zones[i].where == Where::outer) {
            outer.push_back(i);
            whole += outer_length(piece.zones[i], place_of(i), names);
        }
    if (outer.empty()) throw JobError(InputError("A piece needs at least one outer zone."), "zones");

    Length far_bores = mm(0);
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        if (const Zone& z = piece.zones[i]; z.where == Where::far_bore && !z.length.text.empty())
            far_bores +=
                at(place_of(i) + "length", [&] { return length_in_range(z.length, names, "length"); });
    Chains chains{whole, far_bores};
    std::vector<ResolvedZone> zones(piece.zones.size());
    for (std::size_t i = 0; i < zones.size(); ++i) {
        zones[i].where = piece.zones[i].where;
        chains.place(piece.zones[i], zones[i], place_of(i), names);
    }
    // outside first, wherever it stands in the list: a hollow, a keyway or a hub's bore ask what lies around them
    std::vector<std::size_t> order = outer;
    for (std::size_t i = 0; i < zones.size(); ++i)
        if (zones[i].in_bore()) order.push_back(i);
    for (const std::size_t i : order) {
        const Zone& z = piece.zones[i];
        const std::string place = place_of(i);
        ResolvedZone& r = zones[i];
        // outside the small end is the piece's nearer end, inside the one away from the mouth
        const bool last = outer.back() == i && outer.front() != i;
        ZoneInPiece here{z,
                         r,
                         piece.zones,
                         out,
                         place,
                         names,
                         z.where == Where::outer ? last : z.where == Where::near_bore};
        resolve_form(here);
        if (!z.keyway.text.empty() && !r.keyway())
            throw JobError(InputError("A keyway is cut along a plain round bore; this zone is none.", 0,
                                      z.keyway.text.size()),
                           place + "keyway");
        const bool blind = r.in_bore() && !z.length.text.empty();
        r.near_end = at(place + "near_end", [&] {
            return resolve_end(z.near_end, r, names, blind && z.where == Where::far_bore, false);
        });
        r.far_end = at(place + "far_end", [&] {
            return resolve_end(z.far_end, r, names, blind && z.where == Where::near_bore, true);
        });
        out.zones.push_back(std::move(r));
    }
    for (std::size_t k = 0; k < order.size(); ++k)
        zones[order[k]] = std::move(out.zones[k]);
    out.zones = std::move(zones);
    for (std::size_t i = 0; i < out.zones.size(); ++i)
        if (!piece.zones[i].web.text.empty())
            out.zones[i].web = at(place_of(i) + "web",
                                  [&] { return resolve_web(piece.zones[i], out.zones[i], out, names); });
    return out;
}

// One change asks for the same few pieces again and again: checks, remedies, pairs, trains, views.
struct Remembered {
    Piece piece;
    Names names;
    ResolvedPiece resolved;
};
constexpr std::size_t most_remembered = 24;

} // namespace

ResolvedPiece resolve_piece(const Piece& piece, const Names& names) {
    thread_local std::vector<Remembered> remembered;
    thread_local std::size_t oldest = 0;
    for (const Remembered& r : remembered)
        if (r.piece == piece && r.names == names) return r.resolved;
    ResolvedPiece resolved = resolve_afresh(piece, names);
    if (remembered.size() < most_remembered)
        remembered.push_back({piece, names, resolved});
    else
        remembered[oldest++ % most_remembered] = {piece, names, resolved};
    return resolved;
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

void require_resolvable(const Job& job, const Job* known) {
    const Names names = resolve_names(job);
    if (known && known->values != job.values) known = nullptr;
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        if (known && i < known->pieces.size() && job.pieces[i] == known->pieces[i]) continue;
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
    for (std::size_t i = 0; i < job.pairs.size(); ++i)
        at("pairs[" + std::to_string(i) + "].stands", [&] { return stands_of(job, job.pairs[i], names); });
    for (std::size_t i = 0; i < job.pieces.size(); ++i)
        at("pieces[" + std::to_string(i) + "].stands",
           [&] { return free_place(job.pieces[i].stands, names); });
}

} // namespace whorl
