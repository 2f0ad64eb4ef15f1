#include "form/coil/station_places.hpp"

#include "quantity/numeric.hpp"

namespace whorl {
namespace {

double base_of(const ResolvedCoil& c) {
    return c.has_ends() ? c.axial / 2 : c.near_turns.over;
}

std::vector<double> places(const ResolvedCoil& c, const std::vector<CoilStation>& stations, double from,
                           double to) {
    if (stations.empty()) return {};
    if (stations.size() == 1) return {(from + to) / 2};
    if (!by_height(stations)) return placed(stations, from, to);
    std::vector<double> out;
    for (const double z : placed(stations, station_height(c, from), station_height(c, to)))
        out.push_back(c.line.turn_at_height(z - base_of(c)));
    return out;
}

} // namespace

std::vector<double> pitch_places(const ResolvedCoil& c) {
    return places(c, c.spec.pitch, c.active_from, c.active_to);
}
std::vector<double> diameter_places(const ResolvedCoil& c) {
    return places(c, c.spec.diameters, 0, c.line.shape().turns);
}
double station_height(const ResolvedCoil& c, double turn) {
    return base_of(c) + c.line.height(full_turn * turn);
}

} // namespace whorl
