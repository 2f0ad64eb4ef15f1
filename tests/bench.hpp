// The real window as a user starts it, with what tests do to it most.
#pragma once

#include "app/checks_line.hpp"
#include "app/designation_line.hpp"
#include "app/developed_view.hpp"
#include "app/main_window.hpp"
#include "app/section_view.hpp"
#include "app/shelf.hpp"
#include "app/solid_view.hpp"
#include "app/spec_sheet.hpp"
#include "app/zone_strip.hpp"

#include <QApplication>
#include <QtTest/QtTest>
#include <catch2/catch.hpp>

namespace whorl::app {

// A fresh session in a window, as a user starts it.
struct Bench {
    Session session;
    MainWindow window{session};
    Bench() {
        window.show();
        REQUIRE(QTest::qWaitForWindowExposed(&window));
        window.activateWindow();
        QTest::qWait(50);
    }
    void settle() {
        REQUIRE(QTest::qWaitFor([&] { return !session.building(); }, 90000));
        QCoreApplication::processEvents();
    }
    bool exports(const QString& path) {
        QSignalSpy spy(&window, &MainWindow::exported);
        window.export_piece(path);
        REQUIRE(QTest::qWaitFor([&] { return spy.count() == 1; }, 90000));
        return spy.at(0).at(0).toBool();
    }
    void designate(const QString& text) {
        QTest::keyClick(&window, Qt::Key_L, Qt::ControlModifier);
        window.designation()->setFocus();
        window.designation()->selectAll();
        QTest::keyClicks(window.designation(), text);
        QTest::keyClick(window.designation(), Qt::Key_Return);
        settle();
    }
    const Canvas::Spot* spot(Canvas* canvas, const QString& key) {
        canvas->repaint();
        for (const auto& s : canvas->spots())
            if (s.key == key && (s.field || s.commit)) return &s;
        return nullptr;
    }
    // Click on a dimension's text, type over it, press a key.
    void type_at(Canvas* canvas, const QString& key, const QString& text, Qt::Key end = Qt::Key_Return) {
        const auto* s = spot(canvas, key);
        INFO(key.toStdString());
        REQUIRE(s);
        QTest::mouseClick(canvas, Qt::LeftButton, {}, s->rect.center().toPoint());
        type(canvas, text, end);
    }
    // The same on a row of the sheet.
    void type_at(SpecSheet* sheet, const QString& key, const QString& text, Qt::Key end = Qt::Key_Return) {
        const QModelIndex row = sheet->row_of(key);
        INFO(key.toStdString());
        REQUIRE(row.isValid());
        sheet->scrollTo(row);
        QTest::mouseClick(sheet->viewport(), Qt::LeftButton, {}, sheet->visualRect(row).center());
        type(sheet, text, end);
    }
    void type(QWidget* view, const QString& text, Qt::Key end) {
        auto* editor = view->findChild<QLineEdit*>("dimension");
        REQUIRE(editor->isVisible());
        editor->selectAll();
        QTest::keyClick(editor, Qt::Key_Delete);
        QTest::keyClicks(editor, text);
        QTest::keyClick(editor, end);
        settle();
    }
    // What is dragged in a drawing, by its key.
    static const Canvas::Knob* knob(Canvas& view, const QString& key) {
        view.grab();
        for (const auto& k : view.knobs())
            if (k.key == key) return &k;
        return nullptr;
    }
    void drag(Canvas& view, const QString& key, QPoint by) {
        INFO(key.toStdString());
        const auto* k = knob(view, key);
        REQUIRE(k);
        const QPoint from = k->at.toPoint();
        QTest::mousePress(&view, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 4; ++i)
            QTest::mouseMove(&view, from + by * i / 4);
        QTest::mouseRelease(&view, Qt::LeftButton, {}, from + by);
        settle();
    }
    const ThreadSection& section() { return session.resolved_zone()->thread()->section; }
};

} // namespace whorl::app
