// Batch making: one piece for each row of a table, several at a time, resumable.
#pragma once

#include <iosfwd>
#include <string>
#include <vector>

namespace whorl {

struct BatchOptions {
    std::string table;                // a CSV file with a header; columns `designation`, `name`
    std::string directory;            // made if missing
    std::vector<std::string> formats; // "step", "stl"
    int jobs = 1;
    double chord = 0.01; // mm
    bool again = false;  // make what is there already, too
};

// Every row is tried; files that are as an earlier run's report says it made them for the same row are
// kept unless `again`. Writes report.csv (line, name, designation, state, detail, fingerprint) into the
// directory, now and then while it works, too. Returns 0, or 1 if a row could not be made.
// Throws FileError and InputError for the table as a whole.
int make_table(const BatchOptions& options, std::ostream& out, std::ostream& err);

// The cells of one CSV line (RFC 4180: quotes may enclose a cell, doubled quotes stand for one).
std::vector<std::string> csv_cells(const std::string& line);

} // namespace whorl
