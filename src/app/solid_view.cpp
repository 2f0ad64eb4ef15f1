#include "app/solid_view.hpp"

#include "app/theme.hpp"
#include "quantity/expression.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>
#include <limits>

namespace whorl::app {
namespace {

constexpr const char* surface_vertex = R"(#version 330 core
layout(location=0) in vec3 position; layout(location=1) in vec3 normal; layout(location=2) in float zone;
uniform mat4 mvp; uniform mat3 turn; uniform vec4 cut;
out vec3 n; flat out float z; out float gl_ClipDistance[1];
void main(){ gl_Position = mvp*vec4(position,1); n = turn*normal; z = zone; gl_ClipDistance[0] = dot(cut,vec4(position,1)); })";
constexpr const char* surface_fragment = R"(#version 330 core
in vec3 n; flat in float z; out vec4 colour;
uniform vec3 part; uniform vec3 active_colour; uniform float selected; uniform float tint;
void main(){
  vec3 N = normalize(n); if(!gl_FrontFacing) N = -N;
  vec3 key = normalize(vec3(-0.45,0.75,0.62)), fill = normalize(vec3(0.7,-0.25,0.5));
  float d = max(dot(N,key),0.0)*0.52 + max(dot(N,fill),0.0)*0.20 + (0.5+0.5*N.y)*0.16 + 0.34;
  vec3 h = normalize(key+vec3(0,0,1)); float s = pow(max(dot(N,h),0.0),40.0)*0.22;
  vec3 base = abs(z-selected)<0.5 ? mix(part,active_colour,tint) : part;
  colour = vec4(base*d*1.12 + vec3(s), 1); })";
constexpr const char* line_vertex = R"(#version 330 core
layout(location=0) in vec3 position; uniform mat4 mvp; uniform vec4 cut; uniform float lift; out float gl_ClipDistance[1];
void main(){ gl_Position = mvp*vec4(position,1); gl_Position.z -= lift; gl_ClipDistance[0] = dot(cut,vec4(position,1)); })";
constexpr const char* line_fragment = R"(#version 330 core
out vec4 colour; uniform vec4 ink; void main(){ colour = ink; })";
constexpr const char* cap_vertex = R"(#version 330 core
layout(location=0) in vec2 position; uniform mat4 mvp; uniform vec3 across; out vec2 at;
void main(){ at = position; gl_Position = mvp*vec4(across*position.y + vec3(0,0,1)*position.x,1); })";
// thin lines at 45°, smoothed over one pixel
constexpr const char* cap_fragment = R"(#version 330 core
in vec2 at; out vec4 colour; uniform vec3 ground; uniform vec3 ink; uniform float spacing; uniform float pixel;
void main(){ float v = (at.x-at.y)*0.70710678; float d = abs(fract(v/spacing)-0.5)*spacing;
  float line = 1.0-smoothstep(0.1*pixel,1.0*pixel,abs(d)); colour = vec4(mix(ground,ink,line*0.55),1); })";

QVector3D vec(const QColor& c) {
    return {c.redF(), c.greenF(), c.blueF()};
}

} // namespace

QSurfaceFormat SolidView::format_needed() {
    QSurfaceFormat f;
    f.setVersion(3, 3);
    f.setProfile(QSurfaceFormat::CoreProfile);
    f.setDepthBufferSize(24);
    f.setStencilBufferSize(8);
    f.setSamples(4);
    return f;
}

SolidView::SolidView(Session& session, QWidget* parent) : QOpenGLWidget(parent), session_(session) {
    setFormat(format_needed());
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("Solid");
    setMinimumSize(240, 160);
    connect(&session_, &Session::previewed, this, [this] {
        const auto preview = session_.preview();
        const bool other = shown_piece_ != session_.piece();
        shown_piece_ = session_.piece();
        // the last good geometry of a piece stays while a finding stops
        if (!preview || preview->made() || other || !shown_) shown_ = preview;
        stale_ = true;
        if (other) {
            zoom_ = 1;
            pan_ = {};
        }
        update();
    });
    connect(&session_, &Session::changed, this, qOverload<>(&QWidget::update));
}

SolidView::~SolidView() {
    makeCurrent();
    for (auto* b : {&triangles_, &lines_, &plane_, &outline_})
        b->destroy();
    doneCurrent();
}

void SolidView::look(Look l) {
    roll_ = 0;
    pan_ = {};
    zoom_ = 1;
    switch (l) {
    case Look::side:
        tilt_ = 0, yaw_ = 0;
        break;
    case Look::end:
        tilt_ = 0, yaw_ = 90;
        break;
    case Look::oblique:
        tilt_ = 20, yaw_ = 28;
        break;
    }
    update();
}

void SolidView::set_cut(bool on) {
    cut_ = on;
    emit cut_changed();
    update();
}

void SolidView::turn_cut(double degrees) {
    cut_angle_ = std::fmod(cut_angle_ + degrees + 360, 360);
    update();
}

void SolidView::initializeGL() {
    ready_ = initializeOpenGLFunctions();
    if (!ready_) return;
    const auto link = [this](QOpenGLShaderProgram& p, const char* v, const char* f) {
        ready_ = p.addShaderFromSourceCode(QOpenGLShader::Vertex, v) &&
                 p.addShaderFromSourceCode(QOpenGLShader::Fragment, f) && p.link() && ready_;
    };
    link(surface_, surface_vertex, surface_fragment);
    link(line_, line_vertex, line_fragment);
    link(cap_, cap_vertex, cap_fragment);
    for (auto* b : {&triangles_, &lines_, &plane_, &outline_})
        b->create();
    for (auto* a : {&triangles_vao_, &lines_vao_, &plane_vao_, &outline_vao_})
        a->create();
    stale_ = true;
}

void SolidView::upload() {
    stale_ = false;
    triangle_vertices_ = line_vertices_ = 0;
    if (!shown_ || !shown_->made()) return;
    const auto& mesh = shown_->mesh;
    const auto& skin = shown_->skin;
    std::vector<float> v;
    v.reserve(mesh.triangles.size() * 21);
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const auto& f = skin.faces[mesh.face[i]];
        for (const auto id : mesh.triangles[i]) {
            const auto& p = mesh.points[id];
            const auto n = solid::normal_at(f, mesh.unrolled[id]);
            for (const double x : {p.x, p.y, p.z, n.x, n.y, n.z})
                v.push_back(static_cast<float>(x));
            v.push_back(static_cast<float>(f.zone));
        }
    }
    triangle_vertices_ = static_cast<int>(mesh.triangles.size() * 3);
    triangles_vao_.bind();
    triangles_.bind();
    triangles_.allocate(v.data(), static_cast<int>(v.size() * sizeof(float)));
    for (int k = 0; k < 3; ++k) {
        glEnableVertexAttribArray(static_cast<GLuint>(k));
        glVertexAttribPointer(static_cast<GLuint>(k), k == 2 ? 1 : 3, GL_FLOAT, GL_FALSE, 28,
                              reinterpret_cast<void*>(static_cast<std::intptr_t>(k * 12)));
    }
    // the edges a draughtsman would draw: where two faces of different kind meet, not the cuts within one
    // cylinder
    std::vector<std::array<int, 2>> faces(skin.edges.size(), {-1, -1});
    for (std::size_t f = 0; f < skin.faces.size(); ++f)
        for (const auto& loop : skin.faces[f].loops)
            for (const auto& use : loop) {
                auto& pair = faces[static_cast<std::size_t>(use.edge)];
                (pair[0] < 0 ? pair[0] : pair[1]) = static_cast<int>(f);
            }
    std::vector<float> l;
    for (std::size_t e = 0; e < skin.edges.size(); ++e) {
        const auto [a, b] = faces[e];
        if (a < 0 || b < 0 || a == b) continue;
        const auto &fa = skin.faces[static_cast<std::size_t>(a)],
                   &fb = skin.faces[static_cast<std::size_t>(b)];
        if (fa.kind == fb.kind && fa.role == fb.role && fa.a == fb.a && fa.b == fb.b && fa.c == fb.c &&
            fa.zone == fb.zone)
            continue;
        const auto& ids = mesh.edge_points[e];
        for (std::size_t k = 0; k + 1 < ids.size(); ++k)
            for (const auto id : {ids[k], ids[k + 1]})
                for (const double x : {mesh.points[id].x, mesh.points[id].y, mesh.points[id].z})
                    l.push_back(static_cast<float>(x));
    }
    line_vertices_ = static_cast<int>(l.size() / 3);
    lines_vao_.bind();
    lines_.bind();
    lines_.allocate(l.data(), static_cast<int>(l.size() * sizeof(float)));
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 12, nullptr);

    const float r = static_cast<float>(in_mm(shown_->piece.largest_radius()) * 1.05),
                z = static_cast<float>(in_mm(shown_->piece.length()));
    const float quad[]{-1, -r, z + 1, -r, -1, r, z + 1, r};
    plane_vao_.bind();
    plane_.bind();
    plane_.allocate(quad, sizeof quad);
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 2, GL_FLOAT, GL_FALSE, 8, nullptr);
    plane_vao_.release();
}

QMatrix4x4 SolidView::orientation() const {
    QMatrix4x4 m;
    m.rotate(static_cast<float>(tilt_), 1, 0, 0);
    m.rotate(static_cast<float>(yaw_), 0, 1, 0);
    // the axis (z) lies to the right, x towards the viewer's up
    QMatrix4x4 lay(0, 0, 1, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 1);
    m = m * lay;
    m.rotate(static_cast<float>(roll_), 0, 0, 1);
    return m;
}

void SolidView::fit() {
    if (!shown_) return;
    const double L = in_mm(shown_->piece.length()), R = in_mm(shown_->piece.largest_radius());
    const QMatrix4x4 o = orientation();
    const QVector3D axis = o.mapVector(QVector3D(0, 0, 1));
    // a cylinder's shadow: its axis plus the discs at both ends
    const auto extent = [&](double a) {
        return std::abs(a) * L + 2 * R * std::sqrt(std::max(0.0, 1 - a * a));
    };
    const double w = extent(axis.x()), h = extent(axis.y());
    fit_mm_per_pixel_ = std::max(w / std::max(40.0, width() - 90.0), h / std::max(40.0, height() - 104.0));
    fit_mm_per_pixel_ = std::max(fit_mm_per_pixel_, 1e-6);
}

QMatrix4x4 SolidView::projection() const {
    const double k = fit_mm_per_pixel_ / zoom_;
    const double w = width() * k / 2, h = height() * k / 2;
    const double depth =
        shown_ ? in_mm(shown_->piece.length()) + 2 * in_mm(shown_->piece.largest_radius()) : 100;
    QMatrix4x4 p;
    p.ortho(static_cast<float>(-w - pan_.x()), static_cast<float>(w - pan_.x()),
            static_cast<float>(-h - pan_.y()), static_cast<float>(h - pan_.y()), static_cast<float>(-depth),
            static_cast<float>(depth));
    return p;
}

void SolidView::draw_scene(const QMatrix4x4& rotation, const QMatrix4x4& mvp) {
    const Theme& t = theme();
    const Finish finish = finish_of(session_.job().pieces[session_.piece()]);
    const double a = cut_angle_ * std::numbers::pi / 180;
    // what lies on the side the normal points to goes; the cutting plane holds the axis
    const QVector3D normal(static_cast<float>(-std::sin(a)), static_cast<float>(std::cos(a)), 0);
    const QVector4D cut = cut_ ? QVector4D(-normal, 0) : QVector4D(0, 0, 0, 1);
    if (cut_) glEnable(GL_CLIP_DISTANCE0);

    surface_.bind();
    surface_.setUniformValue("mvp", mvp);
    surface_.setUniformValue("turn", rotation.normalMatrix());
    surface_.setUniformValue("cut", cut);
    surface_.setUniformValue("part", QVector3D(float(finish.red), float(finish.green), float(finish.blue)) *
                                         (t.dark ? 0.94f : 1.08f));
    surface_.setUniformValue("active_colour", vec(t.active));
    surface_.setUniformValue("selected", static_cast<float>(session_.zone()));
    surface_.setUniformValue("tint", shown_->piece.zones.size() > 1 ? 0.13f : 0.0f);
    triangles_vao_.bind();
    glEnable(GL_POLYGON_OFFSET_FILL);
    glPolygonOffset(1, 1);
    if (cut_) {
        // the inside of the half that stays is seen through the cut: only the hatched face shows there
        glEnable(GL_CULL_FACE);
        glCullFace(GL_BACK);
    }
    glDrawArrays(GL_TRIANGLES, 0, triangle_vertices_);
    glDisable(GL_CULL_FACE);
    if (cut_) {
        glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_FALSE);
        glDepthMask(GL_FALSE);
        glDisable(GL_DEPTH_TEST);
        glEnable(GL_STENCIL_TEST);
        glStencilFunc(GL_ALWAYS, 0, 0xff);
        glStencilOpSeparate(GL_FRONT, GL_KEEP, GL_KEEP, GL_DECR_WRAP);
        glStencilOpSeparate(GL_BACK, GL_KEEP, GL_KEEP, GL_INCR_WRAP);
        glDrawArrays(GL_TRIANGLES, 0, triangle_vertices_);
        glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
        glDepthMask(GL_TRUE);
        glEnable(GL_DEPTH_TEST);
        glDisable(GL_CLIP_DISTANCE0);
        glStencilFunc(GL_NOTEQUAL, 0, 0xff);
        glStencilOp(GL_KEEP, GL_KEEP, GL_KEEP);
        cap_.bind();
        cap_.setUniformValue("mvp", mvp);
        cap_.setUniformValue("across",
                             QVector3D(static_cast<float>(std::cos(a)), static_cast<float>(std::sin(a)), 0));
        cap_.setUniformValue("ground", vec(t.part_fill));
        cap_.setUniformValue("ink", vec(t.part));
        const double pixel = fit_mm_per_pixel_ / zoom_;
        cap_.setUniformValue("spacing", static_cast<float>(7 * pixel));
        cap_.setUniformValue("pixel", static_cast<float>(pixel / devicePixelRatioF()));
        plane_vao_.bind();
        glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
        glDisable(GL_STENCIL_TEST);
        glEnable(GL_CLIP_DISTANCE0);
    }
    glDisable(GL_POLYGON_OFFSET_FILL);

    line_.bind();
    line_.setUniformValue("mvp", mvp);
    line_.setUniformValue("cut", cut);
    line_.setUniformValue("lift", 0.0006f);
    QColor ink = t.ink;
    line_.setUniformValue("ink", QVector4D(vec(t.dark ? QColor("#14181B") : ink), t.dark ? 0.65f : 0.42f));
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE);
    lines_vao_.bind();
    glDrawArrays(GL_LINES, 0, line_vertices_);
    if (cut_) {
        // the contour of the cut: where the mesh crosses the plane
        glDisable(GL_CLIP_DISTANCE0);
        std::vector<float> contour;
        const auto& mesh = shown_->mesh;
        for (const auto& tri : mesh.triangles) {
            double d[3];
            for (std::size_t k = 0; k < 3; ++k)
                d[k] =
                    mesh.points[tri[k]].x * double(normal.x()) + mesh.points[tri[k]].y * double(normal.y());
            if ((d[0] > 0) == (d[1] > 0) && (d[1] > 0) == (d[2] > 0)) continue;
            for (std::size_t k = 0; k < 3; ++k) {
                const std::size_t n = (k + 1) % 3;
                if ((d[k] > 0) == (d[n] > 0)) continue;
                const double x = d[k] / (d[k] - d[n]);
                const auto &p = mesh.points[tri[k]], &q = mesh.points[tri[n]];
                for (const double c : {p.x + x * (q.x - p.x), p.y + x * (q.y - p.y), p.z + x * (q.z - p.z)})
                    contour.push_back(static_cast<float>(c));
            }
        }
        outline_vao_.bind();
        outline_.bind();
        outline_.allocate(contour.data(), static_cast<int>(contour.size() * sizeof(float)));
        glEnableVertexAttribArray(0);
        glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 12, nullptr);
        line_.setUniformValue("cut", QVector4D(0, 0, 0, 1));
        line_.setUniformValue("ink", QVector4D(vec(t.ink), 1));
        line_.setUniformValue("lift", 0.0012f);
        glLineWidth(1.6f);
        glDrawArrays(GL_LINES, 0, static_cast<int>(contour.size() / 3));
        glLineWidth(1);
    }
    glDisable(GL_BLEND);
    glDisable(GL_CLIP_DISTANCE0);
    outline_vao_.release();
    line_.release();
}

void SolidView::paintGL() {
    ++frames_;
    const Theme& t = theme();
    if (ready_) {
        glClearColor(static_cast<float>(t.paper.redF()), static_cast<float>(t.paper.greenF()),
                     static_cast<float>(t.paper.blueF()), 1);
        glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT | GL_STENCIL_BUFFER_BIT);
        if (stale_) upload();
        if (shown_ && shown_->made() && session_.has_piece()) {
            fit();
            glEnable(GL_DEPTH_TEST);
            glEnable(GL_MULTISAMPLE);
            QMatrix4x4 centre;
            centre.translate(0, 0, static_cast<float>(-in_mm(shown_->piece.length()) / 2));
            const QMatrix4x4 o = orientation();
            draw_scene(o, projection() * o * centre);
            glDisable(GL_DEPTH_TEST);
        }
    }
    draw_overlay();
}

std::optional<std::size_t> SolidView::zone_at(QPointF at) const {
    if (!shown_ || !shown_->made()) return {};
    QMatrix4x4 centre;
    centre.translate(0, 0, static_cast<float>(-in_mm(shown_->piece.length()) / 2));
    const QMatrix4x4 mvp = projection() * orientation() * centre;
    const double nx = 2 * at.x() / width() - 1, ny = 1 - 2 * at.y() / height();
    double nearest = std::numeric_limits<double>::max();
    std::optional<std::size_t> hit;
    const auto& mesh = shown_->mesh;
    std::vector<QVector3D> q;
    q.reserve(mesh.points.size());
    for (const auto& p : mesh.points)
        q.push_back(mvp.map(QVector3D(float(p.x), float(p.y), float(p.z))));
    const double a = cut_angle_ * std::numbers::pi / 180;
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const auto& t = mesh.triangles[i];
        const QVector3D &A = q[t[0]], &B = q[t[1]], &C = q[t[2]];
        const auto side = [&](const QVector3D& u, const QVector3D& v) {
            return (v.x() - u.x()) * (ny - u.y()) - (v.y() - u.y()) * (nx - u.x());
        };
        const double s0 = side(A, B), s1 = side(B, C), s2 = side(C, A);
        if (!((s0 >= 0 && s1 >= 0 && s2 >= 0) || (s0 <= 0 && s1 <= 0 && s2 <= 0))) continue;
        if (cut_) {
            const auto& p = mesh.points[t[0]];
            if (-std::sin(a) * p.x + std::cos(a) * p.y > 0) continue;
        }
        const double total = s0 + s1 + s2;
        const double z = total == 0 ? A.z() : (s1 * A.z() + s2 * B.z() + s0 * C.z()) / total;
        if (z < nearest) {
            nearest = z;
            hit = static_cast<std::size_t>(shown_->skin.faces[mesh.face[i]].zone);
        }
    }
    return hit;
}

void SolidView::mousePressEvent(QMouseEvent* e) {
    pressed_ = last_ = e->position();
    moved_ = false;
    setFocus();
}

void SolidView::mouseMoveEvent(QMouseEvent* e) {
    const QPointF d = e->position() - last_;
    last_ = e->position();
    if (e->buttons() == Qt::NoButton) {
        bool word = cut_word_.contains(e->position());
        for (const auto& w : words_)
            word = word || w.contains(e->position());
        for (const auto& [where, text] : examples_)
            word = word || where.contains(e->position());
        setCursor(word ? Qt::PointingHandCursor : Qt::ArrowCursor);
        return;
    }
    if ((e->position() - pressed_).manhattanLength() > 3) moved_ = true;
    if (!moved_) return;
    if (e->buttons() & Qt::MiddleButton ||
        (e->buttons() & Qt::LeftButton && e->modifiers() & Qt::ShiftModifier)) {
        const double k = fit_mm_per_pixel_ / zoom_;
        pan_ += QPointF(d.x() * k, -d.y() * k);
    } else if (e->buttons() & Qt::LeftButton) {
        if (e->modifiers() & Qt::ControlModifier && cut_)
            cut_angle_ = std::fmod(cut_angle_ + d.x() * 0.5 + 360, 360);
        else {
            roll_ = std::fmod(roll_ - d.x() * 0.5, 360);
            tilt_ = std::clamp(tilt_ + d.y() * 0.4, -90.0, 90.0);
        }
    } else if (e->buttons() & Qt::RightButton) {
        yaw_ = std::fmod(yaw_ + d.x() * 0.4, 360);
    }
    update();
}

void SolidView::mouseReleaseEvent(QMouseEvent* e) {
    if (moved_ || e->button() != Qt::LeftButton) return;
    for (const auto& [where, text] : examples_)
        if (where.contains(e->position())) {
            emit example_asked(text);
            return;
        }
    for (int i = 0; i < 3; ++i)
        if (words_[i].contains(e->position())) {
            look(static_cast<Look>(i));
            return;
        }
    if (cut_word_.contains(e->position())) {
        set_cut(!cut_);
        return;
    }
    if (const auto z = zone_at(e->position())) session_.select(session_.piece(), *z);
}

void SolidView::wheelEvent(QWheelEvent* e) {
    const double factor = std::pow(1.0015, e->angleDelta().y());
    const double before = fit_mm_per_pixel_ / zoom_;
    zoom_ = std::clamp(zoom_ * factor, 0.2, 200.0);
    const double after = fit_mm_per_pixel_ / zoom_;
    // what is under the pointer stays there
    const QPointF from_centre(e->position().x() - width() / 2.0, height() / 2.0 - e->position().y());
    pan_ += from_centre * (after - before);
    update();
}

void SolidView::leaveEvent(QEvent*) {
    setCursor(Qt::ArrowCursor);
}

void SolidView::keyPressEvent(QKeyEvent* e) {
    const double step = e->modifiers() & Qt::ShiftModifier ? 1 : 10;
    switch (e->key()) {
    case Qt::Key_Left:
        roll_ += step;
        break;
    case Qt::Key_Right:
        roll_ -= step;
        break;
    case Qt::Key_Up:
        tilt_ = std::min(90.0, tilt_ + step);
        break;
    case Qt::Key_Down:
        tilt_ = std::max(-90.0, tilt_ - step);
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        zoom_ = std::min(200.0, zoom_ * 1.25);
        break;
    case Qt::Key_Minus:
        zoom_ = std::max(0.2, zoom_ / 1.25);
        break;
    default:
        QOpenGLWidget::keyPressEvent(e);
        return;
    }
    update();
}

} // namespace whorl::app
