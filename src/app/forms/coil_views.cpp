// A spring in the section view, cut along its axis, and unrolled in the developed view.
#include "app/forms/coil_side.hpp"
#include "app/forms/form_views.hpp"
#include "app/forms/spring_charts.hpp"
#include "app/section_view.hpp"

#include "exchange/coil_section.hpp"
#include "model/forms/coil.hpp"
#include "model/pair_model.hpp"
#include "pair/spring_fit.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace whorl::app {

namespace {
QString text(double v, int decimals) {
    return QString::fromStdString(number_text(v, decimals));
}
} // namespace

namespace {

// Turns in the corner, and how the wire goes on over its ends.
void corner_texts(SectionView& view, QPainter& p, const ResolvedCoil& c) {
    const auto corner = [&](double y, const char* key, Field field, const QString& words,
                            const QString& tip) {
        p.setFont(text_font(13, Weight::medium));
        const double w = QFontMetricsF(p.font()).horizontalAdvance(words);
        view.dimension_text(p, {18 + w / 2, y}, words, view.spot_of(key, field, tip));
    };
    corner(view.height() - 34.0, "active_coils", field::active_coils, "n " + text(c.active, 4),
           "Active turns. Click to type.");
    if (!c.has_ends()) {
        corner(view.height() - 14.0, "total_coils", field::total_coils, "nt " + text(c.total, 4),
               "All turns, the dead ones with them. Click to type.");
        return;
    }
    for (const bool far : {false, true}) {
        const WireEnd& e = far ? c.spec.far : c.spec.near;
        const QString words = QString::fromStdString(write_wire_end(e, view.session().unit()));
        const double w = number_width(p.font(), words) + 8;
        view.dimension_text(
            p, {far ? view.width() - w / 2 - 12 : w / 2 + 12, 46}, words,
            view.spot_of(far ? "far_hook" : "near_hook", far ? field::far_wire : field::near_wire,
                         "How the wire goes on here. Click to type: full, half 8, eye 5, extended 30, leg 30 "
                         "axial, plain."));
    }
}

// The pitch asked, or as it is in the state it is made in.
QString pitch_text(const Canvas& view, const ResolvedCoil& c) {
    if (c.made_at) return "p " + view.shown(c.line.pitch(pi * c.line.shape().turns));
    if (c.of_one_pitch()) return "p " + view.shown(c.pitch);
    return "p " + view.shown(c.smallest_pitch) + "…" + view.shown(c.largest_pitch);
}

void draw_section(SectionView& view, QPainter& p, const ResolvedZone& zone) {
    const ResolvedCoil& c = *zone.coil();
    const Theme& t = theme();
    const CoilSide side = coil_side(c);
    const QRectF extent = bounds(side); // z, x
    const double left = 34, right = view.width() - 96.0, top = 72, bottom = view.height() - 52.0,
                 z0 = c.coils_from(), z1 = c.coils_to();
    const double k =
        std::min((right - left) / c.overall, (bottom - top) / std::max(c.outside(), extent.height()));
    const double x0 = left + ((right - left) - c.overall * k) / 2,
                 axis = (top + bottom) / 2 + (c.has_ends() ? extent.center().y() * k : 0);
    const auto at = [&](double z, double x) { return QPointF(x0 + z * k, axis - x * k); };
    const double scale = k / (96 / 25.4);
    view.draw_title(
        p, "Section",
        QString("axial, %1, %2")
            .arg(scale >= 1 ? text(scale, scale < 10 ? 1 : 0) + " : 1" : "1 : " + text(1 / scale, 2),
                 c.spec.hand == Hand::left ? "left-hand" : "right-hand"));
    p.setPen(QPen(t.active, 1, Qt::DashDotLine));
    p.drawLine(at(0, 0) - QPointF(14, 0), at(c.overall, 0) + QPointF(14, 0));
    if (c.has_ends()) draw_wire_ends(p, side, QTransform(k, 0, 0, -k, x0, axis));
    p.save();
    const double clip_from = c.ground(false) ? at(0, 0).x() : -1e4,
                 clip_to = c.ground(true) ? at(c.length, 0).x() : 1e4;
    p.setClipRect(QRectF(clip_from, top - 20, clip_to - clip_from, bottom - top + 40), Qt::IntersectClip);
    const auto sections = wire_sections(c);
    for (const WireSection& s : sections) {
        QPainterPath wire;
        if (s.round)
            wire.addEllipse(at(s.z, s.x), s.along * k, s.across * k);
        else
            wire.addRect(QRectF(at(s.z - s.along, s.x + s.across), at(s.z + s.along, s.x - s.across)));
        fill_metal(p, wire);
        p.setPen(QPen(t.ink, 1.6));
        p.setBrush(Qt::NoBrush);
        p.drawPath(wire);
    }
    p.restore();
    p.setPen(QPen(t.ink, 1.7));
    for (const bool far : {false, true})
        if (c.ground(far)) {
            const double z = far ? c.length : 0;
            p.drawLine(at(z, c.outside() / 2), at(z, -c.outside() / 2));
        }
    p.setFont(text_font(13, Weight::medium));
    // the free length under it, of others the body
    const double under = axis + c.outside() / 2 * k + 24;
    const bool extension = c.spec.kind == SpringKind::extension;
    view.dimension(
        p, {at(z0, 0).x(), under}, {at(z1, 0).x(), under},
        {at(z0, -c.outside() / 2), at(z1, -c.outside() / 2)}, {at((z0 + z1) / 2, 0).x(), under},
        c.has_ends() ? "LK " + view.shown(c.body_length) : (c.made_at ? "L " : "L0 ") + view.shown(c.length),
        c.made_at && !c.has_ends()
            ? view.spot_of("made_length", field::made_at,
                           "The length it is made at. Click to type: 32, 40N; clear it for the free one.")
        : extension ? view.spot_of("body_length", {}, "Of the body, wound tight: it follows from the turns.")
        : c.has_ends()
            ? view.spot_of("body_length", field::length, "Of the body. Click to type; the pitch follows.")
        : c.any_ground()
            ? view.spot_of("free_length", field::length,
                           "Free length over the ground faces. Click to type; the pitch follows.")
            : view.spot_of("free_length", field::length, "Free length. Click to type; the pitch follows."));
    // the diameter at the far end, as it is asked
    const auto measured = c.spec.measured;
    const double far_mean = 2 * c.line.radius(c.line.coil_end());
    const double d = measured == CoilDiameter::mean      ? far_mean
                     : measured == CoilDiameter::outside ? far_mean + c.wire
                                                         : far_mean - c.wire;
    const double beside = at(c.overall, 0).x() + 34;
    view.dimension(
        p, {beside, axis - d / 2 * k}, {beside, axis + d / 2 * k},
        {at(z1 - c.axial / 2, d / 2), at(z1 - c.axial / 2, -d / 2)}, {beside + 6, axis - 16},
        (measured == CoilDiameter::mean      ? "D "
         : measured == CoilDiameter::outside ? "De "
                                             : "Di ") +
            view.shown(d),
        view.spot_of(
            "mean_diameter", field::coil_diameter,
            "Mean diameter, or De outside, Di inside; several such as 52..30..52 are spread over the "
            "turns. Click to type."));
    // the pitch between two active coils over it
    const double start = c.line.shape().start,
                 over_axis = full_turn * std::ceil(start / full_turn - 1e-9) - start, // the first time
        middle = over_axis + full_turn * std::max(0.0, std::floor(c.total / 2 - 0.5));
    if (middle + 2 * pi <= c.line.coil_end() + 1e-9 && !extension) {
        const double over = axis - c.outside() / 2 * k - 16;
        const double from = c.line.height(middle) + c.lift(), to = c.line.height(middle + 2 * pi) + c.lift();
        view.dimension(p, {at(from, 0).x(), over}, {at(to, 0).x(), over},
                       {at(from, c.line.radius(middle)), at(to, c.line.radius(middle + 2 * pi))},
                       {at((from + to) / 2, 0).x(), over - 14}, pitch_text(view, c),
                       view.spot_of("pitch", field::pitch,
                                    "Pitch of the active turns. Click to type; the free length "
                                    "follows."));
    }
    // the wire, with a line from its edge
    const WireSection& last = sections[sections.size() > 2 ? sections.size() - 2 : 0];
    const QPointF edge =
        at(last.z, last.x) + QPointF(last.along, (last.x > 0 ? -1 : 1) * last.across) * (k * 0.7);
    const QPointF name(beside + 8, edge.y() + (last.x > 0 ? -10 : 12));
    view.ink(p, "wire_diameter");
    p.drawLine(edge, QPointF(beside - 16, name.y()));
    view.dimension_text(
        p, name, c.round ? "d " + view.shown(c.wire) : view.shown(c.wire) + " × " + view.shown(c.axial),
        view.spot_of("wire_diameter", field::wire_diameter,
                     "The wire: its diameter, or 3 x 2, across and along the axis. Click to type."));
    corner_texts(view, p, c);
}

// How it goes with each rod, bore and spring it is paired with.
void fit_rows(SheetBuilder& b, const ResolvedCoil& coil) {
    const Session& session = b.session();
    const Job& job = session.job();
    const ZoneRef here{session.piece(), session.zone()};
    for (const Pair& pair : job.pairs) {
        if (pair.first != here && pair.second != here) continue;
        const auto kind = pair_kind(job, pair);
        if (kind != PairKind::spring_and_guide && kind != PairKind::nested_springs) continue;
        const ZoneRef there = pair.first == here ? pair.second : pair.first;
        const Piece& piece = job.pieces[there.piece];
        const ResolvedZone other = resolve_piece(piece, resolve_names(job)).zones.at(there.zone);
        const SpringFit fit = spring_fit(coil, other);
        const QString name = QString::fromStdString(piece.name);
        b.group("fit", (other.coil() ? "With " : other.in_bore() ? "In " : "On ") + name);
        b.note(fit.goes_together() ? "goes together" : "does not go together, see the checks",
               !fit.goes_together());
        for (const auto& v : fit.values)
            b.follows(v);
    }
}

// All of it in the room, its legs with it where they are seen.
void draw_alone(QPainter& p, const ResolvedPiece& piece, const QRectF& room) {
    const CoilSide side = coil_side(*piece.zones.front().coil());
    const QRectF seen = bounds(side);
    const double k =
        std::min(room.width() / std::max(1e-3, seen.width()), room.height() / std::max(1e-3, seen.height()));
    draw_coil_side(
        p, side,
        QTransform(k, 0, 0, -k, room.left() - seen.left() * k, room.center().y() + seen.center().y() * k),
        theme().part);
}

} // namespace

const FormViews& views(const ResolvedSpring&) {
    static const FormViews table{
        .title =
            [](const ResolvedZone& z, std::size_t) {
                constexpr const char* titles[]{"Compression spring", "Extension spring", "Torsion spring"};
                return QString(titles[static_cast<int>(z.coil()->spec.kind)]);
            },
        .detail = [](const ResolvedZone&,
                     const Piece& piece) { return QString::fromStdString(piece.name + ", " + piece.finish); },
        .asks = asks_nothing_more,
        .follows =
            [](SheetBuilder& b, const ResolvedZone& z) {
                QStringList said{"wire_diameter", "wire_across",  "wire_axial",  "free_length",
                                 "pitch",         "active_coils", "total_coils", "dead_coils",
                                 "tip_thickness", "mass"}; // the mass is the piece's
                if (z.coil()->spec.measured == CoilDiameter::mean) said << "mean_diameter";
                if (z.coil()->spec.kind == SpringKind::extension) { // its free length isn't asked
                    said.removeAll("free_length");
                    if (z.coil()->spec.initial_tension) said << "initial_tension";
                }
                const auto& values = z.coil()->values;
                b.follow_all(b.session().unit() == LengthUnit::inch ? with_pounds(values) : values, said,
                             {"wire_length"});
                fit_rows(b, *z.coil());
            },
        .section = draw_section,
        .developed = draw_spring_charts,
        .side = {.outline = turned_outline,
                 .strip =
                     [](QPainter& p, const ResolvedZone& z,
                        const StripPlace& place) { // from its side, above the axis
                         draw_coil_side(p, coil_side(*z.coil()),
                                        QTransform(place.k, 0, 0, -place.k, place.x0, place.mid),
                                        place.selected ? theme().active : theme().part);
                     },
                 .strip_height =
                     [](const ResolvedZone& z) {
                         return std::max(0.0, bounds(coil_side(*z.coil())).bottom());
                     },
                 .alone = draw_alone}};
    return table;
}

} // namespace whorl::app
