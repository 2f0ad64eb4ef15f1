// The title block that new jobs begin with: one file of the user's, beside the library of sections.
#pragma once

#include "model/drawing_settings.hpp"

#include <filesystem>

namespace whorl {

// $XDG_DATA_HOME/regular-whorl/title-block.json; empty where there is no such folder.
std::filesystem::path title_defaults_file();

// As kept; as ISO draws where nothing is, or what is kept can't be read.
JobDrawing load_title_defaults(const std::filesystem::path& file = title_defaults_file());
// All but number, revision and date, which are each job's own. Throws FileError.
void keep_title_defaults(const JobDrawing& drawing,
                         const std::filesystem::path& file = title_defaults_file());

} // namespace whorl
