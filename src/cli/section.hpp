// `whorl section`: sections of one's own and the personal library.
#pragma once

#include "form/thread/own_section.hpp"

#include <optional>
#include <ostream>
#include <string>
#include <vector>

namespace whorl {

// The library's sections, read only if the text names one.
std::vector<OwnSection> known_in(const std::string& text);

// Each gives the exit code. Throws InputError, FileError.
int section_import(const std::string& path, const std::string& name, std::optional<double> pitch,
                   bool replace, std::ostream& out);
int section_list(bool as_json, std::ostream& out, std::ostream& err);
int section_show(const std::string& name, bool as_json, std::ostream& out);
int section_remove(const std::string& name, std::ostream& out);

} // namespace whorl
