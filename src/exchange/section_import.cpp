#include "exchange/section_import.hpp"

#include "form/groove/section_points.hpp"

#include "model/section_library.hpp"
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
namespace {

constexpr std::size_t largest_drawing = 8u << 20;
constexpr double chord_error = 1e-4; // of the outline's width

struct Segment {
    OutlinePoint from, to; // `from.bow` is the segment's
};

Segment reversed(const Segment& s) {
    return {{s.to.x, s.to.y, -s.from.bow}, {s.from.x, s.from.y, 0}};
}

double distance(const OutlinePoint& a, const OutlinePoint& b) {
    return std::hypot(a.x - b.x, a.y - b.y);
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

// Reads the numbers and letters of an SVG path.
class PathReader {
public:
    explicit PathReader(std::string_view text) : text_(text) {}
    void blanks() {
        while (at_ < text_.size() &&
               (std::isspace(static_cast<unsigned char>(text_[at_])) || text_[at_] == ','))
            ++at_;
    }
    bool done() {
        blanks();
        return at_ >= text_.size();
    }
    std::optional<char> command() {
        blanks();
        if (at_ < text_.size() && std::isalpha(static_cast<unsigned char>(text_[at_]))) return text_[at_++];
        return {};
    }
    double number() {
        blanks();
        double v = 0;
        const char* begin = text_.data() + at_;
        if (at_ < text_.size() && *begin == '+') ++begin;
        const auto [end, error] = std::from_chars(begin, text_.data() + text_.size(), v);
        if (error != std::errc())
            throw InputError("The SVG path is not understood at " + in_quotes(text_.substr(at_)) + ".", at_);
        at_ = static_cast<std::size_t>(end - text_.data());
        return v;
    }
    bool flag() {
        blanks();
        if (at_ < text_.size() && (text_[at_] == '0' || text_[at_] == '1')) return text_[at_++] == '1';
        throw InputError("A flag, 0 or 1, is missing in an arc of the SVG path.", at_);
    }

private:
    std::string_view text_;
    std::size_t at_ = 0;
};

// From a point to the next along a curve, as straight pieces.
template<class Curve>
void flatten_curve(std::vector<OutlinePoint>& out, Curve curve) {
    constexpr int parts = 64;
    for (int i = 1; i <= parts; ++i)
        out.push_back(curve(static_cast<double>(i) / parts));
}

// Points that straight pieces do without, within the error (Ramer's division at the farthest point).
void thin_out(const std::vector<OutlinePoint>& p, std::size_t a, std::size_t b, double error,
              std::vector<bool>& keep) {
    if (b <= a + 1) return;
    std::size_t farthest = a;
    double most = error;
    const double length = distance(p[a], p[b]);
    for (std::size_t i = a + 1; i < b; ++i) {
        const double off =
            length < 1e-12
                ? distance(p[a], p[i])
                : std::abs((p[b].x - p[a].x) * (p[i].y - p[a].y) - (p[b].y - p[a].y) * (p[i].x - p[a].x)) /
                      length;
        if (off > most) most = off, farthest = i;
    }
    if (farthest == a) return;
    keep[farthest] = true;
    thin_out(p, a, farthest, error, keep);
    thin_out(p, farthest, b, error, keep);
}

// How far the arc over a chord stands off it to pass through a point beside it; to the left of the way.
double bow_through(const OutlinePoint& a, const OutlinePoint& b, const OutlinePoint& p) {
    const double chord = distance(a, b);
    const double along = ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / chord - chord / 2,
                 off = ((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) / chord;
    if (std::abs(off) < 1e-15) return 0;
    // centre on the chord's bisector at height c: chord²/4 + c² = along² + (off − c)²
    const double c = (along * along + off * off - chord * chord / 4) / (2 * off);
    const double radius = std::hypot(chord / 2, c);
    return off > 0 ? c + radius : c - radius;
}

// Runs of five or more points that turn a little at each lie on an arc where one fits within the error.
std::vector<OutlinePoint> with_arcs(const std::vector<OutlinePoint>& p, double error) {
    const auto turn_at = [&](std::size_t i) {
        return std::abs(std::remainder(std::atan2(p[i + 1].y - p[i].y, p[i + 1].x - p[i].x) -
                                           std::atan2(p[i].y - p[i - 1].y, p[i].x - p[i - 1].x),
                                       2 * std::numbers::pi));
    };
    std::vector<OutlinePoint> out;
    std::size_t i = 0;
    while (i + 1 < p.size()) {
        std::size_t best = i;
        double bow = 0;
        for (std::size_t j = i + 2; j < p.size(); ++j) {
            if (p[j - 1].bow != 0 || p[j - 2].bow != 0 || turn_at(j - 1) > 0.35) break;
            const double b = bow_through(p[i], p[j], p[(i + j) / 2]), chord = distance(p[i], p[j]);
            if (std::abs(b) > 0.45 * chord) break;
            bool fits = true;
            for (std::size_t k = i + 1; fits && k < j; ++k) {
                const double bk = bow_through(p[i], p[j], p[k]);
                // the arcs through two points differ by about their bows; near the ends that overstates it
                const double x = distance(p[i], p[k]) * distance(p[k], p[j]) * 4 / (chord * chord);
                fits = std::abs(bk - b) * x < error;
            }
            if (!fits) break;
            // an arc may be level between its ends only where the points have their highest or lowest there
            const double radius = std::abs(b) < 1e-12 ? 0 : (chord * chord / 4 + b * b) / (2 * b);
            const double top = (p[i].y + p[j].y) / 2 + (p[j].x - p[i].x) / chord * (b - radius) +
                               std::abs(radius),
                         bottom = top - 2 * std::abs(radius);
            const double level_x = (p[i].x + p[j].x) / 2 - (p[j].y - p[i].y) / chord * (b - radius);
            if (radius != 0 && level_x > std::min(p[i].x, p[j].x) && level_x < std::max(p[i].x, p[j].x)) {
                const bool upper = p[(i + j) / 2].y > (top + bottom) / 2;
                double extreme = p[i + 1].y,
                       end = upper ? std::max(p[i].y, p[j].y) : std::min(p[i].y, p[j].y);
                for (std::size_t k = i + 1; k < j; ++k)
                    extreme = upper ? std::max(extreme, p[k].y) : std::min(extreme, p[k].y);
                if (upper ? extreme <= end : extreme >= end) continue;
            }
            if (j - i >= 4) best = j, bow = b;
        }
        OutlinePoint q = p[i];
        if (best > i) q.bow = std::abs(bow) < error / 4 ? 0 : bow;
        out.push_back(q);
        i = best > i ? best : i + 1;
    }
    out.push_back(p.back());
    return out;
}

std::string attribute(std::string_view element, const std::string& name) {
    for (std::size_t at = element.find(name + "="); at != std::string_view::npos;
         at = element.find(name + "=", at + 1)) {
        if (at == 0 || !std::isspace(static_cast<unsigned char>(element[at - 1]))) continue;
        const std::size_t open = at + name.size() + 1;
        if (open >= element.size() || (element[open] != '"' && element[open] != '\'')) continue;
        const std::size_t close = element.find(element[open], open + 1);
        if (close != std::string_view::npos) return std::string(element.substr(open + 1, close - open - 1));
    }
    return {};
}

} // namespace

namespace {
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

namespace {
std::vector<OutlinePoint> path_from_svg(std::string_view text, bool may_close) {
    const std::size_t most = may_close ? most_pieces_compared : most_pieces_in_drawing;
    const std::size_t begin = text.find("<path");
    if (begin == std::string_view::npos)
        throw InputError("There is no <path> in this SVG drawing; draw the outline as one path.");
    const std::string_view element = text.substr(begin, text.find('>', begin) - begin);
    if (!attribute(element, "transform").empty() ||
        text.substr(0, begin).find("transform=") != std::string_view::npos)
        throw InputError(
            "The path stands under a transform; apply it to the path first, so that its numbers are "
            "the outline's.");
    const std::string d = attribute(element, "d");
    if (d.empty()) throw InputError("The <path> of this SVG drawing has no d=\"…\".");
    PathReader in(d);
    std::vector<OutlinePoint> p;
    OutlinePoint now, control;
    char command = 0, last = 0;
    const auto to = [&](double x, double y) {
        now = {x, y, 0};
        p.push_back(now);
    };
    while (!in.done()) {
        if (const auto c = in.command()) {
            command = *c;
            if (p.empty() && command != 'M' && command != 'm') break;
            if (!p.empty() && (command == 'M' || command == 'm'))
                throw InputError("The path has more than one part; the outline must be a single line.");
        } else if (command == 0) {
            break;
        } else if (command == 'M' || command == 'm') {
            command = command == 'M' ? 'L' : 'l'; // further pairs are lines
        }
        const bool relative = std::islower(static_cast<unsigned char>(command)) != 0;
        const double bx = relative ? now.x : 0, by = relative ? now.y : 0;
        const char kind = static_cast<char>(std::toupper(static_cast<unsigned char>(command)));
        const auto read_point = [&] {
            const double x = in.number(), y = in.number();
            return OutlinePoint{bx + x, by + y, 0};
        };
        const OutlinePoint from = now;
        switch (kind) {
        case 'M':
        case 'L': {
            const OutlinePoint q = read_point();
            to(q.x, q.y);
            break;
        }
        case 'H':
            to(bx + in.number(), now.y);
            break;
        case 'V':
            to(now.x, by + in.number());
            break;
        case 'C':
        case 'S': {
            const OutlinePoint c1 = kind == 'C' ? read_point()
                                    : last == 'C' || last == 'S'
                                        ? OutlinePoint{2 * from.x - control.x, 2 * from.y - control.y, 0}
                                        : from;
            const OutlinePoint c2 = read_point(), end = read_point();
            flatten_curve(p, [&](double t) {
                const double a = (1 - t) * (1 - t) * (1 - t), b = 3 * t * (1 - t) * (1 - t),
                             c = 3 * t * t * (1 - t), e = t * t * t;
                return OutlinePoint{a * from.x + b * c1.x + c * c2.x + e * end.x,
                                    a * from.y + b * c1.y + c * c2.y + e * end.y, 0};
            });
            control = c2;
            now = end;
            break;
        }
        case 'Q':
        case 'T': {
            const OutlinePoint c = kind == 'Q' ? read_point()
                                   : last == 'Q' || last == 'T'
                                       ? OutlinePoint{2 * from.x - control.x, 2 * from.y - control.y, 0}
                                       : from;
            const OutlinePoint end = read_point();
            flatten_curve(p, [&](double t) {
                return OutlinePoint{(1 - t) * (1 - t) * from.x + 2 * t * (1 - t) * c.x + t * t * end.x,
                                    (1 - t) * (1 - t) * from.y + 2 * t * (1 - t) * c.y + t * t * end.y, 0};
            });
            control = c;
            now = end;
            break;
        }
        case 'A': {
            const double rx = std::abs(in.number()), ry = std::abs(in.number());
            (void)in.number();
            const bool large = in.flag(), sweep = in.flag();
            const OutlinePoint end = read_point();
            if (std::abs(rx - ry) > 1e-6 * std::max(rx, ry))
                throw InputError("The path has an elliptical arc; only circular ones can be used.");
            const double chord = distance(from, end), radius = std::max(rx, chord / 2);
            if (large && chord < 2 * radius * (1 - 1e-9))
                throw InputError("The path has an arc of more than half a turn, which overhangs.");
            const double bow = radius - std::sqrt(std::max(0.0, radius * radius - chord * chord / 4));
            // sweep 1 turns clockwise on the screen (y down): to the left of the way once y points up
            p.back().bow = sweep ? bow : -bow;
            to(end.x, end.y);
            break;
        }
        case 'Z':
            if (!may_close)
                throw InputError(
                    "The outline is closed; it must be open, from one crest across the groove to the next.");
            if (distance(now, p.front()) > 0) to(p.front().x, p.front().y);
            command = 0;
            break;
        default:
            throw InputError(std::string("The SVG path has the command '") + command +
                             "', which is not known.");
        }
        last = kind;
        if (p.size() > most)
            throw InputError("The SVG path has more than " + std::to_string(most) +
                             " pieces; simplify it, with arcs or curves in place of short lines.");
    }
    if (p.size() < 2) throw InputError("The SVG path is empty or does not begin with M.");
    for (OutlinePoint& q : p)
        q.y = -q.y;
    return p;
}
} // namespace

std::vector<OutlinePoint> outline_from_svg(std::string_view text) {
    return path_from_svg(text, false);
}
std::vector<OutlinePoint> closed_outline_from_svg(std::string_view text) {
    return path_from_svg(text, true);
}

namespace {
std::vector<OutlinePoint> points_of_table(std::string_view text, std::size_t most) {
    std::vector<OutlinePoint> p;
    std::istringstream lines{with_plain_line_ends(text)};
    std::string line;
    for (int number = 1; std::getline(lines, line); ++number) {
        if (const auto hash = line.find('#'); hash != std::string::npos) line.resize(hash);
        for (char& c : line)
            if (c == ',' || c == ';' || c == '\t') c = ' ';
        std::istringstream words(line);
        std::string word;
        std::vector<double> v;
        bool bad = false;
        while (words >> word) {
            double x = 0;
            const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), x);
            if (error != std::errc() || end != word.data() + word.size() || !std::isfinite(x)) bad = true;
            v.push_back(x);
        }
        if (v.empty()) continue;
        const auto first = line.find_first_not_of(" \"");
        if (bad && p.empty() && first != std::string::npos &&
            std::isalpha(static_cast<unsigned char>(line[first])) && !line.substr(first).starts_with("nan") &&
            !line.substr(first).starts_with("inf"))
            continue; // a heading
        if (bad || v.size() < 2 || v.size() > 3)
            throw InputError(
                "Line " + std::to_string(number) +
                " is not understood; each line holds z and r, and the bow of an arc if there is one.");
        p.push_back({v[0], v[1], v.size() > 2 ? v[2] : 0});
        if (p.size() > most)
            throw InputError("The table has more than " + std::to_string(most) +
                             " points; leave out points that lie close together.");
    }
    if (p.size() < 3 && !(p.size() == 2 && p.front().bow != 0))
        throw InputError("An outline has at least three points, one on each line: z, r.");
    return p;
}
} // namespace

std::vector<OutlinePoint> outline_from_csv(std::string_view text) {
    return points_of_table(text, most_pieces_in_drawing);
}
std::vector<OutlinePoint> long_outline_from_csv(std::string_view text) {
    return points_of_table(text, most_pieces_compared);
}

namespace {

// One groove from crest to crest about its middle, in the drawing's units; level is what lies within a thousandth of
// `pitch`, its width if none is said.
std::vector<OwnPoint> groove_of_outline(std::vector<OutlinePoint> p, std::optional<double> pitch) {
    if (p.size() < 2) throw InputError("An outline has at least three points.");
    if (p.front().x > p.back().x) { // drawn from right to left
        std::reverse(p.begin(), p.end());
        for (std::size_t i = 0; i + 1 < p.size(); ++i)
            p[i].bow = -p[i + 1].bow;
        p.back().bow = 0;
    }
    const double width = p.back().x - p.front().x;
    const double unit = pitch.value_or(width);
    if (!(unit > 0) || !std::isfinite(unit))
        throw InputError("The pitch of the outline must be more than zero.");
    // curves that came as many points
    p = with_arcs(p, chord_error * width);
    std::vector<bool> keep(p.size(), false);
    keep.front() = keep.back() = true;
    std::size_t from = 0;
    for (std::size_t i = 0; i < p.size(); ++i)
        if (p[i].bow != 0 || i + 1 == p.size() || (i > 0 && p[i - 1].bow != 0)) {
            keep[i] = true;
            thin_out(p, from, i, chord_error * width, keep);
            from = i;
        }
    std::vector<OutlinePoint> q;
    for (std::size_t i = 0; i < p.size(); ++i)
        if (keep[i]) q.push_back(p[i]);
    // level stretches at the ends are crest
    const double level = 1e-3 * unit, top = (q.front().y + q.back().y) / 2;
    if (std::abs(q.front().y - q.back().y) > level)
        throw InputError("The outline begins at height " + number_text(q.front().y, 4) + " and ends at " +
                         number_text(q.back().y, 4) + "; both ends must lie at the crest.");
    while (q.size() > 2 && q[0].bow == 0 && std::abs(q[1].y - top) < level)
        q.erase(q.begin());
    while (q.size() > 2 && q[q.size() - 2].bow == 0 && std::abs(q[q.size() - 2].y - top) < level)
        q.pop_back();
    if (q.size() > most_own_points)
        throw InputError("The outline has " + std::to_string(q.size()) + " points; at most 64 can be used.");
    std::vector<OwnPoint> out;
    out.reserve(q.size());
    const double middle = (q.front().x + q.back().x) / 2;
    for (const OutlinePoint& o : q)
        out.push_back({o.x - middle, o.y - top, o.bow});
    out.front().h = out.back().h = 0;
    out.back().bow = 0;
    return out;
}

std::string ending_of(const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    for (char& c : ending)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return ending;
}

std::vector<OutlinePoint> outline_of(const std::filesystem::path& path, const std::string& text) {
    const std::string ending = ending_of(path);
    if (ending == ".dxf") return outline_from_dxf(text);
    if (ending == ".svg") return outline_from_svg(text);
    if (ending == ".csv" || ending == ".txt") return outline_from_csv(text);
    throw InputError(in_quotes(ending) +
                     " is not an ending of an outline that can be read: .dxf, .svg, .csv or .json.");
}

} // namespace

OwnSection section_from_outline(std::vector<OutlinePoint> p, const std::string& name,
                                std::optional<double> pitch) {
    const double unit = pitch ? *pitch : p.empty() ? 1 : std::abs(p.back().x - p.front().x);
    OwnSection out{name, groove_of_outline(std::move(p), pitch)};
    for (OwnPoint& q : out.points)
        q = {q.z / unit, q.h / unit, q.bow / unit};
    // a groove that is a single arc gets a point in its middle, since a section has three at least
    if (out.points.size() == 2 && out.points[0].bow != 0) out = with_point_after(out, 0);
    require_usable(out);
    return out;
}

OwnSection import_section(const std::filesystem::path& path, std::string name, std::optional<double> pitch) {
    const std::string text = read_file(path, largest_drawing);
    if (name.empty()) {
        name = path.stem().string();
        for (char& c : name)
            if (!std::isalnum(static_cast<unsigned char>(c)) && c != '-') c = '_';
        name.resize(std::min<std::size_t>(name.size(), 40));
    }
    require_section_name(name);
    if (ending_of(path) == ".json") return section_from_text(text);
    return section_from_outline(outline_of(path, text), name, pitch);
}

std::vector<OwnPoint> import_groove(const std::filesystem::path& path) {
    std::vector<OwnPoint> out =
        groove_of_outline(outline_of(path, read_file(path, largest_drawing)), std::nullopt);
    const double from = out.front().z;
    for (OwnPoint& q : out)
        q.z -= from;
    require_groove(out);
    return out;
}

} // namespace whorl
