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

    // What is to turn: by `pace` (rad) in about a second and a half, a gear by a tooth, and the mesh it is
    // in, if any. No pace: nothing turns.
    void look_at(double pace, const ShownMesh* mesh);
    double roll() const { return roll_; } // rad
    void set_roll(double roll);
    bool on() const { return timer_.isActive(); }
    void set(bool on);

signals:
    void rolled();

private:
    void go_on();

    double pace_ = 0;
    std::optional<double> reach_; // on a rack: the most either way, rad
    double roll_ = 0;
    bool back_ = false;
    QTimer timer_;
};

} // namespace whorl::app
