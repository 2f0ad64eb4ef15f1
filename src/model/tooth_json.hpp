// Teeth of a zone as they stand in a job file.
#pragma once

#include "model/job.hpp"

#include <nlohmann/json_fwd.hpp>

namespace whorl {

nlohmann::ordered_json teeth_to_json(const ToothForm& teeth);
ToothForm teeth_from_json(const nlohmann::json& j); // that follows the schema

// A number: a text, or a text with its unit.
nlohmann::ordered_json number_to_json(const Number& n);
Number number_from_json(const nlohmann::json& j);

} // namespace whorl
