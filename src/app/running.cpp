#include "app/running.hpp"

#include <algorithm>

namespace whorl::app {

Running::Running(QObject* parent) : QObject(parent) {
    timer_.setTimerType(Qt::PreciseTimer);
    timer_.setInterval(16);
    connect(&timer_, &QTimer::timeout, this, &Running::go_on);
}

void Running::look_at(double pace, const ShownMesh* mesh) {
    pace_ = pace;
    reach_.reset();
    if (mesh && mesh->rack && mesh->mesh.meshes) reach_ = rack_reach(*mesh->rack) / mesh->mesh.first_radius;
    if (pace_ == 0) set(false);
}

void Running::go_on() {
    const double step = pace_ * 0.011;
    const double before = roll_;
    set_roll(roll_ + (back_ ? -step : step));
    if (roll_ == before) back_ = !back_; // at the end of a rack
}

void Running::set_roll(double roll) {
    roll_ = reach_ ? std::clamp(roll, -*reach_, *reach_) : roll;
    emit rolled();
}

void Running::set(bool on) {
    if (on == this->on()) return;
    back_ = false;
    set_roll(roll_); // a rack may have become shorter
    on ? timer_.start() : timer_.stop();
    emit rolled();
}

} // namespace whorl::app
