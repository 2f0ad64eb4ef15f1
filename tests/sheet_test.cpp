// The spec sheet as a list: groups that fold, values to copy, rows found by typing, sentences for screen
// readers.
#include "app/sheet/sheet_model.hpp"
#include "bench.hpp"
#include "drawn_text.hpp"
#include "model/job_file.hpp"

#include <QAccessible>
#include <QClipboard>
#include <QElapsedTimer>
#include <QLabel>
#include <algorithm>
#include <cstdio>
#include <ctime>

using namespace whorl;
using namespace whorl::app;

namespace {

QStringList groups_of(const SpecSheet& sheet) {
    QStringList out;
    for (const SheetGroup& g : sheet.rows().sheet().groups)
        out << g.key;
    return out;
}

} // namespace

TEST_CASE("the sheet's groups are what was asked, what follows, fit, shop, piece and named values") {
    Bench b;
    CHECK(b.window.sheet()->rows().rowCount() == 0);
    CHECK(test::drawn_text(*b.window.sheet()).join(" ").contains("Nothing here yet"));
    b.designate("M10x1.5-6g x 40");
    CHECK(groups_of(*b.window.sheet()) == QStringList{"asked", "follows", "shop", "piece", "values"});
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    CHECK(groups_of(*b.window.sheet()) == QStringList{"asked", "follows", "shop", "fit", "piece", "values"});
    b.designate("round 12 x 30");
    // no group stands empty
    for (const char* what : {"round 12 x 30", "gear m2 z24 a20 b12", "rack m2 z20 b20 h20",
                             "spring d2 D20 L50 n7 closed ground", "G1/2 A x 20"}) {
        QTest::keyClick(&b.window, Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
        QTest::keyClicks(b.window.designation(), what);
        QTest::keyClick(b.window.designation(), Qt::Key_Return);
        b.settle();
        INFO(what);
        const Sheet& sheet = b.window.sheet()->rows().sheet();
        CHECK(!sheet.title.isEmpty());
        CHECK(sheet.groups.size() >= 3);
        QStringList keys;
        for (const SheetGroup& g : sheet.groups) {
            CHECK(!g.rows.empty());
            for (const SheetRow& r : g.rows) {
                INFO(r.label.toStdString());
                // one row for a value, what follows says where it comes from, what is typed over has a hint
                if (r.kind != SheetRow::Kind::note) CHECK_FALSE(keys.contains(r.input.key));
                keys << r.input.key;
                if (r.kind == SheetRow::Kind::follows) CHECK(!r.source.isEmpty());
                if (r.input.typed() && r.input.key != "piece_name") CHECK(!r.input.tip.isEmpty());
            }
        }
    }
}

TEST_CASE("a group folds by the mouse and by Enter, and stays folded for the next piece") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    SpecSheet* sheet = b.window.sheet();
    const QModelIndex asked = sheet->rows().index(1, 0);
    REQUIRE(sheet->rows().group(asked)->key == "asked");
    const int before = sheet->visualRect(sheet->rows().index(2, 0)).top();
    QTest::mouseClick(sheet->viewport(), Qt::LeftButton, {}, sheet->visualRect(asked).center());
    CHECK_FALSE(sheet->isExpanded(asked));
    CHECK(sheet->visualRect(sheet->rows().index(2, 0)).top() < before - 200);
    CHECK_FALSE(test::drawn_text(*sheet).contains("Near end"));
    b.designate("gear m2 z24 a20 b12");
    CHECK_FALSE(sheet->isExpanded(sheet->rows().index(1, 0)));
    sheet->setFocus();
    sheet->setCurrentIndex(sheet->rows().index(1, 0));
    QTest::keyClick(sheet, Qt::Key_Return);
    CHECK(sheet->isExpanded(sheet->rows().index(1, 0)));
    // a row in a folded group opens it when it is asked for
    sheet->collapse(sheet->rows().index(1, 0));
    CHECK(sheet->edit_field(field::teeth));
    CHECK(sheet->isExpanded(sheet->rows().index(1, 0)));
    CHECK(sheet->findChild<QLineEdit*>("dimension")->text() == "24");
}

TEST_CASE("typing finds a row by its label, and its value is copied with its unit") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    SpecSheet* sheet = b.window.sheet();
    sheet->setFocus();
    sheet->setCurrentIndex(sheet->rows().index(0, 0));
    const auto current = [&] { return sheet->rows().row(sheet->currentIndex()); };
    QTest::keyClicks(sheet, "lead a");
    REQUIRE(current());
    CHECK(current()->input.key == "lead_angle");
    QTest::keyClick(sheet, Qt::Key_C, Qt::ControlModifier);
    CHECK(QApplication::clipboard()->text() == "3.03°");
    sheet->setCurrentIndex(sheet->row_of("pitch_diameter"));
    QTest::keyClick(sheet, Qt::Key_C, Qt::ControlModifier);
    CHECK(QApplication::clipboard()->text() == "8.862 to 8.994 mm");
    sheet->setCurrentIndex(sheet->row_of("length"));
    QTest::keyClick(sheet, Qt::Key_C, Qt::ControlModifier);
    CHECK(QApplication::clipboard()->text() == "40 mm");
    sheet->setCurrentIndex(sheet->row_of("mass"));
    QTest::keyClick(sheet, Qt::Key_C, Qt::ControlModifier);
    CHECK(QApplication::clipboard()->text().endsWith(" g"));
    // and Enter opens what can be typed over, the arrows light it in the drawings
    sheet->setCurrentIndex(sheet->row_of("pitch"));
    QTest::keyClick(sheet, Qt::Key_Down);
    CHECK(b.session.hovered() == "length");
    QTest::keyClick(sheet, Qt::Key_Return);
    auto* editor = sheet->findChild<QLineEdit*>("dimension");
    REQUIRE(editor->isVisible());
    QTest::keyClicks(editor, "55");
    QTest::keyClick(editor, Qt::Key_Return);
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(55));
}

TEST_CASE("a screen reader gets each row as a sentence") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    const SheetModel& rows = b.window.sheet()->rows();
    CHECK(rows.data(rows.index(0, 0), Qt::AccessibleTextRole).toString() ==
          "Thread on zone 1, external, ISO metric, coarse series");
    CHECK(rows.data(rows.find("pitch_diameter"), Qt::AccessibleTextRole).toString() ==
          "Pitch Ø, 8.862 to 8.994 mm, 6g, ISO 965-1:2013, table 5 (Td2)");
    CHECK(rows.data(rows.find("length"), Qt::AccessibleTextRole).toString() == "Length, 40 mm");
    QAccessibleInterface* tree = QAccessible::queryAccessibleInterface(b.window.sheet());
    REQUIRE(tree);
    CHECK(tree->text(QAccessible::Name) == "Spec sheet");
    CHECK(tree->childCount() > 40);
}

TEST_CASE("sources wrap instead of being cut off, and a value set by hand is handed back") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    SpecSheet* sheet = b.window.sheet();
    const auto height = [&](const char* key) { return sheet->visualRect(sheet->row_of(key)).height(); };
    CHECK(height("minor_diameter") > height("major_diameter") + 10); // a source of two lines
    b.type_at(b.window.section(), "thread_depth", "0.5");
    const QModelIndex depth = sheet->row_of("thread_depth");
    REQUIRE(sheet->rows().row(depth)->handed_back);
    CHECK(sheet->rows().row(depth)->overridden);
    sheet->scrollTo(depth);
    const QRect at = sheet->visualRect(depth);
    QTest::mouseClick(sheet->viewport(), Qt::LeftButton, {},
                      {sheet->viewport()->width() - 60, at.top() + 25});
    b.settle();
    CHECK_FALSE(sheet->rows().row(sheet->row_of("thread_depth"))->overridden);
}

TEST_CASE("what is refused says so under its row and keeps what was typed; Tab goes to the next row") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    SpecSheet* sheet = b.window.sheet();
    b.type_at(sheet, "starts", "99");
    auto* editor = sheet->findChild<QLineEdit*>("dimension");
    auto* refusal = sheet->findChild<QLabel*>("refusal");
    REQUIRE(editor->isVisible());
    CHECK(editor->text() == "99");
    CHECK(refusal->isVisible());
    CHECK(refusal->text().contains("1 to 8"));
    CHECK(b.section().starts == 1);
    editor->selectAll();
    QTest::keyClicks(editor, "2");
    CHECK_FALSE(refusal->isVisible());
    QTest::keyClick(editor, Qt::Key_Tab);
    CHECK(b.section().starts == 2);
    CHECK(sheet->rows().row(sheet->currentIndex())->label == "Modelled at");
    CHECK(editor->isVisible());
    QTest::keyClick(editor, Qt::Key_Escape);
    CHECK_FALSE(editor->isVisible());
    CHECK(sheet->hasFocus());
}

// Not a test: prints what the interface thread computes, painting included (scripts/test does not run it).
// Its own time, since a virtual display draws the solid on the same cores: in all, and the longest stretch in
// which nothing that was typed is looked at (views are painted in turns).
TEST_CASE("how long a keystroke and the next piece take in a job of 400 pieces", "[.speed]") {
    Bench b;
    Job job = load_job(std::string(WHORL_SOURCE_DIR) + "/demo/saltmarsh-tide-gauge.whorl");
    const std::size_t n = job.pieces.size();
    for (std::size_t i = 0; job.pieces.size() < 400; ++i)
        job.pieces.push_back(job.pieces[i % n]);
    b.session.change([&](const Job&) { return job; });
    b.settle();
    const auto own_time = [] {
        timespec t{};
        clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
        return static_cast<double>(t.tv_sec) * 1e3 + static_cast<double>(t.tv_nsec) / 1e6;
    };
    const auto painted = [&](double since) {
        double all = own_time() - since, longest = all;
        const auto end = std::chrono::steady_clock::now() + std::chrono::milliseconds(60);
        while (std::chrono::steady_clock::now() < end) {
            const double start = own_time();
            (void)QCoreApplication::eventDispatcher()->processEvents(QEventLoop::ExcludeSocketNotifiers);
            const double took = own_time() - start;
            longest = std::max(longest, took);
            if (took > 0.1) all += took; // the rest is looking whether there is something to do
        }
        return std::pair{all, longest};
    };
    const auto median = [](std::vector<double> v) {
        std::sort(v.begin(), v.end());
        return v[v.size() / 2];
    };
    for (const bool drawn : {true, false}) {
        b.window.solid()->setVisible(drawn);
        for (const std::size_t piece : {std::size_t{0}, std::size_t{12}, n - 1}) {
            b.session.select(piece, b.session.telling_zone(piece));
            b.settle();
            std::vector<double> edits, keystrokes, stretches, nexts, next_stretches;
            for (int i = 0; i < 21; ++i) {
                const double start = own_time();
                (void)b.session.edit(field::piece_finish, i % 2 ? "steel" : "brass");
                edits.push_back(own_time() - start);
                const auto [all, longest] = painted(start);
                keystrokes.push_back(all);
                stretches.push_back(longest);
                b.settle();
            }
            for (int i = 0; i < 21; ++i) {
                const double start = own_time();
                QTest::keyClick(&b.window, i % 2 ? Qt::Key_PageUp : Qt::Key_PageDown, Qt::ControlModifier);
                const auto [all, longest] = painted(start);
                nexts.push_back(all);
                next_stretches.push_back(longest);
                b.settle();
            }
            std::printf("%s, piece %2zu: change %.1f ms, keystroke with painting %.1f ms (longest stretch "
                        "%.1f), next piece %.1f ms (%.1f)\n",
                        drawn ? "with the solid" : "without it   ", piece, median(edits), median(keystrokes),
                        median(stretches), median(nexts), median(next_stretches));
        }
    }
}
