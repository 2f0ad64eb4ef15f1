// Puts a kernel solid together from vertices, edges and faces whose geometry is known: nothing is
// intersected, sewn or healed. Skins, bars and tubes all go through it. Internal to the solid floor; includes
// the kernel.
#pragma once

#include "solid/mesh/mesh.hpp"
#include "solid/solid.hpp"

#include <BRep_Builder.hxx>
#include <Geom2d_Curve.hxx>
#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Vertex.hxx>

#include <functional>
#include <optional>
#include <span>

namespace whorl::solid {

using Loops = std::span<const std::vector<EdgeUse>>;
inline Loops only(const std::vector<EdgeUse>& loop) {
    return {&loop, 1};
}

// How the mesh stands for a face and its edges.
struct Approximation {
    double deflection = 0; // mm, how far the face's triangles are off
    // Where an edge's polygon is off by more than that; by edge.
    std::function<double(int edge)> of_edge = {};
    // The points' parameters on an edge's curve, from its first vertex on, where they are not evenly spread.
    std::function<std::vector<double>(int edge)> parameters = {};
};

// A point into which one side of a surface shrinks: the side v = `v` between two u, where its vertex is met.
struct Pole {
    int vertex = -1;
    double from = 0, to = 0, v = 1;
};

class BrepMaker {
public:
    // Curves, surfaces and corners lie within `tolerance` (mm) of each other. Without a mesh nothing can be
    // attached.
    explicit BrepMaker(double tolerance, const Mesh* mesh = nullptr);

    int add_vertex(const Point& at);
    // An edge from one vertex to another. Its curve runs from `first` to `last`; with `swapped` that is from
    // the second vertex to the first.
    int add_edge(const Handle(Geom_Curve) & curve, double first, double last, int from, int to,
                 bool swapped = false);
    // The outer loop comes first, and loops run counter-clockwise seen from outside. `image` gives the curve
    // of a use in the surface, or null where the kernel needs none (planes); an edge used twice is a seam.
    // With `turned` the surface's own normal points inwards.
    TopoDS_Face add_face(const Handle(Geom_Surface) & surface, Loops loops, bool turned,
                         const std::function<Handle(Geom2d_Curve)(const EdgeUse& use)>& image,
                         const std::optional<Pole>& pole = {});
    // The mesh's triangles of a face, and its polygons on the face's edges.
    void attach(const TopoDS_Face& face, Loops loops, bool turned,
                const std::vector<std::uint32_t>& triangles, const Approximation& how);
    Solid solid();

private:
    struct Made {
        int from = -1, to = -1;
        TopoDS_Edge edge;
        bool swapped = false;
    };
    void attach_edge(const Handle(Poly_Triangulation) & poly, int edge, bool seam, const Approximation& how);

    const Mesh* mesh_;
    double tolerance_;
    std::vector<int> local_; // of each mesh point, its number in the face at hand
    BRep_Builder brep_;
    TopoDS_Shell shell_;
    std::vector<TopoDS_Vertex> vertices_;
    std::vector<Made> edges_;
};

// The triangles of each face of the mesh.
std::vector<std::vector<std::uint32_t>> triangles_by_face(const Mesh& mesh, std::size_t faces);

// What `build` makes; the kernel's refusals become std::logic_error.
template<class Build>
Solid made_by(Build build) {
    try {
        return build();
    } catch (const Standard_Failure& e) {
        throw std::logic_error(std::string("The kernel refused a curve or surface: ") + e.GetMessageString());
    }
}

} // namespace whorl::solid
