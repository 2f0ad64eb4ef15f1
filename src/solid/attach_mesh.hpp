// Hands the kernel our own mesh: triangulations of its faces, polygons on them of its edges. Internal to the
// solid floor.
#pragma once

#include "solid/mesh.hpp"
#include "solid/skin.hpp"

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>

#include <vector>

namespace whorl::solid {

struct KernelEdge {
    TopoDS_Edge edge;
    bool swapped = false; // runs against the skin's direction
    bool bent = false;    // bends otherwise than about the axis, so its distance from its polygon is measured
};

// `faces` and `edges` in the skin's order.
void attach_mesh(const Skin& skin, const Mesh& mesh, const std::vector<TopoDS_Face>& faces,
                 const std::vector<KernelEdge>& edges);

} // namespace whorl::solid
