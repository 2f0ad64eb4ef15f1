// What the model floor has to know of a way in which a zone ends: one EndModel each, in this room, which rows, file, sheet
// and resolving read. A kind without one does not link.
#pragma once

#include "model/row.hpp"

#include <span>
#include <string>
#include <utility>

namespace whorl {

// A number of an EndTreatment and its key in a job file; an empty one is left out.
struct EndNumber {
    const char* key;
    Number EndTreatment::*in;
};

// What was typed behind the kind's word: its first word, and all after that.
struct EndWords {
    std::string first, rest;
    LengthUnit unit;
};

// The zone that ends so, on its way to dimensions.
struct EndInZone {
    const EndTreatment& end;
    const ResolvedZone& zone; // but its ends
    const Names& names;
    bool closed_bottom; // of a bore
    bool far;
};

struct EndModel {
    ChoiceWord word;     // as it is typed and said, what may be typed instead, and in a file
    const char* written; // examples with what their numbers are, for tips and errors: `rounded 14 (a dome)`
    std::span<const EndNumber> numbers;
    // What is typed behind the word; throws InputError for what does not belong there. And back, all of it.
    void (*read)(EndTreatment&, const EndWords&);
    std::string (*text)(const EndTreatment&, const Reading&);
    // Throws InputError where a zone can't end so, or with the limit of a number.
    ResolvedEnd (*resolve)(const EndInZone&);
    // What a zone is offered of it; nothing where it can't end so.
    Words (*offered)(const ResolvedZone&);
};

template<EndKind kind>
const EndModel& end_model();

constexpr int end_kind_count = static_cast<int>(EndKind::milled) + 1;
const EndModel& model_of(EndKind kind);

// What an end has become, in a sheet: `chamfer 45°, Ø 8.100`. Kinds that resolve to another one are said as that.
std::string end_shown(const ResolvedEnd& end, LengthUnit unit);

// --- for the room ---

// A diameter for a chamfer that is not asked. Just below the thread's root, down to a round twentieth of a millimetre, so
// that the thread starts cleanly. `inset`: how far before the zone's end the chamfer's small circle lies, mm.
Length default_chamfer(const ResolvedZone& zone, bool far, double inset = 0);
// A flat a hundredth as wide as the zone stays where a cone or a dome comes to the axis.
Length tip_flat(const ResolvedZone& zone);
// Throws InputError unless it is 5° to 85°.
Angle angle_to_axis(const EndInZone& at, const char* what);

} // namespace whorl
