#include "form/resolved_value.hpp"

#include <algorithm>

namespace whorl {

const ResolvedValue* find_value(const std::vector<ResolvedValue>& values, const std::string& key) {
    const auto it = std::find_if(values.begin(), values.end(), [&](const auto& v) { return v.key == key; });
    return it == values.end() ? nullptr : &*it;
}

} // namespace whorl
