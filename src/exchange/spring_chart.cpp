#include "exchange/spring_chart.hpp"

#include "form/coil/coil_load.hpp"
#include "form/coil/spring_block.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <vector>

namespace whorl {
std::string spring_csv(const ResolvedCoil& c) {
    const bool torsion = c.spec.kind == SpringKind::torsion;
    const auto tolerance = spring_tolerance(c);
    std::string out = torsion ? "angle,torque,stress" : "travel,length,load,stress";
    out += tolerance ? ",load_least,load_most\n" : "\n";
    const double most = c.curve.points().back().travel;
    std::vector<LoadCurve::Point> rows;
    for (int i = 0; i <= 100; ++i)
        rows.push_back(c.curve.at_travel(most * i / 100));
    for (const SprungState& s : c.spec.works)
        rows.push_back(at_state(c, s));
    std::ranges::stable_sort(rows, {}, &LoadCurve::Point::travel);
    for (const LoadCurve::Point& p : rows) {
        out += number_text(p.travel, 6);
        if (!torsion) out += "," + number_text(standing(c, p.travel), 6);
        out += "," + number_text(p.load, 6) + "," + number_text(p.stress, 4);
        if (tolerance)
            for (const double side : {-1.0, 1.0})
                out += "," + number_text(std::max(0.0, p.load + side * tolerance->load(p.load)), 6);
        out += "\n";
    }
    return out;
}

std::string spring_chart(const ResolvedCoil& c, LengthUnit unit, double x0, double y0, double width,
                         double height) {
    const bool torsion = c.spec.kind == SpringKind::torsion,
               compression = c.spec.kind == SpringKind::compression;
    const LoadCurve::Point most = c.curve.points().back();
    if (!(most.travel > 0 && most.load > 0)) return {};
    const auto n = [](double v) { return number_text(v, 3); };
    const auto x_of = [&](double travel) { return x0 + travel / most.travel * width; };
    const auto y_of = [&](double load) { return y0 + height * (1 - load / most.load); };
    std::string out;
    const auto line = [&](double x1, double y1, double x2, double y2, const char* style) {
        out += "  <line x1=\"" + n(x1) + "\" y1=\"" + n(y1) + "\" x2=\"" + n(x2) + "\" y2=\"" + n(y2) +
               "\" class=\"" + style + "\"/>\n";
    };
    const auto text = [&](double x, double y, const std::string& words, const char* anchor = "middle") {
        out += "  <text x=\"" + n(x) + "\" y=\"" + n(y) + "\" text-anchor=\"" + anchor + "\">" + words +
               "</text>\n";
    };
    const auto place = [&](double travel) {
        if (torsion) return number_text(travel, 1) + "°";
        return number_text(in_unit(mm(standing(c, travel)), unit), unit == LengthUnit::inch ? 4 : 2);
    };
    line(x0, y0 + height, x0 + width, y0 + height, "thin");
    line(x0, y0 - 3, x0, y0 + height, "thin");
    text(x0 - 1.5, y0 + 1, number_text(most.load, 1) + (torsion ? " N·mm" : " N"), "end");
    text(x0, y0 + height + 5, torsion ? "free" : "L0 " + place(0));
    text(x0 + width, y0 + height + 5, (compression ? "Lc " : "") + place(most.travel));
    if (const auto t = spring_tolerance(c)) { // EN 15800's limits of the load
        std::string band;
        for (int i = 0; i <= 81; ++i) { // there above, back below
            const LoadCurve::Point p = c.curve.at_travel(most.travel * std::min(i, 81 - i) / 40);
            const double load = p.load + (i <= 40 ? 1 : -1) * t->load(p.load);
            band.append(n(x_of(p.travel)))
                .append(",")
                .append(n(y_of(std::clamp(load, 0.0, most.load))))
                .append(" ");
        }
        out += "  <polygon class=\"band\" points=\"" + band + "\"/>\n";
    }
    out += "  <polyline class=\"curve\" points=\"";
    for (const LoadCurve::Point& p : c.curve.points())
        out += n(x_of(p.travel)) + "," + n(y_of(p.load)) + " ";
    out += "\"/>\n";
    if (const ResolvedValue* gap = find_value(c.values, "least_gap");
        gap && gap->value && *gap->value < most.travel) {
        const double at = most.travel - *gap->value;
        line(x_of(at), y0, x_of(at), y0 + height, "axis");
        text(x_of(at), y0 - 1.5, "Ln " + place(at));
    }
    for (const SprungState& s : c.spec.works) {
        const LoadCurve::Point p = at_state(c, s);
        line(x_of(p.travel), y_of(p.load), x_of(p.travel), y0 + height, "thin");
        line(x0, y_of(p.load), x_of(p.travel), y_of(p.load), "thin");
        text(x0 + 1.5, y_of(p.load) - 1,
             number_text(p.load, 2) + (torsion ? " N·mm at " : " N at ") + place(p.travel), "start");
    }
    return out;
}

} // namespace whorl
