// A zone's ends with their numbers worked out.
#include "model/ends/ends.hpp"
#include "model/form_model.hpp"
#include "model/resolve_zone.hpp"

#include <algorithm>

namespace whorl {

Length length_in_range(const Number& n, const Names& names, const char* what, double least) {
    const Length l = resolve_length(n, names);
    if (!(in_mm(l) >= least && in_mm(l) <= longest_length))
        throw InputError(std::string("The ") + what + " is " + outside_text(in_mm(l), least, longest_length) +
                             " mm; it must be between " + number_text(least, 4) + " and " +
                             number_text(longest_length, 0) + " mm.",
                         0, n.text.size());
    return l;
}

void require_ends(const ZoneInPiece& where, std::initializer_list<EndKind> kinds, const char* sentence) {
    for (const EndTreatment* e : {&where.zone.near_end, &where.zone.far_end})
        if (std::ranges::find(kinds, e->kind) == kinds.end())
            throw JobError(InputError(sentence),
                           where.place + (e == &where.zone.near_end ? "near_end" : "far_end"));
}

ResolvedEnd resolve_end(const EndTreatment& e, const ResolvedZone& z, const Names& names, bool closed_bottom,
                        bool far) {
    if (z.outline() == Outline::flat && e.kind != EndKind::flat)
        throw InputError("A flat bar is sawn off square; its ends are flat.");
    return model_of(e.kind).resolve({e, z, names, closed_bottom, far});
}

} // namespace whorl
