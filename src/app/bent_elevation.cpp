#include "app/bent_elevation.hpp"

#include "app/elevation.hpp"
#include "app/forms/side.hpp"
#include "app/theme.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::app {
namespace {

// Where a bent bar's points lie seen square to its first bend's plane: along its begin, and towards the bend.
class BentSide {
public:
    explicit BentSide(const ResolvedPiece& piece) : way_(piece.centreline()) {
        for (const BentPart& b : way_.parts())
            if (!b.straight()) {
                const double c = std::cos(b.towards), s = std::sin(b.towards);
                for (std::size_t k = 0; k < 3; ++k)
                    across_[k] = c * b.begin.x[k] + s * b.begin.y[k];
                along_ = b.begin.t;
                break;
            }
    }
    // `off` (mm) to the left of the centreline.
    QPointF at(double z, double off) const {
        const BarFrame f = way_.frame_at(z);
        const QPointF c = seen(f.origin), t = seen(f.t);
        const double length = std::hypot(t.x(), t.y());
        return length < 1e-6 ? c : c + QPointF(-t.y(), t.x()) * off / length;
    }
    double length() const { return way_.length(); }

private:
    QPointF seen(const Direction& d) const {
        return {d[0] * along_[0] + d[1] * along_[1] + d[2] * along_[2],
                d[0] * across_[0] + d[1] * across_[1] + d[2] * across_[2]};
    }
    BentLine way_;
    Direction along_{0, 0, 1}, across_{1, 0, 0};
};

} // namespace

void draw_bent(QPainter& p, const ResolvedPiece& piece, const QRectF& room) {
    const Theme& t = theme();
    const BentSide side(piece);
    const auto places_of = [](const ResolvedZone& z) {
        std::vector<double> out;
        const int n = z.bend() ? std::max(4, static_cast<int>(z.bend()->angle * 12)) : 1;
        for (int i = 0; i <= n; ++i)
            out.push_back(in_mm(z.start) + in_mm(z.length) * i / n);
        return out;
    };
    QRectF bounds;
    for (const ResolvedZone& z : piece.zones) {
        if (z.in_bore()) continue;
        for (const double at : places_of(z))
            for (const double s : {-1.0, 1.0}) {
                const QPointF q = side.at(at, s * in_mm(z.largest_radius()));
                if (bounds.isNull())
                    bounds = QRectF(q, QSizeF(1e-6, 1e-6));
                else
                    bounds = bounds.united(QRectF(q, QSizeF(1e-6, 1e-6)));
            }
    }
    const double k = std::min(room.width() / std::max(1e-3, bounds.width()),
                              room.height() / std::max(1e-3, bounds.height()));
    const auto on_page = [&](QPointF q) {
        return QPointF(room.left() + (q.x() - bounds.left()) * k,
                       room.center().y() - (q.y() - bounds.center().y()) * k);
    };
    const auto line_at = [&](const ResolvedZone& z, double off) {
        QPolygonF line;
        for (const double at : places_of(z))
            line << on_page(side.at(at, off));
        return line;
    };
    for (const ResolvedZone& z : piece.zones) {
        if (z.in_bore()) continue;
        QPolygonF shape;
        if (z.bend()) {
            shape = line_at(z, in_mm(z.largest_radius()));
            const QPolygonF back = line_at(z, -in_mm(z.largest_radius()));
            for (auto it = back.rbegin(); it != back.rend(); ++it)
                shape << *it;
        } else {
            const QPolygonF upper = silhouette(z, least_drawn_pitch / k);
            for (const auto& q : upper)
                shape << on_page(side.at(q.x(), q.y()));
            for (auto it = upper.rbegin(); it != upper.rend(); ++it)
                shape << on_page(side.at(it->x(), -it->y()));
        }
        p.setPen(QPen(t.part, 1.2));
        p.setBrush(t.part_fill);
        p.drawPolygon(shape);
        p.setPen(QPen(t.part, 0.7));
        if (z.thread() && (z.simplified() || z.thread()->section.pitch < least_drawn_pitch / k) &&
            z.thread()->section.root_radius > 0)
            for (const double s : {-1.0, 1.0})
                p.drawPolyline(line_at(z, s * z.thread()->section.root_radius));
    }
    p.setPen(QPen(t.part, 0.8, Qt::DashLine)); // hidden edges
    for (const ResolvedZone& bore : piece.zones) {
        if (!bore.in_bore()) continue;
        for (const double s : {-1.0, 1.0}) {
            QPolygonF line;
            constexpr int steps = 40;
            for (int i = 0; i <= steps; ++i)
                line << on_page(side.at(in_mm(bore.start) + in_mm(bore.length) * i / steps,
                                        s * in_mm(bore.outer_radius())));
            p.drawPolyline(line);
        }
    }
    p.setPen(QPen(t.muted, 0.8, Qt::DashDotLine));
    QPolygonF middle;
    for (const ResolvedZone& z : piece.zones)
        if (!z.in_bore()) middle += line_at(z, 0);
    p.drawPolyline(middle);
}

} // namespace whorl::app
