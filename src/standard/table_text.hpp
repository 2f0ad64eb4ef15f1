// The tables that are compiled in, as JSON. Read in one place: the reader is by far the largest part of what a file that
// includes it compiles.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string_view>

namespace whorl::standard {

nlohmann::json table_in(std::string_view text);

} // namespace whorl::standard
