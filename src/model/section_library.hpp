// The personal library: sections of one's own, a small JSON file each, in a folder of the user.
#pragma once

#include "model/job_file.hpp"

#include <filesystem>
#include <string>
#include <vector>

namespace whorl {

// $XDG_DATA_HOME/regular-whorl/sections, or the same below ~/.local/share. Empty where neither is set.
std::filesystem::path section_folder();

struct SectionLibrary {
    std::vector<OwnSection> sections;  // by name
    std::vector<std::string> problems; // a sentence for each file that was left out
};
// A folder that is not there is an empty library; one that can't be read throws FileError.
SectionLibrary load_library(const std::filesystem::path& folder = section_folder());

std::string section_to_text(const OwnSection& section);
// Throws InputError.
OwnSection section_from_text(std::string_view text);

// Writes NAME.section.json atomically, making the folder if need be, and gives its path. Throws InputError (a
// section that can't be used; another one of that name that `stands`) or FileError.
enum class Kept { stands, replaced };
std::filesystem::path keep_section(const OwnSection& section,
                                   const std::filesystem::path& folder = section_folder(),
                                   Kept old = Kept::stands);
// Whether there was one. Throws FileError.
bool forget_section(const std::string& name, const std::filesystem::path& folder = section_folder());

// What can be named while working on a job: the job's own sections, then those of the library it does not
// have.
std::vector<OwnSection> known_sections(const Job& job, const std::vector<OwnSection>& library);

} // namespace whorl
