#include "app/zone_strip.hpp"

#include "app/elevation.hpp"
#include "app/forms/form_views.hpp"
#include "model/forms/forms.hpp"
#include "quantity/expression.hpp"

#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::app {

namespace {
constexpr double left_margin = 76; // where the zones begin, beside the view's title
}

ZoneStrip::ZoneStrip(Session& session, QWidget* parent) : Canvas(session, parent) {
    setMinimumHeight(96);
    setAccessibleName("Zone strip");
}

void ZoneStrip::draw(QPainter& p) {
    const Theme& t = theme();
    p.fillRect(rect(), t.panel);
    p.setPen(QPen(t.hairline, 1));
    p.drawLine(0, 0, width(), 0);
    blocks_.clear();
    plus_ = {};
    p.setFont(text_font(11, Weight::semibold));
    p.setPen(t.muted);
    p.drawText(QPointF(16, 20), "Zones");
    const ResolvedPiece* piece = session_.resolved();
    if (!piece) {
        draw_hint(p, "The zones along the axis, to select, stretch, split and add.");
        return;
    }
    const double left = left_margin, right = width() - 54, axis = height() - 14, label = 34;
    const ResolvedZone& first = piece->zones.front();
    const auto height_of = views_of(first).side.strip_height;
    const double length = in_mm(piece->length()),
                 R = height_of ? height_of(first) : in_mm(piece->largest_radius());
    if (!stretching_) pixels_per_mm_ = std::min((right - left) / length, (axis - label) / R);
    scale_ = {pixels_per_mm_,
              stretching_ ? stretch_left_
                          : left + std::max(0.0, (right - left - length * pixels_per_mm_) / 2),
              axis};
    for (std::size_t i = 0; i < piece->zones.size(); ++i) {
        const ResolvedZone& z = piece->zones[i];
        const double a = scale_.x(in_mm(z.start)), b = scale_.x(in_mm(z.end()));
        const double reach = in_mm(z.largest_radius()) * pixels_per_mm_;
        blocks_.push_back(
            {z.in_bore() ? QRectF(a, axis - reach, b - a, reach) : QRectF(a, 26, b - a, axis - 26), i,
             z.in_bore()});
        if (!z.in_bore()) draw_metal(p, z, blocks_.back().rect, i == session_.zone());
    }
    // bores take the metal away from the axis up to their own line
    for (std::size_t i = 0; i < piece->zones.size(); ++i)
        if (piece->zones[i].in_bore()) draw_bore(p, piece->zones[i], i == session_.zone());
    if (!views_of(first).side.on_its_back) {
        p.setPen(QPen(t.active, 1, Qt::DashDotLine));
        p.drawLine(QPointF(scale_.x0 - 14, axis), QPointF(scale_.x(length) + 14, axis));
    }
    for (const auto& b : blocks_)
        if (const auto marks = views_of(piece->zones[b.zone]).side.strip_marks; marks && !b.bore)
            marks(p, piece->zones[b.zone], {{scale_.x0, axis, scale_.k}, b.rect, b.zone == session_.zone()});
    draw_names(p, *piece);
    draw_handles(p);
    if (!stands_alone(piece->zones.front())) draw_plus(p);
}

void ZoneStrip::draw_metal(QPainter& p, const ResolvedZone& z, const QRectF& block, bool selected) {
    const Theme& t = theme();
    const auto [k, x0, axis] = scale_;
    const double a = block.left(), b = block.right();
    if (selected) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.active_tint);
        p.drawRect(block);
    }
    if (const auto strip = views_of(z).side.strip) {
        p.save();
        p.setClipRect(QRectF(0, 26, width(), axis - 26));
        strip(p, z, {{x0, axis, k}, block, selected});
        p.restore();
        return;
    }
    QPolygonF line;
    for (const auto& q : half_section(z, 2.0 / k))
        line << QPointF(x0 + q.x() * k, axis - q.y() * k);
    QPainterPath metal;
    metal.moveTo(line.first().x(), axis);
    for (const auto& q : line)
        metal.lineTo(q);
    metal.lineTo(line.last().x(), axis);
    metal.closeSubpath();
    if (z.cross()) // turned into the section
        for (const double at : z.cross()->at) {
            QPainterPath hole;
            hole.addRect(QRectF(QPointF(x0 + (at - z.cross()->radius) * k, -10),
                                QPointF(x0 + (at + z.cross()->radius) * k, axis + 1)));
            metal = metal.subtracted(hole);
        }
    draw_strip_metal(p, metal, selected);
    if (z.web) { // the rings that are sunk into its sides
        p.setBrush(t.panel);
        const double high = axis - z.web->rim * k, low = axis - z.web->hub * k, deep = z.web->depth * k;
        if (z.web->near) p.drawRect(QRectF(QPointF(a, high), QPointF(a + deep, low)));
        if (z.web->far) p.drawRect(QRectF(QPointF(b - deep, high), QPointF(b, low)));
        p.setBrush(Qt::NoBrush);
    }
}

void ZoneStrip::draw_bore(QPainter& p, const ResolvedZone& z, bool selected) {
    const Theme& t = theme();
    const auto [k, x0, axis] = scale_;
    QPainterPath hole;
    hole.moveTo(x0 + in_mm(z.start) * k, axis);
    for (const auto& q : silhouette(z, 2.0 / k))
        hole.lineTo(x0 + q.x() * k, axis - q.y() * k);
    hole.lineTo(x0 + in_mm(z.end()) * k, axis);
    hole.closeSubpath();
    p.fillPath(hole, selected ? t.active_tint : t.panel);
    p.setPen(QPen(selected ? t.active : t.part, 1.5));
    p.setBrush(Qt::NoBrush);
    p.drawPath(hole);
}

// Names above, each no wider than its block unless it is the selected one, and none where it would touch
// another.
void ZoneStrip::draw_names(QPainter& p, const ResolvedPiece& piece) {
    const Theme& t = theme();
    const double names_left = left_margin - 10;
    double taken_to = -1e9;
    for (const auto& b : blocks_) {
        const bool selected = b.zone == session_.zone();
        if (b.bore && !selected) continue;
        const Zone& spec = session_.job().pieces[session_.piece()].zones[b.zone];
        p.setFont(text_font(11, selected ? Weight::medium : Weight::regular));
        const QFontMetricsF m(p.font());
        QString name = QString::fromStdString(zone_designation(spec, session_.job()));
        // a narrow block says its diameter, a very narrow one nothing
        if (spec.follows) name += QString(" = %1").arg(spec.follows->zone + 1); // like that zone
        if (!selected && m.horizontalAdvance(name) > b.rect.width() - 4)
            name = piece.zones[b.zone].bend() ? QString("R ") + shown(piece.zones[b.zone].bend()->radius)
                                              : QString(spec.as<ThreadForm>() ? "" : "Ø ") +
                                                    shown(in_mm(piece.zones[b.zone].diameter));
        const double w = m.horizontalAdvance(name);
        if (!selected && w > b.rect.width() + 14) continue;
        double x =
            std::clamp(b.rect.center().x() - w / 2, names_left, std::max(names_left, width() - w - 8.0));
        // the selected zone's name may need its neighbours' room: they are left out where it stands
        if (!selected && session_.zone() < blocks_.size()) {
            const auto& s = blocks_[session_.zone()];
            const QString chosen = QString::fromStdString(
                zone_designation(session_.job().pieces[session_.piece()].zones[s.zone], session_.job()));
            const double sw = QFontMetricsF(text_font(11, Weight::medium)).horizontalAdvance(chosen);
            const double sx = std::clamp(s.rect.center().x() - sw / 2, names_left,
                                         std::max(names_left, width() - sw - 8.0));
            if (x < sx + sw + 8 && x + w > sx - 8) continue;
        }
        if (!selected && x < taken_to + 10) continue;
        taken_to = x + w;
        p.setPen(selected ? t.active : t.ink);
        p.drawText(QPointF(x, 20), name);
    }
}

// Stretching handles at the far end of each zone.
void ZoneStrip::draw_handles(QPainter& p) {
    const Theme& t = theme();
    for (const auto& b : blocks_) {
        const bool selected = b.zone == session_.zone();
        const auto at = stretch_handle(b.zone);
        if (!at || (b.bore && !selected)) continue;
        const QRectF h(at->x() - 3, scale_.axis - 17, 6, 15);
        p.setPen(QPen(selected ? t.active : t.part, 1.2));
        p.setBrush(t.field);
        p.drawRoundedRect(h, 2, 2);
    }
}

void ZoneStrip::draw_plus(QPainter& p) {
    plus_ = QRectF(width() - 44, height() / 2.0 - 12, 28, 28);
    p.setPen(QPen(theme().active, 1.8));
    p.drawLine(plus_.center() - QPointF(5, 0), plus_.center() + QPointF(5, 0));
    p.drawLine(plus_.center() - QPointF(0, 5), plus_.center() + QPointF(0, 5));
    Spot plus;
    plus.rect = plus_;
    plus.tip = "Add a plain zone at the far end (Insert)";
    add_spot(plus);
}

std::optional<QPointF> ZoneStrip::stretch_handle(std::size_t zone) const {
    const auto& zones = session_.job().pieces[session_.piece()].zones;
    for (const auto& b : blocks_) {
        if (b.zone != zone || zone >= zones.size()) continue;
        if (zones[zone].length.text.empty()) return {}; // goes through, or is a bend: its length follows
        // a bore from the far end grows towards the near one
        return QPointF(zones[zone].where == Where::far_bore ? b.rect.left() : b.rect.right(),
                       b.rect.bottom() - 8);
    }
    return {};
}

std::optional<std::size_t> ZoneStrip::stretch_at(QPointF at) const {
    for (const bool bore : {true, false})
        for (const auto& b : blocks_) {
            if (b.bore != bore || (bore && b.zone != session_.zone())) continue;
            const auto handle = stretch_handle(b.zone);
            if (!handle || std::abs(at.x() - handle->x()) >= 6) continue;
            if (bore ? std::abs(at.y() - handle->y()) < 12 : at.y() > 24) return b.zone;
        }
    return {};
}

std::optional<std::size_t> ZoneStrip::block_at(QPointF at) const {
    for (const bool bore : {true, false}) // bores lie within
        for (const auto& b : blocks_)
            if (b.bore == bore && b.rect.contains(at)) return b.zone;
    return {};
}

void ZoneStrip::add_zone() {
    const ResolvedPiece* piece = session_.resolved();
    if (!piece || stands_alone(piece->zones.front())) return;
    const std::size_t last = piece->chain(Where::outer).back(), at = last + 1;
    // a fresh zone, as wide as the last one ends; what that wears is not repeated
    const ResolvedZone& before = piece->zones[last];
    const auto text = [&](Length l) { return Number{length_text(l, session_.unit()), session_.unit()}; };
    Zone z;
    PlainForm plain;
    plain.diameter =
        before.gear() ? text(mm(1.8 * before.gear()->root_radius))
        : before.far_diameter != before.diameter
            ? text(before.far_diameter)
            : Number{field_text(session_.job(), session_.piece(), last, field::diameter, session_.unit()),
                     session_.unit()};
    z.form = plain;
    z.length = {length_text(piece->zones[last].diameter, session_.unit()), session_.unit()};
    const std::size_t p = session_.piece();
    if (session_.change([&](const Job& j) { return insert_zone(j, p, at, z); }).isEmpty())
        session_.select(p, at);
}

void ZoneStrip::add_bore(Where where) {
    const ResolvedPiece* piece = session_.resolved();
    if (!piece || stands_alone(piece->zones.front())) return;
    // half the narrowest outside, a third of the length: something to begin with
    double narrowest = 1e9;
    for (const auto& z : piece->zones)
        if (!z.in_bore()) narrowest = std::min(narrowest, 2 * in_mm(z.smallest_radius()));
    const auto chain = piece->chain(where);
    const auto text = [&](double millimetres) {
        const double round = std::max(0.1, std::round(millimetres * 10) / 10);
        return Number{length_text(mm(round), session_.unit()), session_.unit()};
    };
    Zone z;
    z.where = where;
    const std::size_t innermost = chain.empty()               ? 0
                                  : where == Where::near_bore ? chain.back()
                                                              : chain.front();
    z.form = PlainForm{
        .diameter = text(chain.empty() ? narrowest / 2 : in_mm(piece->zones[innermost].diameter) * 0.8)};
    z.length = text(in_mm(piece->length()) / 3);
    const std::size_t p = session_.piece(), at = piece->zones.size();
    if (session_.change([&](const Job& j) { return insert_zone(j, p, at, z); }).isEmpty())
        session_.select(p, at);
}

void ZoneStrip::mousePressEvent(QMouseEvent* e) {
    setFocus();
    if (e->button() != Qt::LeftButton) return;
    if (plus_.contains(e->position())) {
        add_zone();
        return;
    }
    if (const auto z = stretch_at(e->position())) {
        session_.select(session_.piece(), *z);
        stretch_left_ = 1e9;
        for (const auto& b : blocks_)
            stretch_left_ = std::min(stretch_left_, b.rect.left());
        stretching_ = z;
        grab_x_ = e->position().x();
        grab_length_ = in_mm(session_.resolved()->zones[*z].length);
        session_.begin_live();
        return;
    }
    if (const auto z = block_at(e->position())) session_.select(session_.piece(), *z);
}

void ZoneStrip::mouseMoveEvent(QMouseEvent* e) {
    if (stretching_) {
        const double grain = e->modifiers() & Qt::ShiftModifier ? 0.1 : 1.0;
        const bool inwards = session_.resolved()->zones[*stretching_].where == Where::far_bore;
        const double want =
            grab_length_ + (inwards ? -1 : 1) * (e->position().x() - grab_x_) / pixels_per_mm_;
        const double length = std::max(grain, std::round(want / grain) * grain);
        session_.edit(field::length, QString::fromStdString(length_text(mm(length), session_.unit())));
        return;
    }
    Canvas::mouseMoveEvent(e);
    setCursor(stretch_at(e->position()) ? Qt::SizeHorCursor : Qt::ArrowCursor);
}

void ZoneStrip::mouseReleaseEvent(QMouseEvent*) {
    if (!stretching_) return;
    stretching_.reset();
    session_.end_live();
    update();
}

void ZoneStrip::keyPressEvent(QKeyEvent* e) {
    const ResolvedPiece* piece = session_.resolved();
    if (!piece) return;
    const std::size_t p = session_.piece(), z = session_.zone();
    switch (e->key()) {
    case Qt::Key_Escape:
        if (stretching_) {
            stretching_.reset();
            session_.cancel_live();
        }
        break;
    case Qt::Key_Left:
        if (z > 0) {
            if (e->modifiers() & Qt::AltModifier)
                session_.change([&](const Job& j) { return move_zone(j, p, z, z - 1); });
            session_.select(p, z - 1);
        }
        break;
    case Qt::Key_Right:
        if (z + 1 < piece->zones.size()) {
            if (e->modifiers() & Qt::AltModifier)
                session_.change([&](const Job& j) { return move_zone(j, p, z, z + 1); });
            session_.select(p, z + 1);
        }
        break;
    case Qt::Key_Delete:
        session_.change([&](const Job& j) { return remove_zone(j, p, z); });
        break;
    default:
        Canvas::keyPressEvent(e);
    }
}

void ZoneStrip::contextMenuEvent(QContextMenuEvent* e) {
    const auto z = block_at(e->pos());
    if (!z) return;
    session_.select(session_.piece(), *z);
    const std::size_t p = session_.piece(), at = *z, n = session_.resolved()->zones.size();
    QMenu menu(this);
    menu.addAction("Split in two", this,
                   [=, this] { session_.change([&](const Job& j) { return split_zone(j, p, at); }); });
    menu.addAction("Move towards the near end\tAlt+Left", this,
                   [=, this] {
                       session_.change([&](const Job& j) { return move_zone(j, p, at, at - 1); });
                       session_.select(p, at - 1);
                   })
        ->setEnabled(at > 0);
    menu.addAction("Move towards the far end\tAlt+Right", this,
                   [=, this] {
                       session_.change([&](const Job& j) { return move_zone(j, p, at, at + 1); });
                       session_.select(p, at + 1);
                   })
        ->setEnabled(at + 1 < n);
    menu.addSeparator();
    const ResolvedZone& here = session_.resolved()->zones[at];
    const bool threaded = here.thread() && !here.in_bore();
    const auto relief = [=, this](bool far) {
        session_.change([&](const Job& j) { return add_relief_groove(j, p, at, far); });
    };
    menu.addAction("Relief groove at the near end (DIN 76)", this, [=] { relief(false); })
        ->setEnabled(threaded);
    menu.addAction("Relief groove at the far end (DIN 76)", this, [=] { relief(true); })
        ->setEnabled(threaded);
    menu.addSeparator();
    menu.addAction("Bore from the near end", this, [this] { add_bore(Where::near_bore); });
    menu.addAction("Bore from the far end", this, [this] { add_bore(Where::far_bore); });
    menu.addSeparator();
    menu.addAction("Remove\tDelete", this,
                   [=, this] { session_.change([&](const Job& j) { return remove_zone(j, p, at); }); })
        ->setEnabled(n > 1);
    menu.exec(e->globalPos());
}

} // namespace whorl::app
