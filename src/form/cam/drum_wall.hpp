// Jets that both a drum's track and its walls need. Internal to the cams.
#pragma once

#include "form/jet.hpp"

namespace whorl {

Jet square_root(const Jet& a);
// The angle of (x, y), rad.
Jet angle_of(const Jet& x, const Jet& y);

} // namespace whorl
