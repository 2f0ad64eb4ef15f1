// A section of one's own as JSON: {"name": "rope", "points": [[z, h, bow], …]}, in units of the pitch.
// Internal to the model floor.
#pragma once

#include "form/thread/own_section.hpp"

#include <nlohmann/json.hpp>

namespace whorl {

inline nlohmann::ordered_json section_to_json(const OwnSection& s) {
    nlohmann::ordered_json points = nlohmann::ordered_json::array();
    for (const OwnPoint& p : s.points)
        points.push_back(p.bow == 0 ? nlohmann::ordered_json{p.z, p.h}
                                    : nlohmann::ordered_json{p.z, p.h, p.bow});
    return {{"name", s.name}, {"points", points}};
}

// The shape has been held against the schema.
inline OwnSection section_from_json(const nlohmann::json& j) {
    OwnSection s{j.at("name").get<std::string>(), {}};
    for (const auto& p : j.at("points"))
        s.points.push_back(
            {p.at(0).get<double>(), p.at(1).get<double>(), p.size() > 2 ? p.at(2).get<double>() : 0});
    return s;
}

} // namespace whorl
