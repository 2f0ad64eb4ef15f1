#include "app/action_kit.hpp"
#include "app/forms/form_actions.hpp"
#include "model/edit.hpp"
#include "model/pair_model.hpp"

#include <QMenu>

namespace whorl::app {
namespace {

bool guides(const Zone& spring, const Zone& other) {
    const auto kind = pair_kind(spring, other);
    return kind == PairKind::spring_and_guide || kind == PairKind::nested_springs;
}

// Every rod, bore and other spring of the job, by piece and zone; those it has already are ticked, and taken off.
void list_guides(QMenu& menu, Window& w) {
    const Job& job = w.session().job();
    const ZoneRef spring{w.session().piece(), w.session().zone()};
    const Zone& coil = job.pieces[spring.piece].zones[spring.zone];
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        if (i == spring.piece) continue;
        for (std::size_t k = 0; k < job.pieces[i].zones.size(); ++k) {
            const Zone& zone = job.pieces[i].zones[k];
            if (!guides(coil, zone)) continue;
            const ZoneRef other{i, k};
            QString text = QString::fromStdString(job.pieces[i].name);
            if (job.pieces[i].zones.size() > 1)
                text += QString(", %1 %2").arg(zone.in_bore() ? "bore, zone" : "zone").arg(k + 1);
            QAction* action = menu.addAction(text);
            action->setCheckable(true);
            std::optional<std::size_t> paired;
            for (std::size_t p = 0; p < job.pairs.size(); ++p) {
                const Pair& pair = job.pairs[p];
                if ((pair.first == spring && pair.second == other) ||
                    (pair.second == spring && pair.first == other))
                    paired = p;
            }
            action->setChecked(paired.has_value());
            QObject::connect(action, &QAction::triggered, &w, [&w, spring, other, paired] {
                change(w, [&](const Job& j) {
                    return paired ? remove_pair(j, *paired) : add_pair(j, spring, other);
                });
            });
        }
    }
    if (menu.isEmpty())
        menu.addAction("The job has no round rod, bore or other spring yet")->setEnabled(false);
}

} // namespace

std::vector<Action> coil_actions() {
    return {{.text = "Guide it on a rod, in a bore or in a spring",
             .why_not =
                 [](const Window& w) {
                     const ResolvedZone* z = resolved(w);
                     return unless(z && z->coil(), "Select a spring for it.");
                 },
             .fill = list_guides}};
}

} // namespace whorl::app
