#include "model/forms/cam_rows.hpp"

namespace whorl {

std::string timing_text(const Number& n, LengthUnit unit, const Names& names) {
    return n.unit == unit ? n.text : write_timing(parse_timing(n.text, n.unit, names), unit);
}

void set_timing(Number& kept, const Typed& typed) {
    (void)parse_timing(typed.text, typed.unit, typed.names);
    kept = typed.number();
}

} // namespace whorl
