// The reader's locale, as far as numbers go. Inside, and wherever numbers are shown or written, the decimal
// sign is a point; where the locale writes a comma, one may be typed.
#pragma once

#include <QString>

namespace whorl::app {

// The toolkit sets the C library's locale to the user's; this takes its numbers back. To be called once the
// application object is there.
void use_plain_numbers();

// What was typed, with points for decimal commas where the locale has them.
QString with_points(const QString& typed);

} // namespace whorl::app
