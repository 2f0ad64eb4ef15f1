// Where a thread's section stands in its view, and its drawing there.
#pragma once

#include "model/resolve.hpp"

#include <QPainter>

namespace whorl::app {

class SectionView;

struct ThreadPlace {
    double left = 0, right = 0, top = 0,
           base = 0;     // pixels; the crest lies at `top`, the metal goes down to `base`
    double scale = 1;    // pixels per mm
    double centre_x = 0; // of a groove's middle
    double shift = 0;    // mm along the axis, while a point is dragged
};
void draw_thread_section(SectionView& view, QPainter& p, const ResolvedThread& thread,
                         const ThreadPlace& place);

} // namespace whorl::app
