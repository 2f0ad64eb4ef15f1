#include "drawing/draft.hpp"

#include "drawing/forms/form_drawing.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::drawing {
namespace {

// What is written of how a zone ends: one note, at the place.
void end_note(const ZoneDrawn& z, bool far, std::vector<Dimension>& to) {
    const ResolvedEnd& e = far ? z.zone.far_end : z.zone.near_end;
    const Field f = far ? field::far_end : field::near_end;
    const double at = far ? in_mm(z.zone.end()) : in_mm(z.zone.start), in = far ? -1 : 1;
    const double surface = in_mm(z.zone.outer_radius());
    Dimension d;
    d.measure = Measure::note;
    d.link = z.link(far ? "far_end" : "near_end", f);
    d.from = at;
    d.radius = surface;
    d.inner = z.zone.in_bore();
    switch (e.kind) {
    case EndKind::flat:
    case EndKind::run_out:
    case EndKind::milled:
        return;
    case EndKind::chamfer: {
        if (z.zone.outline() != Outline::round) { // the cone that takes its corners off
            d.words = "Ø" + z.figure(in_mm(e.diameter)) + " × " + degrees(pi / 2 - in_rad(e.angle));
            d.radius = in_mm(e.diameter) / 2;
            break;
        }
        const double end = in_mm(e.diameter) / 2, deep = std::abs(surface - end),
                     along = deep / std::tan(in_rad(e.angle));
        d.from = at + in * along / 2;
        d.radius = (surface + end) / 2;
        if (end < 0.05 * surface) // a point, all but
            d.words = (z.zone.in_bore() ? "" : "point ") + degrees(2 * in_rad(e.angle));
        else if (z.zone.in_bore())
            d.words = "Ø" + z.figure(2 * end) + " × " + degrees(2 * in_rad(e.angle));
        else if (std::abs(in_deg(e.angle) - 45) < 1e-9)
            d.words = (e.follows ? number_text(in_unit(mm(along), z.unit), z.unit == LengthUnit::inch ? 3 : 2)
                                 : z.figure(along)) +
                      " × 45°";
        else
            d.words = "Ø" + z.figure(2 * end) + " × " + degrees(in_rad(e.angle));
        d.value = z.zone.in_bore() ? 2 * end : along;
        break;
    }
    case EndKind::point:
        d.words = (z.zone.in_bore() ? "drill point " : "point ") + degrees(2 * in_rad(e.angle));
        d.from = at + in * surface / std::tan(in_rad(e.angle)) / 2;
        d.radius = surface / 2;
        break;
    case EndKind::dog:
        d.words = "dog point Ø" + z.figure(in_mm(e.tip_diameter)) + " × " + z.figure(in_mm(e.dome_height));
        d.from = at + in * in_mm(e.dome_height) / 2;
        d.radius = in_mm(e.tip_diameter) / 2;
        break;
    case EndKind::edge:
    case EndKind::fillet: {
        const double from_end = in_mm(e.dome_height) * 0.3;
        d.words = "R" + z.figure(in_mm(e.dome_radius));
        d.from = at + in * from_end;
        d.radius = in_mm(e.radius_at(from_end));
        break;
    }
    case EndKind::rounded:
        d.words = "R" + z.figure(in_mm(e.dome_radius));
        d.from = at + in * in_mm(e.dome_height) / 2;
        d.radius = in_mm(e.radius_at(in_mm(e.dome_height) / 2));
        break;
    }
    to.push_back(std::move(d));
}

void web_note(const ZoneDrawn& z, std::vector<Dimension>& to) {
    if (!z.zone.web) return;
    const ResolvedWeb& web = *z.zone.web;
    Dimension d;
    d.measure = Measure::note;
    d.link = z.link("web", field::web);
    d.words = "web " + z.figure(web.thickness) + " from Ø" + z.figure(2 * web.hub) + " to Ø" +
              z.figure(2 * web.rim);
    d.value = web.thickness;
    // on the ring's floor
    const double sunk = web.near  ? web.depth
                        : web.far ? in_mm(z.zone.length) - web.depth
                                  : in_mm(z.zone.length) / 2;
    d.from = in_mm(z.zone.start) + sunk;
    d.radius = (web.hub + web.rim) / 2;
    to.push_back(std::move(d));
}

// Where a zone's length is seen from: the outline there.
double outline_at(const ResolvedPiece& piece, double z, Where where) {
    double out = 0;
    for (const ResolvedZone& o : piece.zones)
        if (o.where == where && in_mm(o.start) - 1e-6 <= z && z <= in_mm(o.end()) + 1e-6)
            out = std::max(out, in_mm(o.in_bore() ? o.largest_radius() : o.outer_radius()));
    return out;
}

} // namespace

std::vector<Dimension> dimensions_of(const ResolvedPiece& piece, std::size_t index, LengthUnit unit,
                                     bool section) {
    std::vector<Dimension> out;
    const std::size_t outer = piece.chain(Where::outer).size();
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        const ResolvedZone& zone = piece.zones[i];
        const ZoneDrawn z{piece, zone, index, i, unit, 1, section};
        if (const auto say = drawing_of(zone).dimensions) say(z, out);
        web_note(z, out);
        end_note(z, false, out);
        end_note(z, true, out);
        const bool through = zone.in_bore() && piece.chain(zone.where).size() == 1 &&
                             std::abs(in_mm(zone.length - piece.length())) < 1e-6;
        const ResolvedEnd& bottom = zone.where == Where::far_bore ? zone.near_end : zone.far_end;
        const bool pointed =
            zone.in_bore() && bottom.kind == EndKind::chamfer && bottom.diameter < zone.diameter * 0.05 &&
            in_mm(zone.diameter) / 2 / std::tan(in_rad(bottom.angle)) > 0.95 * in_mm(zone.length);
        if (through || pointed || zone.bend()) continue; // goes without saying
        const double a = in_mm(zone.start), b = in_mm(zone.end());
        Dimension d;
        d.link = z.link("length", field::length);
        d.words = z.figure(b - a);
        d.value = b - a;
        d.from = a;
        d.to = b;
        d.radius = std::max(outline_at(piece, a, zone.where), outline_at(piece, b, zone.where));
        d.inner = zone.in_bore();
        out.push_back(std::move(d));
    }
    // one diameter over zones that touch is said once
    for (std::size_t i = 0; i < out.size(); ++i) {
        Dimension& a = out[i];
        if (a.measure != Measure::across || a.conical) continue;
        for (std::size_t k = i + 1; k < out.size();) {
            const Dimension& b = out[k];
            const bool same = b.measure == Measure::across && !b.conical && b.words == a.words &&
                              b.inner == a.inner &&
                              (std::abs(a.to - b.from) < 1e-6 || std::abs(b.to - a.from) < 1e-6) &&
                              piece.zones[*a.link.zone].where == piece.zones[*b.link.zone].where;
            if (!same) {
                ++k;
                continue;
            }
            a.from = std::min(a.from, b.from);
            a.to = std::max(a.to, b.to);
            out.erase(out.begin() + static_cast<std::ptrdiff_t>(k));
            k = i + 1;
        }
    }
    if (outer > 1 && !piece.bent()) {
        Dimension d;
        d.link.piece = index;
        d.link.key = "overall_length";
        d.to = d.value = in_mm(piece.length());
        d.words = "(" + figure(d.value, unit) + ")";
        d.radius = std::max(outline_at(piece, 0, Where::outer), outline_at(piece, d.to, Where::outer));
        d.reference = true;
        out.push_back(std::move(d));
    }
    return out;
}

} // namespace whorl::drawing
