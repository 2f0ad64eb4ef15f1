#include "drawing/dimension.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

namespace whorl::drawing {

std::string figure(double millimetres, LengthUnit unit) {
    return number_text(in_unit(mm(millimetres), unit), unit == LengthUnit::inch ? 4 : 3);
}

std::string degrees(double radians) {
    return number_text(radians * 180 / pi, 2) + "°";
}

std::string mass_words(double grams) {
    return grams >= 1000 ? number_text(grams / 1000, 3) + " kg"
                         : number_text(grams, grams < 10 ? 2 : 1) + " g";
}

Link ZoneDrawn::link(const char* key, Field field) const {
    return {piece_index, index, key, field};
}

Link ZoneDrawn::link(const char* key) const {
    return {piece_index, index, key, {}};
}

std::string ZoneDrawn::figure(double millimetres) const {
    return drawing::figure(millimetres, unit);
}

} // namespace whorl::drawing
