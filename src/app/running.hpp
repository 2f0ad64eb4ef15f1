// How far the first gear, or a single one, has turned, and turning it on by itself: on a rack from one of its
// ends to the other and back. At 0 a gear stands in the middle of its rack.
#pragma once

#include "app/pair_look.hpp"

#include <QObject>
#include <QTimer>

namespace whorl::app {

class Running final : public QObject {
    Q_OBJECT
public:
    explicit Running(QObject* parent = nullptr);

    // What is to turn: so many teeth, and the mesh they are in, if any. No teeth: nothing turns.
    void look_at(int teeth, const ShownMesh* mesh);
    double roll() const { return roll_; } // rad
    void set_roll(double roll);
    bool on() const { return timer_.isActive(); }
    void set(bool on);

signals:
    void rolled();

private:
    void go_on();

    int teeth_ = 0;
    std::optional<double> reach_; // on a rack: the most either way, rad
    double roll_ = 0;
    bool back_ = false;
    QTimer timer_;
};

} // namespace whorl::app
