// Arithmetic in fields: a finite value or a sentence.
#include "quantity/expression.hpp"
#include "sentence.hpp"

#include <cmath>

using namespace whorl;

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const std::string text(reinterpret_cast<const char*>(data), size);
    const Names names{{"pitch", mm(1.5)}, {"n", 7.0}, {"slant", deg(30)}};
    const auto tried = [&](auto&& evaluated) {
        try {
            evaluated();
        } catch (const InputError& e) {
            fuzz::require_sentence(e, size);
        }
    };
    tried([&] {
        const double v = in_mm(evaluate_length(text, LengthUnit::millimetre, names));
        fuzz::require(std::isfinite(v), "finite", text);
        // and by another route: what is shown for it means the same
        if (std::abs(v) < 1e6 && std::abs(v) > 1e-3)
            fuzz::require(std::abs(in_mm(evaluate_length(number_text(v, 9), LengthUnit::millimetre)) - v) <=
                              1e-9,
                          "reads back", text);
    });
    tried([&] { fuzz::require(std::isfinite(in_rad(evaluate_angle(text, names))), "finite", text); });
    tried([&] { fuzz::require(std::isfinite(evaluate_number(text, names)), "finite", text); });
    tried([&] { evaluate(text, names); });
    tried([&] { require_usable_name(text); });
    with_decimal_points(text);
    return 0;
}
