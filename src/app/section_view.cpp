#include "app/section_view.hpp"

#include "app/comparison.hpp"
#include "app/forms/form_views.hpp"

#include "quantity/expression.hpp"

#include <QPainterPath>
#include <cmath>

namespace whorl::app {

namespace {

QString scale_text(double s) {
    return s >= 1 ? QString("%1 : 1").arg(number_text(s, s < 10 ? 1 : 0).c_str())
                  : QString("1 : %1").arg(number_text(1 / s, 2).c_str());
}

constexpr double paper_mm = 96 / 25.4; // screen pixels for a millimetre of paper

} // namespace

void SectionView::draw(QPainter& p) {
    p.fillRect(rect(), theme().paper);
    const ResolvedZone* z = session_.resolved_zone();
    if (!z) {
        draw_title(p, "Section", "");
        draw_hint(p, "The generating section to scale. Its dimensions are the input: click one and type.");
        return;
    }
    views_of(*z).section(*this, p, *z);
}

void SectionView::draw_bar_or_mesh(QPainter& p, const ResolvedZone& zone) {
    const bool compared = comparison_ && comparison_->loaded(); // then it is looked at alone
    if (compared || !(session_.mesh() && session_.mesh()->mesh.meshes))
        draw_rack_alone(p, *zone.rack());
    else
        draw_teeth(p, zone);
}

void SectionView::draw_thread(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const ResolvedThread& r = *zone.thread();
    const ThreadSection& s = r.section;
    const bool own = r.spec.family == ThreadFamily::own;
    const double left = 18, right = width() - 76, top = 66, bottom = height() - (own ? 44 : 16);
    const double turns = 2.05;
    const bool internal = s.side == Side::internal;
    const double depth_mm = std::max(s.depth(), s.pitch * 0.05);
    const double raw = std::min((right - left) / (turns * s.pitch), (bottom - top) / (depth_mm * 1.62));
    // while a point is dragged the scale stands still
    const double k = held_ ? frame_.scale : std::max(raw, 1e-6);
    draw_title(p, "Section",
               QString("%1, %2, modelled at %3")
                   .arg(internal ? "axial, axis above" : "axial", scale_text(k / paper_mm),
                        QString::fromStdString(modelled_text(r.spec))));
    const double width_mm = (right - left) / k;
    const double centre_x = (left + right) / 2;
    double shift = 0; // of the groove's middle, while a point is dragged
    if (own) {
        // of a nut the outline lies across a ridge, half a pitch from the groove drawn in the middle
        const double middle = (middle_of(r.spec.own_section, s.side) - (internal ? 0.5 : 0)) * s.pitch;
        if (!held_)
            frame_ = {centre_x, top,     k,      internal ? -k : k,
                      middle,   s.pitch, s.side, in_mm(r.spec.diameter) / 2 - s.crest_radius};
        shift = middle - frame_.middle;
    }
    const auto X = [&](double z) { return centre_x + (z + shift) * k; }; // axial, 0 at a groove's middle
    // the crest is always at the top: of an internal thread the axis lies above it
    const double down = internal ? -k : k;
    const auto Y = [&](double radius) { return top + (s.crest_radius - radius) * down; };
    const double base = bottom;

    // the metal: crest, flank, root, flank over the width that is shown
    QPolygonF edge;
    const int reach = static_cast<int>(std::ceil(width_mm / s.pitch / 2)) + 1;
    const double half_root = s.root_flat / 2, half_groove = s.groove_width() / 2;
    const auto groove = groove_polyline(s, 0.2 / k);
    for (int i = -reach; i <= reach; ++i) {
        const double c = i * s.pitch;
        for (const auto& g : groove)
            edge << QPointF(X(c + g.z), Y(g.r));
        if (groove.empty()) // what can't be swept is drawn as its straight flanks would run
            edge << QPointF(X(c - half_groove), Y(s.crest_radius))
                 << QPointF(X(c - half_root), Y(s.root_radius)) << QPointF(X(c + half_root), Y(s.root_radius))
                 << QPointF(X(c + half_groove), Y(s.crest_radius));
    }
    p.save();
    p.setClipRect(QRectF(left, 30, right - left, height()));
    QPainterPath metal;
    metal.addPolygon(edge);
    metal.lineTo(edge.last().x(), base);
    metal.lineTo(edge.first().x(), base);
    metal.closeSubpath();
    p.fillPath(metal, t.part_fill);
    QColor lines = t.part;
    lines.setAlphaF(t.dark ? 0.45f : 0.40f);
    hatch(p, metal, lines);

    // the counterpart's section laid over it, its ridges in the middle of the grooves
    if (const auto& fit = session_.fit(); fit && fit->counterpart.section.sweepable()) {
        const ThreadSection& other = fit->counterpart.section;
        const auto other_groove = groove_polyline(other, 0.2 / k);
        QPolygonF line;
        const double ridge_shift = internal ? -fit->fit.shift : fit->fit.shift;
        const int other_reach = static_cast<int>(std::ceil(width_mm / other.pitch / 2)) + 2;
        for (int i = -other_reach; i <= other_reach; ++i)
            for (const auto& g : other_groove)
                line << QPointF(X((i + 0.5) * other.pitch + ridge_shift + g.z), Y(g.r));
        QPainterPath metal_over;
        metal_over.addPolygon(line);
        metal_over.lineTo(line.last().x(), 34);
        metal_over.lineTo(line.first().x(), 34);
        metal_over.closeSubpath();
        QColor tint = t.active;
        tint.setAlphaF(0.13f);
        p.fillPath(metal_over, tint);
        p.setPen(QPen(t.active, 1.3));
        p.drawPolyline(line);
    }

    // tolerance bands, as bands
    const auto band = [&](const char* key, const QColor& colour) {
        const auto* v = find_value(r.values, key);
        if (!v || !v->min || !v->max) return;
        QColor c = colour;
        c.setAlphaF(session_.hovered() == key ? 0.55f : 0.22f);
        const double y0 = std::min(Y(*v->max / 2), Y(*v->min / 2)),
                     y1 = std::max(Y(*v->max / 2), Y(*v->min / 2));
        p.fillRect(QRectF(left, y0, right - left, std::max(1.0, y1 - y0)), c);
    };
    band("major_diameter", t.part);
    band("pitch_diameter", t.active);
    band("minor_diameter", t.part);
    p.setPen(QPen(t.ink, 1.7));
    p.drawPolyline(edge);
    // pitch line
    p.setPen(QPen(t.active, 1, Qt::DashDotLine));
    p.drawLine(QPointF(left, Y(s.pitch_radius)), QPointF(right, Y(s.pitch_radius)));
    p.restore();

    p.setFont(text_font(13, Weight::medium));
    const auto spot = [&](const char* key, std::optional<Field> field, const QString& initial,
                          const QString& tip) {
        Spot out;
        out.key = key;
        out.field = field;
        out.initial = initial;
        out.tip = tip;
        return out;
    };
    const auto initial = [&](Field f, double millimetres) {
        const QString typed = QString::fromStdString(
            field_text(session_.job(), session_.piece(), session_.zone(), f, session_.unit()));
        return typed.isEmpty() ? shown(millimetres) : typed;
    };
    const auto ink = [&](const char* key) {
        p.setPen(QPen(session_.hovered() == key ? t.active : t.ink, session_.hovered() == key ? 1.4 : 0.8));
    };

    // pitch: crest middle to crest middle
    ink("pitch");
    const double x0 = X(-s.pitch / 2), x1 = X(s.pitch / 2);
    // in a narrow view the dimension goes above the major diameter's label instead of beside it
    const double label = number_width(text_font(11), "major Ø " + shown(2 * s.crest_radius)) + 16;
    const double y_pitch = left + label > x0 ? top - 30 : top - 18;
    p.drawLine(QPointF(x0, Y(s.crest_radius) - 3), QPointF(x0, y_pitch - 5));
    p.drawLine(QPointF(x1, Y(s.crest_radius) - 3), QPointF(x1, y_pitch - 5));
    dimension_line(p, {x0, y_pitch}, {x1, y_pitch});
    dimension_text(p, {(x0 + x1) / 2, y_pitch}, shown(s.pitch),
                   spot("pitch", field::pitch, initial(field::pitch, s.pitch),
                        "Pitch, crest to crest. Click to type; formulas work."));

    // depth, on the right
    const double x_depth = right + 22;
    ink("thread_depth");
    p.drawLine(QPointF(right + 2, Y(s.crest_radius)), QPointF(x_depth + 5, Y(s.crest_radius)));
    p.drawLine(QPointF(right + 2, Y(s.root_radius)), QPointF(x_depth + 5, Y(s.root_radius)));
    dimension_line(p, {x_depth, Y(s.crest_radius)}, {x_depth, Y(s.root_radius)});
    dimension_text(
        p, {x_depth + 14, (Y(s.crest_radius) + Y(s.root_radius)) / 2}, shown(s.depth()),
        own ? spot("thread_depth", {}, {}, "Thread depth: it follows from the outline's points.")
            : spot("thread_depth", field::depth, initial(field::depth, s.depth()),
                   "Thread depth at the modelled size. Type to set it; clear to hand it back to the form."));

    // flank angle, an arc in the groove
    // below the root where the flanks would meet, from the groove's width at the pitch line
    const double lower = s.flank_half_angle, upper = s.other_half_angle;
    const double lower_deg = in_deg(rad(lower)), upper_deg = in_deg(rad(upper));
    ink("flank_angle");
    p.setFont(text_font(11));
    const QString angle_text = QString("%1°").arg(number_text(lower_deg + upper_deg, 2).c_str());
    const bool own_angle = r.spec.family == ThreadFamily::sharp_v;
    const Spot angle_spot =
        spot("flank_angle", own_angle ? std::optional(field::flank_angle) : std::nullopt,
             QString::fromStdString(number_text(lower_deg + upper_deg, 4)),
             own_angle ? "Flank angle. Click to type." : "Flank angle: fixed by the form.");
    if (own) {
        // an outline of any shape: its points say more than one angle
    } else if (lower_deg + upper_deg > 1) {
        const double wide =
            std::abs(s.pitch_radius - s.root_radius) * (std::tan(lower) + std::tan(upper)) + s.root_flat;
        const double apex_mm = s.root_flat > 0 ? s.root_flat / (std::tan(lower) + std::tan(upper))
                                               : s.pitch / 2 / (std::tan(lower) + std::tan(upper)) -
                                                     wide / (std::tan(lower) + std::tan(upper));
        const double apex_x = s.root_flat > 0 && lower != upper ? half_root - apex_mm * std::tan(upper) : 0;
        const QPointF apex(X(apex_x), Y(s.root_radius) + std::max(0.0, apex_mm) * k);
        const double reach_px = std::min((s.depth() + std::max(0.0, apex_mm)) * k * 0.62, 4.0 * height());
        p.drawArc(QRectF(apex.x() - reach_px, apex.y() - reach_px, 2 * reach_px, 2 * reach_px),
                  int((90 - upper_deg) * 16), int((upper_deg + lower_deg) * 16));
        dimension_text(p, {apex.x(), apex.y() - reach_px}, angle_text, angle_spot);
    } else {
        dimension_text(p, {X(0), Y(s.pitch_radius)}, "square flanks", angle_spot);
    }

    // root flat
    if (s.root_flat * k > 8) {
        const double y = Y(s.root_radius) + 15;
        ink("root_flat");
        const double a = X(-half_root), b = X(half_root);
        p.drawLine(QPointF(a, Y(s.root_radius) + 2), QPointF(a, y + 4));
        p.drawLine(QPointF(b, Y(s.root_radius) + 2), QPointF(b, y + 4));
        dimension_line(p, {a, y}, {b, y});
        p.setFont(text_font(11));
        dimension_text(p, {X(0), y + 15}, shown(s.root_flat),
                       own ? spot("root_flat", {}, {}, "Root flat: it follows from the outline's points.")
                           : spot("root_flat", field::root_flat, initial(field::root_flat, s.root_flat),
                                  "Root flat. Type to set it; clear to hand it back to the form."));
    }
    // crest flat over the next tooth
    if (s.crest_flat * k > 8 && x1 + half_groove < right) {
        const double a = X(s.pitch - s.pitch / 2 - s.crest_flat / 2), b = X(s.pitch / 2 + s.crest_flat / 2);
        p.setFont(text_font(11));
        ink("crest_flat");
        const double yy = Y(s.crest_radius) + 13;
        dimension_line(p, {a, yy}, {b, yy});
        dimension_text(p, {(a + b) / 2, yy + 14}, shown(s.crest_flat),
                       spot("crest_flat", {}, {}, "Crest flat: what the groove leaves of the pitch."));
    }
    if (!s.sweepable()) {
        const QRectF box(left + 10, base - 44, right - left - 20, 36);
        p.setPen(QPen(t.stop, 1));
        p.setBrush(t.paper);
        p.drawRoundedRect(box, 3, 3);
        p.setFont(text_font(11));
        p.setPen(t.stop);
        p.drawText(box.adjusted(8, 2, -8, -2), Qt::AlignVCenter | Qt::TextWordWrap,
                   "This section can't be swept as it is; the checks line says why and what would work.");
    }
    if (const auto& fit = session_.fit()) {
        const QString name = QString::fromStdString(session_.job().pieces[fit->there.piece].name);
        QString text = name;
        if (const auto* v = find_value(fit->fit.values, "flank_clearance"); v && v->value)
            text += ", flank clearance " + shown(*v->value);
        if (fit->fit.will_not_turn) text = "no clearance, will not turn: " + name;
        if (!fit->fit.goes_together()) text = name + " does not fit, see the checks";
        p.setFont(text_font(11));
        const QFontMetricsF m(p.font());
        text = m.elidedText(text, Qt::ElideRight, right - left - 16);
        const double w = m.horizontalAdvance(text) + 12;
        const QRectF box(right - w - 4, base - 20, w, 16);
        QColor back = t.paper;
        back.setAlphaF(0.9f);
        p.fillRect(box, back);
        p.setPen(fit->fit.goes_together() ? t.active : t.stop);
        p.drawText(box, Qt::AlignCenter, text);
    }
    // the axis, when the groove reaches it
    if (!internal && s.root_radius <= 0 && Y(0) < base) {
        p.setPen(QPen(t.stop, 1, Qt::DashDotLine));
        p.drawLine(QPointF(left, Y(0)), QPointF(right, Y(0)));
        p.setFont(text_font(11));
        p.drawText(QPointF(right - 30, Y(0) - 4), "axis");
    }
    // the three diameters, written at their lines
    p.setFont(text_font(11));
    const auto diameter = [&](const char* key, const QString& name, double radius, double dy) {
        const QString text = name + shown(2 * radius);
        const double w = number_width(p.font(), text) + 8;
        Spot sp = spot(key, {}, {}, name.trimmed() + " at the modelled size");
        p.setPen(t.active);
        dimension_text(p, {left + w / 2 + 2, Y(radius) + dy}, text, sp);
    };
    diameter(internal ? "minor_diameter" : "major_diameter", QString(internal ? "minor Ø " : "major Ø "),
             s.crest_radius, -10);
    if ((s.crest_radius - s.pitch_radius) * down > 24 && s.pitch_radius > 0)
        diameter("pitch_diameter", QString("pitch Ø "), s.pitch_radius, -10);
    if ((s.pitch_radius - s.root_radius) * down > 22 && s.root_radius > 0)
        diameter(internal ? "major_diameter" : "minor_diameter", QString(internal ? "major Ø " : "minor Ø "),
                 s.root_radius, 11);
    if (own && s.sweepable()) draw_handles(p, r.spec.own_section);
}

void SectionView::draw_round(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    draw_title(p, "Section", "square to the axis");
    const double d = in_mm(zone.diameter);
    const double room = std::min(width() - 150.0, height() - 70.0);
    // the keyway stands on top, out of the bore
    const double out = zone.keyway() ? 2 * in_mm(zone.keyway()->depth) / d : 0;
    const double radius = std::max(20.0, zone.keyway() ? (room / 2 - 10) / (1 + out) : room / 2);
    const QPointF c(width() / 2.0 - 20, height() / 2.0 + 12);
    QPainterPath disc;
    double scale = radius; // pixels for half the diameter, or half the width across flats
    if (zone.outline() == Outline::round) {
        disc.addEllipse(c, radius, radius);
    } else {
        const int sides = zone.outline() == Outline::square ? 4 : 6;
        scale = radius * std::cos(std::numbers::pi / sides);
        for (int i = 0; i < sides; ++i) {
            const double a = 2 * std::numbers::pi * (i + 0.5) / sides;
            const QPointF corner = c + radius * QPointF(std::sin(a), -std::cos(a));
            i == 0 ? disc.moveTo(corner) : disc.lineTo(corner);
        }
        disc.closeSubpath();
    }
    const double half = zone.keyway() ? in_mm(zone.keyway()->width) / d * radius : 0;
    const double bottom = c.y() - radius * (1 + out); // of the keyway
    if (zone.keyway()) {
        QPainterPath slot;
        slot.addRect(QRectF(QPointF(c.x() - half, bottom), QPointF(c.x() + half, c.y())));
        disc = disc.united(slot);
    }
    if (zone.in_bore()) { // the metal lies around it
        QPainterPath around;
        const double rim = radius * (1 + out) + (zone.keyway() ? 10 : 16);
        around.addEllipse(c, rim, rim);
        disc = around.subtracted(disc);
    }
    p.fillPath(disc, t.part_fill);
    QColor lines = t.part;
    lines.setAlphaF(0.4f);
    hatch(p, disc, lines);
    p.setPen(QPen(t.ink, 1.7));
    p.setBrush(Qt::NoBrush);
    p.drawPath(disc);
    p.setPen(QPen(t.active, 1, Qt::DashDotLine));
    p.drawLine(c - QPointF(radius + 10, 0), c + QPointF(radius + 10, 0));
    p.drawLine(c - QPointF(0, radius + 10), c + QPointF(0, radius + 10));
    const double x = c.x() + radius * (1 + out) + (zone.keyway() ? 36 : 26);
    p.setPen(QPen(session_.hovered() == "diameter" ? t.active : t.ink, 0.8));
    p.drawLine(QPointF(c.x(), c.y() - scale), QPointF(x + 5, c.y() - scale));
    p.drawLine(QPointF(c.x(), c.y() + scale), QPointF(x + 5, c.y() + scale));
    dimension_line(p, {x, c.y() - scale}, {x, c.y() + scale});
    p.setFont(text_font(13, Weight::medium));
    Spot s;
    s.key = "diameter";
    s.field = field::diameter;
    s.initial = QString::fromStdString(
        field_text(session_.job(), session_.piece(), session_.zone(), field::diameter, session_.unit()));
    s.tip = zone.outline() == Outline::round ? "Diameter. Click to type; formulas work."
                                             : "Width across the flats. Click to type; formulas work.";
    dimension_text(p, {x, c.y() - 18}, (zone.outline() == Outline::round ? "Ø " : "AF ") + shown(d), s);
    if (!zone.keyway()) return;
    // what is measured: the width, and over bore and keyway
    p.setFont(text_font(11));
    const double left = c.x() - radius * (1 + out) - 34;
    p.setPen(QPen(session_.hovered() == "keyway" ? t.active : t.ink, 0.8));
    for (const double y : {bottom, c.y() + radius})
        p.drawLine(QPointF(c.x() - (y == bottom ? half : 0), y), QPointF(left - 5, y));
    dimension_line(p, {left, bottom}, {left, c.y() + radius});
    Spot over;
    over.key = "keyway_over";
    over.tip = "Over bore and keyway, d + t2";
    dimension_text(p, {left, c.y() - 18}, shown(d + in_mm(zone.keyway()->depth)), over);
    dimension_line(p, {c.x() - half, bottom + 12}, {c.x() + half, bottom + 12});
    dimension_text(p, {c.x(), bottom + 27}, shown(in_mm(zone.keyway()->width)),
                   spot_of("keyway", field::keyway,
                           QString::fromStdString(zone.keyway()->source) +
                               ". Click to type: standard, none, or width x depth in the hub."));
}

} // namespace whorl::app
