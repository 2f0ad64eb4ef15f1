#include "pair/mating.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

// A stretch of the axis and the radius that limits it: the widest of a screw, the free one of a nut.
struct Stretch {
    double from, to, radius;
    bool paired = false;
};

std::vector<Stretch> screw_stretches(const ResolvedPiece& p, std::size_t paired) {
    std::vector<Stretch> out;
    for (const std::size_t i : p.chain(Where::outer)) {
        const ResolvedZone& z = p.zones[i];
        out.push_back({in_mm(z.start), in_mm(z.end()), in_mm(z.largest_radius()), i == paired});
    }
    return out;
}

std::vector<Stretch> nut_stretches(const ResolvedPiece& p, std::size_t paired) {
    std::vector<Stretch> out;
    for (const Where where : {Where::near_bore, Where::far_bore})
        for (const std::size_t i : p.chain(where)) {
            const ResolvedZone& z = p.zones[i];
            out.push_back({in_mm(z.start), in_mm(z.end()), in_mm(z.smallest_radius()), i == paired});
        }
    std::ranges::sort(out, {}, &Stretch::from);
    // what is not bored is full
    double reached = 0;
    const std::size_t bores = out.size();
    for (std::size_t i = 0; i <= bores; ++i) {
        const double next = i < bores ? out[i].from : in_mm(p.length());
        if (next > reached + 1e-9) out.push_back({reached, next, 0});
        if (i < bores) reached = out[i].to;
    }
    return out;
}

bool symmetric(const ThreadSection& s) {
    const auto other = mirrored(s.groove);
    return std::ranges::equal(s.groove, other, [](const GroovePoint& a, const GroovePoint& b) {
        return std::abs(a.z - b.z) < 1e-9 && std::abs(a.r - b.r) < 1e-9 &&
               std::abs(a.arc_radius - b.arc_radius) < 1e-9;
    });
}

// A thread on its axis. Along z the pitch radius is radius + taper·(z − gauge).
struct Seat {
    double from, to, taper, gauge, radius;
    double groove; // middle of a groove at θ = 0
};

Seat seat_of(const ResolvedZone& z) {
    const ThreadSection& s = z.thread()->section;
    const double hand = s.hand == Hand::left ? -1 : 1;
    return {in_mm(z.start), in_mm(z.end()),
            z.taper(),      in_mm(z.taper_from()),
            s.pitch_radius, in_mm(z.start) + s.pitch / 2 - s.lead() * hand * s.start_angle / full_turn};
}

Seat turned_over(const Seat& s) {
    return {-s.to, -s.from, -s.taper, -s.gauge, s.radius, -s.groove};
}

// Where the counterpart is tight, the first place it comes to from its side: where the nut's thread is as
// wide as the screw's at an end of the one that is not tapered, or anywhere if both are alike.
double tight_travel(const Seat& shown, const Seat& other, bool screw_shown, int from_side) {
    const Seat &screw = screw_shown ? shown : other, &nut = screw_shown ? other : shown;
    const bool screw_tapers = screw.taper != 0;
    const Seat &cone = screw_tapers ? screw : nut, &mate = screw_tapers ? nut : screw;
    double first = -from_side * 1e300;
    for (const double end : {mate.from, mate.to}) {
        const double radius = mate.radius + mate.taper * (end - mate.gauge);
        const double on_cone = cone.gauge + (radius - cone.radius) / cone.taper;
        const double travel = &mate == &other ? on_cone - end : end - on_cone;
        first = from_side > 0 ? std::max(first, travel) : std::min(first, travel);
    }
    return first;
}

bool matched(const Fit& fit) {
    return std::ranges::all_of(fit.mistakes, [](const FitMistake& m) {
        return m.what == Mismatch::interference || m.what == Mismatch::limits;
    });
}

} // namespace

double Mating::angle(double travel) const {
    return phase + full_turn * travel / lead;
}

double Mating::engaged(double travel) const {
    return std::max(0.0, std::min(shown_to, other_to + travel) - std::max(shown_from, other_from + travel));
}

double Mating::clamped(double travel) const {
    return std::clamp(travel, std::min(apart, seated), std::max(apart, seated));
}

Mating mating_of(const ResolvedPiece& shown, std::size_t zone, const ResolvedPiece& other,
                 std::size_t other_zone, const Fit& fit) {
    const ResolvedZone &za = shown.zones.at(zone), &zb = other.zones.at(other_zone);
    const ThreadSection& section = za.thread()->section;
    const bool screw_shown = za.thread()->side == Side::external;
    const Seat a = seat_of(za);
    const auto stretches_a = screw_shown ? screw_stretches(shown, zone) : nut_stretches(shown, zone);
    const bool tapered = za.taper() != 0 || zb.taper() != 0;
    const bool either_way = symmetric(section) && symmetric(zb.thread()->section);

    std::optional<Mating> best;
    double most = -1;
    for (const bool flipped : {false, true}) {
        const Seat b = flipped ? turned_over(seat_of(zb)) : seat_of(zb);
        if (flipped && !tapered && !either_way) continue; // its flanks would face the wrong way
        auto stretches_b =
            screw_shown ? nut_stretches(other, other_zone) : screw_stretches(other, other_zone);
        if (flipped)
            for (Stretch& s : stretches_b)
                s = {-s.to, -s.from, s.radius, s.paired};
        for (const int nut_side : {1, -1}) { // the nut comes from the far side, or from the near one
            const int side = screw_shown ? nut_side : -nut_side;
            if (tapered) {
                if (a.taper * b.taper < 0) continue;
                // the screw's small end goes into the nut's wide end
                const double sense = (a.taper + b.taper) * (screw_shown ? -1 : 1);
                if (sense * side < 0) continue;
            }
            Mating m;
            m.flipped = flipped;
            m.lead = section.lead() * (section.hand == Hand::left ? -1 : 1);
            m.phase = full_turn / m.lead *
                      (b.groove - a.groove + section.pitch / 2 - (screw_shown ? fit.shift : -fit.shift));
            m.shown_from = a.from, m.shown_to = a.to;
            m.other_from = b.from, m.other_to = b.to;
            m.apart = side > 0 ? a.to - b.from : a.from - b.to;
            m.seated = side > 0 ? a.from - b.to : a.to - b.from;
            const auto stop_at = [&](double travel, SeatedBy by) {
                if ((travel - m.seated) * side > 1e-9) m.seated = travel, m.seated_by = by;
            };
            for (const Stretch& p : stretches_a)
                for (const Stretch& q : stretches_b) {
                    if (p.paired && q.paired) continue;
                    const double screw = screw_shown ? p.radius : q.radius,
                                 free = screw_shown ? q.radius : p.radius;
                    if (screw > free + 1e-6)
                        stop_at(side > 0 ? p.to - q.from : p.from - q.to, SeatedBy::shoulder);
                }
            if (tapered) stop_at(tight_travel(a, b, screw_shown, side), SeatedBy::taper);
            if ((m.seated - m.apart) * side > 0) m.seated = m.apart;
            if (!matched(fit)) m.seated = m.apart, m.seated_by = SeatedBy::mismatch;
            const double level = (a.from + a.to - b.from - b.to) / 2, out = 2 * section.pitch * side;
            m.usual = tapered       ? m.seated
                      : screw_shown ? m.clamped(side > 0 ? a.to - b.to - out : a.from - b.from - out)
                                    : m.clamped(side > 0 ? a.from - b.from - out : a.to - b.to - out);
            if (const double engaged = m.engaged(m.clamped(level)); engaged > most + 1e-6)
                most = engaged, best = m;
        }
    }
    if (!best) { // threads that taper in senses no turning over mends
        best.emplace();
        best->lead = section.lead();
        best->apart = best->seated = best->usual = a.to - in_mm(zb.start);
        best->seated_by = SeatedBy::mismatch;
    }
    return *best;
}

} // namespace whorl
