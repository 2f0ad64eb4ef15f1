#include "app/picking.hpp"

namespace whorl::app {

QPointF across_view(QPointF pixel, QSizeF view) {
    return {2 * pixel.x() / view.width() - 1, 1 - 2 * pixel.y() / view.height()};
}

std::optional<Picked> pick(const Preview& preview, const Scene& scene, const QMatrix4x4& place, QPointF at) {
    const auto& mesh = preview.mesh;
    const QMatrix4x4 clip = scene.to_clip * place;
    QVector3D normal;
    double distance = 0;
    if (scene.cut) {
        const QMatrix4x4 back = place.inverted();
        normal = back.mapVector(scene.cut->normal);
        distance = double(QVector3D::dotProduct(normal, back.map(scene.cut->point)));
    }
    std::vector<QVector3D> q;
    q.reserve(mesh.points.size());
    for (const auto& p : mesh.points)
        q.push_back(clip.map(QVector3D(float(p.x), float(p.y), float(p.z))));
    std::optional<Picked> hit;
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const auto& t = mesh.triangles[i];
        const QVector3D &a = q[t[0]], &b = q[t[1]], &c = q[t[2]];
        const auto side = [&](const QVector3D& u, const QVector3D& v) {
            return double(v.x() - u.x()) * (at.y() - double(u.y())) -
                   double(v.y() - u.y()) * (at.x() - double(u.x()));
        };
        const double s0 = side(a, b), s1 = side(b, c), s2 = side(c, a);
        if (!((s0 >= 0 && s1 >= 0 && s2 >= 0) || (s0 <= 0 && s1 <= 0 && s2 <= 0))) continue;
        const auto& p = mesh.points[t[0]];
        if (scene.cut &&
            p.x * double(normal.x()) + p.y * double(normal.y()) + p.z * double(normal.z()) > distance)
            continue;
        const double total = s0 + s1 + s2;
        const double z = total == 0 ? double(a.z())
                                    : (s1 * double(a.z()) + s2 * double(b.z()) + s0 * double(c.z())) / total;
        if (!hit || z < hit->depth) hit = Picked{z, preview.body.zone_of(mesh.face[i])};
    }
    return hit;
}

} // namespace whorl::app
