// A way in without words: screw with nut, gear with rack and spring with the mouse alone.
#include "app/catalogue_view.hpp"
#include "bench.hpp"
#include "model/job_file.hpp"

#include <QAction>
#include <QMenu>
#include <QMenuBar>
#include <QPushButton>
#include <QTemporaryDir>

using namespace whorl;
using namespace whorl::app;

namespace {

struct Newcomer : Bench {
    CatalogueView* catalogue = window.catalogue();

    void click(QListView* list, const QModelIndex& at) {
        list->scrollTo(at);
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualRect(at).center());
        QCoreApplication::processEvents();
    }
    QModelIndex item(QListView* list, const QString& text) {
        for (int i = 0; i < list->model()->rowCount(); ++i)
            if (list->model()->index(i, 0).data().toString() == text) return list->model()->index(i, 0);
        return {};
    }
    void choose(const QString& family, const QString& member) {
        REQUIRE(catalogue->isVisible());
        const QModelIndex card = item(catalogue->family_list(), family);
        REQUIRE(card.isValid());
        click(catalogue->family_list(), card);
        REQUIRE(catalogue->at_members());
        const QModelIndex line = item(catalogue->member_list(), member);
        REQUIRE(line.isValid());
        click(catalogue->member_list(), line);
        settle();
    }
    void press(const char* button) {
        auto* b = window.findChild<QPushButton*>(button);
        REQUIRE(b->isVisible());
        QTest::mouseClick(b, Qt::LeftButton);
        settle();
    }
    void ask_for_new_piece() { // below the shelf
        QTest::mouseClick(window.shelf(), Qt::LeftButton, {}, {40, window.shelf()->height() - 16});
        QCoreApplication::processEvents();
    }
    void menu(const QString& text) {
        for (QAction* a : window.findChildren<QAction*>())
            if (a->text() == text) return a->trigger();
        FAIL("no such action: " << text.toStdString());
    }
};

} // namespace

TEST_CASE("with the mouse alone: a screw with its nut, a gear with its rack, a spring", "[once]") {
    Newcomer n;
    n.choose("Socket head screw", "ISO 4762 M6 x 24");
    CHECK(n.session.trying());
    CHECK_FALSE(n.catalogue->isVisible()); // the views show it before it is made
    CHECK(n.session.preview()->made());
    n.press("make_it");
    CHECK_FALSE(n.session.trying());
    n.menu("Make the counterpart");
    n.settle();
    REQUIRE(n.session.job().pieces.size() == 2);
    CHECK(n.session.job().pairs.size() == 1);

    n.ask_for_new_piece();
    n.choose("Gear", "gear m2 z24 a20 b20");
    n.press("make_it");
    n.menu("Make a rack for the gear");
    n.settle();
    REQUIRE(n.session.job().pieces.size() == 4);
    CHECK(n.session.resolved_zone()->rack());

    n.ask_for_new_piece();
    n.choose("Compression spring", "spring d2 D20 L50 n7 closed ground");
    n.press("make_it");
    REQUIRE(n.session.job().pieces.size() == 5);
    CHECK(n.session.resolved_zone()->coil());
    // each was one step of history
    n.session.undo();
    CHECK(n.session.job().pieces.size() == 4);
    n.session.redo();
    CHECK(n.session.job().pieces.size() == 5);
}

TEST_CASE("the words to change are marked one after another, and what is typed shows at once") {
    Newcomer n;
    n.choose("Hexagon head bolt", "ISO 4014 M10 x 80");
    DesignationLine* line = n.window.designation();
    CHECK(line->hasFocus());
    CHECK(line->selectedText() == "10");
    QTest::keyClicks(line, "12");
    n.settle();
    CHECK(in_mm(n.session.resolved()->zones.back().thread()->spec.diameter) == 12);
    QTest::keyClick(line, Qt::Key_Tab);
    CHECK(line->selectedText() == "80");
    QTest::keyClicks(line, "100");
    n.settle();
    CHECK(std::abs(in_mm(n.session.resolved()->length()) - 100 - 7.5) < 1e-9);
    QTest::keyClick(line, Qt::Key_Tab); // round to the first
    CHECK(line->selectedText() == "12");
    QTest::keyClick(line, Qt::Key_Backtab);
    CHECK(line->selectedText() == "100");
    // what can't be read leaves the last good one on trial
    QTest::keyClicks(line, "x");
    CHECK(n.session.trying());
    CHECK(std::abs(in_mm(n.session.resolved()->length()) - 107.5) < 1e-9);
    QTest::keyClick(line, Qt::Key_Backspace);
    QTest::keyClicks(line, "90");
    QTest::keyClick(line, Qt::Key_Return);
    n.settle();
    REQUIRE(n.session.job().pieces.size() == 1);
    CHECK(n.session.job().pieces[0].name == "ISO 4014 M12 x 90");
}

TEST_CASE("Esc leaves everything as it was") {
    Newcomer n;
    n.designate("M8x1.25-6g x 20");
    QTemporaryDir dir;
    n.window.save_to(dir.filePath("job.whorl"));
    n.designate("M8x1.25-6g x 24");
    n.session.undo();
    n.window.save_to(dir.filePath("job.whorl"));
    const Job before = n.session.job();
    REQUIRE_FALSE(n.session.unsaved());
    REQUIRE(n.session.can_redo());

    QTest::keyClick(&n.window, Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(n.catalogue->isVisible());
    n.choose("Rack", "rack m2 z20 b20 h20");
    REQUIRE(n.session.trying());
    CHECK(n.session.job().pieces.size() == 2);
    QTest::keyClick(n.window.designation(), Qt::Key_Escape);
    n.settle();
    CHECK(n.session.job() == before);
    CHECK_FALSE(n.session.unsaved());
    CHECK(n.session.can_redo());
    CHECK_FALSE(n.catalogue->isVisible());
    CHECK(n.window.designation()->text() == "M8x1.25-6g x 20");

    // Esc in the catalogue goes back a step, then leaves it
    n.ask_for_new_piece();
    n.click(n.catalogue->family_list(), n.item(n.catalogue->family_list(), "Rack"));
    QTest::keyClick(n.catalogue->filter(), Qt::Key_Escape);
    CHECK_FALSE(n.catalogue->at_members());
    QTest::keyClick(n.catalogue->family_list(), Qt::Key_Escape);
    CHECK_FALSE(n.catalogue->isVisible());
    CHECK(n.session.job() == before);
}

TEST_CASE("what is on trial is not saved, and working on it keeps it") {
    Newcomer n;
    n.designate("M8x1.25-6g x 20");
    n.ask_for_new_piece();
    n.choose("Gear", "gear m2 z24 a20 b20");
    QTemporaryDir dir;
    REQUIRE(n.window.save_to(dir.filePath("job.whorl")));
    CHECK(load_job(dir.filePath("job.whorl").toStdString()).pieces.size() == 1);
    CHECK_FALSE(n.session.trying());

    n.ask_for_new_piece();
    n.choose("Gear", "gear m2 z24 a20 b20");
    n.type_at(n.window.sheet(), "teeth", "30");
    CHECK_FALSE(n.session.trying());
    REQUIRE(n.session.job().pieces.size() == 2);
    CHECK(n.session.resolved_zone()->gear()->spec.teeth == 30);
    n.session.undo(); // the edit, then the piece
    n.session.undo();
    CHECK(n.session.job().pieces.size() == 1);
}

TEST_CASE("looking at a piece on trial does not end the trial") {
    Newcomer n;
    n.designate("M8x1.25-6g x 20");
    const Job before = n.session.job();
    n.ask_for_new_piece();
    n.choose("Gear", "gear m2 z24 a20 b20");
    // a field opened and left, a click into the strip and into the developed view
    const QModelIndex row = n.window.sheet()->row_of("teeth");
    QTest::mouseClick(n.window.sheet()->viewport(), Qt::LeftButton, {},
                      n.window.sheet()->visualRect(row).center());
    QTest::keyClick(n.window.sheet()->findChild<QLineEdit*>("dimension"), Qt::Key_Escape);
    QTest::mouseClick(n.window.strip(), Qt::LeftButton, {}, n.window.strip()->rect().center());
    QTest::mouseClick(n.window.developed(), Qt::LeftButton, {}, n.window.developed()->rect().center());
    n.settle();
    CHECK(n.session.trying());
    CHECK(n.session.job().pieces.size() == 2);
    n.press("leave_it");
    CHECK(n.session.job() == before);
}

TEST_CASE("a size is found by typing, and the keyboard does what the mouse does") {
    Newcomer n;
    QTest::keyClick(&n.window, Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    n.catalogue->family_list()->setFocus();
    n.catalogue->family_list()->setCurrentIndex(n.item(n.catalogue->family_list(), "Unified thread"));
    QTest::keyClick(n.catalogue->family_list(), Qt::Key_Return);
    REQUIRE(n.catalogue->at_members());
    QTest::keyClicks(n.catalogue->filter(), "3/8 fine");
    REQUIRE(n.catalogue->member_list()->model()->rowCount() >= 1);
    QTest::keyClick(n.catalogue->filter(), Qt::Key_Return);
    n.settle();
    CHECK(n.window.designation()->text() == "3/8-24 UNF-2A x 1.5");
    QTest::keyClick(n.window.designation(), Qt::Key_Return);
    n.settle();
    CHECK(n.session.job().pieces.size() == 1);

    n.ask_for_new_piece();
    n.click(n.catalogue->family_list(), n.item(n.catalogue->family_list(), "Metric thread"));
    QTest::keyClicks(n.catalogue->filter(), "9999");
    CHECK(n.catalogue->member_list()->model()->rowCount() == 0);
    QTest::keyClick(n.catalogue->filter(), Qt::Key_Return); // nothing to pick
    CHECK(n.session.job().pieces.size() == 1);
}
