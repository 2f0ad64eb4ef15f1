// Colours, type and the few drawing manners all views share.
#pragma once

#include <QColor>
#include <QFont>
#include <QPainter>

namespace whorl::app {

struct Theme {
    bool dark = false;
    QColor paper, panel, ink, muted, hairline, active, active_tint, part, part_fill, stop, advice, field;
};

const Theme& theme();      // the one in force
void set_theme(bool dark); // also sets the application's palette and style sheet

// Text sizes: 11 labels and sources, 13 text and numbers, 16 headings.
enum class Weight { regular, medium, semibold };
QFont text_font(int pixels, Weight weight = Weight::regular);
void load_fonts();

// Draws a number with figures of equal width, so that columns line up. `right` is where it ends.
void draw_number(QPainter& p, double right, double baseline, const QString& text);
double number_width(const QFont& font, const QString& text);

// Status is always a shape and a word; colour comes third.
enum class Status { fits, advice, stops };
void draw_status(QPainter& p, QPointF centre, Status status);

// Section hatching, ISO 128-50: thin lines at 45°.
void hatch(QPainter& p, const QPainterPath& area, const QColor& line, double spacing = 7);

// What is cut through, in paper and hatching.
void fill_metal(QPainter& p, const QPainterPath& area);

// A dimension line from a to b with filled heads, ISO 129-1; heads turn outside when there is no room.
void dimension_line(QPainter& p, QPointF a, QPointF b);
void arrow_head(QPainter& p, QPointF tip, QPointF direction);

} // namespace whorl::app
