#include "model/tooth_json.hpp"

#include <nlohmann/json.hpp>

namespace whorl {

using nlohmann::json;
using ordered = nlohmann::ordered_json;

namespace {
constexpr std::pair<const char*, Number ToothForm::*> numbers[]{
    {"pressure_angle", &ToothForm::pressure_angle},
    {"helix_angle", &ToothForm::helix_angle},
    {"profile_shift", &ToothForm::profile_shift},
    {"tip_shortening", &ToothForm::tip_shortening},
    {"thinning", &ToothForm::thinning}};
constexpr const char* edge_words[]{"sharp", "chamfered", "rounded"};
} // namespace

ordered number_to_json(const Number& n) {
    if (n.unit == LengthUnit::millimetre) return n.text;
    return ordered{{"text", n.text}, {"unit", "in"}};
}

Number number_from_json(const json& j) {
    if (j.is_string()) return {j.get<std::string>(), LengthUnit::millimetre};
    return {j.at("text").get<std::string>(),
            j.at("unit") == "in" ? LengthUnit::inch : LengthUnit::millimetre};
}

ordered teeth_to_json(const ToothForm& t) {
    ordered j{{"module", number_to_json(t.module)}, {"teeth", number_to_json(t.teeth)}};
    for (const auto& [key, member] : numbers)
        if (!(t.*member).text.empty()) j[key] = number_to_json(t.*member);
    if (t.hand == Hand::left) j["hand"] = "left";
    if (t.rack != "A") j["basic_rack"] = t.rack;
    if (t.tip_edge != TipEdge::sharp) {
        j["tip_edge"] = edge_words[static_cast<int>(t.tip_edge)];
        j["tip_size"] = number_to_json(t.tip_size);
    }
    if (t.bar) {
        ordered b{{"face_width", number_to_json(t.bar->width)}, {"height", number_to_json(t.bar->height)}};
        if (!t.bar->near_plain.text.empty()) b["near_plain"] = number_to_json(t.bar->near_plain);
        if (!t.bar->far_plain.text.empty()) b["far_plain"] = number_to_json(t.bar->far_plain);
        j["rack"] = b;
    }
    return j;
}

ToothForm teeth_from_json(const json& j) {
    ToothForm t;
    t.module = number_from_json(j.at("module"));
    t.teeth = number_from_json(j.at("teeth"));
    for (const auto& [key, member] : numbers)
        if (j.contains(key)) t.*member = number_from_json(j[key]);
    t.hand = j.value("hand", "right") == "left" ? Hand::left : Hand::right;
    t.rack = j.value("basic_rack", "A");
    for (int i = 0; i < 3; ++i)
        if (j.value("tip_edge", "sharp") == edge_words[i]) t.tip_edge = static_cast<TipEdge>(i);
    if (j.contains("tip_size")) t.tip_size = number_from_json(j["tip_size"]);
    if (j.contains("rack")) {
        const json& b = j["rack"];
        t.bar = RackBar{number_from_json(b.at("face_width")), number_from_json(b.at("height")), {}, {}};
        if (b.contains("near_plain")) t.bar->near_plain = number_from_json(b["near_plain"]);
        if (b.contains("far_plain")) t.bar->far_plain = number_from_json(b["far_plain"]);
    }
    return t;
}

} // namespace whorl
