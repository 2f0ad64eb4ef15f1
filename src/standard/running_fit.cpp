#include "standard/running_fit.hpp"

#include "standard/table_text.hpp"

#include <nlohmann/json.hpp>

#include <vector>

namespace whorl::standard {

extern const std::string_view running_fits_json_text; // data/running_fits.json

std::optional<RunningFit> running_fit(Length diameter) {
    struct Row {
        Length to;
        RunningFit fit;
    };
    static const auto all = [] {
        std::vector<Row> out;
        const auto document = table_in(running_fits_json_text);
        for (const auto& row : document.at("rows")) {
            const auto micrometres = [&](const char* key) { return mm(row.at(key).get<double>() / 1000); };
            out.push_back({mm(row.at("to").get<double>()), {micrometres("least"), micrometres("most")}});
        }
        return out;
    }();
    for (const Row& row : all)
        if (in_mm(diameter) <= in_mm(row.to) + 1e-9) return row.fit;
    return {};
}

} // namespace whorl::standard
