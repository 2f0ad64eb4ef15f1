#include "drawing/frame.hpp"

#include "drawing/letters.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace whorl::drawing {

const std::vector<SheetSize>& sheet_sizes() {
    static const std::vector<SheetSize> all{{"A4", 210, 297}, {"A3", 420, 297},     {"A2", 594, 420},
                                            {"A1", 841, 594}, {"A", 279.4, 215.9}, {"B", 431.8, 279.4},
                                            {"C", 558.8, 431.8}};
    return all;
}

const SheetSize& sheet_size(const std::string& name) {
    std::string known;
    for (const SheetSize& s : sheet_sizes()) {
        if (name == s.name) return s;
        known += (known.empty() ? "" : ", ") + std::string(s.name);
    }
    throw InputError("There is no sheet '" + name + "'; there are " + known + ".");
}

Box inside_frame(const SheetSize& s) {
    return {20, 10, s.width - 10, s.height - 10};
}

namespace {

constexpr double block_width = 180, row = 10.5;

} // namespace

Box title_block_box(const SheetSize& s) {
    const Box in = inside_frame(s);
    return {std::max(in.left, in.right - block_width), in.bottom, in.right, in.bottom + 4 * row};
}

void draw_frame(Paper& to, const SheetSize& s) {
    const Box b = inside_frame(s);
    to.add({.kind = LineKind::frame,
            .points = {{b.left, b.bottom}, {b.right, b.bottom}, {b.right, b.top}, {b.left, b.top}},
            .closed = true});
    // centring marks, 10 into the frame
    const double x = s.width / 2, y = s.height / 2;
    to.add(line(LineKind::frame, {x, 5}, {x, b.bottom})); // the title block may stand there
    to.add(line(LineKind::frame, {x, s.height - 5}, {x, b.top - 5}));
    to.add(line(LineKind::frame, {5, y}, {b.left + 5, y}));
    to.add(line(LineKind::frame, {s.width - 5, y}, {b.right - 5, y}));
}

double height_for(const std::string& words, double height, double room) {
    const double width = text_width(words, height);
    return width <= room ? height : height * room / width;
}

namespace {

// ISO 5456-2: a truncated cone in two views.
void projection_symbol(Paper& to, Projection p, At middle) {
    const double cone = p == Projection::first_angle ? -4.5 : 4.5, rings = -cone;
    const double big = 2.6, small = 1.3, half = 2.6;
    // the cone narrows away from the circles in first angle's left view, towards the left in both
    const At c = middle + At{cone, 0};
    to.add({.kind = LineKind::thin,
            .points = {c + At{-half, -big}, c + At{half, -small}, c + At{half, small}, c + At{-half, big}},
            .closed = true});
    const At r = middle + At{rings, 0};
    to.add(circle(LineKind::thin, r, big));
    to.add(circle(LineKind::thin, r, small));
    to.add(line(LineKind::centre, middle + At{-8.5, 0}, middle + At{8.5, 0}));
    to.add(line(LineKind::centre, r + At{0, -3.6}, r + At{0, 3.6}));
}

} // namespace

void draw_title_block(Paper& to, const SheetSize& size, const TitleBlock& t) {
    const Box b = title_block_box(size);
    const double width = b.width(), k = width / block_width;
    const auto cell = [&](double x, double y, double w, double rows, const char* label, const std::string& value,
                          double height = 3.5) {
        const double left = b.left + x * k, right = left + w * k, low = b.bottom + y * row, high = low + rows * row;
        to.add({.kind = LineKind::thin,
                .points = {{left, low}, {right, low}, {right, high}, {left, high}},
                .closed = true});
        to.add(Text{.at = {left + 1.2, high - 3.4}, .words = label, .height = 2.0});
        if (!value.empty())
            to.add(Text{.at = {left + 1.5, low + (rows > 1 ? rows * row / 2 - height / 2 - 1.5 : 1.8)},
                        .words = value,
                        .height = height_for(value, height, w * k - 3)});
    };
    cell(0, 3, 75, 1, "Material", t.material);
    cell(75, 3, 55, 1, "General tolerance", t.own.tolerance);
    cell(130, 3, 27, 1, "Mass", t.mass);
    cell(157, 3, 23, 1, "Scale", t.scale);
    cell(0, 2, 38, 1, "Drawn by", t.own.drawn_by);
    cell(38, 2, 37, 1, "Checked by", t.own.checked_by);
    cell(75, 1, 105, 2, "Title", t.title, 5);
    cell(0, 1, 38, 1, "Date", t.own.date);
    cell(38, 1, 37, 1, "Projection", "");
    projection_symbol(to, t.projection, {b.left + 64.5 * k, b.bottom + 1.36 * row});
    cell(0, 0, 75, 1, "Owner", t.own.owner);
    cell(75, 0, 45, 1, "Number", t.own.number);
    cell(120, 0, 14, 1, "Rev.", t.own.revision);
    cell(134, 0, 16, 1, "Sheet", t.sheet);
    cell(150, 0, 14, 1, "Size", t.size);
    cell(164, 0, 16, 1, "Unit", t.unit);
    to.add({.kind = LineKind::frame, .points = {{b.left, b.bottom}, {b.left, b.top}, {b.right, b.top}}});
}

Paper table(const TableText& text, double most) {
    constexpr double high = 5, letters = 2.5, pad = 1.5;
    double label = text_width(text.title, letters), value = 0;
    for (const auto& [l, v] : text.rows) {
        label = std::max(label, text_width(l, letters));
        value = std::max(value, text_width(v, letters));
    }
    label = std::min(label + 2 * pad, most * 0.6);
    value = std::min(value + 2 * pad, most - label);
    Paper out;
    const double width = label + value;
    double y = 0;
    out.add(Text{.at = {pad, y - high + 1.3}, .words = text.title, .height = height_for(text.title, letters, width - 2 * pad)});
    y -= high;
    for (const auto& [l, v] : text.rows) {
        out.add(line(LineKind::thin, {0, y}, {width, y}));
        out.add(Text{.at = {pad, y - high + 1.3}, .words = l, .height = height_for(l, letters, label - 2 * pad)});
        out.add(Text{.at = {label + pad, y - high + 1.3},
                     .words = v,
                     .height = height_for(v, letters, value - 2 * pad)});
        y -= high;
    }
    out.add({.kind = LineKind::outline, .points = {{0, 0}, {width, 0}, {width, y}, {0, y}}, .closed = true});
    if (!text.rows.empty()) out.add(line(LineKind::thin, {label, -high}, {label, y}));
    return out;
}

} // namespace whorl::drawing
