#include "exchange/rack_compare.hpp"

#include "exchange/outline_fit.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace whorl {
namespace {

// Where the drawing lies: its length's direction, and a space's middle on the reference line, both from the
// centroid of the drawing.
struct Placement {
    double turned = 0, along = 0, height = 0;
};

// What is cheap to say of a rack's tooth: lands and flanks are straight.
class DrawnTeeth {
public:
    explicit DrawnTeeth(const ResolvedRack& r)
        : pitch_(r.pitch()), stretch_(1 / std::cos(in_rad(r.spec.helix_angle))), tip_(r.tip_height),
          root_(r.root_height) {
        const auto flank = std::find_if(r.half_outline.begin(), r.half_outline.end(), [](const auto& c) {
            return c.shape == CurveShape::line && c.x1 > c.x0 + 1e-9;
        });
        slope_ = (flank->y1 - flank->y0) / (flank->x1 - flank->x0) * stretch_;
        at_reference_ = flank->y0 * stretch_ - slope_ * flank->x0;
        square_ = 1 / std::hypot(1, slope_);
        root_land_ = 0.9 * r.half_outline.front().y1 * stretch_;
        tip_land_ = pitch_ / 2 - 0.9 * (pitch_ / 2 - r.half_outline.back().y0 * stretch_);
    }
    double pitch() const { return pitch_; }
    double stretch() const { return stretch_; }
    double depth() const { return tip_ - root_; }
    double middle() const { return (tip_ + root_) / 2; }
    double tip() const { return tip_; }
    // Length of flanks in the band that counts, for so much of the rack.
    double flank_length(double of_rack) const { return of_rack / pitch_ * 2 * 0.6 * depth() / square_; }
    bool on_flank(double height) const { return std::abs(height - middle()) < 0.3 * depth(); }
    double beside(double along) const { return std::remainder(along, pitch_); }
    // Square to the flank; to a tip's or a root's land for points over it. None in between.
    std::optional<double> off(double height, double along) const {
        const double from_middle = (height - middle()) / depth();
        const double aside = std::abs(beside(along));
        if (std::abs(from_middle) < 0.3) return (aside - at_reference_ - slope_ * height) * square_;
        if (aside > tip_land_ && from_middle > 0.3 && from_middle < 0.7) return height - tip_;
        if (aside < root_land_ && from_middle < -0.3 && from_middle > -0.7) return height - root_;
        return {};
    }

private:
    double pitch_, stretch_, tip_, root_, slope_ = 0, at_reference_ = 0, square_ = 1;
    double root_land_ = 0, tip_land_ = 0; // from the middle of a space
};

struct Seen {
    double along, height;
};

class Fitting {
public:
    Fitting(const DrawnTeeth& teeth, const std::vector<OutlineSample>& samples) : teeth_(teeth) {
        double length = 0;
        for (const OutlineSample& s : samples) {
            length += s.weight;
            x_ += s.weight * s.x;
            y_ += s.weight * s.y;
        }
        x_ /= length;
        y_ /= length;
        double xx = 0, xy = 0, yy = 0;
        for (const OutlineSample& s : samples) {
            const double dx = s.x - x_, dy = s.y - y_;
            all_.push_back({dx, dy});
            xx += s.weight * dx * dx;
            xy += s.weight * dx * dy;
            yy += s.weight * dy * dy;
        }
        longest_ = std::atan2(2 * xy, xx - yy) / 2;
        const std::size_t every = std::max<std::size_t>(1, all_.size() / 3000);
        for (std::size_t i = 0; i < all_.size(); i += every)
            some_.push_back(all_[i]);
    }

    double centre_x() const { return x_; }
    double centre_y() const { return y_; }

    // Tried around the drawing's longest direction and square to it, either way up; then closed in on.
    std::optional<Placement> best() const {
        Try best;
        for (int quarter = 0; quarter < 4; ++quarter)
            for (int i = -16; i <= 16; ++i)
                best = better(best, at_direction(longest_ + quarter * pi / 2 + i * in_rad(deg(0.25))));
        if (best.flanks < 8) return {};
        const double coarse = best.placement.turned;
        for (int i = -15; i <= 15; ++i)
            best = better(best, at_direction(coarse + i * in_rad(deg(0.02))));
        Placement p = best.placement;
        double reach[]{in_rad(deg(0.04)), teeth_.pitch() / 30, teeth_.depth() / 20};
        for (int round = 0; round < 24; ++round) {
            double Placement::*const member[]{&Placement::turned, &Placement::along, &Placement::height};
            for (int k = 0; k < 3; ++k) {
                const double now = p.*member[k];
                p.*member[k] = golden_minimum(now - reach[k], now + reach[k], 24, [&](double v) {
                    Placement q = p;
                    q.*member[k] = v;
                    return misfit(q);
                });
                reach[k] *= 0.75;
            }
        }
        return p;
    }

    // The outline as it is seen from there, between the first and the last flank.
    std::vector<Seen> between_flanks(const Placement& p) const {
        const std::vector<Seen> seen = from(p, all_);
        const auto [first, last] = flank_range(seen);
        std::vector<Seen> out;
        for (const Seen& s : seen)
            if (s.along > first - 1e-9 && s.along < last + 1e-9 &&
                std::abs(s.height - teeth_.middle()) < teeth_.depth())
                out.push_back(s);
        return out;
    }

private:
    struct Point {
        double x, y;
    };
    struct Try {
        Placement placement;
        double misfit = std::numeric_limits<double>::max();
        int flanks = 0;
    };

    static std::vector<Seen> from(const Placement& p, const std::vector<Point>& points) {
        const double co = std::cos(p.turned), si = std::sin(p.turned);
        std::vector<Seen> out;
        out.reserve(points.size());
        for (const Point& q : points)
            out.push_back({q.x * co + q.y * si - p.along, q.y * co - q.x * si - p.height});
        return out;
    }

    // Ends cut square are no flanks.
    std::pair<double, double> flank_range(const std::vector<Seen>& seen) const {
        double low = 1e300, high = -1e300;
        for (const Seen& s : seen) {
            low = std::min(low, s.along);
            high = std::max(high, s.along);
        }
        const double end = 0.03 * teeth_.pitch();
        double first = 1e300, last = -1e300;
        for (const Seen& s : seen)
            if (teeth_.on_flank(s.height) && s.along > low + end && s.along < high - end) {
                first = std::min(first, s.along);
                last = std::max(last, s.along);
            }
        return {first, last};
    }

    static Try better(const Try& a, const Try& b) {
        // a direction that sees hardly any flank has little to misfit
        if (b.flanks < 0.4 * a.flanks) return a;
        if (a.flanks < 0.4 * b.flanks) return b;
        return b.misfit < a.misfit ? b : a;
    }

    Try at_direction(double turned) const {
        Try out;
        out.placement.turned = turned;
        double top = -1e300;
        for (const Seen& s : from(out.placement, some_))
            top = std::max(top, s.height);
        out.placement.height = top - teeth_.tip();
        const std::vector<Seen> seen = from(out.placement, some_);
        const auto [first, last] = flank_range(seen);
        std::vector<Seen> flanks;
        for (const Seen& s : seen)
            if (teeth_.on_flank(s.height) && s.along >= first && s.along <= last) flanks.push_back(s);
        out.flanks = static_cast<int>(flanks.size());
        if (flanks.empty()) return out;
        for (int i = 0; i < 60; ++i) {
            const double shift = teeth_.pitch() * i / 60;
            double sum = 0;
            for (const Seen& s : flanks) {
                const double d = *teeth_.off(s.height, s.along - shift);
                sum += d * d;
            }
            if (sum / out.flanks < out.misfit) {
                out.misfit = sum / out.flanks;
                out.placement.along = shift;
            }
        }
        return out;
    }

    double misfit(const Placement& p) const {
        const std::vector<Seen> seen = from(p, some_);
        const auto [first, last] = flank_range(seen);
        double sum = 0;
        int count = 0;
        for (const Seen& s : seen) {
            if (s.along < first || s.along > last) continue;
            // lands say the height, so that a thicker or thinner tooth shows on its flanks
            if (const auto d = teeth_.off(s.height, s.along))
                sum += (teeth_.on_flank(s.height) ? 1 : 1000) * *d * *d, ++count;
        }
        return count > 0 ? sum / count : 1e300;
    }

    const DrawnTeeth& teeth_;
    double x_ = 0, y_ = 0, longest_ = 0;
    std::vector<Point> all_, some_; // from the centroid
};

} // namespace

RackComparison compare_outline(const ResolvedRack& rack, const std::vector<OutlinePiece>& pieces) {
    if (rack.half_outline.empty())
        throw InputError("This rack can't be made, so nothing can be compared with it.");
    if (pieces.size() < 8)
        throw InputError("The outline has only " + std::to_string(pieces.size()) +
                         " pieces; a rack's has more.");
    const DrawnTeeth teeth(rack);
    const double spacing = teeth.depth() / 20;
    const Fitting fitting(teeth, sampled(pieces, spacing));
    const auto placed = fitting.best();
    const auto seen = placed ? fitting.between_flanks(*placed) : std::vector<Seen>{};
    if (seen.size() < 16)
        throw InputError(
            "No teeth " + number_text(teeth.depth(), 3) + " mm deep and " + number_text(teeth.pitch(), 3) +
            " mm apart, as this rack has, are found in the outline; is it in mm, and of the rack's side?");
    RackComparison out;
    const double co = std::cos(placed->turned), si = std::sin(placed->turned);
    out.turned = std::remainder(placed->turned, 2 * pi);
    out.x = fitting.centre_x() + placed->along * co - placed->height * si;
    out.y = fitting.centre_y() + placed->along * si + placed->height * co;
    double squares = 0;
    const std::size_t step = std::max<std::size_t>(1, seen.size() / 6000);
    for (std::size_t i = 0; i < seen.size(); i += step) {
        const double beside = teeth.beside(seen[i].along);
        const RackDeviation d{seen[i].height, beside,
                              off_half_outline(rack.half_outline, teeth.stretch(), teeth.depth(),
                                               seen[i].height, std::abs(beside))};
        squares += d.off * d.off;
        if (std::abs(d.off) > std::abs(out.worst.off)) out.worst = d;
        out.points.push_back(d);
    }
    out.root_mean_square = std::sqrt(squares / static_cast<double>(out.points.size()));
    // as much flank as teeth of this pitch and depth have, and near theirs
    const auto [low, high] = std::minmax_element(
        seen.begin(), seen.end(), [](const Seen& a, const Seen& b) { return a.along < b.along; });
    const auto flanks =
        std::count_if(seen.begin(), seen.end(), [&](const Seen& s) { return teeth.on_flank(s.height); });
    const double part = static_cast<double>(flanks) * spacing / teeth.flank_length(high->along - low->along);
    if (!(part > 0.6 && part < 1.6) || out.root_mean_square > 0.12 * teeth.depth())
        throw InputError("Nothing in the outline looks like this rack's teeth, " +
                         number_text(teeth.depth(), 3) + " mm deep and " + number_text(teeth.pitch(), 3) +
                         " mm apart; is it in mm, and of the rack's side?");
    return out;
}

RackComparison compare_file(const ResolvedRack& rack, const std::filesystem::path& path) {
    const std::string ending = path.extension();
    if (ending != ".dxf" && ending != ".svg" && ending != ".csv" && ending != ".txt")
        throw InputError("A rack is compared with a .dxf, .svg or .csv outline of its side, not '" + ending +
                         "'.");
    return compare_outline(rack, outline_pieces(path));
}

} // namespace whorl
