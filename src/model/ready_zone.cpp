#include "model/ready_zone.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

Number millimetres(Length l) {
    return {number_text(in_mm(l), 6), LengthUnit::millimetre};
}

EndTreatment chamfer(double degrees_to_axis, std::optional<Length> diameter) {
    EndTreatment e;
    e.kind = EndKind::chamfer;
    e.angle = {number_text(degrees_to_axis, 4), {}};
    if (diameter) e.diameter = millimetres(*diameter);
    return e;
}

EndTreatment run_out(double turns) {
    EndTreatment e;
    e.kind = EndKind::run_out;
    e.turns = {number_text(turns, 4), {}};
    return e;
}

EndTreatment dog_point() {
    EndTreatment e;
    e.kind = EndKind::dog;
    return e;
}

EndTreatment rounded_edge(Length radius) {
    EndTreatment e;
    e.kind = EndKind::edge;
    e.radius = millimetres(radius);
    return e;
}
EndTreatment fillet(Length radius) {
    EndTreatment e = rounded_edge(radius);
    e.kind = EndKind::fillet;
    return e;
}
EndTreatment point(double degrees_to_axis) {
    EndTreatment e;
    e.kind = EndKind::point;
    e.angle = {number_text(degrees_to_axis, 4), {}};
    return e;
}

Zone plain(Length diameter, Length length, Outline outline) {
    Zone z;
    z.form = PlainForm{outline, millimetres(diameter), {}};
    z.length = millimetres(length);
    return z;
}

void add_bore(Piece& piece, const WheelBody& body, LengthUnit unit) {
    if (!body.bore) return;
    Zone bore = plain(*body.bore, mm(1));
    bore.where = Where::near_bore;
    bore.length = {"", unit}; // through
    if (body.key) bore.keyway = {"standard", {}};
    piece.zones.push_back(bore);
}

Length rounded(Length l, double step) {
    return mm(std::round(in_mm(l) / step) * step);
}

Length rounded(Length l, double step, LengthUnit unit) {
    if (unit == LengthUnit::millimetre) return rounded(l, step);
    const double parts = step >= 0.5 ? 16 : 64;
    return inch(std::max(1.0, std::round(in_inch(l) * parts)) / parts);
}

} // namespace whorl
