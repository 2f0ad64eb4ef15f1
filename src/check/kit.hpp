// What the checks of forms are written with. Internal to the check floor.
#pragma once

#include "check/check.hpp"

namespace whorl {

// A zone that is looked at: where what is found in it goes, and in which unit that is said.
struct Looking {
    std::vector<Finding>& out;
    std::size_t piece, zone;
    LengthUnit unit;

    std::string shown(double millimetres) const; // 3 places, in inch 4, with the unit
    void found(Severity severity, std::string id, std::string sentence, double value, double limit,
               std::optional<Remedy> remedy = {}) const;
    void stop(std::string id, std::string sentence, double value, double limit,
              std::optional<Remedy> remedy = {}) const;
    void advise(std::string id, std::string sentence, double value, double limit,
                std::optional<Remedy> remedy = {}) const;
    // A field of this zone as it would be typed, plain numbers in mm.
    Edit with(Field field, std::string text) const;
    Remedy edit(std::string words, Field field, std::string text) const;
    Remedy edit(std::string words, Field field, double millimetres) const;
};

// … of a piece, for checks that look at what is around it.
struct ZoneLook : Looking {
    const ResolvedPiece& whole;
    const ResolvedZone& resolved() const { return whole.zones[zone]; }
};

std::string degrees(double radians, int places);
// To a step, with the digits that say so: 12.34 up to halves is "12.5".
std::string rounded_up(double v, double step);
std::string rounded_down(double v, double step);

} // namespace whorl
