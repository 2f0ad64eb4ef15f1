// What a cam's lobe says in the sheet, and where its drawings are.
#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/forms/stretch_input.hpp"
#include "app/section_view.hpp"
#include <QPainterPath>
#include <cmath>

namespace whorl::app {

namespace {

// A lobe's profile, mm.
QPolygonF curves_of(const std::vector<LobeCurve>& curves) {
    QPolygonF out;
    constexpr int parts = 10;
    for (const LobeCurve& l : curves) {
        const double co = std::cos(l.turned), si = std::sin(l.turned);
        for (int i = 0; i < parts; ++i) {
            const TransversePoint q =
                point_at(l.curve, l.curve.from + (l.curve.to - l.curve.from) * i / parts);
            out << QPointF(q.x * co - q.y * si, q.x * si + q.y * co);
        }
    }
    return out;
}

QPolygonF with_track(const ResolvedZone& zone, double least_pitch_mm) {
    const double z0 = in_mm(zone.start), z1 = in_mm(zone.end());
    if (const ResolvedCam* c = zone.lobe(); c && c->spec.disc && !c->outline.empty()) {
        const TransversePoint touches = follower_at(c->spec, c->motion, 0).touches;
        const double in = touches.radius(), out = in + 2 * roller_radius(c->spec),
                     disc = in_mm(*c->spec.disc) / 2, floor = z0 + in_mm(c->spec.groove_depth);
        return {{{z0, in}, {floor, in}, {floor, out}, {z0, out}, {z0, disc}, {z1, disc}}};
    }
    return turned_outline(zone, least_pitch_mm);
}

// As it stands on its shaft.
QPolygonF lobe_from_side(const ResolvedZone& z) {
    if (z.lobe()->outline.empty() || z.lobe()->spec.disc) return {};
    const QRectF reach = curves_of(z.lobe()->outline).boundingRect();
    return QRectF(QPointF(in_mm(z.start), reach.left()), QPointF(in_mm(z.end()), reach.right()));
}

QPainterPath lobe_from_end(const ResolvedZone& z) {
    QPainterPath path;
    const ResolvedCam& cam = *z.lobe();
    if (cam.outline.empty()) return path;
    path.addPolygon(curves_of(cam.outline));
    path.closeSubpath();
    if (!cam.spec.disc) return path;
    const double disc = in_mm(*cam.spec.disc) / 2; // the groove between both its walls
    path.addEllipse(QPointF(0, 0), disc, disc);
    path.addPolygon(curves_of(cam.outer_wall));
    path.closeSubpath();
    return path;
}

} // namespace

const FormViews& views(const ResolvedLobe&) {
    static const FormViews table{
        .title = [](const ResolvedZone&,
                    std::size_t number) { return QString("Lobe on zone %1").arg(number); },
        .detail =
            [](const ResolvedZone& z, const Piece& piece) {
                const CamSpec& s = z.lobe()->spec;
                return QString("disc cam, %1 %2 follower, %3")
                    .arg(s.swings() ? "swinging" : "translating", QString::fromUtf8(word(s.follower).data()),
                         QString::fromStdString(piece.finish));
            },
        .asks = stretch_rows,
        .follows = [](SheetBuilder& b,
                      const ResolvedZone& z) { b.follow_all(z.lobe()->values, {"base_radius"}, {}); },
        .section = [](SectionView& view, QPainter& p, const ResolvedZone& z) { view.draw_lobe(p, z); },
        .developed = [](DevelopedView& view, QPainter& p, const ResolvedZone& z) { view.draw_motion(p, z); },
        .side = {.outline = turned_outline,
                 .cut = with_track,
                 .whole = lobe_from_side,
                 .from_end = lobe_from_end}};
    return table;
}

} // namespace whorl::app
