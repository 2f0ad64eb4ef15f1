#include "quantity/input_error.hpp"
#include "quantity/utf8.hpp"

namespace whorl {

namespace {

std::size_t size_by_lead(unsigned char lead) {
    return lead >= 0xF0 ? 4 : lead >= 0xE0 ? 3 : lead >= 0xC0 ? 2 : 1;
}

} // namespace

std::size_t character_size(std::string_view text, std::size_t i) {
    const auto byte = [&](std::size_t k) { return static_cast<unsigned char>(text[k]); };
    const std::size_t wanted = size_by_lead(byte(i));
    std::size_t size = 1;
    while (size < wanted && i + size < text.size() && (byte(i + size) & 0xC0) == 0x80)
        ++size;
    return size;
}

std::string in_quotes(std::string_view text, std::size_t most) {
    std::string out = "'";
    for (std::size_t i = 0, n = 0; i < text.size(); ++n) {
        if (n == most) return out + "\xE2\x80\xA6'"; // …
        const std::size_t size = character_size(text, i);
        const auto first = static_cast<unsigned char>(text[i]);
        const bool whole = first < 0x80 || (first >= 0xC2 && first < 0xF5 && size == size_by_lead(first)),
                   printed = first >= 32 && first != 127;
        out += whole && printed ? std::string(text.substr(i, size)) : "?";
        i += size;
    }
    return out + "'";
}

} // namespace whorl
