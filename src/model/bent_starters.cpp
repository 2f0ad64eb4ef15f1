// Starters of pieces that aren't straight: a clamp bent to a U, a hook and an eye with a threaded shank, an elbow of
// pipe with threads in both mouths.
#include "model/starter_table.hpp"

#include "form/thread/reading.hpp"
#include "model/edit.hpp"
#include "model/forms/bend.hpp"
#include "model/ready_zone.hpp"
#include "quantity/expression.hpp"
#include "quantity/trimmed.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

ThreadSpec thread_in(std::string_view text, std::size_t at, const char* example, Side side,
                     std::span<const OwnSection> known, LengthUnit& unit) {
    Designation d;
    try {
        d = parse_designation(text, known);
    } catch (const InputError& e) {
        throw InputError(e.what(), at + e.position, e.extent);
    }
    auto* t = std::get_if<ThreadSpec>(&d.what);
    if (!t)
        throw InputError("A thread is expected here, for example " + std::string(example) + ".", at,
                         text.size());
    unit = d.unit;
    if (t->side != side) {
        t->side = side;
        t->tolerance_class = usual_class(t->family, side);
    }
    return *t;
}

Zone threaded(const ThreadSpec& spec, LengthUnit unit, Length length) {
    Designation d;
    d.what = spec;
    d.unit = unit;
    Zone z = zone_of(d);
    z.near_end = z.far_end = {};
    z.length = millimetres(length);
    return z;
}

Zone bent(Length bar, double degrees, Length radius, bool inside = false) {
    BendForm f;
    f.diameter = millimetres(bar);
    f.angle = {number_text(degrees, 6), {}};
    f.radius = millimetres(radius);
    f.inside = inside;
    Zone z;
    z.length = {};
    z.form = f;
    return z;
}

// "M6 for 60 x 80": a thread, the width it reaches round, the length of its leg or shank.
struct Reaching {
    ThreadSpec thread;
    LengthUnit unit = LengthUnit::millimetre;
    Length width, leg;
    std::string words;
};
Reaching reaching(const Starter& starter, std::string_view text, std::size_t rest,
                  std::span<const OwnSection> known) {
    const std::string_view all = text.substr(rest);
    const std::string sentence =
        "Write a thread, the width inside and the length of the straight part, for example " +
        std::string(starter.example) + ".";
    const std::size_t gap = all.find(" for "),
                      times = gap == all.npos ? gap : all.find_first_of("xX", gap + 5);
    if (gap == all.npos || times == all.npos) throw InputError(sentence, text.size());
    Reaching out;
    out.thread = thread_in(all.substr(0, gap), rest, starter.example, Side::external, known, out.unit);
    const auto length = [&](std::size_t from, std::size_t to) {
        try {
            const std::string said(all.substr(from, to - from));
            const Length l = evaluate_length(said, out.unit, {});
            require_reasonable(l, out.thread.diameter, trimmed(said), out.unit, said.find_first_not_of(' '));
            if (!(in_mm(l) >= 1 && in_mm(l) <= 2000))
                throw InputError("This length lies between 1 and 2000 mm.", 0, to - from);
            return l;
        } catch (const InputError& e) {
            throw InputError(e.what(), rest + from + e.position, e.extent);
        }
    };
    out.width = length(gap + 5, times);
    out.leg = length(times + 1, all.size());
    std::string designation = write_designation(out.thread);
    if (const auto dash = designation.rfind('-');
        dash != std::string::npos && !out.thread.tolerance_class.empty())
        designation.erase(dash);
    out.words =
        designation + " for " + length_text(out.width, out.unit) + " x " + length_text(out.leg, out.unit);
    return out;
}

// A leg from its end: threaded, then plain. Turned round it is the second leg.
std::vector<Zone> leg_of(const Reaching& r, bool turned) {
    const Length bar = r.thread.diameter, least = bar * 0.5;
    const Length thread = std::min(rounded(std::max(r.leg * 0.5, bar * 2), 0.5, r.unit), r.leg - least);
    if (in_mm(thread) < 1.5 * in_mm(r.thread.pitch))
        throw InputError("A leg of " + number_text(in_mm(r.leg), 2) +
                         " mm is too short for this thread; take " +
                         number_text(std::ceil(in_mm(least + r.thread.pitch * 3)), 1) + " mm at least.");
    Zone screw = threaded(r.thread, r.unit, thread);
    (turned ? screw.far_end : screw.near_end) = chamfer(45);
    (turned ? screw.near_end : screw.far_end) = run_out(0.5);
    const Zone shank = plain(bar, r.leg - thread);
    return turned ? std::vector{shank, screw} : std::vector{screw, shank};
}

Piece begun(const std::string& name, const Reaching& r) {
    Piece p;
    p.name = (name + " " + r.words).substr(0, 80);
    p.finish = "steel";
    p.zones = leg_of(r, false);
    return p;
}

} // namespace

Piece u_clamp(const Starter& starter, std::string_view text, std::size_t rest,
              std::span<const OwnSection> known) {
    const Reaching r = reaching(starter, text, rest, known);
    Piece p = begun("U-clamp", r);
    p.zones.push_back(bent(r.thread.diameter, 180, r.width / 2, true));
    for (Zone& z : leg_of(r, true))
        p.zones.push_back(std::move(z));
    p.zones[3].follows = {1, true}; // the second leg is the first, turned round
    p.zones[4].follows = {0, true};
    return p;
}

Piece screw_hook(const Starter& starter, std::string_view text, std::size_t rest,
                 std::span<const OwnSection> known) {
    const Reaching r = reaching(starter, text, rest, known);
    Piece p = begun("Hook", r);
    p.zones.push_back(bent(r.thread.diameter, 180, r.width / 2, true));
    Zone tip = plain(r.thread.diameter, r.thread.diameter * 1.5);
    tip.far_end = chamfer(45);
    p.zones.push_back(tip);
    return p;
}

// Three quarters round, so that it stays clear of its shank.
Piece screw_eye(const Starter& starter, std::string_view text, std::size_t rest,
                std::span<const OwnSection> known) {
    const Reaching r = reaching(starter, text, rest, known);
    Piece p = begun("Eye", r);
    p.zones.push_back(bent(r.thread.diameter, 270, r.width / 2, true));
    return p;
}

Piece elbow(const Starter& starter, std::string_view text, std::size_t rest,
            std::span<const OwnSection> known) {
    std::string_view thread = text.substr(rest);
    double degrees = 90;
    std::string radius_text; // r60: to the centreline
    std::size_t radius_at = 0;
    for (bool more = true; more;) {
        while (!thread.empty() && thread.back() == ' ')
            thread.remove_suffix(1);
        const std::size_t gap = thread.rfind(' ');
        if (gap == thread.npos) break;
        const std::string_view tail = thread.substr(gap + 1);
        const std::string_view number =
            tail.starts_with('r') || tail.starts_with('R') ? tail.substr(1) : tail;
        more = !number.empty() && number.find_first_not_of("0123456789.") == number.npos;
        if (!more) break;
        if (number.size() < tail.size()) {
            if (!radius_text.empty())
                throw InputError("The radius is said a second time; write it once.", rest + gap + 1,
                                 tail.size());
            radius_text = number;
            radius_at = rest + gap + 2;
        } else {
            degrees = evaluate_number(number, {});
            if (!(degrees >= 5 && degrees <= 180))
                throw InputError("An elbow turns by 5 to 180 degrees.", rest + gap + 1, tail.size());
        }
        thread = thread.substr(0, gap);
    }
    LengthUnit unit{};
    const ThreadSpec inside = thread_in(thread, rest, starter.example, Side::internal, known, unit);
    const ThreadSection s = resolve_thread(inside).section;
    const double major = 2 * std::max(s.root_radius, s.crest_radius),
                 minor = 2 * std::min(s.root_radius, s.crest_radius);
    const Length outside = mm(std::ceil(major + 2 * std::max(2.0, 0.15 * major))),
                 bore = mm(std::floor((minor - std::max(1.2, 0.08 * minor)) * 2) / 2),
                 depth = rounded(inside.pitch * 8, 1, unit),
                 straight = depth + rounded(inside.pitch * 2, 1, unit);
    Piece p;
    p.name = "Elbow " + std::string(thread) + " " + number_text(degrees, 2) + "°";
    Length radius = rounded(outside * 1.5, 0.5, unit);
    if (!radius_text.empty()) {
        radius = evaluate_length(radius_text, unit);
        const Length least = mm(std::ceil(in_mm(outside) * 0.6));
        if (radius < least || in_mm(radius) > 2000)
            throw InputError("This pipe of " + number_text(in_mm(outside), 2) + " mm is bent round " +
                                 length_text(least, unit) + " to " + length_text(mm(2000), unit) + " " +
                                 symbol(unit) + " to its centreline.",
                             radius_at, radius_text.size());
        p.name += " r" + length_text(radius, unit);
    }
    p.finish = "brass";
    Zone mouth = plain(outside, straight);
    mouth.near_end = rounded_edge(mm(1));
    p.zones = {mouth, bent(outside, degrees, radius), plain(outside, straight)};
    p.zones.back().far_end = mouth.near_end;
    Zone near = threaded(inside, unit, depth);
    near.where = Where::near_bore;
    near.near_end = chamfer(60);
    near.far_end = run_out(1);
    Zone through = plain(bore, mm(1));
    through.where = Where::near_bore;
    through.length = {"", {}};
    Zone far = threaded(inside, unit, depth);
    far.where = Where::far_bore;
    far.far_end = chamfer(60);
    far.near_end = run_out(1);
    p.zones.insert(p.zones.end(), {near, through, far});
    p.zones[2].follows = {0, true}; // the second mouth is the first, turned round
    p.zones[5].follows = {3, true};
    return p;
}

} // namespace whorl
