// What goes around a turned zone: knurls, grooves, silhouettes; and springs and cams.
#include "drawing/forms/form_drawing.hpp"

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
    const double top = r, low = z.section ? 0 : -r;
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
                to.push_back({line(LineKind::thin, {x0, y0}, {x1, y1})});
        }
    };
    switch (k.spec.kind) {
    case KnurlKind::axial:
        for (double y = low; y < top; y += step)
            to.push_back({line(LineKind::thin, {a, y}, {b, y})});
        break;
    case KnurlKind::ring:
        for (double x = a + step; x < b - 1e-9; x += step)
            to.push_back({line(LineKind::thin, {x, low}, {x, top})});
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
    to.push_back({.measure = Measure::note,
                  .link = z.link(wire ? "wire_diameter" : "wire", Field{"wire"}),
                  .words = "wire " + (c.round ? "Ø" + z.figure(c.wire) : z.figure(c.wire) + " × " + z.figure(c.axial)),
                  .from = in_mm(z.zone.start + z.zone.length * 0.5),
                  .radius = in_mm(z.zone.outer_radius()) * 0.98});
}

std::vector<DataRow> coil_data(const ZoneDrawn& z) {
    return data_rows(z.zone.coil()->values,
                     {"wire_diameter", "wire", "mean_diameter", "outside_diameter", "inside_diameter",
                      "free_length", "pitch", "active_turns", "total_turns", "ends", "hand", "spring_rate",
                      "initial_tension", "load_1", "load_2", "length_1", "length_2", "solid_length",
                      "solid_force", "wire_length", "material"},
                     z.unit);
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

std::vector<DataRow> lobe_data(const ZoneDrawn& z) {
    return data_rows_but(z.zone.lobe()->values, {"length"}, z.unit);
}

void lobe_end(const ZoneDrawn& z, std::vector<Mark>& to) {
    to.push_back({circle(LineKind::centre, {}, in_mm(z.zone.lobe()->spec.base_radius))});
}

void drum_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const double d = 2 * z.zone.drum()->radius;
    to.push_back(diameter_of(z, "diameter", field::diameter, d, "Ø" + z.figure(d)));
}

std::vector<DataRow> drum_data(const ZoneDrawn& z) {
    return data_rows_but(z.zone.drum()->values, {"length", "diameter"}, z.unit);
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
        .data_title = "Groove",
        .data = [](const ZoneDrawn& z) { return data_rows_but(z.zone.groove()->values, {"length"}, z.unit); },
        .enlarged = always};
    return table;
}

const FormDrawing& drawing_of(const ResolvedSpring&) {
    static const FormDrawing table{
        .dimensions = coil_dimensions, .data_title = "Spring data", .data = coil_data};
    return table;
}

const FormDrawing& drawing_of(const ResolvedLobe&) {
    static const FormDrawing table{.end = lobe_end,
                                   .dimensions = lobe_dimensions,
                                   .data_title = "Cam data",
                                   .data = lobe_data,
                                   .from_end = always};
    return table;
}

const FormDrawing& drawing_of(const ResolvedTrack&) {
    static const FormDrawing table{
        .dimensions = drum_dimensions, .data_title = "Track data", .data = drum_data, .from_end = always};
    return table;
}

const FormDrawing& drawing_of(const ResolvedShape&) {
    static const FormDrawing table{
        .dimensions = silhouette_dimensions, .data_title = nullptr, .from_end = fluted};
    return table;
}

} // namespace whorl::drawing
