#include "standard/fastener.hpp"

#include "standard/table_text.hpp"

#include <cmath>
#include <map>
#include <nlohmann/json.hpp>
#include <stdexcept>

namespace whorl::standard {

extern const std::string_view fasteners_json_text; // data/fasteners.json

const std::vector<FastenerSize>& fastener_sizes(const std::string& kind) {
    static const auto all = [] {
        std::map<std::string, std::vector<FastenerSize>> out;
        const auto document = table_in(fasteners_json_text);
        for (const auto& [name, block] : document.items()) {
            if (!block.is_object() || name == "relief_groove") continue;
            for (const auto& row : block.at("rows")) {
                const auto at = [&](const char* key) { return mm(row.value(key, 0.0)); };
                out[name].push_back({at("d"), at("across_flats"), at("height"), at("diameter"), at("key"),
                                     at("key_depth"), at("point"), block.at("source")});
            }
        }
        return out;
    }();
    const auto it = all.find(kind);
    if (it == all.end()) throw std::invalid_argument("no fastener kind " + kind);
    return it->second;
}

const FastenerSize* fastener_size(const std::string& kind, Length thread) {
    for (const auto& s : fastener_sizes(kind))
        if (std::abs(in_mm(s.thread - thread)) < 1e-6) return &s;
    return nullptr;
}

const ReliefGroove* relief_groove(Length pitch) {
    static const auto rows = [] {
        std::vector<ReliefGroove> out;
        const auto document = table_in(fasteners_json_text);
        const auto& block = document.at("relief_groove");
        for (const auto& row : block.at("rows")) {
            const auto at = [&](const char* key) { return mm(row.at(key).get<double>()); };
            out.push_back({at("pitch"), at("narrower"), at("least_width"), at("width"), block.at("source")});
        }
        return out;
    }();
    for (const auto& row : rows)
        if (in_mm(row.pitch) > in_mm(pitch) - 1e-6) return &row;
    return nullptr;
}

} // namespace whorl::standard
