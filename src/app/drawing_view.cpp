#include "app/drawing_view.hpp"

#include "app/paper_painter.hpp"
#include "drawing/scales.hpp"

#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QWheelEvent>
#include <cmath>

namespace whorl::app {

using namespace drawing;

DrawingView::DrawingView(Session& session, QWidget* parent) : Canvas(session, parent) {
    setAccessibleName("Drawing");
    worker_ = std::jthread([this](const std::stop_token& stop) { work(stop); });
    connect(&session_, &Session::changed, this, [this] { // it was another piece's
        if (chosen_ && chosen_->piece != session_.piece()) choose({});
    });
    // every change is previewed, if only from what was kept: before that it would be the old shape once more
    connect(&session_, &Session::previewed, this, &DrawingView::order);
}

DrawingView::~DrawingView() {
    worker_.request_stop();
    wake_.notify_all();
}

// --- made in a thread of its own ---

void DrawingView::order() {
    if (!isVisible() || !session_.has_piece()) return;
    const auto preview = session_.preview();
    if (!preview) return;
    const std::size_t piece = session_.piece();
    if (preview->piece.name != session_.job().pieces[piece].name) return; // of another piece still
    std::lock_guard lock(mutex_);
    next_ = Order{preview, session_.job().pieces[piece], piece, settings_of(session_.job(), piece)};
    ++asked_;
    wake_.notify_all();
}

void DrawingView::work(const std::stop_token& stop) {
    while (!stop.stop_requested()) {
        std::optional<Order> order;
        long serial = 0;
        {
            std::unique_lock lock(mutex_);
            wake_.wait(lock, stop, [&] { return next_.has_value(); });
            if (stop.stop_requested()) return;
            order.swap(next_);
            serial = asked_;
        }
        std::optional<DrawnSheet> sheet;
        QString why;
        try {
            sheet = draw_sheet(*order->preview, order->piece, order->index, order->settings);
        } catch (const std::exception& e) {
            why = QString::fromStdString(e.what());
        }
        QMetaObject::invokeMethod(
            this,
            [this, serial, sheet = std::move(sheet), why]() mutable { take(serial, std::move(sheet), why); },
            Qt::QueuedConnection);
    }
}

void DrawingView::take(long serial, std::optional<DrawnSheet> sheet, const QString& why) {
    drawn_ = std::max(drawn_, serial);
    why_ = why;
    if (sheet) sheet_ = std::move(sheet);
    update();
    emit drawn();
}

void DrawingView::showEvent(QShowEvent* e) {
    Canvas::showEvent(e);
    order();
}

// --- where it lies ---

void DrawingView::fit() {
    zoom_ = 1;
    off_ = {};
    update();
}

QTransform DrawingView::to_page() const {
    const double margin = 14, top = 30;
    const double w = sheet_ ? sheet_->paper.width : 210, h = sheet_ ? sheet_->paper.height : 297;
    const double fits = std::min((width() - 2 * margin) / w, (height() - top - margin) / h);
    const double k = std::max(0.05, fits * zoom_);
    const QPointF middle(width() / 2.0, (height() + top - margin) / 2);
    return sheet_to_page(sheet_ ? sheet_->paper : Paper{.width = w, .height = h},
                         middle + off_ - QPointF(w, h) * k / 2, k);
}

void DrawingView::wheelEvent(QWheelEvent* e) {
    if (!keep_typed()) return;
    const double by = std::pow(1.0015, e->angleDelta().y());
    const double next = std::clamp(zoom_ * by, 0.5, 40.0);
    const QPointF middle(width() / 2.0, height() / 2.0), at = e->position() - middle;
    off_ = at - (at - off_) * (next / zoom_);
    zoom_ = next;
    update();
}

// --- drawn ---

namespace {

QRectF rect_of(const Box& b, const QTransform& to_page) {
    return to_page.mapRect(QRectF(QPointF(b.left, b.bottom), QPointF(b.right, b.top)));
}

// Fields of the title block stand where they stand.
bool in_title_block(const Link& link) {
    return link.key.starts_with("drawing.") || link.key == "piece_name" || link.key == "finish";
}

Box box_of(const Text& t) {
    return t.room.empty() ? bounds(t) : t.room;
}

} // namespace

Canvas::Spot DrawingView::spot_for(const Text& t) const {
    const Link& link = *t.link;
    const std::size_t piece = session_.piece();
    const Job& job = session_.job();
    Spot s;
    s.key = QString::fromStdString(link.key);
    auto* self = const_cast<DrawingView*>(this);
    if (link.key.starts_with("drawing.")) {
        const std::string key = link.key.substr(8);
        const DrawingField* field = drawing_field(key);
        if (!field) return s;
        s.initial = QString::fromStdString(field->get(job, piece));
        s.tip = QString("%1. %2. Click to type.").arg(field->label, field->tip);
        if (field->choices)
            for (const std::string& word : field->choices())
                s.choices << QString::fromStdString(word);
        s.commit = [self, key, piece](const QString& typed) {
            return self->change(
                [&](const Job& j) { return with_drawing(j, piece, key, typed.toStdString()); });
        };
        return s;
    }
    if (link.key.starts_with("note ")) {
        const std::size_t note = static_cast<std::size_t>(std::stoul(link.key.substr(5))) - 1;
        s.initial = QString::fromStdString(t.words);
        s.tip = "Your own note. Click to type; drag to move; empty takes it away.";
        s.commit = [self, note, piece](const QString& typed) {
            return self->change(
                [&](const Job& j) { return with_note_words(j, piece, note, typed.toStdString()); });
        };
        return s;
    }
    if (link.key == "piece_name" || link.key == "finish") {
        const Field field = link.key == "finish" ? field::piece_finish : field::piece_name;
        s.initial = QString::fromStdString(field_text(job, piece, 0, field, session_.unit()));
        s.tip = link.key == "finish" ? "Material. Click to type." : "The piece's name. Click to type.";
        s.commit = [self, field, piece](const QString& typed) {
            return self->session_.edit(Edit{piece, 0, field, typed.toStdString(), self->session_.unit()});
        };
        return s;
    }
    if (link.zone && link.field && *link.zone < job.pieces[piece].zones.size()) {
        s.field = *link.field;
        try {
            s.initial =
                QString::fromStdString(field_text(job, piece, *link.zone, *link.field, session_.unit()));
        } catch (const std::exception&) {
            s.field = {};
        }
        s.tip = "Click to type; the piece follows. Drag to move, Delete takes it off the drawing.";
    } else {
        s.tip = "It follows from others. Drag to move, Delete takes it off the drawing.";
    }
    return s;
}

void DrawingView::draw(QPainter& p) {
    const Theme& t = theme();
    p.fillRect(rect(), t.panel);
    if (!session_.has_piece())
        return draw_hint(p, "The drawing of a piece stands here; Ctrl+Shift+N makes one.");
    if (!sheet_) return draw_hint(p, why_.isEmpty() ? QString("Drawing …") : why_);
    const QTransform page = to_page();
    const QRectF paper = rect_of({0, 0, sheet_->paper.width, sheet_->paper.height}, page);
    p.setPen(QPen(t.hairline, 1));
    p.setBrush(Qt::white); // paper is white in both themes
    p.drawRect(paper);
    for (const Text& text : sheet_->paper.texts)
        if (text.link && text.link->piece == session_.piece()) { // not of a sheet that is to be replaced
            const QRectF box = rect_of(box_of(text), page);
            if (chosen_ && *chosen_ == *text.link && !in_title_block(*text.link)) {
                p.setPen(Qt::NoPen);
                p.setBrush(QColor(0xD5, 0xE6, 0xE3));
                p.drawRoundedRect(box.adjusted(-2, -1, 2, 1), 2, 2);
            }
            Spot spot = spot_for(text);
            spot.rect = box;
            add_spot(std::move(spot));
        }
    paint_sheet(p, sheet_->paper, page, 0.6, session_.hovered(), QColor(0x2C, 0x6E, 0x68));
    if (held_ && dragged_) {
        QList<QLineF> guides;
        const QPointF by = snapped(now_ - pressed_, &guides);
        p.setPen(QPen(QColor(0x2C, 0x6E, 0x68), 1, Qt::DashLine));
        for (const QLineF& g : guides)
            p.drawLine(g);
        p.setBrush(QColor(0xD5, 0xE6, 0xE3, 0xB0));
        p.drawRect(rect_of(bounds(*held_), page).translated(by));
    }
    QString detail =
        QString("%1, %2").arg(sheet_->size.name, QString::fromStdString(scale_words(sheet_->scale)));
    if (sheet_->taken_off > 0) detail += QString(", %1 taken off").arg(sheet_->taken_off);
    for (const std::string& s : sheet_->left_out)
        detail += ". " + QString::fromStdString(s);
    if (!why_.isEmpty()) detail = why_;
    draw_title(p, "Drawing", detail);
}

// --- worked with ---

QString DrawingView::change(const std::function<Job(const Job&)>& how) {
    return session_.change(how);
}

const Text* DrawingView::text_at(QPointF at) const {
    if (!sheet_) return nullptr;
    const QTransform page = to_page();
    const Text* found = nullptr;
    for (const Text& t : sheet_->paper.texts)
        if (t.link && t.link->piece == session_.piece() &&
            rect_of(box_of(t), page).adjusted(-2, -2, 2, 2).contains(at))
            found = &t;
    return found;
}

QPointF DrawingView::snapped(QPointF by, QList<QLineF>* guides) const {
    const QTransform page = to_page();
    const double near = 4;
    const QPointF mine = rect_of(bounds(*held_), page).center() + by;
    double best_x = near, best_y = near;
    std::optional<QPointF> x_of, y_of;
    for (const Text& t : sheet_->paper.texts) {
        if (!t.link || *t.link == *held_->link || in_title_block(*t.link)) continue;
        const QPointF c = rect_of(bounds(t), page).center();
        if (const double d = std::abs(c.x() - mine.x()); d < best_x) best_x = d, x_of = c;
        if (const double d = std::abs(c.y() - mine.y()); d < best_y) best_y = d, y_of = c;
    }
    QPointF out = by;
    if (x_of) out.rx() += x_of->x() - mine.x();
    if (y_of) out.ry() += y_of->y() - mine.y();
    const QPointF there = mine + out - by;
    if (guides && x_of) *guides << QLineF(*x_of, QPointF(x_of->x(), there.y()));
    if (guides && y_of) *guides << QLineF(*y_of, QPointF(there.x(), y_of->y()));
    return out;
}

void DrawingView::mousePressEvent(QMouseEvent* e) {
    if (!keep_typed()) return;
    setFocus();
    pressed_ = now_ = e->position();
    dragged_ = false;
    if (e->button() == Qt::MiddleButton) {
        panning_ = true;
        return;
    }
    if (e->button() != Qt::LeftButton) return;
    if (const Text* t = text_at(e->position())) {
        held_ = *t;
        choose(*t->link);
        if (held_->link->zone && *held_->link->zone != session_.zone() &&
            *held_->link->zone < session_.job().pieces[session_.piece()].zones.size())
            session_.select(session_.piece(), *held_->link->zone);
    } else {
        choose({});
        panning_ = true;
    }
    update();
}

void DrawingView::mouseMoveEvent(QMouseEvent* e) {
    if (panning_) {
        off_ += e->position() - now_;
        now_ = e->position();
        update();
        return;
    }
    if (held_) {
        now_ = e->position();
        if (!in_title_block(*held_->link) && (dragged_ || QLineF(pressed_, now_).length() > 5)) {
            dragged_ = true;
            setCursor(Qt::SizeAllCursor);
            update();
        }
        return;
    }
    Canvas::mouseMoveEvent(e);
}

void DrawingView::drop(QPointF at) {
    const QPointF by = snapped(at - pressed_, nullptr) / to_page().m11();
    const Link link = *held_->link;
    change([&](const Job& j) { return with_moved(j, session_.piece(), link, {by.x(), -by.y()}); });
}

void DrawingView::mouseReleaseEvent(QMouseEvent* e) {
    panning_ = false;
    if (!held_) return;
    const bool moved = dragged_;
    if (moved) drop(e->position());
    const Link link = *held_->link;
    held_.reset();
    dragged_ = false;
    update();
    if (moved) return;
    // a click types over what stands there
    grab(); // the spots as they are now
    for (std::size_t i = 0; i < spots().size(); ++i)
        if (spots()[i].rect.adjusted(-2, -2, 2, 2).contains(e->position()) && spots()[i].typed() &&
            spots()[i].key.toStdString() == link.key) {
            open_editor(i);
            return;
        }
}

void DrawingView::mouseDoubleClickEvent(QMouseEvent* e) {
    if (!text_at(e->position())) fit();
}

void DrawingView::take_off() {
    if (!can_take_off()) return;
    const Link link = *chosen_;
    choose({});
    change([&](const Job& j) { return with_left_out(j, session_.piece(), link); });
}

void DrawingView::all_back() {
    change([&](const Job& j) { return with_all_back(j, session_.piece()); });
}

void DrawingView::choose(std::optional<Link> link) {
    if (chosen_ == link) return;
    chosen_ = std::move(link);
    update();
    emit touched();
}

bool DrawingView::can_take_off() const {
    return chosen_ && !in_title_block(*chosen_);
}

bool DrawingView::has_dimension() const {
    if (!chosen_ || !sheet_) return false;
    return std::ranges::any_of(sheet_->dimensions, [&](const Dimension& d) { return d.link == *chosen_; });
}

bool DrawingView::chosen_is_reference() const {
    const MovedItem* item =
        chosen_ ? moved_item(session_.job().pieces[session_.piece()].drawing, *chosen_) : nullptr;
    return item && item->reference;
}

void DrawingView::edit_limits() {
    if (!has_dimension() || !keep_typed()) return;
    const Link link = *chosen_;
    const std::size_t piece = session_.piece();
    for (const Text& t : sheet_->paper.texts) {
        if (!t.link || *t.link != link) continue;
        const MovedItem* item = moved_item(session_.job().pieces[piece].drawing, link);
        Spot s;
        s.key = QString::fromStdString(link.key);
        s.initial = item ? QString::fromStdString(item->limits) : QString();
        s.commit = [this, link, piece](const QString& typed) {
            return change([&](const Job& j) { return with_limits(j, piece, link, typed.toStdString()); });
        };
        open_editor(s, to_page().mapRect(QRectF(QPointF(bounds(t).left, bounds(t).bottom),
                                                QPointF(bounds(t).right, bounds(t).top))));
        return;
    }
}

void DrawingView::set_reference(bool on) {
    if (!has_dimension()) return;
    const Link link = *chosen_;
    change([&](const Job& j) { return with_reference(j, session_.piece(), link, on); });
}

void DrawingView::add_note() {
    if (!session_.has_piece() || !session_.resolved()) return;
    const double middle = in_mm(session_.resolved()->length()) / 2,
                 high = in_mm(session_.resolved()->largest_radius());
    change([&](const Job& j) {
        return with_note(j, session_.piece(),
                         {.words = "note", .tip_x = middle, .tip_y = high, .x = 14, .y = 16});
    });
}

bool DrawingView::edit_drawing_field(const QString& key) {
    grab();
    for (std::size_t i = 0; i < spots().size(); ++i)
        if (spots()[i].key == "drawing." + key || spots()[i].key == key) {
            open_editor(i);
            return true;
        }
    return false;
}

void DrawingView::keyPressEvent(QKeyEvent* e) {
    switch (e->key()) {
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        if (can_take_off()) return take_off();
        break;
    case Qt::Key_Escape:
        if (held_ && dragged_) {
            held_.reset();
            dragged_ = false;
        }
        choose({});
        update();
        return;
    case Qt::Key_Left:
    case Qt::Key_Right:
    case Qt::Key_Up:
    case Qt::Key_Down: {
        if (!can_take_off()) break;
        const double step = e->modifiers() & Qt::ShiftModifier ? 0.25 : 1;
        const At by = e->key() == Qt::Key_Left    ? At{-step, 0}
                      : e->key() == Qt::Key_Right ? At{step, 0}
                      : e->key() == Qt::Key_Up    ? At{0, step}
                                                  : At{0, -step};
        const Link link = *chosen_;
        change([&](const Job& j) { return with_moved(j, session_.piece(), link, by); });
        return;
    }
    case Qt::Key_0:
    case Qt::Key_Home:
        return fit();
    default:
        break;
    }
    Canvas::keyPressEvent(e);
}

void DrawingView::contextMenuEvent(QContextMenuEvent* e) {
    if (!session_.has_piece() || !keep_typed()) return;
    if (const Text* t = text_at(e->pos())) choose(*t->link);
    update();
    QMenu menu(this);
    menu.addAction("Take it off the drawing", this, &DrawingView::take_off)->setEnabled(can_take_off());
    menu.addAction("Limits or fit…", this, &DrawingView::edit_limits)->setEnabled(has_dimension());
    QAction* reference = menu.addAction("In brackets, for information", this,
                                        [this] { set_reference(!chosen_is_reference()); });
    reference->setEnabled(has_dimension());
    reference->setCheckable(true);
    reference->setChecked(chosen_is_reference());
    menu.addAction("Bring all back", this, &DrawingView::all_back)
        ->setEnabled(anything_moved(session_.job().pieces[session_.piece()].drawing));
    menu.addAction("Add a note", this, &DrawingView::add_note);
    menu.addSeparator();
    for (const DrawingField& f : drawing_fields()) {
        if (!f.choices) continue;
        QMenu* choices = menu.addMenu(f.label);
        const std::string now = f.get(session_.job(), session_.piece());
        for (const std::string& word : f.choices()) {
            QAction* a = choices->addAction(QString::fromStdString(word), this, [this, &f, word] {
                change([&](const Job& j) { return with_drawing(j, session_.piece(), f.key, word); });
            });
            a->setCheckable(true);
            a->setChecked(word == now);
        }
    }
    menu.addSeparator();
    menu.addAction("The whole sheet", this, &DrawingView::fit);
    menu.exec(e->globalPos());
}

} // namespace whorl::app
