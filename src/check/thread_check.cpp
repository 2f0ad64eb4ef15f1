#include "check/form_checks.hpp"

#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace whorl {
namespace {

// Part of the pitch that rounded and sharp crests keep; what leaves less is wider than its pitch.
constexpr double least_crest = 1e-3;
// Lead angle of a fastening or adjusting thread beyond which a mistake is likelier than an intention.
const Angle steep_lead = deg(12);

class ThreadChecks : ZoneLook {
public:
    explicit ThreadChecks(const ZoneLook& look) : ZoneLook(look), z_(look.resolved()) {}

    void run() {
        section_wider_than_pitch();
        depth_beyond_axis();
        off_standard();
        chamfer_smaller_than_thread_depth();
        shorter_than_a_turn();
        steep_lead_angle();
    }

private:
    std::string number(double millimetres) const { return length_text(mm(millimetres), unit); }
    Edit typed(Field f, std::string text, LengthUnit in) const {
        return {piece, zone, f, std::move(text), in};
    }
    Edit edit_mm(Field f, double v) const { return typed(f, number(v), unit); }

    const ThreadSection& section() const { return z_.thread()->section; }

    void section_wider_than_pitch() {
        const auto& s = section();
        const double widest = s.pitch * (1 - least_crest);
        if (s.groove_width() <= s.pitch * (1 - 0.99 * least_crest) ||
            std::min(s.root_radius, s.crest_radius) <= 0)
            return;
        const double flanks =
            std::abs(s.depth()) * (std::tan(s.flank_half_angle) + std::tan(s.other_half_angle));
        std::optional<Remedy> remedy;
        // a little less, so that it holds as it is written
        const double root = std::floor((widest - flanks - 1e-3 * s.pitch) * 1000) / 1000;
        if (z_.thread()->spec.root_flat && root > 0)
            remedy = Remedy{"Root flat " + number(root), {edit_mm(field::root_flat, root)}};
        else if (z_.thread()->spec.depth)
            remedy = Remedy{"Depth back to the form", {typed(field::depth, "", unit)}};
        stop("section_wider_than_pitch",
             "The groove is " + shown(s.groove_width()) + " wide at the crest but the pitch is only " +
                 shown(s.pitch) +
                 ": neighbouring turns would cut into each other; the widest that works is " + shown(widest) +
                 ".",
             s.groove_width(), widest, remedy);
    }

    void depth_beyond_axis() {
        const auto& s = section();
        if (std::min(s.root_radius, s.crest_radius) > 0 && s.depth() > 0) return;
        std::optional<Remedy> remedy;
        if (z_.thread()->spec.depth) {
            remedy = Remedy{"Depth back to the form", {typed(field::depth, "", unit)}};
        } else if (z_.thread()->status.nearest) {
            const auto& n = *z_.thread()->status.nearest;
            remedy = Remedy{"Pitch " + number(in_mm(n.pitch)), {edit_mm(field::pitch, in_mm(n.pitch))}};
        }
        stop("depth_beyond_axis",
             "A thread " + shown(s.depth()) + " deep leaves no core in a bar of Ø " +
                 shown(2 * s.crest_radius) + "; the pitch or the depth must be smaller.",
             s.depth(), s.crest_radius, remedy);
    }

    void off_standard() {
        const auto& t = *z_.thread();
        if (t.status.listed || !t.status.nearest) return;
        const auto& n = *t.status.nearest;
        const bool same_diameter = std::abs(in_mm(n.diameter - t.spec.diameter)) < 5e-4;
        const LengthUnit own = is_inch(t.spec.family) ? LengthUnit::inch : LengthUnit::millimetre;
        const double per_inch = threads_per_inch(n.pitch);
        const bool in_inches =
            std::abs(per_inch - std::round(per_inch * 2) / 2) < 1e-9 && is_per_inch(t.spec.family);
        const std::string pitch_text =
            in_inches ? "1/" + number_text(threads_per_inch(n.pitch), 4) : number_text(in_mm(n.pitch), 4);
        ThreadSpec nearest = t.spec;
        nearest.diameter = n.diameter;
        nearest.pitch = n.pitch;
        nearest.hand = Hand::right;
        nearest.starts = 1;
        std::string name = write_designation(nearest);
        name.resize(std::min(name.size(), name.rfind('-')));
        std::vector<Edit> edits{typed(field::pitch, pitch_text, in_inches ? LengthUnit::inch : own)};
        if (!same_diameter)
            edits.push_back(typed(field::diameter, number_text(in_unit(n.diameter, own), 6), own));
        const std::string what =
            "Ø " + shown(in_mm(t.spec.diameter)) + " with pitch " + shown(in_mm(t.spec.pitch));
        advise("off_standard",
               what + " is not a listed " + word(t.spec.family) +
                   " thread; taps and nuts for it are made to order. The nearest is " + name + ".",
               in_mm(t.spec.pitch), in_mm(n.pitch), Remedy{"Make it " + name, edits});
    }

    void chamfer_smaller_than_thread_depth() {
        for (const auto& [end, field, name] : {std::tuple{&z_.near_end, field::near_end, "near"},
                                               std::tuple{&z_.far_end, field::far_end, "far"}}) {
            if (end->kind != EndKind::chamfer || end->is_dome() || section().root_radius <= 0) continue;
            const double at = in_mm(end->diameter);
            const Length end_plane = field == field::near_end ? z_.start : z_.end();
            const double gain =
                z_.taper() * in_mm(end_plane - z_.taper_from()); // what a taper makes of the radii
            const std::string angle = number_text(in_deg(end->angle), 3);
            if (z_.in_bore()) {
                const double major = 2 * (std::max(section().crest_radius, section().root_radius) + gain);
                if (at >= major || at < 2 * (std::min(section().crest_radius, section().root_radius) + gain))
                    continue;
                advise("countersink_smaller_than_thread",
                       std::string("The ") + name + " countersink ends at Ø " + shown(at) +
                           ", inside the thread's major diameter (Ø " + shown(major) +
                           "): the first turn keeps a sharp edge.",
                       at, major,
                       Remedy{"Countersink past the thread", {typed(field, "chamfer " + angle, unit)}});
                continue;
            }
            const double root = 2 * (section().root_radius + gain);
            if (at <= root) continue;
            advise("chamfer_smaller_than_thread_depth",
                   std::string("The ") + name + " chamfer ends at Ø " + shown(at) +
                       ", outside the thread's root (Ø " + shown(root) +
                       "): a nut may catch on the sharp edge.",
                   at, root, Remedy{"Chamfer below the root", {typed(field, "chamfer " + angle, unit)}});
        }
    }

    void shorter_than_a_turn() {
        const auto& s = section();
        const double length = in_mm(z_.length);
        if (length >= s.lead() || length < in_mm(solid::shortest_for_ends(z_))) return;
        const double want = std::ceil(3 * s.lead() * 10) / 10;
        std::optional<Remedy> longer = Remedy{"Length " + number(want), {edit_mm(field::length, want)}};
        if (z_.in_bore()) { // as long as the other bores leave it room
            double room = in_mm(whole.length()) + length;
            for (const ResolvedZone& other : whole.zones)
                if (other.in_bore()) room -= in_mm(other.length);
            if (want > room - 0.1) longer.reset();
        }
        advise("zone_shorter_than_a_turn",
               "The zone is " + shown(length) + " long, less than one turn of its thread (lead " +
                   shown(s.lead()) + "): nothing can be screwed on it.",
               length, s.lead(), std::move(longer));
    }

    void steep_lead_angle() {
        const auto& t = *z_.thread();
        const bool fastens = use_of(t.spec.family) == ThreadUse::fastening;
        if (t.lead_angle <= steep_lead || !fastens) return;
        std::optional<Remedy> remedy;
        if (t.spec.starts > 1)
            remedy = Remedy{"One start", {typed(field::starts, "1", unit)}};
        else if (t.status.nearest && t.status.nearest->pitch < t.spec.pitch)
            remedy = Remedy{"Pitch " + number(in_mm(t.status.nearest->pitch)),
                            {edit_mm(field::pitch, in_mm(t.status.nearest->pitch))}};
        advise("steep_lead_angle",
               "The lead angle is " + number_text(in_deg(t.lead_angle), 1) + "°, unusually steep for a " +
                   word(t.spec.family) + " thread: it will not hold by friction alone.",
               in_deg(t.lead_angle), in_deg(steep_lead), remedy);
    }

    const ResolvedZone& z_;
};

} // namespace

void check_form(const ResolvedScrew&, const ZoneLook& look) {
    ThreadChecks(look).run();
    check_ends(look);
}

} // namespace whorl
