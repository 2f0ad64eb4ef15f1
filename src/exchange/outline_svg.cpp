#include "exchange/outline_files.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>

namespace whorl {
namespace {

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

} // namespace whorl
