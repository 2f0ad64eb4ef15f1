// One function a form, in the form's own room: how its line is known, read and shown. Listed in designation.cpp.
#pragma once

#include "form/designation.hpp"

namespace whorl {

DesignationKind gear_kind();
DesignationKind internal_gear_kind();
DesignationKind rack_kind();
DesignationKind spline_kind();
DesignationKind spring_kind();
DesignationKind extension_spring_kind(); // read by the one before
DesignationKind torsion_spring_kind();
DesignationKind cam_kind();
DesignationKind drum_kind();
DesignationKind knurl_kind();
DesignationKind groove_kind();
DesignationKind silhouette_kind();
DesignationKind bend_kind();
std::vector<DesignationKind> plain_kinds();

template<auto parse, class... More>
Designation read_as(std::string_view text, More... more) {
    auto asked = parse(text, more...);
    return {asked.spec, asked.length, asked.unit, asked.body};
}

} // namespace whorl
