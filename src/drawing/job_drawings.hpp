// All drawings of a job: a list of its parts first, then a page a piece.
#pragma once

#include "drawing/drawing_fields.hpp"

#include <functional>

namespace whorl::drawing {

struct JobDrawings {
    std::vector<Paper> pages = {};      // the parts list's, then a piece's each that can be drawn
    std::vector<std::string> said = {}; // what could not, or not as asked
    bool stopped = false;               // a piece stops, or none was drawn
};

// `go_on` is asked before each piece with how many are done; false ends it, with no pages. `settings` of each piece: none,
// as the job has it.
JobDrawings draw_job(const Job& job, const std::function<bool(std::size_t done)>& go_on,
                     const std::function<SheetSettings(std::size_t piece)>& settings = {});

} // namespace whorl::drawing
