#include "standard/listed_thread.hpp"

#include <algorithm>
#include <cmath>
#include <stdexcept>

namespace whorl::standard {

const ListedThread* find_listed(const std::vector<ListedThread>& series, Length diameter, Length pitch) {
    const auto same = [](Length a, Length b) { return std::abs(in_mm(a - b)) < 5e-4; };
    for (const auto& t : series)
        if (same(t.diameter, diameter) && same(t.pitch, pitch)) return &t;
    return nullptr;
}

const ListedThread& nearest_listed(const std::vector<ListedThread>& series, Length diameter, Length pitch) {
    if (series.empty()) throw std::logic_error("nearest_listed needs a series");
    const auto distance = [&](const ListedThread& t) {
        const double by_diameter = std::abs(std::log(t.diameter / diameter));
        const double by_pitch = std::abs(std::log(t.pitch / pitch));
        return 10 * by_diameter + by_pitch;
    };
    return *std::min_element(series.begin(), series.end(),
                             [&](const auto& a, const auto& b) { return distance(a) < distance(b); });
}

} // namespace whorl::standard
