// Triangulating round and flat faces slab by slab between the grid's lines, of which the edges are sampled there.
// Internal to the triangulation.
#pragma once

#include "solid/mesh/edge_samples.hpp"

#include <memory>

namespace whorl::solid {

class FaceTriangulator {
public:
    FaceTriangulator(const Skin& skin, Mesh& mesh, const Grid& lines);
    FaceTriangulator(const FaceTriangulator&) = delete;
    FaceTriangulator& operator=(const FaceTriangulator&) = delete;
    ~FaceTriangulator();

    void add(std::size_t face); // its triangles, to the mesh

private:
    class Work;
    std::unique_ptr<Work> work_;
};

} // namespace whorl::solid
