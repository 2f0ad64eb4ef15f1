// Springs from their lines, for tests.
#pragma once

#include "form/coil/coil_designation.hpp"
#include "quantity/input_error.hpp"

#include <catch2/catch.hpp>

namespace whorl::test {

inline ResolvedCoil spring(const std::string& text) {
    return resolve_coil(parse_spring(text).spec);
}
inline double value(const ResolvedCoil& c, const char* key) {
    const ResolvedValue* v = find_value(c.values, key);
    INFO(key);
    REQUIRE(v);
    REQUIRE(v->value);
    return *v->value;
}
// Why a line is refused.
inline std::string why(const std::string& text) {
    try {
        (void)parse_spring(text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "understood";
}

} // namespace whorl::test
