#include "app/shelf.hpp"

#include "app/elevation.hpp"
#include "app/paint_turns.hpp"
#include "app/theme.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace whorl::app {

namespace {
constexpr double card_height = 50, gap = 2, top = 30, foot = 38, pair_height = 36;
}

Shelf::Shelf(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setMinimumWidth(132);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("Shelf");
    connect(&session_, &Session::changed, this, [this] {
        refresh();
        show_selected();
        update_in_turn(this);
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
    kept_.drawings.resize(n);
    for (std::size_t i = 0; i < n; ++i) {
        changed[i] = i >= before || kept_.job.pieces[i] != job.pieces[i];
        if (!changed[i]) continue;
        kept_.pieces[i] = resolve_piece(job.pieces[i], names);
        kept_.drawings[i] = {};
        const auto findings = check_piece(kept_.pieces[i], i, session_.unit());
        kept_.worst[i] = findings.empty() ? 0 : stops(findings) ? 2 : 1;
    }
    // pairs of what has changed; all, when pairs came or went
    const bool pairs_anew = anew || kept_.job.pairs != job.pairs;
    kept_.pair_worst.resize(job.pairs.size());
    for (std::size_t i = 0; i < job.pairs.size(); ++i) {
        const Pair& pair = job.pairs[i];
        if (!pairs_anew && !changed[pair.first.piece] && !changed[pair.second.piece]) continue;
        const auto misfits = check_pairs(job, pair.second.piece);
        kept_.pair_worst[i] = std::any_of(misfits.begin(), misfits.end(), [&](const Finding& f) {
            return ZoneRef{f.piece, f.zone} == pair.second;
        });
    }
    kept_.job = job;
}

QRectF Shelf::card(std::size_t i) const {
    return {8, top + double(i) * (card_height + gap) - scroll_, width() - 16.0, card_height};
}

QRectF Shelf::pair_card(std::size_t i) const {
    const double below = top + double(kept_.pieces.size()) * (card_height + gap) - scroll_ + 20;
    return {8, below + double(i) * (pair_height + gap), width() - 16.0, pair_height};
}

void Shelf::show_selected() {
    if (!session_.has_piece()) return;
    const QRectF c = card(session_.piece());
    if (c.top() < top) scroll_ -= top - c.top();
    if (c.bottom() > height() - foot) scroll_ += c.bottom() - (height() - foot);
}

void Shelf::draw_card(QPainter& p, const QRectF& c, std::size_t i) {
    const Theme& t = theme();
    const bool selected = i == session_.piece();
    if (selected) {
        p.setPen(QPen(t.active, 1.6));
        p.setBrush(t.paper);
        p.drawRoundedRect(c.adjusted(1, 1, -1, -1), 4, 4);
    }
    p.setFont(text_font(11));
    const QFontMetricsF small(p.font());
    const QString size = largest_size(kept_.pieces[i], session_.unit());
    const double size_w = small.horizontalAdvance(size);
    // drawn once; its lines may stand out of the room a little
    const QRectF room(c.left() + 10, c.top() + 5, c.width() - 30 - size_w, 23);
    const QRectF around = room.adjusted(-8, -3, 8, 3);
    Drawing& drawing = kept_.drawings[i];
    if (drawing.image.isNull() || drawing.dark != t.dark || drawing.size != around.size()) {
        const double fine = devicePixelRatioF();
        drawing = {QPixmap((around.size() * fine).toSize()), around.size(), t.dark};
        drawing.image.setDevicePixelRatio(fine);
        drawing.image.fill(Qt::transparent);
        QPainter on_it(&drawing.image);
        on_it.setRenderHint(QPainter::Antialiasing);
        draw_elevation(on_it, kept_.pieces[i], QRectF(QPointF(8, 3), room.size()));
    }
    p.drawPixmap(around.topLeft(), drawing.image);
    p.setPen(t.muted);
    p.drawText(QPointF(c.right() - 10 - size_w, c.top() + 15), size);
    draw_status(p, {c.right() - 14, c.bottom() - 12}, static_cast<Status>(kept_.worst[i]));
    p.setFont(text_font(13, selected ? Weight::medium : Weight::regular));
    p.setPen(t.ink);
    p.drawText(QPointF(c.left() + 10, c.bottom() - 7),
               QFontMetricsF(p.font()).elidedText(QString::fromStdString(session_.job().pieces[i].name),
                                                  Qt::ElideRight, c.width() - 34));
}

void Shelf::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.fillRect(rect(), t.panel);
    p.save();
    p.setClipRect(QRectF(0, top - 4, width(), height() - top - foot + 8));
    for (std::size_t i = 0; i < kept_.pieces.size(); ++i) {
        const QRectF c = card(i);
        if (c.bottom() < 0 || c.top() > height()) continue;
        draw_card(p, c, i);
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
        p.drawLine(QPointF(c.left() + 14, c.top() + 10), QPointF(c.left() + 14, c.top() + 26));
        p.setBrush(t.active);
        for (const double y : {10.0, 26.0})
            p.drawEllipse(QPointF(c.left() + 14, c.top() + y), 2.4, 2.4);
        p.setFont(text_font(11));
        p.setPen(t.ink);
        const QFontMetricsF m(p.font());
        p.drawText(QPointF(c.left() + 22, c.top() + 14),
                   m.elidedText(name(pair.first), Qt::ElideRight, c.width() - 48));
        p.drawText(QPointF(c.left() + 22, c.top() + 30),
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
    const double content =
        double(kept_.pieces.size()) * (card_height + gap) +
        (kept_.pair_worst.empty() ? 0 : 20 + (pair_height + gap) * double(kept_.pair_worst.size()));
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
