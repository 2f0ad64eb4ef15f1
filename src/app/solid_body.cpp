#include "app/solid_body.hpp"

#include "app/theme.hpp"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace whorl::app {
namespace {

constexpr const char* surface_vertex = R"(#version 330 core
layout(location=0) in vec3 position; layout(location=1) in vec3 normal; layout(location=2) in float zone;
uniform mat4 mvp; uniform mat3 turn; uniform vec4 cut;
out vec3 n; flat out float z; out float gl_ClipDistance[1];
void main(){ gl_Position = mvp*vec4(position,1); n = turn*normal; z = zone; gl_ClipDistance[0] = dot(cut,vec4(position,1)); })";
constexpr const char* surface_fragment = R"(#version 330 core
in vec3 n; flat in float z; out vec4 colour;
uniform vec3 part; uniform vec3 zones[50]; uniform int own; uniform vec3 active_colour; uniform float selected; uniform float tint;
void main(){
  vec3 N = normalize(n); if(!gl_FrontFacing) N = -N;
  vec3 key = normalize(vec3(-0.45,0.75,0.62)), fill = normalize(vec3(0.7,-0.25,0.5));
  float d = max(dot(N,key),0.0)*0.52 + max(dot(N,fill),0.0)*0.20 + (0.5+0.5*N.y)*0.16 + 0.34;
  vec3 h = normalize(key+vec3(0,0,1)); float s = pow(max(dot(N,h),0.0),40.0)*0.22;
  int at = int(z+0.5); vec3 plain = at < own ? zones[at] : part;
  vec3 base = abs(z-selected)<0.5 ? mix(plain,active_colour,tint) : plain;
  colour = vec4(base*d*1.12 + vec3(s), 1); })";
constexpr const char* line_vertex = R"(#version 330 core
layout(location=0) in vec3 position; uniform mat4 mvp; uniform vec4 cut; uniform float lift; out float gl_ClipDistance[1];
void main(){ gl_Position = mvp*vec4(position,1); gl_Position.z -= lift; gl_ClipDistance[0] = dot(cut,vec4(position,1)); })";
constexpr const char* line_fragment = R"(#version 330 core
out vec4 colour; uniform vec4 ink; void main(){ colour = ink; })";
constexpr const char* cap_vertex = R"(#version 330 core
layout(location=0) in vec2 position; uniform mat4 mvp; uniform vec3 across; uniform vec3 along; uniform vec3 centre;
uniform vec2 from; uniform float reach; out vec2 at;
void main(){ at = from + reach*position; gl_Position = mvp*vec4(centre + reach*(across*position.y + along*position.x),1); })";
// thin lines at 45°, smoothed over one pixel
constexpr const char* cap_fragment = R"(#version 330 core
in vec2 at; out vec4 colour; uniform vec3 ground; uniform vec3 ink; uniform float spacing; uniform float pixel; uniform float lean;
void main(){ float v = (at.x-lean*at.y)*0.70710678; float d = abs(fract(v/spacing)-0.5)*spacing;
  float line = 1.0-smoothstep(0.1*pixel,1.0*pixel,abs(d)); colour = vec4(mix(ground,ink,line*0.55),1); })";

QVector3D vec(const QColor& c) {
    return {c.redF(), c.greenF(), c.blueF()};
}

} // namespace

BodyLook look_of(const Piece& piece, double shade) {
    const auto colour = [&](const Finish& f) {
        return QVector3D(float(f.red), float(f.green), float(f.blue)) *
               float(shade * (theme().dark ? 0.94 : 1.08));
    };
    BodyLook out{colour(finish_of(piece))};
    if (std::any_of(piece.zones.begin(), piece.zones.end(), [](const Zone& z) { return !z.finish.empty(); }))
        for (std::size_t i = 0; i < piece.zones.size(); ++i)
            out.zones.push_back(colour(finish_of(piece, i)));
    return out;
}

QMatrix4x4 matrix_of(const Standing& s) {
    const auto f = [](double v) { return static_cast<float>(v); };
    return QMatrix4x4(f(s.x[0]), f(s.y[0]), f(s.z[0]), f(s.origin[0]), //
                      f(s.x[1]), f(s.y[1]), f(s.z[1]), f(s.origin[1]), //
                      f(s.x[2]), f(s.y[2]), f(s.z[2]), f(s.origin[2]), //
                      0, 0, 0, 1);
}

bool BodyPrograms::link() {
    const auto linked = [](QOpenGLShaderProgram& p, const char* v, const char* f) {
        return p.addShaderFromSourceCode(QOpenGLShader::Vertex, v) &&
               p.addShaderFromSourceCode(QOpenGLShader::Fragment, f) && p.link();
    };
    return linked(surface_, surface_vertex, surface_fragment) && linked(line_, line_vertex, line_fragment) &&
           linked(cap_, cap_vertex, cap_fragment);
}

void SolidBody::create() {
    for (auto* b : {&triangles_, &corners_, &coarse_, &coarse_corners_, &lines_, &plane_, &outline_})
        b->create();
    for (auto* a : {&triangles_vao_, &coarse_vao_, &lines_vao_, &plane_vao_, &outline_vao_})
        a->create();
    stale_ = true;
}

void SolidBody::destroy() {
    for (auto* a : {&triangles_vao_, &coarse_vao_, &lines_vao_, &plane_vao_, &outline_vao_})
        a->destroy();
    for (auto* b : {&triangles_, &corners_, &coarse_, &coarse_corners_, &lines_, &plane_, &outline_})
        b->destroy();
}

void SolidBody::show(std::shared_ptr<const Preview> preview, double grain) {
    preview_ = std::move(preview);
    grain_ = grain;
    stale_ = true;
}

namespace {
// Place, normal and zone, 28 bytes together.
void lay_out_vertices(QOpenGLFunctions_3_3_Core& gl) {
    for (int k = 0; k < 3; ++k) {
        gl.glEnableVertexAttribArray(static_cast<GLuint>(k));
        gl.glVertexAttribPointer(static_cast<GLuint>(k), k == 2 ? 1 : 3, GL_FLOAT, GL_FALSE, 28,
                                 reinterpret_cast<void*>(static_cast<std::intptr_t>(k * 12)));
    }
}
} // namespace

// Vertex clustering (Rossignac and Borrel 1993): the first point of each cube stands for all in it; triangles with two corners
// in one cube go. What was closed stays closed.
void SolidBody::upload_coarse(QOpenGLFunctions_3_3_Core& gl) {
    coarse_count_ = 0;
    if (grain_ <= 0) return;
    const auto& mesh = preview_->mesh;
    const solid::Shading& shading = preview_->shading;
    std::unordered_map<std::uint64_t, std::uint32_t> cubes;
    std::vector<std::uint32_t> stands_for(mesh.points.size());
    for (std::uint32_t i = 0; i < mesh.points.size(); ++i) {
        const auto at = [&](double v) {
            return static_cast<std::uint64_t>(static_cast<std::int64_t>(std::floor(v / grain_)) + (1 << 20)) &
                   0x1fffff;
        };
        const auto& p = mesh.points[i];
        stands_for[i] = cubes.try_emplace(at(p.x) << 42 | at(p.y) << 21 | at(p.z), i).first->second;
    }
    std::vector<float> v;
    std::vector<std::uint32_t> corners;
    std::unordered_map<std::uint64_t, std::uint32_t> vertices; // by point, roughly normal, and zone
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const auto& t = mesh.triangles[i];
        const std::uint32_t a = stands_for[t[0]], b = stands_for[t[1]], c = stands_for[t[2]];
        if (a == b || b == c || c == a) continue;
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t id = stands_for[t[k]];
            const auto& p = mesh.points[id];
            const auto& n = shading.normals[i][k];
            const auto step = [](double x) { return static_cast<std::uint64_t>(std::lround(3 * x) + 3); };
            const std::uint64_t key = std::uint64_t(id) << 16 | step(n.x) << 13 | step(n.y) << 10 |
                                      step(n.z) << 7 | static_cast<std::uint64_t>(shading.zone[i]);
            const auto [it, is_new] = vertices.try_emplace(key, static_cast<std::uint32_t>(v.size() / 7));
            if (is_new) {
                for (const double x : {p.x, p.y, p.z, n.x, n.y, n.z})
                    v.push_back(static_cast<float>(x));
                v.push_back(static_cast<float>(shading.zone[i]));
            }
            corners.push_back(it->second);
        }
    }
    coarse_count_ = static_cast<int>(corners.size());
    coarse_vao_.bind();
    coarse_corners_.bind();
    coarse_corners_.allocate(corners.data(), static_cast<int>(corners.size() * sizeof(std::uint32_t)));
    coarse_.bind();
    coarse_.allocate(v.data(), static_cast<int>(v.size() * sizeof(float)));
    lay_out_vertices(gl);
    coarse_vao_.release();
}

void SolidBody::upload(QOpenGLFunctions_3_3_Core& gl) {
    stale_ = false;
    triangle_corners_ = line_vertices_ = 0;
    if (!made()) return;
    upload_coarse(gl);
    const auto& mesh = preview_->mesh;
    const solid::Shading& shading = preview_->shading;
    // corners with the same point, normal and zone are one vertex, shaded once
    constexpr std::uint32_t none = ~std::uint32_t(0);
    std::vector<float> v;
    std::vector<std::uint32_t> corners, latest(mesh.points.size(), none), before;
    v.reserve(mesh.points.size() * 14);
    corners.reserve(mesh.triangles.size() * 3);
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i)
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t id = mesh.triangles[i][k];
            const auto& p = mesh.points[id];
            const auto& n = shading.normals[i][k];
            const float own[]{float(p.x),
                              float(p.y),
                              float(p.z),
                              float(n.x),
                              float(n.y),
                              float(n.z),
                              float(shading.zone[i])};
            std::uint32_t at = latest[id];
            while (at != none && !std::equal(own + 3, own + 7, v.begin() + std::ptrdiff_t(at) * 7 + 3))
                at = before[at];
            if (at == none) {
                at = static_cast<std::uint32_t>(before.size());
                before.push_back(latest[id]);
                latest[id] = at;
                v.insert(v.end(), own, own + 7);
            }
            corners.push_back(at);
        }
    triangle_corners_ = static_cast<int>(corners.size());
    triangles_vao_.bind();
    corners_.bind();
    corners_.allocate(corners.data(), static_cast<int>(corners.size() * sizeof(std::uint32_t)));
    triangles_.bind();
    triangles_.allocate(v.data(), static_cast<int>(v.size() * sizeof(float)));
    lay_out_vertices(gl);
    std::vector<float> l;
    for (const auto& line : shading.lines)
        for (const auto id : line)
            for (const double x : {mesh.points[id].x, mesh.points[id].y, mesh.points[id].z})
                l.push_back(static_cast<float>(x));
    line_vertices_ = static_cast<int>(l.size() / 3);
    lines_vao_.bind();
    lines_.bind();
    lines_.allocate(l.data(), static_cast<int>(l.size() * sizeof(float)));
    gl.glEnableVertexAttribArray(0);
    gl.glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 12, nullptr);

    QVector3D low(1e30f, 1e30f, 1e30f), high = -low;
    for (const auto& p : mesh.points)
        for (int k = 0; k < 3; ++k) {
            const auto at = static_cast<float>(k == 0 ? p.x : k == 1 ? p.y : p.z);
            low[k] = std::min(low[k], at);
            high[k] = std::max(high[k], at);
        }
    middle_ = (low + high) / 2;
    reach_ = (high - low).length() / 2 + 1;
    outlined_ = {};
    const float quad[]{-1, -1, 1, -1, -1, 1, 1, 1};
    plane_vao_.bind();
    plane_.bind();
    plane_.allocate(quad, sizeof quad);
    gl.glEnableVertexAttribArray(0);
    gl.glVertexAttribPointer(0, 2, GL_FLOAT, GL_FALSE, 8, nullptr);
    plane_vao_.release();
}

std::vector<float> SolidBody::contour(const QVector3D& normal, float plane) const {
    std::vector<float> out;
    const auto& mesh = preview_->mesh;
    for (const auto& tri : mesh.triangles) {
        double d[3];
        for (std::size_t k = 0; k < 3; ++k)
            d[k] = mesh.points[tri[k]].x * double(normal.x()) + mesh.points[tri[k]].y * double(normal.y()) +
                   mesh.points[tri[k]].z * double(normal.z()) - double(plane);
        if ((d[0] > 0) == (d[1] > 0) && (d[1] > 0) == (d[2] > 0)) continue;
        for (std::size_t k = 0; k < 3; ++k) {
            const std::size_t n = (k + 1) % 3;
            if ((d[k] > 0) == (d[n] > 0)) continue;
            const double x = d[k] / (d[k] - d[n]);
            const auto &p = mesh.points[tri[k]], &q = mesh.points[tri[n]];
            for (const double c : {p.x + x * (q.x - p.x), p.y + x * (q.y - p.y), p.z + x * (q.z - p.z)})
                out.push_back(static_cast<float>(c));
        }
    }
    return out;
}

void SolidBody::draw(QOpenGLFunctions_3_3_Core& gl, BodyPrograms& programs, const Scene& scene,
                     const QMatrix4x4& place, const BodyLook& look) {
    if (stale_) upload(gl);
    if (!made()) return;
    const Theme& t = theme();
    const QMatrix4x4 to_clip = scene.to_clip * place;
    auto &surface = programs.surface_, &line = programs.line_, &cap = programs.cap_;
    QVector3D normal, across, along, point; // of the cut, in the piece's own axes
    float distance = 0;                     // of the plane from the origin, along the normal
    if (scene.cut) {
        const QMatrix4x4 back = place.inverted();
        normal = back.mapVector(scene.cut->normal);
        across = back.mapVector(scene.cut->across);
        along = QVector3D::crossProduct(across, normal);
        point = back.map(scene.cut->point);
        distance = QVector3D::dotProduct(normal, point);
    }
    const QVector4D plane = scene.cut ? QVector4D(-normal, distance) : QVector4D(0, 0, 0, 1);
    if (scene.cut) gl.glEnable(GL_CLIP_DISTANCE0);

    surface.bind();
    surface.setUniformValue("mvp", to_clip);
    surface.setUniformValue("turn", (scene.to_view * place).normalMatrix());
    surface.setUniformValue("cut", plane);
    surface.setUniformValue("part", look.colour);
    static_assert(most_zones == 50, "as many as the shader has");
    surface.setUniformValue("own", static_cast<int>(look.zones.size()));
    if (!look.zones.empty())
        surface.setUniformValueArray("zones", look.zones.data(), static_cast<int>(look.zones.size()));
    surface.setUniformValue("active_colour", vec(t.active));
    surface.setUniformValue("selected", static_cast<float>(look.selected_zone));
    surface.setUniformValue("tint", preview_->piece.zones.size() > 1 ? 0.13f : 0.0f);
    const bool coarse = scene.coarse && coarse_count_ > 0 && scene.pixel >= 0.3 * grain_;
    const int corners = coarse ? coarse_count_ : triangle_corners_;
    (coarse ? coarse_vao_ : triangles_vao_).bind();
    gl.glEnable(GL_POLYGON_OFFSET_FILL);
    gl.glPolygonOffset(1, 1);
    // a closed body shows no inside; through a cut only the hatched face does
    gl.glEnable(GL_CULL_FACE);
    gl.glCullFace(GL_BACK);
    gl.glDrawElements(GL_TRIANGLES, corners, GL_UNSIGNED_INT, nullptr);
    gl.glDisable(GL_CULL_FACE);
    if (scene.cut) {
        // the stencil counts which pixels of the plane lie inside
        gl.glClear(GL_STENCIL_BUFFER_BIT);
        gl.glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_FALSE);
        gl.glDepthMask(GL_FALSE);
        gl.glDisable(GL_DEPTH_TEST);
        gl.glEnable(GL_STENCIL_TEST);
        gl.glStencilFunc(GL_ALWAYS, 0, 0xff);
        gl.glStencilOpSeparate(GL_FRONT, GL_KEEP, GL_KEEP, GL_DECR_WRAP);
        gl.glStencilOpSeparate(GL_BACK, GL_KEEP, GL_KEEP, GL_INCR_WRAP);
        gl.glDrawElements(GL_TRIANGLES, corners, GL_UNSIGNED_INT, nullptr);
        gl.glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
        gl.glDepthMask(GL_TRUE);
        gl.glEnable(GL_DEPTH_TEST);
        gl.glDisable(GL_CLIP_DISTANCE0);
        gl.glStencilFunc(GL_NOTEQUAL, 0, 0xff);
        gl.glStencilOp(GL_KEEP, GL_KEEP, GL_KEEP);
        cap.bind();
        cap.setUniformValue("mvp", to_clip);
        const QVector3D centre = middle_ + (distance - QVector3D::dotProduct(normal, middle_)) * normal;
        cap.setUniformValue("across", across);
        cap.setUniformValue("along", along);
        cap.setUniformValue("centre", centre);
        cap.setUniformValue("reach", reach_);
        cap.setUniformValue("from", QVector2D(QVector3D::dotProduct(centre - point, along),
                                              QVector3D::dotProduct(centre - point, across)));
        cap.setUniformValue("ground", vec(t.part_fill));
        cap.setUniformValue("ink", vec(t.part));
        cap.setUniformValue("lean", look.hatched_back ? -1.0f : 1.0f);
        cap.setUniformValue("spacing", static_cast<float>(7 * scene.pixel));
        cap.setUniformValue("pixel", static_cast<float>(scene.pixel / scene.ratio));
        plane_vao_.bind();
        gl.glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
        gl.glDisable(GL_STENCIL_TEST);
        gl.glEnable(GL_CLIP_DISTANCE0);
    }
    gl.glDisable(GL_POLYGON_OFFSET_FILL);

    line.bind();
    line.setUniformValue("mvp", to_clip);
    line.setUniformValue("cut", plane);
    line.setUniformValue("lift", 0.0006f);
    line.setUniformValue("ink", QVector4D(vec(t.dark ? QColor("#14181B") : t.ink),
                                          (t.dark ? 0.65f : 0.42f) * static_cast<float>(scene.edges)));
    gl.glEnable(GL_BLEND);
    gl.glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE);
    if (scene.edges > 0) {
        lines_vao_.bind();
        gl.glDrawArrays(GL_LINES, 0, line_vertices_);
    }
    if (scene.cut) {
        gl.glDisable(GL_CLIP_DISTANCE0);
        outline_vao_.bind();
        if (const QVector4D asked(normal, distance); outlined_ != asked) {
            outlined_ = asked;
            const std::vector<float> points = contour(normal, distance);
            outline_vertices_ = static_cast<int>(points.size() / 3);
            outline_.bind();
            outline_.allocate(points.data(), static_cast<int>(points.size() * sizeof(float)));
            gl.glEnableVertexAttribArray(0);
            gl.glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 12, nullptr);
        }
        line.setUniformValue("cut", QVector4D(0, 0, 0, 1));
        line.setUniformValue("ink", QVector4D(vec(t.ink), 1));
        line.setUniformValue("lift", 0.0012f);
        gl.glLineWidth(1.6f);
        gl.glDrawArrays(GL_LINES, 0, outline_vertices_);
        gl.glLineWidth(1);
    }
    gl.glDisable(GL_BLEND);
    gl.glDisable(GL_CLIP_DISTANCE0);
    outline_vao_.release();
    line.release();
}

} // namespace whorl::app
