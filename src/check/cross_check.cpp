#include "check/form_checks.hpp"
#include "check/pair_checks.hpp"

#include "quantity/expression.hpp"
#include "standard/screw_hole.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

constexpr double land = 0.05; // mm, least that is left beside a hole

double length_of(const ResolvedEnd& e, double radius) {
    if (e.is_dome() || e.kind != EndKind::chamfer) return in_mm(e.dome_height);
    return in_mm(e.dome_height) + std::abs(radius - in_mm(e.diameter) / 2) / std::tan(in_rad(e.angle));
}

double floored(double v) {
    return v < 0.05 ? v : std::floor(v * 20 + 1e-9) / 20;
}

class CrossCheck : ZoneLook {
public:
    explicit CrossCheck(const ZoneLook& look) : ZoneLook(look), z_(look.resolved()), h_(*z_.cross()) {}

    void run() const {
        if (!wide_enough_a_face() || !within_web()) return;
        row();
        bores();
    }

private:
    double diameter() const { return 2 * h_.radius; }

    // Whether the hole leaves through one face, with the widest that does.
    bool wide_enough_a_face() const {
        const double least = 0.024 * in_mm(z_.largest_radius());
        if (diameter() < least) {
            found("cross_hole_too_narrow",
                  "A cross hole of Ø " + shown(diameter()) + " is next to nothing in this zone; at least Ø " +
                      shown(least) + " can be made.",
                  diameter(), least, field::cross_hole, std::ceil(least * 20) / 20);
            return false;
        }
        if (z_.outline() == Outline::round) {
            const double most = floored(0.8 * std::min(in_mm(z_.diameter), in_mm(z_.far_diameter)));
            if (diameter() <= most + 1e-9) return true;
            found("cross_hole_too_wide",
                  "A cross hole of Ø " + shown(diameter()) + " leaves too little beside it; at most Ø " +
                      shown(most) + ", four fifths of this zone, goes through.",
                  diameter(), most, field::cross_hole, most);
            return false;
        }
        const double pi = std::numbers::pi, step = z_.outline() == Outline::hexagon ? pi / 3 : pi / 2,
                     side = std::round(h_.towards / step), aslant = std::abs(h_.towards - side * step);
        double distance = in_mm(z_.diameter) / 2, half = distance * std::tan(step / 2);
        if (z_.outline() == Outline::flat) {
            half = in_mm(z_.as<ResolvedPlain>()->thickness) / 2;
            if (std::lround(side) % 2 != 0) std::swap(distance, half); // through the wide face
        }
        const double most = floored(2 * (half * 0.98 - land));
        if (diameter() > most + 1e-9) {
            found("cross_hole_too_wide",
                  "A cross hole of Ø " + shown(diameter()) +
                      " is wider than the face it goes through leaves room for; "
                      "at most Ø " +
                      shown(most) + " does.",
                  diameter(), most, field::cross_hole, most);
            return false;
        }
        if (distance * std::tan(aslant) + h_.radius / std::cos(aslant) > half * 0.98) {
            double turned = in_deg(rad(side * step));
            if (z_.outline() == Outline::flat) turned -= 90;
            ZoneLook::stop(
                "cross_hole_aslant",
                "The cross hole stands " + number_text(in_deg(rad(aslant)), 2) +
                    "° off the face it should go through and would run over its edge; turn it square to a "
                    "face.",
                in_deg(rad(aslant)), 0,
                Remedy{"Turn it square to the face",
                       {with(field::cross_hole_turned, number_text(turned, 3))}});
            return false;
        }
        return true;
    }

    // Whether the holes stay within the web's thickness, between the rings that are sunk into the disc's sides.
    bool within_web() const {
        if (!z_.web) return true;
        const double near = in_mm(z_.start) + (z_.web->near ? z_.web->depth : 0),
                     far = in_mm(z_.end()) - (z_.web->far ? z_.web->depth : 0), room = far - near - 2 * land;
        const double first = h_.at.front() - h_.radius - land, last = h_.at.back() + h_.radius + land;
        if (first >= near - 1e-9 && last <= far + 1e-9) return true;
        const std::string sentence = "The cross hole would run into the rings beside the web, which is " +
                                     shown(z_.web->thickness) + " thick between " +
                                     shown(near - in_mm(z_.start)) + " and " + shown(far - in_mm(z_.start)) +
                                     " from the zone's near end";
        if (h_.at.size() == 1 && diameter() <= room + 1e-9)
            found("cross_hole_in_web", sentence + "; put it there.", first, near, field::cross_hole_at,
                  std::round(((near + far) / 2 - in_mm(z_.start)) * 1000) / 1000);
        else if (h_.at.size() == 1)
            found("cross_hole_in_web",
                  sentence + "; at most Ø " + shown(std::max(0.0, room)) + " stays within it.", diameter(),
                  room, field::cross_hole, floored(room));
        else
            stop("cross_hole_in_web", sentence + "; make the web thicker or leave it out.", first, near);
        return false;
    }

    void row() const {
        const double needed = diameter() + 2 * land;
        if (h_.at.size() > 1 && h_.spacing < needed - 1e-9)
            return found("cross_holes_meet",
                         "Cross holes of Ø " + shown(diameter()) + " that are " + shown(h_.spacing) +
                             " apart run into each other; at least " + shown(needed) +
                             " leaves something between.",
                         h_.spacing, needed, field::cross_hole_spacing, std::ceil(needed * 20 - 1e-9) / 20);
        const double radius = in_mm(z_.largest_radius()),
                     from = in_mm(z_.start) + length_of(z_.near_end, radius) + h_.radius + land,
                     to = in_mm(z_.end()) - length_of(z_.far_end, radius) - h_.radius - land;
        const double first = h_.at.front(), last = h_.at.back();
        if (first >= from - 1e-9 && last <= to + 1e-9) return;
        const bool fits = last - first <= to - from;
        const double over = std::max(from - first, last - to);
        std::string sentence = h_.at.size() > 1 ? "The row of cross holes" : "The cross hole";
        sentence += " reaches " + shown(over) + " over what this zone has between its ends";
        if (!fits && h_.at.size() == 1)
            return found("cross_hole_outside",
                         sentence + ": there is room for Ø " + shown(std::max(0.0, diameter() + to - from)) +
                             ". Make the zone longer or the hole narrower.",
                         over, 0, field::cross_hole, floored(diameter() + to - from));
        if (!fits) {
            const double spacing = floored((to - from) / static_cast<double>(h_.at.size() - 1));
            return found("cross_hole_outside", sentence + "; at most " + shown(spacing) + " apart they fit.",
                         over, 0, field::cross_hole_spacing, spacing);
        }
        const double middle = (first + last) / 2 + (first < from ? from - first : to - last);
        found("cross_hole_outside",
              sentence + "; its axis may lie between " + shown(from - in_mm(z_.start)) + " and " +
                  shown(to - in_mm(z_.start)) + " from the zone's near end.",
              over, 0, field::cross_hole_at, std::round((middle - in_mm(z_.start)) * 1000) / 1000);
    }

    void bores() const {
        std::vector<bool> met(h_.at.size());
        for (const ResolvedZone& bore : whole.zones) {
            if (!bore.in_bore()) continue;
            const double near = in_mm(bore.start), far = in_mm(bore.end()),
                         radius = in_mm(bore.smallest_radius());
            const auto lies_in = [&](double z) {
                return z + h_.radius > near - land && z - h_.radius < far + land;
            };
            if (std::none_of(h_.at.begin(), h_.at.end(), lies_in)) continue;
            for (std::size_t i = 0; i < met.size(); ++i)
                if (lies_in(h_.at[i])) met[i] = true;
            if (bore.swept() && !bore.simplified()) {
                return stop(
                    "cross_hole_in_thread",
                    bore.thread()
                        ? "The cross hole would cut through the thread in the bore, which is not made; "
                          "let the thread end before it, or put the hole where the bore is plain."
                        : "The cross hole would cut through the groove in the bore, which is not made; "
                          "let the groove end before it, or put the hole where the bore is plain.",
                    0, 0);
            }
            if (bore.outline() != Outline::round || bore.gear())
                return stop(
                    "cross_hole_in_bore",
                    "The cross hole meets a bore that is not round there; put it where the bore is round.", 0,
                    0);
            const double most = floored(2 * 0.9 * radius);
            if (diameter() > most + 1e-9)
                return found("cross_hole_too_wide",
                             "A cross hole of Ø " + shown(diameter()) + " is too wide for the bore of Ø " +
                                 shown(2 * radius) + " that it meets; at most Ø " + shown(most) +
                                 " can be made.",
                             diameter(), most, field::cross_hole, most);
            const double from = near + length_of(bore.near_end, radius),
                         to = far - length_of(bore.far_end, radius);
            for (const double z : h_.at)
                if (lies_in(z) && (z - h_.radius < from + land || z + h_.radius > to - land))
                    return stop("cross_hole_at_bore_end",
                                "The cross hole meets the bore where that ends or changes, between " +
                                    shown(from) + " and " + shown(to) +
                                    " along the piece it is plain; put the hole there, or clear "
                                    "of it.",
                                z, 0);
        }
        if (h_.one_side && std::find(met.begin(), met.end(), false) != met.end())
            ZoneLook::stop(
                "cross_hole_without_bore",
                "The cross hole goes in from one side, and there is no bore for it to end in; let it go "
                "through, or bore the piece.",
                0, 0, Remedy{"Let it go through", {with(field::cross_hole_side, "through")}});
    }

    // The remedy sets this field to this length.
    void found(const char* id, std::string sentence, double value, double limit, Field field,
               double length) const {
        std::optional<Remedy> remedy;
        if (length > 0.1)
            remedy = Remedy{(field == field::cross_hole      ? "Cross hole Ø "
                             : field == field::cross_hole_at ? "Put it at "
                                                             : "Put them apart by ") +
                                shown(length),
                            {with(field, number_text(length, 9))}};
        stop(id, std::move(sentence), value, limit, std::move(remedy));
    }

    const ResolvedZone& z_;
    const ResolvedCrossHoles& h_;
};

} // namespace

void check_cross_holes(const ZoneLook& look) {
    if (look.resolved().cross()) CrossCheck(look).run();
}

template<>
void check_pair<PairKind::clamp_and_strap>(const Looking& look, const PairInJob& both) {
    const std::string& clamp = both.job.pieces[both.pair.first.piece].name;
    const ResolvedZone &bend = both.first, &strap = both.second;
    if (!strap.cross()) return;
    const ResolvedCrossHoles& h = *strap.cross();
    const double hole = 2 * h.radius, leg = 2 * bend.bend()->bar, apart = 2 * bend.bend()->radius;
    const auto stop = [&](const char* id, std::string sentence, double value, double limit,
                          const std::vector<std::pair<Field, std::string>>& texts, std::string label) {
        Remedy remedy{std::move(label), {}};
        for (const auto& [field, text] : texts)
            remedy.edits.push_back(look.with(field, text));
        look.stop(id, std::move(sentence), value, limit, std::move(remedy));
    };
    if (hole < leg + 1e-9) {
        const double free = in_mm(standard::clearance_hole(mm(leg)));
        return stop(
            "strap_hole_too_narrow",
            "The legs of '" + clamp + "' are Ø " + look.shown(leg) + " and don't go through holes of Ø " +
                look.shown(hole) + "; ISO 273 has Ø " + look.shown(free) + ".",
            hole, leg, {{field::cross_hole, number_text(free, 6)}}, "Cross hole Ø " + look.shown(free));
    }
    double nearest = 1e300;
    for (std::size_t i = 0; i < h.at.size(); ++i)
        for (std::size_t k = i + 1; k < h.at.size(); ++k)
            if (std::abs(h.at[k] - h.at[i] - apart) < std::abs(nearest - apart)) nearest = h.at[k] - h.at[i];
    // each hole gives way by its play on either side
    if (nearest < 1e299 && std::abs(nearest - apart) < hole - leg + 1e-9) return;
    stop("strap_holes_off",
         "The legs of '" + clamp + "' stand " + look.shown(apart) + " apart; " +
             (nearest < 1e299 ? "the nearest two holes here " + look.shown(nearest) +
                                    ", which their play doesn't make up for."
                              : std::string("there is only one hole here.")),
         nearest < 1e299 ? nearest : 0, apart,
         {{field::cross_holes, "2"}, {field::cross_hole_spacing, number_text(apart, 6)}},
         "Two, " + look.shown(apart) + " apart");
}

} // namespace whorl
