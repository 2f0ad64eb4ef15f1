// What gears and racks have in common on this floor. Internal to its forms.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

Row module_row();
Row teeth_row(const char* tip);
Row pressure_angle_row(const char* tip);
Row helix_angle_row(const char* tip);
Row helix_hand_row(const char* tip);
Row profile_shift_row();
Row basic_rack_row();
Row tip_shortening_row();
Row tip_edge_row();
Row thinning_row();

// Whether the helix angle is written below zero, which turns the hand round.
bool turned_round(const Teeth& teeth, const Names& names);

// The numbers that a designation says.
Teeth teeth_asked(const GearSpec& spec, LengthUnit unit);
Teeth teeth_asked(const RackSpec& spec, LengthUnit unit);

// The specs, each error with its field's place.
GearSpec gear_spec(const Zone& zone, const std::string& place, const Names& names);
RackSpec rack_spec(const Zone& zone, const std::string& place, const Names& names);

} // namespace whorl
