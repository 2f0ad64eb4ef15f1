// Random walks through everything a job can be asked to do. Whatever comes, a job stays sound or an edit is
// refused with a sentence.
#include "check/check.hpp"
#include "check/train.hpp"
#include "model/job_file.hpp"
#include "model/resolve.hpp"
#include "model/row.hpp"
#include "plausible_piece.hpp"
#include "random_walk.hpp"

#include <catch2/catch.hpp>

using namespace whorl;
using whorl::test::Walk;

namespace {

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
    INFO(field.key << " \"" << text << "\" of " << job_to_json(job));
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
    const double rounding = field == field::turns ? 1e-4 / std::stod(text) * in_mm(was.length()) : 0;
    CHECK(in_mm(is.length()) == Approx(in_mm(was.length())).margin(2e-3 + rounding));
    CHECK(in_mm(is.largest_radius()) == Approx(in_mm(was.largest_radius())).margin(2e-3));
    CHECK(field_text(after, at.piece, at.zone, field, LengthUnit::millimetre) == text);
}

int remedies_tried = 0;

// Every remedy that is offered can be taken, and then there is less to be found.
void try_remedies(const Job& job, const std::vector<Finding>& findings) {
    for (const Finding& f : findings) {
        if (!f.remedy) continue;
        ++remedies_tried;
        INFO(f.id << ": " << f.sentence << " [" << f.remedy->label << "] " << job_to_json(job));
        try {
            const Job after = apply(job, *f.remedy);
            require_sound(after);
            const auto of_kind = [&](const Job& j) {
                const auto all = findings_of(j, f.piece);
                return std::count_if(all.begin(), all.end(),
                                     [&](const Finding& g) { return g.id == f.id && g.zone == f.zone; });
            };
            CHECK(of_kind(after) < of_kind(job));
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
                try_remedies(job, findings_of(job, p));
                train_of(job, p);
            }
        }
    }
    CHECK(remedies_tried > 10 * static_cast<int>(walks));
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
                          all_fields()[std::size_t(walk.whole(0, int(all_fields().size()) - 1))]);
            }
        }
    }
}

} // namespace

TEST_CASE("random walks through a job keep it sound, or refuse with a sentence") {
    walk_about(60);
}
TEST_CASE("remedies of pieces as people write them are taken, and leave less to be found") {
    remedies_tried = 0;
    for (unsigned seed = 1; seed <= 1500; ++seed) {
        test::RandomChoices choices(seed);
        INFO("seed " << seed);
        try {
            Job job;
            job.pieces = {test::PlausiblePiece(choices).make()};
            job = job_from_json(job_to_json(job)); // without what an end of another kind would have said
            try_remedies(job, findings_of(job, 0));
        } catch (const InputError&) { // a piece that does not resolve
        }
    }
    CHECK(remedies_tried > 500);
}
TEST_CASE("what a field says can be typed back") {
    type_all_back(40);
}
TEST_CASE("1 500 random walks, and 1 000 with every field typed back", "[.][long]") {
    walk_about(1500);
    type_all_back(1000);
}
