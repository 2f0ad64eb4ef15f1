// How the pieces of a job are drawn, and what was done to their drawings by hand. What isn't said here follows from the
// piece; a place on a drawing is said by how far it is from where it would stand, so that it goes with every change.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace whorl {

// What only its owner can say; ISO 7200. Empty ones stay empty.
struct TitleBlock {
    std::string owner, number, revision, drawn_by, checked_by, date, tolerance;
    friend bool operator==(const TitleBlock&, const TitleBlock&) = default;
};

struct JobDrawing {
    TitleBlock title = {};
    bool third_angle = false; // else first, as ISO has it
    bool true_form = false;   // threads, teeth and knurls as they are
    std::string sheet = {};   // "A3"; empty: the smallest that shows a piece well
    friend bool operator==(const JobDrawing&, const JobDrawing&) = default;
};

// A dimension or note of a drawing that was moved, taken off, or has something said of it.
struct MovedItem {
    std::optional<std::size_t> zone = {}; // that it is about; none: the whole piece
    std::string key = {};                 // of its value, as the spec sheet has it
    double x = 0, y = 0;                  // mm on paper from where it would stand
    bool left_out = false;
    std::string limits = {}; // behind its figure: "h7", "±0.05", "+0.1/−0.2"
    bool reference = false;  // in brackets, for information
    friend bool operator==(const MovedItem&, const MovedItem&) = default;
};

// Words of one's own with a leader to a place of the main view.
struct FreeNote {
    std::string words = {};
    double tip_x = 0, tip_y = 0; // mm of the piece: along the axis from its near end, and over it
    double x = 0, y = 0;         // mm on paper from there to the words
    friend bool operator==(const FreeNote&, const FreeNote&) = default;
};

struct PieceDrawing {
    std::string sheet = {}, scale = {};     // empty: the job's, and the largest that goes on it
    std::string number = {}, revision = {}; // of this drawing
    std::optional<bool> true_form = {};     // none: as the job has it
    std::string section = {};               // "none", "half", "whole"; empty: as it is needed
    std::string details = {};               // "none", "all": of threads and grooves; empty: those off any series
    std::vector<MovedItem> items = {};
    std::vector<FreeNote> notes = {};
    friend bool operator==(const PieceDrawing&, const PieceDrawing&) = default;
};

constexpr std::size_t most_drawing_notes = 50;

} // namespace whorl
