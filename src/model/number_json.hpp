// A number as it stands in a job file: a text, or a text with its unit.
#pragma once

#include "model/job.hpp"

#include <nlohmann/json_fwd.hpp>

namespace whorl {

nlohmann::ordered_json number_to_json(const Number& n);
Number number_from_json(const nlohmann::json& j); // that follows the schema

} // namespace whorl
