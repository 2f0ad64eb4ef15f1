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
};

std::string show(double v) {
    return number_text(v, 2);
}

// "80 x 95" and then the words of a silhouette, which take the place of what the vessel has.
Piece vessel(const char* name, std::string_view text, std::size_t rest, Vessel usual,
             std::string (*silhouette)(const Vessel&)) {
    Reader r(text);
    r.move_to(rest);
    r.skip_blanks();
    Vessel v = usual;
    if (!r.done() && r.peek() >= '0' && r.peek() <= '9') {
        const std::size_t from = r.at();
        v.wide = r.positive("width",
                            "A vessel's widest diameter is expected here, then x and its height: 80 x 95.");
        r.skip_blanks();
        if (!r.take_times()) {
            r.move_to(from); // flutes first
            v.wide = usual.wide;
        } else {
            r.skip_blanks();
            v.high = r.positive("height", "The vessel's height is expected here, as in 80 x 95.");
        }
    }
    if (!(v.wide >= 10 && v.wide <= 1000 && v.high >= 15 && v.high <= 2000))
        r.refuse_from(rest, "A vessel is made here 10 to 1000 mm wide and 15 to 2000 mm high.");
    v.wall = std::min(usual.wall, v.wide / 20);
    const std::string own = silhouette(v) + ", ", said(r.rest());
    SilhouetteDesignation d;
    try {
        d = parse_silhouette(own + said);
    } catch (const InputError& e) {
        const std::size_t before = own.size();
        throw InputError(e.what(), r.at() + (e.position > before ? e.position - before : 0), e.extent);
    }
    Piece p = piece_asked(d.spec, Designation{d.spec, {}, LengthUnit::millimetre});
    p.name = std::string(name) + " " + show(v.wide) + " x " + show(v.high);
    p.finish = "PETG";
    return p;
}

std::string flutes(const Vessel& v, double from, double to, double twist) {
    const double bottom = std::max(1.0, 2 * v.wall);
    return ", 8 flutes " + show(0.05 * v.wide) + " deep, twist " + show(twist) + ", from " +
           show(std::max(from, bottom + 2)) + ", to " + show(to) + ", wall " + show(v.wall) + " bottom " +
           show(bottom);
}

} // namespace

Piece cup(const Starter&, std::string_view text, std::size_t rest, std::span<const OwnSection>) {
    return vessel("Cup", text, rest, {80, 95, 2}, [](const Vessel& v) {
        const auto at = [&](double z, double r) { return " " + show(z * v.high) + ":" + show(r * v.wide); };
        return "silhouette" + at(0, 0.36) + at(0.35, 0.43) + at(1, 0.5) +
               flutes(v, 0.1 * v.high, 0.9 * v.high, 45);
    });
}

Piece bottle(const Starter&, std::string_view text, std::size_t rest, std::span<const OwnSection>) {
    return vessel("Bottle", text, rest, {70, 180, 1.5}, [](const Vessel& v) {
        const auto at = [&](double z, double r) { return " " + show(z * v.high) + ":" + show(r * v.wide); };
        return "silhouette" + at(0, 0.42) + at(0.06, 0.49) + at(0.12, 0.5) + at(0.5, 0.5) + at(0.72, 0.36) +
               at(0.86, 0.2) + at(0.92, 0.18) + at(1, 0.18) + " monotone" +
               flutes(v, 0.1 * v.high, 0.7 * v.high, 60);
    });
}

} // namespace whorl
