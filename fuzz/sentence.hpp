// What every refusal owes: a sentence a person can read, with its place inside what was written.
#pragma once

#include "quantity/input_error.hpp"

#include <cstdio>
#include <cstdlib>
#include <string_view>

namespace whorl::fuzz {

inline void require(bool holds, const char* what, std::string_view about = {}) {
    if (holds) return;
    std::fprintf(stderr, "fuzz: %s: %s\n", what, std::string(about).c_str());
    std::abort();
}

inline void require_sentence(const InputError& e, std::size_t size) {
    const std::string_view said = e.what();
    require(said.size() > 12 && said.size() < 700, "a sentence of 12 to 700 characters", said);
    require(said.back() == '.' || said.back() == '?' || said.back() == ')', "a sentence ends", said);
    require(e.position <= size && e.extent <= size - e.position, "the place is inside the text", said);
}

} // namespace whorl::fuzz
