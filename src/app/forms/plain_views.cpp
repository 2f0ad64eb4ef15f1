#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/section_view.hpp"

namespace whorl::app {

namespace {

void edge_between_flats(QPainter& p, const ResolvedZone& z, const SidePlace& place) {
    if (z.outline() == Outline::hexagon || z.outline() == Outline::square)
        p.drawLine(place.at(in_mm(z.start), 0), place.at(in_mm(z.end()), 0));
}

} // namespace

const FormViews& views(const ResolvedPlain&) {
    static const FormViews table{
        .title =
            [](const ResolvedZone& z, std::size_t number) {
                return QString(z.in_bore() ? "Bore %1" : "Plain zone %1").arg(number);
            },
        .detail =
            [](const ResolvedZone& z, const Piece& piece) {
                return z.in_bore() ? QString(z.where == Where::near_bore ? "from the near end inwards"
                                                                         : "from the far end inwards")
                                   : QString::fromStdString(piece.name + ", " + piece.finish);
            },
        .asks = asks_nothing_more,
        .follows = [](SheetBuilder&, const ResolvedZone&) {},
        .section = [](SectionView& view, QPainter& p, const ResolvedZone& z) { view.draw_round(p, z); },
        .developed = [](DevelopedView& view, QPainter& p,
                        const ResolvedZone& z) { view.draw_unrolled(p, z); },
        .side = {.outline = turned_outline, .marks = edge_between_flats}};
    return table;
}

} // namespace whorl::app
