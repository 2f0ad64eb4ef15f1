// The stretches of a cam's timing as inputs of their own, in the sheet and over the motion's chart: what is
// typed takes the place of that stretch's words, the others stay as they were written.
#pragma once

#include "app/canvas.hpp"
#include "app/sheet/sheet.hpp"

namespace whorl::app {

// Of the selected zone, as they are written; none if it is no lobe.
std::vector<std::string> stretches_of(const Session& session);
// One past the last adds one.
Input stretch_input(Session& session, std::size_t stretch);
// Their words at the height y, each over its part of the motion as it was asked; `x` gives the place of an
// angle.
void draw_stretches(Canvas& view, QPainter& p, const Motion& asked, double y,
                    const std::function<double(double)>& x);
// As many of the words as there is room for (pixels); "…" if not even the first.
QString fitting_words(const QFont& font, QString words, double room);
// A row of the sheet for each, and one to add another.
void stretch_rows(SheetBuilder& sheet, const ResolvedZone& zone);

} // namespace whorl::app
