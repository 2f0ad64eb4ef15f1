// Files: read whole, written so that either the old one stands or the new one does.
#pragma once

#include <filesystem>
#include <stdexcept>
#include <string>
#include <string_view>

namespace whorl {

// A file that can't be read or written, with the path and the reason in the sentence.
class FileError : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
};

// Reads a whole file of at most `limit` bytes. Throws FileError.
std::string read_file(const std::filesystem::path& path, std::size_t limit);

// Writes to a nameless file in the target's folder, flushes it to disk and puts it in the target's place: the
// old file stands or the new one does, whenever the program is ended. A link is followed to its target, an
// old file's permissions are kept, a new one has those of the process's umask; a pipe or device is written to
// directly. Throws FileError (missing folder, no permission, disk full).
void write_file_atomically(const std::filesystem::path& path, std::string_view content);

// The text with every line ended by \n alone, whatever system it comes from.
std::string with_plain_line_ends(std::string_view text);

// A disk or quota that is full is then an error of the writing and does not end the program. For main().
void survive_full_disks();

} // namespace whorl
