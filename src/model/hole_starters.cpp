// Starters of holes for screws: a clearance hole, a counterbore for a socket head, a countersink for a flat one,
// each in a disc that is thick enough. Their bores can be put into another piece, see add_bores().
#include "model/starter_table.hpp"

#include "model/edit.hpp"
#include "model/ready_zone.hpp"
#include "quantity/expression.hpp"
#include "standard/fastener.hpp"
#include "standard/screw_hole.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

enum class Fit { fine, medium, coarse };
constexpr const char* fits[]{"fine", "medium", "coarse"};

// "M6", "M6 x 20", "M6 fine x 20": a screw, how loosely it goes through, how thick the piece is.
struct Asked {
    const standard::ScrewHole* hole = nullptr;
    Fit fit = Fit::medium;
    std::optional<Length> thickness;
    std::string words;
    Length clearance() const {
        return fit == Fit::fine ? hole->fine : fit == Fit::coarse ? hole->coarse : hole->medium;
    }
};

Asked asked(const Starter& starter, std::string_view text, std::size_t rest) {
    Asked out;
    std::string said(text.substr(rest));
    for (int i = 0; i < 3; ++i)
        if (const std::size_t at = said.find(std::string(" ") + fits[i]); at != said.npos) {
            out.fit = static_cast<Fit>(i);
            said.erase(at, 1 + std::string_view(fits[i]).size());
        }
    Designation d;
    try {
        d = parse_designation(said);
    } catch (const InputError& e) {
        throw InputError(e.what(), rest + e.position, e.extent);
    }
    const auto* t = std::get_if<ThreadSpec>(&d.what);
    if (!t || t->family != ThreadFamily::iso_metric)
        throw InputError("A metric screw is expected here, for example " + std::string(starter.example) + ".",
                         rest, text.size() - rest);
    out.hole = standard::screw_hole(t->diameter);
    if (!out.hole) {
        std::string sizes;
        for (const auto& h : standard::screw_holes())
            sizes += (sizes.empty() ? "M" : ", M") + number_text(in_mm(h.thread), 2);
        throw InputError("Holes for screws are kept here for " + sizes + ".", rest, text.size() - rest);
    }
    out.thickness = d.length;
    out.words = "M" + number_text(in_mm(t->diameter), 2) +
                (out.fit == Fit::medium ? "" : std::string(" ") + fits[static_cast<int>(out.fit)]) +
                (d.length ? " x " + length_text(*d.length, LengthUnit::millimetre) : "");
    return out;
}

Zone bore(Length diameter, std::optional<Length> length) {
    Zone z = plain(diameter, length.value_or(mm(1)));
    if (!length) z.length = {"", LengthUnit::millimetre};
    z.where = Where::near_bore;
    return z;
}

// A disc with these bores; `head`: the widest of them, `least`: how thick it must be.
Piece disc(const char* name, const Asked& a, Length head, Length least, std::vector<Zone> bores) {
    const Length thickness = a.thickness.value_or(rounded(least + a.hole->thread, 1));
    if (thickness < least + mm(0.2))
        throw InputError("This hole needs a piece " + number_text(in_mm(least) + 0.2, 2) +
                         " mm thick at least; it has " + number_text(in_mm(thickness), 2) + " mm.");
    Piece p;
    p.name = std::string(name) + " " + a.words;
    p.finish = "steel";
    p.zones = {plain(rounded(head + a.hole->thread, 1), thickness)};
    for (Zone& z : bores)
        p.zones.push_back(std::move(z));
    return p;
}

[[noreturn]] void no_row(const Asked& a, const char* what, std::optional<Length> standard::ScrewHole::*kept,
                         std::size_t rest) {
    std::string sizes;
    for (const auto& h : standard::screw_holes())
        if (h.*kept) sizes += (sizes.empty() ? "M" : ", M") + number_text(in_mm(h.thread), 2);
    throw InputError(std::string("No ") + what + " is kept here for M" +
                         number_text(in_mm(a.hole->thread), 2) + "; its standard has " + sizes + ".",
                     rest);
}

} // namespace

Piece clearance_hole(const Starter& starter, std::string_view text, std::size_t rest,
                     std::span<const OwnSection>) {
    const Asked a = asked(starter, text, rest);
    return disc("Clearance", a, a.hole->thread * 1.5, mm(0), {bore(a.clearance(), {})});
}

Piece counterbored_hole(const Starter& starter, std::string_view text, std::size_t rest,
                        std::span<const OwnSection>) {
    const Asked a = asked(starter, text, rest);
    const auto* head = standard::fastener_size("socket_head", a.hole->thread);
    if (!a.hole->counterbore || !head) no_row(a, "counterbore", &standard::ScrewHole::counterbore, rest);
    const Length depth = head->height + *a.hole->deeper;
    return disc("Counterbore", a, *a.hole->counterbore, depth,
                {bore(*a.hole->counterbore, depth), bore(a.clearance(), {})});
}

Piece countersunk_hole(const Starter& starter, std::string_view text, std::size_t rest,
                       std::span<const OwnSection>) {
    const Asked a = asked(starter, text, rest);
    if (!a.hole->countersink) no_row(a, "countersink", &standard::ScrewHole::countersink, rest);
    Zone hole = bore(a.clearance(), {});
    hole.near_end = chamfer(45, *a.hole->countersink);
    return disc("Countersink", a, *a.hole->countersink, (*a.hole->countersink - a.clearance()) / 2, {hole});
}

// "M8 at 48", "M8 at 48 x 8": for two screws so far apart, so thick.
Piece strap(const Starter& starter, std::string_view text, std::size_t rest, std::span<const OwnSection>) {
    const std::size_t at = text.find(" at ", rest);
    if (at == text.npos)
        throw InputError("A strap is written with its screws and their distance, for example " +
                             std::string(starter.example) + ".",
                         text.size());
    Asked a = asked(starter, text.substr(0, at), rest);
    const std::size_t begin = at + 4, cross = text.find(" x ", begin);
    const auto length = [&](std::size_t from, std::size_t to) {
        try {
            return evaluate_length(std::string(text.substr(from, to - from)), LengthUnit::millimetre, {});
        } catch (const InputError& e) {
            throw InputError(e.what(), from + e.position, e.extent);
        }
    };
    const Length apart = length(begin, std::min(cross, text.size()));
    PlainForm f;
    f.outline = Outline::flat;
    const Length width = rounded(a.clearance() * 3, 1);
    if (!(in_mm(apart) > in_mm(a.clearance()) + 0.2 && in_mm(apart) < 5000))
        throw InputError("Two of these holes stand between " + number_text(in_mm(a.clearance()) + 0.2, 2) +
                             " and 5000 mm apart.",
                         begin, text.size() - begin);
    f.diameter = millimetres(width);
    f.thickness =
        millimetres(cross == text.npos ? rounded(a.hole->thread * 0.8, 1) : length(cross + 3, text.size()));
    f.cross.diameter = millimetres(a.clearance());
    f.cross.count = {"2", {}};
    f.cross.spacing = millimetres(apart);
    Zone z;
    z.form = f;
    z.length = millimetres(rounded(apart + width, 1));
    Piece p;
    p.name = "Strap " + a.words + " at " + number_text(in_mm(apart), 3);
    p.finish = "steel";
    p.zones = {z};
    return p;
}

} // namespace whorl
