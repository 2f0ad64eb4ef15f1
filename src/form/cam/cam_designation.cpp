#include "form/cam/cam.hpp"
#include "form/cam/cam_words.hpp"
#include "form/reader.hpp"

#include <array>

namespace whorl {
namespace {

constexpr std::string_view follower_words[]{"roller", "knife", "flat", "mushroom"};
constexpr const char* example =
    "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120, dwell 60; roller 8; b10";

} // namespace

std::string_view word(FollowerKind kind) {
    return follower_words[static_cast<int>(kind)];
}

bool is_cam(std::string_view text) {
    Reader r(text);
    return r.take_word_ignoring_case("cam");
}

CamDesignation parse_cam(std::string_view text) {
    Reader r(text);
    r.take_word_ignoring_case("cam");
    CamDesignation out;
    CamSpec& s = out.spec;
    // the unit first: it is said at the end and holds for all
    std::string_view body = text;
    const auto trimmed = [](std::string_view t) {
        while (!t.empty() && t.back() == ' ')
            t.remove_suffix(1);
        return t;
    };
    body = trimmed(body);
    if (body.size() > 3 && (body.ends_with("; in") || body.ends_with(" in")) &&
        body.rfind(';') != std::string_view::npos) {
        out.unit = LengthUnit::inch;
        body = trimmed(body.substr(0, body.size() - 2));
    }
    const auto length_of = [&](double v) { return of_unit(v, out.unit); };
    r.skip_blanks();
    if (!r.take("r") && !r.take("R"))
        r.refuse(std::string("A cam begins with its base radius, for example ") + example + ".");
    r.skip_blanks();
    s.base_radius =
        length_of(r.positive("base radius", "The base radius is expected here, for example cam r20: …"));
    r.skip_blanks();
    if (!r.take(":")) r.refuse(std::string("The timing follows a colon, for example ") + example + ".");
    const std::size_t begin = r.at();
    const std::size_t end = std::min(body.find(';', begin), body.size());
    try {
        s.timing = parse_timing(body.substr(begin, end - begin), out.unit);
    } catch (const InputError& e) {
        throw InputError(e.what(), begin + e.position, e.extent);
    }
    bool follower = false, place = false, length = false, offset = false;
    const auto once = [&](bool& given, std::size_t from, const char* what) {
        if (given) r.refuse_from(from, std::string(what) + " is said a second time; write it once.");
        given = true;
    };
    r.move_to(end);
    CamWords common(r, turning(s));
    const auto number = [&](const char* what, const char* shown) {
        r.skip_blanks();
        return r.positive(what, "A " + std::string(what) + " is expected here, for example " + shown + ".");
    };
    for (r.skip_blanks(); r.at() < body.size(); r.skip_blanks()) {
        const std::size_t from = r.at();
        if (r.take(";") || r.take(",")) continue;
        bool known = false;
        for (std::size_t k = 0; k < std::size(follower_words) && !known; ++k)
            if (r.take_word_ignoring_case(follower_words[k])) {
                once(follower, from, "The follower");
                s.follower = static_cast<FollowerKind>(k);
                known = true;
                if (s.follower == FollowerKind::roller) s.size = length_of(number("diameter", "roller 8"));
                if (s.follower == FollowerKind::mushroom) s.size = length_of(number("radius", "mushroom 60"));
            }
        if (known || common.take()) continue;
        if (r.take_word_ignoring_case("offset")) {
            once(offset, from, "offset");
            r.skip_blanks();
            const bool minus = r.take("-") || r.take("−");
            s.offset = length_of(number("offset", "offset 4")) * (minus ? -1.0 : 1.0);
        } else if (r.take_word_ignoring_case("swing")) {
            once(place, from, "swing");
            s.arm = length_of(number("length of the arm", "swing 50 60"));
            s.centre = length_of(number("distance of the pivot from the axis", "swing 50 60"));
        } else if (r.take("b") || r.take("B")) {
            once(length, from, "The width");
            out.length = length_of(number("width", "b10"));
        } else {
            r.refuse(
                "This is not understood in a cam; write roller, knife, flat or mushroom, offset, swing, "
                "b and the width, at and an angle, clockwise, mass, spring, preload or rpm, for example " +
                std::string(example) + ".");
        }
    }
    if (!follower)
        s.size = length_of(out.unit == LengthUnit::inch ? 0.4 : 10); // a roller, unless one is said
    try {
        (void)resolve_cam(s);
    } catch (const InputError& e) {
        throw InputError(e.what(), text.size());
    }
    return out;
}

std::string write_cam(const CamSpec& s, std::optional<Length> length, LengthUnit unit) {
    const auto number = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    std::string text = "cam r" + number(s.base_radius) + ": " + write_timing(s.timing, unit) + "; " +
                       std::string(word(s.follower));
    if (s.follower == FollowerKind::roller || s.follower == FollowerKind::mushroom)
        text += " " + number(s.size);
    if (s.swings()) text += " swing " + number(*s.arm) + " " + number(*s.centre);
    if (in_mm(s.offset) != 0) text += " offset " + number(s.offset);
    if (length) text += "; b" + number(*length);
    text += cam_words(s.clockwise, s.at, s.rpm, s.load);
    return text + (unit == LengthUnit::inch ? "; in" : "");
}

} // namespace whorl
