// Shafts that turn in a bore: ISO 286-2, f7, of nominal diameters up to 500 mm.
#pragma once

#include "quantity/quantity.hpp"

#include <optional>

namespace whorl::standard {

// How much smaller than the bore the shaft is.
struct RunningFit {
    Length least, most;
    Length middle() const { return (least + most) / 2; }
};
std::optional<RunningFit> running_fit(Length diameter); // none beyond the table

} // namespace whorl::standard
