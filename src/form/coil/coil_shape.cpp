#include "form/coil/coil_shape.hpp"

#include "form/tooth/tooth_range.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace whorl {

double mean_of(const CoilSpec& s, Length diameter) {
    const double d = in_mm(s.wire), D = in_mm(diameter);
    return s.measured == CoilDiameter::outside ? D - d : s.measured == CoilDiameter::inside ? D + d : D;
}

namespace {

std::string turns_text(double turns) {
    return number_text(turns, 4) + (turns == 1 ? " turn" : " turns");
}

double smallest_of(const CoilSpec& s) {
    double smallest = 1e9;
    for (const CoilStation& D : s.diameters)
        smallest = std::min(smallest, mean_of(s, D.value));
    return smallest;
}

void require_no_ends_of_others(const CoilSpec& s) {
    const bool compression = s.kind == SpringKind::compression, extension = s.kind == SpringKind::extension;
    for (const WireEnd* e : {&s.near, &s.far})
        if (e->kind != WireEndKind::plain &&
            (e->is_turns() != compression || (!compression && e->is_hook() != extension)))
            throw InputError(
                compression ? "A compression spring has neither hooks nor legs; write extension spring or "
                              "torsion spring for them."
                : extension ? "An extension spring has hooks, not legs: half, full, side, eye, extended or "
                              "plain."
                            : "A torsion spring has legs, not hooks, such as leg 30.");
    if (s.initial_tension && !extension) throw InputError("Only an extension spring has an initial tension.");
    if (!compression && (s.ground || s.tip || s.dead.value_or(0) > 0))
        throw InputError(std::string("The ends of ") + (extension ? "an extension" : "a torsion") +
                         " spring are its hooks or legs; it has no dead turns and nothing ground.");
}

// How far the wire's section at θ reaches from the axis, from 32 places around it and no less than between them.
double out_of(const ResolvedCoil& c, double theta) {
    const Vec3 at = c.line.point(theta).at;
    const auto f = c.line.frame(theta);
    const WireShape wire = c.shape();
    const int around = wire.round ? 32 : 8; // corners among them
    double most = 0;
    for (int k = 0; k < around; ++k) {
        const double phi = 2 * pi * k / around;
        const auto [x, y] = wire.at(phi);
        const Vec3 q = at + x * f.outwards + y * f.upwards;
        most = std::max(most, std::hypot(q.x, q.y));
    }
    return most + (wire.round ? wire.across / 2 * (1 - std::cos(pi / around)) : 0);
}

// How far the wire reaches along the axis and away from it.
void measure_reach(ResolvedCoil& c) {
    const WireShape wire = c.shape();
    double low = 1e9, high = -1e9;
    const auto& breaks = c.line.breaks();
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
        const double from = breaks[i], to = breaks[i + 1];
        const auto edge = [&](double theta, double side) { // its height above, or below as a depth
            const auto f = c.line.frame(theta);
            return side * c.line.point(theta).at.z + wire.reach(f.outwards.z, f.upwards.z);
        };
        constexpr int parts = 48;
        for (const double side : {1.0, -1.0}) {
            double best = from;
            for (int k = 0; k <= parts; ++k) {
                const double theta = from + (to - from) * k / parts;
                if (edge(theta, side) > edge(best, side)) best = theta;
                if (side > 0) c.reach = std::max(c.reach, out_of(c, theta));
            }
            const double step = (to - from) / parts;
            const double theta = lowest_between(std::max(from, best - step), std::min(to, best + step), 1e-9,
                                                [&](double at) { return -edge(at, side); });
            const double most = std::max(edge(theta, side), edge(best, side));
            side > 0 ? high = std::max(high, most) : low = std::min(low, -most);
        }
    }
    c.lowest = low;
    c.overall = high - low;
}

// A compression spring's turns, in the order in which they follow from each other: ends, pitch, all of them.
class CompressionShaper {
public:
    CompressionShaper(ResolvedCoil& c, CoilShape& shape) : c_(c), s_(c.spec), d_(c.axial), shape_(shape) {}

    void shape() {
        begin_ends();
        if (s_.pitch.empty() && !s_.free_length)
            throw InputError("A spring needs its free length L or its pitch p.");
        several_ = !s_.pitch.empty() && !all_alike(s_.pitch);
        several_ ? several_pitches() : one_pitch();
        shape_.turns = c_.total;
        shape_.pitch = points_;
    }

private:
    // What each end is, its dead turns as far as the end says them itself.
    void begin_ends() {
        for (const bool far : {false, true}) {
            EndTurns& e = far ? c_.far_turns : c_.near_turns;
            const WireEnd& own = far ? s_.far : s_.near;
            const bool said = own.is_turns();
            e.closed = said ? own.kind == WireEndKind::closed : s_.ends == CoilEnds::closed;
            e.ground = said ? own.ground : s_.ground;
            const auto& tip = said ? own.tip : s_.tip;
            if (tip) {
                if (!e.ground) throw InputError("Only a ground end has a thickness of its own.");
                require_range(in_mm(*tip), 0.15 * d_, 0.9 * d_, "thickness of the wire's end", " mm");
            }
            e.ground_height = e.ground ? d_ / 2 - (tip ? in_mm(*tip) : d_ / 2) : 0;
            e.over = e.ground ? -e.ground_height : d_ / 2;
            own_dead_[far] = said && own.turns.has_value();
            e.dead = own_dead_[far]      ? *own.turns
                     : said && !e.closed ? 0
                     : s_.dead           ? *s_.dead / 2
                     : e.closed          ? 1
                                         : 0;
            if (said && !e.closed) own_dead_[far] = true;
        }
        if (s_.dead) set_dead(*s_.dead);
    }
    // So many in all: an end that says its own keeps them.
    void set_dead(double all) {
        double left = all;
        int sharing = 0;
        for (const bool far : {false, true})
            own_dead_[far] ? void(left -= end(far).dead) : void(++sharing);
        if (sharing == 0 ? std::abs(left) > 1e-9 : left < -1e-9)
            throw InputError("The ends have " + turns_text(all - left) + " of their own; there can't be " +
                             number_text(all, 4) + " dead in all.");
        for (const bool far : {false, true})
            if (!own_dead_[far]) end(far).dead = std::max(0.0, left / sharing);
    }
    void set_closed_pitches() {
        for (const bool far : {false, true}) {
            EndTurns& e = end(far);
            const WireEnd& own = far ? s_.far : s_.near;
            const double least = e.dead <= 1 ? d_ : tight_pitch(s_);
            e.pitch = own.pitch ? in_mm(*own.pitch) : own.gap ? d_ + in_mm(*own.gap) : least;
            if (e.pitch < least - 1e-9)
                throw InputError("The closed turns of an end have a pitch of at least " +
                                 number_text(least, 4) + " mm, and not " + number_text(e.pitch, 4) +
                                 " mm: there they touch.");
        }
        c_.dead = c_.near_turns.dead + c_.far_turns.dead;
    }
    EndTurns& end(bool far) { return far ? c_.far_turns : c_.near_turns; }

    // Turns on both sides of a boundary over which the pitch changes; with a ground end that is behind its face.
    double window(bool far, double active) {
        const EndTurns& e = end(far);
        double w = 0.25;
        if (e.ground) w = std::max(0.02, std::min(w, e.dead - 0.11 - (d_ / 2 + e.ground_height) / e.pitch));
        return std::min({w, e.dead / 2, active / (several_ ? 4 : 2)});
    }
    double over() const { return c_.near_turns.over + c_.far_turns.over; }
    double closed_rise() const {
        return c_.near_turns.dead * c_.near_turns.pitch + c_.far_turns.dead * c_.far_turns.pitch;
    }
    // The free length over the ends, as it is asked.
    std::optional<double> asked_length() const {
        if (!s_.free_length) return {};
        const double L = in_mm(*s_.free_length);
        return s_.length_over == LengthOver::faces  ? L
               : s_.length_over == LengthOver::wire ? L - d_ + over()
                                                    : L + over();
    }

    // Active turns from what says them: n, or nt less the dead ones. The dead ones are known afterwards.
    std::optional<double> asked_active() {
        if (s_.active && s_.total) {
            const double dead = *s_.total - *s_.active;
            if (s_.dead && std::abs(dead - *s_.dead) > 1e-9)
                throw InputError("Of " + turns_text(*s_.total) + " in all " + turns_text(*s_.active) +
                                 " active leave " + number_text(dead, 4) + " dead, not " +
                                 number_text(*s_.dead, 4) + "; leave one of the three out.");
            if (dead < -1e-9)
                throw InputError("There are " + turns_text(*s_.total) + " in all; " + turns_text(*s_.active) +
                                 " of them can't be active.");
            set_dead(std::max(0.0, dead));
        }
        set_closed_pitches();
        if (s_.active) return s_.active;
        if (s_.total) return *s_.total - c_.dead;
        return {};
    }
    void set_active(double active) {
        c_.active = active;
        c_.total = s_.total ? *s_.total : active + c_.dead;
        if (!(active >= 0.25 && c_.total <= 500))
            throw InputError("This leaves " + turns_text(active) + " active of " + turns_text(c_.total) +
                             "; a spring has at least 0.25 active and at most 500 in all.");
    }
    [[noreturn]] static void needs_turns() {
        throw InputError(
            "A spring needs its turns: n (active) or nt (all of them), or both length L and pitch p.");
    }

    void one_pitch() {
        const auto active = asked_active();
        const auto length = asked_length();
        const bool asked = !s_.pitch.empty();
        const double pitch = asked ? in_mm(s_.pitch.front().value) : 0;
        if (!active && !(length && asked)) needs_turns();
        set_active(active ? *active : (*length - over() - closed_rise()) / pitch);
        c_.free_length = length ? *length : closed_rise() + c_.active * pitch + over();
        c_.pitch = (c_.free_length - over() - closed_rise()) / c_.active;
        if (asked && length && std::abs(c_.pitch - pitch) > 1e-6 * c_.pitch + 1e-9)
            throw InputError("With " + turns_text(c_.active) + " active a free length of " +
                             number_text(c_.free_length, 4) + " mm has the pitch " +
                             number_text(c_.pitch, 4) + " mm, not " + number_text(pitch, 4) +
                             "; leave one of them out.");
        if (!(c_.pitch > 0.02))
            throw InputError("A free length of " + number_text(c_.free_length, 3) + " mm leaves the " +
                             turns_text(c_.active) + " active no pitch; " + number_text(c_.dead, 3) +
                             " dead turns and the ends alone take " + number_text(closed_rise() + over(), 3) +
                             " mm.");
        lay_points({{c_.near_turns.dead + window(false, c_.active), c_.pitch}}, c_.active);
    }

    void several_pitches() {
        const auto active = asked_active();
        const auto length = asked_length();
        if (!active && !length) needs_turns();
        if (active && length) {
            const CoilSpec& s = s_;
            CoilSpec without = s;
            without.free_length.reset();
            throw InputError("With " + turns_text(*active) + " active these pitches have a free length of " +
                             number_text(shape_of(without).free_length, 4) +
                             " mm; leave L or the turns out.");
        }
        if (by_height(s_.pitch))
            by_heights(active, length);
        else
            by_turns(active, length);
        c_.free_length = Profile(points_).integral(c_.total) + over();
        c_.pitch = (c_.free_length - over() - closed_rise()) / c_.active;
    }
    // Pitches at turns. With the length alone the turns are found that have it: it grows with them.
    void by_turns(std::optional<double> active, std::optional<double> length) {
        const auto lay = [&](double n) {
            const double from = c_.near_turns.dead + window(false, n),
                         to = c_.near_turns.dead + n - window(true, n);
            const std::vector<double> at = placed(s_.pitch, from, to);
            std::vector<Profile::Point> stations;
            for (std::size_t i = 0; i < at.size(); ++i)
                stations.push_back({at[i], in_mm(s_.pitch[i].value)});
            lay_points(std::move(stations), n);
        };
        if (!active) {
            double low = 0.25, high = 500; // of those that hold the stations
            for (const CoilStation& p : s_.pitch)
                if (p.by == StationBy::turns)
                    low =
                        std::max(low, p.at - c_.near_turns.dead + (c_.far_turns.dead > 0 ? 0.25 : 0) + 1e-6);
            const auto longer = [&](double n) {
                lay(n);
                return Profile(points_).integral(c_.near_turns.dead + n + c_.far_turns.dead) + over() >
                       *length;
            };
            if (longer(low))
                throw InputError("A free length of " + number_text(*length, 3) +
                                 " mm is too short for these pitches and ends.");
            for (int k = 0; k < 60; ++k) {
                const double middle = (low + high) / 2;
                (longer(middle) ? high : low) = middle;
            }
            active = (low + high) / 2;
        }
        set_active(*active);
        lay(*active);
    }
    // Pitches at heights: so many turns from one to the next as rise by that.
    void by_heights(std::optional<double> active, std::optional<double> length) {
        const double start = c_.near_turns.over, first = in_mm(s_.pitch.front().value),
                     last = in_mm(s_.pitch.back().value);
        const double wn = window(false, 1e9), wf = window(true, 1e9);
        // heights over the near end at which the active pitch begins and ends
        const double from = start + c_.near_turns.dead * c_.near_turns.pitch + wn * first;
        if (active && s_.pitch.back().by == StationBy::spread)
            throw InputError("The last pitch's height is wanted, such as " + number_text(last, 3) +
                             "@z40, or the free length L instead of the turns.");
        const double to =
            length ? *length - c_.far_turns.over - c_.far_turns.dead * c_.far_turns.pitch - wf * last : 1e5;
        if (to <= from)
            throw InputError("A free length of " + number_text(*length, 3) +
                             " mm is too short for these pitches and ends.");
        const std::vector<double> z = placed(s_.pitch, from, to);
        std::vector<Profile::Point> stations{{c_.near_turns.dead + wn + (z[0] - from) / first, first}};
        for (std::size_t i = 1; i < z.size(); ++i)
            stations.push_back(
                {stations.back().turn +
                     (z[i] - z[i - 1]) * 2 / (in_mm(s_.pitch[i - 1].value) + in_mm(s_.pitch[i].value)),
                 in_mm(s_.pitch[i].value)});
        // the slopes hang on all of them: each interval is stretched by what it misses until it doesn't
        const auto turns_with = [&] {
            return active ? *active
                          : stations.back().turn + (length ? (to - z.back()) / last : 0) + wf -
                                c_.near_turns.dead;
        };
        for (int k = 0; k < 200; ++k) {
            lay_points(stations, turns_with());
            const Profile p(points_);
            double off = 0, shift = 0;
            std::vector<Profile::Point> next = stations;
            for (std::size_t i = 1; i < z.size(); ++i) {
                const double turns = stations[i].turn - stations[i - 1].turn,
                             rise = p.integral(stations[i].turn) - p.integral(stations[i - 1].turn),
                             more = turns * ((z[i] - z[i - 1]) / rise - 1);
                off = std::max(off, std::abs(more));
                shift += more;
                next[i].turn = stations[i].turn + shift;
            }
            stations = std::move(next);
            if (off < 1e-13 * stations.back().turn) break;
        }
        set_active(turns_with());
        lay_points(stations, c_.active);
        if (stations.back().turn > c_.near_turns.dead + c_.active - wf + 1e-9)
            throw InputError("The last pitch stands at " + number_text(z.back(), 3) + " mm, after " +
                             turns_text(stations.back().turn - c_.near_turns.dead) + "; with " +
                             turns_text(c_.active) + " active the closed end begins before.");
    }

    // The closed turns' pitches and the active ones' at their stations, as one profile.
    void lay_points(std::vector<Profile::Point> stations, double active) {
        const EndTurns &n = c_.near_turns, &f = c_.far_turns;
        const double wn = window(false, active), wf = window(true, active), all = n.dead + active + f.dead;
        c_.active_from = n.dead + wn;
        c_.active_to = n.dead + active - wf;
        points_.clear();
        const double first = stations.front().value, last = stations.back().value;
        if (n.dead > 0 && wn > 0 && n.pitch != first) {
            points_ = {{0, n.pitch, true}, {n.dead - wn, n.pitch, true}, {c_.active_from, first, true}};
            if (n.dead - wn < 1e-9) points_.erase(points_.begin());
        } else if (n.dead > 0 || stations.front().turn > 1e-9) {
            points_ = {{0, first, true}};
        }
        for (const Profile::Point& p : stations) {
            if (points_.empty() || p.turn > points_.back().turn + 1e-9)
                points_.push_back(p);
            else
                points_.back().level = true;
        }
        std::vector<Profile::Point> end;
        if (f.dead > 0 && wf > 0 && f.pitch != last) {
            end = {{c_.active_to, last, true}, {all - f.dead + wf, f.pitch, true}, {all, f.pitch, true}};
            if (f.dead - wf < 1e-9) end.pop_back();
        } else if (f.dead > 0 || points_.back().turn < all - 1e-9) {
            end = {{all, last, true}};
        }
        for (const Profile::Point& p : end) {
            if (p.turn > points_.back().turn + 1e-9)
                points_.push_back(p);
            else
                points_.back().level = true;
        }
        if (points_.size() > 1 && std::ranges::all_of(points_, [&](const Profile::Point& p) {
                return p.value == points_[0].value;
            }))
            points_ = {{0, points_[0].value}};
    }

    ResolvedCoil& c_;
    const CoilSpec& s_;
    double d_;
    CoilShape& shape_;
    std::array<bool, 2> own_dead_{};
    bool several_ = false; // pitches
    std::vector<Profile::Point> points_;
};

// The mean diameters over the turns; those at heights stand where the pitch has risen so far.
void lay_diameters(const ResolvedCoil& c, CoilShape& shape) {
    const CoilSpec& s = c.spec;
    shape.diameters.clear();
    if (all_alike(s.diameters)) {
        shape.diameters = {{0, mean_of(s, s.diameters.front().value)}};
        return;
    }
    const Profile pitch(shape.pitch);
    const double base = c.spec.kind == SpringKind::compression ? c.near_turns.over : c.axial / 2;
    const bool heights = by_height(s.diameters);
    std::vector<double> at = heights ? placed(s.diameters, base, base + pitch.integral(shape.turns))
                                     : placed(s.diameters, 0, shape.turns);
    for (std::size_t i = 0; i < at.size(); ++i)
        shape.diameters.push_back(
            {heights ? std::clamp(pitch.turn_at(at[i] - base), 0.0, shape.turns) : at[i],
             mean_of(s, s.diameters[i].value)});
    // before the first and behind the last it stays
    if (shape.diameters.front().turn > 1e-9)
        shape.diameters.insert(shape.diameters.begin(), {0, shape.diameters.front().value});
    if (shape.diameters.back().turn < shape.turns - 1e-9)
        shape.diameters.push_back({shape.turns, shape.diameters.back().value});
}

// Extension and torsion springs: all turns are active, wound tight unless a pitch says otherwise.
void shape_body(ResolvedCoil& c, CoilShape& shape) {
    const CoilSpec& s = c.spec;
    const bool extension = s.kind == SpringKind::extension;
    if (s.active && s.total && std::abs(*s.active - *s.total) > 1e-9)
        throw InputError("All turns of such a spring are active; write n or nt, or both alike.");
    const double tight = tight_pitch(s);
    if (!all_alike(s.pitch)) throw InputError("An extension or torsion spring has one pitch.");
    const bool asked = !s.pitch.empty();
    c.pitch = asked ? in_mm(s.pitch.front().value) : tight;
    if (!s.active && !s.total)
        throw InputError(std::string(extension ? "An extension" : "A torsion") +
                         " spring needs its turns, such as n20.");
    c.active = c.total = s.active ? *s.active : *s.total;
    if (!(c.total >= 0.25 && c.total <= 500))
        throw InputError("A spring has 0.25 to 500 turns; these are " + turns_text(c.total) + ".");
    if (s.free_length) {
        if (extension)
            throw InputError("The free length of an extension spring follows from its turns and hooks; a "
                             "hook's clear height "
                             "makes it longer, such as extended 30.");
        if (asked) throw InputError("A torsion spring's body follows from its pitch; leave one of them out.");
        c.pitch = (in_mm(*s.free_length) - c.axial) / c.total;
    }
    if (c.pitch < tight - 1e-9)
        throw InputError("The pitch is " + number_text(c.pitch, 4) + " mm; coils that touch have " +
                         number_text(tight, 4) + " mm.");
    shape.turns = c.total;
    shape.pitch = {{0, c.pitch}};
    c.active_to = c.total;
    lay_diameters(c, shape);
    const bool wound_tight = c.pitch < tight * (1 + 1e-9);
    c.body_length = wound_tight ? (c.total + (extension ? 1 : 1.5)) * c.axial : c.total * c.pitch + c.axial;

    const Centreline coil(shape);
    const bool cylinder = c.smallest_mean == c.largest_mean;
    const auto lay_at = [&](const WireEnd& e, double theta) {
        if (e.is_hook() && !cylinder)
            throw InputError("Hooks are made on coils of one diameter; this one has several.");
        return lay(e, {coil.radius(theta), std::asin(coil.frame(theta).along.z), c.wire});
    };
    c.near_laid = lay_at(s.near, 0);
    c.far_laid = lay_at(s.far, coil.coil_end());
    shape.near_end = c.near_laid.stretches;
    shape.far_end = c.far_laid.stretches;
    c.line = Centreline(shape);
    c.free_length = extension ? c.body_length + c.near_laid.clear + c.far_laid.clear : c.body_length;
    c.length = c.body_length;
}

} // namespace

double tight_pitch(const CoilSpec& s) {
    const double rise =
        coils_apart * in_mm(s.axial.value_or(s.wire)); // square to the coils; along the axis it is more
    return rise / std::sqrt(std::max(0.01, 1 - std::pow(rise / (pi * smallest_of(s)), 2)));
}

ResolvedCoil shape_of(const CoilSpec& s) {
    require_no_ends_of_others(s);
    ResolvedCoil c;
    c.spec = s;
    c.wire = in_mm(s.wire);
    require_range(c.wire, 0.02, 200, "wire", " mm");
    c.axial = in_mm(s.axial.value_or(s.wire));
    c.round = !s.axial;
    if (!c.round) {
        require_range(c.axial, 0.02, 200, "wire's side along the axis", " mm");
        if (std::max(c.wire, c.axial) > 8 * std::min(c.wire, c.axial))
            throw InputError("One side of the wire is " +
                             number_text(std::max(c.wire, c.axial) / std::min(c.wire, c.axial), 1) +
                             " times the other; up to 8 times is wound here.");
        if (s.kind == SpringKind::extension)
            throw InputError("An extension spring is of round wire here, such as d2; square and rectangular "
                             "wire, such as d3x2, "
                             "makes compression and torsion springs.");
    }
    if (s.diameters.empty() || s.diameters.size() > 50 || s.pitch.size() > 4000)
        throw InputError("A spring has 1 to 50 diameters and at most 4000 pitches, from its near end on.");
    c.smallest_mean = smallest_of(s);
    for (const CoilStation& D : s.diameters)
        c.largest_mean = std::max(c.largest_mean, mean_of(s, D.value));
    require_range(c.largest_mean, 0.1, 5000, "mean diameter", " mm");
    if (!(c.smallest_mean > 1.2 * c.wire))
        throw InputError("The mean diameter is " + number_text(c.smallest_mean, 3) + " mm; with a wire of " +
                         number_text(c.wire, 3) + " mm it must be more than " + number_text(1.2 * c.wire, 3) +
                         " mm, or the coils meet in the middle.");
    if (s.free_length) require_range(in_mm(*s.free_length), 0.1, 10000, "free length", " mm");
    for (const CoilStation& p : s.pitch)
        require_range(in_mm(p.value), 0.02, 5000, "pitch", " mm");
    if (s.dead) require_range(*s.dead, 0, 50, "number of dead turns", "");
    require_range(s.start, -full_turn, full_turn, "angle at which the wire begins", "");
    CoilShape shape;
    shape.left = s.hand == Hand::left;
    shape.start = s.start;
    if (s.kind != SpringKind::compression) {
        shape_body(c, shape);
        measure_reach(c);
    } else {
        CompressionShaper(c, shape).shape();
        lay_diameters(c, shape);
        c.line = Centreline(shape);
        c.lowest = -c.axial / 2;
        c.length = c.overall = c.body_length = c.free_length;
        c.reach = c.outside() / 2;
    }
    c.smallest_pitch = c.largest_pitch = c.pitch;
    if (!s.pitch.empty() && !all_alike(s.pitch)) {
        const auto [low, high] = std::ranges::minmax(s.pitch, {}, &CoilStation::value);
        c.smallest_pitch = in_mm(low.value), c.largest_pitch = in_mm(high.value);
    }
    return c;
}

} // namespace whorl
