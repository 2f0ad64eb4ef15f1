#include "app/canvas.hpp"

#include "app/paint_turns.hpp"
#include "quantity/expression.hpp"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>

namespace whorl::app {

Canvas::Canvas(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), editor_(new InlineEditor(session, this)) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    connect(editor_, &InlineEditor::stepped, this, &Canvas::step);
    connect(editor_, &InlineEditor::left, this, [this] { setFocus(); });
    connect(&session_, &Session::changed, this, [this] {
        leave_knobs();
        update_in_turn(this);
    });
    connect(&session_, &Session::hover_changed, this, qOverload<>(&QWidget::update));
}

Canvas::Spot Canvas::spot_of(const QString& key, std::optional<Field> field, const QString& tip) const {
    Spot s;
    s.key = key;
    s.field = field;
    s.tip = tip;
    if (field) s.initial = session_.text_of(*field);
    return s;
}

void Canvas::ink(QPainter& p, const QString& key) const {
    p.setPen(QPen(session_.hovered() == key ? theme().active : theme().ink, 0.8));
    p.setBrush(Qt::NoBrush);
}

QRectF Canvas::dimension(QPainter& p, QPointF a, QPointF b, Edges edges, QPointF text_at, const QString& text,
                         Spot spot, double text_angle) {
    ink(p, spot.key);
    for (const auto& [edge, end] : {std::pair{edges.a, a}, std::pair{edges.b, b}}) {
        const QPointF way = end - edge;
        const double length = std::hypot(way.x(), way.y());
        if (length > 4) p.drawLine(edge + way * (3 / length), end + way * (5 / length));
    }
    dimension_line(p, a, b);
    spot.line = {a, b};
    return dimension_text(p, text_at, text, std::move(spot), text_angle);
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
    if (spot.typed()) {
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
    knobs_.clear();
    draw(p);
}

// Another zone's knobs are others: a key must not move one by what the last zone's words were.
void Canvas::leave_knobs() {
    const std::pair at(session_.piece(), session_.zone());
    if (at == knobs_of_) return;
    knobs_of_ = at;
    chosen_.clear();
    knobs_.clear();
}

const Canvas::Spot* Canvas::spot_at(QPointF at) const {
    for (const auto& s : spots_)
        if (s.rect.adjusted(-2, -2, 2, 2).contains(at)) return &s;
    return nullptr;
}

void Canvas::add_knob(QPainter& p, Knob knob) {
    const Theme& t = theme();
    const bool lit = knob.key == chosen_;
    p.setPen(QPen(lit ? t.active : t.part, 1.6));
    p.setBrush(lit && !knob.ring ? t.active : t.field);
    if (knob.ring)
        p.drawEllipse(knob.at, 3.5, 3.5);
    else
        p.drawRect(QRectF(knob.at.x() - 4, knob.at.y() - 4, 8, 8));
    p.setBrush(Qt::NoBrush);
    knobs_.push_back(std::move(knob));
}

bool Canvas::keep_typed() {
    return editor_->keep();
}

const Canvas::Knob* Canvas::knob_at(QPointF at) const {
    const Knob* nearest = nullptr;
    double least = 9;            // px
    for (const Knob& k : knobs_) // squares before rings where both are in reach
        if (const double d = QLineF(k.at, at).length() + (k.ring ? 2 : 0); d < least) nearest = &k, least = d;
    return nearest;
}

void Canvas::mouseReleaseEvent(QMouseEvent*) {
    if (!held_knob_) return;
    held_knob_.reset();
    session_.end_live();
    update();
}

void Canvas::keyPressEvent(QKeyEvent* e) {
    if (held_knob_ && e->key() == Qt::Key_Escape) {
        held_knob_.reset();
        session_.cancel_live();
        update();
        return;
    }
    const auto chosen =
        std::find_if(knobs_.begin(), knobs_.end(), [&](const Knob& k) { return k.key == chosen_; });
    if (chosen_.isEmpty() || chosen == knobs_.end() || held_knob_ || editing())
        return QWidget::keyPressEvent(e);
    const Knob knob = *chosen; // drawn anew by what it does
    const auto nudge = [&](int right, int up) {
        if (knob.nudge) knob.nudge(right, up);
    };
    switch (e->key()) {
    case Qt::Key_Escape:
        chosen_.clear();
        break;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        if (!knob.remove) return QWidget::keyPressEvent(e);
        knob.remove();
        chosen_.clear();
        break;
    case Qt::Key_Left:
        nudge(-1, 0);
        break;
    case Qt::Key_Right:
        nudge(1, 0);
        break;
    case Qt::Key_Up:
        nudge(0, 1);
        break;
    case Qt::Key_Down:
        nudge(0, -1);
        break;
    default:
        return QWidget::keyPressEvent(e);
    }
    update();
}

void Canvas::mouseMoveEvent(QMouseEvent* e) {
    if (held_knob_) {
        const Knob held = *held_knob_;
        held.drag(e->position(), e->modifiers() & Qt::ShiftModifier);
        return;
    }
    if (knob_at(e->position())) {
        setCursor(Qt::SizeAllCursor);
        return;
    }
    const Spot* s = spot_at(e->position());
    session_.hover(s ? s->key : QString());
    setCursor(s && s->typed() ? Qt::IBeamCursor : Qt::ArrowCursor);
}

void Canvas::leaveEvent(QEvent*) {
    session_.hover({});
}

void Canvas::mousePressEvent(QMouseEvent* e) {
    if (!editor_->keep()) return;
    if (const Knob* k = e->button() == Qt::LeftButton ? knob_at(e->position()) : nullptr; k && k->drag) {
        held_knob_ = *k;
        chosen_ = k->key;
        setFocus();
        session_.begin_live();
        update();
        return;
    }
    if (!chosen_.isEmpty()) {
        chosen_.clear();
        update();
    }
    for (std::size_t i = 0; i < spots_.size(); ++i)
        if (spots_[i].rect.adjusted(-2, -2, 2, 2).contains(e->position()) && spots_[i].typed()) {
            open_editor(i);
            return;
        }
}

bool Canvas::event(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(e);
        const Spot* s = spot_at(help->pos());
        if (const Knob* k = knob_at(help->pos()); k && !k->tip.isEmpty())
            QToolTip::showText(help->globalPos(), k->tip, this);
        else if (s && !s->tip.isEmpty())
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
    const Spot s = spots_[spot]; // the drawn spots change while it is typed
    open_editor(s, s.rect);
}

void Canvas::open_editor(const Spot& s, QRectF where) {
    const int w = std::max(84, static_cast<int>(number_width(editor_->font(), s.initial)) + 24);
    QRect r = where.toRect();
    r = QRect(r.center().x() - w / 2, r.center().y() - 13, w, 26);
    r.moveLeft(std::clamp(r.left(), 2, std::max(2, width() - r.width() - 2)));
    r.moveTop(std::clamp(r.top(), 2, std::max(2, height() - r.height() - 2)));
    editor_->open(s, r);
    update();
}

void Canvas::step(bool forward) {
    const std::size_t from = edited_;
    const QString key = editor_->input().key;
    if (!editor_->keep()) return;
    grab(); // the spots after the change
    const std::size_t n = spots_.size();
    if (n == 0) return;
    std::size_t at = from;
    for (std::size_t i = 0; i < n; ++i)
        if (spots_[i].key == key && !key.isEmpty() && spots_[i].typed()) {
            at = i;
            break;
        }
    for (std::size_t k = 1; k <= n; ++k) {
        const std::size_t i = forward ? (at + k) % n : (at + n - k % n) % n;
        if (spots_[i].typed()) {
            open_editor(i);
            return;
        }
    }
}

} // namespace whorl::app
