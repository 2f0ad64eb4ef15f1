#include "exchange/svg_path.hpp"

#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>
#include <cmath>

namespace whorl {
namespace {

constexpr int parts_of_a_curve = 64;

// Numbers and letters, with blanks and commas between or not.
class SvgNumbers {
public:
    explicit SvgNumbers(std::string_view text) : text_(text) {}
    bool done() {
        while (at_ < text_.size() &&
               (std::isspace(static_cast<unsigned char>(text_[at_])) || text_[at_] == ','))
            ++at_;
        return at_ >= text_.size();
    }
    std::optional<char> letter() {
        if (!done() && std::isalpha(static_cast<unsigned char>(text_[at_]))) return text_[at_++];
        return {};
    }
    std::string word() {
        std::string out;
        while (const auto c = letter())
            out += *c;
        return out;
    }
    bool take(char c) {
        if (done() || text_[at_] != c) return false;
        return ++at_, true;
    }
    double number() {
        (void)done();
        double v = 0;
        const char* begin = text_.data() + at_;
        if (at_ < text_.size() && *begin == '+') ++begin;
        const auto [end, error] = std::from_chars(begin, text_.data() + text_.size(), v);
        if (error != std::errc() || !std::isfinite(v))
            throw InputError("The SVG path is not understood at " + in_quotes(text_.substr(at_)) + ".", at_);
        at_ = static_cast<std::size_t>(end - text_.data());
        return v;
    }
    bool flag() {
        if (!done() && (text_[at_] == '0' || text_[at_] == '1')) return text_[at_++] == '1';
        throw InputError("A flag, 0 or 1, is missing in an arc of the SVG path.", at_);
    }

private:
    std::string_view text_;
    std::size_t at_ = 0;
};

class PathReader {
public:
    PathReader(std::string_view data, const SvgTransform& placed, std::size_t most, bool may_close)
        : in_(data), placed_(placed), most_(most), may_close_(may_close) {}

    std::vector<OutlinePoint> read() {
        char command = 0;
        while (!in_.done()) {
            if (const auto c = in_.letter()) {
                command = *c;
                const bool moves = command == 'M' || command == 'm';
                if (out_.empty() && !moves) break;
                if (!out_.empty() && moves)
                    throw InputError("The path has more than one part; the outline must be a single line.");
            } else if (command == 0) {
                break;
            } else if (command == 'M' || command == 'm') {
                command = command == 'M' ? 'L' : 'l'; // further pairs are lines
            }
            relative_ = std::islower(static_cast<unsigned char>(command)) != 0;
            const char kind = static_cast<char>(std::toupper(static_cast<unsigned char>(command)));
            piece(kind, command);
            last_ = kind;
            if (kind == 'Z') command = 0;
            if (out_.size() > most_)
                throw InputError("The SVG path has more than " + std::to_string(most_) +
                                 " pieces; simplify it, with arcs or curves in place of short lines.");
        }
        if (out_.size() < 2) throw InputError("The SVG path is empty or does not begin with M.");
        return std::move(out_);
    }

private:
    void piece(char kind, char command) {
        switch (kind) {
        case 'M':
        case 'L':
            return line_to(point());
        case 'H':
            return line_to({(relative_ ? now_.x : 0) + in_.number(), now_.y, 0});
        case 'V':
            return line_to({now_.x, (relative_ ? now_.y : 0) + in_.number(), 0});
        case 'C':
        case 'S': {
            const OutlinePoint c1 = kind == 'C' ? point() : control(last_ == 'C' || last_ == 'S');
            const OutlinePoint c2 = point();
            return cubic(c1, c2, point());
        }
        case 'Q':
        case 'T': {
            const OutlinePoint c = kind == 'Q' ? point() : control(last_ == 'Q' || last_ == 'T');
            return quadratic(c, point());
        }
        case 'A': {
            const double rx = std::abs(in_.number()), ry = std::abs(in_.number()),
                         turned = in_.number() * pi / 180;
            const bool large = in_.flag(), sweep = in_.flag();
            return arc(rx, ry, turned, large, sweep, point());
        }
        case 'Z':
            if (!may_close_)
                throw InputError(
                    "The outline is closed; it must be open, from one crest across the groove to the next.");
            if (distance(now_, first_) > 0) line_to(first_);
            return;
        default:
            throw InputError(std::string("The SVG path has the command '") + command +
                             "', which is not known.");
        }
    }

    OutlinePoint point() {
        const double x = in_.number(), y = in_.number();
        return relative_ ? OutlinePoint{now_.x + x, now_.y + y, 0} : OutlinePoint{x, y, 0};
    }
    // The control point before, seen from here on the other side.
    OutlinePoint control(bool there_is_one) const {
        return there_is_one ? OutlinePoint{2 * now_.x - control_.x, 2 * now_.y - control_.y, 0} : now_;
    }
    void line_to(const OutlinePoint& p) {
        if (out_.empty()) first_ = p;
        now_ = p;
        out_.push_back(placed_(p));
    }
    void cubic(const OutlinePoint& c1, const OutlinePoint& c2, const OutlinePoint& end) {
        const OutlinePoint from = now_;
        for (int i = 1; i <= parts_of_a_curve; ++i) {
            const double t = static_cast<double>(i) / parts_of_a_curve, u = 1 - t, a = u * u * u,
                         b = 3 * t * u * u, c = 3 * t * t * u, e = t * t * t;
            line_to({a * from.x + b * c1.x + c * c2.x + e * end.x,
                     a * from.y + b * c1.y + c * c2.y + e * end.y, 0});
        }
        control_ = c2;
        now_ = end;
    }
    void quadratic(const OutlinePoint& c, const OutlinePoint& end) {
        const OutlinePoint from = now_;
        for (int i = 1; i <= parts_of_a_curve; ++i) {
            const double t = static_cast<double>(i) / parts_of_a_curve, u = 1 - t;
            line_to({u * u * from.x + 2 * t * u * c.x + t * t * end.x,
                     u * u * from.y + 2 * t * u * c.y + t * t * end.y, 0});
        }
        control_ = c;
        now_ = end;
    }
    // SVG 2, B.2.4: the middle from both ends, on the circle that the ellipse becomes.
    void arc(double rx, double ry, double turned, bool large, bool sweep, const OutlinePoint& end) {
        if (rx == 0 || ry == 0) return line_to(end);
        const OutlinePoint from = now_;
        const double cosine = std::cos(turned), sine = std::sin(turned);
        const auto onto = [&](const OutlinePoint& p) { // the unit circle's plane
            return OutlinePoint{(cosine * p.x + sine * p.y) / rx, (cosine * p.y - sine * p.x) / ry, 0};
        };
        const OutlinePoint a = onto(from), b = onto(end);
        const double chord = std::hypot(b.x - a.x, b.y - a.y);
        if (chord == 0) return;
        const double grown = std::max(1.0, chord / 2); // radii too small are enlarged
        const double off =
            std::sqrt(std::max(0.0, grown * grown - chord * chord / 4)) * (large == sweep ? -1 : 1);
        const double mx = (a.x + b.x) / 2 - off * (b.y - a.y) / chord,
                     my = (a.y + b.y) / 2 + off * (b.x - a.x) / chord;
        const double begin = std::atan2(a.y - my, a.x - mx);
        double turn = std::atan2(b.y - my, b.x - mx) - begin;
        if (sweep && turn < 0) turn += 2 * pi;
        if (!sweep && turn > 0) turn -= 2 * pi;
        const bool circle = std::abs(rx - ry) <= 1e-6 * std::max(rx, ry) && placed_.keeps_circles();
        const int parts = !circle ? parts_of_a_curve : std::abs(turn) > pi + 1e-6 ? 2 : 1;
        const double bow = rx * grown * (1 - std::cos(turn / parts / 2)) * placed_.scale();
        for (int i = 1; i <= parts; ++i) {
            // sweep turns clockwise on the page: to the left of the way once y points up
            if (circle) out_.back().bow = sweep ? bow : -bow;
            const double t = begin + turn * i / parts, x = rx * (mx + grown * std::cos(t)),
                         y = ry * (my + grown * std::sin(t));
            line_to(i == parts ? end : OutlinePoint{cosine * x - sine * y, sine * x + cosine * y, 0});
        }
    }

    SvgNumbers in_;
    const SvgTransform& placed_;
    std::size_t most_;
    bool may_close_, relative_ = false;
    std::vector<OutlinePoint> out_;
    OutlinePoint now_, first_, control_;
    char last_ = 0;
};

SvgTransform named(const std::string& name, const std::vector<double>& n) {
    const auto at = [&](std::size_t i, double usual) { return i < n.size() ? n[i] : usual; };
    const double angle = at(0, 0) * pi / 180;
    if (name == "matrix" && n.size() == 6) return {n[0], n[1], n[2], n[3], n[4], n[5]};
    if (name == "translate" && !n.empty()) return {1, 0, 0, 1, n[0], at(1, 0)};
    if (name == "scale" && !n.empty()) return {n[0], 0, 0, at(1, n[0]), 0, 0};
    if (name == "skewX" && n.size() == 1) return {1, 0, std::tan(angle), 1, 0, 0};
    if (name == "skewY" && n.size() == 1) return {1, std::tan(angle), 0, 1, 0, 0};
    if (name == "rotate" && (n.size() == 1 || n.size() == 3)) {
        const double c = std::cos(angle), s = std::sin(angle), x = at(1, 0), y = at(2, 0);
        return {c, s, -s, c, x - c * x + s * y, y - s * x - c * y};
    }
    throw InputError("The SVG drawing has the transform '" + name + "' with " + std::to_string(n.size()) +
                     " numbers, which is not known.");
}

} // namespace

bool SvgTransform::keeps_circles() const {
    const double size = a * a + b * b;
    return std::abs(size - c * c - d * d) <= 1e-9 * size && std::abs(a * c + b * d) <= 1e-9 * size;
}

double SvgTransform::scale() const {
    return std::copysign(std::hypot(a, b), a * d - b * c);
}

SvgTransform operator*(const SvgTransform& o, const SvgTransform& i) {
    return {o.a * i.a + o.c * i.b, o.b * i.a + o.d * i.b,       o.a * i.c + o.c * i.d,
            o.b * i.c + o.d * i.d, o.a * i.e + o.c * i.f + o.e, o.b * i.e + o.d * i.f + o.f};
}

SvgTransform svg_transform(std::string_view text) {
    SvgTransform out;
    SvgNumbers in(text);
    while (!in.done()) {
        const std::string name = in.word();
        std::vector<double> numbers;
        if (name.empty() || !in.take('('))
            throw InputError("A transform of the SVG drawing is not understood.");
        while (!in.take(')'))
            numbers.push_back(in.number());
        out = out * named(name, numbers);
    }
    return out;
}

std::vector<OutlinePoint> outline_from_path(std::string_view data, const SvgTransform& placed,
                                            std::size_t most, bool may_close) {
    return PathReader(data, placed, most, may_close).read();
}

} // namespace whorl
