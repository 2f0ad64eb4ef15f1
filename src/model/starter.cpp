#include "model/starter.hpp"

#include "model/forms/forms.hpp"
#include "model/starter_table.hpp"

#include <algorithm>
#include <cctype>

namespace whorl {

bool is_starter(std::string_view text) {
    return find_starter(text).has_value();
}

Piece piece_of(std::string_view text, std::span<const OwnSection> known) {
    if (const auto found = find_starter(text))
        return found->starter->make(*found->starter, text, found->rest, known);
    const Designation d = parse_designation(text, known);
    Piece p = std::visit([&](const auto& spec) { return piece_asked(spec, d); }, d.what);
    if (p.name.size() > 80) p.name.resize(80);
    return p;
}

std::vector<std::string> complete_piece(std::string_view text, std::size_t limit,
                                        std::span<const OwnSection> known) {
    while (!text.empty() && text.front() == ' ')
        text.remove_prefix(1);
    std::vector<std::string> out;
    if (text.empty()) return out;
    if (const auto found = find_starter(text)) {
        const std::string head(text.substr(0, found->rest));
        for (const std::string& s : complete_designation(text.substr(found->rest), limit, known)) {
            // the starter chooses the class
            const auto dash = s.rfind('-');
            const bool metric = s.front() == 'M' && dash != std::string::npos;
            const std::string whole = head + (metric ? s.substr(0, dash) : s);
            if (std::find(out.begin(), out.end(), whole) == out.end()) out.push_back(whole);
        }
        return out;
    }
    for (const Starter& s : starters()) {
        const std::string_view example = s.example;
        bool fits = example.size() > text.size();
        for (std::size_t i = 0; fits && i < text.size(); ++i)
            fits = std::tolower(static_cast<unsigned char>(text[i])) ==
                   std::tolower(static_cast<unsigned char>(example[i]));
        if (fits && out.size() < limit)
            out.push_back(std::string(text) + std::string(example.substr(text.size())));
    }
    for (std::string& s : complete_designation(text, limit, known))
        if (out.size() < limit) out.push_back(std::move(s));
    return out;
}

} // namespace whorl
