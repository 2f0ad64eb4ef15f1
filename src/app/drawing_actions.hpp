// The menu of drawings.
#pragma once

#include "app/actions.hpp"

namespace whorl::app {

std::vector<Action> drawing_actions();

} // namespace whorl::app
