// From what is asked of a spring to its shape: turns, pitches, ends, centreline. Internal to the form floor.
#pragma once

#include "form/coil/coil.hpp"

namespace whorl {

// All but what follows from the strength of materials, free. Throws InputError.
ResolvedCoil shape_of(const CoilSpec& spec);

// The mean diameter, mm, of one as it is asked: mean, outside or inside.
double mean_of(const CoilSpec& spec, Length diameter);

// The pitch of coils of this wire and this smallest diameter that all but touch, mm.
double tight_pitch(const CoilSpec& spec);
constexpr double coils_apart = 1.005; // of the wire, between their middles

} // namespace whorl
