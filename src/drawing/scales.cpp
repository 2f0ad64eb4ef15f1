#include "drawing/scales.hpp"

#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

namespace whorl::drawing {

const std::vector<double>& standard_scales() {
    static const std::vector<double> all{100,       50,        20,        10,        5,        2,
                                         1,         1 / 2.0,   1 / 5.0,   1 / 10.0,  1 / 20.0, 1 / 50.0,
                                         1 / 100.0, 1 / 200.0, 1 / 500.0, 1 / 1000.0};
    return all;
}

std::string scale_words(double scale) {
    return scale >= 1 ? number_text(scale, 3) + " : 1" : "1 : " + number_text(1 / scale, 3);
}

double scale_of(const std::string& words) {
    const auto tight = [](std::string text) {
        std::erase(text, ' ');
        return text;
    };
    std::string known;
    for (const double k : standard_scales()) {
        if (tight(words) == tight(scale_words(k))) return k;
        known += (known.empty() ? "" : ", ") + tight(scale_words(k));
    }
    throw InputError("There is no scale '" + words + "' in ISO 5455; there are " + known + ".");
}

} // namespace whorl::drawing
