#include "form/bend/bent_line.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

Direction sum(const Direction& a, double k, const Direction& b) {
    return {a[0] + k * b[0], a[1] + k * b[1], a[2] + k * b[2]};
}

// A part's frame after the way `s` along it.
BarFrame after(const BentPart& p, double s) {
    BarFrame f = p.begin;
    if (p.straight()) {
        f.origin = sum(f.origin, s, f.t);
        return f;
    }
    // D and T turn into each other, T × D stays
    const double phi = s / p.radius, co = std::cos(phi), si = std::sin(phi), c = std::cos(p.towards),
                 d = std::sin(p.towards);
    const BarFrame& b = p.begin;
    const Direction across = sum(sum({}, c, b.x), d, b.y), axis = sum(sum({}, -d, b.x), c, b.y); // D, T × D
    const Direction now = sum(sum({}, co, across), -si, b.t);                                    // D
    f.t = sum(sum({}, co, b.t), si, across);
    f.x = sum(sum({}, c, now), -d, axis);
    f.y = sum(sum({}, d, now), c, axis);
    f.origin = sum(sum(b.origin, p.radius, across), -p.radius, now);
    return f;
}

} // namespace

Direction BarFrame::turned(const Direction& l) const {
    return sum(sum(sum({}, l[0], x), l[1], y), l[2], t);
}
Direction BarFrame::placed(const Direction& l) const {
    return sum(origin, 1, turned(l));
}

void BentLine::add_straight(double length) {
    BentPart p;
    if (!parts_.empty()) {
        p.from = parts_.back().to;
        p.begin = frame_at(p.from);
    }
    p.to = p.from + length;
    if (!parts_.empty() && parts_.back().straight()) // goes on
        parts_.back().to = p.to;
    else
        parts_.push_back(p);
}

void BentLine::add_bend(double radius, double angle, double roll) {
    BentPart p;
    if (!parts_.empty()) {
        p.from = parts_.back().to;
        p.begin = frame_at(p.from);
    }
    p.to = p.from + radius * angle;
    p.radius = radius;
    p.towards = towards_ += roll;
    parts_.push_back(p);
}

bool BentLine::straight() const {
    return std::all_of(parts_.begin(), parts_.end(), [](const BentPart& p) { return p.straight(); });
}

const BentPart& BentLine::part_at(double z) const {
    const auto it = std::find_if(parts_.begin(), parts_.end(), [&](const BentPart& p) { return z <= p.to; });
    return it == parts_.end() ? parts_.back() : *it;
}

BarFrame BentLine::frame_at(double z) const {
    if (parts_.empty()) return {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0, 0, z}};
    const BentPart& p = part_at(z);
    return after(p, z - p.from);
}

} // namespace whorl
