// Rows that several forms have. Internal to the model floor's forms.
#pragma once

#include "model/row.hpp"

namespace whorl {

Row length_row(const char* label, const char* tip, const char* of);
Row near_end_row();
Row far_end_row();
Row web_row();

// A choice among words, for `set`: the place of `typed` in `words`; throws InputError with `sentence`.
std::size_t choose(const Typed& typed, std::initializer_list<std::initializer_list<const char*>> words,
                   const char* sentence);

Hand choose_hand(const Typed& typed); // "left", "lh", "R", …

// An angle in degrees that is kept as typed; evaluated at once, since not every zone looks at it.
void set_angle(Number& kept, const Typed& typed);
void set_length(Number& kept, const Typed& typed);

std::string exact_number(Length l, LengthUnit unit); // for a text that nothing may be lost of

} // namespace whorl
