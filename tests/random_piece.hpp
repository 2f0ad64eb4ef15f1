// Randomised specifications for property tests: always the same for the same seed.
#pragma once

#include "model/edit.hpp"
#include "model/resolve.hpp"
#include "quantity/expression.hpp"
#include "standard/iso_metric.hpp"

#include "zone_parts.hpp"

#include <random>
#include <string>

namespace whorl::test {

class RandomPiece {
public:
    explicit RandomPiece(unsigned seed) : random_(seed) {}

    double between(double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random_);
    }
    int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }
    bool chance(double p) { return between(0, 1) < p; }

    EndTreatment end(double outer_diameter, double pitch, bool threaded) {
        EndTreatment e;
        const int kind = whole(0, threaded ? 4 : 1);
        if (kind == 1 || kind == 2) {
            e.kind = EndKind::chamfer;
            e.angle.text = number_text(between(25, 75), 3);
            if (chance(0.5) || !threaded)
                e.diameter.text = number_text(outer_diameter - between(0.05, 1.4) * pitch, 4);
        } else if (kind > 2) {
            e.kind = EndKind::run_out;
            e.turns.text = number_text(between(0.1, 1.6), 3);
        }
        return e;
    }

    EndTreatment rounded(double diameter) {
        EndTreatment e;
        e.kind = EndKind::rounded;
        if (chance(0.5)) e.radius.text = number_text(diameter * between(0.5005, 4), 5);
        return e;
    }

    Zone thread_zone() {
        Zone z;
        ThreadForm t;
        const auto& series = standard::iso_metric_series();
        const auto& listed = series[static_cast<std::size_t>(whole(0, static_cast<int>(series.size()) - 1))];
        double d = in_mm(listed.diameter), p = in_mm(listed.pitch);
        if (chance(0.3)) d *= between(0.9, 1.1);
        if (chance(0.3)) p *= between(0.7, 1.2);
        t.pitch.text = number_text(p, 4);
        t.hand = chance(0.5) ? Hand::left : Hand::right;
        t.starts = chance(0.5) ? 1 : whole(2, 6);
        t.modelled_at = static_cast<ModelledAt>(whole(0, 4));
        if (t.modelled_at == ModelledAt::chosen) t.material.text = number_text(between(0, 100), 2);
        const char* classes[]{"6g", "6h", "6e", "4h", "8g"};
        t.tolerance_class = classes[whole(0, 4)];
        if (chance(0.15)) t.depth.text = number_text(p * between(0.2, 0.55), 4);
        t.diameter.text = number_text(d, 4);
        z.form = t;
        z.near_end = end(d, p, true);
        z.far_end = end(d, p, true);
        z.length.text = number_text(p * t.starts * between(0.4, 9) + p * between(0.5, 4), 4);
        return z;
    }

    Zone plain_zone(double near_diameter) {
        Zone z;
        const double d = near_diameter * (chance(0.2) ? 1.0 : between(0.7, 1.4));
        diameter_of(z).text = number_text(d, 4);
        z.length.text = number_text(d * between(0.3, 2), 4);
        z.near_end = end(d, d * 0.1, false);
        z.far_end = end(d, d * 0.1, false);
        return z;
    }

    Piece piece() {
        Piece p;
        p.name = "random";
        p.zones.push_back(thread_zone());
        const double d = std::stod(diameter_of(p.zones[0]).text);
        const int more = whole(0, 3);
        for (int i = 0; i < more; ++i) {
            Zone z = chance(0.7) ? plain_zone(d) : thread_zone();
            if (z.as<ThreadForm>()) diameter_of(z).text = number_text(d * between(0.8, 1.1), 4);
            if (chance(0.5))
                p.zones.push_back(z);
            else
                p.zones.insert(p.zones.begin(), z);
        }
        return p;
    }

    // A section of one's own: down in a few steps, straight, bowed or upright, and up again.
    OwnSection own_section() {
        for (;;) {
            OwnSection s{"random", {}};
            const double depth = between(0.1, 0.6), half = between(0.15, 0.48);
            const int down = whole(1, 3), up = whole(1, 3);
            const auto bow = [&] { return chance(0.4) ? between(-0.05, 0.05) : 0; };
            for (int i = 0; i < down; ++i)
                s.points.push_back(
                    {-half + 0.9 * half * i / down * (chance(0.2) ? 0.5 : 1), -depth * i / down, bow()});
            const double left = -between(0, 0.1) * half, right = between(0, 1) * half;
            s.points.push_back({left, -depth, chance(0.3) ? -between(0, 0.05) : 0});
            if (chance(0.7)) s.points.push_back({right, -depth, bow()});
            const double from = s.points.back().z;
            for (int i = 1; i <= up; ++i)
                s.points.push_back(
                    {from + (half - from) * i / up, -depth * (up - i) / up, i < up ? bow() : 0});
            if (chance(0.2)) s.points.back().z = s.points[s.points.size() - 2].z; // upright
            try {
                require_usable(s);
                return s;
            } catch (const InputError&) {
            }
        }
    }

    // A thread of any family, listed or off its series, external or internal.
    Zone any_thread(bool internal, double largest_diameter = 1e9) {
        for (int attempt = 0;; ++attempt) {
            ThreadSpec s;
            s.family = static_cast<ThreadFamily>(whole(0, family_count - 1));
            s.side = internal ? Side::internal : Side::external;
            s.tolerance_class = usual_class(s.family, s.side);
            if (s.family == ThreadFamily::pipe_r && internal && chance(0.5)) s.tolerance_class = "Rp";
            const auto& listed = listed_threads(s.family);
            if (!listed.empty()) {
                const auto& l =
                    listed[static_cast<std::size_t>(whole(0, static_cast<int>(listed.size()) - 1))];
                s.diameter = l.diameter;
                s.pitch = l.pitch;
            } else {
                s.diameter = mm(std::stod(number_text(between(6, 60), 2)));
                s.pitch = mm(std::stod(number_text(in_mm(s.diameter) * between(0.05, 0.16), 2)));
            }
            if (in_mm(s.diameter) > largest_diameter && attempt < 400) continue;
            if (in_mm(s.diameter) > largest_diameter) { // none is listed that small
                s.family = ThreadFamily::iso_metric;
                s.tolerance_class = usual_class(s.family, s.side);
                s.diameter = mm(largest_diameter * 0.9);
                s.pitch = s.diameter * 0.1;
            }
            if (s.family == ThreadFamily::sharp_v && chance(0.5)) s.flank_angle = deg(between(40, 90));
            if (s.family == ThreadFamily::own) s.own_section = own_section();
            s.hand = chance(0.5) ? Hand::left : Hand::right;
            s.starts = chance(0.6) ? 1 : whole(2, 4);
            s.modelled_at = static_cast<ModelledAt>(whole(0, 4));
            s.material = between(0, 1);
            s.rounded_root = chance(0.5);
            if (!resolve_thread(s).section.sweepable()) continue;
            Designation d;
            d.what = s;
            Zone z = zone_of(d);
            z.where = internal ? Where::near_bore : Where::outer;
            thread_of(z).material.text = number_text(100 * s.material, 3);
            thread_of(z).rounded_root = s.rounded_root;
            if (chance(0.3)) thread_of(z).start_angle.text = number_text(between(-400, 400), 3);
            if (chance(0.15)) thread_of(z).simplified = true;
            thread_of(z).pitch = {number_text(in_mm(s.pitch), 9), LengthUnit::millimetre};
            if (!has_own_taper(s) && chance(0.2)) {
                const char* tapers[]{"1:16", "-1:12", "4°", "-0.5:10"};
                thread_of(z).taper.text =
                    chance(0.3) ? "to " + number_text(in_mm(s.diameter) * between(0.93, 0.99), 4)
                                : tapers[whole(0, 3)];
            }
            const double p = in_mm(s.pitch), major = in_mm(s.diameter);
            const auto end_of = [&] {
                EndTreatment e = end(major, p, true);
                if (!internal && chance(0.2)) e = rounded(major);
                if (e.kind == EndKind::chamfer && internal) {
                    e.diameter = {};
                    if (chance(0.5)) e.diameter.text = number_text(major + between(-0.8, 0.6) * p, 4);
                }
                return e;
            };
            z.near_end = end_of();
            z.far_end = end_of();
            z.length.text = number_text(p * s.starts * between(0.4, 6) + p * between(0.5, 4), 4);
            keep_off_axis(z, std::stod(z.length.text));
            return z;
        }
    }

    // A taper that would bring a thread to the axis within its length (mm), or that is steeper than 1:3, is
    // left out.
    static void keep_off_axis(Zone& z, double length) {
        const double d = in_mm(resolve_length(diameter_of(z), {}));
        const bool steep = thread_of(z).taper.text.starts_with("to") &&
                           d - std::stod(thread_of(z).taper.text.substr(2)) > length / 3 - 1e-6;
        if (steep || length * 0.1 > 0.4 * d) thread_of(z).taper = {};
    }

    // Outer zones of every outline, and bores of every kind: through, blind from either end, stepped.
    Piece any_piece() {
        Piece p;
        p.name = "random";
        const Zone first = any_thread(false);
        const double d = in_mm(resolve_length(diameter_of(first), {}));
        p.zones.push_back(first);
        if (chance(0.6)) {
            Zone z = plain_zone(d);
            const int outline = whole(0, 3);
            if (outline == 1) plain_of(z).outline = Outline::hexagon;
            if (outline == 2) plain_of(z).outline = Outline::square;
            if (plain_of(z).outline != Outline::round) {
                diameter_of(z).text = number_text(d * between(0.8, 1.7), 4);
                for (EndTreatment* e : {&z.near_end, &z.far_end})
                    if (e->kind == EndKind::chamfer)
                        e->diameter.text =
                            number_text(std::stod(diameter_of(z).text) * between(0.85, 1.1), 4);
            } else if (chance(0.3)) {
                plain_of(z).far_diameter.text = number_text(d * between(0.7, 1.3), 4);
                z.far_end = {};
            } else if (chance(0.3)) {
                (chance(0.5) ? z.near_end : z.far_end) = rounded(std::stod(diameter_of(z).text));
            }
            p.zones.insert(chance(0.5) ? p.zones.begin() : p.zones.end(), z);
        }
        if (chance(0.25)) p.zones.push_back(any_thread(false));
        double length = 0;
        for (const auto& z : p.zones)
            length += in_mm(resolve_length(z.length, {}));
        const int bore = whole(0, 5);
        const double room = d * 0.7;
        if (bore == 1) { // a thread all the way through
            Zone z = any_thread(true, room);
            z.length = {"", {}};
            keep_off_axis(z, length);
            p.zones.push_back(z);
        } else if (bore == 2) { // a plain through bore, perhaps a socket before it
            Zone z;
            z.where = Where::near_bore;
            diameter_of(z).text = number_text(room * between(0.3, 0.6), 4);
            if (chance(0.5)) {
                Zone socket = z;
                plain_of(socket).outline = chance(0.5) ? Outline::hexagon : Outline::square;
                diameter_of(socket).text = number_text(room * between(0.4, 0.8), 4);
                socket.length.text = number_text(length * between(0.1, 0.4), 4);
                if (chance(0.5)) {
                    socket.near_end.kind = EndKind::chamfer;
                    socket.near_end.diameter.text =
                        number_text(std::stod(diameter_of(socket).text) * between(1.02, 1.2), 4);
                }
                p.zones.push_back(socket);
            }
            z.length = {"", {}};
            p.zones.push_back(z);
        } else if (bore >= 3) { // blind, from one end or the other: thread, then the drill's trace
            const Where where = bore == 3 ? Where::far_bore : Where::near_bore;
            Zone z = any_thread(true, room);
            z.where = where;
            const double hole = 2 * in_mm(resolve_length(diameter_of(z), {})) / 2;
            Zone drill;
            drill.where = where;
            diameter_of(drill).text = number_text(hole * between(0.6, 0.9), 4);
            drill.length.text = number_text(hole * between(0.7, 1.2), 4);
            (where == Where::near_bore ? drill.far_end : drill.near_end).kind = EndKind::point;
            (where == Where::near_bore ? drill.far_end : drill.near_end).angle.text = "59";
            p.zones.push_back(z);
            if (chance(0.7)) p.zones.push_back(drill);
        }
        return p;
    }

private:
    std::mt19937 random_;
};

} // namespace whorl::test
