// How a zone is seen from the side and from its end: in small drawings, in the strip, and in sheets. Millimetres: x along
// the axis from the piece's near end, y the radius.
#pragma once

#include "model/resolve.hpp"

#include <QPainter>
#include <QPainterPath>
#include <QPolygonF>

namespace whorl::app {

// Where the axis lies on the page, level, and how many pixels a millimetre has.
struct SidePlace {
    double x0, mid, k;
    QPointF at(double along, double over) const { return {x0 + along * k, mid - over * k}; }
};

// … and which block of the strip is a zone's.
struct StripPlace : SidePlace {
    QRectF block;
    bool selected;
};

// A form's entry; FormViews::side.
struct SideView {
    // The radius along the axis; what is narrower than `least_pitch_mm` is drawn as its crest. A zone's own ends are in it.
    QPolygonF (*outline)(const ResolvedZone& zone, double least_pitch_mm);
    // Where the cut shows more than the outside; none: the same.
    QPolygonF (*cut)(const ResolvedZone& zone, double least_pitch_mm) = nullptr;
    // All of it, closed, where it isn't the outline on both sides of the axis.
    QPolygonF (*whole)(const ResolvedZone& zone) = nullptr;
    // What is seen on an outer zone beside its outline.
    void (*marks)(QPainter& p, const ResolvedZone& zone, const SidePlace& place) = nullptr;
    // From its end, filled odd and even, where a disc with it is better seen from there; empty: it isn't.
    QPainterPath (*from_end)(const ResolvedZone& zone) = nullptr;
    // In the strip, whose blocks stand on the axis: what is drawn instead of the half section, and over it, last of all.
    void (*strip)(QPainter& p, const ResolvedZone& zone, const StripPlace& place) = nullptr;
    void (*strip_marks)(QPainter& p, const ResolvedZone& zone, const StripPlace& place) = nullptr;
    double (*strip_height)(const ResolvedZone& zone) =
        nullptr;              // mm over the axis; none: the piece's largest radius
    bool on_its_back = false; // there is no axis: it stands on the line
    // A piece of its own, as large as the room allows from its left edge on.
    void (*alone)(QPainter& p, const ResolvedPiece& piece, const QRectF& room) = nullptr;
};

// The cylinder or cone between a zone's diameters with its ends, and the section of threads and grooves.
QPolygonF turned_outline(const ResolvedZone& zone, double least_pitch_mm);
// Thin lines on both sides of the axis, all along a zone.
void lines_at_radius(QPainter& p, const ResolvedZone& zone, double radius, const SidePlace& place);
// A thread in the simplified manner of ISO 6410: a thin line at the root, where it is drawn by its crest.
void thread_marks(QPainter& p, const ResolvedZone& zone, const SidePlace& place);
// Metal in the strip, tinted where it is selected.
QColor strip_metal(bool selected);
void draw_strip_metal(QPainter& p, const QPainterPath& metal, bool selected);
constexpr double least_drawn_pitch = 2.2; // pixels

} // namespace whorl::app
