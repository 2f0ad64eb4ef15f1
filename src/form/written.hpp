// What a form's line says.
#pragma once

#include "quantity/quantity.hpp"

#include <optional>

namespace whorl {

// Of the body behind a form: a bore all through, perhaps with the keyway of DIN 6885-1 for it, and of a gear a web.
struct WheelBody {
    std::optional<Length> bore;
    bool key = false, web = false;
    bool any() const { return bore || web; }
    friend bool operator==(const WheelBody&, const WheelBody&) = default;
};

template<class Spec>
struct Written {
    Spec spec = {};
    std::optional<Length> length = {};
    LengthUnit unit = LengthUnit::millimetre; // it is written in
    WheelBody body = {};
};

} // namespace whorl
