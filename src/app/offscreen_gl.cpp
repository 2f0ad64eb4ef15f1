#include "app/offscreen_gl.hpp"

#include <QOpenGLFunctions>

namespace whorl::app {

bool OffscreenGl::start() {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    context_.setFormat(format);
    if (!context_.create()) return false;
    surface_.setFormat(context_.format());
    surface_.create();
    const auto version = context_.format().version();
    return surface_.isValid() && version >= format.version() && make_current();
}

bool OffscreenGl::begin(QSize pixels, int samples) {
    if (!make_current() || pixels.isEmpty()) return false;
    if (!buffer_ || buffer_->size() != pixels || samples_ != samples) {
        QOpenGLFramebufferObjectFormat format;
        format.setAttachment(QOpenGLFramebufferObject::CombinedDepthStencil);
        format.setSamples(samples);
        samples_ = samples;
        buffer_ = std::make_unique<QOpenGLFramebufferObject>(pixels, format);
    }
    if (!buffer_->bind()) return false;
    context_.functions()->glViewport(0, 0, pixels.width(), pixels.height());
    return true;
}

QImage OffscreenGl::end() {
    QImage image = buffer_->toImage();
    buffer_->release();
    return image;
}

} // namespace whorl::app
