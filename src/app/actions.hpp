// What can be done, in one table: menus, keys and the list of keys read it. An action says itself when it means something,
// and why it does not where it doesn't.
#pragma once

#include "app/main_window.hpp"

#include <QKeySequence>
#include <span>
#include <vector>

class QMenu;

namespace whorl::app {

struct Action {
    const char* text;
    QKeySequence keys = {};
    void (*does)(MainWindow&) = nullptr;
    // Empty while it means something, else the sentence why it does not now; none: it always does.
    QString (*why_not)(const MainWindow&) = nullptr;
    bool (*on)(const MainWindow&) = nullptr;              // of a switch
    const char* (*text_now)(const MainWindow&) = nullptr; // where that changes
    void (*fill)(QMenu&, MainWindow&) = nullptr;          // a menu of its own, filled when it is opened
    bool begins_group = false;                            // a line above it
};

struct MenuOfActions {
    const char* title;
    std::vector<Action> actions;
};
const std::vector<MenuOfActions>& menus();

// The actions that have a key as a table, a row for each, HTML.
QString listed_keys();

} // namespace whorl::app
