#include "check/kit.hpp"

#include "model/row.hpp"
#include "quantity/expression.hpp"

#include <cmath>
#include <numbers>

namespace whorl {

std::string Looking::shown(double millimetres) const {
    return shown_length(millimetres, unit) + " " + symbol(unit);
}

void Looking::found(Severity severity, std::string id, std::string sentence, double value, double limit,
                    std::optional<Remedy> remedy) const {
    out.push_back(
        {severity, std::move(id), std::move(sentence), piece, zone, value, limit, std::move(remedy)});
}

void Looking::stop(std::string id, std::string sentence, double value, double limit,
                   std::optional<Remedy> remedy) const {
    found(Severity::stop, std::move(id), std::move(sentence), value, limit, std::move(remedy));
}

void Looking::advise(std::string id, std::string sentence, double value, double limit,
                     std::optional<Remedy> remedy) const {
    found(Severity::advice, std::move(id), std::move(sentence), value, limit, std::move(remedy));
}

Edit Looking::with(Field field, std::string text) const {
    return {piece, zone, field, std::move(text), LengthUnit::millimetre};
}

Remedy Looking::edit(std::string words, Field field, std::string text) const {
    return {std::move(words), {with(field, std::move(text))}};
}

Remedy Looking::edit(std::string words, Field field, double millimetres) const {
    return edit(std::move(words), field, number_text(millimetres, 9));
}

std::string degrees(double radians, int places) {
    return number_text(radians * 180 / std::numbers::pi, places) + "°";
}

std::string rounded_up(double v, double step) {
    return number_text(std::ceil(v / step - 1e-6) * step, 4);
}

std::string rounded_down(double v, double step) {
    return number_text(std::floor(v / step + 1e-9) * step, 4);
}

} // namespace whorl
