// The drawing in the real window: shown by a word and a key, each dimension typed over, dragged, taken off; the title block
// filled; written to files.
#include "app/drawing_view.hpp"
#include "bench.hpp"
#include "drawn_text.hpp"
#include "model/job_file.hpp"

#include <QFile>
#include <QTemporaryDir>
#include <QToolButton>

using namespace whorl;
using namespace whorl::app;

namespace {

void wait_for_sheet(Bench& b) {
    b.settle();
    REQUIRE(QTest::qWaitFor([&] { return b.window.drawing()->sheet() && !b.window.drawing()->waiting(); },
                            20000));
}

// A text of the sheet, and where it stands in the view.
std::optional<QPointF> place_of(DrawingView& view, const std::string& words) {
    for (const drawing::Text& t : view.sheet()->paper.texts)
        if (t.link && t.words == words) {
            const drawing::Box box = drawing::bounds(t);
            return view.to_page().map(QPointF((box.left + box.right) / 2, (box.bottom + box.top) / 2));
        }
    return {};
}

void drag(Bench& b, DrawingView& view, const std::string& words, QPoint by) {
    INFO(words);
    const auto from = place_of(view, words);
    REQUIRE(from);
    QTest::mousePress(&view, Qt::LeftButton, {}, from->toPoint());
    for (int i = 1; i <= 4; ++i)
        QTest::mouseMove(&view, from->toPoint() + by * i / 4);
    QTest::mouseRelease(&view, Qt::LeftButton, {}, from->toPoint() + by);
    wait_for_sheet(b);
}

void type_on(Bench& b, DrawingView& view, const std::string& words, const QString& typed) {
    INFO(words);
    const auto at = place_of(view, words);
    REQUIRE(at);
    QTest::mouseClick(&view, Qt::LeftButton, {}, at->toPoint());
    b.type(&view, typed, Qt::Key_Return);
    wait_for_sheet(b);
}

} // namespace

TEST_CASE("a drawing's dimensions are typed over where they stand, and the piece follows") {
    Bench b;
    b.designate("round 30 x 20");
    CHECK_FALSE(b.window.drawing_shown());
    QTest::keyClick(&b.window, Qt::Key_F10);
    CHECK(b.window.drawing_shown());
    wait_for_sheet(b);
    auto& view = *b.window.drawing();
    REQUIRE(place_of(view, "Ø30"));
    type_on(b, view, "Ø30", "36");
    CHECK(in_mm(b.session.resolved_zone()->diameter) == Approx(36));
    CHECK(place_of(view, "Ø36"));
    type_on(b, view, "20", "2*12");
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(24));
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    wait_for_sheet(b);
    CHECK(place_of(view, "20"));
    // another zone's dimension selects that zone first
    b.session.change(
        [](const Job& j) { return insert_zone(j, 0, 1, piece_of("M12x1.75-6g x 30").zones[0]); });
    b.session.select(0, 0);
    wait_for_sheet(b);
    type_on(b, view, "30", "32");
    CHECK(b.session.zone() == 1);
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(32));
    // a bad one stays open with its sentence, and nothing changed
    const auto at = place_of(view, "32");
    QTest::mouseClick(&view, Qt::LeftButton, {}, at->toPoint());
    auto* editor = view.findChild<QLineEdit*>("dimension");
    REQUIRE(editor->isVisible());
    editor->setText("nonsense");
    QTest::keyClick(editor, Qt::Key_Return);
    CHECK(editor->isVisible());
    QTest::keyClick(editor, Qt::Key_Escape);
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(32));
    // the word does the same as the key
    b.window.show_drawing(false);
    CHECK_FALSE(b.window.drawing_shown());
}

TEST_CASE("what stands on a drawing is dragged, taken off, brought back, and noted") {
    Bench b;
    b.designate("round 30 x 20");
    b.window.show_drawing(true);
    wait_for_sheet(b);
    auto& view = *b.window.drawing();
    drag(b, view, "Ø30", {0, -40});
    const auto& items = [&]() -> const std::vector<MovedItem>& {
        return b.session.job().pieces[0].drawing.items;
    };
    REQUIRE(items().size() == 1);
    CHECK(items()[0].key == "diameter");
    CHECK(items()[0].y > 3);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    wait_for_sheet(b);
    CHECK(items().empty());
    // taken off by a key, after it was touched
    drag(b, view, "20", {0, 30});
    QTest::keyClick(&view, Qt::Key_Delete);
    wait_for_sheet(b);
    CHECK_FALSE(place_of(view, "20"));
    CHECK(test::drawn_text(view).join(' ').contains("1 taken off"));
    view.all_back();
    wait_for_sheet(b);
    CHECK(place_of(view, "20"));
    // arrows move what was touched last
    drag(b, view, "20", {0, 30});
    const double before = items()[0].x;
    QTest::keyClick(&view, Qt::Key_Right);
    wait_for_sheet(b);
    CHECK(items()[0].x == Approx(before + 1));
    // limits behind its figure, by a key; brackets
    drag(b, view, "Ø30", {0, -10});
    QTest::keyClick(&b.window, Qt::Key_T, Qt::ControlModifier | Qt::AltModifier);
    b.type(&view, "h7", Qt::Key_Return);
    wait_for_sheet(b);
    CHECK(place_of(view, "Ø30 h7"));
    view.set_reference(true);
    wait_for_sheet(b);
    CHECK(place_of(view, "(Ø30 h7)"));
    view.all_back(); // its place, not what it says
    wait_for_sheet(b);
    CHECK(place_of(view, "(Ø30 h7)"));
    CHECK_FALSE(drawing::anything_moved(b.session.job().pieces[0].drawing));
    // a title field is not taken off, and what was touched of one piece is none of another's
    const auto name = place_of(view, b.session.job().pieces[0].name);
    REQUIRE(name);
    QTest::mouseClick(&view, Qt::LeftButton, {}, name->toPoint());
    QTest::keyClick(view.findChild<QLineEdit*>("dimension"), Qt::Key_Escape);
    CHECK_FALSE(view.can_take_off());
    drag(b, view, "20", {0, 12});
    CHECK(view.can_take_off());
    b.session.change([](const Job& j) { return add_piece(j, piece_of("round 8 x 9")); });
    b.session.select(1, 0);
    wait_for_sheet(b);
    CHECK_FALSE(view.can_take_off());
    b.session.select(0, 0);
    wait_for_sheet(b);
    // a note of one's own
    view.add_note();
    wait_for_sheet(b);
    type_on(b, view, "note", "deburr");
    CHECK(b.session.job().pieces[0].drawing.notes[0].words == "deburr");
    drag(b, view, "deburr", {20, -10});
    CHECK(b.session.job().pieces[0].drawing.notes[0].x > 14);
    type_on(b, view, "deburr", "");
    CHECK(b.session.job().pieces[0].drawing.notes.empty());
}

TEST_CASE("the title block is filled where it stands") {
    Bench b;
    b.designate("M12x1.75-6g x 40");
    b.window.show_drawing(true);
    wait_for_sheet(b);
    auto& view = *b.window.drawing();
    REQUIRE(view.edit_drawing_field("owner"));
    b.type(&view, "Saltmarsh Instruments", Qt::Key_Return);
    wait_for_sheet(b);
    CHECK(b.session.job().drawing.title.owner == "Saltmarsh Instruments");
    CHECK(place_of(view, "Saltmarsh Instruments"));
    REQUIRE(view.edit_drawing_field("sheet"));
    b.type(&view, "A3", Qt::Key_Return);
    wait_for_sheet(b);
    CHECK(std::string(view.sheet()->size.name) == "A3");
    REQUIRE(view.edit_drawing_field("scale"));
    b.type(&view, "3:1", Qt::Key_Return); // there is none
    CHECK(view.findChild<QLineEdit*>("dimension")->isVisible());
    QTest::keyClick(view.findChild<QLineEdit*>("dimension"), Qt::Key_Escape);
    REQUIRE(view.edit_drawing_field("projection"));
    b.type(&view, "third angle", Qt::Key_Return);
    wait_for_sheet(b);
    CHECK(b.session.job().drawing.third_angle);
    // true threads take more lines
    const std::size_t usual = view.sheet()->paper.strokes.size();
    b.session.change([](const Job& j) { return drawing::with_drawing(j, 0, "form", "true"); });
    wait_for_sheet(b);
    CHECK(view.sheet()->paper.strokes.size() > usual + 20);
}

TEST_CASE("drawings are written from the window") {
    Bench b;
    b.designate("M12x1.75-6g x 40");
    QTemporaryDir folder;
    const auto writes = [&](const auto& what, const QString& path) {
        QSignalSpy spy(&b.window, &MainWindow::exported);
        what(path);
        REQUIRE(QTest::qWaitFor([&] { return spy.count() == 1; }, 60000));
        return spy.at(0).at(0).toBool();
    };
    for (const char* name : {"a.pdf", "a.svg", "a.dxf", "a.png"}) {
        const QString path = folder.filePath(name);
        CHECK(writes([&](const QString& p) { b.window.export_drawing(p); }, path));
        CHECK(QFile(path).size() > 2000);
    }
    CHECK(writes([&](const QString& p) { b.window.export_all_drawings(p); }, folder.filePath("all.pdf")));
    CHECK(QFile(folder.filePath("all.pdf")).size() > 4000);
    CHECK_FALSE(b.window.writing());
    CHECK_FALSE(writes([&](const QString& p) { b.window.export_drawing(p); }, "/nowhere/at/all.pdf"));
    CHECK(b.window.checks()->sentence().contains("nowhere"));
}
