#include "standard/iso_metric.hpp"

#include "standard/table_text.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <nlohmann/json.hpp>
#include <stdexcept>

namespace whorl::standard {

extern const std::string_view iso_metric_json_text; // data/iso_metric.json

namespace {

constexpr Length micrometres(double v) {
    return mm(v / 1000);
}

struct Tables {
    std::vector<ListedThread> series;
    std::map<std::string, std::string> source; // by table name
    std::map<char, std::vector<std::pair<double, double>>> deviation;
    std::vector<PrintedTolerance> printed;
    std::vector<std::pair<double, double>> drills; // coarse: d, drill
};

const Tables& tables() {
    static const Tables loaded = [] {
        Tables t;
        const auto j = table_in(iso_metric_json_text);
        for (const char* name : {"coarse", "fine"})
            for (const auto& row : j.at(name).at("rows"))
                for (const auto& p : row.at("pitches")) {
                    const double d = row.at("d");
                    std::string size = std::to_string(d);
                    size.erase(size.find_last_not_of('0') + 1);
                    if (size.back() == '.') size.pop_back();
                    t.series.push_back({size, mm(d), mm(p.get<double>()), name, j.at(name).at("source")});
                }
        std::stable_sort(t.series.begin(), t.series.end(),
                         [](const auto& a, const auto& b) { return a.diameter < b.diameter; });
        t.source["deviation"] = j.at("deviation").at("source");
        for (const auto& row : j.at("deviation").at("rows"))
            for (const char letter : {'e', 'f', 'g', 'G'})
                if (const auto v = row.find(std::string(1, letter)); v != row.end())
                    t.deviation[letter].emplace_back(row.at("p"), v->get<double>());
        t.source["tap_drill"] = j.at("tap_drill").at("source");
        for (const auto& row : j.at("tap_drill").at("rows"))
            t.drills.emplace_back(row.at("d"), row.at("drill"));
        for (const char* kind : {"major_external", "minor_internal", "pitch_external", "pitch_internal"}) {
            t.source[kind] = j.at(kind).at("source");
            for (const auto& row : j.at(kind).at("rows"))
                for (const auto& [grade, value] : row.at("grades").items())
                    t.printed.push_back({kind, mm(row.value("over", 0.0)), mm(row.value("to", 0.0)),
                                         mm(row.at("p")), std::stoi(grade),
                                         micrometres(value.get<double>())});
        }
        return t;
    }();
    return loaded;
}

bool same(Length a, Length b) {
    return std::abs(in_mm(a - b)) < 5e-4;
}

Tolerance look_up(const std::string& kind, int grade, Length diameter, Length pitch, Length by_rule,
                  const std::string& rule_text) {
    for (const auto& row : tables().printed)
        if (row.kind == kind && row.grade == grade && same(row.pitch, pitch) &&
            (row.to == mm(0) || (diameter > row.over && diameter <= row.to)))
            return {row.value, tables().source.at(kind)};
    return {by_rule, rule_text + ", computed: not in the standard's table"};
}

// Grade factors of ISO 965-1 clause 13, from grade 3 on; 0 where the standard has no such grade.
double factor(int grade, const std::array<double, 7>& factors, const char* what) {
    const double k = grade >= 3 && grade <= 9 ? factors[static_cast<std::size_t>(grade - 3)] : 0;
    if (k == 0) throw std::invalid_argument(std::string("ISO 965-1 has no such grade for the ") + what);
    return k;
}
constexpr std::array<double, 7> td_factors{0, 0.63, 0, 1, 0, 1.6, 0};
constexpr std::array<double, 7> td1_factors{0, 0.63, 0.8, 1, 1.25, 1.6, 0};
constexpr std::array<double, 7> td2_factors{0.5, 0.63, 0.8, 1, 1.25, 1.6, 2};
constexpr std::array<double, 7> TD2_factors{0, 0.85, 1.06, 1.32, 1.7, 2.12, 0};

} // namespace

const std::vector<ListedThread>& iso_metric_series() {
    return tables().series;
}

TapDrill metric_tap_drill(Length diameter, Length pitch) {
    if (const ListedThread* coarse = iso_coarse(diameter); coarse && same(coarse->pitch, pitch))
        for (const auto& [d, drill] : tables().drills)
            if (same(mm(d), diameter)) return {mm(drill), tables().source.at("tap_drill")};
    return {mm(std::round(in_mm(diameter - pitch) * 20) / 20), "d − P, as ISO 2306 has fine threads"};
}

const ListedThread* iso_coarse(Length diameter) {
    for (const auto& t : iso_metric_series())
        if (t.series == "coarse" && same(t.diameter, diameter)) return &t;
    return nullptr;
}

const std::vector<PrintedTolerance>& metric_printed_tolerances() {
    return tables().printed;
}

Length metric_step_diameter(Length diameter) {
    constexpr std::array<double, 10> steps{0.99, 1.4, 2.8, 5.6, 11.2, 22.4, 45, 90, 180, 355};
    const double d = in_mm(diameter);
    for (std::size_t i = 1; i < steps.size(); ++i)
        if (d > steps[i - 1] && d <= steps[i]) return mm(std::sqrt(steps[i - 1] * steps[i]));
    return diameter;
}

namespace metric_rule {

Length deviation(char position, Length pitch) {
    const double p = in_mm(pitch);
    switch (position) {
    case 'e':
        return micrometres(-(50 + 11 * p));
    case 'f':
        return micrometres(-(30 + 11 * p));
    case 'g':
        return micrometres(-(15 + 11 * p));
    case 'G':
        return micrometres(15 + 11 * p);
    case 'h':
    case 'H':
        return mm(0);
    default:
        throw std::invalid_argument("ISO 965-1 has the positions e f g h and G H");
    }
}

Length major(int grade, Length pitch) {
    const double p = in_mm(pitch);
    return micrometres(factor(grade, td_factors, "major diameter") *
                       (180 * std::cbrt(p * p) - 3.15 / std::sqrt(p)));
}

Length minor(int grade, Length pitch) {
    const double p = in_mm(pitch);
    const double six = p < 0.9 ? 433 * p - 190 * std::pow(p, 1.22) : 230 * std::pow(p, 0.7);
    return micrometres(factor(grade, td1_factors, "minor diameter") * six);
}

Length pitch_external(int grade, Length step_diameter, Length pitch) {
    return micrometres(factor(grade, td2_factors, "pitch diameter") * 90 * std::pow(in_mm(pitch), 0.4) *
                       std::pow(in_mm(step_diameter), 0.1));
}

Length pitch_internal(int grade, Length step_diameter, Length pitch) {
    return micrometres(factor(grade, TD2_factors, "pitch diameter") * 90 * std::pow(in_mm(pitch), 0.4) *
                       std::pow(in_mm(step_diameter), 0.1));
}

} // namespace metric_rule

Tolerance metric_deviation(char position, Length pitch) {
    const Length rule = metric_rule::deviation(position, pitch);
    if (position == 'h' || position == 'H')
        return {mm(0), tables().source.at("deviation") + ", position " + position};
    if (const auto rows = tables().deviation.find(position); rows != tables().deviation.end())
        for (const auto& [p, v] : rows->second)
            if (same(mm(p), pitch)) return {micrometres(v), tables().source.at("deviation")};
    return {rule, "ISO 965-1 clause 13 formula for position " + std::string(1, position) +
                      ", computed: not in the standard's table"};
}

Tolerance metric_major_tolerance(int grade, Length pitch) {
    return look_up("major_external", grade, mm(0), pitch, metric_rule::major(grade, pitch),
                   "ISO 965-1 clause 13, Td formula");
}

Tolerance metric_minor_tolerance(int grade, Length pitch) {
    return look_up("minor_internal", grade, mm(0), pitch, metric_rule::minor(grade, pitch),
                   "ISO 965-1 clause 13, TD1 formula");
}

Tolerance metric_pitch_tolerance_external(int grade, Length diameter, Length pitch) {
    return look_up("pitch_external", grade, diameter, pitch,
                   metric_rule::pitch_external(grade, metric_step_diameter(diameter), pitch),
                   "ISO 965-1 clause 13, Td2 formula");
}

Tolerance metric_pitch_tolerance_internal(int grade, Length diameter, Length pitch) {
    return look_up("pitch_internal", grade, diameter, pitch,
                   metric_rule::pitch_internal(grade, metric_step_diameter(diameter), pitch),
                   "ISO 965-1 clause 13, TD2 formula");
}

} // namespace whorl::standard
