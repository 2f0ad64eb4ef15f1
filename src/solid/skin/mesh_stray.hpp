// How far a skin's mesh is off the truth, as receivers are told. Internal to the solid floor.
#pragma once

#include "solid/mesh/mesh.hpp"

#include <map>
#include <tuple>

namespace whorl::solid {

// Of faces, and of edges that bend about the axis only, mm.
double skin_deflection(const Skin& skin, const Mesh& mesh);

// How far an edge that bends otherwise strays from the polyline through these of the mesh's points, measured.
// All teeth share their curves and are sampled alike, so each curve is measured once.
class StrayReader {
public:
    double operator()(const Edge& e, const Mesh& mesh, const std::vector<std::uint32_t>& points);

private:
    std::map<std::tuple<const TransverseCurve*, double, double, std::size_t>, double> known_;
};

} // namespace whorl::solid
