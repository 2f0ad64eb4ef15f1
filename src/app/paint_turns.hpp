// Views take turns in painting. After an edit every drawn view is out of date; drawing them all in one go
// would keep the next keystroke waiting for the sum of them. So the view that is worked in is drawn at once,
// each other one in a turn of its own, and what was typed meanwhile comes between.
#pragma once

#include <QWidget>

namespace whorl::app {

// The view is drawn anew: now, if it (or an editor in it) has the focus, else when the views that asked
// before it have been. One that waits already keeps its turn.
void update_in_turn(QWidget* view);

} // namespace whorl::app
