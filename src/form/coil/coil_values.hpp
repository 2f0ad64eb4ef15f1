// What a spring's sheet says. Internal to the form floor.
#pragma once

#include "form/coil/coil.hpp"

namespace whorl {

// Tensile strength of its wire, MPa; none where that is not known.
std::optional<double> strength_of(const CoilSpec& spec);
// q of EN 13906-3: how much higher a bent wire is stressed on its inner side, by the index w = D/d of the bend.
double bending_factor(double index);

void list_values(ResolvedCoil& coil);

} // namespace whorl
