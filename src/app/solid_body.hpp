// One piece on the graphics card: its triangles, the edges a draughtsman would draw, and the hatched face
// where it is cut lengthwise.
#pragma once

#include "build/build.hpp"
#include "pair/standing.hpp"

#include <QMatrix4x4>
#include <QOpenGLBuffer>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <QOpenGLVertexArrayObject>
#include <memory>
#include <optional>

namespace whorl::app {

// The cutting plane through `point`; what lies on the side of the normal goes. `across` lies in the plane; both are unit
// vectors. In the scene's axes.
struct Cut {
    QVector3D normal, across, point;
};

// What all bodies of one picture share.
struct Scene {
    QMatrix4x4 to_view, to_clip; // from the scene's axes, mm
    std::optional<Cut> cut;
    double pixel = 1, ratio = 1; // mm of one pixel, device pixels of one pixel
    double edges = 1;            // how strongly they are drawn, 0: not at all
    bool coarse = false; // by the coarse triangles of what has them, where a pixel is as large as their grain
};

struct BodyLook {
    QVector3D colour;
    std::vector<QVector3D> zones = {}; // each zone's own, if any has one; else all have `colour`
    double selected_zone = -1;         // tinted, if the piece has others
    bool hatched_back = false;         // the other way round, as adjacent parts are: ISO 128-50
};

// In its finish, and its zones in theirs; `shade`: 1, less for what stands behind.
BodyLook look_of(const Piece& piece, double shade);
QMatrix4x4 matrix_of(const Standing& place);

class BodyPrograms {
public:
    bool link(); // false where the driver does not take them

private:
    friend class SolidBody;
    QOpenGLShaderProgram surface_, line_, cap_;
};

// Every call needs the context it was created in to be current.
class SolidBody {
public:
    void create();
    void destroy();

    // With a grain (mm) it has coarse triangles too: all points of a cube of that side are one.
    void show(std::shared_ptr<const Preview> preview, double grain = 0);
    double grain() const { return grain_; }
    const Preview* preview() const { return preview_.get(); }
    bool made() const { return preview_ && preview_->made(); }

    // `place` takes the piece's axes to the scene's.
    void draw(QOpenGLFunctions_3_3_Core& gl, BodyPrograms& programs, const Scene& scene,
              const QMatrix4x4& place, const BodyLook& look);

private:
    void upload(QOpenGLFunctions_3_3_Core& gl);
    void upload_coarse(QOpenGLFunctions_3_3_Core& gl);
    // Where the mesh crosses the plane n·x = d, points two by two.
    std::vector<float> contour(const QVector3D& normal, float d) const;

    std::shared_ptr<const Preview> preview_;
    bool stale_ = true;
    QOpenGLBuffer triangles_{QOpenGLBuffer::VertexBuffer}, lines_{QOpenGLBuffer::VertexBuffer},
        plane_{QOpenGLBuffer::VertexBuffer}, outline_{QOpenGLBuffer::VertexBuffer},
        corners_{QOpenGLBuffer::IndexBuffer}, coarse_{QOpenGLBuffer::VertexBuffer},
        coarse_corners_{QOpenGLBuffer::IndexBuffer};
    QOpenGLVertexArrayObject coarse_vao_, triangles_vao_, lines_vao_, plane_vao_, outline_vao_;
    double grain_ = 0;
    int coarse_count_ = 0, triangle_corners_ = 0, line_vertices_ = 0, outline_vertices_ = 0;
    QVector4D outlined_; // the plane that the outline is of, in the piece's own axes
    QVector3D middle_;   // of its box
    float reach_ = 1;    // from there to its furthest point
};

} // namespace whorl::app
