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

} // namespace whorl
