#include "model/schema_sentence.hpp"

#include "quantity/input_error.hpp"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <regex>

namespace whorl {
namespace {

using nlohmann::json;
using Sentence = std::optional<std::string>;

std::string shown(const json& value) {
    if (value.is_object()) return "an object";
    if (value.is_array()) return "a list";
    if (value.is_string()) return in_quotes(value.get_ref<const std::string&>());
    const std::string text = value.dump();
    return text.size() > 20 ? "a number" : text;
}

std::string listed(const json& words) {
    std::string out;
    for (const json& w : words)
        out += (out.empty() ? "" : ", ") + (w.is_string() ? w.get<std::string>() : w.dump());
    return out;
}

class Reader {
public:
    explicit Reader(const json& schema) : root_(schema) {}

    Sentence read(const json& value, const json& schema, const std::string& place) const {
        if (const auto ref = schema.find("$ref"); ref != schema.end())
            return read(value, root_.at(json::json_pointer(ref->get<std::string>().substr(1))), place);
        const auto says = [&](const std::string& what) {
            return (place.empty() ? "The file" : place) + " is " + shown(value) + "; " + what + ".";
        };
        if (const auto one = schema.find("oneOf"); one != schema.end()) {
            const json* nearest = nullptr;
            for (const json& s : *one) {
                if (!read(value, s, place)) return {};
                if (fits(value, s.value("type", ""))) nearest = &s;
            }
            return nearest ? read(value, *nearest, place)
                           : says("a number is written as a text, such as \"12\", or with its unit, such as "
                                  "{\"text\": \"12\", \"unit\": \"mm\"}");
        }
        if (const auto words = schema.find("enum"); words != schema.end())
            return std::find(words->begin(), words->end(), value) == words->end()
                       ? says("known here: " + listed(*words))
                       : Sentence();
        if (const std::string type = schema.value("type", ""); !fits(value, type))
            return says(type == "integer"   ? "a whole number is expected"
                        : type == "string"  ? "a text in quotes is expected"
                        : type == "boolean" ? "true or false is expected"
                        : type == "array"   ? "a list is expected"
                                            : "an object with members is expected");
        const auto bound = [&](const char* key) { return schema.value(key, 0LL); };
        const auto has = [&](const char* key) { return schema.contains(key); };
        if (value.is_number()) {
            if (has("minimum") && value < schema["minimum"])
                return says("it is at least " + schema["minimum"].dump());
            if (has("maximum") && value > schema["maximum"])
                return says("it is at most " + schema["maximum"].dump());
        } else if (value.is_string()) {
            if (has("minLength") && value.get_ref<const std::string&>().empty())
                return says("at least one character is expected");
            if (has("maxLength") && characters(value.get_ref<const std::string&>()) > bound("maxLength"))
                return place + " has more than " + std::to_string(bound("maxLength")) + " characters.";
            if (has("pattern") && has("description") &&
                !std::regex_search(value.get_ref<const std::string&>(),
                                   std::regex(std::string(schema["pattern"]))))
                return says(schema["description"]);
        } else if (value.is_array()) {
            const auto size = static_cast<long long>(value.size());
            if (has("minItems") && size < bound("minItems"))
                return place + " has " + std::to_string(size) + " entries; at least " +
                       std::to_string(bound("minItems")) + " are expected.";
            if (has("maxItems") && size > bound("maxItems"))
                return place + " has " + std::to_string(size) + " entries; at most " +
                       std::to_string(bound("maxItems")) + " are read.";
            if (has("items"))
                for (std::size_t i = 0; i < value.size(); ++i)
                    if (auto s = read(value[i], schema["items"], place + "[" + std::to_string(i) + "]"))
                        return s;
        } else if (value.is_object()) {
            return members(value, schema, place);
        }
        return {};
    }

private:
    const json& root_;

    Sentence members(const json& value, const json& schema, const std::string& place) const {
        const std::string before = place.empty() ? "" : place + ".";
        const json known = schema.value("properties", json::object());
        for (const json& key : schema.value("required", json::array()))
            if (!value.contains(key.get<std::string>()))
                return before + key.get<std::string>() + " is missing.";
        for (const auto& [key, member] : value.items()) {
            const auto it = known.find(key);
            if (it == known.end()) {
                json names = json::array();
                for (const auto& [name, s] : known.items())
                    names.push_back(name);
                return (place.empty() ? "The file" : place) + " has a member " + in_quotes(key) +
                       " that this version does not know; known here: " + listed(names) + ".";
            }
            if (auto s = read(member, *it, before + key)) return s;
        }
        return {};
    }

    static bool fits(const json& value, const std::string& type) {
        if (type == "integer") return value.is_number_integer();
        if (type == "string") return value.is_string();
        if (type == "boolean") return value.is_boolean();
        if (type == "array") return value.is_array();
        return type != "object" || value.is_object();
    }
    static long long characters(const std::string& utf8) {
        return std::count_if(utf8.begin(), utf8.end(),
                             [](char c) { return (static_cast<unsigned char>(c) & 0xC0) != 0x80; });
    }
};

} // namespace

Sentence schema_sentence(const json& document, const json& schema) {
    return Reader(schema).read(document, schema, "");
}

} // namespace whorl
