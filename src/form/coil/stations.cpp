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

std::vector<CoilStation> read_stations(std::string_view text, LengthUnit unit, const Names& names) {
    std::vector<CoilStation> out;
    for (const Station& one : stations_in(text, unit)) {
        std::size_t from = one.at; // of what is read now
        try {
            const std::size_t sign = one.text.find('@');
            CoilStation s{.value = evaluate_length(one.text.substr(0, sign), unit, names)};
            if (sign != one.text.npos) {
                std::string_view place = one.text.substr(sign + 1);
                from += sign + 1;
                const bool height = place.starts_with('z');
                if (height) place.remove_prefix(1), ++from;
                s.by = height ? StationBy::height : StationBy::turns;
                s.at = height ? in_mm(evaluate_length(place, unit, names)) : evaluate_number(place, names);
            }
            out.push_back(s);
        } catch (const InputError& e) {
            throw InputError(e.what(), from + e.position, e.extent);
        }
    }
    return out;
}

std::string write_stations(const std::vector<CoilStation>& stations, LengthUnit unit) {
    const auto length = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    std::string text;
    for (const CoilStation& s : stations) {
        text += (text.empty() ? "" : "..") + length(s.value);
        if (s.by == StationBy::turns) text += "@" + number_text(s.at, 6);
        if (s.by == StationBy::height) text += "@z" + length(mm(s.at));
    }
    return text;
}

bool by_height(const std::vector<CoilStation>& stations) {
    return std::ranges::any_of(stations, [](const CoilStation& s) { return s.by == StationBy::height; });
}

bool all_alike(const std::vector<CoilStation>& stations) {
    return std::ranges::all_of(stations,
                               [&](const CoilStation& s) { return s.value == stations.front().value; });
}

std::vector<double> placed(const std::vector<CoilStation>& stations, double from, double to) {
    const bool heights = by_height(stations);
    const auto shown = [&](double v) { return (heights ? "z" : "") + number_text(v, 4); };
    const std::size_t n = stations.size();
    std::vector<double> at(n);
    std::vector<bool> known(n);
    for (std::size_t i = 0; i < n; ++i) {
        const CoilStation& s = stations[i];
        if (heights && s.by == StationBy::turns)
            throw InputError("Stations stand at turns, such as 30@2.5, or at heights, such as 30@z22, not "
                             "some at these and some at those.");
        known[i] = s.by != StationBy::spread;
        at[i] = known[i] ? s.at : i == 0 ? from : to;
        known[i] = known[i] || i == 0 || i + 1 == n;
    }
    for (std::size_t i = 1; i < n; ++i) { // the others evenly between their neighbours
        if (known[i]) continue;
        std::size_t next = i;
        while (!known[next])
            ++next;
        for (std::size_t k = i; k < next; ++k)
            at[k] = at[i - 1] + (at[next] - at[i - 1]) * static_cast<double>(k + 1 - i) /
                                    static_cast<double>(next + 1 - i);
        i = next;
    }
    for (std::size_t i = 0; i < n; ++i) {
        if (at[i] < from - 1e-6 || at[i] > to + 1e-6)
            throw InputError("A station stands at " + shown(at[i]) + "; it is between " + shown(from) +
                             " and " + shown(to) + (heights ? ", heights over the near end." : " turns."));
        at[i] = std::clamp(at[i], from, to);
        if (i && at[i] < at[i - 1] + 1e-6 * (to - from))
            throw InputError("Stations stand behind each other, and " + shown(at[i]) + " is not behind " +
                             shown(at[i - 1]) + ".");
    }
    return at;
}

} // namespace whorl
