#include "drawing/write_sheet.hpp"

#include "drawing/pango_letters.hpp"
#include "model/file.hpp"

#include <algorithm>
#include <cairo-pdf.h>
#include <cairo-svg.h>
#include <cmath>

namespace whorl::drawing {
namespace {

constexpr double points_per_mm = 72 / 25.4;

cairo_status_t append(void* to, const unsigned char* data, unsigned int size) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(data), size);
    return CAIRO_STATUS_SUCCESS;
}

struct DestroyCairo {
    void operator()(cairo_t* c) const { cairo_destroy(c); }
};
struct DestroySurface {
    void operator()(cairo_surface_t* s) const { cairo_surface_destroy(s); }
};
using Surface = std::unique_ptr<cairo_surface_t, DestroySurface>;
using Cairo = std::unique_ptr<cairo_t, DestroyCairo>;

void trace(cairo_t* c, const Stroke& s) {
    cairo_new_path(c);
    if (s.is_arc()) {
        cairo_arc(c, s.centre.x, s.centre.y, s.radius, s.from, s.to);
        return;
    }
    cairo_move_to(c, s.points[0].x, s.points[0].y);
    if (s.smooth && s.points.size() > 2) {
        const std::vector<At> p = curve_through(s.points);
        for (std::size_t i = 1; i + 2 < p.size(); i += 3)
            cairo_curve_to(c, p[i].x, p[i].y, p[i + 1].x, p[i + 1].y, p[i + 2].x, p[i + 2].y);
    } else
        for (std::size_t i = 1; i < s.points.size(); ++i)
            cairo_line_to(c, s.points[i].x, s.points[i].y);
    if (s.closed) cairo_close_path(c);
}

// In a user space of millimetres with y up.
void paint(cairo_t* c, const Paper& paper) {
    cairo_set_source_rgb(c, 0, 0, 0);
    cairo_set_line_cap(c, CAIRO_LINE_CAP_ROUND);
    cairo_set_line_join(c, CAIRO_LINE_JOIN_ROUND);
    for (const Stroke& s : paper.strokes) {
        const LineStyle& style = style_of(s.kind);
        cairo_set_line_width(c, style.width);
        cairo_set_dash(c, style.dashes.data(), static_cast<int>(style.dashes.size()), 0);
        trace(c, s);
        cairo_stroke(c);
    }
    cairo_set_dash(c, nullptr, 0, 0);
    for (const Fill& f : paper.fills) {
        cairo_new_path(c);
        for (const At& p : f.points)
            cairo_line_to(c, p.x, p.y);
        cairo_close_path(c);
        cairo_fill(c);
    }
    for (const Text& t : paper.texts) {
        if (t.words.empty()) continue;
        const auto lock = lettering(); // for each alone: the window measures letters meanwhile
        cairo_save(c);
        cairo_translate(c, t.at.x, t.at.y);
        cairo_rotate(c, t.angle);
        cairo_scale(c, 1, -1);
        const Layout layout = laid_out(c, t.words, t.height);
        PangoRectangle reach;
        pango_layout_get_extents(layout.get(), nullptr, &reach);
        const double width = static_cast<double>(reach.width) / PANGO_SCALE;
        const double left = t.anchor == Anchor::left ? 0 : t.anchor == Anchor::middle ? -width / 2 : -width;
        cairo_move_to(c, left, -static_cast<double>(pango_layout_get_baseline(layout.get())) / PANGO_SCALE);
        pango_cairo_show_layout(c, layout.get());
        cairo_restore(c);
    }
}

void to_millimetres(cairo_t* c, double height, double units_per_mm) {
    cairo_scale(c, units_per_mm, -units_per_mm);
    cairo_translate(c, 0, -height);
}

} // namespace

std::string pdf_of(const std::vector<Paper>& papers) {
    std::string out;
    {
        Surface surface(cairo_pdf_surface_create_for_stream(append, &out, 100, 100));
        cairo_pdf_surface_set_metadata(surface.get(), CAIRO_PDF_METADATA_TITLE, papers.front().title.c_str());
        Cairo c(cairo_create(surface.get()));
        for (const Paper& p : papers) {
            cairo_pdf_surface_set_size(surface.get(), p.width * points_per_mm, p.height * points_per_mm);
            cairo_save(c.get());
            to_millimetres(c.get(), p.height, points_per_mm);
            paint(c.get(), p);
            cairo_restore(c.get());
            cairo_show_page(c.get());
        }
        cairo_surface_finish(surface.get());
    }
    return out;
}

std::string svg_of(const Paper& p) {
    std::string out;
    {
        Surface surface(cairo_svg_surface_create_for_stream(append, &out, p.width, p.height));
        cairo_svg_surface_set_document_unit(surface.get(), CAIRO_SVG_UNIT_MM);
        Cairo c(cairo_create(surface.get()));
        to_millimetres(c.get(), p.height, 1);
        paint(c.get(), p);
        cairo_surface_finish(surface.get());
    }
    return out;
}

std::string png_of(const Paper& p, double dots_per_mm) {
    std::string out;
    Surface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24,
                                               static_cast<int>(std::ceil(p.width * dots_per_mm)),
                                               static_cast<int>(std::ceil(p.height * dots_per_mm))));
    Cairo c(cairo_create(surface.get()));
    cairo_set_source_rgb(c.get(), 1, 1, 1);
    cairo_paint(c.get());
    to_millimetres(c.get(), p.height, dots_per_mm);
    paint(c.get(), p);
    cairo_surface_flush(surface.get());
    cairo_surface_write_to_png_stream(surface.get(), append, &out);
    return out;
}

const std::vector<std::string>& sheet_formats() {
    static const std::vector<std::string> all{"pdf", "svg", "dxf", "png"};
    return all;
}

void write_sheet(const Paper& paper, const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(),
                   [](unsigned char c) { return std::tolower(c); });
    if (ending == ".pdf") return write_file_atomically(path, pdf_of({paper}));
    if (ending == ".svg") return write_file_atomically(path, svg_of(paper));
    if (ending == ".png") return write_file_atomically(path, png_of(paper));
    if (ending == ".dxf") return write_file_atomically(path, dxf_of(paper));
    throw FileError("'" + path.string() + "' is no drawing's name: it ends in .pdf, .svg, .dxf or .png.");
}

} // namespace whorl::drawing
