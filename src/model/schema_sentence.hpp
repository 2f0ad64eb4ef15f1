// Why a document does not follow a schema, as a sentence with the place, what stands there and what would do.
//
// For the part of JSON Schema that our schemas use: $ref into definitions, oneOf, enum, type, bounds of
// numbers, texts and lists, required and unknown members. The verdict itself is the validator's.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>

namespace whorl {

// None if nothing is found amiss.
std::optional<std::string> schema_sentence(const nlohmann::json& document, const nlohmann::json& schema);

} // namespace whorl
