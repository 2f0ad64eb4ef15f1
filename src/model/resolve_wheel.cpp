// What makes a wheel of a zone: the keyway in its bore, the web in its disc.
#include "model/resolve_zone.hpp"
#include "standard/keyway.hpp"

#include <algorithm>
#include <cmath>
#include <sstream>

namespace whorl {

ResolvedKeyway resolve_keyway(const Zone& z, const ResolvedZone& r, const Names& names) {
    if (!r.in_bore() || !r.as<ResolvedPlain>() || r.outline() != Outline::round ||
        r.far_diameter != r.diameter)
        throw InputError("A keyway is cut along a plain round bore; this zone is none.", 0,
                         z.keyway.text.size());
    ResolvedKeyway k;
    if (z.keyway.text == "standard") {
        const auto* row = standard::keyway_for(r.diameter);
        if (!row)
            throw InputError("DIN 6885-1 has keyways for bores over 6 to 230 mm; for Ø " +
                                 number_text(in_mm(r.diameter), 3) + " mm write its width x depth.",
                             0, z.keyway.text.size());
        return {row->width, row->hub, 0, standard::keyway_source()};
    }
    const auto cross = z.keyway.text.find('x');
    if (cross == std::string::npos)
        throw InputError("A keyway is standard, none, or its width x depth in the hub, such as 5 x 2.3.", 0,
                         z.keyway.text.size());
    k.width = evaluate_length(z.keyway.text.substr(0, cross), z.keyway.unit, names);
    k.depth = evaluate_length(z.keyway.text.substr(cross + 1), z.keyway.unit, names);
    const double d = in_mm(r.diameter);
    if (!(in_mm(k.width) >= 0.02 * d && in_mm(k.width) <= 0.8 * d))
        throw InputError("A keyway in this bore is between " + number_text(0.02 * d, 3) + " and " +
                             number_text(0.8 * d, 3) + " mm wide.",
                         0, z.keyway.text.size());
    if (!(in_mm(k.depth) >= 0.01 * d && in_mm(k.depth) <= d))
        throw InputError("A keyway in this bore is between " + number_text(0.01 * d, 3) + " and " +
                             number_text(d, 3) + " mm deep, from the bore's surface.",
                         0, z.keyway.text.size());
    k.source = "as asked";
    return k;
}

// By the textbooks' rules: a web of 0.3 of the width, two and a half modules (a plain disc: a tenth of its
// radius) of rim, a hub of 1.6 times the bore, or a module wider than what stands beside.
ResolvedWeb resolve_web(const Zone& z, const ResolvedZone& r, const ResolvedPiece& piece,
                        const Names& names) {
    if (r.in_bore() || r.thread() || r.outline() != Outline::round || r.far_diameter != r.diameter)
        throw InputError("A web is sunk into a gear or a plain round disc; this zone is neither.", 0,
                         z.web.text.size());
    const double width = in_mm(r.length), outside = r.gear() ? r.gear()->root_radius : in_mm(r.diameter) / 2;
    const double module = r.gear() ? in_mm(r.gear()->spec.module) : 0.04 * outside;
    double bore = 0, beside[2]{0, 0};
    for (const ResolvedZone& other : piece.zones) {
        if (other.in_bore() && other.start < r.end() && other.end() > r.start)
            bore = std::max(bore, in_mm(other.largest_radius()));
        if (other.in_bore()) continue;
        if (std::abs(in_mm(other.end() - r.start)) < 1e-9) beside[0] = in_mm(other.largest_radius());
        if (std::abs(in_mm(other.start - r.end())) < 1e-9) beside[1] = in_mm(other.largest_radius());
    }
    const LengthUnit unit = z.as<GearForm>()    ? z.as<GearForm>()->teeth.module.unit
                            : z.as<PlainForm>() ? z.as<PlainForm>()->diameter.unit
                                                : z.web.unit;
    const auto shown = [&](double millimetres) {
        return number_text(in_unit(mm(millimetres), unit), unit == LengthUnit::inch ? 4 : 3) + " " +
               symbol(unit);
    };
    ResolvedWeb w;
    w.thickness = 0.3 * width;
    w.rim = outside - 2.5 * module;
    w.hub = std::max(1.6 * bore, 0.15 * outside);
    for (const double shoulder : beside) // what is as wide as the disc leaves that side no web
        if (shoulder + module < w.rim) w.hub = std::max(w.hub, shoulder + module);
    w.source = "web 0.3 b, rim 2.5 modules, hub 1.6 of the bore";
    if (z.web.text != "standard") {
        std::istringstream words(z.web.text);
        std::string word;
        for (double* value : {&w.thickness, &w.rim, &w.hub})
            if (words >> word)
                *value = in_mm(evaluate_length(word, z.web.unit, names)) / (value == &w.thickness ? 1 : 2);
        if (words >> word)
            throw InputError(
                "A web is standard, none, its thickness, or its thickness, the rim's inner and the hub's "
                "diameter, such as 3 70 26.",
                0, z.web.text.size());
        w.source = "as asked";
    }
    if (!(w.thickness >= 0.05 * width && w.thickness <= 0.95 * width))
        throw InputError("The web is " + shown(w.thickness) + " thick; in a width of " + shown(width) +
                             " it must be between " + shown(0.05 * width) + " and " + shown(0.95 * width) +
                             ".",
                         0, z.web.text.size());
    if (!(w.rim < outside - 0.05 * module && w.hub > 0.02 * outside && w.rim > w.hub + 0.02 * outside))
        throw InputError((w.rim > 0
                              ? "Between a rim of Ø " + shown(2 * w.rim) + " inside and a hub of Ø " +
                                    shown(2 * w.hub) + " there is no room for a web under Ø " +
                                    shown(2 * outside) + "."
                              : "Under Ø " + shown(2 * outside) + " there is no room for a web: a rim of " +
                                    shown(outside - w.rim) + " takes all of it."),
                         0, z.web.text.size());
    w.near = beside[0] < w.hub;
    w.far = beside[1] < w.hub;
    if (!w.near && !w.far)
        throw InputError(
            "Neither side of this zone is free between rim and hub, so no web can be sunk into it.", 0,
            z.web.text.size());
    w.depth = (width - w.thickness) / (w.near && w.far ? 2 : 1);
    return w;
}

} // namespace whorl
