// What is done to drawings: shown, said, written, printed.
#include "app/drawing_actions.hpp"

#include "app/action_kit.hpp"
#include "app/drawing_view.hpp"
#include "app/paper_painter.hpp"
#include "build/build.hpp"
#include "drawing/job_drawings.hpp"
#include "drawing/write_sheet.hpp"
#include "exchange/export.hpp"
#include "model/file.hpp"
#include "model/title_defaults.hpp"

#include <QFileDialog>
#include <QPageLayout>
#include <QPrintDialog>
#include <QPrinter>

namespace whorl::app {

namespace {

QString needs_drawing(const Window& w) {
    return unless(piece_of(w) && w.drawing_shown(), "Show the drawing first (F10).");
}

std::string field_now(const Window& w, const char* key) {
    if (!piece_of(w)) return {};
    return drawing::drawing_field(key)->get(w.session().job(), w.session().piece());
}

void put(Window& w, const char* key, const char* text) {
    const std::size_t piece = w.session().piece();
    change(w, [&](const Job& j) { return drawing::with_drawing(j, piece, key, text); });
}

} // namespace

std::vector<Action> drawing_actions() {
    return {
        {.text = "Drawing of the piece",
         .keys = QKeySequence("F10"),
         .does = [](Window& w) { w.show_drawing(!w.drawing_shown()); },
         .why_not = needs_piece,
         .on = [](const Window& w) { return w.drawing_shown(); }},
        {.text = "Add a note",
         .keys = QKeySequence("Ctrl+Alt+N"),
         .does = [](Window& w) { w.drawing()->add_note(); },
         .why_not = needs_drawing,
         .begins_group = true},
        {.text = "Take off what was touched last",
         .does = [](Window& w) { w.drawing()->take_off(); },
         .why_not =
             [](const Window& w) {
                 return unless(w.drawing_shown() && w.drawing()->can_take_off(),
                               "Touch a dimension or note first.");
             }},
        {.text = "Limits or fit of what was touched last…",
         .keys = QKeySequence("Ctrl+Alt+T"),
         .does = [](Window& w) { w.drawing()->edit_limits(); },
         .why_not =
             [](const Window& w) {
                 return unless(w.drawing_shown() && w.drawing()->has_dimension(), "Touch a dimension first.");
             }},
        {.text = "Bring all back to its place",
         .does = [](Window& w) { w.drawing()->all_back(); },
         .why_not =
             [](const Window& w) {
                 const Piece* p = piece_of(w);
                 return unless(p && drawing::anything_moved(p->drawing), "Nothing was moved or taken off.");
             }},
        {.text = "Third-angle projection",
         .does =
             [](Window& w) {
                 put(w, "projection",
                     field_now(w, "projection") == "third angle" ? "first angle" : "third angle");
             },
         .why_not = needs_piece,
         .on = [](const Window& w) { return field_now(w, "projection") == "third angle"; },
         .begins_group = true},
        {.text = "Threads, teeth and knurls as they are",
         .does = [](Window& w) { put(w, "form", field_now(w, "form") == "true" ? "conventional" : "true"); },
         .why_not = needs_piece,
         .on = [](const Window& w) { return field_now(w, "form") == "true"; }},
        {.text = "Keep the title block for new jobs",
         .does =
             [](Window& w) {
                 try {
                     keep_title_defaults(w.session().job().drawing);
                     w.checks()->say("New jobs begin with this title block.", false);
                 } catch (const FileError& e) {
                     w.checks()->say(QString::fromStdString(e.what()), true);
                 }
             }},
        {.text = "Write the drawing… (PDF, SVG, DXF, PNG)",
         .keys = QKeySequence("Ctrl+Shift+E"),
         .does = [](Window& w) { w.ask_export_drawing(false); },
         .why_not = needs_piece,
         .begins_group = true},
        {.text = "Write all drawings as one PDF…",
         .does = [](Window& w) { w.ask_export_drawing(true); },
         .why_not = needs_piece},
        {.text = "Stop writing",
         .does = [](Window& w) { w.stop_writing(); },
         .why_not = [](const Window& w) { return unless(w.writing(), "Nothing is being written."); }},
        {.text = "Print the drawing…",
         .keys = QKeySequence("Ctrl+Shift+P"),
         .does = [](Window& w) { w.print_drawing(); },
         .why_not = needs_drawing},
    };
}

// --- the window's part ---

bool MainWindow::drawing_shown() const {
    return asked_ == Asked::drawing && drawing_->isVisible();
}

void MainWindow::show_drawing(bool shown) {
    asked_ = shown ? Asked::drawing : Asked::views;
    show_views();
    update_actions();
    if (shown) drawing_->setFocus();
}

void MainWindow::ask_export_drawing(bool all) {
    if (!session_.has_piece()) return;
    const std::string name = all ? session_.job().name : session_.job().pieces[session_.piece()].name;
    const QString stem = QString::fromStdString(file_stem(name));
    const QString path = QFileDialog::getSaveFileName(
        this, all ? QString("All drawings") : "The drawing of " + QString::fromStdString(name), stem + ".pdf",
        all ? "PDF (*.pdf)" : "PDF (*.pdf);;SVG (*.svg);;DXF (*.dxf);;PNG picture (*.png)");
    if (!path.isEmpty()) all ? export_all_drawings(path) : export_drawing(path);
}

void MainWindow::export_drawing(const QString& path) {
    const std::size_t index = session_.piece();
    const QString name = QString::fromStdString(session_.job().pieces.at(index).name);
    checks_->say_working("Drawing " + name + " to " + path + "…");
    exports_.start([this, name, path, index, job = session_.job(), names = resolve_names(session_.job())] {
        QString why;
        try {
            const Preview preview = make_preview(job.pieces[index], index, names, job.unit);
            if (!preview.made()) throw FileError("Nothing was drawn: " + preview.findings.front().sentence);
            const auto sheet =
                drawing::draw_sheet(preview, job.pieces[index], index, drawing::settings_of(job, index));
            drawing::write_sheet(sheet.paper, path.toStdString());
        } catch (const std::exception& e) {
            why = QString::fromStdString(e.what());
        }
        QMetaObject::invokeMethod(this, [this, name, path, why] {
            checks_->say(why.isEmpty() ? "The drawing of " + name + " is in " + path + "." : why,
                         !why.isEmpty());
            emit exported(why.isEmpty());
        });
    });
}

void MainWindow::export_all_drawings(const QString& path) {
    writing_ = std::stop_source();
    writing_on_ = true;
    update_actions();
    exports_.start([this, path, job = session_.job(), stop = writing_.get_token()] {
        QString why;
        std::size_t pages = 0;
        try {
            const auto all = drawing::draw_job(job, [&](std::size_t done) {
                QMetaObject::invokeMethod(this, [this, done, of = job.pieces.size()] {
                    checks_->say_working(
                        QString("Drawing %1 of %2; the Drawing menu stops it.").arg(done + 1).arg(of));
                });
                return !stop.stop_requested();
            });
            if (stop.stop_requested()) throw FileError("Stopped; nothing was written.");
            pages = all.pages.size();
            write_file_atomically(path.toStdString(), drawing::pdf_of(all.pages));
            if (!all.said.empty()) why = QString::fromStdString(all.said.front());
        } catch (const std::exception& e) {
            why = QString::fromStdString(e.what());
        }
        QMetaObject::invokeMethod(this, [this, path, why, pages] {
            writing_on_ = false;
            const QString done = QString("%1 pages are in %2.").arg(pages).arg(path);
            checks_->say(pages == 0 ? why : why.isEmpty() ? done : done + " " + why, pages == 0);
            update_actions();
            emit exported(pages > 0);
        });
    });
}

void MainWindow::stop_writing() {
    writing_.request_stop();
}

void MainWindow::print_drawing() {
    if (!drawing_->sheet()) return;
    const drawing::Paper& paper = drawing_->sheet()->paper;
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageSize(QPageSize(QSizeF(paper.width, paper.height), QPageSize::Millimeter));
    printer.setFullPage(true);
    QPrintDialog ask(&printer, this);
    if (ask.exec() != QDialog::Accepted) return;
    QPainter p(&printer);
    const QRectF page = printer.pageRect(QPrinter::DevicePixel);
    // true to size, unless the paper is smaller
    const double k =
        std::min({printer.resolution() / 25.4, page.width() / paper.width, page.height() / paper.height});
    paint_sheet(p, paper, sheet_to_page(paper, {0, 0}, k), 0, {}, Qt::black);
}

} // namespace whorl::app
