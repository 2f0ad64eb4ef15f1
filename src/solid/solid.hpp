// The kernel solid (boundary representation) of a skin.
//
// Every face gets its exact surface where the kernel has one: planes, cylinders, cones; flanks and run-outs
// are B-spline helicoids, ruled, of degree 7 × 1. Every edge gets its exact curve where there is one (line,
// circle) and a degree 7 B-spline otherwise (see screw_spline.hpp for the error bound, 5e-8 mm). No boolean,
// no sewing, no healing.
#pragma once

#include "solid/mesh/mesh.hpp"
#include "solid/skin/skin.hpp"

#include <memory>
#include <stop_token>

namespace whorl::solid {

struct KernelShape; // kernel_shape.hpp, for the floors that may know the kernel

class Solid {
public:
    Solid() = default;
    explicit Solid(std::shared_ptr<const KernelShape> shape) : shape_(std::move(shape)) {}
    bool empty() const { return shape_ == nullptr; }
    const KernelShape& shape() const { return *shape_; }

private:
    std::shared_ptr<const KernelShape> shape_;
};

// Throws std::logic_error if the kernel refuses a curve or surface, which a skin from build_skin() never
// causes.
Solid make_solid(const Skin& skin);

// As make_solid, with the mesh attached to its faces and edges.
Solid make_solid(const Skin& skin, const Mesh& mesh);

// The kernel's own validity check: geometry, topology, closedness; on all cores. Slow beside the
// construction. Means nothing once `stop` was requested.
bool is_valid(const Solid& solid, std::stop_token stop = {});
double kernel_volume(const Solid& solid); // mm³, by the kernel's own quadrature (relative error 1e-8 asked)
// … by one rule for each face, as receiving programs weigh: good where no face has several spans.
double plain_kernel_volume(const Solid& solid);

} // namespace whorl::solid
