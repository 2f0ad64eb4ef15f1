#include "form/groove/section_points.hpp"

#include "form/reader.hpp"
#include "quantity/input_error.hpp"

#include <cmath>

namespace whorl {
namespace {

bool is_blank(char c) {
    return c == ' ' || c == '\t' || c == ';';
}

OwnPoint point_of(std::string_view word, std::size_t at, LengthUnit unit, const Names& names) {
    double value[3]{};
    std::size_t count = 0;
    for (std::size_t from = 0; from <= word.size(); ++count) {
        const std::size_t colon = std::min(word.find(':', from), word.size());
        const std::string_view part = word.substr(from, colon - from);
        if (count == 3 || part.empty())
            throw InputError(
                "'" + std::string(word) +
                    "' is no point of a groove; write position:depth, or position:depth:arc with "
                    "the height of the arc to the next point, such as 1:1.5 or 0:0:2.",
                at, word.size());
        try {
            value[count] = in_mm(evaluate_length(part, unit, names));
        } catch (const InputError& e) {
            throw InputError(e.what(), at + from + e.position, e.extent);
        }
        from = colon + 1;
    }
    if (count < 2)
        throw InputError("A depth is missing here; write position:depth, such as 1:1.5.", at, word.size());
    return {value[0], -value[1], -value[2]};
}

// Words up to the end, or where `with_colon` up to the first one that has none.
std::vector<OwnPoint> points_in(std::string_view text, std::size_t from, bool with_colon, LengthUnit unit,
                                const Names& names, std::size_t& end) {
    std::vector<OwnPoint> out;
    for (end = from; end < text.size();) {
        if (is_blank(text[end])) {
            ++end;
            continue;
        }
        std::size_t stop = end;
        while (stop < text.size() && !is_blank(text[stop]) &&
               !(text[stop] == ',' && stop + 1 < text.size() && is_blank(text[stop + 1])))
            ++stop;
        const std::string_view word = text.substr(end, stop - end);
        if (with_colon && word.find(':') == std::string_view::npos) break;
        if (word != ",") out.push_back(point_of(word, end, unit, names));
        end = stop;
        if (end < text.size() && text[end] == ',') ++end;
    }
    return out;
}

} // namespace

std::vector<OwnPoint> parse_section_points(std::string_view text, LengthUnit unit, const Names& names) {
    std::size_t end = 0;
    std::vector<OwnPoint> out = points_in(text, 0, false, unit, names, end);
    require_groove(out);
    return out;
}

std::vector<OwnPoint> take_section_points(Reader& r, LengthUnit unit) {
    const std::string_view rest = r.rest();
    std::size_t end = 0;
    const std::size_t at = r.at();
    try {
        std::vector<OwnPoint> out = points_in(rest, 0, true, unit, {}, end);
        r.move_to(at + end);
        return out;
    } catch (const InputError& e) {
        throw InputError(e.what(), at + e.position, e.extent);
    }
}

std::string write_section_points(const std::vector<OwnPoint>& points, LengthUnit unit) {
    std::string out;
    const auto number = [&](double v) { return number_text(in_unit(mm(v), unit), 6); };
    for (std::size_t i = 0; i < points.size(); ++i) {
        const OwnPoint& p = points[i];
        if (i > 0) out += ' ';
        out += number(p.z) + ":" + number(p.h == 0 ? 0 : -p.h);
        if (p.bow != 0 && i + 1 < points.size()) out += ":" + number(-p.bow);
    }
    return out;
}

void require_groove(const std::vector<OwnPoint>& points) {
    if (points.size() < 2)
        throw InputError(
            "A groove of one's own goes through two points or more, such as 0:0 1:1.5 3:1.5 4:0, "
            "position:depth, or 0:0:2 4:0 with an arc.");
    const double width = points.back().z - points.front().z;
    if (!(width > 1e-3))
        throw InputError("The last point of a groove lies beyond its first one along the axis, such as 0:0 "
                         "1:1.5 3:1.5 4:0.");
    // in units of its width, with a point more where there are only two
    OwnSection as{"groove", points};
    for (OwnPoint& p : as.points)
        p = {(p.z - points.front().z) / width, p.h / width, p.bow / width};
    if (as.points.size() == 2) as = with_point_after(as, 0);
    for (const OwnPoint& p : as.points)
        if (p.h > 1e-6) throw InputError("A groove's depths are not negative; they count from the surface.");
    if (shape_of(as).depth < 0.01)
        throw InputError("A groove is at least a hundredth of its width deep; this one is " +
                         number_text(shape_of(as).depth * width, 4) + " mm.");
    require_usable(as);
}

} // namespace whorl
