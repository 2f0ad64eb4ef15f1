// What actions are written with: what is selected, and a change of the job.
#pragma once

#include "app/actions.hpp"
#include "app/checks_line.hpp"

#include <functional>

namespace whorl::app {

using Window = MainWindow;

constexpr const char* no_piece = "The job has no piece yet; Ctrl+Shift+N makes one.";

inline const Piece* piece_of(const Window& w) {
    const Session& s = w.session();
    return s.has_piece() ? &s.job().pieces[s.piece()] : nullptr;
}
inline const Zone* zone_of(const Window& w) {
    const Piece* p = piece_of(w);
    return p && w.session().zone() < p->zones.size() ? &p->zones[w.session().zone()] : nullptr;
}
inline QString unless(bool means_something, const char* sentence) {
    return means_something ? QString() : QString(sentence);
}
inline QString needs_piece(const Window& w) {
    return unless(piece_of(w), no_piece);
}
inline const ResolvedZone* resolved(const Window& w) {
    return w.session().resolved_zone();
}

// A change of the job; the checks line says why nothing came of it.
inline bool change(Window& w, const std::function<Job(const Job&)>& how) {
    const QString why = w.session().change(how);
    if (!why.isEmpty()) w.checks()->say(why, true);
    return why.isEmpty();
}

} // namespace whorl::app
