// What can be said of a drawing beside the piece itself: the fields of its title block, and how it is drawn. One list, which
// the window, the command line and edits read.
#pragma once

#include "drawing/sheet.hpp"
#include "model/job.hpp"

#include <span>

namespace whorl::drawing {

struct DrawingField {
    const char* key; // as on the command line, and of its text's link after "drawing."
    const char* label;
    const char* tip;
    bool of_piece; // else of all drawings of the job
    std::string (*get)(const Job&, std::size_t piece);
    void (*set)(Job&, std::size_t piece, const std::string& text); // throws InputError with what would do
    std::vector<std::string> (*choices)() = nullptr;               // none: any words
};
std::span<const DrawingField> drawing_fields();
const DrawingField* drawing_field(std::string_view key);

// The job with that said; throws InputError.
Job with_drawing(const Job& job, std::size_t piece, std::string_view key, const std::string& text);

// Moves what is linked so by so much more (mm on paper), or takes it off.
Job with_moved(const Job& job, std::size_t piece, const Link& link, At by);
Job with_left_out(const Job& job, std::size_t piece, const Link& link);
// Behind a dimension's figure: limits_of() the text, none where it is empty; in brackets or not.
Job with_limits(const Job& job, std::size_t piece, const Link& link, const std::string& text);
Job with_reference(const Job& job, std::size_t piece, const Link& link, bool on);
Job with_all_back(const Job& job, std::size_t piece); // to where it comes to stand; limits and brackets stay
bool anything_moved(const PieceDrawing& drawing);     // or taken off
// A note of one's own with its tip there, mm of the piece; empty words take it away again. Throws InputError for too many.
Job with_note(const Job& job, std::size_t piece, FreeNote note);
Job with_note_words(const Job& job, std::size_t piece, std::size_t note, const std::string& words);

// How a piece of a job is drawn.
SheetSettings settings_of(const Job& job, std::size_t piece);

} // namespace whorl::drawing
