// Jobs as JSON files: the published schema (schema/job.schema.json), reading with refusal, writing
// atomically.
#pragma once

#include "model/job.hpp"
#include "quantity/input_error.hpp"

#include <filesystem>
#include <string>
#include <string_view>

namespace whorl {

constexpr int job_file_version = 2;
constexpr std::size_t largest_job_file = 32u << 20; // bytes

// A file that can't be read or written, with the path and the reason in the sentence.
class FileError : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
};

std::string job_to_json(const Job& job);

// Throws InputError with line and column (broken JSON) or the JSON path (wrong content), and the reason. The
// job is checked to resolve.
Job job_from_json(std::string_view text);

// Throw FileError. A refused or damaged file changes nothing.
Job load_job(const std::filesystem::path& path);
void save_job(const Job& job, const std::filesystem::path& path);

// Reads a whole file of at most `limit` bytes. Throws FileError.
std::string read_file(const std::filesystem::path& path, std::size_t limit);

// Writes to a temporary file beside the target, flushes it to disk and renames it over: either the old file
// stands or the new one does. Throws FileError (missing folder, no permission, disk full) and leaves no
// temporary behind.
void write_file_atomically(const std::filesystem::path& path, std::string_view content);

std::string_view job_schema();

} // namespace whorl
