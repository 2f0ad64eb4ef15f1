#include "standard/screw_hole.hpp"

#include "standard/table_text.hpp"

#include <cmath>
#include <nlohmann/json.hpp>

namespace whorl::standard {

extern const std::string_view screw_holes_json_text; // data/screw_holes.json

const std::vector<ScrewHole>& screw_holes() {
    static const auto all = [] {
        std::vector<ScrewHole> out;
        const auto document = table_in(screw_holes_json_text);
        for (const auto& row : document.at("rows")) {
            const auto at = [&](const char* key) { return mm(row.at(key).get<double>()); };
            const auto perhaps = [&](const char* key) {
                return row.contains(key) ? std::optional(at(key)) : std::nullopt;
            };
            out.push_back({at("d"), at("fine"), at("medium"), at("coarse"), perhaps("counterbore"),
                           perhaps("more"), perhaps("countersink")});
        }
        return out;
    }();
    return all;
}

const ScrewHole* screw_hole(Length thread) {
    for (const ScrewHole& h : screw_holes())
        if (std::abs(in_mm(h.thread - thread)) < 1e-6) return &h;
    return nullptr;
}

Length clearance_hole(Length diameter) {
    if (const ScrewHole* h = screw_hole(diameter)) return h->medium;
    return mm(std::ceil(in_mm(diameter) * 1.1 * 2 - 1e-9) / 2);
}

} // namespace whorl::standard
