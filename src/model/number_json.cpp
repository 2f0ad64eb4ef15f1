#include "model/number_json.hpp"

#include <nlohmann/json.hpp>

namespace whorl {

using nlohmann::json;
using nlohmann::ordered_json;

ordered_json number_to_json(const Number& n) {
    if (n.unit == LengthUnit::millimetre) return n.text;
    return ordered_json{{"text", n.text}, {"unit", "in"}};
}

Number number_from_json(const json& j) {
    if (j.is_string()) return {j.get<std::string>(), LengthUnit::millimetre};
    return {j.at("text").get<std::string>(),
            j.at("unit") == "in" ? LengthUnit::inch : LengthUnit::millimetre};
}

bool stands_in(const json& from, const char* key) {
    return from.contains(key);
}
const json& part_at(const json& from, const char* key) {
    return from.at(key);
}
Number number_at(const json& from, const char* key) {
    return from.contains(key) ? number_from_json(from[key]) : Number{};
}
std::string text_at(const json& from, const char* key, std::string_view otherwise) {
    return from.value(key, std::string(otherwise));
}
int whole_at(const json& from, const char* key, int otherwise) {
    return from.value(key, otherwise);
}
bool true_at(const json& from, const char* key) {
    return from.value(key, false);
}
ordered_json& part_of(ordered_json& to, const char* key) {
    return to[key];
}
void put_number(ordered_json& to, const char* key, const Number& n) {
    to[key] = number_to_json(n);
}
void put_text(ordered_json& to, const char* key, std::string_view text) {
    to[key] = text;
}
void put_whole(ordered_json& to, const char* key, int n) {
    to[key] = n;
}
void put_true(ordered_json& to, const char* key) {
    to[key] = true;
}

void finish_to_json(const std::string& finish, ordered_json& to) {
    const std::size_t own = finish.find('#');
    std::string material = finish.substr(0, own);
    while (!material.empty() && material.back() == ' ')
        material.pop_back();
    if (!material.empty()) to["finish"] = material;
    if (own != std::string::npos) to["colour"] = finish.substr(own);
}

std::string finish_from_json(const json& from) {
    std::string finish = from.value("finish", "");
    if (const std::string colour = from.value("colour", ""); !colour.empty())
        finish += (finish.empty() ? "" : " ") + colour;
    return finish;
}

} // namespace whorl
