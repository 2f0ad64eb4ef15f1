#include "drawing/frame.hpp"

#include "drawing/letters.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace whorl::drawing {

const std::vector<SheetSize>& sheet_sizes() {
    static const std::vector<SheetSize> all{{"A4", 210, 297},   {"A3", 420, 297},    {"A2", 594, 420},
                                            {"A1", 841, 594},   {"A", 279.4, 215.9}, {"B", 431.8, 279.4},
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

void draw_title_block(Paper& to, const SheetSize& size, const TitleWords& t) {
    const Box b = title_block_box(size);
    const double width = b.width(), k = width / block_width;
    const auto cell = [&](double x, double y, double w, double rows, const char* label,
                          const std::string& value, const char* field, double height = 3.5) {
        const double left = b.left + x * k, right = left + w * k, low = b.bottom + y * row,
                     high = low + rows * row;
        to.add({.kind = LineKind::thin,
                .points = {{left, low}, {right, low}, {right, high}, {left, high}},
                .closed = true});
        to.add(Text{.at = {left + 1.2, high - 3.4}, .words = label, .height = 2.0});
        if (value.empty() && !field) return;
        Text text{.at = {left + 1.5, low + (rows > 1 ? rows * row / 2 - height / 2 - 1.5 : 1.8)},
                  .words = value,
                  .height = height_for(value, height, w * k - 3)};
        if (field) {
            text.link = Link{t.piece, {}, field, {}};
            text.room = {left, low, right, high};
        }
        to.add(std::move(text));
    };
    cell(0, 3, 75, 1, "Material", t.material, "finish");
    cell(75, 3, 55, 1, "General tolerance", t.own.tolerance, "drawing.tolerance");
    cell(130, 3, 27, 1, "Mass", t.mass, nullptr);
    cell(157, 3, 23, 1, "Scale", t.scale, "drawing.scale");
    cell(0, 2, 38, 1, "Drawn by", t.own.drawn_by, "drawing.drawn_by");
    cell(38, 2, 37, 1, "Checked by", t.own.checked_by, "drawing.checked_by");
    cell(75, 1, 105, 2, "Title", t.title, "piece_name", 5);
    cell(0, 1, 38, 1, "Date", t.own.date, "drawing.date");
    cell(38, 1, 37, 1, "Projection", "", "drawing.projection");
    projection_symbol(to, t.projection, {b.left + 64.5 * k, b.bottom + 1.36 * row});
    cell(0, 0, 75, 1, "Owner", t.own.owner, "drawing.owner");
    cell(75, 0, 45, 1, "Number", t.own.number, "drawing.number");
    cell(120, 0, 14, 1, "Rev.", t.own.revision, "drawing.revision");
    cell(134, 0, 16, 1, "Sheet", t.sheet, nullptr);
    cell(150, 0, 14, 1, "Size", t.size, "drawing.sheet");
    cell(164, 0, 16, 1, "Unit", t.unit, nullptr);
    to.add({.kind = LineKind::frame, .points = {{b.left, b.bottom}, {b.left, b.top}, {b.right, b.top}}});
}

Paper table(const DataTable& text, double most) {
    constexpr double high = 5, letters = 2.5, pad = 1.5;
    std::size_t columns = 0;
    for (const auto& row : text.rows)
        columns = std::max(columns, row.size());
    std::vector<double> widths(columns, 0);
    for (const auto& row : text.rows)
        for (std::size_t c = 0; c < row.size(); ++c)
            widths[c] = std::max(widths[c], text_width(row[c], letters) + 2 * pad);
    double width = 0;
    for (const double w : widths)
        width += w;
    if (width > most && columns > 0) { // the widest gives way, its letters smaller
        auto widest = std::max_element(widths.begin(), widths.end());
        *widest = std::max(*widest - (width - most), most / static_cast<double>(columns) / 2);
        width = 0;
        for (const double w : widths)
            width += w;
    }
    const double least = std::min(most, text_width(text.title, letters) + 2 * pad);
    if (width < least && columns > 0) {
        widths.back() += least - width;
        width = least;
    }
    Paper out;
    const auto cell = [&](double x, double y, double room, const std::string& words) {
        out.add(Text{.at = {x + pad, y - high + 1.3},
                     .words = words,
                     .height = height_for(words, letters, room - 2 * pad)});
    };
    double y = 0;
    cell(0, y, width, text.title);
    y -= high;
    for (const auto& row : text.rows) {
        out.add(line(LineKind::thin, {0, y}, {width, y}));
        double x = 0;
        for (std::size_t c = 0; c < row.size(); ++c) {
            if (!row[c].empty()) cell(x, y, widths[c], row[c]);
            x += widths[c];
        }
        y -= high;
    }
    out.add({.kind = LineKind::outline, .points = {{0, 0}, {width, 0}, {width, y}, {0, y}}, .closed = true});
    double x = 0;
    for (std::size_t c = 0; c + 1 < columns; ++c) {
        x += widths[c];
        out.add(line(LineKind::thin, {x, -high}, {x, y}));
    }
    return out;
}

} // namespace whorl::drawing
