#include "standard/thread_series.hpp"

#include "standard/table_text.hpp"

#include <cmath>
#include <map>
#include <nlohmann/json.hpp>
#include <stdexcept>

namespace whorl::standard {

extern const std::string_view whitworth_json_text, pipe_json_text, trapezoidal_json_text, acme_json_text,
    knuckle_json_text;

namespace {

using nlohmann::json;

std::optional<Length> length_at(const json& row, const char* key, bool inches) {
    if (!row.contains(key)) return {};
    return inches ? inch(row[key].get<double>()) : mm(row[key].get<double>());
}

struct Tables {
    std::map<std::string, std::vector<ListedThread>> series;
    std::map<std::string, std::vector<PipeSize>> pipe;

    Tables() {
        for (const auto& [text, inches] :
             {std::pair{whitworth_json_text, true}, std::pair{acme_json_text, true},
              std::pair{trapezoidal_json_text, false}, std::pair{knuckle_json_text, false}}) {
            const json document = table_in(text);
            for (const auto& s : document.at("series"))
                for (const auto& row : s.at("rows"))
                    series[s.at("name")].push_back(listed(s, row, inches));
        }
        const json document = table_in(pipe_json_text);
        for (const auto& s : document.at("series")) {
            const std::string name = s.at("name");
            const bool inches = name.starts_with("NP");
            for (const auto& row : s.at("rows")) {
                PipeSize p{listed(s, row, inches),
                           length_at(row, "gauge_length", false),
                           length_at(row, "useful_length", false),
                           length_at(row, "l1", true),
                           length_at(row, "td2", inches),
                           length_at(row, "td", inches),
                           length_at(row, "td1", inches),
                           length_at(row, "es", inches),
                           length_at(row, "nut2", inches)};
                series[name].push_back(p.listed);
                pipe[name].push_back(std::move(p));
            }
        }
    }

    static ListedThread listed(const json& s, const json& row, bool inches) {
        const Length pitch =
            row.contains("p") ? mm(row["p"].get<double>()) : inch(1 / row.at("tpi").get<double>());
        const double d = row.at("d");
        return {row.at("size"), inches ? inch(d) : mm(d), pitch, s.at("name"), s.at("source")};
    }
};

const Tables& tables() {
    static const Tables t;
    return t;
}

} // namespace

const std::vector<ListedThread>& thread_series(const std::string& name) {
    const auto it = tables().series.find(name);
    if (it == tables().series.end()) throw std::invalid_argument("no thread series " + name);
    return it->second;
}

const std::vector<PipeSize>& pipe_sizes(const std::string& name) {
    const auto it = tables().pipe.find(name);
    if (it == tables().pipe.end()) throw std::invalid_argument("no pipe thread series " + name);
    return it->second;
}

const PipeSize* pipe_size(const std::string& series, const std::string& size) {
    for (const auto& p : pipe_sizes(series))
        if (p.listed.size == size) return &p;
    return nullptr;
}

std::optional<TrapezoidalLimits> trapezoidal_limits(Length pitch) {
    static const auto rows = table_in(trapezoidal_json_text).at("limits").at("rows");
    for (const auto& row : rows)
        if (std::abs(row.at("p").get<double>() - in_mm(pitch)) < 1e-9)
            return TrapezoidalLimits{row.at("es_c"), row.at("es_e"), row.at("td"), row.at("td1")};
    return {};
}

double trapezoidal_preferred(double value) {
    static constexpr double r40[]{1,    1.06, 1.12, 1.18, 1.25, 1.32, 1.4,  1.5, 1.6, 1.7,  1.8,
                                  1.9,  2,    2.12, 2.24, 2.36, 2.5,  2.65, 2.8, 3,   3.15, 3.35,
                                  3.55, 3.75, 4,    4.25, 4.5,  4.75, 5,    5.3, 5.6, 6,    6.3,
                                  6.7,  7.1,  7.5,  8,    8.5,  9,    9.5,  10};
    const double scale = std::pow(10, std::floor(std::log10(value)));
    double best = r40[0];
    for (const double r : r40)
        if (std::abs(std::log(r * scale / value)) < std::abs(std::log(best * scale / value))) best = r;
    return best * scale;
}

} // namespace whorl::standard
