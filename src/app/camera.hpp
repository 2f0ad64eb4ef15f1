// From where something solid is seen: rolled about its axis, tilted and swung; nearer and farther at the pointer.
#pragma once

#include <QMatrix4x4>
#include <QPointF>
#include <QSizeF>
#include <Qt>
#include <optional>

namespace whorl::app {

enum class Look { side, end, oblique };

struct Camera {
    double roll = 0, tilt = 20, yaw = 28; // degrees
    double zoom = 1;                      // relative to the fit
    QPointF pan;                          // in mm of the view
    double fit = 0.1;                     // mm of a pixel at zoom 1

    void look(Look look);
    std::optional<Look> looks() const;          // none: in between
    double pixel() const { return fit / zoom; } // mm of one

    // The scene's axes to the view's, without position: the axis (z) to the right, x up, y to the viewer, then turned.
    QMatrix4x4 orientation() const;
    QMatrix4x4 projection(QSizeF view, double depth) const; // depth: mm before and behind the middle

    // A drag by so many pixels: the left button rolls and tilts, the right one swings, the middle one or Shift pans.
    void drag(QPointF by, Qt::MouseButtons buttons, Qt::KeyboardModifiers keys);
    void wheel(double notches, QPointF at, QSizeF view); // what is under the pointer stays there
    bool key(int key, bool fine);                        // arrows, + and -; false for any other
};

} // namespace whorl::app
