// Jobs as JSON files: the published schema (schema/job.schema.json), reading with refusal, writing
// atomically.
#pragma once

#include "model/file.hpp"
#include "model/job.hpp"
#include "quantity/input_error.hpp"

#include <string>
#include <string_view>

namespace whorl {

constexpr int job_file_version = 6; // 6: where pieces stand; 5: drawings; 4: stations of a coil with two dots between, before with strokes
constexpr std::size_t largest_job_file = 32u << 20; // bytes

std::string job_to_json(const Job& job);

// Throws InputError with line and column (broken JSON) or the JSON path (wrong content), and the reason. The
// job is checked to resolve.
Job job_from_json(std::string_view text);

// Throw FileError. A refused or damaged file changes nothing.
Job load_job(const std::filesystem::path& path);
void save_job(const Job& job, const std::filesystem::path& path);

std::string_view job_schema();
std::string_view key_word(Where where); // as a file writes it

} // namespace whorl
