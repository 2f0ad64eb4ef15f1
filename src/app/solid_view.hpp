// The solid, steered by its axis: drag sideways rolls it, up and down tilts it, the wheel zooms at the
// pointer.
//
// Draws our own triangulation with OpenGL 3.3. The lengthwise cut is a half taken away: the stencil buffer
// counts which pixels of the cutting plane lie inside, and those are hatched as ISO 128-50 asks for.
#pragma once

#include "app/session.hpp"

#include <QMatrix4x4>
#include <QOpenGLBuffer>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLVertexArrayObject>
#include <QOpenGLWidget>

namespace whorl::app {

class SolidView final : public QOpenGLWidget, protected QOpenGLFunctions_3_3_Core {
    Q_OBJECT
public:
    explicit SolidView(Session& session, QWidget* parent = nullptr);
    ~SolidView() override;

    // What the view needs of OpenGL; to be set as the default before the application starts.
    static QSurfaceFormat format_needed();

    enum class Look { side, end, oblique };
    void look(Look look);
    void set_cut(bool on);
    bool cut() const { return cut_; }
    void turn_cut(double degrees);
    long frames() const { return frames_; }

signals:
    void cut_changed();
    void example_asked(const QString& designation); // one of the examples of an empty job was clicked

protected:
    void initializeGL() override;
    void paintGL() override;
    void resizeGL(int, int) override {}
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void leaveEvent(QEvent*) override;

private:
    void upload();
    void fit();
    QMatrix4x4 orientation() const; // piece axes to view axes, without position
    QMatrix4x4 projection() const;
    std::optional<std::size_t> zone_at(QPointF at) const;
    void draw_overlay();
    void draw_scene(const QMatrix4x4& rotation, const QMatrix4x4& mvp);

    Session& session_;
    std::shared_ptr<const Preview> shown_;
    std::size_t shown_piece_ = 0;
    QOpenGLShaderProgram surface_, line_, cap_;
    QOpenGLBuffer triangles_{QOpenGLBuffer::VertexBuffer}, lines_{QOpenGLBuffer::VertexBuffer},
        plane_{QOpenGLBuffer::VertexBuffer}, outline_{QOpenGLBuffer::VertexBuffer};
    QOpenGLVertexArrayObject triangles_vao_, lines_vao_, plane_vao_, outline_vao_;
    int triangle_vertices_ = 0, line_vertices_ = 0, outline_vertices_ = 0;
    bool stale_ = true;
    bool ready_ = false;

    double roll_ = 0, tilt_ = 20, yaw_ = 28; // degrees
    double zoom_ = 1;                        // relative to the fit
    QPointF pan_;                            // in view mm
    double fit_mm_per_pixel_ = 0.1;
    bool cut_ = false;
    double cut_angle_ = 0; // degrees
    QPointF pressed_, last_;
    bool moved_ = false;
    long frames_ = 0;
    QRectF words_[3], cut_word_;
    std::vector<std::pair<QRectF, QString>> examples_;
};

} // namespace whorl::app
