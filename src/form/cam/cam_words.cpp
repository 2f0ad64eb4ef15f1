#include "form/cam/cam_words.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>

namespace whorl {

namespace {}

Timing take_timing(SpecReader& r) {
    const std::size_t begin = r.at();
    const std::string_view text = r.rest().substr(0, r.rest().find(';'));
    r.move_to(begin + text.size());
    try {
        return parse_timing(text, r.unit());
    } catch (const InputError& e) {
        throw InputError(e.what(), begin + e.position, e.extent);
    }
}

double load_at(SpecReader& r, const char* what, const char* example) {
    return r.any_number(std::string(what) + " is expected here, for example " + example + ".");
}

bool takes_unit(SpecReader& r, std::string_view unit, std::string_view other) {
    r.skip_blanks();
    return r.take_word_ignoring_case(unit) || (r.take_word_ignoring_case(other), false);
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
