// Puts a kernel solid together from vertices, edges and faces whose geometry is known: nothing is
// intersected, sewn or healed. Internal to the solid floor; includes the kernel.
#pragma once

#include "solid/mesh.hpp"
#include "solid/solid.hpp"

#include <BRep_Builder.hxx>
#include <Geom2d_Curve.hxx>
#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Vertex.hxx>

#include <functional>

namespace whorl::solid {

class BrepMaker {
public:
    BrepMaker(const Mesh& mesh, double tolerance);

    int add_vertex(const Point& at);
    // An edge from one vertex to another. Its curve runs from `first` to `last`; with `swapped` that is from
    // the second vertex to the first.
    int add_edge(const Handle(Geom_Curve) & curve, double first, double last, int from, int to,
                 bool swapped = false);
    // `loop` runs counter-clockwise seen from outside. `image` gives an edge's curve in the surface, or null
    // where the kernel needs none (planes). With `turned` the surface's own normal points inwards.
    TopoDS_Face add_face(const Handle(Geom_Surface) & surface, const std::vector<EdgeUse>& loop, bool turned,
                         const std::function<Handle(Geom2d_Curve)(int edge)>& image);
    // The mesh's triangles of a face and its polygons on the face's edges; `deflection` is how far they are
    // off. `parameters` gives the points' parameters on an edge's curve, from its first vertex on, where they
    // are not evenly spread.
    void attach(const TopoDS_Face& face, const std::vector<EdgeUse>& loop, bool turned,
                const std::vector<std::uint32_t>& triangles, double deflection,
                const std::function<std::vector<double>(int edge)>& parameters = {});
    Solid solid();

private:
    struct Made {
        TopoDS_Edge edge;
        bool swapped = false;
    };
    const Mesh& mesh_;
    double tolerance_;
    std::vector<int> local_; // of each mesh point, its number in the face at hand
    BRep_Builder brep_;
    TopoDS_Shell shell_;
    std::vector<TopoDS_Vertex> vertices_;
    std::vector<Made> edges_;
};

// The triangles of each face of the mesh.
std::vector<std::vector<std::uint32_t>> triangles_by_face(const Mesh& mesh, std::size_t faces);

} // namespace whorl::solid
