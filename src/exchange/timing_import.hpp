// A cam's timing from a file: a table of angles and lifts, or a flat profile from a drawing.
//
//   .csv .txt    angle or distance around, lift on each line; columns that follow are left out
//   .dxf .svg    a profile from left to right: x around, y the lift
//
// What is as long as a turn is taken as it is: 360 (degrees), or `around` (mm, π·d of a drum). Another length
// is scaled to the turn if that is asked, else refused with the difference. The lift counts from the first
// point; one that ends elsewhere does not close and is refused with the gap, to the micrometre. Up to twelve
// straight pieces stay a polygon, of constant velocity between its corners; more points, or arcs, become a
// spline through them.
#pragma once

#include "form/cam/timing.hpp"

#include <filesystem>

namespace whorl {

struct ImportedTiming {
    Timing timing;
    double length = 0; // as it was drawn
    double gap = 0;    // of the lift, end less beginning, mm; at most half a micrometre
    std::size_t points = 0;
    bool polygon = false;
    bool scaled = false;
};

enum class OtherLength { refuse, scale };

// Throws InputError with what is wrong and what would be accepted, or FileError.
ImportedTiming import_timing(const std::filesystem::path& path, std::optional<double> around,
                             OtherLength other);
// "5 points, 230 mm long, scaled to 226.195; closure gap 0.000 mm"
std::string import_words(const ImportedTiming& timing, std::optional<double> around);

} // namespace whorl
