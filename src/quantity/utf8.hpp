// Characters of more than one byte.
#pragma once

#include <cstddef>
#include <string_view>

namespace whorl {

// Bytes of the UTF-8 character that begins at i; 1 for what is none.
std::size_t character_size(std::string_view text, std::size_t i);

} // namespace whorl
