#include "drawing/letters.hpp"

#include "drawing/pango_letters.hpp"

#include <fontconfig/fontconfig.h>
#include <pango/pangofc-fontmap.h>
#include <sys/mman.h>
#include <unistd.h>
#include <unordered_map>

// the file itself, so that the program finds it wherever it is installed
__asm__(".section .rodata\n"
        ".balign 16\n"
        "whorl_typeface:\n"
        ".incbin \"" WHORL_TYPEFACE "\"\n"
        "whorl_typeface_end:\n"
        ".previous\n");
extern "C" const unsigned char whorl_typeface[], whorl_typeface_end[];

namespace whorl::drawing {
namespace {

// Pango sets letters on points of 1/72 in; a surface of that resolution has a user space of points, so a millimetre in
// the writers' space is said to be a point.
constexpr double pango_units = PANGO_SCALE;

// The system's typefaces and ours. Files are all that fontconfig reads: ours is one in memory.
FcConfig* typefaces() {
    FcConfig* config = FcInitLoadConfigAndFonts();
    const std::size_t size = static_cast<std::size_t>(whorl_typeface_end - whorl_typeface);
    const int file = memfd_create("Inter", MFD_CLOEXEC);
    if (file < 0) return config; // letters are the system's then
    if (write(file, whorl_typeface, size) == static_cast<ssize_t>(size)) {
        const std::string path = "/proc/self/fd/" + std::to_string(file); // open as long as the program runs
        FcConfigAppFontAddFile(config, reinterpret_cast<const FcChar8*>(path.c_str()));
    }
    return config;
}

PangoFontMap* font_map() {
    static PangoFontMap* map = [] {
        PangoFontMap* made = pango_cairo_font_map_new_for_font_type(CAIRO_FONT_TYPE_FT);
        pango_fc_font_map_set_config(PANGO_FC_FONT_MAP(made), typefaces());
        pango_cairo_font_map_set_resolution(PANGO_CAIRO_FONT_MAP(made), 72);
        return made;
    }();
    return map;
}

} // namespace

std::unique_lock<std::recursive_mutex> lettering() {
    static std::recursive_mutex one;
    return std::unique_lock(one);
}

Layout laid_out(cairo_t* cairo, const std::string& words, double height) {
    PangoContext* context = pango_font_map_create_context(font_map());
    cairo_font_options_t* options = cairo_font_options_create();
    cairo_font_options_set_hint_style(options, CAIRO_HINT_STYLE_NONE);
    cairo_font_options_set_hint_metrics(options, CAIRO_HINT_METRICS_OFF);
    pango_cairo_context_set_font_options(context, options);
    cairo_font_options_destroy(options);
    pango_context_set_round_glyph_positions(context, FALSE);
    if (cairo) pango_cairo_update_context(cairo, context);
    Layout layout(pango_layout_new(context));
    PangoFontDescription* font = pango_font_description_from_string(typeface);
    pango_font_description_set_absolute_size(font, height / capital_height * pango_units);
    pango_layout_set_font_description(layout.get(), font);
    pango_font_description_free(font);
    // figures of one width, so that limits stand under each other
    PangoAttrList* attributes = pango_attr_list_new();
    pango_attr_list_insert(attributes, pango_attr_font_features_new("tnum=1"));
    pango_layout_set_attributes(layout.get(), attributes);
    pango_attr_list_unref(attributes);
    pango_layout_set_single_paragraph_mode(layout.get(), TRUE);
    pango_layout_set_text(layout.get(), words.c_str(), static_cast<int>(words.size()));
    g_object_unref(context);
    return layout;
}

double text_width(const std::string& words, double height) {
    constexpr double at = 100; // measured large
    const auto lock = lettering();
    static std::unordered_map<std::string, double> known;
    if (known.size() > 20000) known.clear();
    const auto [found, fresh] = known.try_emplace(words, 0);
    if (fresh) {
        PangoRectangle reach;
        pango_layout_get_extents(laid_out(nullptr, words, at).get(), nullptr, &reach);
        found->second = reach.width / pango_units / at;
    }
    return found->second * height;
}

} // namespace whorl::drawing
