// Where a bent bar's centreline runs in space. Its straight lengths keep their direction, a bend turns it at the
// radius R towards D, by the angle s/R after the way s. What is said of the straightened bar by (x, y, z), z along
// it, is in space
//
//   P(x, y, z) = C(z) + x·X(z) + y·Y(z)
//
// with the frame (X, Y, T) that the bend turns as a whole about T × D, so that nothing twists.
#pragma once

#include <array>
#include <vector>

namespace whorl {

using Direction = std::array<double, 3>;

// Axes and origin, mm.
struct BarFrame {
    Direction x{1, 0, 0}, y{0, 1, 0}, t{0, 0, 1}, origin{0, 0, 0};
    Direction turned(const Direction& local) const; // a direction
    Direction placed(const Direction& local) const; // a point
};

struct BentPart {
    double from = 0, to = 0; // along the centreline, mm
    double radius = 0;       // 0: straight
    double towards = 0;      // rad: D = cos·X + sin·Y, of the frame at its begin
    BarFrame begin;
    bool straight() const { return radius == 0; }
};

class BentLine {
public:
    // In order; the first begins at 0 with the frame of the axes.
    void add_straight(double length);
    void add_bend(double radius, double angle, double roll); // rad; roll from the last bend's plane

    bool straight() const; // all of it
    const std::vector<BentPart>& parts() const { return parts_; }
    const BentPart& part_at(double z) const; // the earlier of two that meet there
    BarFrame frame_at(double z) const;
    double length() const { return parts_.empty() ? 0 : parts_.back().to; }

private:
    std::vector<BentPart> parts_;
    double towards_ = 0;
};

} // namespace whorl
