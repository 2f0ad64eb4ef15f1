// Lengths and angles that cannot be mixed up.
//
// A Quantity is one double with a kind. Lengths are held in millimetres and angles in radians; other
// units exist only at the edges, through the named makers and readers below. Quantities of the same kind
// add and compare, a plain number scales them, and the ratio of two of a kind is a plain number.
#pragma once

#include <cmath>
#include <compare>
#include <numbers>

namespace whorl {

template<class Kind>
class Quantity {
public:
    constexpr Quantity() = default;

    friend constexpr Quantity operator+(Quantity a, Quantity b) { return Quantity(a.base_ + b.base_); }
    friend constexpr Quantity operator-(Quantity a, Quantity b) { return Quantity(a.base_ - b.base_); }
    friend constexpr Quantity operator-(Quantity a) { return Quantity(-a.base_); }
    friend constexpr Quantity operator*(Quantity a, double k) { return Quantity(a.base_ * k); }
    friend constexpr Quantity operator*(double k, Quantity a) { return Quantity(a.base_ * k); }
    friend constexpr Quantity operator/(Quantity a, double k) { return Quantity(a.base_ / k); }
    friend constexpr double operator/(Quantity a, Quantity b) { return a.base_ / b.base_; }
    friend constexpr auto operator<=>(Quantity, Quantity) = default;
    constexpr Quantity& operator+=(Quantity b) {
        base_ += b.base_;
        return *this;
    }

protected:
    constexpr explicit Quantity(double base) : base_(base) {}
    double base_ = 0;
    friend Kind;
};

struct LengthKind {
    static constexpr double millimetres_per_inch = 25.4; // exact, ISO 80000-3
    static constexpr Quantity<LengthKind> make(double mm) { return Quantity<LengthKind>(mm); }
    static constexpr double read(Quantity<LengthKind> q) { return q.base_; }
};
struct AngleKind {
    static constexpr Quantity<AngleKind> make(double rad) { return Quantity<AngleKind>(rad); }
    static constexpr double read(Quantity<AngleKind> q) { return q.base_; }
};

using Length = Quantity<LengthKind>;
using Angle = Quantity<AngleKind>;

constexpr Length mm(double v) {
    return LengthKind::make(v);
}
constexpr Length inch(double v) {
    return LengthKind::make(v * LengthKind::millimetres_per_inch);
}
constexpr double in_mm(Length l) {
    return LengthKind::read(l);
}
constexpr double in_inch(Length l) {
    return LengthKind::read(l) / LengthKind::millimetres_per_inch;
}

constexpr Angle rad(double v) {
    return AngleKind::make(v);
}
constexpr Angle deg(double v) {
    return AngleKind::make(v * std::numbers::pi / 180);
}
constexpr double in_rad(Angle a) {
    return AngleKind::read(a);
}
constexpr double in_deg(Angle a) {
    return AngleKind::read(a) * 180 / std::numbers::pi;
}

// The unit a person reads and types; the core itself is in millimetres.
enum class LengthUnit { millimetre, inch };

constexpr double in_unit(Length l, LengthUnit u) {
    return u == LengthUnit::inch ? in_inch(l) : in_mm(l);
}
constexpr Length of_unit(double v, LengthUnit u) {
    return u == LengthUnit::inch ? inch(v) : mm(v);
}
constexpr const char* symbol(LengthUnit u) {
    return u == LengthUnit::inch ? "in" : "mm";
}

} // namespace whorl
