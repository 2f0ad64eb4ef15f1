// A pair put together in space: how far the counterpart can be screwed along the shown piece's axis, what
// stops it, and how far it has turned at each place.
//
// The shown piece stays where it is, its near end at z = 0. The other one is turned end for end about x if it
// only goes on that way, turned about the axis by angle(travel), and moved along it by the travel. Angle and
// travel keep every ridge of the one in a groove of the other: one lead a turn.
#pragma once

#include "model/resolve.hpp"
#include "pair/fit.hpp"

namespace whorl {

// What ends the way of a counterpart that is screwed on.
enum class SeatedBy {
    free_end, // nothing: it runs over the thread and off its other end
    shoulder, // a part that is too wide, or the bottom of a bore
    taper,    // tapered threads are tight
    mismatch  // the threads don't go together; it does not go on at all
};

struct Mating {
    bool flipped = false; // end for end about x
    double lead = 0;      // mm a turn, negative for left-hand threads
    double phase = 0;     // rad at travel 0
    double apart = 0; // travel (mm) at which the threads part; from here it is screwed on towards `seated`
    double seated = 0;
    double usual = 0; // in between: tight or seated, or the screw two pitches out of the nut
    SeatedBy seated_by = SeatedBy::free_end;
    double shown_from = 0, shown_to = 0; // the shown thread on its axis, mm
    double other_from = 0, other_to = 0; // the other one's at travel 0

    double angle(double travel) const;   // rad about +z
    double engaged(double travel) const; // mm of the two threads beside each other, 0 when apart
    double clamped(double travel) const; // the nearest travel between seated and apart
};

// `fit` is that of the two zones' threads, whichever of them is the screw. Shoulders are judged by the widest
// radius of each zone and the narrowest of each bore, so a countersink or a head's chamfer counts as the
// cylinder around it.
Mating mating_of(const ResolvedPiece& shown, std::size_t zone, const ResolvedPiece& other,
                 std::size_t other_zone, const Fit& fit);

} // namespace whorl
