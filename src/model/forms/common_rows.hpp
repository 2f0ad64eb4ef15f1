// Rows that several forms have. Internal to the model floor's forms.
#pragma once

#include "model/field.hpp"
#include "model/row.hpp"

#include <nlohmann/json.hpp>

namespace whorl {

Row length_row(const char* label, const char* tip, const char* of);
Row near_end_row();
Row far_end_row();
Row web_row();
Row follows_row(); // of another zone of its piece
Row zone_finish_row();
// "steel", "steel #7A5AA8", or "#7A5AA8" for what is of `material`; throws InputError with what there is. Empty
// `material`: a colour alone stays one.
std::string finish_asked(const Typed& typed, std::string material);
Row repeat_row(); // an order, not a value: see repeat_zones()

// Whether the real form is made, or a plain surface instead: `Simplified` says the latter.
template<auto Simplified>
Row geometry_row(const char* tip);

// A choice among words, for `set`: the place of `typed` in `words`; throws InputError with `sentence`.
std::size_t choose(const Typed& typed, std::initializer_list<std::initializer_list<const char*>> words,
                   const char* sentence);

Hand choose_hand(const Typed& typed); // "left", "lh", "R", …

// An angle in degrees that is kept as typed; evaluated at once, since not every zone looks at it.
void set_angle(Number& kept, const Typed& typed);
void set_length(Number& kept, const Typed& typed);

std::string exact_number(Length l, LengthUnit unit); // for a text that nothing may be lost of

template<class F>
F form_of(bool F::*);

template<auto Simplified>
Row geometry_row(const char* tip) {
    using F = decltype(form_of(Simplified));
    return {.field = field::geometry,
            .label = "Geometry",
            .tip = tip,
            .of = "a thread, a knurl or a groove",
            .kind = RowKind::choice,
            .get =
                [](const Zone& z, const Reading&) {
                    return std::string(std::get<F>(z.form).*Simplified ? "simplified" : "real");
                },
            .set =
                [](Zone& z, const Typed& t) {
                    std::get<F>(z.form).*Simplified =
                        choose(t, {{"real"}, {"simplified"}}, "The geometry is real or simplified.") == 1;
                },
            .choices =
                [](const ResolvedZone&) {
                    return Words{"real", "simplified"};
                },
            .kept = {.key = "geometry",
                     .save =
                         [](const Zone& z, nlohmann::ordered_json& to) {
                             if (std::get<F>(z.form).*Simplified) to["geometry"] = "simplified";
                         },
                     .load =
                         [](Zone& z, const nlohmann::json& from) {
                             std::get<F>(z.form).*Simplified = from.value("geometry", "real") == "simplified";
                         }}};
}

} // namespace whorl
