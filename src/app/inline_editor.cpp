#include "app/inline_editor.hpp"

#include "app/locale.hpp"
#include "app/theme.hpp"

#include <QCompleter>
#include <QKeyEvent>
#include <QLabel>

namespace whorl::app {

InlineEditor::InlineEditor(Session& session, QWidget* parent)
    : QLineEdit(parent), session_(session), refusal_(new QLabel(parent)) {
    hide();
    setFont(text_font(13));
    setObjectName("dimension");
    refusal_->hide();
    refusal_->setObjectName("refusal");
    refusal_->setFont(text_font(11));
    refusal_->setWordWrap(true);
    refusal_->setMargin(5);
    connect(this, &QLineEdit::textEdited, this, [this](const QString& text) {
        if (!input_.field) return;
        session_.begin_live();
        (void)session_.edit(*input_.field,
                            with_points(text)); // half a number may make no sense yet; Enter says so
    });
}

void InlineEditor::open(const Input& input, QRect where) {
    refusal_->hide();
    input_ = input;
    setGeometry(where);
    setCompleter(nullptr); // the editor owns the old one and deletes it
    if (!input.choices.isEmpty()) {
        auto* c = new QCompleter(input.choices, this);
        c->setCaseSensitivity(Qt::CaseInsensitive);
        c->setCompletionMode(QCompleter::UnfilteredPopupCompletion);
        setCompleter(c);
    }
    setText(input.initial);
    setToolTip(input.tip);
    setAccessibleName(input.tip);
    show();
    raise();
    selectAll();
    setFocus();
    session_.hover(input.key);
}

void InlineEditor::refuse(const QString& sentence) {
    const Theme& t = theme();
    refusal_->setStyleSheet(QString("QLabel{background:%1;color:%2;border:1px solid %2;border-radius:3px}")
                                .arg(t.field.name(), t.stop.name()));
    refusal_->setText(sentence);
    const QWidget* room = parentWidget();
    const int w = std::min(room->width() - 16, 320), h = refusal_->heightForWidth(w);
    QPoint at(geometry().left(), geometry().bottom() + 4);
    at.setX(std::clamp(at.x(), 8, std::max(8, room->width() - w - 8)));
    if (at.y() + h > room->height()) at.setY(geometry().top() - h - 4);
    refusal_->setGeometry(QRect(at, QSize(w, h)));
    refusal_->show();
    refusal_->raise();
}

bool InlineEditor::keep() {
    if (!isVisible()) return true;
    const QString typed = with_points(text());
    if (typed != input_.initial) {
        const QString why = input_.commit ? input_.commit(typed) : session_.edit(*input_.field, typed);
        if (!why.isEmpty()) {
            session_.cancel_live(); // back to the last good state; what was typed stays in the field
            setCursorPosition(static_cast<int>(
                std::min<std::size_t>(session_.error_position(), static_cast<std::size_t>(typed.size()))));
            refuse(why);
            return false;
        }
        session_.end_live();
    }
    leave();
    return true;
}

void InlineEditor::leave() {
    session_.cancel_live(); // nothing, once it is kept
    refusal_->hide();
    if (session_.hovered() == input_.key) session_.hover({});
    const bool had_focus = hasFocus();
    hide();
    if (had_focus) emit left();
}

bool InlineEditor::event(QEvent* e) {
    if (e->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(e)->key();
        if (key == Qt::Key_Tab || key == Qt::Key_Backtab) {
            emit stepped(key == Qt::Key_Tab);
            return true;
        }
    }
    return QLineEdit::event(e);
}

void InlineEditor::keyPressEvent(QKeyEvent* e) {
    switch (e->key()) {
    case Qt::Key_Escape:
        return leave();
    case Qt::Key_Return:
    case Qt::Key_Enter:
        (void)keep();
        return;
    default:
        refusal_->hide();
        QLineEdit::keyPressEvent(e);
    }
}

void InlineEditor::focusOutEvent(QFocusEvent* e) {
    QLineEdit::focusOutEvent(e);
    if (!isVisible() || e->reason() == Qt::PopupFocusReason || e->reason() == Qt::ActiveWindowFocusReason)
        return;
    if (!keep()) leave();
}

} // namespace whorl::app
