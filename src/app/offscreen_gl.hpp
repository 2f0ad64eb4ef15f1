// OpenGL drawn into an image. A widget that holds a picture of its own makes the whole window be put together
// by OpenGL for every repaint of any other view; an image is painted like everything else.
#pragma once

#include <QImage>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFramebufferObject>
#include <memory>

namespace whorl::app {

class OffscreenGl {
public:
    // Makes context and surface, and the context current. False if there is no OpenGL 3.3 (core) here.
    bool start();
    bool make_current() { return context_.isValid() && context_.makeCurrent(&surface_); }
    // Between these two what is drawn goes into an image of so many pixels, so many samples to each.
    bool begin(QSize pixels, int samples = 4);
    QImage end();

private:
    QOpenGLContext context_;
    QOffscreenSurface surface_;
    std::unique_ptr<QOpenGLFramebufferObject> buffer_;
    int samples_ = 0;
};

} // namespace whorl::app
