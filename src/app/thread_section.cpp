// A thread's section in its axial plane, the crest always on top: of an internal thread the axis lies above
// it.
#include "app/thread_section.hpp"
#include "app/section_view.hpp"

#include "quantity/expression.hpp"

#include <QPainterPath>
#include <cmath>

namespace whorl::app {

namespace {

class ThreadDrawing {
public:
    ThreadDrawing(SectionView& on, QPainter& painter, const ResolvedThread& thread, const ThreadPlace& place)
        : view(on), session(on.session()), p(painter), r(thread), s(thread.section), at(place) {
        make_edge();
    }

    void draw() {
        p.save();
        p.setClipRect(QRectF(left, 30, right - left, view.height()));
        fill_body();
        lay_counterpart_over();
        fill_bands();
        draw_lines();
        p.restore();
        p.setFont(text_font(13, Weight::medium));
        dimension_pitch();
        dimension_depth();
        dimension_angle();
        dimension_flats();
        say_trouble();
        say_fit();
        draw_axis();
        write_diameters();
    }

private:
    double x_of(double z) const { return at.centre_x + (z + at.shift) * k; } // axial, 0 at a groove's middle
    double y_of(double radius) const { return top + (s.crest_radius - radius) * down; }

    static Canvas::Spot spot(const char* key, std::optional<Field> field, const QString& initial,
                             const QString& tip) {
        Canvas::Spot out;
        out.key = key;
        out.field = field;
        out.initial = initial;
        out.tip = tip;
        return out;
    }
    // What the field holds, or what follows.
    QString initial(Field f, double millimetres) const {
        const QString typed = session.text_of(f);
        return typed.isEmpty() ? view.shown(millimetres) : typed;
    }
    void ink(const char* key) {
        const bool lit = session.hovered() == key;
        p.setPen(QPen(lit ? t.active : t.ink, lit ? 1.4 : 0.8));
    }

    void make_edge() {
        // the metal: crest, flank, root, flank over the width that is shown
        const int reach = static_cast<int>(std::ceil(width_mm / s.pitch / 2)) + 1;
        const auto groove = groove_polyline(s, 0.2 / k);
        for (int i = -reach; i <= reach; ++i) {
            const double c = i * s.pitch;
            for (const auto& g : groove)
                edge << QPointF(x_of(c + g.z), y_of(g.r));
            if (groove.empty()) // what can't be swept is drawn as its straight flanks would run
                edge << QPointF(x_of(c - half_groove), y_of(s.crest_radius))
                     << QPointF(x_of(c - half_root), y_of(s.root_radius))
                     << QPointF(x_of(c + half_root), y_of(s.root_radius))
                     << QPointF(x_of(c + half_groove), y_of(s.crest_radius));
        }
    }

    void fill_body() {
        QPainterPath metal;
        metal.addPolygon(edge);
        metal.lineTo(edge.last().x(), base);
        metal.lineTo(edge.first().x(), base);
        metal.closeSubpath();
        fill_metal(p, metal);
    }

    // the counterpart's section laid over it, its ridges in the middle of the grooves
    void lay_counterpart_over() {
        if (const auto& fit = session.fit(); fit && fit->counterpart.section.sweepable()) {
            const ThreadSection& other = fit->counterpart.section;
            const auto other_groove = groove_polyline(other, 0.2 / k);
            QPolygonF line;
            const double ridge_shift = internal ? -fit->fit.shift : fit->fit.shift;
            const int other_reach = static_cast<int>(std::ceil(width_mm / other.pitch / 2)) + 2;
            for (int i = -other_reach; i <= other_reach; ++i)
                for (const auto& g : other_groove)
                    line << QPointF(x_of((i + 0.5) * other.pitch + ridge_shift + g.z), y_of(g.r));
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
    }

    // tolerance bands, as bands
    void fill_bands() {
        const auto band = [&](const char* key, const QColor& colour) {
            const auto* v = find_value(r.values, key);
            if (!v || !v->min || !v->max) return;
            QColor c = colour;
            c.setAlphaF(session.hovered() == key ? 0.55f : 0.22f);
            const double y0 = std::min(y_of(*v->max / 2), y_of(*v->min / 2)),
                         y1 = std::max(y_of(*v->max / 2), y_of(*v->min / 2));
            p.fillRect(QRectF(left, y0, right - left, std::max(1.0, y1 - y0)), c);
        };
        band("major_diameter", t.part);
        band("pitch_diameter", t.active);
        band("minor_diameter", t.part);
    }

    void draw_lines() {
        p.setPen(QPen(t.ink, 1.7));
        p.drawPolyline(edge);
        // pitch line
        p.setPen(QPen(t.active, 1, Qt::DashDotLine));
        p.drawLine(QPointF(left, y_of(s.pitch_radius)), QPointF(right, y_of(s.pitch_radius)));
    }

    // pitch: crest middle to crest middle
    void dimension_pitch() {
        const double x0 = x_of(-s.pitch / 2), x1 = x_of(s.pitch / 2);
        // in a narrow view the dimension goes above the major diameter's label instead of beside it
        const double label = number_width(text_font(11), "major Ø " + view.shown(2 * s.crest_radius)) + 16;
        const double y_pitch = left + label > x0 ? top - 30 : top - 18;
        const double crest = y_of(s.crest_radius);
        view.dimension(p, {x0, y_pitch}, {x1, y_pitch}, {{x0, crest}, {x1, crest}}, {(x0 + x1) / 2, y_pitch},
                       view.shown(s.pitch),
                       spot("pitch", field::pitch, initial(field::pitch, s.pitch),
                            "Pitch, crest to crest. Click to type; formulas work."));
    }

    // depth, on the right
    void dimension_depth() {
        const double x_depth = right + 22;
        const double crest = y_of(s.crest_radius), root = y_of(s.root_radius);
        view.dimension(
            p, {x_depth, crest}, {x_depth, root}, {{right, crest}, {right, root}},
            {x_depth + 14, (crest + root) / 2}, view.shown(s.depth()),
            own ? spot("thread_depth", {}, {}, "Thread depth: it follows from the outline's points.")
                : spot("thread_depth", field::depth, initial(field::depth, s.depth()),
                       "Thread depth at the modelled size. Type to set it; clear to hand it back to the "
                       "form."));
    }

    // flank angle, an arc in the groove
    // below the root where the flanks would meet, from the groove's width at the pitch line
    void dimension_angle() {
        const double lower = s.flank_half_angle, upper = s.other_half_angle;
        const double lower_deg = in_deg(rad(lower)), upper_deg = in_deg(rad(upper));
        ink("flank_angle");
        p.setFont(text_font(11));
        const QString angle_text = QString("%1°").arg(number_text(lower_deg + upper_deg, 2).c_str());
        const bool own_angle = r.spec.family == ThreadFamily::sharp_v;
        const Canvas::Spot angle_spot =
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
            const double apex_x =
                s.root_flat > 0 && lower != upper ? half_root - apex_mm * std::tan(upper) : 0;
            const QPointF apex(x_of(apex_x), y_of(s.root_radius) + std::max(0.0, apex_mm) * k);
            const double reach_px =
                std::min((s.depth() + std::max(0.0, apex_mm)) * k * 0.62, 4.0 * view.height());
            p.drawArc(QRectF(apex.x() - reach_px, apex.y() - reach_px, 2 * reach_px, 2 * reach_px),
                      int((90 - upper_deg) * 16), int((upper_deg + lower_deg) * 16));
            view.dimension_text(p, {apex.x(), apex.y() - reach_px}, angle_text, angle_spot);
        } else {
            view.dimension_text(p, {x_of(0), y_of(s.pitch_radius)}, "square flanks", angle_spot);
        }
    }

    void dimension_flats() {
        // root flat
        if (s.root_flat * k > 8) {
            const double y = y_of(s.root_radius) + 15;
            const double a = x_of(-half_root), b = x_of(half_root), root = y_of(s.root_radius);
            p.setFont(text_font(11));
            view.dimension(p, {a, y}, {b, y}, {{a, root}, {b, root}}, {x_of(0), y + 15},
                           view.shown(s.root_flat),
                           own ? spot("root_flat", {}, {}, "Root flat: it follows from the outline's points.")
                               : spot("root_flat", field::root_flat, initial(field::root_flat, s.root_flat),
                                      "Root flat. Type to set it; clear to hand it back to the form."));
        }
        // crest flat over the next tooth
        if (s.crest_flat * k > 8 && x_of(s.pitch / 2) + half_groove < right) {
            const double a = x_of(s.pitch - s.pitch / 2 - s.crest_flat / 2),
                         b = x_of(s.pitch / 2 + s.crest_flat / 2);
            p.setFont(text_font(11));
            const double yy = y_of(s.crest_radius) + 13;
            view.dimension(p, {a, yy}, {b, yy}, {{a, yy}, {b, yy}}, {(a + b) / 2, yy + 14},
                           view.shown(s.crest_flat),
                           spot("crest_flat", {}, {}, "Crest flat: what the groove leaves of the pitch."));
        }
    }

    void say_trouble() {
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
    }

    void say_fit() {
        if (const auto& fit = session.fit()) {
            const QString name = QString::fromStdString(session.job().pieces[fit->there.piece].name);
            QString text = name;
            if (const auto* v = find_value(fit->fit.values, "flank_clearance"); v && v->value)
                text += ", flank clearance " + view.shown(*v->value);
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
    }

    // the axis, when the groove reaches it
    void draw_axis() {
        if (!internal && s.root_radius <= 0 && y_of(0) < base) {
            p.setPen(QPen(t.stop, 1, Qt::DashDotLine));
            p.drawLine(QPointF(left, y_of(0)), QPointF(right, y_of(0)));
            p.setFont(text_font(11));
            p.drawText(QPointF(right - 30, y_of(0) - 4), "axis");
        }
    }

    // the three diameters, written at their lines
    void write_diameters() {
        p.setFont(text_font(11));
        const auto diameter = [&](const char* key, const QString& name, double radius, double dy) {
            const QString text = name + view.shown(2 * radius);
            const double w = number_width(p.font(), text) + 8;
            const Canvas::Spot sp = spot(key, {}, {}, name.trimmed() + " at the modelled size");
            p.setPen(t.active);
            view.dimension_text(p, {left + w / 2 + 2, y_of(radius) + dy}, text, sp);
        };
        diameter(internal ? "minor_diameter" : "major_diameter", QString(internal ? "minor Ø " : "major Ø "),
                 s.crest_radius, -10);
        if ((s.crest_radius - s.pitch_radius) * down > 24 && s.pitch_radius > 0)
            diameter("pitch_diameter", QString("pitch Ø "), s.pitch_radius, -10);
        if ((s.pitch_radius - s.root_radius) * down > 22 && s.root_radius > 0)
            diameter(internal ? "major_diameter" : "minor_diameter",
                     QString(internal ? "major Ø " : "minor Ø "), s.root_radius, 11);
    }

    SectionView& view;
    Session& session;
    QPainter& p;
    const ResolvedThread& r;
    const ThreadSection& s;
    const ThreadPlace at;
    const Theme& t = theme();
    const bool own = r.spec.family == ThreadFamily::own, internal = s.side == Side::internal;
    const double left = at.left, right = at.right, top = at.top, base = at.base, k = at.scale,
                 down = internal ? -k : k, width_mm = (right - left) / k;
    const double half_root = s.root_flat / 2, half_groove = s.groove_width() / 2;
    QPolygonF edge;
};

} // namespace

void draw_thread_section(SectionView& view, QPainter& p, const ResolvedThread& thread,
                         const ThreadPlace& place) {
    ThreadDrawing(view, p, thread, place).draw();
}

} // namespace whorl::app
