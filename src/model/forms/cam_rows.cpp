#include "model/forms/cam_rows.hpp"

#include "model/resolve_zone.hpp"

namespace whorl {

std::string timing_text(const Number& n, LengthUnit unit, const Names& names) {
    return n.unit == unit ? n.text : write_timing(parse_timing(n.text, n.unit, names), unit);
}

void set_timing(Number& kept, const Typed& typed) {
    (void)parse_timing(typed.text, typed.unit, typed.names);
    kept = typed.number();
}

double load_number(const Number& n, const Names& names, const std::string& place) {
    if (n.text.empty()) return 0;
    return at(place, [&] { return evaluate_number(n.text, names); });
}

Number load_text(double value) {
    return value == 0 ? Number{} : Number{number_text(value, 9), {}};
}

} // namespace whorl
