// The open job without its window: history, live edits, selection, the worker, and the drawings made from
// resolved values.
#include "app/elevation.hpp"
#include "app/session.hpp"
#include "model/job_file.hpp"
#include "random_walk.hpp"

#include <QTemporaryDir>
#include <QtTest/QtTest>
#include <catch2/catch.hpp>

using namespace whorl;
using namespace whorl::app;

namespace {

void start(Session& s, const std::string& designation) {
    REQUIRE(s.change([&](const Job& j) { return add_piece(j, parse_designation(designation)); }).isEmpty());
}
double pitch(const Session& s) {
    return s.resolved_zone()->thread()->section.pitch;
}

} // namespace

TEST_CASE("history goes back and forth, and a new edit ends what could be redone") {
    Session s;
    start(s, "M10x1.5-6g x 40");
    for (const char* p : {"1.25", "1", "0.75"})
        REQUIRE(s.edit(field::pitch, p).isEmpty());
    s.undo();
    s.undo();
    CHECK(pitch(s) == 1.25);
    CHECK(s.can_redo());
    s.redo();
    CHECK(pitch(s) == 1);
    REQUIRE(s.edit(field::pitch, "0.5").isEmpty());
    CHECK_FALSE(s.can_redo());
    for (int i = 0; i < 10; ++i)
        s.undo();
    CHECK_FALSE(s.can_undo());
    CHECK(s.job().pieces.empty());
    CHECK(s.resolved() == nullptr);
    for (int i = 0; i < 10; ++i)
        s.redo();
    CHECK(pitch(s) == 0.5);
}

TEST_CASE("random edits, undone and redone in any order, give every job back as it was") {
    for (unsigned seed = 1; seed <= 12; ++seed) {
        test::Walk walk(seed);
        Session s;
        std::vector<Job> history{s.job()}; // what the session should remember
        std::size_t at = 0;
        for (int i = 0; i < 60; ++i) {
            INFO("seed " << seed << ", step " << i);
            const int what = walk.whole(0, 9);
            if (what == 0) {
                s.undo();
                at -= at > 0;
            } else if (what == 1) {
                s.redo();
                at += at + 1 < history.size();
            } else if (what == 2 && s.has_piece()) { // looked at, not changed
                const ZoneRef zone = walk.zone(s.job());
                s.select(zone.piece, zone.zone);
            } else if (what == 3 && s.has_piece()) { // a live edit, given up or kept as one step
                const bool keep = walk.whole(0, 1) == 1;
                s.begin_live();
                for (int k = 0; k < 3; ++k)
                    s.change([&](const Job& job) { return walk.step(job); });
                const Job live = s.job();
                keep ? s.end_live() : s.cancel_live();
                if (keep && live != history[at]) {
                    history.resize(++at);
                    history.push_back(live);
                }
            } else {
                const QString why = s.change([&](const Job& job) { return walk.step(job); });
                if (why.isEmpty() && s.job() != history[at]) {
                    history.resize(++at);
                    history.push_back(s.job());
                }
            }
            REQUIRE(s.job() == history[at]);
            CHECK(s.can_undo() == (at > 0));
            CHECK(s.can_redo() == (at + 1 < history.size()));
            CHECK(s.has_piece() == !s.job().pieces.empty());
            if (s.has_piece()) { // the selection is a place in the job
                REQUIRE(s.piece() < s.job().pieces.size());
                REQUIRE(s.zone() < s.job().pieces[s.piece()].zones.size());
                CHECK(s.resolved() != nullptr);
            }
        }
    }
}

TEST_CASE("an edit that changes nothing makes no step of history") {
    Session s;
    start(s, "M10x1.5-6g x 40");
    s.undo();
    s.redo();
    const Job before = s.job();
    REQUIRE(s.edit(field::pitch, QString::fromStdString(field_text(s.job(), 0, 0, field::pitch, s.unit())))
                .isEmpty());
    CHECK(s.job() == before);
    s.undo();
    CHECK(s.job().pieces.empty());
}

TEST_CASE("a refused edit says why and where, and keeps the job") {
    Session s;
    start(s, "M10x1.5-6g x 40");
    const Job before = s.job();
    CHECK(s.edit(field::length, "2*plat").contains("plat"));
    CHECK(s.error_position() == 2);
    CHECK(s.edit(field::tolerance_class, "9z").size() > 20);
    CHECK(s.respec(parse_designation("M10-6H")).contains("internal"));
    CHECK(s.job() == before);
}

TEST_CASE("live edits are one step, and can be given up") {
    Session s;
    start(s, "M10x1.5-6g x 40");
    s.begin_live();
    for (int i = 1; i <= 20; ++i)
        s.edit(field::length, QString::number(40 + i));
    s.end_live();
    CHECK(in_mm(s.resolved_zone()->length) == 60);
    s.undo();
    CHECK(in_mm(s.resolved_zone()->length) == 40);
    s.begin_live();
    s.edit(field::length, "90");
    s.cancel_live();
    CHECK(in_mm(s.resolved_zone()->length) == 40);
    s.begin_live();
    s.end_live(); // nothing happened: no step
    s.redo();
    CHECK(in_mm(s.resolved_zone()->length) == 60);
}

TEST_CASE("the selection stays valid whatever is removed") {
    Session s;
    start(s, "M10x1.5-6g x 40");
    start(s, "M8x1.25-6g x 20");
    s.select(1, 0);
    s.change([](const Job& j) { return split_zone(j, 1, 0); });
    s.select(1, 1);
    s.change([](const Job& j) { return remove_zone(j, 1, 1); });
    CHECK(s.zone() == 0);
    s.change([](const Job& j) { return remove_piece(j, 1); });
    CHECK(s.piece() == 0);
    CHECK(in_mm(s.resolved_zone()->diameter) == 10);
    s.change([](const Job& j) { return remove_piece(j, 0); });
    CHECK_FALSE(s.has_piece());
    CHECK(s.resolved_zone() == nullptr);
    s.undo();
    CHECK(s.has_piece());
}

TEST_CASE("the worker delivers the preview and the solid of the last order only") {
    Session s;
    start(s, "M10x1.5-6g x 60");
    int previews = 0, solids = 0;
    QObject::connect(&s, &Session::previewed, &s, [&] { ++previews; });
    QObject::connect(&s, &Session::verified, &s, [&] { ++solids; });
    for (int i = 0; i < 30; ++i)
        s.edit(field::length, QString::number(61 + i));
    REQUIRE(QTest::qWaitFor([&] { return !s.building(); }, 20000));
    CHECK(s.preview()->piece.length() == mm(90));
    CHECK(s.solid()->valid);
    CHECK(s.solid()->volume == Approx(s.preview()->volume()));
    CHECK(solids == 1); // the others were overtaken
    CHECK(previews <= 31);
    // what stops has a preview without a mesh, and no solid
    s.edit(field::pitch, "18");
    REQUIRE(QTest::qWaitFor([&] { return !s.building(); }, 20000));
    CHECK_FALSE(s.preview()->made());
    CHECK(s.solid() == nullptr);
    CHECK(stops(s.preview()->findings));
}

TEST_CASE("a session ends while it is building") {
    for (int i = 0; i < 20; ++i) {
        Session s;
        start(s, "M8x1-6g x 300");
        if (i % 2) QTest::qWait(i);
    }
    SUCCEED();
}

TEST_CASE("saving clears what is unsaved; opening forgets the history") {
    QTemporaryDir folder;
    const QString file = folder.filePath("a.whorl");
    Session s;
    CHECK_FALSE(s.unsaved());
    start(s, "M10x1.5-6g x 40");
    CHECK(s.unsaved());
    s.save(file);
    CHECK_FALSE(s.unsaved());
    CHECK(s.path() == file);
    s.edit(field::pitch, "1");
    s.keep_for_recovery();
    CHECK(s.has_recovery());
    s.open(file);
    CHECK(pitch(s) == 1.5);
    CHECK_FALSE(s.can_undo());
    CHECK_THROWS_AS(s.open(folder.filePath("missing.whorl")), FileError);
    CHECK(pitch(s) == 1.5);
    s.discard_recovery();
    s.new_job();
    CHECK(s.job().pieces.empty());
    CHECK(s.path().isEmpty());
}

TEST_CASE("a silhouette keeps to the zone and to the radii") {
    for (const char* d : {"M10x1.5-6g x 20", "M16xPh4P2-6g LH x 33.3", "1/4-20 UNC-2A x 0.7", "round 12 x 5"})
        for (const char* end : {"flat", "chamfer 45", "chamfer 30", "run-out 1"}) {
            Job j = add_piece({}, parse_designation(d));
            if (!j.pieces[0].zones[0].as<ThreadForm>() && std::string(end).starts_with("run")) continue;
            j = apply(j, {0, 0, field::far_end, end, LengthUnit::millimetre});
            const auto zone = resolve_piece(j.pieces[0], {}).zones[0];
            INFO(d << ", " << end);
            const QPolygonF line = silhouette(zone, 0.01);
            REQUIRE(line.size() >= 2);
            double last = -1e9;
            for (const auto& p : line) {
                CHECK(p.x() >= last - 1e-9);
                last = p.x();
                CHECK(p.y() <= in_mm(zone.outer_radius()) + 1e-9);
                CHECK(p.y() > 0);
            }
            CHECK(line.first().x() == Approx(0).margin(1e-9));
            CHECK(line.last().x() == Approx(in_mm(zone.length)));
            // too fine to draw: only the crest is left
            CHECK(silhouette(zone, 1e6).size() <= 200);
        }
}
