// What is done to zones of one form, each list in that form's room; the menus put them together.
#pragma once

#include "app/actions.hpp"

namespace whorl::app {

std::vector<Action> gear_actions(); // and racks
std::vector<Action> silhouette_actions();
std::vector<Action> lobe_actions();
std::vector<Action> coil_actions();
std::vector<Action> thread_actions();

} // namespace whorl::app
