// The section view of a cam's lobe: the profile as it stands now under its follower, the base circle and the
// pitch curve, and the angle under which the follower is pushed. Dragged sideways, the cam turns.
#include "app/section_view.hpp"

#include "form/cam/contact_force.hpp"
#include "model/forms/lobe.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <QPainterPath>
#include <cmath>

namespace whorl::app {
namespace {

QString degrees(double angle) {
    return QString::fromStdString(number_text(angle * 180 / pi, 1)) + "°";
}

// Half of a mushroom's head as it is drawn, mm.
double mushroom_half(const CamSpec& s) {
    return std::min(0.9 * in_mm(s.size), 0.5 * in_mm(s.base_radius));
}

// How far the drawing reaches: the cam turning, and the follower at its highest.
struct Reach {
    double up, down, aside; // mm from the axis
};
Reach reach_of(const ResolvedCam& c) {
    const double largest = std::max(c.largest_radius, in_mm(c.spec.base_radius) + c.motion.highest);
    if (c.spec.disc) {
        const double disc = in_mm(*c.spec.disc) / 2;
        return {1.04 * disc, 1.04 * disc, 1.04 * disc};
    }
    const double roller = c.spec.follower == FollowerKind::roller ? roller_radius(c.spec) : 0;
    return {largest + roller + std::max(0.3 * largest, roller), largest + roller, largest + roller};
}

} // namespace

void SectionView::draw_lobe(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const ResolvedCam& c = *zone.lobe();
    const double theta = session_.roll();
    const Reach reach = reach_of(c);
    const double top = 30, bottom = height() - 8;
    const double k = std::max(
        1e-3, std::min((width() - 210.0) / (2 * reach.aside), (bottom - top) / (reach.up + reach.down)));
    teeth_.scale = k;
    teeth_.x0 = teeth_.y0 = 0;
    teeth_.centre = {width() / 2.0 - 8, top + reach.up * k};
    draw_title(p, "Section",
               "square to the shaft, cam at " +
                   degrees(std::fmod(std::fmod(theta, 2 * pi) + 2 * pi, 2 * pi)));
    if (c.outline.empty()) {
        run_word_ = rack_word_ = {};
        draw_hint(p, "This cam can't be made as it is; the checks line says why and what would work.");
        return lobe_texts(p, c, theta);
    }
    run_word_ = switch_word(p, width() - 14, session_.running() ? "stop" : "run", session_.running());
    rack_word_ = {};
    const double turn = (c.spec.clockwise ? -theta : theta) - c.spec.at, co = std::cos(turn),
                 si = std::sin(turn);
    const auto place = [&](double x, double y) { return on_teeth(x * co - y * si, x * si + y * co); };
    const auto closed = [&](const std::vector<LobeCurve>& curves) {
        QPolygonF edge;
        for (const LobeCurve& l : curves) {
            const double cl = std::cos(l.turned), sl = std::sin(l.turned);
            constexpr int parts = 24;
            for (int i = 0; i < parts; ++i) {
                const TransversePoint q =
                    point_at(l.curve, l.curve.from + (l.curve.to - l.curve.from) * i / parts);
                edge << place(q.x * cl - q.y * sl, q.x * sl + q.y * cl);
            }
        }
        return edge;
    };
    QPainterPath metal;
    metal.addPolygon(closed(c.outline));
    metal.closeSubpath();
    if (c.spec.disc) {
        metal.addPolygon(closed(c.outer_wall));
        metal.closeSubpath();
        const double disc = in_mm(*c.spec.disc) / 2 * k;
        metal.addEllipse(teeth_.centre, disc, disc);
    }
    fill_metal(p, metal);
    p.setPen(QPen(t.ink, 1.7));
    p.setBrush(Qt::NoBrush);
    p.drawPath(metal);
    const auto circle = [&](const char* key, double r, Qt::PenStyle style) {
        const bool lit = session_.hovered() == key;
        p.setPen(QPen(lit ? t.active : t.muted, lit ? 1.8 : 0.9, style));
        p.drawEllipse(teeth_.centre, r * k, r * k);
    };
    circle("base_radius", in_mm(c.spec.base_radius), Qt::DashDotLine);
    if (c.spec.follower == FollowerKind::roller) { // the path of its centre, seen from the cam
        QPolygonF pitch, steep;
        const double limit = usual_pressure_limit(c.spec.swings());
        const auto draw_steep = [&] { // where the follower is pushed aside more than it bears
            p.setPen(QPen(t.advice, 3));
            p.drawPolyline(steep);
            p.setPen(QPen(t.advice, 1.2));
            for (qsizetype i = 0; i < steep.size(); i += 4) {
                const QPointF out = (steep[i] - teeth_.centre) / QLineF(steep[i], teeth_.centre).length();
                p.drawLine(steep[i] - 5 * out, steep[i] + 5 * out);
            }
            steep.clear();
        };
        constexpr int steps = 180;
        for (int i = 0; i <= steps; ++i) {
            const double at = 2 * pi * i / steps;
            const FollowerPlace follower = follower_at(c.spec, c.motion, at);
            const TransversePoint f = follower.centre;
            const double back = (c.spec.clockwise ? at : -at) + c.spec.at, cb = std::cos(back),
                         sb = std::sin(back);
            pitch << place(f.x * cb - f.y * sb, f.x * sb + f.y * cb);
            if (std::abs(follower.pressure_angle) > limit)
                steep << pitch.last();
            else
                draw_steep();
        }
        draw_steep();
        p.setPen(QPen(t.active, 0.9, Qt::DashLine));
        p.drawPolyline(pitch);
    }
    // where its timing begins, as a mark on the lobe
    p.setPen(QPen(t.part, 1));
    const double r0 = in_mm(c.spec.base_radius), start = c.spec.at;
    p.drawLine(place(0.82 * r0 * std::cos(start), 0.82 * r0 * std::sin(start)),
               place(0.97 * r0 * std::cos(start), 0.97 * r0 * std::sin(start)));
    const FollowerPlace at = follower_at(c.spec, c.motion, theta);
    p.save();
    p.setClipRect(QRectF(0, 28, width(), height() - 28));
    draw_follower(p, c, at);
    draw_pressure(p, c, at);
    p.restore();
    lobe_texts(p, c, theta);
}

void SectionView::draw_follower(QPainter& p, const ResolvedCam& c, const FollowerPlace& at) {
    const Theme& t = theme();
    const double k = teeth_.scale;
    QColor tint = t.active;
    tint.setAlphaF(0.16f);
    const QPen edge(t.active, 1.5);
    const QPointF centre = on_teeth(at.centre.x, at.centre.y), touches = on_teeth(at.touches.x, at.touches.y);
    p.setPen(edge);
    p.setBrush(tint);
    const double stem = 7;
    if (c.spec.swings()) { // its arm to the pivot
        const double pivot = in_mm(*c.spec.centre) * (c.spec.clockwise ? 1 : -1);
        p.setPen(QPen(t.active, 3));
        p.drawLine(centre, on_teeth(0, pivot));
        p.setPen(edge);
        p.drawEllipse(on_teeth(0, pivot), 5, 5);
    } else if (c.spec.follower != FollowerKind::flat) {
        // down to the roller; to the back of a mushroom's head, whose centre lies high above it
        const double rho = in_mm(c.spec.size), half = mushroom_half(c.spec);
        const double clear = c.spec.follower == FollowerKind::roller ? rho / 2 * k
                             : c.spec.follower == FollowerKind::mushroom
                                 ? -std::sqrt(rho * rho - half * half) * k
                                 : 0;
        if (!c.spec.disc) // else the follower lies over the disc, and the roller reaches down into it
            p.drawRect(QRectF(centre.x() - stem / 2, -10, stem, std::max(0.0, centre.y() - clear + 10)));
    }
    switch (c.spec.follower) {
    case FollowerKind::roller:
        p.drawEllipse(centre, in_mm(c.spec.size) / 2 * k, in_mm(c.spec.size) / 2 * k);
        p.drawEllipse(centre, 2, 2);
        break;
    case FollowerKind::knife: {
        QPolygonF v;
        v << touches << touches + QPointF(-5, -16) << touches + QPointF(5, -16);
        p.drawPolygon(v);
        break;
    }
    case FollowerKind::flat: {
        const double half = std::max(c.face_reach * k + 8, 20.0);
        p.drawRect(QRectF(centre.x() - half, centre.y() - 6, 2 * half, 6));
        p.drawRect(QRectF(centre.x() - stem / 2, -10, stem, centre.y() + 4));
        break;
    }
    case FollowerKind::mushroom: {
        const double rho = in_mm(c.spec.size), half = mushroom_half(c.spec);
        QPainterPath face;
        for (int i = 0; i <= 24; ++i) {
            const double y = half * (i / 12.0 - 1), x = at.centre.x - std::sqrt(rho * rho - y * y);
            const QPointF q = on_teeth(x, at.centre.y + y);
            i == 0 ? face.moveTo(q) : face.lineTo(q);
        }
        face.closeSubpath();
        p.drawPath(face);
        break;
    }
    }
    p.setBrush(t.field);
    p.setPen(QPen(t.part, 1.4));
    p.drawEllipse(touches, 3.5, 3.5);
}

// The normal through the touching point, the follower's way, and the angle between them.
void SectionView::draw_pressure(QPainter& p, const ResolvedCam& c, const FollowerPlace& at) {
    if (c.spec.follower == FollowerKind::flat) return;
    const Theme& t = theme();
    const double length = 52 / teeth_.scale;
    const double normal = std::atan2(at.normal.y, at.normal.x),
                 way = normal - at.pressure_angle * (c.spec.clockwise ? -1 : 1);
    const auto ray = [&](double angle, double from) {
        p.drawLine(on_teeth(at.centre.x + from * std::cos(angle), at.centre.y + from * std::sin(angle)),
                   on_teeth(at.centre.x + length * std::cos(angle), at.centre.y + length * std::sin(angle)));
    };
    p.setPen(QPen(t.part, 1.2));
    ray(normal, -std::min(roller_radius(c.spec), length));
    p.setPen(QPen(t.part, 0.9, Qt::DashLine));
    ray(way, 0);
    p.setFont(text_font(11));
    // beside the follower, on the side to which it is pushed
    const QPointF text = on_teeth(at.centre.x, at.centre.y) + QPointF(normal < way - 1e-9 ? 58 : -58, -30);
    dimension_text(
        p, {std::clamp(text.x(), 30.0, width() - 40.0), std::clamp(text.y(), 42.0, height() - 20.0)},
        "φ " + degrees(at.pressure_angle),
        spot_of("max_pressure_angle", {}, "Pressure angle here: between the normal and the follower's way"));
}

// What the lobe is made from.
void SectionView::lobe_asked(QPainter& p, const ResolvedCam& c) {
    const CamSpec& s = c.spec;
    double y = 24;
    const auto left = [&](const char* key, std::optional<Field> field, const QString& text,
                          const QString& tip) {
        y += 24;
        dimension_text(p, {(number_width(p.font(), text) + 8) / 2 + 12, y}, text,
                       spot_of(key, field, field ? tip + " Click to type." : tip));
    };
    p.setFont(text_font(13, Weight::medium));
    const QString radius = "r " + shown(in_mm(s.base_radius));
    if (s.conjugate) {
        left("conjugate", field::conjugate, "followers " + shown(in_mm(*s.conjugate)) + " apart",
             "This lobe is the second of a conjugate pair; all else is said by the first.");
        return left("base_radius", {}, radius, "Base radius of the profile");
    }
    left("base_radius", field::base_radius, radius, "Base radius of the profile.");
    if (s.follower == FollowerKind::roller)
        left("roller", field::roller, "roller Ø " + shown(in_mm(s.size)), "The follower's roller.");
    else if (s.follower == FollowerKind::mushroom)
        left("face_radius", field::face_radius, "face r " + shown(in_mm(s.size)),
             "Radius of the mushroom's face.");
    else
        left("follower", field::follower, QString::fromUtf8(word(s.follower).data()) + " follower",
             "Roller, knife, flat or mushroom.");
    if (s.swings())
        left("swing", field::swing, "arm " + shown(in_mm(*s.arm)) + ", pivot " + shown(in_mm(*s.centre)),
             "Arm, and the pivot's distance from the axis.");
    else if (s.follower != FollowerKind::flat)
        left("offset", field::follower_offset, "offset " + shown(in_mm(s.offset)),
             "Of the follower's way from the axis.");
    if (s.disc) {
        left("disc", field::disc, "disc Ø " + shown(in_mm(*s.disc)),
             "Of the disc that the groove is sunk into.");
        left("groove_depth", field::groove_depth, shown(in_mm(s.groove_depth)) + " deep", "Of the groove.");
    }
    if (s.at != 0)
        left("lobe_angle", field::lobe_angle, "at " + degrees(s.at), "Where on its shaft the timing begins.");
}

// … on the left, what it does now on the right.
void SectionView::lobe_texts(QPainter& p, const ResolvedCam& c, double theta) {
    lobe_asked(p, c);
    if (c.motion.parts.empty()) return;
    p.setFont(text_font(11));
    const auto right = [&](double line, const char* key, const QString& text, const QString& tip) {
        const double w = number_width(p.font(), text) + 8;
        dimension_text(p, {width() - w / 2 - 10, height() - 18 - 22 * line}, text, spot_of(key, {}, tip));
    };
    right(0, "stroke",
          "lift " + shown(c.motion.at(theta)[0]) + " of " + shown(c.motion.highest - c.motion.lowest),
          "Of the follower at this angle, and its stroke");
    if (!c.outline.empty()) {
        const double here = follower_at(c.spec, c.motion, theta).curvature_radius;
        right(1, "least_radius_of_curvature",
              std::abs(here) > 1e5 ? QString("straight here")
                                   : (here < 0 ? "hollow r " : "convex r ") + shown(std::abs(here)),
              "Radius of the profile where it is touched");
        if (c.loads) {
            const double turn = theta - std::floor(theta / (2 * pi)) * 2 * pi,
                         force = contact_force(c, turn, c.motion.part_at(turn), c.spec.rpm);
            right(2, "largest_contact_force",
                  force < 0 && !c.spec.disc
                      ? QString("lifts off")
                      : "presses with " + QString::fromStdString(number_text(std::abs(force), 2)) + " N",
                  "Between the follower and the lobe at this angle and speed");
        }
    }
}

} // namespace whorl::app
