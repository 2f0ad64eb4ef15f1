// What a piece is from its end, beside its main view.
#include "drawing/placed_view.hpp"

#include "drawing/clipped.hpp"
#include "drawing/forms/form_drawing.hpp"

namespace whorl::drawing {

std::optional<PlacedView> place_end_view(const Draft& d, double k) {
    if (!d.end) return {};
    PlacedView view;
    add_strokes(view, scaled(d.end->lines, k), LineKind::outline);
    const Box o = view.outline;
    for (std::size_t i = 0; i < d.piece.zones.size(); ++i) {
        const ResolvedZone& z = d.piece.zones[i];
        const FormDrawing& f = drawing_of(z);
        if (!f.end || (f.simplify && d.true_form)) continue;
        // only what is at the end that is looked at
        const bool near = in_mm(z.start) < 1e-6, far = std::abs(in_mm(z.end() - d.piece.length())) < 1e-6;
        if (!(d.end_is_near ? near : far) && !z.gear() && !z.lobe()) continue;
        std::vector<Mark> marks;
        f.end({d.piece, z, d.index, i, d.unit, k, false}, marks);
        for (const Mark& m : marks)
            if (auto s = on_paper(m, k)) view.paper.add(std::move(*s));
    }
    // across flats: level or upright, whichever way they look
    int side = 0;
    for (const Dimension& f : d.dimensions) {
        if (f.measure != Measure::between_flats) continue;
        const double r = f.radius * k;
        const bool roomy = 2 * r >= room_for_text(f.words);
        // a hexagon's flats stand upright in this view, as a flat bar's do
        const double y = o.bottom - first_row - side * next_row;
        ++side;
        const double from = f.inner ? 0 : o.bottom * 0.55;
        view.items.push_back(
            {.link = f.link,
             .line =
                 DimensionLine{
                     {-r, y}, {r, y}, f.words, roomy ? TextPlace::inside : TextPlace::after, f.link},
             .features = {{-r, from}, {r, from}}});
    }
    view.paper.add(line(LineKind::centre, {o.left - 3, 0}, {o.right + 3, 0}));
    view.paper.add(line(LineKind::centre, {0, o.bottom - 3}, {0, o.top + 3}));
    settle(view, d);
    view.box = view.paper.bounds();
    return view;
}

} // namespace whorl::drawing
