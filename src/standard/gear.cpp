#include "standard/gear.hpp"

#include "standard/table_text.hpp"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace whorl::standard {

extern const std::string_view gears_json_text; // data/gears.json

namespace {
const nlohmann::json& document() {
    static const auto parsed = table_in(gears_json_text);
    return parsed;
}
} // namespace

const std::vector<BasicRack>& basic_racks() {
    static const auto all = [] {
        std::vector<BasicRack> out;
        for (const auto& row : document().at("racks").at("rows"))
            out.push_back({row.at("type"), row.at("addendum"), row.at("dedendum"), row.at("root_radius")});
        return out;
    }();
    return all;
}

const BasicRack* basic_rack(const std::string& type) {
    for (const BasicRack& r : basic_racks())
        if (r.type == type) return &r;
    return nullptr;
}

const std::string& basic_rack_source() {
    static const std::string source = document().at("racks").at("source");
    return source;
}

const std::vector<PreferredModule>& preferred_modules() {
    static const auto all = [] {
        std::vector<PreferredModule> out;
        for (const auto& [key, series] : {std::pair{"first", 1}, std::pair{"second", 2}})
            for (const auto& m : document().at("modules").at(key))
                out.push_back({mm(m.get<double>()), series});
        std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.module < b.module; });
        return out;
    }();
    return all;
}

const std::string& preferred_module_source() {
    static const std::string source = document().at("modules").at("source");
    return source;
}

} // namespace whorl::standard
