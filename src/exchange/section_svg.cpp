#include "exchange/export.hpp"

#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {
namespace {

std::string n(double v) {
    return number_text(v, 4);
}

class Svg {
public:
    void line(double x1, double y1, double x2, double y2, const char* style) {
        body += "  <line x1=\"" + n(x1) + "\" y1=\"" + n(y1) + "\" x2=\"" + n(x2) + "\" y2=\"" + n(y2) +
                "\" class=\"" + style + "\"/>\n";
    }
    void text(double x, double y, const std::string& t, const char* anchor = "middle") {
        body +=
            "  <text x=\"" + n(x) + "\" y=\"" + n(y) + "\" text-anchor=\"" + anchor + "\">" + t + "</text>\n";
    }
    // An arrow head at (x, y) pointing along (dx, dy), ISO 129-1 proportions.
    void head(double x, double y, double dx, double dy) {
        const double l = 2.5, w = 0.45;
        body += "  <path class=\"ink\" d=\"M" + n(x) + " " + n(y) + " L" + n(x - dx * l - dy * w) + " " +
                n(y - dy * l + dx * w) + " L" + n(x - dx * l + dy * w) + " " + n(y - dy * l - dx * w) +
                " Z\"/>\n";
    }
    std::string body;
};

} // namespace

std::string section_svg(const ResolvedThread& thread, LengthUnit unit) {
    const ThreadSection& s = thread.section;
    // drawn so that one pitch is 40 mm on paper
    const double scale = 40 / s.pitch, P = 40, left = 15, top = 30;
    const double depth = s.depth() * scale, core = 12, width = 3 * P;
    const double crest_y = top, root_y = top + depth, base_y = root_y + core;
    // the crest is at the top: of an internal thread the axis lies above it
    const double down = s.side == Side::internal ? -scale : scale;
    const auto y_of = [&](double radius) { return top + (s.crest_radius - radius) * down; };
    const double pitch_y = y_of(s.pitch_radius), g = s.root_flat * scale / 2;
    Svg svg;
    std::string d = "M" + n(left) + " " + n(base_y) + " L" + n(left) + " " + n(crest_y);
    for (int i = 0; i < 3; ++i) { // crest centres lie at whole pitches
        const double middle = left + (i + 0.5) * P;
        for (std::size_t k = 0; k < s.groove.size(); ++k) {
            const GroovePoint& p = s.groove[k];
            const std::string to = n(middle + p.z * scale) + " " + n(y_of(p.r));
            const GroovePoint* from = k > 0 ? &s.groove[k - 1] : nullptr;
            if (from && from->arc_radius > 0) {
                // true arcs: bulging upwards on paper they run clockwise
                const double middle_r = (from->r + p.r) / 2;
                const bool up = (middle_r - from->centre_r) * down > 0;
                const std::string radius = n(from->arc_radius * scale);
                for (const std::string& word :
                     {" A" + radius, " " + radius, std::string(up ? " 0 0 1 " : " 0 0 0 "), to})
                    d += word;
            } else {
                d += " L" + to;
            }
        }
    }
    d += " L" + n(left + width) + " " + n(crest_y) + " L" + n(left + width) + " " + n(base_y);
    svg.body += "  <path class=\"metal\" d=\"" + d + " Z\"/>\n  <path class=\"outline\" d=\"" + d + "\"/>\n";
    svg.line(left - 4, pitch_y, left + width + 4, pitch_y, "centre");
    // pitch, crest to crest
    const double dim_y = top - 12;
    svg.line(left + P, crest_y - 1, left + P, dim_y - 2, "thin");
    svg.line(left + 2 * P, crest_y - 1, left + 2 * P, dim_y - 2, "thin");
    svg.line(left + P, dim_y, left + 2 * P, dim_y, "thin");
    svg.head(left + P, dim_y, -1, 0);
    svg.head(left + 2 * P, dim_y, 1, 0);
    svg.text(left + 1.5 * P, dim_y - 1.2, length_text(mm(s.pitch), unit));
    // depth
    const double dim_x = left + width + 10;
    svg.line(left + width + 1, crest_y, dim_x + 2, crest_y, "thin");
    svg.line(left + 2.5 * P + g, root_y, dim_x + 2, root_y, "thin");
    svg.line(dim_x, crest_y, dim_x, root_y, "thin");
    svg.head(dim_x, crest_y, 0, -1);
    svg.head(dim_x, root_y, 0, 1);
    svg.text(dim_x + 1.5, (crest_y + root_y) / 2 + 1.2, length_text(mm(s.depth()), unit), "start");
    svg.text(left + 1.5 * P, pitch_y - 1.5, n(in_deg(rad(s.flank_half_angle + s.other_half_angle))) + "°");
    svg.text(left - 4, pitch_y - 1, "pitch Ø " + length_text(mm(2 * s.pitch_radius), unit), "start");
    svg.text(left, base_y + 7,
             write_designation(thread.spec) + ", axial section, " + modelled_text(thread.spec) + ", " +
                 symbol(unit),
             "start");
    const std::string w = n(left * 2 + width + 20), h = n(base_y + 12);
    return "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" +
           w + "mm\" height=\"" + h + "mm\" viewBox=\"0 0 " + w + " " + h +
           "\">\n  <style>text{font:3.5px "
           "Inter,sans-serif;fill:#1E2A32}.metal{fill:#EADFC6}.outline{fill:none;stroke:#1E2A32;"
           "stroke-width:.5}.thin{stroke:#1E2A32;stroke-width:.18}.centre{stroke:#2C6E68;stroke-width:.18;"
           "stroke-dasharray:6 1 1 1}.ink{fill:#1E2A32}</style>\n" +
           svg.body + "</svg>\n";
}

} // namespace whorl
