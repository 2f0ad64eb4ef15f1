#include "form/coil/wire_end.hpp"

#include "form/word_reader.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

constexpr std::array kinds{"plain", "half", "full", "side", "eye", "extended", "leg", "closed", "open"};
constexpr std::array directions{"tangential", "axial", "radial", "inward"};
constexpr std::array sides{"out", "in", "up", "down"};
constexpr std::array turned{"ground", "tip", "pitch", "gap"};

template<class List>
std::optional<std::size_t> place_of(const List& words, const std::string& w) {
    const auto at = std::ranges::find(words, w);
    if (at == words.end()) return {};
    return static_cast<std::size_t>(at - words.begin());
}

class EndReader : WordReader {
public:
    EndReader(std::string_view text, LengthUnit unit, const Names& names)
        : WordReader(text), unit_(unit), names_(names) {}

    WireEnd read() {
        WireEnd out;
        const auto kind = done() ? std::nullopt : place_of(kinds, lowered_line(here().text));
        if (!kind)
            throw InputError(
                "A spring's end is closed or open, a hook (half, full, side, eye 5, extended 30), a "
                "leg, such as leg 30 axial, or plain.",
                done() ? end() : here().at, done() ? 0 : here().text.size());
        take();
        out.kind = static_cast<WireEndKind>(*kind);
        while (!done())
            out.is_turns() ? turns_word(out) : word(out);
        if (out.tip && !out.ground)
            throw InputError("Only a ground end has a thickness of its own; write ground tip 0.5.", end());
        const bool leg = out.kind == WireEndKind::leg;
        if (!out.size && (leg || out.kind == WireEndKind::eye || out.kind == WireEndKind::extended))
            throw InputError(
                leg ? "A leg needs its length, such as leg 30."
                : out.kind == WireEndKind::eye
                    ? "An eye needs its clear width, such as eye 5."
                    : "An extended hook needs its clear height over the body, such as extended 30.",
                end());
        return out;
    }

private:
    void turns_word(WireEnd& out) {
        const Word w = here();
        const bool closed = out.kind == WireEndKind::closed;
        if (lowered_line(w.text) == "ground") {
            once("ground", take());
            out.ground = true;
        } else if (at_key("tip")) {
            out.tip = size(value("tip", "0.5"));
        } else if (at_key("pitch") && closed && !out.gap) {
            out.pitch = size(value("pitch", "2.4"));
        } else if (at_key("gap") && closed && !out.pitch) {
            out.gap = size(value("gap", "0.6"), true);
        } else if (closed && !out.turns && std::isdigit(static_cast<unsigned char>(w.text[0]))) {
            take();
            out.turns = located(w, [&] { return evaluate_number(w.text, names_); });
            if (!(*out.turns > 0 && *out.turns <= 25))
                throw InputError("Closed turns of one end are more than 0 and at most 25.", w.at,
                                 w.text.size());
        } else {
            throw InputError(
                in_quotes(w.text) +
                    (closed ? " is not understood in a closed end; behind it stand its turns, ground, tip "
                              "0.5, and either pitch 2.4 or gap 0.6."
                            : " is not understood in an open end; behind it stand ground and tip 0.5."),
                w.at, w.text.size());
        }
    }
    void word(WireEnd& out) {
        const Word w = here();
        const bool leg = out.kind == WireEndKind::leg, plain = out.kind == WireEndKind::plain;
        if (const auto d = place_of(directions, lowered_line(w.text)); d && leg) {
            once("direction", take());
            out.direction = static_cast<LegDirection>(*d);
        } else if (lowered_line(w.text) == "bent" && leg) {
            take();
            bend(out);
        } else if (at_key("r") && !plain) {
            out.radius = size(value("r", "2"));
        } else if (!plain && !out.size && out.bends.empty()) {
            out.size = size(take());
        } else {
            throw InputError(
                in_quotes(w.text) +
                    (leg ? " is not understood in a leg; behind its length stand axial, radial or inward, r "
                           "and "
                           "its bend's radius, and bent 90 r 4 15."
                     : plain ? " stands behind plain, which has no numbers."
                             : " is not understood in a hook; behind its kind stand its clear height, and r "
                               "and its bends' radius."),
                w.at, w.text.size());
        }
    }
    void bend(WireEnd& out) {
        LegBend b;
        const auto wanted = [&](const char* what) {
            if (done())
                throw InputError(std::string("A bend of a leg is written bent 90 r 4 15; its ") + what +
                                     " is missing.",
                                 end());
        };
        wanted("angle");
        const Word angle = take();
        b.angle = located(angle, [&] { return in_rad(evaluate_angle(angle.text, names_)); });
        wanted("radius");
        if (!at_key("r"))
            throw InputError("Behind a bend's angle stands its radius, such as r 4.", here().at,
                             here().text.size());
        Word radius = here();
        if (radius.text.size() > 1) {
            take();
            radius = {radius.text.substr(1), radius.at + 1};
        } else {
            take();
            wanted("radius");
            radius = take();
        }
        b.radius = size(radius);
        wanted("straight length behind it");
        b.straight = size(take(), true);
        if (!done())
            if (const auto s = place_of(sides, lowered_line(here().text)))
                take(), b.towards = static_cast<BendTowards>(*s);
        if (!(b.angle > 0 && b.angle <= full_turn))
            throw InputError("A bend of a leg is between 0 and 360°.", angle.at, angle.text.size());
        out.bends.push_back(b);
    }
    Length size(const Word& w, bool zero = false) const {
        const Length l = located(w, [&] { return evaluate_length(w.text, unit_, names_); });
        if (in_mm(l) > 0 || (zero && in_mm(l) == 0)) return l;
        throw InputError("This must be more than zero.", w.at, w.text.size());
    }

    LengthUnit unit_;
    const Names& names_;
};

std::string millimetre(double v) {
    return number_text(v, 3) + " mm";
}

constexpr double up = pi / 2; // the roll away from the coil

// The angle of a circle that stands on the wire, so that its end clears it.
double open_circle(double radius, double wire) {
    const double opening = std::max(pi / 3, std::acos(std::clamp(1 - 1.5 * wire / radius, -1.0, 1.0)));
    return full_turn - opening;
}

LaidEnd lay_half(const WireEnd& e, const CoilEnd& c, double r) {
    LaidEnd out;
    const double y = r * (1 - std::sin(c.slope)), loop = std::hypot(c.radius, y),
                 least = r * std::cos(c.slope) + loop - c.wire;
    out.clear = e.size ? in_mm(*e.size) : least;
    if (out.clear < least - 1e-9)
        throw InputError("This hook is at least " + millimetre(least) + " high inside, with bends of " +
                         millimetre(r) + "; take a larger height, or a smaller radius.");
    out.loop = loop;
    out.tightest = std::min(r, loop);
    const double over =
        e.kind == WireEndKind::extended ? pi * 7 / 6 : pi; // an extended one holds what hangs in it
    out.stretches = {{0, r, pi / 2 - c.slope, up},
                     {out.clear - least, loop, over, pi - std::atan2(y, c.radius)}};
    return out;
}

// A circle that stands upright: at the coil's side, or over the axis, to which the wire is led.
LaidEnd lay_circle(const WireEnd& e, const CoilEnd& c, double r) {
    LaidEnd out;
    const double sine = std::sin(c.slope), cosine = std::cos(c.slope), usual = 2 * c.radius - c.wire;
    const bool eye = e.kind == WireEndKind::eye;
    const auto asked = [&](double height_of_loop,
                           double beside) { // radius and height, of 2·ρ − d = width or of the height
        out.loop = eye ? (in_mm(*e.size) + c.wire) / 2
                       : ((e.size ? in_mm(*e.size) : usual) + c.wire - beside) / height_of_loop;
        out.clear = out.loop * height_of_loop + beside - c.wire;
        if (out.loop < 0.75 * c.wire)
            throw InputError(std::string(eye ? "This eye" : "This hook") + " is too small for a wire of " +
                             millimetre(c.wire) + ": inside it is at least " + millimetre(0.5 * c.wire) +
                             " wide.");
    };
    if (e.kind == WireEndKind::side) {
        asked(1 + cosine, 0);
        out.tightest = out.loop;
        out.stretches = {{0, out.loop, open_circle(out.loop, c.wire), up}};
        return out;
    }
    if (c.radius < 2 * r + 1e-9)
        throw InputError("The wire can't be led to the axis with bends of " + millimetre(r) +
                         ": they are at most half the coil's mean radius, " + millimetre(c.radius / 2) + ".");
    // inwards until it looks at the axis, by δ off the level
    const double A = c.radius - r, turn = std::acos(-r / A), off = std::asin(std::cos(turn) * sine),
                 way = std::hypot(A + r * std::cos(turn), r * std::sin(turn) * cosine),
                 rise = r * std::sin(turn) * sine + way * std::tan(off);
    asked(1 + std::cos(off) + std::sin(off) * std::tan(off), rise);
    out.tightest = std::min(r, out.loop);
    out.stretches = {{0, r, turn, pi},
                     {(way + out.loop * std::sin(off)) / std::cos(off), out.loop,
                      open_circle(out.loop, c.wire), std::atan2(cosine, std::sin(turn) * sine)}};
    return out;
}

LaidEnd lay_leg(const WireEnd& e, const CoilEnd& c, double r) {
    LaidEnd out;
    if (e.direction != LegDirection::tangential) {
        const double roll = e.direction == LegDirection::axial    ? up
                            : e.direction == LegDirection::radial ? 0
                                                                  : pi;
        out.stretches.push_back({0, r, e.direction == LegDirection::axial ? pi / 2 - c.slope : pi / 2, roll});
        out.tightest = r;
    }
    WireStretch last{in_mm(*e.size)};
    for (const LegBend& b : e.bends) {
        constexpr std::array rolls{0.0, pi, up, -up};
        last.radius = in_mm(b.radius);
        last.angle = b.angle;
        last.roll = rolls[static_cast<std::size_t>(b.towards)];
        out.tightest = out.tightest > 0 ? std::min(out.tightest, last.radius) : last.radius;
        out.stretches.push_back(last);
        last = {in_mm(b.straight)};
    }
    if (last.straight > 0) out.stretches.push_back(last);
    return out;
}

} // namespace

std::string_view word(WireEndKind kind) {
    return kinds[static_cast<std::size_t>(kind)];
}

WireEnd parse_wire_end(std::string_view text, LengthUnit unit, const Names& names) {
    return EndReader(text, unit, names).read();
}

std::string write_wire_end(const WireEnd& e, LengthUnit unit) {
    const auto length = [&](Length l) { return number_text(in_unit(l, unit), 9); };
    std::string t(word(e.kind));
    if (e.size) t += " " + length(*e.size);
    if (e.turns) t += " " + number_text(*e.turns, 9);
    if (e.ground) t += " ground";
    for (const auto& [key, size] : {std::pair{" tip ", &e.tip}, {" pitch ", &e.pitch}, {" gap ", &e.gap}})
        if (*size) t += key + length(**size);
    if (e.direction != LegDirection::tangential)
        t += " " + std::string(directions[static_cast<std::size_t>(e.direction)]);
    if (e.radius) t += " r " + length(*e.radius);
    for (const LegBend& b : e.bends) {
        t += " bent " + number_text(b.angle * 180 / pi, 9) + " r " + length(b.radius) + " " +
             length(b.straight);
        if (b.towards != BendTowards::out) t += " " + std::string(sides[static_cast<std::size_t>(b.towards)]);
    }
    return t;
}

bool is_wire_end_word(std::string_view lowered) {
    const auto in = [&](const auto& words) { return std::ranges::find(words, lowered) != words.end(); };
    return in(kinds) || in(directions) || in(sides) || in(turned) || lowered == "bent" || lowered == "r";
}

LaidEnd lay(const WireEnd& e, const CoilEnd& c) {
    const double usual = e.kind == WireEndKind::leg ? 1.5 * c.wire : c.wire,
                 r = e.radius ? in_mm(*e.radius) : std::min(usual, std::max(0.6 * c.wire, 0.45 * c.radius));
    const auto require_bend = [&](double radius) {
        if (radius < 0.55 * c.wire)
            throw InputError("A bend of " + millimetre(radius) + " is tighter than a wire of " +
                             millimetre(c.wire) + " can be bent: to its middle at least " +
                             millimetre(0.55 * c.wire) + ".");
    };
    require_bend(r);
    for (const LegBend& b : e.bends)
        require_bend(in_mm(b.radius));
    switch (e.kind) {
    case WireEndKind::plain:
    case WireEndKind::closed:
    case WireEndKind::open:
        return {};
    case WireEndKind::half:
    case WireEndKind::extended:
        return lay_half(e, c, r);
    case WireEndKind::full:
    case WireEndKind::side:
    case WireEndKind::eye:
        return lay_circle(e, c, r);
    case WireEndKind::leg:
        break;
    }
    return lay_leg(e, c, r);
}

} // namespace whorl
