// Where a piece stands that its pairs leave free: its origin, and by how much it is turned about the job's axes x, y and z
// in that order. Written "10 20 5" or "10 20 5 turned 0 90 0"; each may be arithmetic without blanks, with a unit of its own.
#pragma once

#include "model/job.hpp"
#include "quantity/names.hpp"

#include <array>
#include <optional>

namespace whorl {

struct FreePlace {
    std::array<double, 3> at{};    // mm
    std::array<double, 3> turns{}; // rad
    friend bool operator==(const FreePlace&, const FreePlace&) = default;
};

// None for an empty text. Throws InputError with the position, for anything else than three lengths of less than 100 m,
// or these and three angles.
std::optional<FreePlace> free_place(const Number& stands, const Names& names);
// The text that reads back as it, to 10⁻⁴ mm and degrees, in that unit.
std::string written(const FreePlace& place, LengthUnit unit);

} // namespace whorl
