// One line that is either quiet or says the worst thing in a full sentence, with its remedy as a button;
// opens to all.
#pragma once

#include "app/session.hpp"

#include <QWidget>

class QLabel;
class QPushButton;

namespace whorl::app {

class ChecksLine final : public QWidget {
    Q_OBJECT
public:
    explicit ChecksLine(Session& session, QWidget* parent = nullptr);

    // Something to say that is no finding: a file that was refused, an export that is done.
    void say(const QString& sentence, bool bad);
    void say_working(const QString& sentence); // while something long is under way
    void clear_message();
    QString sentence() const { return sentence_; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    void refresh();
    void open_all();
    Session& session_;
    QPushButton* remedy_;
    QString sentence_, state_, message_;
    bool message_bad_ = false, message_working_ = false;
    int status_ = 0;
    QRectF sentence_rect_, state_rect_;
};

} // namespace whorl::app
