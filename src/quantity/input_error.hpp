// What is thrown whenever something a person wrote cannot be understood or cannot be made.
#pragma once

#include <cstddef>
#include <stdexcept>
#include <string>
#include <string_view>

namespace whorl {

// The message is a full sentence that says what is wrong and what would be accepted. `position` is the
// byte offset in the text where the trouble starts and `extent` how many bytes it covers (0: a point).
class InputError : public std::runtime_error {
public:
    explicit InputError(const std::string& sentence, std::size_t at = 0, std::size_t covers = 0)
        : std::runtime_error(sentence), position(at), extent(covers) {}
    std::size_t position;
    std::size_t extent;
};

// The first `most` characters of something foreign, fit for a sentence: in quotes, what can't be printed as a
// question mark, "…" where there is more.
std::string in_quotes(std::string_view text, std::size_t most = 20);

} // namespace whorl
