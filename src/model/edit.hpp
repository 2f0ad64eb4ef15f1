// Changes to a job, as pure functions: each takes a job and gives the changed one, or throws InputError with
// a sentence and leaves everything as it was. A job that went in resolvable comes out resolvable.
#pragma once

#include "form/designation.hpp"
#include "model/field.hpp"
#include "model/job.hpp"

#include <string>

namespace whorl {

// The exact edit a person or a remedy makes.
struct Edit {
    std::size_t piece = 0;
    std::size_t zone = 0;
    Field field = field::length;
    std::string text;
    LengthUnit unit = LengthUnit::millimetre; // of plain numbers in `text`
    std::optional<std::size_t> pair = {};     // centre distance: which of the zone's pairs; none: its first
};

Job apply(const Job& job, const Edit& edit);

// The text a field holds now, as it can be typed back; empty where the zone has no such field. Numbers typed
// in the other unit are converted.
std::string field_text(const Job& job, std::size_t piece, std::size_t zone, Field field, LengthUnit unit,
                       std::optional<std::size_t> pair = {});

// Zones and pieces. Indices out of range are a logic error of the caller (std::out_of_range).
Zone zone_of(const Designation& designation); // ends: chamfered thread, flat plain; length 3·d when not given
Job respec_zone(const Job& job, std::size_t piece, std::size_t zone, const Designation& designation);
Job add_piece(const Job& job, const Designation& designation, const std::string& name = {});
Job add_piece(const Job& job, Piece piece); // see starter.hpp; an empty name gets one
Job remove_piece(const Job& job, std::size_t piece);
Job insert_zone(const Job& job, std::size_t piece, std::size_t before, const Zone& zone);
Job remove_zone(const Job& job, std::size_t piece, std::size_t zone); // not the last one
Job move_zone(const Job& job, std::size_t piece, std::size_t from, std::size_t to);
// The bores of a piece, such as a starter's, put into another one's end. Throws InputError where there are
// bores at that end already, or none to put in.
Job add_bores(const Job& job, std::size_t piece, const Piece& from, bool far_end);
// The zones from `first` to `last`, which follow each other, so many times in all along the axis; the copies
// follow them. With a gap a plain zone as thin as they are at their ends stands between. Throws InputError for
// zones of different chains, and for more zones than a piece can have.
struct Repeat {
    std::size_t first = 0, last = 0;
    int times = 2;
    Number gap = {}; // empty: none
};
Job repeat_zones(const Job& job, std::size_t piece, const Repeat& repeat);
Job split_zone(const Job& job, std::size_t piece, std::size_t zone); // into two halves
// The counterpart of a zone as a new piece of its own that follows it, as its form has it: a nut for an
// external thread, a short screw for an internal one, toothed ones as add_mate() has them, for a cam what runs
// on it. Throws InputError if the zone has none.
Job add_counterpart(const Job& job, std::size_t piece, std::size_t zone);
// A mate for teeth: a gear, a ring around an external gear, or a rack. Without `teeth` a gear gets twice as
// many as the one it goes with, a third of a ring's or 20 on a rack, a ring three times as many, a rack as
// many as the gear. Throws InputError if the two can't go together.
enum class Mate { gear, ring, rack };
Job add_mate(const Job& job, std::size_t piece, std::size_t zone, Mate mate = Mate::gear,
             std::optional<int> teeth = {});
// Two zones that are there already, as a pair; the second does not follow. Throws InputError unless both are
// threaded or both toothed, or the second can follow the first, a cam.
Job add_pair(const Job& job, ZoneRef first, ZoneRef second);
// A spring of the job that holds the follower of a lobe on: the lobe's spring rate follows it, instead of the
// one that it followed; none: it follows none. Throws InputError unless they are a spring and a lobe.
Job hold_follower(const Job& job, ZoneRef lobe, std::optional<ZoneRef> spring);
Job remove_pair(const Job& job, std::size_t pair);
// Where the second piece of a pair stands: the pair's free number (pair_model.hpp), empty as is usual. Throws InputError
// for a text that is none.
Job place_pair(const Job& job, std::size_t pair, const Number& stands);
// Where a piece stands in the job, "10 20 5 turned 0 90 0" (free_place.hpp); empty: its pairs say so.
Job place_piece(const Job& job, std::size_t piece, const Number& stands);

// A relief groove of DIN 76 at one end of an external threaded zone: the zone is shortened by it, the piece
// keeps its length. Throws InputError if the zone has no such thread or is too short.
Job add_relief_groove(const Job& job, std::size_t piece, std::size_t zone, bool at_far_end);

// The thread of a zone wears this section of one's own from now on; its size, pitch, hand and starts stay. If
// the zone wore one of that name already, every other zone of the job that does follows. Throws InputError if
// the section can't be used or the zone is plain.
Job set_own_section(const Job& job, std::size_t piece, std::size_t zone, const OwnSection& section);

Job set_value(const Job& job, const std::string& name, const Number& number); // new or changed
Job remove_value(const Job& job, const std::string& name);

// The name a zone goes by: its designation.
std::string zone_designation(const Zone& zone, const Job& job);

} // namespace whorl
