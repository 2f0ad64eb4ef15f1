#include "app/canvas.hpp"

#include "app/locale.hpp"
#include "quantity/expression.hpp"

#include <QCompleter>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QStringListModel>
#include <QToolTip>

namespace whorl::app {

Canvas::Canvas(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), editor_(new QLineEdit(this)) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    editor_->hide();
    editor_->setFont(text_font(13));
    editor_->installEventFilter(this);
    editor_->setObjectName("dimension");
    connect(editor_, &QLineEdit::textEdited, this, [this](const QString& text) {
        if (!open_.field) return;
        session_.begin_live();
        (void)session_.edit(*open_.field,
                            with_points(text)); // half a number may make no sense yet; Enter says so
    });
    connect(&session_, &Session::changed, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::hover_changed, this, qOverload<>(&QWidget::update));
}

Canvas::Spot Canvas::spot_of(const QString& key, std::optional<Field> field, const QString& tip) const {
    Spot s;
    s.key = key;
    s.field = field;
    s.tip = tip;
    if (field)
        s.initial = QString::fromStdString(
            field_text(session_.job(), session_.piece(), session_.zone(), *field, session_.unit(),
                       session_.mesh() ? std::optional(session_.mesh()->pair) : std::nullopt));
    return s;
}

QString Canvas::shown(double millimetres) const {
    return QString::fromStdString(
        number_text(in_unit(mm(millimetres), session_.unit()), session_.unit() == LengthUnit::inch ? 4 : 3));
}

QString Canvas::turns_text(double turns) {
    return QString::fromStdString(number_text(turns, 3)) + (turns == 1 ? " turn" : " turns");
}

void Canvas::draw_hint(QPainter& p, const QString& sentence) {
    p.setFont(text_font(13));
    p.setPen(theme().muted);
    p.drawText(QRectF(rect()).adjusted(48, 30, -48, -10), Qt::AlignCenter | Qt::TextWordWrap, sentence);
}

void Canvas::draw_title(QPainter& p, const QString& title, const QString& detail) {
    p.setFont(text_font(11, Weight::semibold));
    p.setPen(theme().muted);
    p.drawText(QPointF(16, 20), title);
    const double x = 16 + QFontMetricsF(p.font()).horizontalAdvance(title) + 8;
    p.setFont(text_font(11));
    p.drawText(QPointF(x, 20), QFontMetricsF(p.font()).elidedText(detail, Qt::ElideRight, width() - x - 12));
}

QRectF Canvas::dimension_text(QPainter& p, QPointF centre, const QString& text, Spot spot, double angle) {
    const Theme& t = theme();
    const QFont font = p.font();
    const QFontMetricsF m(font);
    const double w = number_width(font, text) + 8, h = m.height() + 2;
    const bool lit = !spot.key.isEmpty() && spot.key == session_.hovered();
    p.save();
    p.translate(centre);
    if (angle != 0) p.rotate(angle);
    const QRectF box(-w / 2, -h / 2, w, h);
    p.setPen(Qt::NoPen);
    p.setBrush(lit ? t.active_tint : t.paper);
    p.drawRoundedRect(box, 3, 3);
    if (spot.field || spot.commit) {
        // what can be typed over is underlined
        p.setPen(QPen(lit ? t.active : t.hairline, 1));
        p.drawLine(QPointF(-w / 2 + 4, h / 2 - 1), QPointF(w / 2 - 4, h / 2 - 1));
    }
    p.setPen(lit ? t.active : t.ink);
    draw_number(p, w / 2 - 4, m.ascent() - m.height() / 2, text);
    p.restore();
    QRectF on_page = box.translated(centre);
    if (angle != 0) on_page = QRectF(centre.x() - h / 2, centre.y() - w / 2, h, w);
    spot.rect = on_page;
    add_spot(std::move(spot));
    return on_page;
}

void Canvas::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    spots_.clear();
    draw(p);
    if (editor_->isVisible() && !error_.isEmpty()) {
        // the sentence stays under the field until it is mended
        const Theme& t = theme();
        p.setFont(text_font(11));
        const double w = std::min<double>(width() - 16, 320);
        const QRectF room(0, 0, w - 12, 200);
        const QRectF text = QFontMetricsF(p.font()).boundingRect(room, Qt::TextWordWrap, error_);
        QRectF box(0, 0, w, text.height() + 10);
        QPointF at(editor_->geometry().left(), editor_->geometry().bottom() + 5);
        at.setX(std::clamp<double>(at.x(), 8, std::max(8.0, width() - w - 8)));
        if (at.y() + box.height() > height()) at.setY(editor_->geometry().top() - box.height() - 4);
        box.moveTopLeft(at);
        p.setPen(QPen(t.stop, 1));
        p.setBrush(t.field);
        p.drawRoundedRect(box, 3, 3);
        p.setPen(t.stop);
        p.drawText(box.adjusted(6, 5, -6, -5), Qt::TextWordWrap, error_);
    }
}

const Canvas::Spot* Canvas::spot_at(QPointF at) const {
    for (const auto& s : spots_)
        if (s.rect.adjusted(-2, -2, 2, 2).contains(at)) return &s;
    return nullptr;
}

void Canvas::mouseMoveEvent(QMouseEvent* e) {
    const Spot* s = spot_at(e->position());
    session_.hover(s ? s->key : QString());
    setCursor(s && (s->field || s->commit) ? Qt::IBeamCursor : Qt::ArrowCursor);
}

void Canvas::leaveEvent(QEvent*) {
    session_.hover({});
}

void Canvas::mousePressEvent(QMouseEvent* e) {
    if (editing() && !commit_editor()) return;
    for (std::size_t i = 0; i < spots_.size(); ++i)
        if (spots_[i].rect.adjusted(-2, -2, 2, 2).contains(e->position()) &&
            (spots_[i].field || spots_[i].commit)) {
            open_editor(i);
            return;
        }
}

bool Canvas::event(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(e);
        const Spot* s = spot_at(help->pos());
        if (s && !s->tip.isEmpty())
            QToolTip::showText(help->globalPos(), s->tip, this);
        else
            QToolTip::hideText();
        return true;
    }
    return QWidget::event(e);
}

bool Canvas::edit_field(Field field) {
    if (spots_.empty()) grab(); // not painted yet
    for (std::size_t i = 0; i < spots_.size(); ++i)
        if (spots_[i].field == field) {
            open_editor(i);
            return true;
        }
    return false;
}

void Canvas::open_editor(std::size_t spot) {
    edited_ = spot;
    error_.clear();
    open_ = spots_[spot];
    const Spot& s = open_;
    QRect r = s.rect.toRect();
    const int w = std::max(84, static_cast<int>(number_width(editor_->font(), s.initial)) + 24);
    r = QRect(r.center().x() - w / 2, r.center().y() - 13, w, 26);
    if (s.rect.width() > 100)
        r = QRect(s.rect.right() - std::max<double>(w, 120), s.rect.center().y() - 13,
                  std::max<double>(w, 120), 26);
    r.moveLeft(std::clamp(r.left(), 2, std::max(2, width() - r.width() - 2)));
    r.moveTop(std::clamp(r.top(), 2, std::max(2, height() - r.height() - 2)));
    editor_->setGeometry(r);
    editor_->setCompleter(nullptr); // the editor owns the old one and deletes it
    if (!s.choices.isEmpty()) {
        auto* c = new QCompleter(s.choices, editor_);
        c->setCaseSensitivity(Qt::CaseInsensitive);
        c->setCompletionMode(QCompleter::UnfilteredPopupCompletion);
        editor_->setCompleter(c);
    }
    editor_->setText(s.initial);
    editor_->setToolTip(s.tip);
    editor_->show();
    editor_->selectAll();
    editor_->setFocus();
    session_.hover(s.key);
    update();
}

bool Canvas::commit_editor() {
    if (!editor_->isVisible()) return true;
    const QString text = with_points(editor_->text());
    if (text != open_.initial) {
        const QString why = open_.commit ? open_.commit(text) : session_.edit(*open_.field, text);
        if (!why.isEmpty()) {
            session_.cancel_live(); // back to the last good state; what was typed stays in the field
            error_ = why;
            editor_->setCursorPosition(static_cast<int>(
                std::min<std::size_t>(session_.error_position(), static_cast<std::size_t>(text.size()))));
            update();
            return false;
        }
        session_.end_live();
    }
    close_editor();
    return true;
}

void Canvas::close_editor() {
    session_.cancel_live(); // nothing, once it is kept
    error_.clear();
    if (session_.hovered() == open_.key) session_.hover({});
    const bool had_focus = editor_->hasFocus();
    editor_->hide();
    if (had_focus) setFocus();
    update();
}

void Canvas::step(bool forward) {
    const std::size_t from = edited_;
    const QString key = open_.key;
    if (!commit_editor()) return;
    grab(); // the spots after the change
    const std::size_t n = spots_.size();
    if (n == 0) return;
    std::size_t at = from;
    for (std::size_t i = 0; i < n; ++i)
        if (spots_[i].key == key && !key.isEmpty() && (spots_[i].field || spots_[i].commit)) {
            at = i;
            break;
        }
    for (std::size_t k = 1; k <= n; ++k) {
        const std::size_t i = forward ? (at + k) % n : (at + n - k % n) % n;
        if (spots_[i].field || spots_[i].commit) {
            open_editor(i);
            return;
        }
    }
}

bool Canvas::focusNextPrevChild(bool next) {
    if (editing()) {
        step(next);
        return true;
    }
    return QWidget::focusNextPrevChild(next);
}

bool Canvas::eventFilter(QObject* o, QEvent* e) {
    if (o != editor_) return QWidget::eventFilter(o, e);
    if (e->type() == QEvent::KeyPress) {
        auto* k = static_cast<QKeyEvent*>(e);
        switch (k->key()) {
        case Qt::Key_Escape:
            close_editor();
            return true;
        case Qt::Key_Return:
        case Qt::Key_Enter:
            commit_editor();
            return true;
        case Qt::Key_Tab:
            step(true);
            return true;
        case Qt::Key_Backtab:
            step(false);
            return true;
        default:
            error_.clear();
            break;
        }
    }
    if (e->type() == QEvent::FocusOut && editor_->isVisible()) {
        const auto reason = static_cast<QFocusEvent*>(e)->reason();
        if (reason != Qt::PopupFocusReason && reason != Qt::ActiveWindowFocusReason && !commit_editor())
            close_editor();
    }
    return QWidget::eventFilter(o, e);
}

} // namespace whorl::app
