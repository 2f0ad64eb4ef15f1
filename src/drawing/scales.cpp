#include "drawing/scales.hpp"

#include "quantity/expression.hpp"

namespace whorl::drawing {

const std::vector<double>& standard_scales() {
    static const std::vector<double> all{100,     50,       20,       10,       5,        2,         1,        1 / 2.0,
                                         1 / 5.0, 1 / 10.0, 1 / 20.0, 1 / 50.0, 1 / 100.0, 1 / 200.0, 1 / 500.0, 1 / 1000.0};
    return all;
}

std::string scale_words(double scale) {
    return scale >= 1 ? number_text(scale, 3) + " : 1" : "1 : " + number_text(1 / scale, 3);
}

} // namespace whorl::drawing
