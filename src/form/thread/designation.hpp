// The trade's own language: reading and writing thread designations.
//
//   M10            M10x1.5-6g        M12x1.25-6g LH x 40       M16xPh4P2-6g       M8x1-5g6g
//   1/4-20 UNC-2A  #10-32 UNF-2A LH  1.125-12 UN-2A x 2        1 3/8-6 UNC-2A x 50 mm
//   1/2-13 UNC-2A (2 starts) LH      round 12 x 30   round 0.5 in x 0.75  (plain zones)
//
// `x`, `X` and `×` are the same. A metric thread without a pitch has the coarse pitch of its diameter;
// without a class it gets 6g, a Unified one 2A. The length after the last ` x ` is in the family's unit
// unless it names one.
#pragma once

#include "form/thread/thread.hpp"
#include "quantity/input_error.hpp"

#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace whorl {

struct PlainRound {
    Length diameter;
    friend bool operator==(const PlainRound&, const PlainRound&) = default;
};

struct Designation {
    std::variant<ThreadSpec, PlainRound> what;
    std::optional<Length> length;
    LengthUnit unit = LengthUnit::millimetre; // the family's own unit
};

// Throws InputError with the place of what wasn't understood and what would be.
Designation parse_designation(std::string_view text);

// In standard form; parse_designation() of the result gives the same spec. Values the designation has no
// place for (modelled size, overrides) are not written.
std::string write_designation(const ThreadSpec& spec, std::optional<Length> length = {});
std::string write_designation(const PlainRound& round, std::optional<Length> length = {},
                              LengthUnit unit = LengthUnit::millimetre);

// Whole designations that the text can be completed to, most usual first, at most `limit`.
std::vector<std::string> complete_designation(std::string_view text, std::size_t limit = 8);

} // namespace whorl
