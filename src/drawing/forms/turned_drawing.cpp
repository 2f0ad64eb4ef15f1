// What goes around a turned zone: knurls, grooves, silhouettes; and springs and cams.
#include "drawing/forms/form_drawing.hpp"

#include "form/coil/spring_block.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::drawing {
namespace {

// --- knurls ---

void simplify_knurl(ResolvedZone& zone, bool) {
    std::get<ResolvedKnurling>(zone.form).simplified = true;
}

// Thin lines over a part of the surface, no closer than 1.2 mm on paper; at 30° or as the knurl runs.
void knurl_side(const ZoneDrawn& z, std::vector<Mark>& to) {
    const ResolvedKnurl& k = *z.zone.knurl();
    const double r = in_mm(z.zone.outer_radius()), a = in_mm(z.zone.start), b = in_mm(z.zone.end());
    const double step = std::max(k.pitch, 1.2 / z.scale);
    if (z.section) return;
    const double top = r, low = -r;
    const auto slanted = [&](double slope) { // slope: x for one y
        const double reach = std::abs(slope) * (top - low);
        for (double x = a - reach; x < b + reach; x += step * std::hypot(1, slope)) {
            // from the line's foot to its head, within the zone
            double y0 = low, y1 = top, x0 = x, x1 = x + slope * (top - low);
            const auto clip = [&](double limit, bool keep_right) {
                for (auto [px, py, qx, qy] : {std::tuple{&x0, &y0, &x1, &y1}, std::tuple{&x1, &y1, &x0, &y0}})
                    if (keep_right ? *px < limit : *px > limit) {
                        if (std::abs(*qx - *px) < 1e-12) return false;
                        *py += (*qy - *py) * (limit - *px) / (*qx - *px);
                        *px = limit;
                    }
                return (keep_right ? std::min(x0, x1) >= limit - 1e-9 : std::max(x0, x1) <= limit + 1e-9);
            };
            if (std::max(x0, x1) < a || std::min(x0, x1) > b) continue;
            if (clip(a, true) && clip(b, false) && std::hypot(x1 - x0, y1 - y0) > 1e-6)
                to.push_back({line(LineKind::thin, {x0, y0}, {x1, y1}), 0, true});
        }
    };
    switch (k.spec.kind) {
    case KnurlKind::axial:
        for (double y = low; y < top; y += step)
            to.push_back({line(LineKind::thin, {a, y}, {b, y}), 0, true});
        break;
    case KnurlKind::ring:
        for (double x = a + step; x < b - 1e-9; x += step)
            to.push_back({line(LineKind::thin, {x, low}, {x, top}), 0, true});
        break;
    default: {
        const double angle = pi / 6;
        if (k.spec.kind != KnurlKind::left) slanted(1 / std::tan(angle));
        if (k.spec.kind != KnurlKind::right) slanted(-1 / std::tan(angle));
    }
    }
}

void knurl_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const double d = 2 * in_mm(z.zone.outer_radius());
    to.push_back(diameter_of(z, "diameter", field::diameter, d, "Ø" + z.figure(d)));
    to.push_back({.measure = Measure::note,
                  .link = z.link("designation", field::pitch),
                  .words = write_knurl(z.zone.knurl()->spec),
                  .from = in_mm(z.zone.start + z.zone.length * 0.5),
                  .radius = in_mm(z.zone.outer_radius())});
}

// --- grooves ---

void groove_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const double near = in_mm(z.zone.diameter);
    to.push_back(diameter_of(z, "diameter", field::diameter, near, "Ø" + z.figure(near)));
    if (z.zone.far_diameter != z.zone.diameter) {
        const double far = in_mm(z.zone.far_diameter);
        to.back().conical = true;
        to.back().to = to.back().from;
        to.push_back(diameter_of(z, "far_diameter", field::far_diameter, far, "Ø" + z.figure(far)));
        to.back().conical = true;
        to.back().from = to.back().to;
    }
}

// --- springs ---

void coil_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const ResolvedCoil& c = *z.zone.coil();
    const ResolvedValue* outside = find_value(c.values, "outside_diameter");
    const ResolvedValue* wire = find_value(c.values, "wire_diameter");
    if (outside && outside->value)
        to.push_back(diameter_of(z, "outside_diameter", field::diameter, *outside->value,
                                 "Ø" + z.figure(*outside->value)));
    // where the wire of a middle turn is uppermost
    const double half_way = c.line.coil_end() / 2;
    At top{0, 0};
    for (int i = 0; i <= 72; ++i) {
        const Vec3 p = c.line.point(half_way + full_turn * (i / 72.0 - 0.5)).at;
        if (p.y > top.y) top = {p.z + c.lift(), p.y};
    }
    Dimension d;
    d.measure = Measure::note;
    d.link = z.link(wire ? "wire_diameter" : "wire", Field{"wire"});
    d.words = "wire " + (c.round ? "Ø" + z.figure(c.wire) : z.figure(c.wire) + " × " + z.figure(c.axial));
    d.value = c.wire;
    d.from = in_mm(z.zone.start) + top.x;
    d.radius = top.y + c.wire / 2;
    to.push_back(std::move(d));
}

std::vector<DataTable> coil_tables(const ZoneDrawn& z) {
    return {table_of("Spring data", data_block(*z.zone.coil()))};
}

// --- cams ---

void lobe_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const ResolvedCam& c = *z.zone.lobe();
    const double base = in_mm(c.spec.base_radius);
    to.push_back({.measure = Measure::note,
                  .link = z.link("base_radius", Field{"base_radius"}),
                  .words = "base circle R" + z.figure(base),
                  .value = base,
                  .from = in_mm(z.zone.start + z.zone.length * 0.5),
                  .radius = base});
}

// The stretches of a timing, and the lift at every ten degrees.
void add_timing(const ZoneDrawn& z, std::vector<DataTable>& to) {
    DataTable stretches{"Timing"};
    for (const std::string& item : timing_items(write_timing(*z.zone.timing(), z.unit)))
        stretches.rows.push_back({std::to_string(stretches.rows.size() + 1), item});
    to.push_back(std::move(stretches));
    const Motion& m = *z.zone.motion();
    if (m.parts.empty()) return;
    constexpr int rows = 12, columns = 3;
    DataTable lifts{"Lift over the angle"};
    for (int i = 0; i < rows; ++i) {
        std::vector<std::string> row;
        for (int k = 0; k < columns; ++k) {
            const double angle = m.whole * (k * rows + i) / (rows * columns);
            row.push_back(degrees(angle));
            row.push_back(z.figure(m.at(angle)[0]));
        }
        lifts.rows.push_back(std::move(row));
    }
    to.push_back(std::move(lifts));
}

std::vector<DataTable> lobe_tables(const ZoneDrawn& z) {
    std::vector<DataTable> out{data_of("Cam data", z.zone.lobe()->values,
                                       {"base_radius", "prime_radius", "offset", "stroke", "least_radius",
                                        "largest_radius", "outer_wall_radius", "max_pressure_angle"},
                                       z.unit)};
    add_timing(z, out);
    return out;
}

void lobe_end(const ZoneDrawn& z, std::vector<Mark>& to) {
    to.push_back({circle(LineKind::centre, {}, in_mm(z.zone.lobe()->spec.base_radius))});
}

void drum_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const double d = 2 * z.zone.drum()->radius;
    to.push_back(diameter_of(z, "diameter", field::diameter, d, "Ø" + z.figure(d)));
}

std::vector<DataTable> drum_tables(const ZoneDrawn& z) {
    std::vector<DataTable> out{
        data_of("Track data", z.zone.drum()->values,
                {"drum_diameter", "length_around", "stroke", "roller_diameter", "bottom_diameter",
                 "corner_radius", "near_wall", "far_wall", "max_pressure_angle"},
                z.unit)};
    add_timing(z, out);
    return out;
}

bool always(const ResolvedZone&) {
    return true;
}

// --- silhouettes ---

bool fluted(const ResolvedZone& z) {
    return z.silhouette() && z.silhouette()->spec.flutes;
}

void silhouette_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    if (z.zone.is_hollow()) {
        to.push_back({.measure = Measure::note,
                      .link = z.link("wall", Field{"wall"}),
                      .words = "wall " + z.figure(*z.zone.silhouette()->spec.wall),
                      .from = in_mm(z.zone.start + z.zone.length * 0.6),
                      .radius = in_mm(z.zone.outer_radius()),
                      .inner = true});
        return;
    }
    const double d = 2 * in_mm(z.zone.largest_radius());
    to.push_back(diameter_of(z, "largest_diameter", field::points, d, "Ø" + z.figure(d)));
    to.back().conical = true;
}

std::vector<DataTable> silhouette_tables(const ZoneDrawn& z) {
    if (z.zone.is_hollow()) return {};
    const SilhouetteSpec& s = z.zone.silhouette()->spec;
    DataTable points{s.course == Course::spline ? "Outline, a smooth curve" : "Outline"};
    points.rows.push_back({"Height", "Radius"});
    for (const CurvePoint& p : s.points)
        points.rows.push_back({z.figure(p.at), z.figure(p.value)});
    std::vector<DataTable> out{std::move(points)};
    if (s.flutes) {
        const FluteSpec& f = *s.flutes;
        DataTable flutes{"Flutes"};
        flutes.rows.push_back({"Count", std::to_string(f.count)});
        flutes.rows.push_back({"Depth", z.figure(z.zone.silhouette()->deepest)});
        flutes.rows.push_back({"From, to", z.figure(f.from.value_or(0)) + ", " +
                                               z.figure(f.to.value_or(in_mm(z.zone.length)))});
        flutes.rows.push_back({"Twist", degrees(f.twist)});
        flutes.rows.push_back({"Ridges", f.ridge > 0 ? "R" + z.figure(f.ridge) : "sharp"});
        out.push_back(std::move(flutes));
    }
    return out;
}

} // namespace

const FormDrawing& drawing_of(const ResolvedKnurling&) {
    static const FormDrawing table{
        .simplify = simplify_knurl,
        .side = knurl_side,
        .dimensions = knurl_dimensions,
        .simplified = [](const ResolvedZone&) { return std::string("Knurls are shown by lines (DIN 82)."); }};
    return table;
}

const FormDrawing& drawing_of(const ResolvedGrooving&) {
    static const FormDrawing table{
        .dimensions = groove_dimensions,
        .tables =
            [](const ZoneDrawn& z) {
                return std::vector{data_but("Groove", z.zone.groove()->values, {"length"}, z.unit)};
            },
        .enlarged = always};
    return table;
}

const FormDrawing& drawing_of(const ResolvedSpring&) {
    static const FormDrawing table{.dimensions = coil_dimensions, .tables = coil_tables};
    return table;
}

const FormDrawing& drawing_of(const ResolvedLobe&) {
    static const FormDrawing table{
        .end = lobe_end, .dimensions = lobe_dimensions, .tables = lobe_tables, .from_end = always};
    return table;
}

const FormDrawing& drawing_of(const ResolvedTrack&) {
    static const FormDrawing table{.dimensions = drum_dimensions, .tables = drum_tables, .from_end = always};
    return table;
}

const FormDrawing& drawing_of(const ResolvedShape&) {
    static const FormDrawing table{
        .dimensions = silhouette_dimensions, .tables = silhouette_tables, .from_end = fluted};
    return table;
}

} // namespace whorl::drawing
