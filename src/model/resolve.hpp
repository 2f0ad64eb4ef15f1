// From what was asked to dimensions: names evaluated, forms resolved, ends made definite.
#pragma once

#include "model/job.hpp"
#include "quantity/expression.hpp"

namespace whorl {

// An end treatment with its numbers worked out.
struct ResolvedEnd {
    EndKind kind = EndKind::flat;
    Length diameter;      // chamfer
    Angle angle;          // chamfer, between cone and axis
    double turns = 0;     // run-out
    bool follows = false; // chamfer diameter was not asked but follows
};

struct ResolvedZone {
    Length start, length; // along the axis, from the piece's near end
    Length diameter;      // nominal
    std::optional<ResolvedThread> thread;
    ResolvedEnd near_end, far_end;

    Length end() const { return start + length; }
    // The radius of the blank: the crest of a thread at its modelled size, half the diameter of a plain zone.
    Length outer_radius() const;
};

struct ResolvedPiece {
    std::string name;
    std::vector<ResolvedZone> zones;
    Length length() const { return zones.empty() ? mm(0) : zones.back().end(); }
    Length largest_radius() const;
};

// Where in a job an input error lies, for messages: `pieces[0].zones[1].pitch`.
class JobError : public InputError {
public:
    JobError(const InputError& e, std::string where)
        : InputError(where + ": " + e.what(), e.position, e.extent), place(std::move(where)) {}
    std::string place;
};

// The named values in order; throws JobError.
Names resolve_names(const Job& job);

// Throws JobError if a text cannot be evaluated or a dimension is out of range (lengths 0.01…10000 mm).
ResolvedPiece resolve_piece(const Piece& piece, const Names& names);

// Everything of a job that can throw, tried: a job that passes can be shown.
void require_resolvable(const Job& job);

// A number typed for a chamfer, run-out, … as a length, for use by editors.
Length resolve_length(const Number& n, const Names& names);

} // namespace whorl
