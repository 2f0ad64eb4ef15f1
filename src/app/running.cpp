#include "app/running.hpp"

#include <algorithm>
#include <numbers>

namespace whorl::app {

Running::Running(QObject* parent) : QObject(parent) {
    timer_.setTimerType(Qt::PreciseTimer);
    timer_.setInterval(16);
    connect(&timer_, &QTimer::timeout, this, &Running::go_on);
}

void Running::look_at(int teeth, const ShownMesh* mesh) {
    teeth_ = teeth;
    reach_.reset();
    if (mesh && mesh->rack && mesh->mesh.meshes) reach_ = rack_reach(*mesh->rack) / mesh->mesh.first_radius;
    if (teeth_ == 0) set(false);
}

void Running::go_on() {
    // a tooth in about a second and a half, whatever the size
    const double step = 2 * std::numbers::pi / teeth_ * 0.011;
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
