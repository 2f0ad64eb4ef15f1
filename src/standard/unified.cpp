#include "standard/unified.hpp"

#include "standard/table_text.hpp"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <stdexcept>

namespace whorl::standard {

extern const std::string_view unified_json_text; // data/unified.json

const std::vector<ListedThread>& unified_series() {
    static const std::vector<ListedThread> series = [] {
        std::vector<ListedThread> out;
        const auto j = table_in(unified_json_text);
        for (const char* name : {"UNC", "UNF", "UNEF"})
            for (const auto& row : j.at(name).at("rows"))
                out.push_back({row.at("size"), inch(row.at("d").get<double>()),
                               inch(1 / row.at("tpi").get<double>()), name, j.at(name).at("source")});
        // 8-UN: from above 1 in, where UNC has eight threads, to 4 in, by eighths
        for (int eighths = 9; eighths <= 32; ++eighths) {
            const std::string size = std::to_string(eighths / 8) +
                                     (eighths % 8 == 0   ? ""
                                      : eighths % 4 == 0 ? " 1/2"
                                      : eighths % 2 == 0 ? " " + std::to_string(eighths % 8 / 2) + "/4"
                                                         : " " + std::to_string(eighths % 8) + "/8");
            out.push_back(
                {size, inch(eighths / 8.0), inch(1.0 / 8), "UN", "ASME B1.1-2003 table 2, 8-thread series"});
        }
        std::stable_sort(out.begin(), out.end(),
                         [](const auto& a, const auto& b) { return a.diameter < b.diameter; });
        return out;
    }();
    return series;
}

namespace {
// Halves go up, as on paper: 0.00675 is 0.0068, though the nearest binary number lies below it.
Length rounded_up_from_half(Length l, double places) {
    return inch(std::floor(in_inch(l) * places + 0.5 + 1e-7) / places);
}
} // namespace

Length rounded_to_ten_thousandth_inch(Length l) {
    return rounded_up_from_half(l, 1e4);
}
Length rounded_to_thousandth_inch(Length l) {
    return rounded_up_from_half(l, 1e3);
}

std::optional<PrintedLimits> unified_printed_2a(Length diameter, Length pitch) {
    // ASME B1.1 table 2: where it differs from its own formula by the last digit
    struct Row {
        double d, tpi, allowance, tolerance;
    };
    constexpr Row rows[]{{0.625, 11, 0.0016, 0.0055}, {1.125, 7, 0.0022, 0.0072}};
    for (const Row& r : rows)
        if (std::abs(in_inch(diameter) - r.d) < 1e-9 && std::abs(in_inch(pitch) * r.tpi - 1) < 1e-9)
            return PrintedLimits{inch(r.allowance), inch(r.tolerance)};
    return {};
}

Length unified_engagement(Length diameter, Length pitch, bool graded_series) {
    const double tpi = 1 / in_inch(pitch);
    for (const double coarse : {4.0, 6.0, 8.0})
        if (std::abs(tpi - coarse) < 1e-6) return diameter;
    return graded_series ? diameter : pitch * 9;
}

Length unified_pitch_tolerance_2a(Length diameter, Length engagement, Length pitch) {
    const double p = in_inch(pitch);
    return rounded_up_from_half(inch(0.0015 * std::cbrt(in_inch(diameter)) +
                                     0.0015 * std::sqrt(in_inch(engagement)) + 0.015 * std::cbrt(p * p)),
                                1e6);
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
    return inch(t);
}

} // namespace whorl::standard
