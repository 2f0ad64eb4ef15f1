// A number as it stands in a job file: a text, or a text with its unit.
#pragma once

#include "model/job.hpp"

#include <nlohmann/json_fwd.hpp>

namespace whorl {

nlohmann::ordered_json number_to_json(const Number& n);
Number number_from_json(const nlohmann::json& j); // that follows the schema

// A finish stands under two keys: "finish", its material, and "colour", one of its own; each only where it is said.
// Older files had both under "finish", which is read too.
void finish_to_json(const std::string& finish, nlohmann::ordered_json& to);
std::string finish_from_json(const nlohmann::json& from); // empty where nothing is said

} // namespace whorl
