// What laying an outline over teeth needs, of gears and of racks. Internal to the exchange floor.
#pragma once

#include "exchange/gear_compare.hpp"

namespace whorl {

struct OutlineSample {
    double x, y, weight; // mm; the length it stands for
};
// Points along the pieces, their ends included, and not farther apart than `spacing` (mm), if that is given.
std::vector<OutlineSample> sampled(const std::vector<OutlinePiece>& pieces, double spacing = 0);

// How far a point (x along the tooth's height, y ≥ 0 from the middle of a space) lies off half an outline
// whose y is stretched so, mm and square to it; positive to the right of the outline, which rises from the
// space to the tooth. `depth` (mm) of the teeth tells what is too far off to be looked at.
double off_half_outline(const std::vector<TransverseCurve>& half, double stretch, double depth, double x,
                        double y);

// Where f is least between two arguments, by the golden section.
template<class F>
double golden_minimum(double low, double high, int steps, const F& f) {
    for (int i = 0; i < steps; ++i) {
        const double p = low + (high - low) * 0.381966, q = low + (high - low) * 0.618034;
        (f(p) < f(q) ? high : low) = f(p) < f(q) ? q : p;
    }
    return (low + high) / 2;
}

} // namespace whorl
