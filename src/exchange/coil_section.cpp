#include "exchange/coil_section.hpp"

#include "exchange/spring_chart.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {

std::vector<WireSection> wire_sections(const ResolvedCoil& c) {
    std::vector<WireSection> out;
    // every half turn, from the first one in the plane on
    const double half = std::numbers::pi, start = c.line.shape().start;
    for (int k = static_cast<int>(std::ceil(start / half - 1e-9));; ++k) {
        const double theta = k * half - start;
        if (theta > c.line.coil_end() + 1e-9) break;
        const auto f = c.line.frame(theta);
        const double level = std::hypot(f.along.x, f.along.y);
        WireSection s;
        s.z = c.line.height(theta) + c.lift();
        s.x = (k % 2 ? -1 : 1) * c.line.radius(theta);
        s.along = c.axial / 2 / level;
        s.across = c.wire / 2;
        s.round = c.round;
        s.low = c.ground(false) ? 0 : -1e9;
        s.high = c.ground(true) ? c.length : 1e9;
        out.push_back(s);
    }
    return out;
}

std::string coil_svg(const ResolvedCoil& c, LengthUnit unit) {
    const auto n = [](double v) { return number_text(v, 4); };
    const auto shown = [&](double v) {
        return number_text(in_unit(mm(v), unit), unit == LengthUnit::inch ? 4 : 3);
    };
    // about 160 mm of paper
    const double scale = 160 / std::max(c.length, c.outside());
    const double left = 30, top = 22 + c.outside() / 2 * scale;
    const auto x_of = [&](double z) { return left + z * scale; };
    const auto y_of = [&](double x) { return top - x * scale; };
    const double width = left + c.length * scale + 30, section = top + c.outside() / 2 * scale + 24;
    constexpr double chart = 60; // load over length stands under the section
    const double height = section + chart + 18;
    std::string body;
    const auto line = [&](double x1, double y1, double x2, double y2, const char* style) {
        body += "  <line x1=\"" + n(x1) + "\" y1=\"" + n(y1) + "\" x2=\"" + n(x2) + "\" y2=\"" + n(y2) +
                "\" class=\"" + style + "\"/>\n";
    };
    const auto text = [&](double x, double y, const std::string& t, const char* extra = "") {
        body += "  <text x=\"" + n(x) + "\" y=\"" + n(y) + "\" text-anchor=\"middle\"" + extra + ">" + t +
                "</text>\n";
    };
    body += "  <clipPath id=\"ground\"><rect x=\"" + n(x_of(c.ground(false) ? 0 : -c.axial)) +
            "\" y=\"0\" width=\"" +
            n((c.length + c.axial * ((c.ground(false) ? 0 : 1) + (c.ground(true) ? 0 : 1))) * scale) +
            "\" height=\"" + n(height) + "\"/></clipPath>\n";
    line(x_of(-c.wire), top, x_of(c.length + c.wire), top, "axis");
    const auto put = [&](const char* what, std::initializer_list<std::pair<const char*, double>> numbers) {
        body += std::string("  <") + what + " class=\"cut\" clip-path=\"url(#ground)\"";
        for (const auto& [key, v] : numbers)
            body += std::string(" ") + key + "=\"" + n(v) + "\"";
        body += "/>\n";
    };
    for (const WireSection& s : wire_sections(c)) {
        const double cx = x_of(s.z), cy = y_of(s.x), rx = s.along * scale, ry = s.across * scale;
        s.round ? put("ellipse", {{"cx", cx}, {"cy", cy}, {"rx", rx}, {"ry", ry}})
                : put("rect", {{"x", cx - rx}, {"y", cy - ry}, {"width", 2 * rx}, {"height", 2 * ry}});
    }
    const double under = top + c.outside() / 2 * scale + 12;
    line(x_of(0), under, x_of(c.length), under, "thin");
    for (const double z : {0.0, c.length})
        line(x_of(z), under - 3, x_of(z), under + 3, "thin");
    text(x_of(c.length / 2), under - 2, (c.made_at ? "L " : "L0 ") + shown(c.length));
    text(width / 2, 12,
         (c.round ? "d " : "b ") + shown(c.wire) + (c.round ? "" : "   h " + shown(c.axial)) + "   De " +
             shown(c.outside()) + "   n " + number_text(c.active, 4) + "   nt " + number_text(c.total, 4) +
             "   p " + shown(c.pitch) + "   R " + number_text(c.rate, 4) + " N/mm");
    body += spring_chart(c, unit, left, section + 8, std::max(80.0, width - left - 30), chart);
    return "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" + n(width) + "mm\" height=\"" + n(height) +
           "mm\" viewBox=\"0 0 " + n(width) + " " + n(height) +
           "\">\n  "
           "<style>.cut{fill:#e6ebee;stroke:#1d2b33;stroke-width:.35}.thin{stroke:#1d2b33;stroke-width:"
           ".18}.axis{stroke:#1d2b33;stroke-width:.18;stroke-dasharray:6 1.5 1 "
           "1.5}.band{fill:#d5dde2}.curve{fill:none;stroke:#1d2b33;stroke-width:.5}text{font:3.5px "
           "sans-serif;fill:#1d2b33}</style>\n" +
           body + "</svg>\n";
}

} // namespace whorl
