// A derived number together with where it comes from. Every form resolves to a list of these; the spec sheet,
// the command line and the drawings all read the same list.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace whorl {

enum class ValueKind { length, angle, area, volume, mass, number, text };

struct ResolvedValue {
    std::string key;   // stable snake_case name, part of the command line's contract
    std::string label; // as read on the spec sheet, in the trade's words
    ValueKind kind = ValueKind::length;
    // Either `value`, or `min` and/or `max`, or `text`. Lengths in mm, angles in rad, areas in
    // mm², volumes in mm³, masses in g.
    std::optional<double> value = {};
    std::optional<double> min = {};
    std::optional<double> max = {};
    std::string text = {};
    std::string source = {}; // standard and clause, or the formula
    bool overridden = false; // set by the user instead of by the standard
};

// One that has a single value.
inline ResolvedValue valued(std::string key, std::string label, ValueKind kind, double value,
                            std::string source) {
    ResolvedValue out{.key = std::move(key), .label = std::move(label), .kind = kind};
    out.value = value;
    out.source = std::move(source);
    return out;
}

const ResolvedValue* find_value(const std::vector<ResolvedValue>& values, const std::string& key);

} // namespace whorl
