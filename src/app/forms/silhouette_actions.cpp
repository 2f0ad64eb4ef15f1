#include "app/action_kit.hpp"
#include "app/forms/form_actions.hpp"
#include "model/forms/silhouette.hpp"

#include <algorithm>

namespace whorl::app {
namespace {

QString can_hollow(const Window& w) {
    const Piece* p = piece_of(w);
    const auto of = [&](bool hollowed) {
        return p && std::ranges::any_of(p->zones, [&](const Zone& z) {
                   const auto* s = z.as<SilhouetteForm>();
                   return s && s->wall.text.empty() != hollowed && (hollowed || !z.in_bore());
               });
    };
    if (!of(false)) return "A hollow keeps its distance from a silhouette; this piece has none.";
    return unless(!of(true), "The silhouette has its hollow already.");
}

void hollow(Window& w) {
    Session& s = w.session();
    const std::size_t p = s.piece();
    if (!s.has_piece() || !change(w, [=](const Job& j) { return with_hollow(j, p); })) return;
    const auto& zones = s.job().pieces[p].zones;
    for (std::size_t z = 0; z < zones.size(); ++z)
        if (const auto* f = zones[z].as<SilhouetteForm>(); f && !f->wall.text.empty()) s.select(p, z);
}

} // namespace

std::vector<Action> silhouette_actions() {
    return {
        {.text = "Hollow the silhouette",
         .keys = QKeySequence("Ctrl+Alt+H"),
         .does = hollow,
         .why_not = can_hollow,
         .begins_group = true},
    };
}

} // namespace whorl::app
