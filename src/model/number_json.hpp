// A number as it stands in a job file: a text, or a text with its unit.
#pragma once

#include "model/job.hpp"

#include <nlohmann/json_fwd.hpp>

namespace whorl {

nlohmann::ordered_json number_to_json(const Number& n);
Number number_from_json(const nlohmann::json& j); // that follows the schema

// What else stands in an object of a file, so that only number_json.cpp reads the library's whole header.
bool stands_in(const nlohmann::json& from, const char* key);
const nlohmann::json& part_at(const nlohmann::json& from, const char* key); // that is there
Number number_at(const nlohmann::json& from, const char* key);              // empty: not there
std::string text_at(const nlohmann::json& from, const char* key, std::string_view otherwise = "");
int whole_at(const nlohmann::json& from, const char* key, int otherwise);
bool true_at(const nlohmann::json& from, const char* key);                    // not there: false
nlohmann::ordered_json& part_of(nlohmann::ordered_json& to, const char* key); // made if it is not there
void put_number(nlohmann::ordered_json& to, const char* key, const Number& n);
void put_text(nlohmann::ordered_json& to, const char* key, std::string_view text);
void put_whole(nlohmann::ordered_json& to, const char* key, int n);
void put_true(nlohmann::ordered_json& to, const char* key);

// A finish stands under two keys: "finish", its material, and "colour", one of its own; each only where it is said.
// Older files had both under "finish", which is read too.
void finish_to_json(const std::string& finish, nlohmann::ordered_json& to);
std::string finish_from_json(const nlohmann::json& from); // empty where nothing is said

} // namespace whorl
