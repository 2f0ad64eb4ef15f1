// What two zones are to each other: one PairModel a kind, in the room of the form that leads it. A kind without one does
// not link. How a pair is checked stands in check/pair_checks.hpp, how it is looked at in app/pair_look.hpp.
#pragma once

#include "model/job.hpp"
#include "quantity/names.hpp"

#include <optional>
#include <string>

namespace whorl {

enum class PairKind {
    threads,          // two threads, one of them internal where they screw
    teeth,            // two gears, a gear and its ring, a gear and a rack
    cam_and_follower, // a cam and the plain zone that runs on it
    drum_and_roller,  // a drum cam's groove and the plain zone that runs in it
    spring_and_lobe,  // a coil that holds the lobe's follower on
    clamp_and_strap,  // a bent bar and the flat one across its legs
    bush_and_pin,     // a grooved bore and the pin that turns in it
    spline,           // a splined shaft and its hub
    spring_and_guide, // a coil and the plain rod or bore that guides it
    nested_springs    // one coil in another
};
constexpr int pair_kind_count = static_cast<int>(PairKind::nested_springs) + 1;

// The one number that is free in a pair: where the second piece stands.
enum class Freedom {
    none,
    height, // mm from the first piece's near end to the face of the second that looks at it, along the first's axis
    about,  // rad, where the second stands around the first one's axis
    travel, // mm of a gear along its rack, from the middle
    turned, // rad, of the cam
    shift   // mm along the first one's axis from where the second usually stands
};
constexpr bool is_angle(Freedom f) {
    return f == Freedom::about || f == Freedom::turned;
}
const char* word(Freedom f); // "Height"; none: empty

struct PairModel {
    const char* of; // "two threads": what a pair is made of, for the sentence that refuses others
    bool (*fits)(const Zone& first, const Zone& second);
    Freedom (*freedom)(const Zone& first, const Zone& second);
    // What the second zone takes over while it follows; the two are of this kind.
    void (*follow)(Zone& second, const Zone& first, const Job& job);
};

template<Freedom freedom>
Freedom always(const Zone&, const Zone&) {
    return freedom;
}

template<PairKind kind>
const PairModel& pair_model();
const PairModel& model_of(PairKind kind);

// None where the two don't go together.
std::optional<PairKind> pair_kind(const Zone& first, const Zone& second);
std::optional<PairKind> pair_kind(const Job& job, const Pair& pair); // both zones are there
Freedom freedom_of(const Job& job, const Pair& pair);                // none where the two don't go together
// The pair's free number, mm or rad; none: as is usual. Throws InputError for a text that is none.
std::optional<double> stands_of(const Job& job, const Pair& pair, const Names& names);
// "two threads, …, or a bush and its pin"
std::string what_pairs();

} // namespace whorl
