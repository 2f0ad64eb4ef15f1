#include "build/piece_values.hpp"

#include "quantity/expression.hpp"

namespace whorl {

std::vector<ResolvedValue> piece_values(const Preview& preview, const Piece& piece) {
    if (!preview.made()) return {};
    const Finish& finish = finish_of(piece);
    return {{.key = "volume",
             .label = "Volume",
             .kind = ValueKind::volume,
             .value = preview.volume(),
             .source = "closed form over the exact skin"},
            {.key = "mass",
             .label = "Mass",
             .kind = ValueKind::mass,
             .value = preview.volume() / 1000 * finish.density,
             .source = "volume × " + number_text(finish.density, 2) + " g/cm³, " + finish.name},
            {.key = "overall_length",
             .label = "Overall length",
             .value = in_mm(preview.piece.length()),
             .source = "sum of its zones"}};
}

} // namespace whorl
