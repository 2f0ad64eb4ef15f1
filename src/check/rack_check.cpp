#include "check/form_checks.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <cmath>
#include <tuple>

namespace whorl {
namespace {

constexpr double thin_tip = 0.2;  // × module, as of a gear
constexpr double least_body = 1;  // × module under the roots
constexpr double least_plain = 1; // × module of an uncut end

// A length typed back is rounded up to a tenth of a millimetre.
std::string tenths(double v) {
    return number_text(std::ceil(v * 10 - 1e-9) / 10, 1);
}

} // namespace

void check_form(const ResolvedBar&, const ZoneLook& look) {
    const ResolvedRack& r = *look.resolved().rack();
    const RackSpec& s = r.spec;
    const double m = in_mm(s.module);
    // the shortening that leaves tips of this width
    const auto shortening_for = [&](double land) -> std::optional<double> {
        for (int hundredths = 0; hundredths <= 100; ++hundredths) {
            RackSpec c = s;
            c.tip_shortening = hundredths / 100.0;
            if (c.tip_shortening < s.tip_shortening) continue;
            try {
                const ResolvedRack t = resolve_rack(c);
                if (t.trouble == ToothTrouble::none && pi * m - 2 * rack_half_space(t, t.tip_height) >= land)
                    return c.tip_shortening;
            } catch (const InputError&) {
                break;
            }
        }
        return {};
    };
    const auto shorten = [&](double land) -> std::optional<Remedy> {
        const auto k = shortening_for(land);
        if (!k) return {};
        return look.edit("Shorten the tips by " + number_text(*k, 3) + " modules", field::tip_shortening,
                         number_text(*k, 4));
    };
    switch (r.trouble) {
    case ToothTrouble::none:
        break;
    case ToothTrouble::tip_edge:
        look.stop("tip_edge",
                  "The edge of " + look.shown(in_mm(s.tip_size)) +
                      " on the tips leaves no land between the flanks, or reaches the root; make it smaller.",
                  in_mm(s.tip_size), 0, look.edit("Sharp tips", field::tip_edge, "sharp"));
        return;
    case ToothTrouble::pointed_tip:
        look.stop(
            "pointed_tip",
            "The flanks meet before the tips, " + look.shown(r.tip_height) +
                " over the reference line: the teeth would be pointed; shorten the tips or take a smaller "
                "addendum.",
            r.tip_height, 0, shorten(thin_tip * m));
        return;
    default:
        look.stop(
            "no_flank",
            "Nothing is left of the straight flank between root and tip; make the root radius or the tip "
            "shortening smaller.",
            0, 0, look.edit("Basic rack A", field::basic_rack, "A"));
        return;
    }
    const double body = r.body() + r.root_height;
    const std::string deep = tenths(in_mm(s.height) - body + 2 * m);
    if (body < 0.1 * m)
        look.stop("no_body",
                  "The spaces are " + look.shown(r.tip_height - r.root_height) + " deep and the body is " +
                      look.shown(in_mm(s.height)) +
                      " high: nothing holds the teeth together; make it higher.",
                  body, 0.1 * m, look.edit("Height " + deep + " mm", field::body_height, deep));
    else if (body < least_body * m)
        look.advise("thin_body",
                    "Only " + look.shown(body) +
                        " of the body is left under the roots; a rack wants at least one module (" +
                        look.shown(least_body * m) + ").",
                    body, least_body * m, look.edit("Height " + deep + " mm", field::body_height, deep));
    const double land = pi * m - 2 * rack_half_space(r, r.tip_height);
    if (land < thin_tip * m)
        look.advise("thin_tip",
                    "The tips are only " + look.shown(land) + " thick, less than 0.2 modules (" +
                        look.shown(thin_tip * m) + "): they chip and wear.",
                    land, thin_tip * m, shorten(thin_tip * m));
    for (const auto& [plain, field, name] : {std::tuple{in_mm(s.near_plain), field::near_plain, "near"},
                                             std::tuple{in_mm(s.far_plain), field::far_plain, "far"}})
        if (plain > 0 && plain < least_plain * m)
            look.advise("thin_end",
                        std::string("What is left uncut at the ") + name + " end is only " +
                            look.shown(plain) + " thick; leave at least a module (" +
                            look.shown(least_plain * m) + ") or cut the rack off in the space.",
                        plain, least_plain * m, look.edit("Leave " + tenths(m) + " mm", field, tenths(m)));
    check_module(look, s.module);
}

} // namespace whorl
