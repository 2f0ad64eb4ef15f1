// A groove in the axial section; unrolled it is drawn and dragged as a thread is.
#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/point_knobs.hpp"
#include "app/section_view.hpp"

#include "model/forms/groove.hpp"
#include "quantity/expression.hpp"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace whorl::app {
namespace {

// The points of one of one's own: position from the groove's first edge, and depth.
void point_knobs(SectionView& view, QPainter& p, const ResolvedGroove& g,
                 const std::function<QPointF(double, double)>& at, QPointF first, double k) {
    const std::vector<OwnPoint>& points = g.spec.points;
    const double from = points.front().z;
    CurvePoints c;
    c.count = static_cast<int>(points.size());
    const auto place = [&](const OwnPoint& q) { return at(q.z - from - g.width / 2, -q.h); };
    c.at = [&](int i) { return place(points[std::size_t(i)]); };
    c.between = [&](int i) { // on the arc, where there is one
        const OwnPoint &a = points[std::size_t(i)], &b = points[std::size_t(i) + 1];
        const double chord = std::hypot(b.z - a.z, b.h - a.h);
        return at((a.z + b.z) / 2 - from - g.width / 2 - a.bow * (b.h - a.h) / chord,
                  -(a.h + b.h) / 2 - a.bow * (b.z - a.z) / chord);
    };
    c.values = [&](int i) { return QPointF(points[std::size_t(i)].z, -points[std::size_t(i)].h); };
    c.read = [=](QPointF to) { return QPointF(from + (to.x() - first.x()) / k, (to.y() - first.y()) / k); };
    c.way = [](int right, int up) { return QPointF(right, -up); };
    c.fixed = [last = c.count - 1](int i, int part) {
        return (part == 1 && (i == 0 || i == last)) || (part == 0 && i == 0) || (part == 2 && i == last);
    };
    c.names[0] = "position";
    c.names[1] = "depth";
    c.names[2] = "arc";
    c.tips[0] = "Along the axis, from the groove's first edge";
    c.tips[1] = "Below the surface";
    c.tips[2] = "Height of the arc to the next point over its chord, into the metal; cleared it is straight";
    add_point_knobs(view, p, c);
}

// One groove between the lands beside it; of a long pitch as much land as the groove is wide.
void draw_profile(SectionView& view, QPainter& p, const ResolvedZone& zone) {
    const ResolvedGroove& g = *zone.groove();
    const Theme& t = theme();
    const bool bore = g.spec.side == Side::internal;
    view.draw_title(p, "Section", bore ? "in the axial plane, of the bore" : "in the axial plane");
    if (!g.section.sweepable()) return view.draw_hint(p, "This groove can't be cut; the checks say why.");
    const double pitch = in_mm(g.spec.pitch), beside = std::min(g.land(), 1.2 * std::max(g.width, g.depth));
    const double half = g.width / 2 + beside, body = std::max(0.8 * g.depth, 0.25 * g.width);
    const double left = 40, right = view.width() - 118.0, top = 88, bottom = view.height() - 44.0;
    const double k =
        view.steady_scale(std::min((right - left) / (2 * half), (bottom - top) / (g.depth + body)));
    const bool own = g.spec.shape == GrooveShape::own;
    const double middle = (left + right) / 2;
    const auto at = [&](double z, double down) { return QPointF(middle + z * k, top + down * k); };
    QPolygonF edge;
    edge << at(-half, 0);
    for (const GroovePoint& q : groove_polyline(g.section, 0.2 / k))
        edge << at(q.z, std::abs(q.r - g.section.crest_radius));
    edge << at(half, 0);
    QPainterPath metal;
    metal.addPolygon(edge);
    metal.lineTo(at(half, g.depth + body));
    metal.lineTo(at(-half, g.depth + body));
    metal.closeSubpath();
    fill_metal(p, metal);
    p.setPen(QPen(t.ink, 1.7));
    p.setBrush(Qt::NoBrush);
    p.drawPolyline(edge);
    p.setPen(QPen(t.active, 1, Qt::DashDotLine));
    p.drawLine(at(0, 0) - QPointF(0, 10), at(0, g.depth) + QPointF(0, 10));
    p.setFont(text_font(13, Weight::medium));
    // the width, over it
    const double over = top - 22;
    const bool narrow = g.width * k < 46;
    const QPointF near = at(-g.width / 2, 0), far = at(g.width / 2, 0);
    view.dimension(
        p, {near.x(), over}, {far.x(), over}, {near, far},
        {narrow ? at(g.width / 2, 0).x() + 30 : middle, over}, view.shown(g.width),
        own ? view.spot_of("groove_width", field::points, "Width of its points. Click to type them.")
        : g.spec.shape == GrooveShape::vee
            ? view.spot_of("groove_width", field::groove_angle,
                           "Width, which follows from angle and "
                           "depth. Click to type the angle.")
            : view.spot_of("groove_width", field::groove_width,
                           "Width along the axis. Click to type; formulas work."));
    // the depth, on the right
    const double x = at(half, 0).x() + 20;
    view.dimension(
        p, {x, at(0, 0).y()}, {x, at(0, g.depth).y()},
        {at(half, 0), at(std::max(0.0, g.bottom) / 2, g.depth)}, {x + 40, at(0, g.depth / 2).y()},
        "h " + view.shown(g.depth),
        own ? view.spot_of("groove_depth", field::points, "Depth of its points. Click to type them.")
            : view.spot_of("groove_depth", field::groove_depth,
                           "Depth. Click to type; the diameter across the grooves follows."));
    if (own) return point_knobs(view, p, g, at, at(-g.width / 2, 0), k);
    // surface and bottoms by their diameters, and the pitch
    p.setFont(text_font(11));
    const double base = view.height() - 18.0;
    view.dimension_text(
        p, {left + 46, base}, "Ø " + view.shown(in_mm(zone.diameter)),
        view.spot_of("diameter", field::diameter, "Of the surface. Click to type; formulas work."));
    view.dimension_text(p, {middle, base}, "across Ø " + view.shown(g.across),
                        view.spot_of("across_grooves", field::across_grooves,
                                     "Across the groove bottoms. Click to type; the depth follows."));
    view.dimension_text(
        p, {right - 10, base}, "p " + view.shown(pitch),
        view.spot_of("pitch", field::pitch, "Pitch along the axis. Click to type; formulas work."));
}

} // namespace

const FormViews& views(const ResolvedGrooving&) {
    static const FormViews table{
        .title = [](const ResolvedZone&,
                    std::size_t number) { return QString("Groove on zone %1").arg(number); },
        .detail =
            [](const ResolvedZone& z, const Piece& piece) {
                return QString::fromStdString(std::string(word(z.groove()->spec.hand)) + "-hand, " +
                                              piece.finish);
            },
        .asks = asks_nothing_more,
        .follows =
            [](SheetBuilder& b, const ResolvedZone& z) {
                b.follow_all(z.groove()->values, {}, {"across_grooves", "width_square"});
            },
        .section = draw_profile,
        .developed = [](DevelopedView& view, QPainter& p,
                        const ResolvedZone& z) { view.draw_unrolled(p, z); }};
    return table;
}

} // namespace whorl::app
