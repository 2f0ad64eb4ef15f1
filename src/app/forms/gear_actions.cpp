#include "app/action_kit.hpp"
#include "app/comparison.hpp"
#include "app/forms/form_actions.hpp"
#include "form/tooth/measure.hpp"
#include "model/edit.hpp"

#include <QClipboard>
#include <QFileDialog>
#include <QGuiApplication>

namespace whorl::app {
namespace {

bool toothed(const Window& w) {
    const ResolvedZone* z = resolved(w);
    return z && (z->as<ResolvedWheel>() || z->rack());
}

QString external_gear(const Window& w) {
    const ResolvedZone* z = resolved(w);
    return unless(z && z->as<ResolvedWheel>() && !z->in_bore(), "Select an external gear's teeth for it.");
}

void copy_gear_data(Window& w) {
    const ResolvedZone* z = resolved(w);
    if (!z || !z->as<ResolvedWheel>()) return;
    QString text;
    for (const auto& [name, value] : data_block(*z->gear(), z->length))
        text += QString::fromStdString(name) + '\t' + QString::fromStdString(value) + '\n';
    QGuiApplication::clipboard()->setText(text);
    w.checks()->say("The gear's data stand on the clipboard, a name and a value to a line.", false);
}

void compare(Window& w) {
    if (w.comparison()->loaded()) return w.comparison()->clear();
    const QString path = QFileDialog::getOpenFileName(
        &w, "An outline of a gear or a rack's side, or a gear's solid with its axis along z", {},
        "Outlines and solids (*.dxf *.svg *.csv *.stl *.step *.stp)");
    if (!path.isEmpty()) w.compare_with(path);
}

} // namespace

std::vector<Action> gear_actions() {
    return {
        {.text = "Make a ring around the gear",
         .keys = QKeySequence("Ctrl+Alt+I"),
         .does =
             [](Window& w) {
                 w.make_counterpart([](const Job& j, std::size_t p, std::size_t z) {
                     return add_mate(j, p, z, Mate::ring);
                 });
             },
         .why_not = external_gear,
         .begins_group = true},
        {.text = "Make a rack for the gear",
         .keys = QKeySequence("Ctrl+Alt+R"),
         .does =
             [](Window& w) {
                 w.make_counterpart([](const Job& j, std::size_t p, std::size_t z) {
                     return add_mate(j, p, z, Mate::rack);
                 });
             },
         .why_not = external_gear},
        {.text = "Copy the gear's data for the drawing (ISO 1340)",
         .keys = QKeySequence("Ctrl+Alt+D"),
         .does = copy_gear_data,
         .why_not =
             [](const Window& w) {
                 return unless(resolved(w) && resolved(w)->as<ResolvedWheel>(),
                               "Select a gear's teeth for it.");
             }},
        {.text = "Compare with another outline or solid…",
         .keys = QKeySequence("Ctrl+Shift+M"),
         .does = compare,
         .why_not =
             [](const Window& w) { // it can be taken away from anywhere
                 return unless(toothed(w) || w.comparison()->loaded(), "Select teeth for it.");
             },
         .text_now =
             [](const Window& w) {
                 return w.comparison()->loaded() ? "Take the compared teeth away"
                                                 : "Compare with another outline or solid…";
             }},
    };
}

} // namespace whorl::app
