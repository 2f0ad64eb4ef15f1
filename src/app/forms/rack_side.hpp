// A rack from its side, closed: x along it, y over its back, mm. A bar without teeth where a pitch is narrower.
#pragma once

#include "form/tooth/rack.hpp"

#include <QPolygonF>

namespace whorl::app {

QPolygonF rack_side(const ResolvedRack& rack, double least_pitch_mm);

} // namespace whorl::app
