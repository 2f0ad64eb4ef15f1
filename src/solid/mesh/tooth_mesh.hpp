// Triangulating toothed zones. Internal to the solid floor.
//
// A toothed face is a grid: along the outline the samples of its curve, along the axis rows at equal
// distances, as many in every face of a zone. A row's chord across the helix leaves r·(1 − cos(δ/2)), and the
// twist of a cell, whose two sides of length l differ by the turn δ of a row, at most l·δ/4.
#pragma once

#include "solid/mesh/mesh.hpp"

#include <map>

namespace whorl::solid {

class ToothMesher {
public:
    // `chord` (mm) is for the samples along the outline and for the twist.
    ToothMesher(const Skin& skin, double step, double chord);

    double chord() const { return chord_; }
    const std::vector<double>& samples_of(const TransverseCurve& curve) const;
    // Rows of a toothed zone, of which a rail is sampled in as many equal parts.
    int rows_of(const Edge& rail) const;

    void add_toothed(const Skin& skin, Mesh& mesh, std::size_t face) const;
    // A flat face with teeth in its boundary.
    void add_flat(const Skin& skin, Mesh& mesh, std::size_t face) const;

private:
    double step_, chord_;
    std::map<const TransverseCurve*, std::vector<double>> samples_;
    double longest_ = 0; // side along an outline, mm
};

bool has_teeth(const Skin& skin, const Face& flat);

// The wall of a drum cam's track: rows from edge to edge, as many in all walls of a zone.
int wall_rows(double bulge, double chord);
void add_wall(const Skin& skin, Mesh& mesh, std::size_t face, double chord);

// A cylinder inside a bend: rows across the bar, as far apart as the torus' chords allow.
int bend_rows(const Skin& skin, const Edge& along, double chord);
void add_bent(const Skin& skin, Mesh& mesh, std::size_t face);

} // namespace whorl::solid
