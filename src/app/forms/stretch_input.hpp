// The stretches of a cam's timing as inputs of their own, in the sheet and over the motion's chart: what is
// typed takes the place of that stretch's words, the others stay as they were written.
#pragma once

#include "app/sheet/sheet.hpp"

namespace whorl::app {

// Of the selected zone, as they are written; none if it is no lobe.
std::vector<std::string> stretches_of(const Session& session);
// One past the last adds one.
Input stretch_input(Session& session, std::size_t stretch);
// A row of the sheet for each, and one to add another.
void stretch_rows(SheetBuilder& sheet, const ResolvedZone& zone);

} // namespace whorl::app
