// Rows of a thread's sheet.
#pragma once

#include "form/thread/family.hpp"

namespace whorl {

// "none" for a diameter that would be negative.
ResolvedValue length_value(std::string key, std::string label, double mm_value, std::string source);
ResolvedValue limits_value(std::string key, std::string label, const Limits& l);
ResolvedValue text_value(std::string key, std::string label, std::string text, std::string source);

} // namespace whorl
