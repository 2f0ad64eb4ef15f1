#include "form/coil/wire_shape.hpp"

#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

// Σ term(k) over odd k, until a term is nothing beside the sum.
template<class Term>
double odd_sum(Term term) {
    double sum = 0;
    for (int k = 1; k < 2000; k += 2) {
        const double t = term(k);
        sum += t;
        if (t < 1e-12 * sum) break;
    }
    return sum;
}

double to_power(double x, int n) {
    return std::pow(x, n);
}

// Where the x of "3 x 2" stands: between two numbers, not in a name.
std::size_t cross_in(std::string_view text) {
    for (std::size_t i = 1; i + 1 < text.size(); ++i) {
        const auto letter = [&](std::size_t at) {
            return std::isalpha(static_cast<unsigned char>(text[at])) || text[at] == '_';
        };
        if ((text[i] == 'x' || text[i] == 'X') && !letter(i - 1) && !letter(i + 1)) return i;
    }
    return text.npos;
}

} // namespace

WireShape::At WireShape::at(double phi) const {
    const double c = std::cos(phi), s = std::sin(phi);
    const double to_edge = round ? 1 : std::max(std::abs(c), std::abs(s));
    return {across / 2 * c / to_edge, axial / 2 * s / to_edge};
}

double WireShape::reach(double x, double y) const {
    return round ? across / 2 * std::hypot(x, y) : across / 2 * std::abs(x) + axial / 2 * std::abs(y);
}

double WireShape::area() const {
    return round ? pi * across * across / 4 : across * axial;
}

double WireShape::twist() const {
    if (round) return pi * to_power(across, 4) / 32;
    const double a = std::max(across, axial), b = std::min(across, axial);
    return a * b * b * b * (1.0 / 3 - 64 * b / (to_power(pi, 5) * a) * odd_sum([&](int k) {
                                          return std::tanh(k * pi * a / (2 * b)) / to_power(k, 5);
                                      }));
}

double WireShape::twist_modulus() const {
    if (round) return pi * to_power(across, 3) / 16;
    const double a = std::max(across, axial), b = std::min(across, axial);
    return twist() / (b * (1 - 8 / (pi * pi) * odd_sum([&](int k) {
                                   return 1 / (k * k * std::cosh(k * pi * a / (2 * b)));
                               })));
}

double WireShape::bend() const {
    return round ? pi * to_power(across, 4) / 64 : axial * to_power(across, 3) / 12;
}

double WireShape::bend_modulus() const {
    return bend() / (across / 2);
}

WireSize read_wire(std::string_view text, LengthUnit unit, const Names& names) {
    const std::size_t x = cross_in(text);
    if (x == text.npos) return {evaluate_length(std::string(text), unit, names), {}};
    const auto side = [&](std::size_t from, std::size_t to) {
        try {
            return evaluate_length(std::string(text.substr(from, to - from)), unit, names);
        } catch (const InputError& e) {
            throw InputError(e.what(), from + e.position, e.extent);
        }
    };
    return {side(0, x), side(x + 1, text.size())};
}

std::string_view axial_part(std::string_view text) {
    const std::size_t x = cross_in(text);
    return x == text.npos ? text : text.substr(x + 1);
}

std::string write_wire(const WireSize& wire, LengthUnit unit) {
    const auto size = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    return size(wire.across) + (wire.axial ? "x" + size(*wire.axial) : "");
}

} // namespace whorl
