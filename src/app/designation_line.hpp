// One text field that understands the trade's designations, completes while typing and says what it didn't
// understand.
#pragma once

#include "app/session.hpp"

#include <QLineEdit>

class QListWidget;

namespace whorl::app {

class DesignationLine final : public QLineEdit {
    Q_OBJECT
public:
    explicit DesignationLine(Session& session, QWidget* parent = nullptr);

    // The next Enter starts a new piece instead of re-specifying the zone.
    void ask_for_new_piece();
    QString hint() const { return hint_; }

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void focusInEvent(QFocusEvent*) override;
    void focusOutEvent(QFocusEvent*) override;

private:
    std::string written() const; // the text, decimal commas of the locale read as points
    void show_zone();
    void text_edited();
    void offer();
    void accept(bool new_piece);

    Session& session_;
    QListWidget* list_;
    QString hint_;
    bool bad_ = false;
    int bad_at_ = -1;
    bool new_piece_ = false;
};

} // namespace whorl::app
