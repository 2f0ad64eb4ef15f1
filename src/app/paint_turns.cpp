#include "app/paint_turns.hpp"

#include <QApplication>
#include <QPointer>
#include <QTimer>
#include <deque>

namespace whorl::app {

namespace {

class Turns : public QObject {
public:
    explicit Turns(QObject* parent) : QObject(parent) {
        next_.setInterval(0); // fires once all that was typed and painted before is done
        connect(&next_, &QTimer::timeout, this, &Turns::take);
    }

    void ask(QWidget* view) {
        if (std::find(waiting_.begin(), waiting_.end(), view) == waiting_.end()) waiting_.emplace_back(view);
        next_.start();
    }

private:
    void take() {
        while (!waiting_.empty()) {
            const QPointer<QWidget> view = waiting_.front();
            waiting_.pop_front();
            if (!view || !view->isVisible()) continue; // one that is shown later is drawn then
            view->update();
            return;
        }
        next_.stop();
    }

    std::deque<QPointer<QWidget>> waiting_;
    QTimer next_;
};

} // namespace

void update_in_turn(QWidget* view) {
    const QWidget* focus = QApplication::focusWidget();
    if (focus && (focus == view || view->isAncestorOf(focus))) return view->update();
    static QPointer<Turns> turns;
    if (!turns) turns = new Turns(qApp); // goes with the application
    turns->ask(view);
}

} // namespace whorl::app
