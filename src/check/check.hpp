// Findings: what does not fit, in a full sentence, with the exact edit that would mend it where one can be
// computed.
#pragma once

#include "model/edit.hpp"
#include "model/resolve.hpp"

#include <optional>
#include <string>
#include <vector>

namespace whorl {

enum class Severity {
    advice, // it can be made, but a practitioner would think again
    stop    // no correct solid can be made of this, or it does not go together with what it is paired with
};

struct Remedy {
    std::string label;       // what the button says: "Start at Ø 8"
    std::vector<Edit> edits; // applied together
};

struct Finding {
    Severity severity = Severity::advice;
    std::string id; // stable snake_case: "section_wider_than_pitch", …
    std::string sentence;
    std::size_t piece = 0;
    std::size_t zone = 0;
    double value = 0; // what was found, mm or degrees
    double limit = 0; // what it is compared with, same unit
    std::optional<Remedy> remedy;
};

// All findings of a piece, worst first. `unit` is the one sentences are written in.
std::vector<Finding> check_piece(const ResolvedPiece& piece, std::size_t piece_index, LengthUnit unit);

// What keeps the pairs that a piece is part of from going together, which stops; `piece` beyond the last piece means all
// pairs. The findings stand at the second zone of each pair, in the words of the piece that is looked at.
std::vector<Finding> check_pairs(const Job& job, std::size_t piece);

// check_piece and check_pairs of one piece. Remedies have been tried: one that the job refuses, that does not
// mend its finding or that leaves more findings that stop is not offered.
std::vector<Finding> findings_of(const Job& job, std::size_t piece);

// The same over every piece of a job.
std::vector<Finding> check_job(const Job& job);

Job apply(const Job& job, const Remedy& remedy);

bool stops(const std::vector<Finding>& findings);

} // namespace whorl
