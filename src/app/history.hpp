// Steps of the job back and forth, and changes that are still under way: what is dragged or typed makes one
// step when it ends, or none when it is given up.
#pragma once

#include "model/job.hpp"

#include <optional>
#include <vector>

namespace whorl::app {

// A job and what is selected in it.
struct Snapshot {
    Job job;
    std::size_t piece = 0, zone = 0;
};

class History {
public:
    bool can_undo() const { return !undo_.empty(); }
    bool can_redo() const { return !redo_.empty(); }
    void clear();

    // A step from `before`; nothing while a change is under way.
    void step(const Snapshot& before);
    // The state to go to, `now` kept for the way back; none if there is none.
    std::optional<Snapshot> undo(const Snapshot& now);
    std::optional<Snapshot> redo(const Snapshot& now);

    bool under_way() const { return start_.has_value(); }
    void begin(const Snapshot& now);   // nothing if one is under way
    void keep(const Job& now);         // one step, if it has changed anything
    std::optional<Snapshot> give_up(); // what was before; none if nothing is under way
    const Snapshot* before() const { return start_ ? &*start_ : nullptr; }

private:
    std::vector<Snapshot> undo_, redo_;
    std::optional<Snapshot> start_;
};

} // namespace whorl::app
