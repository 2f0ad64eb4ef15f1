#include "form/thread/value_rows.hpp"

namespace whorl {

namespace {
// Stands for a diameter that would be negative.
ResolvedValue no_diameter(std::string key, std::string label) {
    return {.key = std::move(key),
            .label = std::move(label),
            .kind = ValueKind::text,
            .text = "none",
            .source = "the groove would pass the axis"};
}
} // namespace

ResolvedValue length_value(std::string key, std::string label, double mm_value, std::string source) {
    if (mm_value < 0 && key.find("_diameter_basic") != std::string::npos)
        return no_diameter(std::move(key), std::move(label));
    ResolvedValue v{.key = std::move(key), .label = std::move(label), .source = std::move(source)};
    v.value = mm_value;
    return v;
}

ResolvedValue limits_value(std::string key, std::string label, const Limits& l) {
    if (l.max.value_or(*l.min) <= 0) return no_diameter(std::move(key), std::move(label));
    ResolvedValue v{.key = std::move(key), .label = std::move(label), .source = l.source};
    v.min = l.min;
    v.max = l.max;
    return v;
}

ResolvedValue text_value(std::string key, std::string label, std::string text, std::string source) {
    return {.key = std::move(key),
            .label = std::move(label),
            .kind = ValueKind::text,
            .text = std::move(text),
            .source = std::move(source)};
}

} // namespace whorl
