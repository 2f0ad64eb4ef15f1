#include "form/cam/cam.hpp"
#include "form/cam/cam_words.hpp"
#include "form/reader.hpp"

#include <array>
#include <cmath>

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

namespace {

class CamReader {
public:
    explicit CamReader(std::string_view text)
        : text_(text), body_(trimmed(text)), r_(text), common_(r_, turning(out_.spec)) {}

    CamDesignation read() {
        r_.take_word_ignoring_case("cam");
        // the unit first: it is said at the end and holds for all
        if (body_.size() > 3 && (body_.ends_with("; in") || body_.ends_with(" in")) &&
            body_.rfind(';') != std::string_view::npos) {
            out_.unit = LengthUnit::inch;
            body_ = trimmed(body_.substr(0, body_.size() - 2));
        }
        r_.skip_blanks();
        const bool second = r_.take_word_ignoring_case("conjugate");
        if (second)
            s_.conjugate = length_of(number("distance of the followers", "cam conjugate 60; b10"));
        else
            base_and_timing();
        for (r_.skip_blanks(); r_.at() < body_.size(); r_.skip_blanks())
            if (!r_.take(";") && !r_.take(",")) word(second);
        if (!follower_) // a roller, unless one is said
            s_.size = length_of(out_.unit == LengthUnit::inch ? 0.4 : 10);
        if (second) return out_;
        try {
            (void)resolve_cam(s_, out_.length ? in_mm(*out_.length) : 0);
            if (pair_) {
                if (!s_.conjugate) // as it is written
                    s_.conjugate = length_of(std::round(in_unit(usual_apart(s_), out_.unit) * 100) / 100);
                (void)resolve_cam(conjugate_of(s_, *s_.conjugate));
            }
        } catch (const InputError& e) {
            throw InputError(e.what(), text_.size());
        }
        return out_;
    }

private:
    static std::string_view trimmed(std::string_view t) {
        while (!t.empty() && t.back() == ' ')
            t.remove_suffix(1);
        return t;
    }
    Length length_of(double v) const { return of_unit(v, out_.unit); }
    void once(bool& given, std::size_t from, const char* what) {
        if (given) r_.refuse_from(from, std::string(what) + " is said a second time; write it once.");
        given = true;
    }
    double number(const char* what, const char* shown) {
        r_.skip_blanks();
        return r_.size(what, expected_here(what, shown));
    }

    void base_and_timing() {
        if (!r_.take("r") && !r_.take("R"))
            r_.refuse(std::string("A cam begins with its base radius, for example ") + example + ".");
        r_.skip_blanks();
        s_.base_radius =
            length_of(r_.positive("base radius", "The base radius is expected here, for example cam r20: …"));
        r_.skip_blanks();
        if (!r_.take(":")) r_.refuse(std::string("The timing follows a colon, for example ") + example + ".");
        const std::size_t begin = r_.at(), end = std::min(body_.find(';', begin), body_.size());
        try {
            s_.timing = parse_timing(body_.substr(begin, end - begin), out_.unit);
        } catch (const InputError& e) {
            throw InputError(e.what(), begin + e.position, e.extent);
        }
        r_.move_to(end);
    }

    void word(bool second) {
        const std::size_t from = r_.at();
        if (take_bore(r_, out_.body, out_.unit)) return;
        if (r_.take("b") || r_.take("B")) {
            once(length_, from, "The width");
            out_.length = length_of(number("width", "b10"));
            return;
        }
        if (second)
            r_.refuse(
                "A second lobe has its follower and all else from the first; only its width is said, for "
                "example cam conjugate 60; b10.");
        for (std::size_t k = 0; k < std::size(follower_words); ++k)
            if (r_.take_word_ignoring_case(follower_words[k])) {
                once(follower_, from, "The follower");
                s_.follower = static_cast<FollowerKind>(k);
                if (s_.follower == FollowerKind::roller) s_.size = length_of(number("diameter", "roller 8"));
                if (s_.follower == FollowerKind::mushroom)
                    s_.size = length_of(number("radius", "mushroom 60"));
                return;
            }
        if (common_.take()) return;
        if (r_.take_word_ignoring_case("offset")) {
            once(offset_, from, "offset");
            r_.skip_blanks();
            const bool minus = r_.take("-") || r_.take("−");
            s_.offset = length_of(number("offset", "offset 4")) * (minus ? -1.0 : 1.0);
        } else if (r_.take_word_ignoring_case("swing")) {
            once(place_, from, "swing");
            s_.arm = length_of(number("length of the arm", "swing 50 60"));
            s_.centre = length_of(number("distance of the pivot from the axis", "swing 50 60"));
        } else if (r_.take_word_ignoring_case("groove")) {
            once(groove_, from, "The groove");
            s_.groove_depth = length_of(number("depth", "groove 5 deep in d80"));
            r_.skip_blanks();
            const bool deep = r_.take_word_ignoring_case("deep");
            r_.skip_blanks();
            const bool in = deep && r_.take_word_ignoring_case("in");
            r_.skip_blanks();
            if (!in || (!r_.take("d") && !r_.take("D")))
                r_.refuse("A groove is written by its depth and the disc it is sunk into, for example groove "
                          "5 deep in "
                          "d80.");
            s_.disc = length_of(number("diameter", "groove 5 deep in d80"));
        } else if (r_.take_word_ignoring_case("conjugate")) {
            once(pair_, from, "conjugate");
            r_.skip_blanks();
            if (const auto apart = r_.take_decimal()) s_.conjugate = length_of(*apart);
        } else {
            r_.refuse(
                "This is not understood in a cam; write roller, knife, flat or mushroom, offset, swing, "
                "groove, conjugate, b and the width, bore, key, at and an angle, clockwise, mass, spring, "
                "preload or "
                "rpm, for "
                "example " +
                std::string(example) + ".");
        }
    }

    std::string_view text_, body_;
    Reader r_;
    CamDesignation out_;
    CamSpec& s_ = out_.spec;
    CamWords common_;
    bool follower_ = false, place_ = false, length_ = false, offset_ = false, pair_ = false, groove_ = false;
};

} // namespace

CamDesignation parse_cam(std::string_view text) {
    return CamReader(text).read();
}

std::string write_cam(const CamSpec& s, std::optional<Length> length, LengthUnit unit) {
    const auto number = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    if (s.conjugate && s.timing.stretches.empty())
        return "cam conjugate " + number(*s.conjugate) + (length ? "; b" + number(*length) : "") +
               (unit == LengthUnit::inch ? "; in" : "");
    std::string text = "cam r" + number(s.base_radius) + ": " + write_timing(s.timing, unit) + "; " +
                       std::string(word(s.follower));
    if (s.follower == FollowerKind::roller || s.follower == FollowerKind::mushroom)
        text += " " + number(s.size);
    if (s.swings()) text += " swing " + number(*s.arm) + " " + number(*s.centre);
    if (in_mm(s.offset) != 0) text += " offset " + number(s.offset);
    if (length) text += "; b" + number(*length);
    if (s.disc) text += "; groove " + number(s.groove_depth) + " deep in d" + number(*s.disc);
    if (s.conjugate) text += "; conjugate " + number(*s.conjugate);
    text += cam_words(s.clockwise, s.at, s.rpm, s.load);
    return text + (unit == LengthUnit::inch ? "; in" : "");
}

} // namespace whorl
