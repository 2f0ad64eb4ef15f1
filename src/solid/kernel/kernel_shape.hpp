// The kernel's shape behind a Solid. Only the floors that may know the kernel include this: solid and
// exchange.
#pragma once

#include <TopoDS_Solid.hxx>

namespace whorl::solid {

struct KernelShape {
    TopoDS_Solid solid;
};

} // namespace whorl::solid
