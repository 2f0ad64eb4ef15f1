// Zones and ends as starters and designations make them, with plain numbers in their fields.
#pragma once

#include "model/job.hpp"

namespace whorl {

Number millimetres(Length l);
EndTreatment chamfer(double degrees_to_axis, std::optional<Length> diameter = {});
EndTreatment run_out(double turns);
EndTreatment point(double degrees_to_axis);
EndTreatment dog_point();
EndTreatment rounded_edge(Length radius);
EndTreatment fillet(Length radius);
Zone plain(Length diameter, Length length, Outline outline = Outline::round);
void add_bore(Piece& piece, const WheelBody& body, LengthUnit unit); // where one is asked
Length rounded(Length l, double step = 0.5);                         // mm

// In inch to sixteenths, where the step is below half a millimetre to sixty-fourths; one of them at least.
Length rounded(Length l, double step, LengthUnit unit);

} // namespace whorl
