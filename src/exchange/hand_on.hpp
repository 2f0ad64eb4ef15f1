// Handing on: which pieces, in which formats, to which files. What will be written, and what will not and why, is known before;
// the window and the command line write by this alone.
#pragma once

#include "exchange/assembly.hpp"

#include <functional>

namespace whorl {

struct Format {
    const char* name;  // "step": as --format has it, and the file's ending
    const char* words; // "STEP solid"
    bool of_a_piece = false, of_all = false;
};
const std::vector<Format>& formats();

struct HandOn {
    std::vector<std::size_t> pieces; // of the job, in its order
    bool together = false;           // in one file as they stand, not a file each
    std::vector<std::string> formats;
    std::filesystem::path folder;
    std::string name;    // of the file that holds all; empty: the job's
    double chord = 0.01; // mm, of an STL's or another mesh's sides from the true surface
};

struct PlannedFile {
    std::filesystem::path path;
    std::string format;
    std::optional<std::size_t> piece = {}; // none: all of them
    std::optional<std::size_t> zone = {};  // of a flat drawing or points
    std::string why_not = {};              // a sentence; empty: it will be written
    bool fault = false; // the piece stops; else there is only nothing of this kind to write
};

// In the order of the pieces, then of the formats. A piece that has nothing to write in a format is named with the reason, in a
// file's stead. Throws InputError for a format that there is not, or that is none of what is asked.
std::vector<PlannedFile> plan_of(const Job& job, const HandOn& asked);

struct HandedOn {
    std::vector<std::filesystem::path> written;
    std::vector<std::string> notes;  // what each of them is
    std::vector<std::string> left;   // what there was nothing to write of, each a sentence
    std::vector<std::string> failed; // what should have been written and was not, each a sentence
    bool stopped = false;
};

// `progress`: how many of the files are done and what is next; called from any thread, one call at a time. Throws FileError where
// the folder can't be made; what goes wrong with one file is said of it and leaves the others. Stopped, what is written stays.
HandedOn
hand_on(const Job& job, const HandOn& asked,
        const std::function<void(std::size_t done, std::size_t of, const std::string& what)>& progress = {},
        const std::stop_token& stop = {});

// The job with these pieces alone, and the pairs among them.
Job only(const Job& job, const std::vector<std::size_t>& pieces);
// A piece with all that pairs tie to it, near or far.
std::vector<std::size_t> group_of(const Job& job, std::size_t piece);

} // namespace whorl
