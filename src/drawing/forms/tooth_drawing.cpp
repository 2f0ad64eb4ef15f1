// Teeth in the conventional manner: of gears ISO 2203, of splines ISO 6413; racks as they are.
#include "drawing/forms/form_drawing.hpp"

#include "form/tooth/measure.hpp"
#include "model/forms/gear.hpp"

namespace whorl::drawing {
namespace {

void simplify(ResolvedZone& zone, bool core) {
    const double r = core ? zone.gear()->root_radius : zone.gear()->tip_radius;
    make_plain(zone, r, r);
    if (core) zone.near_end = zone.far_end = {};
}

void side(const ZoneDrawn& z, std::vector<Mark>& to) {
    const ResolvedGear& g = *z.zone.gear();
    const double a = in_mm(z.zone.start), b = in_mm(z.zone.end());
    if (z.zone.in_bore() && !z.section) return;
    lines_at(to, LineKind::centre, g.pitch_radius, a, b, 2.5);
    // teeth are drawn uncut, so that their root is an edge
    if (z.section) lines_at(to, LineKind::outline, g.root_radius, a, b);
}

void spline_side(const ZoneDrawn& z, std::vector<Mark>& to) {
    const ResolvedGear& g = *z.zone.gear();
    const double a = in_mm(z.zone.start), b = in_mm(z.zone.end());
    if (z.zone.in_bore() && !z.section) return;
    lines_at(to, LineKind::centre, g.pitch_radius, a, b, 2.5);
    lines_at(to, z.section ? LineKind::outline : LineKind::thin, g.root_radius, a, b);
}

void end(const ZoneDrawn& z, std::vector<Mark>& to) {
    to.push_back({circle(LineKind::centre, {}, z.zone.gear()->pitch_radius)});
}

void spline_end(const ZoneDrawn& z, std::vector<Mark>& to) {
    end(z, to);
    to.push_back({circle(LineKind::thin, {}, z.zone.gear()->root_radius)});
}

void dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const double tip = 2 * z.zone.gear()->tip_radius;
    to.push_back(diameter_of(z, "tip_diameter", field::teeth, tip, "Ø" + z.figure(tip)));
    to.back().link.field = {};
}

// ISO 1340: what the maker is told.
std::vector<DataTable> gear_tables(const ZoneDrawn& z) {
    return {table_of("Gear data", data_block(*z.zone.gear(), z.zone.length))};
}

std::vector<DataTable> spline_tables(const ZoneDrawn& z) {
    return {data_but("Spline data", z.zone.spline()->values, {"length"}, z.unit)};
}

std::vector<DataTable> rack_tables(const ZoneDrawn& z) {
    return {data_but("Rack data", z.zone.rack()->values, {"length", "height", "face_width"}, z.unit)};
}

// Of many teeth only the lines of their tips, pitch and roots.
bool many_teeth(const ResolvedRack& r) {
    return r.length > 60 * r.pitch();
}

void simplify_rack(ResolvedZone& zone, bool) {
    const ResolvedRack r = *zone.rack();
    if (!many_teeth(r)) return;
    const double half = in_mm(r.spec.height) / 2;
    make_plain(zone, half, half);
    ResolvedPlain flat;
    flat.outline = Outline::flat;
    flat.thickness = r.spec.width;
    zone.form = flat;
}

void rack_side(const ZoneDrawn& z, std::vector<Mark>& to) {
    // the body's middle lies on the axis: rack_body()
    const ResolvedRack& r = *z.zone.rack();
    const double reference = r.body() - in_mm(r.spec.height) / 2;
    to.push_back({line(LineKind::centre, {0, reference}, {r.length, reference}), 2.5});
    if (!many_teeth(r)) return;
    const double root = reference + r.root_height;
    to.push_back({line(LineKind::thin, {0, root}, {r.length, root})});
}

void rack_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const ResolvedRack& r = *z.zone.rack();
    const double high = in_mm(r.spec.height), wide = in_mm(r.spec.width);
    to.push_back(diameter_of(z, "height", field::body_height, high, z.figure(high)));
    to.push_back({.measure = Measure::between_flats,
                  .link = z.link("face_width", field::face_width),
                  .words = z.figure(wide),
                  .value = wide,
                  .radius = wide / 2});
}

bool always(const ResolvedZone&) {
    return true;
}

} // namespace

const FormDrawing& drawing_of(const ResolvedWheel&) {
    static const FormDrawing table{.simplify = simplify,
                                   .side = side,
                                   .end = end,
                                   .dimensions = dimensions,
                                   .tables = gear_tables,
                                   .simplified = [](const ResolvedZone&) {
                                       return std::string("Gear teeth are drawn as ISO 2203 has them.");
                                   }};
    return table;
}

const FormDrawing& drawing_of(const ResolvedSplining&) {
    static const FormDrawing table{.simplify = simplify,
                                   .side = spline_side,
                                   .end = spline_end,
                                   .dimensions = dimensions,
                                   .tables = spline_tables,
                                   .simplified = [](const ResolvedZone&) {
                                       return std::string("Splines are drawn as ISO 6413 has them.");
                                   }};
    return table;
}

const FormDrawing& drawing_of(const ResolvedBar&) {
    static const FormDrawing table{.simplify = simplify_rack,
                                   .side = rack_side,
                                   .dimensions = rack_dimensions,
                                   .tables = rack_tables,
                                   .from_end = always};
    return table;
}

} // namespace whorl::drawing
