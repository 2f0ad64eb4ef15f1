#include "standard/table_text.hpp"

#include <nlohmann/json.hpp>

namespace whorl::standard {

nlohmann::json table_in(std::string_view text) {
    return nlohmann::json::parse(text);
}

} // namespace whorl::standard
