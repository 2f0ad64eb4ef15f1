// Scales of ISO 5455: 1, 2, 5 × 10ⁿ either way.
#pragma once

#include <string>
#include <vector>

namespace whorl::drawing {

const std::vector<double>& standard_scales(); // falling, 100 to 1/1000
std::string scale_words(double scale);        // "5 : 1", "1 : 2"
double scale_of(const std::string& words);    // throws InputError with those there are

} // namespace whorl::drawing
