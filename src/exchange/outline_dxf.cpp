#include "exchange/outline_files.hpp"

#include "model/file.hpp"
#include "quantity/expression.hpp"

#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <numbers>
#include <sstream>

namespace whorl {

double distance(const OutlinePoint& a, const OutlinePoint& b) {
    return std::hypot(a.x - b.x, a.y - b.y);
}

namespace {

struct Segment {
    OutlinePoint from, to; // `from.bow` is the segment's
};

Segment reversed(const Segment& s) {
    return {{s.to.x, s.to.y, -s.from.bow}, {s.from.x, s.from.y, 0}};
}

// Joins segments end to end from the leftmost free end.
std::vector<OutlinePoint> chain(std::vector<Segment> segments) {
    if (segments.empty()) throw InputError("There is no line, arc or polyline in the drawing.");
    double low = 1e300, high = -1e300;
    for (const Segment& s : segments)
        for (const OutlinePoint* p : {&s.from, &s.to}) {
            low = std::min({low, p->x, p->y});
            high = std::max({high, p->x, p->y});
        }
    const double near = 1e-4 * std::max(high - low, 1e-9);
    std::erase_if(segments, [&](const Segment& s) { return distance(s.from, s.to) < near; });
    if (segments.empty()) throw InputError("The drawing has no extent.");
    const auto meets = [&](const OutlinePoint& p, std::size_t but) {
        int n = 0;
        for (std::size_t i = 0; i < segments.size(); ++i)
            if (i != but) n += (distance(p, segments[i].from) < near) + (distance(p, segments[i].to) < near);
        return n;
    };
    std::optional<std::pair<std::size_t, bool>> first; // segment, begins at its end
    double leftmost = 1e300;
    for (std::size_t i = 0; i < segments.size(); ++i)
        for (const bool at_end : {false, true}) {
            const OutlinePoint& p = at_end ? segments[i].to : segments[i].from;
            if (p.x < leftmost && meets(p, i) == 0) leftmost = p.x, first = {i, at_end};
        }
    if (!first)
        throw InputError(
            "The outline is closed; it must be open, from one crest across the groove to the next.");
    std::vector<bool> used(segments.size(), false);
    Segment now = first->second ? reversed(segments[first->first]) : segments[first->first];
    used[first->first] = true;
    std::vector<OutlinePoint> out{now.from};
    for (std::size_t done = 1;; ++done) {
        out.push_back(now.to);
        std::optional<Segment> next;
        std::size_t which = 0;
        for (std::size_t i = 0; i < segments.size(); ++i) {
            if (used[i]) continue;
            const bool forward = distance(now.to, segments[i].from) < near,
                       backward = distance(now.to, segments[i].to) < near;
            if (!forward && !backward) continue;
            if (next)
                throw InputError("The outline branches at (" + number_text(now.to.x, 4) + ", " +
                                 number_text(now.to.y, 4) + "); it must be a single line.");
            next = forward ? segments[i] : reversed(segments[i]);
            which = i;
        }
        if (!next) {
            if (done < segments.size())
                throw InputError("The outline is in several parts: it ends at (" + number_text(now.to.x, 4) +
                                 ", " + number_text(now.to.y, 4) + ") and " +
                                 std::to_string(segments.size() - done) + " of its pieces lie elsewhere.");
            return out;
        }
        out.back().bow = next->from.bow;
        used[which] = true;
        now = *next;
    }
}

double sagitta(double radius, double turn) {
    return radius * (1 - std::cos(turn / 2));
}

class DxfReader final : public DL_CreationAdapter {
public:
    explicit DxfReader(std::size_t most, bool with_circles) : most_(most), with_circles_(with_circles) {}
    std::vector<Segment> segments;
    std::string refused; // an entity that can't be used

    void addLine(const DL_LineData& l) override { add({{l.x1, l.y1, 0}, {l.x2, l.y2, 0}}); }
    void addArc(const DL_ArcData& a) override {
        const double from = in_rad(deg(a.angle1));
        double turn = std::fmod(in_rad(deg(a.angle2 - a.angle1)), 2 * std::numbers::pi);
        if (turn <= 0) turn += 2 * std::numbers::pi;
        const auto at = [&](double angle) {
            return OutlinePoint{a.cx + a.radius * std::cos(angle), a.cy + a.radius * std::sin(angle), 0};
        };
        // counter-clockwise: the arc lies to the right of its chord. More than a half turn in two pieces.
        const int parts = turn > 3 ? 2 : 1;
        for (int i = 0; i < parts; ++i) {
            Segment s{at(from + turn * i / parts), at(from + turn * (i + 1) / parts)};
            s.from.bow = -sagitta(a.radius, turn / parts);
            add(s);
        }
    }
    void addPolyline(const DL_PolylineData& p) override {
        vertices_.clear();
        in_polyline_ = true;
        closed_ = (p.flags & 1) != 0;
    }
    void addVertex(const DL_VertexData& v) override {
        if (in_polyline_ && vertices_.size() <= most_ + 1) vertices_.push_back({v.x, v.y, v.bulge});
    }
    void endEntity() override { finish(); }
    void endSequence() override { finish(); }
    void addCircle(const DL_CircleData&) override {
        if (!with_circles_) refused = "a circle";
    }
    void addEllipse(const DL_EllipseData&) override { refused = "an ellipse"; }
    void addSpline(const DL_SplineData&) override { refused = "a spline"; }

    void finish() {
        if (!in_polyline_) return;
        in_polyline_ = false;
        for (std::size_t i = 0; i + 1 < vertices_.size() + (closed_ ? 1 : 0); ++i) {
            const OutlinePoint &a = vertices_[i], &b = vertices_[(i + 1) % vertices_.size()];
            // a bulge is the tangent of a quarter of the arc's angle, positive counter-clockwise
            Segment s{{a.x, a.y, -a.bow * distance(a, b) / 2}, {b.x, b.y, 0}};
            add(s);
        }
        vertices_.clear();
    }

private:
    void add(const Segment& s) {
        if (segments.size() < most_)
            segments.push_back(s);
        else
            refused = "more than " + std::to_string(most_) + " pieces";
    }
    std::size_t most_;
    bool with_circles_;
    std::vector<OutlinePoint> vertices_; // bow: the bulge
    bool in_polyline_ = false, closed_ = false;
};

// The reading library follows a drawing's own word on how long its lines are and how many points follow; what
// that can't be true of is refused before. Gives where the drawing ends: the library would read on behind its
// EOF.
std::size_t require_readable(const std::string& text) {
    constexpr std::size_t longest_line = 1000; // the library hangs from 1024 on
    // the library's words end at one, so that what is read here would not be what it reads
    if (text.find('\0') != std::string::npos)
        throw InputError(
            "The drawing holds characters of code 0, as a binary DXF does; save it as a text (ASCII) DXF.");
    const auto lines = static_cast<long long>(std::count(text.begin(), text.end(), '\n')) + 1;
    std::string entity;
    long long number = 0, code = 0;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        std::string_view line(text.data() + at, end - at);
        at = end + 1;
        ++number;
        if (line.size() > longest_line)
            throw InputError("Line " + std::to_string(number) + " of the drawing has " +
                             std::to_string(line.size()) + " characters; a DXF line has at most " +
                             std::to_string(longest_line) + " here.");
        while (!line.empty() && std::isspace(static_cast<unsigned char>(line.front())))
            line.remove_prefix(1);
        while (!line.empty() && std::isspace(static_cast<unsigned char>(line.back())))
            line.remove_suffix(1);
        if (number % 2 == 1) { // a group's code, then its value
            if (line.empty() && at >= text.size()) break;
            const auto [rest, error] = std::from_chars(line.data(), line.data() + line.size(), code);
            if (error != std::errc() || rest != line.data() + line.size() || code < -10 || code > 1100)
                throw InputError("Line " + std::to_string(number) +
                                 " of the drawing should be the number of a DXF group, but is " +
                                 in_quotes(line, 40) + "; the file is damaged, or not a DXF drawing.");
            continue;
        }
        if (code == 0) entity = line;
        if (entity == "EOF") return std::min(at, text.size());
        const bool counts = (entity == "SPLINE" && code >= 72 && code <= 74) ||
                            (entity == "LWPOLYLINE" && code == 90) || (entity == "LEADER" && code == 76) ||
                            (entity == "HATCH" && (code == 91 || code == 93 || code == 97 || code == 98 ||
                                                   code == 95 || code == 96 || code == 78));
        if (!counts) continue;
        long long count = 0;
        const auto [rest, error] = std::from_chars(line.data(), line.data() + line.size(), count);
        if (error != std::errc() || rest != line.data() + line.size() || count < 0 || count > lines)
            throw InputError("Line " + std::to_string(number) + " of the drawing says that " +
                             in_quotes(line, 40) + " of something follow, but the drawing has only " +
                             std::to_string(lines) + " lines; the file is damaged.");
    }
    return text.size();
}

std::vector<Segment> segments_of_dxf(const std::string& drawing, std::size_t most, bool with_circles) {
    std::string text = with_plain_line_ends(drawing);
    text.resize(require_readable(text));
    DxfReader reader(most, with_circles);
    std::stringstream in(text);
    DL_Dxf dxf;
    if (text.find("ENTITIES") == std::string::npos || !dxf.in(in, &reader))
        throw InputError("This is not a DXF drawing: it has no ENTITIES section.");
    reader.finish();
    if (!reader.refused.empty())
        throw InputError(
            "The drawing has " + reader.refused +
            (reader.refused.starts_with("more than")
                 ? "; leave out what is no part of the outline, or draw it with arcs in place of short lines."
                 : "; an outline is made of lines, arcs and polylines. Convert it to a polyline first."));
    return std::move(reader.segments);
}
} // namespace

std::vector<OutlinePoint> outline_from_dxf(const std::string& text) {
    return chain(segments_of_dxf(text, most_pieces_in_drawing, false));
}

std::vector<std::pair<OutlinePoint, OutlinePoint>> pieces_from_dxf(const std::string& text) {
    std::vector<std::pair<OutlinePoint, OutlinePoint>> out;
    for (const Segment& s : segments_of_dxf(text, most_pieces_compared, true))
        out.push_back({s.from, s.to});
    return out;
}

} // namespace whorl
