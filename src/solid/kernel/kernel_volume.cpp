#include "solid/kernel/kernel_shape.hpp"
#include "solid/solid.hpp"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>

namespace whorl::solid {

double kernel_volume(const Solid& solid) {
    GProp_GProps g;
    BRepGProp::VolumeProperties(solid.shape().solid, g, 1e-8, true);
    return g.Mass();
}

double plain_kernel_volume(const Solid& solid) {
    GProp_GProps g;
    BRepGProp::VolumeProperties(solid.shape().solid, g, true);
    return g.Mass();
}

} // namespace whorl::solid
