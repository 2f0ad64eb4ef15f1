// Arithmetic in a field: `1/18 in`, `pi*64`, `2*pitch`.
//
// A unit (mm, cm, in, inch, ", deg, °, rad) multiplies everything before it in its term, so `1/18 in` is an
// eighteenth of an inch. A field's own unit applies to the plain-number part of the result: with
// `pitch = 1.5 mm`, the text `2*pitch + 1` in an inch field is 3 mm + 1 in.
//
// Whether a result is a length is found out, not declared: the text is evaluated with all lengths scaled
// by 1, 2 and 3. A length grows in proportion, a plain number stays, anything else (`pitch*pitch`, `1/pitch`)
// is refused with a sentence. Arithmetic is muParser's: + - * / ^, comparison, sin cos tan asin acos atan
// (in radians), sqrt, exp, ln, log10, abs, min, max, and the constant pi.
//
// A named value that was written as a plain number in inch (`3/4`) may be meant as a length or as a count: it is an
// InchNumber, so many inch where a length comes out, the plain number elsewhere.
#pragma once

#include "quantity/input_error.hpp"
#include "quantity/names.hpp"
#include "quantity/quantity.hpp"

#include <string>
#include <string_view>

namespace whorl {

// Throws InputError if `name` cannot be used: wrong characters, a unit, a constant or a function's name.
void require_usable_name(std::string_view name);

// All of these throw InputError with the position of the trouble in `text`. The result is always finite.
Length evaluate_length(std::string_view text, LengthUnit field_unit, const Names& names = {});
Angle evaluate_angle(std::string_view text, const Names& names = {}); // plain numbers are degrees
double evaluate_number(std::string_view text, const Names& names = {});
// Whatever kind it turns out to be; what is a plain number only because InchNumbers in it are taken as such, is one.
Value evaluate(std::string_view text, const Names& names = {});

// What was typed where a comma is the decimal sign, with points in place of such commas: those between two
// digits that no function's brackets enclose. `1,5` and `(1,5 + 2)*3` are numbers, `max(1,5)` is a list.
std::string with_decimal_points(std::string_view typed);

// The shortest text with at most `decimals` places that reads back as the value, without a unit. The
// decimal sign is a point in every locale.
std::string number_text(double value, int decimals);

// A value for the sentence that refuses it for lying outside a range: with as many digits as tell it from the
// range's ends, very large and very small ones with an exponent.
std::string outside_text(double value, double least, double most);

// A length in a unit: 4 decimals for mm, 5 for inch, no trailing zeros, no unit symbol.
std::string length_text(Length value, LengthUnit unit);

} // namespace whorl
