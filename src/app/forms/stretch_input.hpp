// The stretches of a cam's timing as inputs of their own, in the sheet and over the motion's chart: what is
// typed takes the place of that stretch's words, the others stay as they were written.
#pragma once

#include "app/inline_editor.hpp"

namespace whorl::app {

// Of the selected zone, as they are written; none if it is no lobe.
std::vector<std::string> stretches_of(const Session& session);
// One past the last adds one.
Input stretch_input(Session& session, std::size_t stretch);

} // namespace whorl::app
