// What lies under the pointer: the foremost triangle of a piece's preview.
#pragma once

#include "app/solid_body.hpp"

#include <QPointF>

namespace whorl::app {

struct Picked {
    double depth = 0; // in clip space: the less, the nearer
    std::size_t zone = 0;
};
// `at`: -1 to 1 across the view, up positive; what a cut takes away is not hit.
std::optional<Picked> pick(const Preview& preview, const Scene& scene, const QMatrix4x4& place, QPointF at);

QPointF across_view(QPointF pixel, QSizeF view); // pixels to -1 … 1

} // namespace whorl::app
