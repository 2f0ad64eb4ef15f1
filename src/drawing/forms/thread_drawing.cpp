// Threads in the conventional manner of ISO 6410-1.
#include "drawing/forms/form_drawing.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::drawing {
namespace {

// The crest's radius as drawn: the nominal size of a parallel thread, on a cone where the thread is.
double crest(const ResolvedZone& z, double at) {
    const ThreadSection& s = z.thread()->section;
    if (z.taper() != 0) return s.crest_radius + z.taper() * (at - in_mm(z.taper_from()));
    if (!z.in_bore()) return in_mm(z.thread()->spec.diameter) / 2;
    const ResolvedValue* minor = find_value(z.thread()->values, "minor_diameter_basic");
    return minor && minor->value ? *minor->value / 2 : s.crest_radius;
}

double root(const ResolvedZone& z, double at) {
    const ThreadSection& s = z.thread()->section;
    if (z.taper() != 0) return s.root_radius + z.taper() * (at - in_mm(z.taper_from()));
    return z.in_bore() ? in_mm(z.thread()->spec.diameter) / 2 : s.root_radius;
}

void simplify(ResolvedZone& zone, bool) {
    if (zone.near_end.has_cap() || zone.far_end.has_cap()) { // they stand on the thread's own size
        std::get<ResolvedScrew>(zone.form).simplified = true;
        return;
    }
    make_plain(zone, crest(zone, in_mm(zone.start)), crest(zone, in_mm(zone.end())));
}

// How far from a zone's end the thread begins at a radius: within the chamfer, or where a run-out leaves the full depth.
double begins(const ResolvedZone& z, const ResolvedEnd& e, double radius) {
    if (e.kind == EndKind::chamfer) {
        const double end = in_mm(e.diameter) / 2, slope = std::tan(in_rad(e.angle));
        const double off = z.in_bore() ? end - radius : radius - end;
        return std::clamp(off / slope, 0.0, in_mm(z.length));
    }
    if (e.kind == EndKind::run_out) return std::min(in_mm(z.length), e.turns * z.thread()->section.lead());
    if (e.has_cap()) return in_mm(e.dome_height);
    return 0;
}

// The usable length ends in a wide line where the piece goes on.
void limit(const ZoneDrawn& z, bool far, std::vector<Mark>& to) {
    const ResolvedZone& zone = z.zone;
    const ResolvedEnd& e = far ? zone.far_end : zone.near_end;
    if (e.kind == EndKind::chamfer || e.has_cap()) return;
    const double run_out = e.kind == EndKind::run_out ? begins(zone, e, 0) : 0;
    const double at = far ? in_mm(zone.end()) - run_out : in_mm(zone.start) + run_out;
    bool goes_on = run_out > 0;
    for (const ResolvedZone& other : z.piece.zones) {
        const double meets = in_mm(far ? other.start : other.end());
        if (other.where != zone.where || std::abs(meets - in_mm(far ? zone.end() : zone.start)) > 1e-6)
            continue;
        const double there = in_mm(far ? other.diameter : other.far_diameter) / 2;
        goes_on = goes_on || (zone.in_bore() ? there <= root(zone, at) : there >= root(zone, at));
    }
    if (!goes_on) return;
    const double r = zone.in_bore() ? root(zone, at) : crest(zone, at);
    to.push_back({line(LineKind::outline, {at, -r}, {at, r})});
}

void side(const ZoneDrawn& z, std::vector<Mark>& to) {
    const ResolvedZone& zone = z.zone;
    if (zone.in_bore() && !z.section) return;
    const double a0 = in_mm(zone.start), b0 = in_mm(zone.end());
    const double a = a0 + begins(zone, zone.near_end, root(zone, a0)),
                 b = b0 - begins(zone, zone.far_end, root(zone, b0));
    if (b > a)
        for (const double over : {1.0, -1.0})
            to.push_back({line(LineKind::thin, {a, over * root(zone, a)}, {b, over * root(zone, b)})});
    limit(z, false, to);
    limit(z, true, to);
}

// Three quarters of a thin circle at the root, open upper right.
void end(const ZoneDrawn& z, std::vector<Mark>& to) {
    const double r = root(z.zone, in_mm(z.zone.start));
    to.push_back({arc(LineKind::thin, {}, r, 0.55 * pi, 2.05 * pi)});
}

std::string words(const ResolvedZone& z) {
    std::string text = write_designation(z.thread()->spec);
    for (std::size_t i = 1; i + 1 < text.size(); ++i) // the sign between figures
        if (text[i] == 'x' && std::isdigit(static_cast<unsigned char>(text[i - 1])) &&
            std::isdigit(static_cast<unsigned char>(text[i + 1])))
            text.replace(i, 1, "×");
    return text;
}

void dimensions(const ZoneDrawn& z, std::vector<Dimension>& to) {
    const double at = in_mm(z.zone.start);
    const double r = z.zone.in_bore() ? root(z.zone, at) : crest(z.zone, at);
    to.push_back(diameter_of(z, "designation", field::diameter, 2 * r, words(z.zone)));
    to.back().value = in_mm(z.zone.thread()->spec.diameter);
    to.back().conical = z.zone.taper() != 0;
}

// A thread of a series is said whole by its designation.
std::vector<DataTable> tables(const ZoneDrawn& z) {
    if (z.zone.thread()->status.listed) return {};
    return {data_of("Thread", z.zone.thread()->values,
                    {"major_diameter", "pitch_diameter", "minor_diameter", "pitch", "lead", "starts", "hand",
                     "flank_angle", "tap_drill", "best_wire", "over_wires"},
                    z.unit)};
}

} // namespace

const FormDrawing& drawing_of(const ResolvedScrew&) {
    static const FormDrawing table{
        .simplify = simplify,
        .side = side,
        .end = end,
        .dimensions = dimensions,
        .tables = tables,
        .enlarged = [](const ResolvedZone& z) { return !z.thread()->status.listed; },
        .simplified =
            [](const ResolvedZone&) { return std::string("Threads are drawn as ISO 6410-1 has them."); }};
    return table;
}

} // namespace whorl::drawing
