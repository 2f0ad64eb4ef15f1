#include "model/number_json.hpp"

#include <nlohmann/json.hpp>

namespace whorl {

nlohmann::ordered_json number_to_json(const Number& n) {
    if (n.unit == LengthUnit::millimetre) return n.text;
    return nlohmann::ordered_json{{"text", n.text}, {"unit", "in"}};
}

Number number_from_json(const nlohmann::json& j) {
    if (j.is_string()) return {j.get<std::string>(), LengthUnit::millimetre};
    return {j.at("text").get<std::string>(),
            j.at("unit") == "in" ? LengthUnit::inch : LengthUnit::millimetre};
}

void finish_to_json(const std::string& finish, nlohmann::ordered_json& to) {
    const std::size_t own = finish.find('#');
    std::string material = finish.substr(0, own);
    while (!material.empty() && material.back() == ' ')
        material.pop_back();
    if (!material.empty()) to["finish"] = material;
    if (own != std::string::npos) to["colour"] = finish.substr(own);
}

std::string finish_from_json(const nlohmann::json& from) {
    std::string finish = from.value("finish", "");
    if (const std::string colour = from.value("colour", ""); !colour.empty())
        finish += (finish.empty() ? "" : " ") + colour;
    return finish;
}

} // namespace whorl
