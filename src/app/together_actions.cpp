#include "app/together_actions.hpp"

#include "app/action_kit.hpp"
#include "app/hand_on_view.hpp"
#include "app/together_view.hpp"
#include "check/pairing.hpp"

namespace whorl::app {

namespace {

std::optional<ZoneRef> other_of_pair(const Window& w) {
    const Session& s = w.session();
    if (s.mesh()) return s.mesh()->there;
    if (s.other_of_pair()) return s.other_of_pair();
    for (const Pair& p : s.job().pairs) { // of any of its zones
        if (p.first.piece == s.piece()) return p.second;
        if (p.second.piece == s.piece()) return p.first;
    }
    return {};
}

} // namespace

std::vector<Action> together_actions() {
    return {
        {.text = "All pieces together",
         .keys = QKeySequence("F11"),
         .does = [](Window& w) { w.show_together(!w.together_shown()); },
         .why_not = needs_piece,
         .on = [](const Window& w) { return w.together_shown(); }},
        {.text = "Pair with a piece that is there",
         .keys = QKeySequence("Ctrl+Alt+K"),
         .does = [](Window& w) { w.pairing() ? w.leave_pairing() : w.ask_pair(); },
         .why_not =
             [](const Window& w) {
                 return unless(w.session().job().pieces.size() > 1,
                               "There is no other piece; Ctrl+K makes a counterpart.");
             },
         .on = [](const Window& w) { return w.pairing(); },
         .begins_group = true},
        {.text = "Take the pair off",
         .keys = QKeySequence("Ctrl+Alt+J"),
         .does = [](Window& w) { w.unpair(); },
         .why_not =
             [](const Window& w) {
                 return unless(other_of_pair(w).has_value(), "The piece is in no pair.");
             }},
        {.text = "Type where it stands",
         .keys = QKeySequence("Ctrl+Shift+D"),
         .does = [](Window& w) { w.together()->edit_stand(); },
         .why_not =
             [](const Window& w) {
                 return unless(piece_of(w) && w.together_shown(), "Show all pieces together first (F11).");
             },
         .begins_group = true},
    };
}

// --- the window's part ---

bool MainWindow::together_shown() const {
    return asked_ == Asked::together && together_->isVisible();
}

void MainWindow::show_together(bool shown) {
    asked_ = shown ? Asked::together : Asked::views;
    show_views();
    update_actions();
    if (shown) together_->setFocus();
}

void MainWindow::show_hand_on(bool shown) {
    if (shown && asked_ != Asked::hand_on) before_hand_on_ = asked_;
    asked_ = shown ? Asked::hand_on : before_hand_on_;
    show_views();
    update_actions();
    if (shown) hand_on_->setFocus();
}

void MainWindow::ask_pair() {
    if (!session_.has_piece()) return;
    pairing_ = ZoneRef{session_.piece(), session_.zone()};
    checks_->say_working("Now click what goes with " +
                         QString::fromStdString(session_.job().pieces[session_.piece()].name) +
                         ", on the shelf or where all stand together. The same key leaves it.");
    update_actions();
}

void MainWindow::leave_pairing() {
    if (!pairing_) return;
    pairing_.reset();
    checks_->clear_message();
    update_actions();
}

void MainWindow::pair_with_selected() {
    if (!pairing_ || !session_.has_piece() || session_.piece() == pairing_->piece) return;
    const ZoneRef from = *pairing_;
    pairing_.reset();
    update_actions();
    const Job& job = session_.job();
    if (from.piece >= job.pieces.size()) return;
    const std::size_t to = session_.piece();
    // the zone that was selected, or else whichever of its piece's goes
    QString why = session_.change([&](const Job& j) {
        return pair_up(j, {from.piece, from.zone}, {to, {}});
    });
    if (!why.isEmpty())
        why = session_.change([&](const Job& j) { return pair_up(j, {from.piece, {}}, {to, {}}); });
    if (!why.isEmpty()) return checks_->say(why, true);
    const Pair& made = session_.job().pairs.back();
    session_.select_pair(session_.job().pairs.size() - 1, made.second.piece == to ? made.second : made.first);
    checks_->say(
        QString::fromStdString("'" + job.pieces[from.piece].name + "' and '" + job.pieces[to].name +
                               "' are a pair now. Ctrl+J goes back and forth, Ctrl+Alt+J takes it off."),
        false);
}

void MainWindow::unpair() {
    const auto other = other_of_pair(*this);
    if (!other) return;
    const std::size_t here = session_.piece();
    if (change(*this, [&](const Job& j) { return part(j, {here, {}}, {other->piece, {}}); }))
        checks_->say(QString::fromStdString("'" + session_.job().pieces[here].name + "' and '" +
                                            session_.job().pieces[other->piece].name +
                                            "' are no pair any more."),
                     false);
}

} // namespace whorl::app
