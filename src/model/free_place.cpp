#include "model/free_place.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

struct Word {
    std::string text;
    std::size_t at = 0;
};

std::vector<Word> words_of(const std::string& text) {
    std::vector<Word> out;
    for (std::size_t i = 0; i < text.size();) {
        if (text[i] == ' ' || text[i] == '\t') {
            ++i;
            continue;
        }
        const std::size_t end = std::min(text.find_first_of(" \t", i), text.size());
        out.push_back({text.substr(i, end - i), i});
        i = end;
    }
    return out;
}

} // namespace

std::optional<FreePlace> free_place(const Number& stands, const Names& names) {
    const std::vector<Word> words = words_of(stands.text);
    if (words.empty()) return {};
    const bool turned = words.size() == 7 && words[3].text == "turned";
    if (words.size() != 3 && !turned)
        throw InputError(
            "Where a piece stands is three lengths, x y z, and by how much it is turned about each axis in "
            "degrees where it is: 10 20 5, or 10 20 5 turned 0 90 0.",
            0, stands.text.size());
    FreePlace out;
    const auto each = [&](std::size_t from, auto&& value) {
        for (std::size_t k = 0; k < 3; ++k)
            try {
                value(words[from + k], k);
            } catch (const InputError& e) {
                throw InputError(e.what(), words[from + k].at + e.position, e.extent);
            }
    };
    each(0, [&](const Word& w, std::size_t k) {
        out.at[k] = in_mm(evaluate_length(w.text, stands.unit, names));
        if (!(std::abs(out.at[k]) < 1e5))
            throw InputError("A piece stands less than 100000 mm away.", 0, w.text.size());
    });
    if (turned)
        each(4, [&](const Word& w, std::size_t k) { out.turns[k] = in_rad(evaluate_angle(w.text, names)); });
    return out;
}

std::string written(const FreePlace& place, LengthUnit unit) {
    std::string out;
    for (const double at : place.at)
        out += (out.empty() ? "" : " ") + length_text(mm(at), unit);
    if (place.turns == std::array<double, 3>{}) return out;
    out += " turned";
    for (const double turn : place.turns)
        out += " " + number_text(in_deg(rad(turn)), 4);
    return out;
}

} // namespace whorl
