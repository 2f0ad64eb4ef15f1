// The kernel solid (boundary representation) of a skin.
//
// Every face gets its exact surface where the kernel has one: planes, cylinders, cones; flanks and run-outs
// are B-spline helicoids, ruled, of degree 7 × 1. Every edge gets its exact curve where there is one (line,
// circle) and a degree 7 B-spline otherwise (see screw_spline.hpp for the error bound, 5e-8 mm). No boolean,
// no sewing, no healing.
#pragma once

#include "form/tooth/gear.hpp"
#include "solid/mesh.hpp"
#include "solid/skin.hpp"

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

// The textbook way, for the benchmark only: helix edge, section swept as a pipe shell, boolean cut from a
// cylinder.
struct TextbookResult {
    bool valid = false;
    double volume = 0; // mm³
};
TextbookResult textbook_thread(double crest_radius, double root_radius, double pitch, double root_flat,
                               int turns);
// And of a spur gear: one tooth space cut from a disc and the cut repeated around the axis.
TextbookResult textbook_gear(const ResolvedGear& gear, double width);
// And of a spring: a circle swept along a helix, both ends cut flat. mm.
TextbookResult textbook_spring(double wire, double mean_diameter, double pitch, double turns);

} // namespace whorl::solid
