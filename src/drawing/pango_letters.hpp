// For the measuring and the writers: Pango with the shipped typeface.
#pragma once

#include <cairo.h>
#include <memory>
#include <mutex>
#include <pango/pangocairo.h>
#include <string>

namespace whorl::drawing {

struct Unref {
    void operator()(gpointer p) const { g_object_unref(p); }
};
using Layout = std::unique_ptr<PangoLayout, Unref>;

// The words laid out so that a unit of `cairo`'s user space is a millimetre. One of these at a time: hold `lettering`.
Layout laid_out(cairo_t* cairo, const std::string& words, double height);

// Pango's font map is not safe to use from several threads.
std::unique_lock<std::recursive_mutex> lettering();

} // namespace whorl::drawing
