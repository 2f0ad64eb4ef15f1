// How the command line writes values and findings, as text and as JSON.
#pragma once

#include "check/check.hpp"

#include <iosfwd>
#include <nlohmann/json.hpp>

namespace whorl {

using json = nlohmann::ordered_json;

// Exit codes.
constexpr int done = 0, stopped = 1, refused = 2;

double tidy(double v); // to a nanometre; JSON prints the shortest text that reads back
json value_json(const ResolvedValue& v, bool inch_form);
json finding_json(const Finding& f);
void print(std::ostream& out, const json& j); // indented by two, and a new line
void print_findings(const std::vector<Finding>& findings, std::ostream& out);
// Filled up with blanks to a width in characters.
std::string column(std::string s, std::size_t width);
std::string cell_text(const ResolvedValue& v, const std::optional<double>& x, LengthUnit unit);

} // namespace whorl
