// A count for a sentence that says "about": three figures are enough.
#pragma once

#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {

inline std::string about(double count) {
    const double step =
        std::pow(10, std::max(0.0, std::floor(std::log10(std::max(1.0, std::abs(count)))) - 2));
    return "about " + number_text(std::round(count / step) * step, 0);
}

} // namespace whorl
