// Random steps through everything a job can be asked to do: always the same for the same seed. Each step
// gives a job or throws InputError.
#pragma once

#include "model/edit.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"

#include <random>

namespace whorl::test {

class Walk {
public:
    explicit Walk(unsigned seed) : random_(seed) {}

    int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }
    template<std::size_t N>
    const char* one_of(const char* const (&all)[N]) {
        return all[whole(0, static_cast<int>(N) - 1)];
    }
    std::size_t piece(const Job& job) {
        return static_cast<std::size_t>(whole(0, int(job.pieces.size()) - 1));
    }
    ZoneRef zone(const Job& job) {
        const std::size_t p = piece(job);
        return {p, static_cast<std::size_t>(whole(0, int(job.pieces[p].zones.size()) - 1))};
    }

    const char* designation() {
        return one_of(
            {"M10x1.5-6g LH x 40",
             "M16xPh4P2-6g x 60",
             "Tr12x3-7e x 50",
             "1/4-20 UNC-2A x 1",
             "round 12 x 30",
             "gear m2 z24 a20 b12",
             "gear m2 z19 x0.3 helix 15 LH b12",
             "gear dp12 z30 b1",
             "internal gear m2 z60 b12",
             "extension spring d1.6 D12 n20 near half far eye 5",
             "torsion spring d2 D16 n6 legs 30",
             "spline W 30x2x14 x 25",
             "spline INT 24z x 2.5m x 30R x 5H x 20",
             "rack m2 z20 b20 h20",
             "rack m1 l80 b10 h12 helix 10 RH",
             "R1/2 x 20",
             "G1/2 x 20",
             "M8-6H x 12",
             "Rd40x1/6 x 30",
             "spring d2 D20 L50 n7 closed ground",
             "knurl axial pitch 1 on 20 x 15",
             "knurl crossed sunk 30 teeth on 16 x 8",
             "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; roller 8; b10",
             "cam r30: rise 5 in 90 3-4-5, dwell 20, return 5 in 120, dwell; flat; b6 at 40 clockwise",
             "silhouette 0:20 30:25 60:20, 6 flutes 2 deep, from 8, wall 2 bottom 3",
             "silhouette 0:12 8:16 22:10 40:14:0, 6 flutes 1 deep, twist 40",
             "drum cam d40 b40: rise 15 in 150 cycloidal, return in 150 3-4-5, dwell; groove 5 wide 4 deep",
             "drum cam d40 b40: rise 15 in 120 constant, return in 120 constant, dwell; rib 5 wide 4 high",
             "drum cam d40 b70: rise 45 in 360 constant, return in 360 constant; groove 4 wide 3 deep; 2 "
             "turns"});
    }
    const char* text() {
        return one_of({"12",
                       "0",
                       "-3",
                       "7.5",
                       "1/4",
                       "1:16",
                       "3.6°",
                       "30 mm",
                       "1 in",
                       "2*3+1",
                       "width",
                       "width/2",
                       "none",
                       "standard",
                       "flat",
                       "chamfer",
                       "chamfer 45 8",
                       "run-out 0.5",
                       "point 59",
                       "rounded",
                       "6g",
                       "6H",
                       "left",
                       "right",
                       "A",
                       "1/1.25/0.3",
                       "sharp",
                       "round 0.2",
                       "12 dp",
                       "hex",
                       "brass",
                       "real",
                       "simplified",
                       "maximum",
                       "5 x 2.3",
                       "3 30 20",
                       "",
                       "x",
                       "((",
                       "1e9",
                       "\xC3\x98"
                       "12",
                       "nan",
                       "24"});
    }

    Job step(const Job& job) {
        if (job.pieces.empty()) return add_piece(job, piece_of(designation()));
        const ZoneRef at = zone(job), other = zone(job);
        switch (whole(0, 15)) {
        case 0:
            return job.pieces.size() < 6 ? add_piece(job, piece_of(designation()))
                                         : remove_piece(job, at.piece);
        case 1:
            return add_piece(job, piece_of(one_of({"ISO 4762 M6 x 25", "ISO 4032 M8", "nipple R1/2 x 60",
                                                   "gear m2 z60 b20 bore 16 key web"})));
        case 2:
            return remove_piece(job, at.piece);
        case 3:
            return insert_zone(job, at.piece, at.zone,
                               zone_of(parse_designation(one_of({"M8 x 10", "round 20 x 5", "M10-6H x 8"}))));
        case 4:
            return remove_zone(job, at.piece, at.zone);
        case 5:
            return move_zone(job, at.piece, at.zone,
                             static_cast<std::size_t>(whole(0, int(job.pieces[at.piece].zones.size()) - 1)));
        case 6:
            return split_zone(job, at.piece, at.zone);
        case 7:
            return add_counterpart(job, at.piece, at.zone);
        case 8:
            return add_mate(job, at.piece, at.zone, static_cast<Mate>(whole(0, 2)));
        case 9:
            return add_pair(job, at, other);
        case 10:
            if (job.pairs.empty()) return job;
            return remove_pair(job, static_cast<std::size_t>(whole(0, int(job.pairs.size()) - 1)));
        case 11:
            return whole(0, 3) > 0
                       ? set_value(job, one_of({"width", "gap", "9", "pi"}), {text(), LengthUnit::millimetre})
                       : remove_value(job, "width");
        case 12:
            return respec_zone(job, at.piece, at.zone,
                               parse_designation(one_of({"M12 x 30", "round 9 x 9"})));
        case 13:
            return add_relief_groove(job, at.piece, at.zone, whole(0, 1) == 1);
        default:
            return apply(job, {at.piece, at.zone,
                               all_fields()[std::size_t(whole(0, int(all_fields().size()) - 1))], text(),
                               whole(0, 1) == 1 ? LengthUnit::inch : LengthUnit::millimetre});
        }
    }

private:
    std::mt19937 random_;
};

} // namespace whorl::test
