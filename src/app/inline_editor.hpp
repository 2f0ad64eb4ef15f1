// The field that opens on a dimension or on a row of the sheet: what is typed shows at once in all views, as
// long as it can be understood; Enter keeps it as one step of history, Tab goes on, Esc steps back. A
// sentence that refuses stays under the field until it is mended.
#pragma once

#include "app/session.hpp"

#include <QLineEdit>
#include <functional>
#include <optional>

class QLabel;

namespace whorl::app {

// What can be typed over, and how.
struct Input {
    QString key;                // value key, shared by all views for lighting
    std::optional<Field> field; // none: follows, can't be typed
    QString initial;            // what the editor starts with
    QStringList choices;        // offered while typing
    QString tip;
    std::function<QString(const QString&)> commit; // instead of a field; gives the error sentence or nothing
    bool typed() const { return field || commit; }
};

class InlineEditor final : public QLineEdit {
    Q_OBJECT
public:
    InlineEditor(Session& session, QWidget* parent);

    void open(const Input& input, QRect where);
    bool is_open() const { return isVisible(); }
    const Input& input() const { return input_; }
    bool keep();  // false: it was refused and stays open
    void leave(); // as it was before

signals:
    void stepped(bool forward); // Tab or Shift+Tab: the owner keeps this and opens the next
    void left();

protected:
    bool event(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void focusOutEvent(QFocusEvent*) override;

private:
    void refuse(const QString& sentence);

    Session& session_;
    Input input_;
    QLabel* refusal_;
};

} // namespace whorl::app
