// A drum cam: its track unrolled, with the roller where it stands now, and a cut along the axis through that
// place. Dragged sideways, the drum turns under its roller.
#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/forms/stretch_input.hpp"
#include "app/section_view.hpp"

#include "form/cam/track_walls.hpp"
#include "model/forms/drum.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <QPainterPath>
#include <cmath>

namespace whorl::app {
namespace {

QString degrees(double angle) {
    return QString::fromStdString(number_text(angle * 180 / pi, 1)) + "°";
}
// The walls of one side, each all along as if nothing crossed it, and where the one that passes the ray at an
// angle t of the outline stands there at a radius.
class WallsOnRay {
public:
    WallsOnRay(const ResolvedDrum& d, const TrackWalls& uncrossed, int side)
        : whole_(d.motion.whole), at_(d.spec.at) {
        for (const TrackPiece& p : uncrossed.pieces)
            if (p.side == side) walls_.push_back(p.wall);
    }
    double z(double t, double r) const {
        for (const DrumWall& w : walls_)
            for (const double turn : {-whole_, 0.0, whole_})
                if (const double at = t + at_ + turn;
                    at > w.along(w.from(), r).theta.c[0] - 1e-9 && at < w.along(w.to(), r).theta.c[0] + 1e-9)
                    return w.along(w.parameter(at, r), r).z.c[0];
        return 0;
    }

private:
    double whole_, at_;
    std::vector<DrumWall> walls_;
};

double in_turn(double angle) {
    return angle - std::floor(angle / full_turn) * full_turn;
}

const char* const unmade = "This track can't be made as it is; the checks line says why and what would work.";

} // namespace

void SectionView::draw_drum(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const ResolvedDrum& d = *zone.drum();
    const double theta = d.motion.wrapped(session_.roll());
    draw_title(p, "Section", "along the axis through the roller, at " + degrees(theta));
    run_word_ = switch_word(p, width() - 14, session_.running() ? "stop" : "run", session_.running());
    rack_word_ = {};
    const double left = 84, right = width() - 96, top = 96, bottom = height() - 40;
    const double reach = std::max(d.radius, d.other_radius),
                 shown_down = std::min(reach, 2.4 * std::abs(d.radius - d.other_radius) + 4);
    const double k = std::min((right - left) / d.length, (bottom - top) / shown_down);
    const double x0 = (left + right) / 2 - d.length * k / 2;
    teeth_.scale = k;
    const auto at = [&](double z, double r) { return QPointF(x0 + z * k, top + (reach - r) * k); };
    const bool made = d.trouble == DrumTrouble::none;
    const double outline = made ? middle_at(d, theta).around : 0; // of the roller, where the section lies
    std::vector<WallsOnRay> walls;                                // near, far
    QPainterPath metal;
    metal.addRect(QRectF(at(0, d.radius), at(d.length, reach - shown_down)));
    if (made) {
        ResolvedDrum uncrossed = d;
        uncrossed.crossings.clear();
        const TrackWalls all = walls_of(uncrossed);
        walls = {{d, all, 0}, {d, all, 1}};
        constexpr int steps = 12;
        for (int turn = 0; turn < d.turns(); ++turn) { // every turn of the track passes here
            QPolygonF across;
            for (int i = 0; i <= 2 * steps + 1; ++i) { // in along the near wall, out along the far one
                const int side = i <= steps ? 0 : 1, down = side == 0 ? i : 2 * steps + 1 - i;
                const double r = d.radius + (d.other_radius - d.radius) * down / steps;
                across << at(walls[static_cast<std::size_t>(side)].z(outline + turn * full_turn, r), r);
            }
            QPainterPath cut;
            cut.addPolygon(across);
            cut.closeSubpath();
            metal = d.is_rib() ? metal.united(cut) : metal.subtracted(cut);
        }
    }
    fill_metal(p, metal);
    p.setPen(QPen(t.ink, 1.7));
    p.setBrush(Qt::NoBrush);
    p.save(); // it goes on below
    p.setClipRect(QRectF(QPointF(0, 0), QPointF(width(), at(0, reach - shown_down).y() - 1)));
    p.drawPath(metal);
    p.restore();
    p.setFont(text_font(13, Weight::medium));
    const auto text = [&](QPointF centre, const char* key, Field field, const QString& words,
                          const QString& tip) { dimension_text(p, centre, words, spot_of(key, field, tip)); };
    if (!made) {
        p.setFont(text_font(11));
        p.setPen(t.muted);
        p.drawText(QRectF(20, 34, width() - 40.0, 40), Qt::AlignHCenter | Qt::TextWordWrap, unmade);
        p.setFont(text_font(13, Weight::medium));
    } else {
        const double middle = middle_at(d, theta).z;
        if (d.spec.track == TrackKind::groove) { // the roller on its pin
            QColor tint = t.active;
            tint.setAlphaF(0.16f);
            p.setBrush(tint);
            p.setPen(QPen(t.active, 1.5));
            const double clear = 0.06 * std::abs(d.radius - d.other_radius);
            p.drawRect(QRectF(at(middle - d.half_width, d.radius + 1.2 * in_mm(d.spec.depth) * 0.2),
                              at(middle + d.half_width, d.other_radius + clear)));
            p.drawRect(QRectF(QPointF(at(middle, 0).x() - 4, 40),
                              at(middle, d.radius + 0.24 * in_mm(d.spec.depth)) + QPointF(4, 0)));
        }
        if (d.is_line()) { // only where it passes
            p.setPen(QPen(t.active, 1.6));
            p.drawLine(at(middle, d.radius) - QPointF(0, 7), at(middle, d.radius) + QPointF(0, 7));
        }
        const double over = at(0, reach).y() - 30;
        if (!d.is_line()) {
            p.setPen(QPen(session_.hovered() == "track_width" ? t.active : t.ink, 0.8));
            const double a = walls[0].z(outline, d.radius), b = walls[1].z(outline, d.radius);
            for (const double z : {a, b})
                p.drawLine(at(z, d.radius) - QPointF(0, 3), QPointF(at(z, 0).x(), over - 4));
            const double beside = std::min(at(b, 0).x() + 64, width() - 60.0);
            p.drawLine(QPointF(at(a, 0).x() - 14, over), QPointF(beside, over));
            text({beside, over}, "track_width", field::track_width, shown(2 * d.half_width),
                 d.is_rib() ? "Thickness of the rib. Click to type."
                            : "Width of the groove: the roller's diameter. Click to type.");
        }
    }
    if (!d.is_line()) {
        const double x = x0 + d.length * k + 26, y = at(0, d.radius).y(), other = at(0, d.other_radius).y();
        dimension(p, {x, y}, {x, other}, {at(d.length, d.radius), {x - 22, other}}, {x + 32, (y + other) / 2},
                  shown(in_mm(d.spec.depth)),
                  spot_of("track_depth", field::track_depth,
                          d.is_rib() ? "Height of the rib. Click to type."
                                     : "Depth of the groove. Click to type."));
    }
    text({x0 - 42, at(0, d.radius).y() + 14}, "diameter", field::diameter, "Ø " + shown(2 * d.radius),
         "Of the drum. Click to type; the track stays π·d long.");
    const double under = height() - 22;
    dimension(p, {at(0, 0).x(), under}, {at(d.length, 0).x(), under},
              {at(0, reach - shown_down), at(d.length, reach - shown_down)}, {at(d.length / 2, 0).x(), under},
              shown(d.length), spot_of("length", field::length, "Length of the drum. Click to type."));
}

// Where the track runs steeper than its roller bears: the middle as a thick line with strokes across, and the
// largest pressure angle in words at its place.
void DevelopedView::draw_steep(QPainter& p, const ResolvedDrum& d, const std::function<double(double)>& x) {
    const double width = area().width(); // of a turn
    const Theme& t = theme();
    const double limit = usual_track_limit;
    if (d.max_pressure_angle <= limit) return;
    for (std::size_t i = 0; i < d.motion.parts.size(); ++i) {
        const MotionPart& part = d.motion.parts[i];
        QPolygonF line;
        const auto draw = [&] {
            for (int turn = 0; turn < d.turns(); ++turn, line.translate(-width, 0)) {
                p.setPen(QPen(t.advice, 3));
                p.drawPolyline(line);
                p.setPen(QPen(t.advice, 1.2));
                for (qsizetype k = 0; k < line.size(); k += 4)
                    p.drawLine(line[k] - QPointF(0, 6), line[k] + QPointF(0, 6));
            }
            line.clear();
        };
        constexpr int steps = 80;
        for (int k = 0; k <= steps; ++k) {
            const double theta = part.from + (part.to - part.from) * k / steps;
            const TrackPlace m = middle_at(d, theta, i);
            if (std::abs(m.pressure_angle) > limit)
                line << QPointF(x((d.spec.clockwise ? 1 : -1) * m.around), y_of(m.z));
            else
                draw();
        }
        draw();
    }
    p.setFont(text_font(11));
    const TrackPlace worst = middle_at(d, d.max_pressure_at);
    const QPointF at(x(in_turn((d.spec.clockwise ? 1 : -1) * worst.around)), y_of(worst.z));
    dimension_text(p, {std::clamp(at.x() + 54, area().left() + 50, area().right() - 50), at.y()},
                   "steep: φ " + degrees(d.max_pressure_angle),
                   spot_of("max_pressure_angle", {},
                           "Here the pressure angle is largest; above " + degrees(limit) +
                               " a roller is pushed aside more than along"));
}

// The flattest of a track's crossings, in words beside it.
void DevelopedView::draw_crossing(QPainter& p, const ResolvedDrum& d,
                                  const std::function<double(double)>& x) {
    const TrackCrossing* flattest = nullptr;
    for (const TrackCrossing& c : d.crossings)
        if (!flattest || c.angle < flattest->angle) flattest = &c;
    if (!flattest) return;
    const double around = (d.spec.clockwise ? 1 : -1) * middle_at(d, flattest->first).around;
    const QRectF a = area();
    dimension_text(p, {std::clamp(x(in_turn(around)), a.left() + 60, a.right() - 60), y_of(flattest->z) - 20},
                   "crosses at " + degrees(flattest->angle),
                   spot_of("crossing_angle", {},
                           "The flattest of " + QString::number(d.crossings.size()) +
                               (d.crossings.size() == 1 ? " crossing" : " crossings") +
                               (d.is_line() ? QString()
                                            : "; a follower longer than " + shown(d.crossing_opening()) +
                                                  " is guided over it by one wall at least")));
}

void DevelopedView::draw_track(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const ResolvedDrum& d = *zone.drum();
    draw_title(p, "Developed",
               QString("Ø %1 unrolled, %2 %3 around%4")
                   .arg(shown(2 * d.radius), shown(2 * d.radius * pi), QString(symbol(session_.unit())),
                        d.turns() > 1 ? QString(", %1 turns").arg(d.turns()) : QString()));
    draw_axes(p, d.length);
    const QRectF a = area();
    if (d.trouble != DrumTrouble::none) {
        p.setFont(text_font(11));
        p.setPen(t.muted);
        p.drawText(a.adjusted(20, 20, -20, -20), Qt::AlignCenter | Qt::TextWordWrap, unmade);
    } else {
        const double way = d.spec.clockwise ? 1 : -1;
        const auto x = [&](double theta) { return a.left() + theta / full_turn * a.width(); };
        p.save();
        p.setClipRect(a);
        p.fillRect(a, t.part_fill);
        // every turn lies over the first, and what reaches over an end comes in at the other
        const auto in_every_turn = [&](const std::function<void()>& draw) {
            for (int k = -1; k <= d.turns(); ++k) {
                p.save();
                p.translate(-k * a.width(), 0);
                draw();
                p.restore();
            }
        };
        // over the timing's angle: the developed surface, seen from the roller
        const auto on_drum = [&](const DrumWall& w, double at) {
            const WallJet j = w.along(at, d.radius);
            return QPointF(x(way * (j.theta.c[0] - d.spec.at)), y_of(j.z.c[0]));
        };
        QPainterPath track;
        track.setFillRule(Qt::WindingFill);
        QPolygonF middle;
        for (std::size_t i = 0; i < d.motion.parts.size(); ++i) {
            const MotionPart& part = d.motion.parts[i];
            const double from = way > 0 ? part.from : -part.to, to = way > 0 ? part.to : -part.from;
            const DrumWall walls[2]{{d, i, -1, from, to}, {d, i, 1, from, to}};
            const int steps = std::max(40, static_cast<int>((part.to - part.from) * 8));
            QPolygonF strip, far;
            for (int k = 0; k <= steps; ++k) {
                const double theta = part.from + (part.to - part.from) * k / steps;
                strip << on_drum(walls[0], way * theta);
                far << on_drum(walls[1], way * theta);
                const TrackPlace m = middle_at(d, theta, i);
                middle << QPointF(x(way * m.around), y_of(m.z));
            }
            for (auto it = far.rbegin(); it != far.rend(); ++it)
                strip << *it;
            track.addPolygon(strip);
        }
        const double rx = d.half_width / (full_turn * d.radius) * a.width(),
                     ry = d.half_width / d.length * a.height();
        if (d.keeps_corners())
            for (const double corner : d.corners)
                track.addEllipse(QPointF(x(way * middle_at(d, corner).around), y_of(middle_at(d, corner).z)),
                                 rx, ry);
        std::vector<QPolygonF> edges;
        for (const TrackPiece& piece : walls_of(d).pieces) {
            constexpr int steps = 24;
            QPolygonF& line = edges.emplace_back();
            for (int k = 0; k <= steps; ++k)
                line << on_drum(piece.wall,
                                piece.wall.from() + (piece.wall.to() - piece.wall.from()) * k / steps);
        }
        in_every_turn([&] { p.fillPath(track, d.is_rib() ? t.active_tint : t.field); });
        in_every_turn([&] {
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(t.ink, 1.5));
            for (const QPolygonF& line : edges)
                p.drawPolyline(line);
            p.setPen(QPen(t.active, 1, Qt::DashDotLine));
            p.drawPolyline(middle);
        });
        draw_steep(p, d, x);
        const double now = d.motion.wrapped(session_.roll());
        const TrackPlace place = middle_at(d, now);
        const double z = place.z, now_x = x(in_turn(way * place.around));
        QColor tint = t.active;
        tint.setAlphaF(0.2f);
        p.setBrush(tint);
        p.setPen(QPen(t.active, 1.5));
        for (const double turn : {-a.width(), 0.0, a.width()})
            p.drawEllipse(QPointF(now_x + turn, y_of(z)), rx, ry);
        p.setPen(QPen(t.part, 1, Qt::DashDotLine));
        const double ray = x(in_turn(now));
        p.drawLine(QPointF(ray, a.top()), QPointF(ray, a.bottom()));
        p.restore();
        p.setFont(text_font(11));
        dimension_text(
            p, {std::clamp(ray + 40, a.left() + 40, a.right() - 40), a.bottom() - 14},
            "φ " + degrees(std::abs(place.pressure_angle)),
            spot_of(
                "max_pressure_angle", {},
                "Pressure angle here, on the drum's Ø: between the contact's normal and the follower's way"));
        const Motion asked = motion_of(d.spec.timing); // before its corners were rounded
        for (const double corner : d.corners) {
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(t.advice, 1.4));
            const QPointF c(x(in_turn(corner)), y_of(d.zero + asked.at(corner)[0]));
            p.drawRect(QRectF(c - QPointF(4, 4), QSizeF(8, 8)));
        }
        const auto joint = [&](double angle,
                               double lift) { // a corner where it was asked, not where it is rounded
            if (!d.spec.arm) return QPointF(x(in_turn(angle)), y_of(d.zero + lift));
            const TrackPlace m = middle_at(d, angle);
            return QPointF(x(in_turn(way * m.around)), y_of(m.z));
        };
        draw_joints(p, joint, a.width() / full_turn, a.height() / d.length);
        draw_stretches(*this, p, asked, a.top() + 12,
                       [&](double theta) { return a.left() + theta / d.motion.whole * a.width(); });
        draw_crossing(p, d, x);
    }
    p.setPen(QPen(t.hairline, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(a);
}

namespace {

QPolygonF with_track(const ResolvedZone& zone, double least_pitch_mm) {
    const double z0 = in_mm(zone.start), z1 = in_mm(zone.end());
    if (const ResolvedDrum* d = zone.drum(); d && d->trouble == DrumTrouble::none && !d->is_line()) {
        // where every turn passes at this angle; those that meet are one
        std::vector<double> middles;
        middles.reserve(static_cast<std::size_t>(d->turns()));
        for (int k = 0; k < d->turns(); ++k)
            middles.push_back(z0 + middle_at(*d, k * full_turn).z);
        std::sort(middles.begin(), middles.end());
        QPolygonF out{{z0, d->radius}};
        for (const double middle : middles) {
            const double low = middle - d->half_width, high = middle + d->half_width;
            if (out.size() > 1 && out.back().x() > low)
                out.resize(out.size() - 2);
            else
                out << QPointF{low, d->radius} << QPointF{low, d->other_radius};
            out << QPointF{high, d->other_radius} << QPointF{high, d->radius};
        }
        return out << QPointF{z1, d->radius};
    }
    return turned_outline(zone, least_pitch_mm);
}

// Both edges of a drum cam's track where they can be seen, as the drum is turned about its axis.
void draw_track(QPainter& p, const ResolvedZone& zone, const SidePlace& place) {
    const ResolvedDrum& d = *zone.drum();
    const double z0 = in_mm(zone.start);
    if (d.trouble != DrumTrouble::none) return;
    for (const TrackPiece& piece : walls_of(d).pieces) {
        const DrumWall& w = piece.wall;
        QPolygonF line;
        const auto flush = [&] {
            p.drawPolyline(line);
            line.clear();
        };
        for (int i = 0; i <= 12; ++i) {
            const WallJet at = w.along(w.from() + (w.to() - w.from()) * i / 12, d.radius);
            if (std::cos(at.theta.c[0]) < 0)
                flush();
            else
                line << place.at(z0 + at.z.c[0], d.radius * std::sin(at.theta.c[0]));
        }
        flush();
    }
}

} // namespace

const FormViews& views(const ResolvedTrack&) {
    static const FormViews table{
        .title = [](const ResolvedZone&,
                    std::size_t number) { return QString("Track on zone %1").arg(number); },
        .detail =
            [](const ResolvedZone& z, const Piece& piece) {
                return QString("drum cam with a %1, %2")
                    .arg(QString::fromUtf8(word(z.drum()->spec.track).data()),
                         QString::fromStdString(piece.finish));
            },
        .asks = stretch_rows,
        .follows = [](SheetBuilder& b,
                      const ResolvedZone& z) { b.follow_all(z.drum()->values, {"drum_diameter"}, {}); },
        .section = [](SectionView& view, QPainter& p, const ResolvedZone& z) { view.draw_drum(p, z); },
        .developed = [](DevelopedView& view, QPainter& p, const ResolvedZone& z) { view.draw_track(p, z); },
        .side = {.outline = turned_outline, .cut = with_track, .marks = draw_track}};
    return table;
}

} // namespace whorl::app
