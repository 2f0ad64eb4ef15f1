// What is said of a spring to its maker: tolerances by EN 15800 and the data of ISO 2162.
#pragma once

#include "form/coil/coil.hpp"

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace whorl {

// EN 15800, cold coiled compression springs of round wire, one diameter and one pitch: what load and free length may be off.
//
//   aF = 65.92·(d^3.3/D^1.6)·(−0.84·(w/10)³ + 3.781·(w/10)² − 4.244·(w/10) + 2.274)      N
//   kF = −1/(3·n²) + 8/(5·n) + 0.803
//   load ± (aF·kF + 0.015·F)·Q,  free length ± aF·kF·Q/R,  Q = 0.63, 1, 1.6 of grades 1, 2, 3
//
// for wire up to 16 mm, D up to 200 mm, w = 4 to 20, n from 2 on.
struct SpringTolerance {
    double length = 0;                                                             // ± mm
    double of_coils = 0;                                                           // aF·kF·Q, N
    double quality = 1;                                                            // Q
    double load(double force) const { return of_coils + 0.015 * force * quality; } // ± N
};
std::optional<SpringTolerance> spring_tolerance(const ResolvedCoil& coil); // none outside that

// Names and values, mm and N, as ISO 2162 has them for a drawing.
std::vector<std::pair<std::string, std::string>> data_block(const ResolvedCoil& coil);

} // namespace whorl
