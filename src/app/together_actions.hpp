// What is done to the pieces of a job together.
#pragma once

#include "app/actions.hpp"

namespace whorl::app {

std::vector<Action> together_actions();

} // namespace whorl::app
