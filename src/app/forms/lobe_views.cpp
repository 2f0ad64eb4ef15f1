// What a cam's lobe says in the sheet, and where its drawings are.
#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/forms/stretch_input.hpp"
#include "app/section_view.hpp"

namespace whorl::app {

const FormViews& views(const ResolvedLobe&) {
    static const FormViews table{
        .title = [](const ResolvedZone&,
                    std::size_t number) { return QString("Lobe on zone %1").arg(number); },
        .detail =
            [](const ResolvedZone& z, const Piece& piece) {
                const CamSpec& s = z.lobe()->spec;
                return QString("disc cam, %1 %2 follower, %3")
                    .arg(s.swings() ? "swinging" : "translating", QString::fromUtf8(word(s.follower).data()),
                         QString::fromStdString(piece.finish));
            },
        .asks = stretch_rows,
        .follows = [](SheetBuilder& b,
                      const ResolvedZone& z) { b.follow_all(z.lobe()->values, {"base_radius"}, {}); },
        .section = [](SectionView& view, QPainter& p, const ResolvedZone& z) { view.draw_lobe(p, z); },
        .developed = [](DevelopedView& view, QPainter& p, const ResolvedZone& z) { view.draw_motion(p, z); }};
    return table;
}

} // namespace whorl::app
