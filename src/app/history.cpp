#include "app/history.hpp"

#include <utility>

namespace whorl::app {

namespace {

constexpr std::size_t most_steps = 500;

std::optional<Snapshot> travel(std::vector<Snapshot>& from, std::vector<Snapshot>& to, const Snapshot& now) {
    if (from.empty()) return {};
    Snapshot there = std::move(from.back());
    from.pop_back();
    to.push_back(now);
    return there;
}

} // namespace

void History::clear() {
    undo_.clear();
    redo_.clear();
    start_.reset();
}

void History::step(const Snapshot& before) {
    if (under_way()) return;
    undo_.push_back(before);
    if (undo_.size() > most_steps) undo_.erase(undo_.begin());
    redo_.clear();
}

std::optional<Snapshot> History::undo(const Snapshot& now) {
    return travel(undo_, redo_, now);
}

std::optional<Snapshot> History::redo(const Snapshot& now) {
    return travel(redo_, undo_, now);
}

void History::begin(const Snapshot& now) {
    if (!start_) start_ = now;
}

void History::keep(const Job& now) {
    if (!start_) return;
    const Snapshot before = *std::exchange(start_, {});
    if (!(before.job == now)) step(before);
}

std::optional<Snapshot> History::give_up() {
    return std::exchange(start_, {});
}

} // namespace whorl::app
