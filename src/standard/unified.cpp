#include "standard/unified.hpp"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <stdexcept>

namespace whorl::standard {

extern const std::string_view unified_json_text; // data/unified.json

const std::vector<ListedThread>& unified_series() {
    static const std::vector<ListedThread> series = [] {
        std::vector<ListedThread> out;
        const auto j = nlohmann::json::parse(unified_json_text);
        for (const char* name : {"UNC", "UNF", "UNEF"})
            for (const auto& row : j.at(name).at("rows"))
                out.push_back({row.at("size"), inch(row.at("d").get<double>()),
                               inch(1 / row.at("tpi").get<double>()), name, j.at(name).at("source")});
        std::stable_sort(out.begin(), out.end(),
                         [](const auto& a, const auto& b) { return a.diameter < b.diameter; });
        return out;
    }();
    return series;
}

Length rounded_to_ten_thousandth_inch(Length l) {
    return inch(std::round(in_inch(l) * 1e4) / 1e4);
}

Length unified_engagement(Length diameter, Length pitch, bool graded_series) {
    return graded_series ? diameter : pitch * 9;
}

Length unified_pitch_tolerance_2a(Length diameter, Length engagement, Length pitch) {
    const double p = in_inch(pitch);
    return inch(0.0015 * std::cbrt(in_inch(diameter)) + 0.0015 * std::sqrt(in_inch(engagement)) +
                0.015 * std::cbrt(p * p));
}

Length unified_pitch_tolerance(int grade, bool external, Length tolerance_2a) {
    if (grade < 1 || grade > 3) throw std::invalid_argument("ASME B1.1 has the classes 1, 2 and 3");
    constexpr double a[]{1.5, 1.0, 0.75};
    constexpr double b[]{1.95, 1.3, 0.975};
    return rounded_to_ten_thousandth_inch(tolerance_2a * (external ? a : b)[grade - 1]);
}

Length unified_allowance(int grade, Length tolerance_2a) {
    if (grade < 1 || grade > 3) throw std::invalid_argument("ASME B1.1 has the classes 1, 2 and 3");
    return grade == 3 ? inch(0) : rounded_to_ten_thousandth_inch(tolerance_2a * 0.3);
}

Length unified_major_tolerance(int grade, Length pitch) {
    const double p = in_inch(pitch);
    return rounded_to_ten_thousandth_inch(inch((grade == 1 ? 0.09 : 0.06) * std::cbrt(p * p)));
}

Length unified_minor_tolerance(int grade, Length diameter, Length pitch) {
    const double p = in_inch(pitch), d = in_inch(diameter), n = 1 / p;
    const double small = 0.05 * std::cbrt(p * p) + 0.03 * p / d - 0.002;
    double t;
    if (grade <= 2) {
        if (d < 0.2499)
            t = std::clamp(small, 0.25 * p - 0.4 * p * p, 0.394 * p);
        else
            t = n > 3.99 ? 0.25 * p - 0.4 * p * p : 0.15 * p;
    } else {
        const double least = n > 12.99 ? 0.23 * p - 1.5 * p * p : 0.12 * p;
        t = std::clamp(small, least, 0.394 * p);
    }
    return rounded_to_ten_thousandth_inch(inch(t));
}

} // namespace whorl::standard
