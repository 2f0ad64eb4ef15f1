// Random walks through everything a job can be asked to do. Whatever comes, a job stays sound or an edit is
// refused with a sentence.
#include "check/check.hpp"
#include "check/train.hpp"
#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/resolve.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>
#include <random>

using namespace whorl;

namespace {

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
        return one_of({"M10x1.5-6g LH x 40", "M16xPh4P2-6g x 60", "Tr12x3-7e x 50", "1/4-20 UNC-2A x 1",
                       "round 12 x 30", "gear m2 z24 a20 b12", "gear m2 z19 x0.3 helix 15 LH b12",
                       "gear dp12 z30 b1", "internal gear m2 z60 b12", "rack m2 z20 b20 h20",
                       "rack m1 l80 b10 h12 helix 10 RH", "R1/2 x 20", "G1/2 x 20", "M8-6H x 12",
                       "Rd40x1/6 x 30"});
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
            return apply(job, {at.piece, at.zone, static_cast<Field>(whole(0, int(Field::centre_distance))),
                               text(), whole(0, 1) == 1 ? LengthUnit::inch : LengthUnit::millimetre});
        }
    }

private:
    std::mt19937 random_;
};

void require_sound(const Job& job) {
    require_resolvable(job);
    for (const Piece& p : job.pieces) {
        CHECK_FALSE(p.name.empty());
        CHECK_FALSE(p.zones.empty());
    }
    for (const Pair& pair : job.pairs)
        for (const ZoneRef at : {pair.first, pair.second}) {
            REQUIRE(at.piece < job.pieces.size());
            REQUIRE(at.zone < job.pieces[at.piece].zones.size());
        }
    INFO(job_to_json(job));
    CHECK(job_from_json(job_to_json(job)) == job);
}

// What a field says can be typed back, and then nothing has changed.
void type_back(const Job& job, ZoneRef at, Field field) {
    const std::string text = field_text(job, at.piece, at.zone, field, LengthUnit::millimetre);
    if (text.empty()) return;
    INFO("field " << static_cast<int>(field) << " \"" << text << "\" of " << job_to_json(job));
    Job after;
    try {
        after = apply(job, {at.piece, at.zone, field, text, LengthUnit::millimetre});
    } catch (const InputError& e) {
        FAIL_CHECK("refused: " << e.what());
        return;
    }
    const Names names = resolve_names(job);
    const ResolvedPiece was = resolve_piece(job.pieces[at.piece], names),
                        is = resolve_piece(after.pieces[at.piece], names);
    // turns are shown to the fourth decimal
    const double rounding = field == Field::turns ? 1e-4 / std::stod(text) * in_mm(was.length()) : 0;
    CHECK(in_mm(is.length()) == Approx(in_mm(was.length())).margin(2e-3 + rounding));
    CHECK(in_mm(is.largest_radius()) == Approx(in_mm(was.largest_radius())).margin(2e-3));
    CHECK(field_text(after, at.piece, at.zone, field, LengthUnit::millimetre) == text);
}

// Every remedy that is offered can be taken.
void try_remedies(const Job& job, const std::vector<Finding>& findings) {
    for (const Finding& f : findings) {
        if (!f.remedy) continue;
        INFO(f.id << ": " << f.sentence << " [" << f.remedy->label << "] " << job_to_json(job));
        try {
            require_sound(apply(job, *f.remedy));
        } catch (const InputError& e) {
            FAIL_CHECK("the remedy is refused: " << e.what());
        }
    }
}

void walk_about(unsigned walks) {
    unsigned done = 0, refused = 0;
    for (unsigned seed = 1; seed <= walks; ++seed) {
        Walk walk(seed);
        Job job;
        for (int i = 0; i < 60; ++i) {
            INFO("seed " << seed << ", step " << i);
            try {
                const Job next = walk.step(job);
                require_sound(next);
                job = next;
                ++done;
            } catch (const InputError& e) {
                const std::string why = e.what();
                INFO(why);
                CHECK(why.size() > 12);
                CHECK((why.back() == '.' || why.back() == '?'));
                ++refused;
            }
            for (std::size_t p = 0; p < job.pieces.size(); ++p) {
                try_remedies(job, check_piece(resolve_piece(job.pieces[p], resolve_names(job)), p, job.unit));
                try_remedies(job, check_pairs(job, p));
                train_of(job, p);
            }
        }
    }
    CHECK(done > 20 * walks); // neither is the rule
    CHECK(refused > 10 * walks);
}

void type_all_back(unsigned walks) {
    for (unsigned seed = 200; seed < 200 + walks; ++seed) {
        Walk walk(seed);
        Job job;
        for (int i = 0; i < 30; ++i) {
            try {
                job = walk.step(job);
            } catch (const InputError&) {
            }
            if (job.pieces.empty()) continue;
            for (int k = 0; k < 3; ++k) {
                INFO("seed " << seed << ", step " << i);
                type_back(job, walk.zone(job),
                          static_cast<Field>(walk.whole(0, int(Field::centre_distance))));
            }
        }
    }
}

} // namespace

TEST_CASE("random walks through a job keep it sound, or refuse with a sentence") {
    walk_about(60);
}
TEST_CASE("what a field says can be typed back") {
    type_all_back(40);
}
TEST_CASE("1 500 random walks, and 1 000 with every field typed back", "[.][long]") {
    walk_about(1500);
    type_all_back(1000);
}
