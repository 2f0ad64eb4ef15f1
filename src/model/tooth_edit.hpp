// The fields of a toothed zone: read, written, resolved.
#pragma once

#include "model/edit.hpp"
#include "quantity/expression.hpp"

namespace whorl {

bool is_tooth_field(Field field);
// Throws InputError for a text that a field can't hold; values are checked when the job resolves.
void set_tooth_field(ToothForm& form, Field field, const Number& number);
// Whether the helix angle is written below zero, which turns the hand round.
bool turned_round(const ToothForm& form, const Names& names);
// As field_text().
std::string tooth_field_text(const ToothForm& form, Field field, LengthUnit unit, const Names& names);

ToothForm tooth_form(const GearSpec& spec, LengthUnit unit);
Zone rack_zone(const RackSpec& spec, LengthUnit unit);
// `place` is put before what an InputError says, see JobError.
GearSpec gear_spec(const ToothForm& form, bool internal, const std::string& place, const Names& names);
RackSpec rack_spec(const Zone& zone, const std::string& place, const Names& names);

} // namespace whorl
