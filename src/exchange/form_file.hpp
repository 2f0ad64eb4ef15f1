// What a form writes into files beside its solid: a table for each, in form_file.cpp. A form that lacks one
// does not link.
#pragma once

#include "model/resolve.hpp"

#include <string>

namespace whorl {

struct FormFile {
    const char* drawing = nullptr; // "section", "outline"; none: there is nothing to draw flat
    bool (*drawn)(const ResolvedZone& z) = nullptr; // whether it can be drawn as it is
    // To scale, one SVG unit a millimetre on paper; `space`: of teeth only one space, from tip to tip.
    std::string (*svg)(const ResolvedZone& z, LengthUnit unit, bool space) = nullptr;
    std::string (*dxf)(const ResolvedZone& z, bool space) = nullptr; // none: there is no DXF of it
    // Points for a machine or a table, see cam_outline.hpp; none: there are none.
    std::string (*csv)(const ResolvedZone& z, double step, double cutter_radius) = nullptr;
    const char* table = nullptr; // what that CSV is, where it is no points every so many degrees
    std::string (*note)(const ResolvedZone& z) = nullptr; // for a solid's header; none: nothing
};

const FormFile& file(const ResolvedPlain&);
const FormFile& file(const ResolvedScrew&);
const FormFile& file(const ResolvedWheel&);
const FormFile& file(const ResolvedBar&);
const FormFile& file(const ResolvedSpring&);
const FormFile& file(const ResolvedKnurling&);
const FormFile& file(const ResolvedLobe&);
const FormFile& file(const ResolvedTrack&);
const FormFile& file(const ResolvedElbow&);
const FormFile& file(const ResolvedGrooving&);
const FormFile& file(const ResolvedShape&);
const FormFile& file(const ResolvedSplining&);

inline const FormFile& file_of(const ResolvedZone& z) {
    return std::visit([](const auto& form) -> const FormFile& { return file(form); }, z.form);
}

} // namespace whorl
