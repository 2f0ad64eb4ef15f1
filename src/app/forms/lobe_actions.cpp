#include "app/action_kit.hpp"
#include "app/forms/form_actions.hpp"
#include "model/forms/lobe.hpp"

#include <QMenu>

namespace whorl::app {
namespace {

void add_lobe(Window& w) {
    const ZoneRef lobe{w.session().piece(), w.session().zone()};
    if (change(w, [&](const Job& j) { return add_conjugate(j, lobe); }))
        w.session().select(lobe.piece, lobe.zone + 2);
}

void list_springs(QMenu& menu, Window& w) {
    const ZoneRef lobe{w.session().piece(), w.session().zone()};
    const auto offer = [&](const QString& text, std::optional<ZoneRef> spring) {
        QObject::connect(menu.addAction(text), &QAction::triggered, &w, [&w, lobe, spring] {
            change(w, [&](const Job& j) { return hold_follower(j, lobe, spring); });
        });
    };
    const auto& pieces = w.session().job().pieces;
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (pieces[i].zones[0].as<CoilForm>()) offer(QString::fromStdString(pieces[i].name), ZoneRef{i, 0});
    if (menu.isEmpty()) menu.addAction("The job has no spring yet")->setEnabled(false);
    offer("None of the job's", {});
}

} // namespace

std::vector<Action> lobe_actions() {
    return {
        {.text = "Add the conjugate lobe",
         .keys = QKeySequence("Ctrl+Alt+L"),
         .does = add_lobe,
         .why_not =
             [](const Window& w) {
                 const ResolvedZone* z = resolved(w);
                 return unless(z && z->lobe() && !z->lobe()->spec.conjugate,
                               "Select a disc cam's lobe that has no second one.");
             }},
        {.text = "Hold the follower on with a spring",
         .why_not =
             [](const Window& w) {
                 const ResolvedZone* z = resolved(w);
                 return unless(z && z->lobe(), "Select a disc cam's lobe for it.");
             },
         .fill = list_springs},
    };
}

} // namespace whorl::app
