#include "form/cam/cam_words.hpp"
#include "form/cam/drum.hpp"
#include "form/reader.hpp"

namespace whorl {
namespace {

constexpr const char* example =
    "drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150, dwell; groove 8 wide 6 deep";

bool take_drum_cam(Reader& r) {
    if (!r.take_word_ignoring_case("drum")) return false;
    r.skip_blanks();
    r.take_word_ignoring_case("cam");
    return true;
}

// "8 turns", else nothing is taken.
std::optional<int> turns_at(Reader& r) {
    const std::size_t from = r.at();
    if (const auto n = r.take_decimal()) {
        r.skip_blanks();
        if (r.take_word_ignoring_case("turns") || r.take_word_ignoring_case("turn")) {
            if (*n < 1 || *n > most_turns || *n != static_cast<int>(*n))
                r.refuse_from(from, "A track has a whole number of turns, from 1 to " +
                                        std::to_string(most_turns) + ".");
            return static_cast<int>(*n);
        }
    }
    r.move_to(from);
    return {};
}

} // namespace

bool is_drum(std::string_view text) {
    Reader r(text);
    return take_drum_cam(r);
}

DrumDesignation parse_drum(std::string_view text) {
    Reader r(text);
    take_drum_cam(r);
    DrumDesignation out;
    DrumSpec& s = out.spec;
    std::string_view body = text;
    const auto trimmed = [](std::string_view t) {
        while (!t.empty() && t.back() == ' ')
            t.remove_suffix(1);
        return t;
    };
    body = trimmed(body);
    if (body.size() > 3 && body.ends_with("; in")) {
        out.unit = LengthUnit::inch;
        body = trimmed(body.substr(0, body.size() - 2));
    }
    const auto length_of = [&](double v) { return of_unit(v, out.unit); };
    const auto number = [&](const char* what, const char* shown) {
        r.skip_blanks();
        return length_of(r.size(what, expected_here(what, shown)));
    };
    bool diameter = false, length = false;
    for (r.skip_blanks(); !r.take(":"); r.skip_blanks()) {
        if (!diameter && (r.take("d") || r.take("D"))) {
            s.diameter = number("diameter", "d72");
            diameter = true;
        } else if (!length && (r.take("b") || r.take("B"))) {
            out.length = number("length", "b50");
            length = true;
        } else {
            r.refuse(std::string(diameter && length
                                     ? "The timing follows a colon, for example "
                                     : "A drum cam begins with its diameter and its length, for example ") +
                     example + ".");
        }
    }
    if (!diameter || !length)
        r.refuse(std::string("A drum cam begins with its diameter and its length, for example ") + example +
                 ".");
    const std::size_t begin = r.at(), end = std::min(body.find(';', begin), body.size());
    try {
        s.timing = parse_timing(body.substr(begin, end - begin), out.unit);
    } catch (const InputError& e) {
        throw InputError(e.what(), begin + e.position, e.extent);
    }
    r.move_to(end);
    CamWords common(r, turning(s));
    bool track = false;
    for (r.skip_blanks(); r.at() < body.size(); r.skip_blanks()) {
        const std::size_t from = r.at();
        if (r.take(";") || r.take(",")) continue;
        if (const auto n = turns_at(r)) {
            s.timing.turns = *n;
            continue;
        }
        if (common.take() || take_bore(r, out.body, out.unit)) continue;
        if (r.take_word_ignoring_case("line")) {
            if (track) r.refuse_from(from, "The track is said a second time; write it once.");
            track = true;
            s.track = TrackKind::line;
            continue;
        }
        const bool groove = r.take_word_ignoring_case("groove");
        if (groove || r.take_word_ignoring_case("rib")) {
            if (track) r.refuse_from(from, "The track is said a second time; write it once.");
            track = true;
            s.track = groove ? TrackKind::groove : TrackKind::rib;
            for (int k = 0; k < 2; ++k) {
                const Length v = number(k == 0 ? "width" : "depth", "groove 8 wide 6 deep");
                r.skip_blanks();
                if (r.take_word_ignoring_case("wide"))
                    s.width = v;
                else if (r.take_word_ignoring_case("deep") || r.take_word_ignoring_case("high"))
                    s.depth = v;
                else
                    r.refuse(std::string("Say what this is: ") +
                             (groove ? "groove 8 wide 6 deep." : "rib 5 wide 4 high."));
            }
        } else if (r.take_word_ignoring_case("straight")) {
            r.skip_blanks();
            r.take_word_ignoring_case("walls");
            s.walls = WallKind::straight;
        } else if (r.take_word_ignoring_case("swing")) {
            s.arm = number("length of the arm", "swing 60");
        } else if (r.take_word_ignoring_case("corners")) {
            r.skip_blanks();
            if (r.take_word_ignoring_case("sharp")) {
                s.corners = CornerKind::sharp;
            } else if (r.take_word_ignoring_case("blended")) {
                s.corners = CornerKind::blended;
            } else {
                s.corner = number("radius, sharp or blended", "corners 6");
                r.skip_blanks();
                if (r.take_word_ignoring_case("blended")) s.corners = CornerKind::blended;
            }
        } else if (r.take_word_ignoring_case("from")) {
            s.from = number("distance from the near end", "from 12");
        } else {
            r.refuse(
                "This is not understood in a drum cam; write groove or rib with its width and depth, line, "
                "corners and their radius, sharp or blended, turns, straight walls, swing, from, at, "
                "clockwise, mass, "
                "preload, bore or rpm, for example " +
                std::string(example) + ".");
        }
    }
    if (s.load.rate != 0)
        throw InputError(
            "A drum cam holds its roller on both sides and needs no spring; write preload for a force "
            "that is there all the way.",
            text.size());
    try {
        (void)resolve_drum(s, out.length);
    } catch (const InputError& e) {
        throw InputError(e.what(), text.size());
    }
    return out;
}

std::string write_drum(const DrumSpec& s, Length length, LengthUnit unit) {
    const auto number = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    std::string text = "drum cam d" + number(s.diameter) + " b" + number(length) + ": " +
                       write_timing(s.timing, unit) + "; " + std::string(word(s.track));
    if (s.track != TrackKind::line)
        text += " " + number(s.width) + " wide " + number(s.depth) +
                (s.track == TrackKind::rib ? " high" : " deep");
    if (s.arm) text += " swing " + number(*s.arm);
    if (s.corner || s.corners != CornerKind::rounded) text += " corners";
    if (s.corner) text += " " + number(*s.corner);
    if (s.corners != CornerKind::rounded) text += " " + std::string(word(s.corners));
    if (s.timing.turns > 1) text += "; " + std::to_string(s.timing.turns) + " turns";
    if (s.walls == WallKind::straight) text += "; straight walls";
    if (s.from) text += " from " + number(*s.from);
    text += cam_words(s.clockwise, s.at, s.rpm, s.load);
    return text + (unit == LengthUnit::inch ? "; in" : "");
}

} // namespace whorl
