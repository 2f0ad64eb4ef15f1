// What is asked of the body behind a form in its designation: a bore all through, perhaps with the keyway of DIN 6885-1
// for it, and of a gear a web.
#pragma once

#include "form/reader.hpp"
#include "quantity/quantity.hpp"

#include <optional>

namespace whorl {

struct WheelBody {
    std::optional<Length> bore;
    bool key = false, web = false;
    bool any() const { return bore || web; }
    friend bool operator==(const WheelBody&, const WheelBody&) = default;
};

// `bore 16`, `bore 16 key`: whether it stands here. Throws InputError where the size is missing or it was said before.
bool take_bore(Reader& reader, WheelBody& body, LengthUnit unit);

} // namespace whorl
