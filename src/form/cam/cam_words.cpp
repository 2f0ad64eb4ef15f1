#include "form/cam/cam_words.hpp"

#include <numbers>

namespace whorl {

namespace {
constexpr double pi = std::numbers::pi;
}

void CamWords::once(bool& given, std::size_t from, const char* what) {
    if (given) r_.refuse_from(from, std::string(what) + " is said a second time; write it once.");
    given = true;
}

double CamWords::signed_number(const char* what, const char* shown) {
    r_.skip_blanks();
    const bool minus = r_.take("-") || r_.take("−");
    r_.skip_blanks();
    const auto v = r_.take_decimal();
    if (!v) r_.refuse(std::string(what) + " is expected here, for example " + shown + ".");
    return minus ? -*v : *v;
}

bool CamWords::take() {
    const std::size_t from = r_.at();
    const auto unit = [&](std::initializer_list<const char*> words) {
        r_.skip_blanks();
        for (const char* w : words)
            if (r_.take_word_ignoring_case(w)) return std::string_view(w);
        return std::string_view();
    };
    if (r_.take_word_ignoring_case("clockwise") || r_.take_word_ignoring_case("cw")) {
        of_.clockwise = true;
    } else if (r_.take_word_ignoring_case("counter-clockwise") ||
               r_.take_word_ignoring_case("counterclockwise") ||
               r_.take_word_ignoring_case("anticlockwise") || r_.take_word_ignoring_case("ccw")) {
        of_.clockwise = false;
    } else if (r_.take_word_ignoring_case("at")) {
        once(turned_, from, "at");
        of_.at = signed_number("An angle in degrees", "at 90") * pi / 180;
        r_.take("°");
    } else if (r_.take_word_ignoring_case("mass")) {
        once(mass_, from, "mass");
        of_.load.mass = signed_number("The follower's mass in g", "mass 200");
        if (unit({"kg", "g"}) == "kg") of_.load.mass *= 1000;
    } else if (r_.take_word_ignoring_case("spring")) {
        once(spring_, from, "spring");
        of_.load.rate = signed_number("The spring's rate in N/mm", "spring 0.8");
        r_.skip_blanks();
        r_.take("N/mm");
    } else if (r_.take_word_ignoring_case("preload")) {
        once(preload_, from, "preload");
        of_.load.force = signed_number("The force at lift 0 in N", "preload 5");
        unit({"N"});
    } else if (const auto n = r_.take_decimal()) {
        r_.skip_blanks();
        if (!r_.take_word_ignoring_case("rpm"))
            r_.refuse_from(from, "What is this number? Write what it is before it, or rpm after a speed, for "
                                 "example 120 rpm.");
        once(speed_, from, "The speed");
        of_.rpm = *n;
    } else {
        return false;
    }
    return true;
}

std::string cam_words(bool clockwise, double at, double rpm, const FollowerLoad& load) {
    std::string text;
    if (at != 0) text += " at " + number_text(at * 180 / pi, 6);
    if (clockwise) text += " clockwise";
    if (load.said()) text += ";";
    if (load.mass != 0) text += " mass " + number_text(load.mass, 6);
    if (load.rate != 0) text += " spring " + number_text(load.rate, 6);
    if (load.force != 0) text += " preload " + number_text(load.force, 6);
    if (rpm != 60) text += "; " + number_text(rpm, 6) + " rpm";
    return text;
}

} // namespace whorl
