#include "app/camera.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::app {

void Camera::look(Look l) {
    roll = 0;
    pan = {};
    zoom = 1;
    tilt = l == Look::oblique ? 20 : 0;
    yaw = l == Look::oblique ? 28 : l == Look::end ? 90 : 0;
}

std::optional<Look> Camera::looks() const {
    if (tilt == 0 && yaw == 0) return Look::side;
    if (tilt == 0 && yaw == 90) return Look::end;
    if (tilt == 20 && yaw == 28) return Look::oblique;
    return {};
}

QMatrix4x4 Camera::orientation() const {
    QMatrix4x4 m;
    m.rotate(static_cast<float>(tilt), 1, 0, 0);
    m.rotate(static_cast<float>(yaw), 0, 1, 0);
    const QMatrix4x4 lay(0, 0, 1, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 1);
    m = m * lay;
    m.rotate(static_cast<float>(roll), 0, 0, 1);
    return m;
}

QMatrix4x4 Camera::projection(QSizeF view, double depth) const {
    const double w = view.width() * pixel() / 2, h = view.height() * pixel() / 2;
    QMatrix4x4 p;
    p.ortho(static_cast<float>(-w - pan.x()), static_cast<float>(w - pan.x()),
            static_cast<float>(-h - pan.y()), static_cast<float>(h - pan.y()), static_cast<float>(-depth),
            static_cast<float>(depth));
    return p;
}

void Camera::drag(QPointF by, Qt::MouseButtons buttons, Qt::KeyboardModifiers keys) {
    if (buttons & Qt::MiddleButton || (buttons & Qt::LeftButton && keys & Qt::ShiftModifier)) {
        pan += QPointF(by.x() * pixel(), -by.y() * pixel());
    } else if (buttons & Qt::LeftButton) {
        roll = std::fmod(roll - by.x() * 0.5, 360);
        tilt = std::clamp(tilt + by.y() * 0.4, -90.0, 90.0);
    } else if (buttons & Qt::RightButton) {
        yaw = std::fmod(yaw + by.x() * 0.4, 360);
    }
}

void Camera::wheel(double notches, QPointF at, QSizeF view) {
    const double before = pixel();
    zoom = std::clamp(zoom * std::pow(1.0015, 120 * notches), 0.2, 200.0);
    const QPointF from_centre(at.x() - view.width() / 2, view.height() / 2 - at.y());
    pan += from_centre * (pixel() - before);
}

bool Camera::key(int key, bool fine) {
    const double step = fine ? 1 : 10;
    switch (key) {
    case Qt::Key_Left:
        roll += step;
        return true;
    case Qt::Key_Right:
        roll -= step;
        return true;
    case Qt::Key_Up:
        tilt = std::min(90.0, tilt + step);
        return true;
    case Qt::Key_Down:
        tilt = std::max(-90.0, tilt - step);
        return true;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        zoom = std::min(200.0, zoom * 1.25);
        return true;
    case Qt::Key_Minus:
        zoom = std::max(0.2, zoom / 1.25);
        return true;
    default:
        return false;
    }
}

} // namespace whorl::app
