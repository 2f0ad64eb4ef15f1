// The typeface that drawings are lettered in: Inter, shipped with the program, whatever is installed. Letters that it
// lacks come from the system's.
#pragma once

#include <string>

namespace whorl::drawing {

// mm, of one line whose capitals are `height` high. Remembered; safe to ask from several threads.
double text_width(const std::string& words, double height);

// What letters reach over and under their base line, × the height of capitals.
constexpr double ascent = 1.04, descent = 0.28;
// The typeface's height of capitals, × its size.
constexpr double capital_height = 0.727;
inline constexpr const char* typeface = "Inter";

} // namespace whorl::drawing
