#include "form/coil/stations.hpp"

#include "quantity/input_error.hpp"
#include "quantity/trimmed.hpp"

#include <algorithm>
#include <cctype>
#include <charconv>

namespace whorl {
namespace {

std::vector<Station> split(std::string_view text, std::string_view sign) {
    std::vector<Station> out;
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t to = std::min(text.find(sign, from), text.size());
        out.push_back({text.substr(from, to - from), from});
        from = to + sign.size();
    }
    return out;
}

bool whole(std::string_view s) {
    s = trimmed(s);
    return !s.empty() && s.size() < 7 && std::all_of(s.begin(), s.end(), [](char c) {
        return std::isdigit(static_cast<unsigned char>(c));
    });
}

bool plain(std::string_view s) {
    s = trimmed(s);
    double v = 0;
    const auto [end, error] = std::from_chars(s.data(), s.data() + s.size(), v, std::chars_format::fixed);
    return error == std::errc() && end == s.data() + s.size() && v > 0;
}

bool under_a_fraction(std::string_view s) {
    s = trimmed(s);
    return s == "2" || s == "4" || s == "8" || s == "16" || s == "32" || s == "64";
}

} // namespace

std::vector<Station> stations_in(std::string_view text, LengthUnit unit) {
    if (text.find("..") != text.npos) return split(text, "..");
    auto strokes = split(text, "/");
    if (strokes.size() < 2 ||
        !std::all_of(strokes.begin(), strokes.end(), [](const Station& s) { return plain(s.text); }))
        return {{text, 0}};
    if (strokes.size() > 2 || !whole(strokes[0].text) || !under_a_fraction(strokes[1].text)) return strokes;
    if (unit == LengthUnit::inch) return {{text, 0}};
    const std::string a(trimmed(strokes[0].text)), b(trimmed(strokes[1].text));
    throw InputError("'" + std::string(text) + "' may be a fraction or two stations; write " + a + ".." + b +
                         " for the stations " + a + " and " + b + ", (" + a + "/" + b + ") for the fraction.",
                     0, text.size());
}

void require_one_number(std::string_view text, const char* what) {
    const auto strokes = split(text, "/");
    const bool several = text.find("..") != text.npos;
    if (!several &&
        (strokes.size() < 2 ||
         !std::all_of(strokes.begin(), strokes.end(), [](const Station& s) { return plain(s.text); }) ||
         (strokes.size() == 2 && whole(strokes[0].text) && whole(strokes[1].text))))
        return;
    throw InputError(
        "The " + std::string(what) + " is one number, and '" + std::string(text) + "' are several" +
            (several ? "." : "; a division is written in brackets: (" + std::string(text) + ")."),
        0, text.size());
}

} // namespace whorl
