// Rows that several forms have. Internal to the model floor's forms.
#pragma once

#include "model/field.hpp"
#include "model/row.hpp"

namespace whorl {

Row length_row(const char* label, const char* tip, const char* of);
Row near_end_row();
Row diameter_row(NumberPlace number, const char* tip, const char* label = "Diameter");
Row far_diameter_row(NumberPlace number, const char* tip); // of a cone
Row start_angle_row(NumberPlace number);
// What a turn goes on by; `set` is the form's own.
Row lead_row(std::string (*get)(const Zone&, const Reading&), void (*set)(Zone&, const Typed&),
             Shown (*shown)(const Zone&, const ResolvedZone&, const Reading&));
Row far_end_row();
Row web_row();
Row follows_row(); // of another zone of its piece
Row zone_finish_row();
// "steel", "steel #7A5AA8", or "#7A5AA8" for what is of `material`; throws InputError with what there is. Empty
// `material`: a colour alone stays one.
std::string finish_asked(const Typed& typed, std::string material);
Row repeat_row(); // an order, not a value: see repeat_zones()

constexpr ChoiceWord hand_words[]{{"right", "rh|r"}, {"left", "lh|l"}};
// Of a member; more can be set of the row that is given back.
template<auto Member>
Row hand_row(const char* tip) {
    return {.field = field::hand,
            .label = "Hand",
            .tip = tip,
            .of = "a thread, a groove, helical teeth, a slanting knurl or a coil",
            .kind = RowKind::choice,
            .choice = choice_of<Member, hand_words>,
            .kept = {.key = "hand"}};
}

// Whether the real form is made, or a plain surface instead: `Simplified` says the latter.
constexpr ChoiceWord geometry_words[]{{"real"}, {"simplified"}};
template<auto Simplified>
Row geometry_row(const char* tip) {
    return {.field = field::geometry,
            .label = "Geometry",
            .tip = tip,
            .of = "a thread, a knurl or a groove",
            .kind = RowKind::choice,
            .choice = choice_of<Simplified, geometry_words>,
            .kept = {.key = "geometry"}};
}

// An angle in degrees that is kept as typed; evaluated at once, since not every zone looks at it.
void set_angle(Number& kept, const Typed& typed);
void set_length(Number& kept, const Typed& typed);

// Root and crest of what the screw motion sweeps, with its taper.
Radii swept_radii_at(const ResolvedZone& zone, double z);

std::string exact_number(Length l, LengthUnit unit); // for a text that nothing may be lost of

} // namespace whorl
