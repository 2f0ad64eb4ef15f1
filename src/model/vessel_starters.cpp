// Fluted vessels: a cup and a bottle, each a silhouette and its hollow, with a number of its own for everything.
#include "model/forms/silhouette.hpp"
#include "model/starter_table.hpp"

#include "form/reader.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

struct Vessel {
    double wide, high; // mm
    double wall;
    double dish = 0; // radius its bottom is dished by inside, mm; 0: flat
};

// `dish 80` among the words that follow.
double dish_in(const std::string& said) {
    const std::size_t at = said.find("dish");
    if (at == said.npos) return 0;
    Reader r(said);
    r.move_to(at + 4);
    r.skip_blanks();
    return r.take_decimal().value_or(0);
}

std::string show(double v) {
    return number_text(v, 2);
}

// "80 x 95" and then the words of a silhouette, which take the place of what the vessel has.
Piece vessel(const char* name, std::string_view text, std::size_t rest, Vessel usual,
             std::string (*silhouette)(const Vessel&, bool fluted)) {
    Reader r(text);
    r.move_to(rest);
    r.skip_blanks();
    Vessel v = usual;
    bool inches = false;
    if (!r.done() && r.peek() >= '0' && r.peek() <= '9') {
        const std::size_t from = r.at();
        v.wide =
            r.size("width", "A vessel's widest diameter is expected here, then x and its height: 80 x 95.");
        r.skip_blanks();
        if (!r.take_times()) {
            r.move_to(from); // flutes first
            v.wide = usual.wide;
        } else {
            r.skip_blanks();
            v.high = r.size("height", "The vessel's height is expected here, as in 80 x 95.");
            r.skip_blanks();
            if (r.take_word_ignoring_case("in")) {
                inches = true;
                v.wide = in_mm(inch(v.wide));
                v.high = in_mm(inch(v.high));
            } else {
                r.take_word_ignoring_case("mm");
            }
        }
    }
    if (!(v.wide >= 10 && v.wide <= 1000 && v.high >= 15 && v.high <= 2000))
        r.refuse_from(rest, "A vessel is made here 10 to 1000 mm wide and 15 to 2000 mm high.");
    v.wall = std::min(usual.wall, v.wide / 20);
    std::string said(r.rest());
    // `plain`, `without flutes`: a smooth one
    bool plain = false;
    for (const std::string_view word : {"without flutes", "no flutes", "plain"})
        if (const std::size_t at = said.find(word); at != said.npos && !plain) {
            plain = true;
            said.replace(at, word.size(), word.size(), ' ');
        }
    if (!plain) v.dish = dish_in(said);
    const std::string own = silhouette(v, !plain) + ", ";
    SilhouetteDesignation d;
    try {
        d = parse_silhouette(own + said, own.size());
    } catch (const InputError& e) {
        const std::size_t before = own.size();
        throw InputError(e.what(), r.at() + (e.position > before ? e.position - before : 0), e.extent);
    }
    Piece p = piece_asked(d.spec, Designation{d.spec, {}, LengthUnit::millimetre});
    const auto written = [&](double millimetres) {
        return inches ? number_text(in_inch(mm(millimetres)), 4) : show(millimetres);
    };
    p.name = std::string(name) + " " + written(v.wide) + " x " + written(v.high) + (inches ? " in" : "");
    p.finish = "PETG";
    return p;
}

// `inside`: the radius of the hollow's bottom.
std::string flutes(const Vessel& v, double from, double to, double twist, double inside, bool fluted) {
    const double bottom = std::max(1.0, 2 * v.wall);
    std::string hollow = ", wall " + show(v.wall) + " bottom " + show(bottom);
    if (!fluted) return hollow;
    // above the rim of a dished bottom, as far as the dish rises to it
    const double half = std::min(inside, v.dish),
                 rim = v.dish > 0 ? v.dish - std::sqrt(v.dish * v.dish - half * half) : 0;
    from = std::max(from, bottom + 2 + rim);
    return ", 8 flutes " + show(0.05 * v.wide) + " deep, twist " + show(twist) + ", from " + show(from) +
           ", to " + show(to) + hollow;
}

} // namespace

Piece cup(const Starter&, std::string_view text, std::size_t rest, std::span<const OwnSection>) {
    return vessel("Cup", text, rest, {80, 95, 2}, [](const Vessel& v, bool fluted) {
        const auto at = [&](double z, double r) { return " " + show(z * v.high) + ":" + show(r * v.wide); };
        return "silhouette" + at(0, 0.36) + at(0.35, 0.43) + at(1, 0.5) +
               flutes(v, 0.1 * v.high, 0.9 * v.high, 45, 0.4 * v.wide, fluted);
    });
}

Piece bottle(const Starter&, std::string_view text, std::size_t rest, std::span<const OwnSection>) {
    return vessel("Bottle", text, rest, {70, 180, 1.5}, [](const Vessel& v, bool fluted) {
        const auto at = [&](double z, double r) { return " " + show(z * v.high) + ":" + show(r * v.wide); };
        return "silhouette" + at(0, 0.42) + at(0.06, 0.49) + at(0.12, 0.5) + at(0.5, 0.5) + at(0.72, 0.36) +
               at(0.86, 0.2) + at(0.92, 0.18) + at(1, 0.18) + " monotone" +
               flutes(v, 0.1 * v.high, 0.7 * v.high, 60, 0.45 * v.wide, fluted);
    });
}

} // namespace whorl
