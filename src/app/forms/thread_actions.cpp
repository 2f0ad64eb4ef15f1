#include "app/action_kit.hpp"
#include "app/forms/form_actions.hpp"
#include "model/edit.hpp"

#include <algorithm>

namespace whorl::app {
namespace {

bool wears_own(const Window& w) {
    const ResolvedZone* z = resolved(w);
    return z && z->thread() && z->thread()->spec.family == ThreadFamily::own;
}

template<bool far>
void relief(Window& w) {
    const std::size_t p = w.session().piece(), z = w.session().zone();
    if (w.session().has_piece()) change(w, [=](const Job& j) { return add_relief_groove(j, p, z, far); });
}

QString external_thread(const Window& w) {
    const Zone* z = zone_of(w);
    return unless(z && z->as<ThreadForm>() && !z->in_bore(), "Select an external thread for it.");
}

void draw_own(Window& w) {
    const ResolvedZone* zone = resolved(w);
    if (!zone || !zone->thread() || wears_own(w)) return;
    ThreadSpec spec = zone->thread()->spec;
    spec.allowance = mm(0);
    std::string name = "own-1";
    const auto taken = [&](const OwnSection& s) { return s.name == name; };
    for (int n = 2; std::ranges::any_of(w.session().sections(), taken); ++n)
        name = "own-" + std::to_string(n);
    w.wear(own_section_of(resolve_thread(spec).section, name),
           "Now it is yours: drag its points in the section view. The sheet has its name.");
}

void keep_own(Window& w) {
    if (!wears_own(w)) return;
    const OwnSection& section = resolved(w)->thread()->spec.own_section;
    const QString why = w.session().keep_in_library(section), name = QString::fromStdString(section.name);
    w.checks()->say(why.isEmpty() ? "Kept. In any job, write: section " + name + " 20x4" : why,
                    !why.isEmpty());
}

} // namespace

std::vector<Action> thread_actions() {
    return {
        {.text = "Relief groove at the near end (DIN 76)",
         .keys = QKeySequence("Ctrl+Shift+G"),
         .does = relief<false>,
         .why_not = external_thread,
         .begins_group = true},
        {.text = "Relief groove at the far end (DIN 76)",
         .keys = QKeySequence("Ctrl+G"),
         .does = relief<true>,
         .why_not = external_thread},
        {.text = "Draw a section of my own from this one",
         .keys = QKeySequence("Ctrl+M"),
         .does = draw_own,
         .why_not =
             [](const Window& w) {
                 const ResolvedZone* z = resolved(w);
                 return unless(z && z->thread() && !wears_own(w) && z->thread()->section.sweepable(),
                               "Select a thread whose section is a standard's.");
             }},
        {.text = "Keep the section in my library",
         .keys = QKeySequence("Ctrl+Shift+K"),
         .does = keep_own,
         .why_not =
             [](const Window& w) {
                 return unless(wears_own(w), "Select a thread with a section of your own; Ctrl+M draws one.");
             }},
    };
}

} // namespace whorl::app
