// Pieces as people write them: round sizes that meet each other exactly, neighbours of equal diameters, edges
// that end where others begin. Where a random diameter never hits its neighbour's flats, these do.
//
// `Choices` is anything with whole(low, high), both included: a random generator, or bytes of a fuzzer.
#pragma once

#include "model/edit.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"

#include "zone_parts.hpp"

#include <array>
#include <random>
#include <string>

namespace whorl::test {

class RandomChoices {
public:
    explicit RandomChoices(unsigned seed) : random_(seed) {}
    int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }

private:
    std::mt19937 random_;
};

template<class Choices>
class PlausiblePiece {
public:
    explicit PlausiblePiece(Choices& choices) : choose_(choices) {}

    Piece make() {
        Piece p;
        switch (whole(0, 9)) {
        case 0:
            p = piece_of(starter());
            break;
        case 1:
        case 2:
            p = piece_of(gear());
            break;
        default:
            p.zones.push_back(outer_zone());
            p.name = "plausible";
        }
        for (int more = whole(0, 3); more > 0; --more) {
            if (p.zones.front().as<RackForm>()) break;
            const bool bore = chance(3);
            Zone z = bore ? bore_zone() : outer_zone();
            if (chance(2)) // as large as a neighbour
                if (const Zone& beside = p.zones[at(p.zones.size())]; !has_teeth(beside) && !has_teeth(z))
                    diameter_of(z).text = diameter_of(beside).text;
            if (chance(4) && !has_teeth(z))
                if (const auto outline = static_cast<Outline>(whole(0, 2)); outline != Outline::round)
                    z.form = PlainForm{outline, diameter_of(z), {}};
            p.zones.insert(p.zones.begin() + whole(0, static_cast<int>(p.zones.size())), z);
        }
        Job job;
        job.pieces = {p};
        for (int edits = whole(0, 3); edits > 0; --edits)
            try {
                job = apply(job, {0, at(p.zones.size()), all_fields()[at(all_fields().size())], text(),
                                  LengthUnit::millimetre});
            } catch (const InputError&) {
            }
        return job.pieces[0];
    }

private:
    Choices& choose_;

    static bool has_teeth(const Zone& z) { return z.teeth() || z.as<SplineForm>(); }

    int whole(int low, int high) { return choose_.whole(low, high); }
    bool chance(int one_in) { return whole(1, one_in) == 1; }
    std::size_t at(std::size_t size) {
        return static_cast<std::size_t>(whole(0, static_cast<int>(size) - 1));
    }
    template<std::size_t N>
    std::string one_of(const char* const (&all)[N]) {
        return all[at(N)];
    }
    std::string size() {
        return one_of({"3",  "4",  "5",  "6",  "7",  "8",  "8.5", "9",  "10", "11",
                       "12", "13", "14", "15", "16", "17", "18",  "20", "22", "24",
                       "25", "27", "30", "32", "36", "40", "50",  "60", "80", "100"});
    }
    std::string little() {
        return one_of({"0.1", "0.2", "0.5", "1", "1.5", "2", "2.5", "3", "4", "5", "6", "8", "10"});
    }
    std::string angle() { return one_of({"15", "20", "30", "45", "59", "60", "75", "5", "80"}); }

    std::string starter() {
        switch (whole(0, 5)) {
        case 0:
            return one_of({"ISO 4014", "ISO 4017", "ISO 4762"}) + " M" + one_of({"3", "5", "8", "12", "20"}) +
                   " x " + one_of({"6", "10", "16", "25", "40", "60"});
        case 1:
            return one_of({"ISO 4032 M4", "ISO 4032 M10", "nut Tr20x4", "nut 1/2-13 UNC", "nut G1/2"});
        case 2:
            return one_of({"ISO 4026", "ISO 4027"}) + " M" + one_of({"4", "6", "10"}) + " x " +
                   one_of({"6", "12", "20"});
        case 3:
            return one_of({"ring", "plate", "blind"}) + " M" + size() + "x" +
                   one_of({"0.5", "1", "1.5", "2"}) + " x " + size();
        case 4:
            return one_of({"rod", "stud", "lead screw"}) + " M" + size() + "x" +
                   one_of({"0.5", "1", "1.5", "2"}) + " x " + size();
        default:
            return "nipple " + one_of({"R1/8", "R1/2", "G1/4", "1/2-14 NPT"}) + " x " + size();
        }
    }

    std::string gear() {
        if (chance(6))
            return "rack m" + one_of({"1", "2", "3"}) + " z" + std::to_string(whole(2, 20)) + " b" + size() +
                   " h" + size();
        if (chance(6)) // a spline, as often one that can't be
            return std::string("spline ") + one_of({"W ", "N "}) + size() + "x" +
                   one_of({"0.5", "1", "1.25", "2", "3"}) + "x" + std::to_string(whole(6, 40)) + " x " +
                   size();
        std::string g = chance(5) ? "internal gear m" : "gear m";
        g += one_of({"0.5", "1", "1.5", "2", "3", "4"}) + " z" + std::to_string(whole(6, 80)) + " b" + size();
        if (chance(3)) g += " helix " + one_of({"8", "15", "20", "30", "45"}) + one_of({" LH", " RH"});
        if (chance(4)) g += " x" + one_of({"0.2", "0.5", "-0.2", "1"});
        if (chance(2)) g += " bore " + size();
        if (chance(3)) g += " key";
        if (chance(3)) g += chance(2) ? " web" : " web " + little();
        return g;
    }

    EndTreatment end() {
        EndTreatment e;
        e.kind = static_cast<EndKind>(whole(0, 4));
        if (chance(2)) e.diameter.text = size();
        if (chance(2)) e.angle.text = angle();
        if (chance(2)) e.turns.text = one_of({"0.25", "0.5", "1", "2"});
        if (chance(3)) e.radius.text = size();
        return e;
    }

    Zone threaded(bool internal) {
        static const auto all = [] {
            std::vector<ThreadSpec> specs;
            for (int f = 0; f < family_count; ++f) {
                const auto family = static_cast<ThreadFamily>(f);
                for (const auto& l : listed_threads(family))
                    if (in_mm(l.diameter) < 120) {
                        ThreadSpec s;
                        s.family = family;
                        s.diameter = l.diameter;
                        s.pitch = l.pitch;
                        specs.push_back(s);
                    }
                if (family == ThreadFamily::square || family == ThreadFamily::sharp_v) {
                    ThreadSpec s;
                    s.family = family;
                    s.diameter = mm(20);
                    s.pitch = mm(4);
                    specs.push_back(s);
                }
            }
            return specs;
        }();
        ThreadSpec s = all[at(all.size())];
        s.side = internal ? Side::internal : Side::external;
        s.tolerance_class = usual_class(s.family, s.side);
        s.hand = chance(3) ? Hand::left : Hand::right;
        s.starts = chance(4) ? whole(2, 8) : 1;
        s.modelled_at = static_cast<ModelledAt>(whole(0, 4));
        s.material = whole(0, 4) / 4.0;
        Designation d;
        d.what = s;
        Zone z = zone_of(d);
        if (chance(8)) thread_of(z).taper.text = one_of({"1:16", "-1:16", "4°", "1:5"});
        if (chance(8)) thread_of(z).start_angle.text = one_of({"90", "-45", "360", "180"});
        if (chance(10)) thread_of(z).simplified = true;
        if (chance(8)) thread_of(z).allowance.text = one_of({"0.05", "0.1", "0.3"});
        if (chance(8)) thread_of(z).depth.text = little();
        return z;
    }

    Zone plain() {
        Zone z;
        diameter_of(z).text = size();
        if (chance(5)) plain_of(z).far_diameter.text = size();
        if (chance(3)) plain_of(z).outline = static_cast<Outline>(whole(1, 2));
        return z;
    }

    // Coarse ones: a pattern of thousands of points takes long and tells no more.
    Zone knurled() {
        KnurlForm f;
        f.kind = static_cast<KnurlKind>(whole(0, knurl_kind_count - 1));
        f.sunk = is_crossed(f.kind) && chance(2);
        f.diameter.text = one_of({"6", "8", "10", "12", "14", "16", "20"});
        f.pitch.text = one_of({"1.6", "2", "2.5", "3"});
        Zone z;
        z.form = f;
        return z;
    }

    Zone lobed() {
        LobeForm f;
        f.timing.text = "rise " + std::string(one_of({"1", "2", "3"})) + " in " +
                        one_of({"60", "90", "120"}) + " " +
                        one_of({"cycloidal", "harmonic", "3-4-5", "modified-trapezoid"}) + ", dwell " +
                        one_of({"10", "30"}) + ", return in " + one_of({"80", "120"}) + " " +
                        one_of({"cycloidal", "parabolic", "4-5-6-7"}) + ", dwell";
        f.base_radius.text = one_of({"4", "5", "6", "8", "10"});
        f.follower = static_cast<FollowerKind>(whole(0, 3));
        f.roller.text = one_of({"2", "4", "6"});
        f.face_radius.text = one_of({"6", "20"});
        if (chance(2)) f.at.text = one_of({"15", "90", "200"});
        f.clockwise = chance(3);
        if (f.follower == FollowerKind::roller && chance(3)) {
            f.disc.text = one_of({"20", "24", "30", "40"});
            f.depth.text = one_of({"1", "2", "3"});
        }
        Zone z;
        z.form = f;
        return z;
    }

    Zone tracked() {
        DrumForm f;
        f.timing.text = "rise " + std::string(one_of({"3", "5", "8"})) + " in " + one_of({"100", "140"}) +
                        " " + one_of({"cycloidal", "constant", "3-4-5"}) + ", dwell 20, return in " +
                        one_of({"120", "160"}) + " " + one_of({"cycloidal", "constant", "modified-sine"}) +
                        ", dwell";
        f.diameter.text = one_of({"16", "20", "30"});
        f.width.text = one_of({"2", "3", "4"});
        f.depth.text = one_of({"1", "2"});
        f.track = chance(4) ? TrackKind::rib : chance(8) ? TrackKind::line : TrackKind::groove;
        f.straight = chance(4);
        f.keep_corners = chance(4)   ? CornerKind::blended
                         : chance(3) ? CornerKind::sharp
                                     : CornerKind::rounded;
        if (chance(4)) {
            f.turns.text = "2";
            f.timing.text = "rise " + std::string(one_of({"12", "16", "20"})) + " in " +
                            one_of({"300", "360"}) + " constant, return in " + one_of({"340", "360"}) +
                            " constant, dwell";
        }
        Zone z;
        z.form = f;
        z.length.text = f.turns.text.empty() ? one_of({"14", "20", "30"}) : one_of({"20", "30"});
        return z;
    }

    Zone outer_zone() {
        if (chance(12)) return tracked();
        if (chance(10)) {
            Zone z = lobed();
            z.length.text = size();
            return z;
        }
        Zone z = chance(10) ? knurled() : chance(2) ? threaded(false) : plain();
        z.where = Where::outer;
        z.length.text = chance(3) ? little() : size();
        if (chance(2)) z.near_end = end();
        if (chance(2)) z.far_end = end();
        for (EndTreatment* e : {&z.near_end, &z.far_end})
            if (z.as<KnurlForm>() && e->kind != EndKind::flat) e->kind = EndKind::chamfer;
        return z;
    }

    Zone bore_zone() {
        Zone z = chance(2) ? threaded(true) : plain();
        z.where = chance(3) ? Where::far_bore : Where::near_bore;
        z.length.text = chance(3) ? "" : size();
        if (chance(2)) z.near_end = end();
        if (chance(2)) z.far_end = end();
        return z;
    }

    std::string text() {
        switch (whole(0, 3)) {
        case 0:
            return size();
        case 1:
            return little();
        case 2:
            return one_of({"chamfer", "flat", "run-out 0.5", "point 59", "rounded", "standard", "none"});
        default:
            return "chamfer " + angle() + " " + size();
        }
    }
};

} // namespace whorl::test
