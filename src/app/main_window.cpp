#include "app/main_window.hpp"

#include "app/actions.hpp"
#include "app/catalogue_view.hpp"
#include "app/checks_line.hpp"
#include "app/comparison.hpp"
#include "app/designation_line.hpp"
#include "app/developed_view.hpp"
#include "app/drawing_view.hpp"
#include "app/hand_on_view.hpp"
#include "app/section_view.hpp"
#include "app/shelf.hpp"
#include "app/solid_view.hpp"
#include "app/spec_sheet.hpp"
#include "app/theme.hpp"
#include "app/together_view.hpp"
#include "app/zone_strip.hpp"
#include "check/check.hpp"
#include "exchange/write_piece.hpp"
#include "form/tooth/measure.hpp"
#include "model/forms/cam_rows.hpp"
#include "model/forms/forms.hpp"
#include "model/forms/lobe.hpp"
#include "model/forms/silhouette.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"

#include <QApplication>
#include <QClipboard>
#include <QCloseEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QScreen>
#include <QShortcut>
#include <QSplitter>
#include <QStackedWidget>
#include <QTextEdit>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>

namespace whorl::app {

MainWindow::MainWindow(Session& session)
    : session_(session), designation_(new DesignationLine(session)), shelf_(new Shelf(session)),
      solid_(new SolidView(session)), section_(new SectionView(session)),
      developed_(new DevelopedView(session)), strip_(new ZoneStrip(session)), sheet_(new SpecSheet(session)),
      catalogue_(new CatalogueView(session)), drawing_(new DrawingView(session)),
      together_(new TogetherView(session)), hand_on_(new HandOnView(session)), middle_(new QStackedWidget),
      checks_(new ChecksLine(session)), notice_(new QWidget) {
    setObjectName("main");
    comparison_ = new Comparison(session_, this);
    auto* column = lay_out();
    make_menus();
    qApp->installEventFilter(this);
    connect_parts();
    update_actions();
    show_views();
    offer_recovery();
    say_library_problems(column);
}

// The views with what is above and below them; gives the column of it all.
QVBoxLayout* MainWindow::lay_out() {
    section_->setAccessibleName("Section");
    developed_->setAccessibleName("Developed");
    section_->setMinimumSize(220, 150);
    developed_->setMinimumSize(200, 150);

    auto* views = new QSplitter(Qt::Vertical);
    auto* flat = new QSplitter(Qt::Horizontal);
    flat->addWidget(section_);
    flat->addWidget(developed_);
    flat->setSizes({460, 400});
    views->addWidget(solid_);
    views->addWidget(flat);
    views->addWidget(strip_);
    views->setSizes({330, 270, 116});
    views->setStretchFactor(0, 4);
    views->setStretchFactor(1, 3);
    views->setStretchFactor(2, 0);
    views->setChildrenCollapsible(false);
    flat->setChildrenCollapsible(false);

    auto* across = new QSplitter(Qt::Horizontal);
    across->addWidget(shelf_);
    middle_->addWidget(views);
    middle_->addWidget(catalogue_);
    middle_->addWidget(drawing_);
    middle_->addWidget(together_);
    middle_->addWidget(hand_on_);
    auto* middle = new QWidget;
    auto* above = new QVBoxLayout(middle);
    above->setContentsMargins(0, 0, 0, 0);
    above->setSpacing(0);
    above->addWidget(trial_line());
    above->addWidget(middle_, 1);
    across->addWidget(middle);
    across->addWidget(sheet_);
    across->setSizes({168, 816, 296});
    across->setStretchFactor(0, 0);
    across->setStretchFactor(1, 1);
    across->setStretchFactor(2, 0);
    across->setChildrenCollapsible(true);
    for (auto* s : {views, flat, across})
        s->setHandleWidth(1);

    auto* notice_line = new QHBoxLayout(notice_);
    notice_line->setContentsMargins(16, 4, 12, 4);
    notice_->hide();

    auto* all = new QWidget;
    auto* column = new QVBoxLayout(all);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(top_line());
    auto* rule = new QFrame;
    rule->setFrameShape(QFrame::NoFrame);
    rule->setFixedHeight(1);
    rule->setObjectName("rule");
    column->addWidget(notice_);
    column->addWidget(rule);
    column->addWidget(across, 1);
    column->addWidget(checks_);
    setCentralWidget(all);
    setMinimumSize(820, 560);
    resize(1280, 800);

    setMenuWidget(nullptr);
    menuBar()->hide(); // the visible bar lives in the top line
    return column;
}

// Menu, designation, unit, undo.
QWidget* MainWindow::top_line() {
    auto* top = new QWidget;
    auto* line = new QHBoxLayout(top);
    line->setContentsMargins(6, 6, 10, 6);
    line->setSpacing(4);
    auto* bar = new QMenuBar(top);
    bar->setObjectName("bar");
    bar->setNativeMenuBar(false);
    bar->setSizePolicy(QSizePolicy::Minimum, QSizePolicy::Preferred);
    line->addWidget(bar);
    line->addSpacing(12);
    designation_->setMinimumWidth(260);
    designation_->setMaximumWidth(720);
    line->addWidget(designation_, 1);
    line->addStretch(0);
    line->addSpacing(12);
    const auto button = [&](const QString& text, const QString& tip) {
        auto* b = new QToolButton;
        b->setText(text);
        b->setToolTip(tip);
        b->setFocusPolicy(Qt::NoFocus);
        line->addWidget(b);
        return b;
    };
    together_button_ = button("Together", "All pieces as their pairs place them (F11 switches)");
    together_button_->setCheckable(true);
    drawing_button_ = button("Drawing", "The piece on its drawing sheet (F10 switches)");
    drawing_button_->setCheckable(true);
    line->addSpacing(10);
    mm_ = button("mm", "Read and type in millimetres (Ctrl+U switches)");
    inch_ = button("in", "Read and type in inches (Ctrl+U switches)");
    mm_->setCheckable(true);
    inch_->setCheckable(true);
    line->addSpacing(10);
    undo_button_ = button("Undo", "Undo (Ctrl+Z)");
    redo_button_ = button("Redo", "Redo (Ctrl+Shift+Z)");
    return top;
}

void MainWindow::connect_parts() {
    section_->set_comparison(comparison_);
    developed_->set_comparison(comparison_);
    connect(comparison_, &Comparison::updated, this, [this] {
        section_->update();
        developed_->update();
        update_actions();
    });
    connect(comparison_, &Comparison::finished, this, [this](const QString& why) {
        checks_->say(
            why.isEmpty() ? "Laid over: " + comparison_->name() + ". The same key takes it away again." : why,
            !why.isEmpty());
        update_actions();
    });
    connect(mm_, &QToolButton::clicked, this, [this] {
        session_.set_unit(LengthUnit::millimetre);
        update_actions();
    });
    connect(inch_, &QToolButton::clicked, this, [this] {
        session_.set_unit(LengthUnit::inch);
        update_actions();
    });
    connect(drawing_, &DrawingView::touched, this, &MainWindow::update_actions);
    connect(drawing_button_, &QToolButton::clicked, this, [this](bool on) { show_drawing(on); });
    connect(together_button_, &QToolButton::clicked, this, [this](bool on) { show_together(on); });
    connect(together_, &TogetherView::cut_changed, this, &MainWindow::update_actions);
    connect(hand_on_, &HandOnView::left, this, [this] { show_hand_on(false); });
    connect(together_, &TogetherView::gone_in, this, [this] { show_together(false); });
    connect(&session_, &Session::changed, this, &MainWindow::pair_with_selected, Qt::QueuedConnection);
    connect(undo_button_, &QToolButton::clicked, this, [this] { session_.undo(); });
    connect(redo_button_, &QToolButton::clicked, this, [this] { session_.redo(); });
    connect(shelf_, &Shelf::new_piece_asked, this, &MainWindow::ask_for_new_piece);
    connect(catalogue_, &CatalogueView::picked, this, [this](const CatalogueLine& picked) {
        catalogue_asked_ = false;
        designation_->fill(picked);
        show_views();
    });
    connect(catalogue_, &CatalogueView::closed, designation_, &DesignationLine::leave_it);
    connect(designation_, &DesignationLine::new_piece_left, this, [this] {
        catalogue_asked_ = false;
        show_views();
    });
    connect(&session_, &Session::changed, this, &MainWindow::show_views);
    connect(&session_, &Session::changed, this, &MainWindow::update_actions);
    connect(&session_, &Session::saved_changed, this, &MainWindow::update_actions);
    connect(&session_, &Session::rolled, this, [this, ran = false]() mutable { // at every frame while it runs
        if (std::exchange(ran, session_.running()) != session_.running()) update_actions();
        section_->update();
        developed_->update();
        solid_->update();
    });
    connect(solid_, &SolidView::cut_changed, this, &MainWindow::update_actions);
    connect(solid_, &SolidView::together_changed, this, &MainWindow::update_actions);
}

// Sections of the personal library that can't be read, each with its reason, until that is taken note of.
void MainWindow::say_library_problems(QVBoxLayout* column) {
    const std::vector<std::string>& problems = session_.library_problems();
    if (problems.empty()) return;
    QString all;
    for (const std::string& p : problems)
        all += (all.isEmpty() ? "" : "\n") + QString::fromStdString(p);
    auto* notice = new QWidget;
    notice->setObjectName("library_notice");
    auto* line = new QHBoxLayout(notice);
    line->setContentsMargins(16, 4, 12, 4);
    auto* text = new QLabel(
        (problems.size() == 1
             ? QString("A section of your library can't be read: ")
             : QString("%1 sections of your library can't be read, the first: ").arg(problems.size())) +
        QString::fromStdString(problems.front()));
    text->setWordWrap(true);
    text->setToolTip(all);
    auto* noted = new QPushButton("Noted");
    noted->setToolTip(
        "The files stay as they are; a section drawn anew takes the place of one when it is kept");
    connect(noted, &QPushButton::clicked, notice, &QWidget::hide);
    line->addWidget(text, 1);
    line->addWidget(noted);
    column->insertWidget(column->indexOf(notice_) + 1, notice);
}

// No larger than the screen has room for beside the frame, once that is known.
void MainWindow::showEvent(QShowEvent* e) {
    QMainWindow::showEvent(e);
    if (std::exchange(fitted_, true)) return;
    for (const int wait : {0, 300}) // ms; a window manager puts the frame around a little later
        QTimer::singleShot(wait, this, [this] {
            if (isMaximized() || isFullScreen()) return;
            const QRect room = screen()->availableGeometry(), frame = frameGeometry();
            const QSize borders = frame.size() - size(),
                        fits = (room.size() - borders).expandedTo(minimumSize());
            if (width() > fits.width() || height() > fits.height()) resize(size().boundedTo(fits));
            if (frame.top() < room.top() || frame.left() < room.left()) move(room.topLeft());
        });
}

void MainWindow::wear(const OwnSection& section, const QString& done) {
    const std::size_t p = session_.piece(), z = session_.zone();
    const auto* zone = session_.resolved_zone();
    QString why;
    if (zone && zone->thread()) {
        why = session_.change([&](const Job& j) { return set_own_section(j, p, z, section); });
    } else { // no thread to put it on: a bar of its own
        why = session_.change([&](const Job& j) {
            return add_piece(j, piece_of("section " + section.name + " 20x4 x 40", std::span(&section, 1)));
        });
        if (why.isEmpty()) session_.select(session_.job().pieces.size() - 1, 0);
    }
    checks_->say(why.isEmpty() ? done : why, !why.isEmpty());
}

void MainWindow::compare_with(const QString& path) {
    checks_->say_working("Reading " + path + "…");
    comparison_->load(path);
}

void MainWindow::make_menus() {
    auto* bar = findChild<QMenuBar*>("bar");
    for (const MenuOfActions& m : menus()) {
        QMenu* menu = bar->addMenu(m.title);
        menu->setToolTipsVisible(true);
        for (const Action& action : m.actions) {
            if (action.begins_group) menu->addSeparator();
            QAction* made = nullptr;
            if (action.fill) {
                QMenu* own = menu->addMenu(action.text);
                connect(own, &QMenu::aboutToShow, this, [this, own, &action] {
                    own->clear();
                    action.fill(*own, *this);
                });
                made = own->menuAction();
            } else {
                made = menu->addAction(action.text);
                made->setShortcut(action.keys);
                made->setShortcutContext(Qt::WindowShortcut);
                made->setCheckable(action.on != nullptr);
                addAction(made); // works whether or not the menu was opened
                connect(made, &QAction::triggered, this, [this, &action] {
                    action.does(*this);
                    if (action.on) update_actions(); // the switch turned by itself
                });
            }
            actions_.emplace_back(made, &action);
        }
    }
}

void MainWindow::make_counterpart(const std::function<Job(const Job&, std::size_t, std::size_t)>& how) {
    const std::size_t p = session_.piece(), z = session_.zone();
    if (!session_.has_piece()) return;
    const QString why = session_.change([&](const Job& j) { return how(j, p, z); });
    if (!why.isEmpty()) return checks_->say(why, true);
    session_.select_pair(session_.job().pairs.size() - 1, session_.job().pairs.back().second);
    checks_->say("Made " + QString::fromStdString(session_.job().pieces[session_.piece()].name) +
                     "; it follows. Ctrl+J goes back and forth.",
                 false);
}

// A list in a window of its own, open until it is closed; the same key or Esc does.
void MainWindow::show_keys() {
    if (!keys_) {
        keys_ = new QTextEdit(listed_keys(), this);
        keys_->setWindowFlag(Qt::Tool);
        keys_->setWindowTitle("Keys");
        keys_->setReadOnly(true);
        keys_->setFont(text_font(12));
        keys_->resize(520, 620);
        connect(new QShortcut(Qt::Key_Escape, keys_, nullptr, nullptr, Qt::WidgetShortcut),
                &QShortcut::activated, keys_, &QWidget::hide);
        keys_->move(mapToGlobal(QPoint(width() - keys_->width() - 24, 64)));
    }
    keys_->setVisible(!keys_->isVisible());
}

QWidget* MainWindow::trial_line() {
    trial_ = new QWidget;
    trial_->setObjectName("trial");
    auto* line = new QHBoxLayout(trial_);
    line->setContentsMargins(16, 4, 12, 4);
    line->addWidget(new QLabel("On trial. Tab goes through the words to change."));
    line->addStretch(1);
    const auto button = [&](const char* text, const char* tip, auto slot) {
        auto* b = new QPushButton(text);
        b->setToolTip(tip);
        b->setFocusPolicy(Qt::NoFocus);
        connect(b, &QPushButton::clicked, this, slot);
        line->addWidget(b);
        return b;
    };
    button("Make it", "Into the job (Enter)", [this] { designation_->make_it(); })->setObjectName("make_it");
    button("Back to the catalogue", "Another one (Ctrl+Shift+N)", [this] {
        catalogue_asked_ = true;
        session_.drop_trial();
        show_views();
    })->setObjectName("back_to_catalogue");
    button("Leave it", "Everything stays as it was (Esc)", [this] {
        designation_->leave_it();
    })->setObjectName("leave_it");
    trial_->hide();
    return trial_;
}

void MainWindow::ask_for_new_piece() {
    session_.drop_trial();
    catalogue_asked_ = true;
    catalogue_->open();
    designation_->ask_for_new_piece();
    show_views();
}

void MainWindow::ask_for_spring() {
    session_.drop_trial();
    designation_->ask_for_spring();
    show_views();
}

void MainWindow::show_views() {
    trial_->setVisible(session_.trying());
    if (session_.trying()) catalogue_asked_ = false;
    const bool catalogue = !session_.trying() && (catalogue_asked_ || !session_.has_piece());
    middle_->setCurrentIndex(catalogue                   ? 1
                             : asked_ == Asked::drawing  ? 2
                             : asked_ == Asked::together ? 3
                             : asked_ == Asked::hand_on  ? 4
                                                         : 0);
}

void MainWindow::update_actions() {
    undo_button_->setEnabled(session_.can_undo());
    redo_button_->setEnabled(session_.can_redo());
    for (const auto& [made, action] : actions_) {
        const QString why_not = action->why_not ? action->why_not(*this) : QString();
        made->setEnabled(why_not.isEmpty());
        made->setToolTip(why_not);
        if (action->on) made->setChecked(action->on(*this));
        if (action->text_now) made->setText(action->text_now(*this));
    }
    drawing_button_->setChecked(asked_ == Asked::drawing);
    together_button_->setChecked(asked_ == Asked::together);
    mm_->setChecked(session_.unit() == LengthUnit::millimetre);
    inch_->setChecked(session_.unit() == LengthUnit::inch);
    const QString name =
        session_.path().isEmpty() ? QString("Untitled") : QFileInfo(session_.path()).completeBaseName();
    setWindowTitle(name + (session_.unsaved() ? " (not saved)" : "") + ": Regular Whorl");
}

bool MainWindow::open(const QString& path) {
    try {
        session_.open(path);
    } catch (const std::exception& e) {
        checks_->say(QString::fromStdString(e.what()), true);
        return false;
    }
    QStringList files = settings_.value("recent").toStringList();
    const QString absolute = QFileInfo(path).absoluteFilePath();
    files.removeAll(absolute);
    files.prepend(absolute);
    while (files.size() > 8)
        files.removeLast();
    settings_.setValue("recent", files);
    update_actions();
    return true;
}

bool MainWindow::save_to(const QString& path) {
    try {
        session_.save(path);
        checks_->say("Saved as " + path + ".", false);
        return true;
    } catch (const std::exception& e) {
        checks_->say(QString::fromStdString(e.what()), true);
        return false;
    }
}

void MainWindow::ask_open() {
    if (!may_leave()) return;
    const QString path =
        QFileDialog::getOpenFileName(this, "Open a job", {}, "Jobs (*.whorl);;All files (*)");
    if (!path.isEmpty()) open(path);
}

bool MainWindow::ask_save() {
    QString path = QFileDialog::getSaveFileName(
        this, "Save the job", session_.path().isEmpty() ? "job.whorl" : session_.path(), "Jobs (*.whorl)");
    if (path.isEmpty()) return false;
    if (!path.endsWith(".whorl")) path += ".whorl";
    return save_to(path);
}

void MainWindow::ask_export() {
    if (!session_.has_piece()) return;
    const QString stem = QString::fromStdString(file_stem(session_.job().pieces[session_.piece()].name));
    const QString path = QFileDialog::getSaveFileName(
        this, "Export " + QString::fromStdString(session_.job().pieces[session_.piece()].name),
        stem + ".step",
        "STEP solid (*.step);;STL mesh (*.stl);;SVG of the section or outline (*.svg);;DXF of a gear's "
        "outline (*.dxf);;CSV of a cam's points or a spring's load curve (*.csv)");
    if (!path.isEmpty()) export_piece(path);
}

void MainWindow::export_piece(const QString& path) {
    const Piece piece = session_.job().pieces.at(session_.piece());
    const QString name = QString::fromStdString(piece.name);
    checks_->say_working("Exporting " + name + " to " + path + "…");
    exports_.start([this, piece, name, path, index = session_.piece(), zone = session_.zone(),
                    job = session_.job(), names = resolve_names(session_.job()), unit = session_.unit()] {
        QString why;
        try {
            for (const Finding& f : check_pairs(job, index))
                if (f.severity == Severity::stop) throw FileError("Nothing was exported: " + f.sentence);
            // made afresh from what the piece says now: a preview on screen may be the one before the last
            // edit
            constexpr double chord = 0.01; // mm, finer than the preview
            require_known_ending(path.toStdString());
            write_piece(make_preview(piece, index, names, unit, chord), piece, unit, path.toStdString(),
                        {.zone = zone});
        } catch (const std::exception& e) {
            why = QString::fromStdString(e.what());
        }
        QMetaObject::invokeMethod(this, [this, name, path, why] {
            const bool done = why.isEmpty();
            checks_->say(done ? "Exported " + name + " to " + path + "." : why, !done);
            emit exported(done);
        });
    });
}

// Another job takes this one's place only when its changes are saved or given up.
bool MainWindow::may_leave() {
    if (!session_.unsaved() || session_.job().pieces.empty()) return true;
    QMessageBox ask(QMessageBox::NoIcon, "Unsaved changes",
                    "This job has changes that are not saved. Save them before it is closed?",
                    QMessageBox::NoButton, this);
    const auto* save = ask.addButton("Save", QMessageBox::AcceptRole);
    const auto* give_up = ask.addButton("Give them up", QMessageBox::DestructiveRole);
    ask.addButton("Stay here", QMessageBox::RejectRole);
    ask.exec();
    if (ask.clickedButton() == save) return session_.path().isEmpty() ? ask_save() : save_to(session_.path());
    return ask.clickedButton() == give_up;
}

void MainWindow::offer_recovery() {
    if (!session_.has_recovery()) return;
    auto* line = static_cast<QHBoxLayout*>(notice_->layout());
    auto* text = new QLabel("Unsaved work from the last session was kept.");
    auto* bring = new QPushButton("Bring it back");
    auto* drop = new QPushButton("Give it up");
    for (QWidget* w :
         {static_cast<QWidget*>(text), static_cast<QWidget*>(bring), static_cast<QWidget*>(drop)})
        line->addWidget(w);
    line->addStretch(1);
    connect(bring, &QPushButton::clicked, this, [this] {
        try {
            session_.recover();
        } catch (const std::exception& e) {
            checks_->say(QString::fromStdString(e.what()), true);
        }
        notice_->hide();
    });
    connect(drop, &QPushButton::clicked, this, [this] {
        session_.discard_recovery();
        notice_->hide();
    });
    notice_->show();
}

void MainWindow::set_dark(bool dark) {
    set_theme(dark);
    update_actions();
    settings_.setValue("dark", dark);
    for (auto* w : findChildren<QWidget*>())
        w->update();
    update();
}

// A line editor would take many keys for itself, as a line in a terminal does. An action's key is the
// action's wherever the focus is, unless text is being edited and the key is one of everybody's for editing.
bool MainWindow::eventFilter(QObject* o, QEvent* e) {
    const auto* line = e->type() == QEvent::ShortcutOverride ? qobject_cast<QLineEdit*>(o) : nullptr;
    if (!line || line->window() != this) return QMainWindow::eventFilter(o, e);
    const QKeySequence key(static_cast<QKeyEvent*>(e)->keyCombination());
    const bool edits = key == QKeySequence::Undo || key == QKeySequence("Ctrl+Shift+Z");
    if (edits && (line->isModified() || line != designation_)) return QMainWindow::eventFilter(o, e);
    for (const QAction* action : findChildren<QAction*>())
        if (action->shortcut() == key && !key.isEmpty()) {
            e->ignore();
            return true;
        }
    return QMainWindow::eventFilter(o, e);
}

void MainWindow::closeEvent(QCloseEvent* e) {
    // nothing is asked and no file is changed: unsaved work waits in the recovery file for the next start
    session_.keep_for_recovery();
    e->accept();
}

void MainWindow::resizeEvent(QResizeEvent* e) {
    QMainWindow::resizeEvent(e);
    // a narrow window keeps the views: the shelf goes first
    shelf_->setVisible(width() >= 960);
}

} // namespace whorl::app
