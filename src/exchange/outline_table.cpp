#include "exchange/outline_files.hpp"

#include "model/file.hpp"
#include "quantity/expression.hpp"

#include <cctype>
#include <charconv>
#include <cmath>
#include <sstream>

namespace whorl {
namespace {

std::vector<OutlinePoint> points_of_table(std::string_view text, std::size_t most) {
    std::vector<OutlinePoint> p;
    std::istringstream lines{with_plain_line_ends(text)};
    std::string line;
    for (int number = 1; std::getline(lines, line); ++number) {
        if (const auto hash = line.find('#'); hash != std::string::npos) line.resize(hash);
        for (char& c : line)
            if (c == ',' || c == ';' || c == '\t') c = ' ';
        std::istringstream words(line);
        std::string word;
        std::vector<double> v;
        bool bad = false;
        while (words >> word) {
            double x = 0;
            const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), x);
            if (error != std::errc() || end != word.data() + word.size() || !std::isfinite(x)) bad = true;
            v.push_back(x);
        }
        if (v.empty()) continue;
        const auto first = line.find_first_not_of(" \"");
        if (bad && p.empty() && first != std::string::npos &&
            std::isalpha(static_cast<unsigned char>(line[first])) && !line.substr(first).starts_with("nan") &&
            !line.substr(first).starts_with("inf"))
            continue; // a heading
        if (bad || v.size() < 2 || v.size() > 3)
            throw InputError(
                "Line " + std::to_string(number) +
                " is not understood; each line holds z and r, and the bow of an arc if there is one.");
        p.push_back({v[0], v[1], v.size() > 2 ? v[2] : 0});
        if (p.size() > most)
            throw InputError("The table has more than " + std::to_string(most) +
                             " points; leave out points that lie close together.");
    }
    if (p.size() < 3 && !(p.size() == 2 && p.front().bow != 0))
        throw InputError("An outline has at least three points, one on each line: z, r.");
    return p;
}
} // namespace

std::vector<OutlinePoint> outline_from_csv(std::string_view text) {
    return points_of_table(text, most_pieces_in_drawing);
}
std::vector<OutlinePoint> long_outline_from_csv(std::string_view text) {
    return points_of_table(text, most_pieces_compared);
}

} // namespace whorl
