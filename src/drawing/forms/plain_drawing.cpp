// Plain zones: cylinders, cones and bars with flats.
#include "drawing/forms/form_drawing.hpp"

#include "model/forms/plain.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <cmath>

namespace whorl::drawing {
namespace {

// Flat faces seen from the side: crosses of thin lines over those that look at the viewer (ISO 128-3), where no end view
// shows them; here there always is one.
bool has_flats(const ResolvedZone& z) {
    return z.outline() != Outline::round || z.keyway();
}

void keyway_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const ResolvedKeyway& k = *z.zone.keyway();
    to.push_back({.measure = Measure::note,
                  .link = z.link("keyway", field::keyway),
                  .words = "keyway " + z.figure(in_mm(k.width)) + " × t2 " + z.figure(in_mm(k.depth)),
                  .from = in_mm(z.zone.start + z.zone.length * 0.5),
                  .radius = in_mm(z.zone.diameter) / 2,
                  .inner = true});
}

void cross_hole_dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const ResolvedCrossHoles& c = *z.zone.cross();
    const std::string times = c.at.size() > 1 ? std::to_string(c.at.size()) + "× " : "";
    const double first = c.at.front();
    to.push_back({.measure = Measure::note,
                  .link = z.link("cross_hole", field::cross_hole),
                  .words = times + "Ø" + z.figure(2 * c.radius) + (c.one_side ? " to the bore" : " through"),
                  .value = 2 * c.radius,
                  .from = first - 0.7 * c.radius,
                  .radius = 0.7 * c.radius});
    to.push_back({.measure = Measure::along,
                  .link = z.link("cross_hole_at", field::cross_hole_at),
                  .words = z.figure(first - in_mm(z.zone.start)),
                  .value = first - in_mm(z.zone.start),
                  .from = in_mm(z.zone.start),
                  .to = first,
                  .radius = 0});
    if (c.at.size() > 1) {
        const std::string spread = c.at.size() > 2 ? std::to_string(c.at.size() - 1) + "× " : "";
        to.push_back({.measure = Measure::along,
                      .link = z.link("cross_hole_spacing", field::cross_hole_spacing),
                      .words = spread + z.figure(c.spacing) +
                               (c.at.size() > 2
                                    ? " (" + z.figure(c.spacing * static_cast<double>(c.at.size() - 1)) + ")"
                                    : ""),
                      .value = c.spacing,
                      .from = first,
                      .to = c.at.back(),
                      .radius = 0});
    }
}

void dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const double near = in_mm(z.zone.diameter), far = in_mm(z.zone.far_diameter);
    const char* const key = "diameter";
    switch (z.zone.outline()) {
    case Outline::hexagon:
    case Outline::square:
        to.push_back({.measure = Measure::between_flats,
                      .link = z.link(key, field::diameter),
                      .words = (z.zone.outline() == Outline::square ? "□ " : "") + z.figure(near),
                      .value = near,
                      .from = in_mm(z.zone.start),
                      .radius = near / 2,
                      .inner = z.zone.in_bore()});
        break;
    case Outline::flat: {
        const double thick = in_mm(z.zone.as<ResolvedPlain>()->thickness);
        to.push_back(diameter_of(z, key, field::diameter, near, z.figure(near)));
        to.push_back({.measure = Measure::between_flats,
                      .link = z.link("thickness", field::thickness),
                      .words = z.figure(thick),
                      .value = thick,
                      .from = in_mm(z.zone.start),
                      .radius = thick / 2});
        break;
    }
    case Outline::round:
        to.push_back(diameter_of(z, key, field::diameter, near, "Ø" + z.figure(near)));
        if (std::abs(near - far) > 1e-9) {
            to.back().conical = true;
            to.back().to = to.back().from;
            Dimension other = diameter_of(z, "far_diameter", field::far_diameter, far, "Ø" + z.figure(far));
            other.conical = true;
            other.from = other.to;
            to.push_back(std::move(other));
        }
    }
    if (z.zone.keyway()) keyway_dimensions(z, to);
    if (z.zone.cross() && !z.zone.cross()->at.empty()) cross_hole_dimensions(z, to);
}

// Centre lines of cross holes, as the side view sees them.
void side(const ZoneDrawn& z, std::vector<Mark>& to) {
    if (!z.zone.cross()) return;
    for (const double at : z.zone.cross()->at)
        to.push_back(
            {line(LineKind::centre, {at, -z.zone.cross()->radius}, {at, z.zone.cross()->radius}), 2});
}

} // namespace

const FormDrawing& drawing_of(const ResolvedPlain&) {
    static const FormDrawing table{.side = side, .dimensions = dimensions, .from_end = has_flats};
    return table;
}

const FormDrawing& drawing_of(const ResolvedElbow&) {
    static const FormDrawing table{};
    return table;
}

} // namespace whorl::drawing
