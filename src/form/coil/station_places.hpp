// Where the stations of a spring stand along its wire, as it is made.
#pragma once

#include "form/coil/coil.hpp"

namespace whorl {

// In turns from the near end, one for each of the spec's pitches and diameters; of a single one the middle of its turns.
std::vector<double> pitch_places(const ResolvedCoil& coil);
std::vector<double> diameter_places(const ResolvedCoil& coil);

// The height over the near end, mm, of the wire's middle at so many turns: what a station's z is.
double station_height(const ResolvedCoil& coil, double turn);

} // namespace whorl
