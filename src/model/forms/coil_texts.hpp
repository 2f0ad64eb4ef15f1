// What a coil's form keeps as text, read. Internal to the coil's room.
#pragma once

#include "form/coil/coil_load.hpp"
#include "model/forms/coil.hpp"

namespace whorl {

inline const CoilForm& coil(const Zone& z) {
    return std::get<CoilForm>(z.form);
}
inline CoilForm& coil(Zone& z) {
    return std::get<CoilForm>(z.form);
}
inline const ResolvedCoil& coil(const ResolvedZone& z) {
    return *z.coil();
}

constexpr const char* measured_words[]{"mean", "outside", "inside"}; // CoilDiameter

WireEnd wire_end(const Number& text, const Names& names); // plain where nothing is written

} // namespace whorl
