// Outlines from other programs as sections of one's own.
//
// A drawing or a table (outline_files.hpp), or a .json section kept before.
//
// The outline runs from crest to crest across one groove: along the thread's axis from left to right, the
// metal of the screw below it. Level stretches at its two ends are crest. The pitch is the outline's width
// unless it is said. Free curves are taken as straight pieces within a ten-thousandth of the width.
#pragma once

#include "exchange/outline_files.hpp"
#include "form/thread/own_section.hpp"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace whorl {

OwnSection section_from_outline(std::vector<OutlinePoint> outline, const std::string& name,
                                std::optional<double> pitch = {});

// By the file's ending. An empty name becomes that of the file. Throws InputError or FileError.
OwnSection import_section(const std::filesystem::path& path, std::string name = {},
                          std::optional<double> pitch = {});

// The same outline at its own size, for a groove: mm, its first point at z = 0.
std::vector<OwnPoint> import_groove(const std::filesystem::path& path);

} // namespace whorl
