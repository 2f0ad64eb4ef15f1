#include "app/main_window.hpp"

#include "app/catalogue_view.hpp"
#include "app/checks_line.hpp"
#include "app/comparison.hpp"
#include "app/designation_line.hpp"
#include "app/developed_view.hpp"
#include "app/section_view.hpp"
#include "app/shelf.hpp"
#include "app/solid_view.hpp"
#include "app/spec_sheet.hpp"
#include "app/theme.hpp"
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
#include <QSplitter>
#include <QStackedWidget>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>

namespace whorl::app {

MainWindow::MainWindow(Session& session)
    : session_(session), designation_(new DesignationLine(session)), shelf_(new Shelf(session)),
      solid_(new SolidView(session)), section_(new SectionView(session)),
      developed_(new DevelopedView(session)), strip_(new ZoneStrip(session)), sheet_(new SpecSheet(session)),
      catalogue_(new CatalogueView(session)), middle_(new QStackedWidget), checks_(new ChecksLine(session)),
      notice_(new QWidget) {
    setObjectName("main");
    comparison_ = new Comparison(session_, this);
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

    // the top line: menu, designation, unit, undo
    auto* top = new QWidget;
    auto* line = new QHBoxLayout(top);
    line->setContentsMargins(6, 6, 10, 6);
    line->setSpacing(4);
    auto* bar = new QMenuBar(top);
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
    mm_ = button("mm", "Read and type in millimetres (Ctrl+U switches)");
    inch_ = button("in", "Read and type in inches (Ctrl+U switches)");
    mm_->setCheckable(true);
    inch_->setCheckable(true);
    line->addSpacing(10);
    undo_button_ = button("Undo", "Undo (Ctrl+Z)");
    redo_button_ = button("Redo", "Redo (Ctrl+Shift+Z)");

    auto* notice_line = new QHBoxLayout(notice_);
    notice_line->setContentsMargins(16, 4, 12, 4);
    notice_->hide();

    auto* all = new QWidget;
    auto* column = new QVBoxLayout(all);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(top);
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
    menuBar()->hide();
    // the visible bar lives in the top line
    bar->setObjectName("bar");
    make_menus();
    qApp->installEventFilter(this);

    connect(mm_, &QToolButton::clicked, this, [this] {
        session_.set_unit(LengthUnit::millimetre);
        update_actions();
    });
    connect(inch_, &QToolButton::clicked, this, [this] {
        session_.set_unit(LengthUnit::inch);
        update_actions();
    });
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
    connect(&session_, &Session::rolled, this, [this] {
        run_->setChecked(session_.running());
        section_->update();
        developed_->update();
        solid_->update();
    });
    connect(solid_, &SolidView::cut_changed, this, [this] { cut_->setChecked(solid_->cut()); });
    connect(solid_, &SolidView::together_changed, this,
            [this] { together_->setChecked(solid_->together()); });
    update_actions();
    show_views();
    update_recent();
    offer_recovery();
    say_library_problems(column);
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

void MainWindow::only_where(QAction* action, bool (*means_something)(const Piece&, const Zone&)) {
    guarded_.emplace_back(action, means_something);
}

QAction* MainWindow::add(QMenu* menu, const QString& text, const QKeySequence& keys,
                         const std::function<void()>& slot) {
    auto* a = menu->addAction(text);
    a->setShortcut(keys);
    a->setShortcutContext(Qt::WindowShortcut);
    addAction(a); // works whether or not the menu was opened
    connect(a, &QAction::triggered, this, slot);
    return a;
}

void MainWindow::make_menus() {
    auto* bar = findChild<QMenuBar*>("bar");
    fill_job_menu(bar->addMenu("&Job"));
    fill_edit_menu(bar->addMenu("&Edit"));
    fill_piece_menu(bar->addMenu("&Piece"));
    fill_view_menu(bar->addMenu("&View"));
    fill_help_menu(bar->addMenu("&Help"));
}

void MainWindow::fill_job_menu(QMenu* job) {
    add(job, "New job", QKeySequence::New, [this] {
        if (may_leave()) session_.new_job();
    });
    add(job, "Open…", QKeySequence::Open, [this] { ask_open(); });
    recent_ = job->addMenu("Open recent");
    job->addSeparator();
    save_ = add(job, "Save", QKeySequence::Save,
                [this] { session_.path().isEmpty() ? ask_save() : save_to(session_.path()); });
    add(job, "Save as…", QKeySequence("Ctrl+Shift+S"), [this] { ask_save(); });
    job->addSeparator();
    export_ =
        add(job, "Export piece… (STEP, STL, SVG, DXF)", QKeySequence("Ctrl+E"), [this] { ask_export(); });
    job->addSeparator();
    add(job, "Quit", QKeySequence::Quit, [this] { close(); });
}

void MainWindow::fill_edit_menu(QMenu* edit) {
    undo_ = add(edit, "Undo", QKeySequence::Undo, [this] { session_.undo(); });
    redo_ = add(edit, "Redo", QKeySequence("Ctrl+Shift+Z"), [this] { session_.redo(); });
    edit->addSeparator();
    add(edit, "Designation line", QKeySequence("Ctrl+L"),
        [this] { designation_->setFocus(Qt::ShortcutFocusReason); });
    add(edit, "Edit the pitch in the section", QKeySequence("Ctrl+P"),
        [this] { section_->edit_field(field::pitch); });
    add(edit, "Edit the spec sheet", QKeySequence("Ctrl+D"), [this] { sheet_->edit_field(field::diameter); });
    flip_ = add(edit, "Flip the hand", QKeySequence("Ctrl+H"), [this] {
        const auto* z = session_.resolved_zone();
        if (!z || !row_of(session_.job().pieces[session_.piece()].zones[session_.zone()], field::hand))
            return;
        const QString now = session_.text_of(field::hand);
        session_.edit(field::hand, now == "left" ? "right" : "left");
    });
    remedy_ = add(edit, "Make the remedy", QKeySequence("Ctrl+R"), [this] {
        if (!session_.findings().empty() && session_.findings().front().remedy)
            session_.apply_remedy(*session_.findings().front().remedy);
    });
    add(edit, "Switch millimetre and inch", QKeySequence("Ctrl+U"), [this] {
        session_.set_unit(session_.unit() == LengthUnit::inch ? LengthUnit::millimetre : LengthUnit::inch);
    });
}

void MainWindow::fill_piece_menu(QMenu* piece) {
    add(piece, "New piece", QKeySequence("Ctrl+Shift+N"), [this] { ask_for_new_piece(); });
    add(piece, "Next piece", QKeySequence("Ctrl+PgDown"), [this] {
        if (session_.piece() + 1 < session_.job().pieces.size())
            session_.select(session_.piece() + 1, session_.telling_zone(session_.piece() + 1));
    });
    add(piece, "Previous piece", QKeySequence("Ctrl+PgUp"), [this] {
        if (session_.piece() > 0)
            session_.select(session_.piece() - 1, session_.telling_zone(session_.piece() - 1));
    });
    remove_piece_ = add(piece, "Remove piece", QKeySequence("Ctrl+Shift+Delete"), [this] {
        const std::size_t p = session_.piece();
        session_.change([p](const Job& j) { return remove_piece(j, p); });
    });
    piece->addSeparator();
    // a spring or a rack is the whole piece: it takes no other zones and no bores
    const auto not_alone = [](const Piece&, const Zone& z) { return !stands_alone(z); };
    only_where(
        add(piece, "Add a zone at the far end", QKeySequence(Qt::Key_Insert), [this] { strip_->add_zone(); }),
        not_alone);
    only_where(add(piece, "Split the zone in two", QKeySequence("Ctrl+T"),
                   [this] {
                       const std::size_t p = session_.piece(), z = session_.zone();
                       if (session_.has_piece())
                           session_.change([=](const Job& j) { return split_zone(j, p, z); });
                   }),
               not_alone);
    only_where(add(piece, "Bore from the near end", QKeySequence("Ctrl+B"),
                   [this] { strip_->add_bore(Where::near_bore); }),
               not_alone);
    only_where(add(piece, "Bore from the far end", QKeySequence("Ctrl+Shift+B"),
                   [this] { strip_->add_bore(Where::far_bore); }),
               not_alone);
    only_where(add(piece, "Hole for a screw at the near end…", QKeySequence("Ctrl+Alt+B"),
                   [this] { designation_->ask_for_hole(false); }),
               not_alone);
    only_where(add(piece, "Hole for a screw at the far end…", QKeySequence("Ctrl+Alt+Shift+B"),
                   [this] { designation_->ask_for_hole(true); }),
               not_alone);
    counterpart_ = add(piece, "Make the counterpart", QKeySequence("Ctrl+K"),
                       [this] { make_counterpart(add_counterpart); });
    ring_ = add(piece, "Make a ring around the gear", QKeySequence("Ctrl+Alt+I"), [this] {
        make_counterpart(
            [](const Job& j, std::size_t p, std::size_t z) { return add_mate(j, p, z, Mate::ring); });
    });
    rack_ = add(piece, "Make a rack for the gear", QKeySequence("Ctrl+Alt+R"), [this] {
        make_counterpart(
            [](const Job& j, std::size_t p, std::size_t z) { return add_mate(j, p, z, Mate::rack); });
    });
    to_counterpart_ = add(piece, "Go to the counterpart", QKeySequence("Ctrl+J"), [this] {
        if (const auto& fit = session_.fit()) return session_.select(fit->there.piece, fit->there.zone);
        if (const auto& mesh = session_.mesh()) return session_.select_pair(mesh->pair, mesh->there);
        if (const auto& other = session_.other_of_pair()) session_.select(other->piece, other->zone);
    });
    QAction* hollow = add(piece, "Hollow the silhouette", QKeySequence("Ctrl+Alt+H"), [this] {
        const std::size_t p = session_.piece();
        if (!session_.has_piece()) return;
        const QString why = session_.change([=](const Job& j) { return with_hollow(j, p); });
        if (!why.isEmpty()) return checks_->say(why, true);
        const auto& zones = session_.job().pieces[p].zones;
        for (std::size_t z = 0; z < zones.size(); ++z)
            if (const auto* s = zones[z].as<SilhouetteForm>(); s && !s->wall.text.empty())
                session_.select(p, z);
    });
    only_where(hollow, [](const Piece& p, const Zone&) {
        const auto of = [&](bool hollowed) {
            return std::ranges::any_of(p.zones, [&](const Zone& z) {
                const auto* s = z.as<SilhouetteForm>();
                return s && s->wall.text.empty() != hollowed && (hollowed || !z.in_bore());
            });
        };
        return of(false) && !of(true);
    });
    conjugate_ = add(piece, "Add the conjugate lobe", QKeySequence("Ctrl+Alt+L"), [this] {
        const ZoneRef lobe{session_.piece(), session_.zone()};
        const QString why = session_.change([&](const Job& j) { return add_conjugate(j, lobe); });
        if (!why.isEmpty()) return checks_->say(why, true);
        session_.select(lobe.piece, lobe.zone + 2);
    });
    springs_ = piece->addMenu("Hold the follower on with a spring");
    connect(springs_, &QMenu::aboutToShow, this, &MainWindow::list_springs);
    for (const bool far : {false, true}) {
        QAction* relief = add(
            piece, far ? "Relief groove at the far end (DIN 76)" : "Relief groove at the near end (DIN 76)",
            QKeySequence(far ? "Ctrl+G" : "Ctrl+Shift+G"), [this, far] {
                const std::size_t p = session_.piece(), z = session_.zone();
                if (!session_.has_piece()) return;
                const QString why =
                    session_.change([=](const Job& j) { return add_relief_groove(j, p, z, far); });
                if (!why.isEmpty()) checks_->say(why, true);
            });
        only_where(relief, [](const Piece&, const Zone& z) { return z.as<ThreadForm>() && !z.in_bore(); });
    }
    piece->addSeparator();
    own_section_ = add(piece, "Draw a section of my own from this one", QKeySequence("Ctrl+M"), [this] {
        const auto* zone = session_.resolved_zone();
        if (!zone || !zone->thread() || zone->thread()->spec.family == ThreadFamily::own) return;
        ThreadSpec spec = zone->thread()->spec;
        spec.allowance = mm(0);
        std::string name = "own-1";
        for (int n = 2;
             std::ranges::any_of(session_.sections(), [&](const auto& s) { return s.name == name; }); ++n)
            name = "own-" + std::to_string(n);
        const OwnSection section = own_section_of(resolve_thread(spec).section, name);
        wear(section, "Now it is yours: drag its points in the section view. The sheet has its name.");
    });
    add(piece, "Import a section, timing or silhouette… (DXF, SVG, CSV)", QKeySequence("Ctrl+I"),
        [this] { ask_section(); });
    keep_section_ = add(piece, "Keep the section in my library", QKeySequence("Ctrl+Shift+K"), [this] {
        const auto* zone = session_.resolved_zone();
        if (!zone || !zone->thread() || zone->thread()->spec.family != ThreadFamily::own) return;
        const OwnSection& section = zone->thread()->spec.own_section;
        const QString why = session_.keep_in_library(section), name = QString::fromStdString(section.name);
        checks_->say(why.isEmpty() ? "Kept. In any job, write: section " + name + " 20x4" : why,
                     !why.isEmpty());
    });
    piece->addSeparator();
    block_ =
        add(piece, "Copy the gear's data for the drawing (ISO 1340)", QKeySequence("Ctrl+Alt+D"), [this] {
            const auto* z = session_.resolved_zone();
            if (!z || !z->gear()) return;
            QString text;
            for (const auto& [name, value] : data_block(*z->gear(), z->length))
                text += QString::fromStdString(name) + '\t' + QString::fromStdString(value) + '\n';
            QGuiApplication::clipboard()->setText(text);
            checks_->say("The gear's data stand on the clipboard, a name and a value to a line.", false);
        });
    compare_ = add(piece, "Compare with another outline or solid…", QKeySequence("Ctrl+Shift+M"), [this] {
        if (comparison_->loaded()) return comparison_->clear();
        const QString path = QFileDialog::getOpenFileName(
            this, "An outline of a gear or a rack's side, or a gear's solid with its axis along z", {},
            "Outlines and solids (*.dxf *.svg *.csv *.stl *.step *.stp)");
        if (!path.isEmpty()) compare_with(path);
    });
    piece->addSeparator();
    only_where(add(piece, "Remove the zone", QKeySequence("Ctrl+Shift+Backspace"),
                   [this] {
                       const std::size_t p = session_.piece(), z = session_.zone();
                       if (!session_.has_piece()) return;
                       const QString why =
                           session_.change([=](const Job& j) { return remove_zone(j, p, z); });
                       if (!why.isEmpty()) checks_->say(why, true);
                   }),
               [](const Piece& p, const Zone&) { return p.zones.size() > 1; });
}

void MainWindow::fill_view_menu(QMenu* view) {
    add(view, "Side", QKeySequence("F2"), [this] { solid_->look(SolidView::Look::side); });
    add(view, "End", QKeySequence("F3"), [this] { solid_->look(SolidView::Look::end); });
    add(view, "Oblique", QKeySequence("F4"), [this] { solid_->look(SolidView::Look::oblique); });
    cut_ = add(view, "Cut lengthwise", QKeySequence("F5"), [this] { solid_->set_cut(cut_->isChecked()); });
    cut_->setCheckable(true);
    add(view, "Turn the cut by 15°", QKeySequence("F6"), [this] { solid_->turn_cut(15); });
    together_ = add(view, "With the counterpart", QKeySequence("F7"),
                    [this] { solid_->set_together(together_->isChecked()); });
    together_->setCheckable(true);
    run_ = add(view, "Run gears or cam", QKeySequence("F8"),
               [this] { session_.set_running(run_->isChecked()); });
    run_->setCheckable(true);
    view->addSeparator();
    dark_ = add(view, "Dark theme", QKeySequence("F9"), [this] { set_dark(dark_->isChecked()); });
    dark_->setCheckable(true);
    dark_->setChecked(theme().dark);
}

void MainWindow::fill_help_menu(QMenu* help) {
    add(help, "Keys", QKeySequence("F1"), [this] {
        checks_->say("Ctrl+L designation, Ctrl+P pitch, Ctrl+D sheet, Ctrl+H flip hand, Ctrl+R remedy, "
                     "Ctrl+U unit, Ctrl+K counterpart, Ctrl+J go to it, Ctrl+B bore, F2 side, F3 end, F4 "
                     "oblique, F5 cut, F7 with the counterpart, F8 run the gears, "
                     "drag rolls and tilts, right drag swings, middle drag pans.",
                     false);
    });
    add(help, "About Regular Whorl", {}, [this] {
        checks_->say("Regular Whorl 0.1: threads from standard specifications to correct solids. Licence "
                     "GPL-3.0-or-later; typeface Inter, SIL OFL 1.1.",
                     false);
    });
}

void MainWindow::list_springs() {
    springs_->clear();
    const ZoneRef lobe{session_.piece(), session_.zone()};
    const auto offer = [&](const QString& text, std::optional<ZoneRef> spring) {
        connect(springs_->addAction(text), &QAction::triggered, this, [this, lobe, spring] {
            const QString why = session_.change([&](const Job& j) { return hold_follower(j, lobe, spring); });
            if (!why.isEmpty()) checks_->say(why, true);
        });
    };
    const auto& pieces = session_.job().pieces;
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (pieces[i].zones[0].as<CoilForm>()) offer(QString::fromStdString(pieces[i].name), ZoneRef{i, 0});
    if (springs_->isEmpty()) springs_->addAction("The job has no spring yet")->setEnabled(false);
    offer("None of the job's", {});
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

void MainWindow::show_views() {
    trial_->setVisible(session_.trying());
    if (session_.trying()) catalogue_asked_ = false;
    const bool catalogue = !session_.trying() && (catalogue_asked_ || !session_.has_piece());
    middle_->setCurrentIndex(catalogue ? 1 : 0);
}

void MainWindow::update_actions() {
    undo_->setEnabled(session_.can_undo());
    redo_->setEnabled(session_.can_redo());
    undo_button_->setEnabled(session_.can_undo());
    redo_button_->setEnabled(session_.can_redo());
    export_->setEnabled(session_.has_piece());
    remove_piece_->setEnabled(session_.has_piece());
    const auto* z = session_.resolved_zone();
    for (const auto& [action, means_something] : guarded_) {
        const Piece* piece = session_.has_piece() ? &session_.job().pieces[session_.piece()] : nullptr;
        action->setEnabled(piece && means_something(*piece, piece->zones[session_.zone()]));
    }
    const bool toothed = z && (z->gear() || z->rack());
    flip_->setEnabled(z && !z->as<ResolvedPlain>());
    counterpart_->setEnabled(
        toothed || (z && (z->thread() || z->bend() || (z->groove() && z->in_bore()) || session_.follower())));
    conjugate_->setEnabled(z && z->lobe() && !z->lobe()->spec.conjugate);
    springs_->menuAction()->setEnabled(z && z->lobe());
    for (QAction* a : {ring_, rack_})
        a->setEnabled(z && z->gear() && !z->in_bore());
    to_counterpart_->setEnabled(session_.fit() || session_.mesh() || session_.other_of_pair());
    compare_->setEnabled(toothed || comparison_->loaded()); // it can be taken away from anywhere
    block_->setEnabled(z && z->gear());
    compare_->setText(comparison_->loaded() ? "Take the compared teeth away"
                                            : "Compare with another outline or solid…");
    run_->setEnabled(z && (z->gear() || z->motion() || (z->rack() && session_.mesh())));
    run_->setChecked(session_.running());
    const bool wears_own = z && z->thread() && z->thread()->spec.family == ThreadFamily::own;
    own_section_->setEnabled(z && z->thread() && !wears_own && z->thread()->section.sweepable());
    keep_section_->setEnabled(wears_own);
    remedy_->setEnabled(!session_.findings().empty() && session_.findings().front().remedy.has_value());
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
    update_recent();
    return true;
}

void MainWindow::update_recent() {
    recent_->clear();
    const QStringList files = settings_.value("recent").toStringList();
    for (const auto& f : files)
        recent_->addAction(f, this, [this, f] {
            if (may_leave()) open(f);
        });
    recent_->setEnabled(!files.isEmpty());
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
        "outline (*.dxf)");
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
    dark_->setChecked(dark);
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
