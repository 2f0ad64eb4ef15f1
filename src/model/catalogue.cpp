#include "model/catalogue.hpp"

#include "model/starter_table.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>

namespace whorl {

CatalogueLine catalogue_line(const Usual& usual) {
    CatalogueLine out{.text = {}, .says = usual.says, .marks = {}};
    for (const char c : usual.text) {
        if (c == '{')
            out.marks.emplace_back(out.text.size(), 0);
        else if (c == '}')
            out.marks.back().second = out.text.size() - out.marks.back().first;
        else
            out.text += c;
    }
    return out;
}

namespace {

// A thread has a length of about four diameters.
CatalogueLine with_length(const Usual& usual, std::span<const OwnSection> known) {
    const Designation d = parse_designation(without_marks(usual.text), known);
    const auto* t = std::get_if<ThreadSpec>(&d.what);
    if (!t) return catalogue_line(usual);
    Usual longer = usual;
    if (!t->tolerance_class.empty() && use_of(t->family) != ThreadUse::pipe)
        longer.text += "-{" + t->tolerance_class + "}";
    const double about = 4 * in_unit(t->diameter, d.unit);
    const double step = d.unit == LengthUnit::inch ? 0.25 : about < 20 ? 1 : 5;
    longer.text += " x {" + number_text(std::max(step, std::round(about / step) * step), 3) + "}";
    return catalogue_line(longer);
}

// The member that stands for its family, by how it begins: M10x1.5.
std::size_t telling_line(const std::vector<CatalogueLine>& lines, std::string_view example) {
    for (std::size_t i = 0; i < lines.size(); ++i)
        if (!example.empty() && lines[i].text.starts_with(example)) return i;
    return 0;
}

} // namespace

std::vector<CatalogueFamily> catalogue(std::span<const OwnSection> known) {
    std::vector<CatalogueFamily> out;
    const auto add = [&](CatalogueFamily family) {
        if (!family.lines.empty()) out.push_back(std::move(family));
    };
    for (const Starter& s : starters()) {
        CatalogueFamily family{s.words, s.group, s.card, {}};
        for (const Usual& u : s.usual())
            family.lines.push_back(catalogue_line(u));
        const std::string_view example = s.example;
        family.shown = telling_line(family.lines, example.substr(0, example.find(" x ")));
        add(std::move(family));
    }
    for (const DesignationKind& k : designation_kinds()) {
        CatalogueFamily family{k.key, k.group, k.card, {}};
        for (const Usual& u : k.usual(known))
            family.lines.push_back(with_length(u, known));
        family.shown = telling_line(family.lines, k.example);
        add(std::move(family));
    }
    // groups in the order in which they first come
    std::map<std::string, std::size_t> rank;
    for (const CatalogueFamily& f : out)
        rank.try_emplace(f.group, rank.size());
    std::stable_sort(out.begin(), out.end(),
                     [&](const auto& a, const auto& b) { return rank.at(a.group) < rank.at(b.group); });
    return out;
}

bool answers(const CatalogueLine& line, std::string_view typed) {
    const auto is_part = [](char c) {
        return std::isalnum(static_cast<unsigned char>(c)) || c == '.' || c == '/' || c == '#';
    };
    const auto same = [](char a, char b) {
        return std::tolower(static_cast<unsigned char>(a)) == std::tolower(static_cast<unsigned char>(b));
    };
    const auto is_digit = [](char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; };
    // without its length, which is no size one looks for
    const std::size_t length_at = line.text.rfind(" x ");
    const std::string text = line.text.substr(0, length_at) + " " + line.says;
    const std::size_t size_end = line.marks.empty() ? 0 : line.marks[0].first + line.marks[0].second;
    std::size_t at = 0;
    while (at < typed.size()) {
        while (at < typed.size() && typed[at] == ' ')
            ++at;
        const std::size_t behind = std::min(typed.find(' ', at), typed.size());
        const std::string_view word = typed.substr(at, behind - at);
        at = behind;
        if (word.empty()) continue;
        bool found = false;
        for (std::size_t i = 0; i + word.size() <= text.size() && !found; ++i) {
            const std::size_t end = i + word.size();
            // where a word or a number begins: M10, 10, x1.5, 1.5
            const bool begins = i == 0 || !is_part(text[i - 1]) ||
                                (is_digit(text[i]) && std::isalpha(static_cast<unsigned char>(text[i - 1])));
            // a number stands whole, but for the size, which may still be being typed
            const bool whole = !is_digit(word.back()) || end >= text.size() || !is_part(text[end]) ||
                               std::isalpha(static_cast<unsigned char>(text[end])) || end < size_end;
            found = begins && whole &&
                    std::equal(word.begin(), word.end(), text.begin() + std::ptrdiff_t(i), same);
        }
        if (!found) return false;
    }
    return true;
}

} // namespace whorl
