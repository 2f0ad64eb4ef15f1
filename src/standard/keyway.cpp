#include "standard/keyway.hpp"

#include "standard/table_text.hpp"

#include <nlohmann/json.hpp>

namespace whorl::standard {

extern const std::string_view keyways_json_text; // data/keyways.json

namespace {
const nlohmann::json& document() {
    static const auto parsed = table_in(keyways_json_text);
    return parsed;
}
} // namespace

const std::vector<Keyway>& keyways() {
    static const auto all = [] {
        std::vector<Keyway> out;
        for (const auto& row : document().at("rows")) {
            const auto length = [&](const char* key) { return mm(row.at(key).get<double>()); };
            out.push_back({length("over"), length("to"), length("width"), length("height"), length("shaft"),
                           length("hub")});
        }
        return out;
    }();
    return all;
}

const Keyway* keyway_for(Length bore) {
    for (const Keyway& k : keyways())
        if (bore > k.over && bore <= k.to) return &k;
    return nullptr;
}

const std::string& keyway_source() {
    static const std::string source = document().at("source");
    return source;
}

} // namespace whorl::standard
