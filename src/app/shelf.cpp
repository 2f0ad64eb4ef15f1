#include "app/shelf.hpp"

#include "app/elevation.hpp"
#include "app/theme.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace whorl::app {

namespace {
constexpr double card_height = 92, gap = 6, top = 34, foot = 40;
}

Shelf::Shelf(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setMinimumWidth(132);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("Shelf");
    connect(&session_, &Session::changed, this, [this] {
        refresh();
        show_selected();
        update();
    });
    refresh();
}

// Only what has changed is looked at again: a keystroke in a job of many pieces resolves one.
void Shelf::refresh() {
    const Job& job = session_.job();
    const bool anew = kept_.job.values != job.values || kept_.job.unit != job.unit;
    const Names names = resolve_names(job);
    const std::size_t n = job.pieces.size(), before = anew ? 0 : std::min(n, kept_.pieces.size());
    std::vector<bool> changed(n, true);
    kept_.pieces.resize(n);
    kept_.worst.resize(n);
    for (std::size_t i = 0; i < n; ++i) {
        changed[i] = i >= before || kept_.job.pieces[i] != job.pieces[i];
        if (!changed[i]) continue;
        kept_.pieces[i] = resolve_piece(job.pieces[i], names);
        const auto findings = check_piece(kept_.pieces[i], i, session_.unit());
        kept_.worst[i] = findings.empty() ? 0 : stops(findings) ? 2 : 1;
    }
    const bool pairs_changed = anew || kept_.job.pairs != job.pairs ||
                               std::any_of(job.pairs.begin(), job.pairs.end(), [&](const Pair& pair) {
                                   return changed[pair.first.piece] || changed[pair.second.piece];
                               });
    if (pairs_changed) {
        kept_.pair_worst.clear();
        const auto misfits = check_pairs(job, n);
        for (const Pair& pair : job.pairs)
            kept_.pair_worst.push_back(std::any_of(misfits.begin(), misfits.end(), [&](const Finding& f) {
                return ZoneRef{f.piece, f.zone} == pair.second;
            }));
    }
    kept_.job = job;
}

QRectF Shelf::card(std::size_t i) const {
    return {8, top + double(i) * (card_height + gap) - scroll_, width() - 16.0, card_height};
}

QRectF Shelf::pair_card(std::size_t i) const {
    const double below = top + double(kept_.pieces.size()) * (card_height + gap) - scroll_ + 22;
    return {8, below + double(i) * 42, width() - 16.0, 40};
}

void Shelf::show_selected() {
    if (!session_.has_piece()) return;
    const QRectF c = card(session_.piece());
    if (c.top() < top) scroll_ -= top - c.top();
    if (c.bottom() > height() - foot) scroll_ += c.bottom() - (height() - foot);
}

namespace {

// The toothed zone of a piece that is wider than long.
const ResolvedZone* disc_gear(const ResolvedPiece& piece) {
    for (const auto& z : piece.zones)
        if (z.gear() && !z.gear()->half_outline.empty() && piece.length() < 2 * piece.largest_radius())
            return &z;
    return nullptr;
}

void draw_end(QPainter& p, const ResolvedPiece& piece, const ResolvedZone& zone, QPointF centre,
              double reach) {
    const Theme& t = theme();
    const ResolvedGear& g = *zone.gear();
    const double k = reach / in_mm(piece.largest_radius());
    QPolygonF teeth;
    for (int i = 0; i < g.spec.teeth; ++i)
        for (const bool down : {false, true}) {
            QPolygonF half;
            for (const TransverseCurve& c : g.half_outline)
                for (const double at : {c.from, (c.from + c.to) / 2, c.to}) {
                    const TransversePoint q = point_at(c, at);
                    const double a = i * g.pitch_angle() + (down ? g.pitch_angle() - q.angle() : q.angle());
                    half << centre + k * q.radius() * QPointF(std::cos(a), std::sin(a));
                }
            if (down) std::reverse(half.begin(), half.end());
            teeth << half;
        }
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    path.addPolygon(teeth);
    path.closeSubpath();
    if (zone.in_bore()) path.addEllipse(centre, reach, reach);
    for (const auto& z : piece.zones)
        if (z.in_bore() && !z.gear()) {
            QPainterPath hole;
            hole.addEllipse(centre, in_mm(z.outer_radius()) * k, in_mm(z.outer_radius()) * k);
            if (z.keyway()) {
                QPainterPath slot;
                const double half = in_mm(z.keyway()->width) / 2 * k;
                slot.addRect(QRectF(0, -half, in_mm(z.outer_radius() + z.keyway()->depth) * k, 2 * half));
                QTransform place;
                place.translate(centre.x(), centre.y());
                place.rotateRadians(z.keyway()->at);
                hole = hole.united(place.map(slot));
            }
            path.addPath(hole);
        }
    p.setPen(QPen(t.part, g.spec.teeth > 60 ? 0.7 : 1.1));
    p.setBrush(t.part_fill);
    p.drawPath(path);
}

} // namespace

void Shelf::label(QPainter& p, const QRectF& c, std::size_t i, bool selected) {
    const Theme& t = theme();
    const Piece& spec = session_.job().pieces[i];
    p.setFont(text_font(13, selected ? Weight::medium : Weight::regular));
    p.setPen(t.ink);
    const double text_w = c.width() - 20;
    p.drawText(QPointF(c.left() + 12, c.bottom() - 23),
               QFontMetricsF(p.font()).elidedText(QString::fromStdString(spec.name), Qt::ElideRight, text_w));
    draw_status(p, {c.right() - 14, c.top() + 14}, static_cast<Status>(kept_.worst[i]));
    p.setFont(text_font(11));
    p.setPen(t.muted);
    const std::size_t shown = session_.telling_zone(i);
    QString what = QString::fromStdString(zone_designation(spec.zones[shown], session_.job()));
    p.drawText(QPointF(c.left() + 12, c.bottom() - 8),
               QFontMetricsF(p.font()).elidedText(what, Qt::ElideRight, c.width() - 20));
}

void Shelf::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.fillRect(rect(), t.panel);
    // one scale for all side views, so that sizes compare: the longest piece fills the card
    double longest = 1e-3, thickest = 1e-3;
    for (const auto& piece : kept_.pieces) {
        if (disc_gear(piece)) continue; // drawn from the end, as large as the card
        longest = std::max(longest, in_mm(piece.length()));
        const auto& rack = piece.zones.front().rack();
        thickest = std::max(thickest, rack ? in_mm(rack->spec.height) : 2 * in_mm(piece.largest_radius()));
    }
    p.save();
    p.setClipRect(QRectF(0, top - 4, width(), height() - top - foot + 8));
    for (std::size_t i = 0; i < kept_.pieces.size(); ++i) {
        const QRectF c = card(i);
        if (c.bottom() < 0 || c.top() > height()) continue;
        const bool selected = i == session_.piece();
        if (selected) {
            p.setPen(QPen(t.active, 1.6));
            p.setBrush(t.paper);
            p.drawRoundedRect(c.adjusted(1, 1, -1, -1), 4, 4);
        }
        const ResolvedPiece& piece = kept_.pieces[i];
        const double room_w = c.width() - 34, room_h = 40;
        const double k = std::min(room_w / longest, room_h / thickest);
        const double x0 = c.left() + 12, mid = c.top() + 9 + room_h / 2;
        if (const ResolvedZone* gear =
                disc_gear(piece)) { // a disc's side says nothing: it is seen from its end
            draw_end(p, piece, *gear, {c.left() + 12 + room_h / 2, mid}, room_h / 2);
            label(p, c, i, selected);
            continue;
        }
        if (const ResolvedCoil* coil = piece.zones.front().coil()) {
            draw_coil_side(p, coil_side(*coil), QTransform(k, 0, 0, -k, x0, mid), t.part);
            label(p, c, i, selected);
            continue;
        }
        QPainterPath path;
        for (const auto& z : piece.zones) {
            if (z.in_bore()) continue;
            if (z.rack()) {
                const double half = in_mm(z.rack()->spec.height) / 2;
                QPolygonF side;
                for (const auto& q : rack_side(*z.rack(), 1.6 / k))
                    side << QPointF(x0 + q.x() * k, mid + (half - q.y()) * k);
                path.addPolygon(side);
                path.closeSubpath();
                continue;
            }
            const QPolygonF upper = silhouette(z, 2.2 / k);
            QPolygonF shape;
            for (const auto& q : upper)
                shape << QPointF(x0 + q.x() * k, mid - q.y() * k);
            for (auto it = upper.rbegin(); it != upper.rend(); ++it)
                shape << QPointF(x0 + it->x() * k, mid + it->y() * k);
            path.addPolygon(shape);
            path.closeSubpath();
        }
        p.setPen(QPen(t.part, 1.2));
        p.setBrush(t.part_fill);
        p.drawPath(path);
        // fine threads: the simplified manner of ISO 6410, a thin line at the root
        p.setPen(QPen(t.part, 0.7));
        for (const auto& z : piece.zones) {
            if (z.in_bore()) { // hidden edges
                p.setPen(QPen(t.part, 0.8, Qt::DashLine));
                for (const double side : {-1.0, 1.0}) {
                    const double y = mid + side * in_mm(z.outer_radius()) * k;
                    p.drawLine(QPointF(x0 + in_mm(z.start) * k, y), QPointF(x0 + in_mm(z.end()) * k, y));
                }
                p.setPen(QPen(t.part, 0.7));
                continue;
            }
            if (z.rack()) { // a thin line at the roots where the teeth are too fine
                const double y =
                    mid + (in_mm(z.rack()->spec.height) / 2 - z.rack()->body() - z.rack()->root_height) * k;
                if (z.rack()->pitch() < 1.6 / k)
                    p.drawLine(QPointF(x0, y), QPointF(x0 + in_mm(z.length) * k, y));
                continue;
            }
            if (z.outline() != Outline::round) // the edge between two flats
                p.drawLine(QPointF(x0 + in_mm(z.start) * k, mid), QPointF(x0 + in_mm(z.end()) * k, mid));
            if (z.thread() && (z.simplified() || z.thread()->section.pitch < 2.2 / k) &&
                z.thread()->section.root_radius > 0)
                for (const double side : {-1.0, 1.0}) {
                    const double y = mid + side * z.thread()->section.root_radius * k;
                    p.drawLine(QPointF(x0 + in_mm(z.start) * k, y), QPointF(x0 + in_mm(z.end()) * k, y));
                }
        }
        if (!piece.zones.front().rack()) {
            p.setPen(QPen(t.muted, 0.8, Qt::DashDotLine));
            p.drawLine(QPointF(x0 - 5, mid), QPointF(x0 + in_mm(piece.length()) * k + 5, mid));
        }
        label(p, c, i, selected);
    }
    for (std::size_t i = 0; i < session_.job().pairs.size(); ++i) {
        const QRectF c = pair_card(i);
        if (c.bottom() < 0 || c.top() > height()) continue;
        if (i == 0) {
            p.setFont(text_font(11, Weight::semibold));
            p.setPen(t.muted);
            p.drawText(QPointF(16, c.top() - 6), "Pairs");
        }
        const Pair& pair = session_.job().pairs[i];
        const auto name = [&](ZoneRef at) {
            return QString::fromStdString(session_.job().pieces[at.piece].name);
        };
        // two names joined by a line
        p.setPen(QPen(t.active, 1.4));
        p.drawLine(QPointF(c.left() + 14, c.top() + 11), QPointF(c.left() + 14, c.top() + 29));
        p.setBrush(t.active);
        for (const double y : {11.0, 29.0})
            p.drawEllipse(QPointF(c.left() + 14, c.top() + y), 2.4, 2.4);
        p.setFont(text_font(11));
        p.setPen(t.ink);
        const QFontMetricsF m(p.font());
        p.drawText(QPointF(c.left() + 22, c.top() + 15),
                   m.elidedText(name(pair.first), Qt::ElideRight, c.width() - 48));
        p.drawText(QPointF(c.left() + 22, c.top() + 33),
                   m.elidedText(name(pair.second), Qt::ElideRight, c.width() - 48));
        draw_status(p, {c.right() - 14, c.center().y()}, static_cast<Status>(kept_.pair_worst[i]));
    }
    p.restore();
    p.setFont(text_font(11, Weight::semibold));
    p.setPen(t.muted);
    p.drawText(QPointF(16, 20), "Pieces");
    p.setFont(text_font(13));
    p.setPen(t.active);
    p.drawText(QPointF(16, height() - 16), "+ New piece");
    p.setPen(QPen(t.hairline, 1));
    p.drawLine(QPointF(width() - 0.5, 0), QPointF(width() - 0.5, height()));
}

void Shelf::mousePressEvent(QMouseEvent* e) {
    if (e->position().y() > height() - foot) {
        emit new_piece_asked();
        return;
    }
    for (std::size_t i = 0; i < kept_.pieces.size(); ++i)
        if (card(i).contains(e->position())) session_.select(i, session_.telling_zone(i));
    for (std::size_t i = 0; i < session_.job().pairs.size(); ++i)
        if (pair_card(i).contains(e->position())) {
            const Pair& pair = session_.job().pairs[i];
            // the one that is not looked at yet
            const ZoneRef to = session_.piece() == pair.first.piece ? pair.second : pair.first;
            return session_.select_pair(i, to);
        }
}

void Shelf::wheelEvent(QWheelEvent* e) {
    const double content = double(kept_.pieces.size()) * (card_height + gap) +
                           (kept_.pair_worst.empty() ? 0 : 22 + 42 * double(kept_.pair_worst.size()));
    scroll_ = std::clamp(scroll_ - e->angleDelta().y() / 2.0, 0.0,
                         std::max(0.0, content - (height() - top - foot)));
    update();
}

void Shelf::keyPressEvent(QKeyEvent* e) {
    const std::size_t i = session_.piece();
    if (e->key() == Qt::Key_Down && i + 1 < kept_.pieces.size())
        session_.select(i + 1, session_.telling_zone(i + 1));
    else if (e->key() == Qt::Key_Up && i > 0)
        session_.select(i - 1, session_.telling_zone(i - 1));
    else if (!e->text().isEmpty() && e->text().at(0).isPrint() &&
             !(e->modifiers() & (Qt::ControlModifier | Qt::AltModifier)))
        find(e->text());
    else
        QWidget::keyPressEvent(e);
}

// What is typed within a second of each other finds the next piece whose name or designation holds it.
void Shelf::find(const QString& typed) {
    if (!typed_at_.isValid() || typed_at_.elapsed() > 1000) typed_.clear();
    typed_at_.restart();
    const bool again = !typed_.isEmpty() && typed_ == typed; // the same letter goes on to the next
    if (!again) typed_ += typed;
    const std::size_t n = kept_.pieces.size(),
                      first = session_.piece() + (again || typed_.size() == 1 ? 1 : 0);
    for (std::size_t k = 0; k < n; ++k) {
        const std::size_t i = (first + k) % n;
        const Piece& piece = session_.job().pieces[i];
        const std::size_t zone = session_.telling_zone(i);
        const QString words =
            QString::fromStdString(piece.name + " " + zone_designation(piece.zones[zone], session_.job()));
        if (words.contains(typed_, Qt::CaseInsensitive)) return session_.select(i, zone);
    }
}

} // namespace whorl::app
