#include "app/hand_on_view.hpp"

#include "app/locale.hpp"
#include "app/theme.hpp"
#include "quantity/expression.hpp"

#include <QButtonGroup>
#include <QCheckBox>
#include <QDesktopServices>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QRadioButton>
#include <QStandardPaths>
#include <QTreeWidget>
#include <QUrl>
#include <QVBoxLayout>

namespace whorl::app {
namespace {

QString pieces_text(std::size_t n) {
    return QString::number(n) + (n == 1 ? " piece" : " pieces");
}

QString files_text(std::size_t n) {
    return QString::number(n) + (n == 1 ? " file" : " files");
}

QLabel* heading(const QString& text) {
    auto* label = new QLabel(text);
    label->setObjectName("heading");
    label->setFont(text_font(11, Weight::semibold));
    return label;
}

} // namespace

HandOnView::HandOnView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setAccessibleName("Hand on");
    setObjectName("hand_on");
    setFocusPolicy(Qt::StrongFocus);
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(20, 16, 20, 14);
    across->setSpacing(28);
    across->addWidget(choices());
    across->addWidget(files(), 1);
    connect(&session_, &Session::changed, this, [this] {
        if (isVisible()) refresh_words();
    });
}

HandOnView::~HandOnView() {
    ++looked_;
    stopping_.request_stop();
    pool_.waitForDone();
}

QWidget* HandOnView::choices() {
    auto* side = new QWidget;
    side->setFixedWidth(290);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(heading("What is handed on"));
    what_ = new QButtonGroup(this);
    for (const What w : {What::piece, What::group, What::all, What::chosen}) {
        auto* button = new QRadioButton;
        button->setMinimumWidth(0);
        button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
        what_->addButton(button, static_cast<int>(w));
        column->addWidget(button);
    }
    what_->button(static_cast<int>(What::piece))->setChecked(true);
    pieces_ = new QListWidget;
    pieces_->setMaximumHeight(170);
    pieces_->hide();
    column->addWidget(pieces_);
    together_ = new QCheckBox("Together in one file, as they stand");
    together_->setChecked(settings_.value("hand_on/together", false).toBool());
    column->addSpacing(6);
    column->addWidget(together_);
    column->addSpacing(12);
    column->addWidget(heading("Formats"));
    for (const Format& f : formats()) {
        auto* box = new QCheckBox(f.words);
        column->addWidget(box);
        formats_.push_back(box);
        connect(box, &QCheckBox::toggled, this, [this, &f](bool on) {
            if (filling_) return;
            settings_.setValue(QString("hand_on/%1/%2").arg(together_->isChecked() ? "all" : "piece", f.name),
                               on);
            look();
        });
    }
    column->addSpacing(12);
    column->addWidget(heading("Folder"));
    auto* line = new QHBoxLayout;
    folder_ = new QLineEdit(
        settings_.value("hand_on/folder", QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation))
            .toString());
    folder_->setAccessibleName("Folder");
    auto* choose = new QPushButton("Choose…");
    line->addWidget(folder_, 1);
    line->addWidget(choose);
    column->addLayout(line);
    column->addSpacing(12);
    auto* fine = new QHBoxLayout;
    fine->addWidget(heading("Triangles within"));
    chord_ = new QLineEdit(settings_.value("hand_on/chord", "0.01").toString());
    chord_->setAccessibleName("Triangles within, mm");
    chord_->setToolTip("How far a triangle may lie from the true surface: 0.0001 to 10 mm");
    chord_->setFixedWidth(70);
    fine->addWidget(chord_);
    fine->addWidget(new QLabel("mm"));
    fine->addStretch(1);
    column->addLayout(fine);
    column->addStretch(1);
    connect(what_, &QButtonGroup::idClicked, this, [this](int id) { set_what(static_cast<What>(id)); });
    connect(together_, &QCheckBox::toggled, this, [this](bool on) {
        settings_.setValue("hand_on/together", on);
        refresh_words();
    });
    connect(pieces_, &QListWidget::itemChanged, this, [this] {
        if (!filling_) look();
    });
    connect(folder_, &QLineEdit::textChanged, this, [this](const QString& text) {
        settings_.setValue("hand_on/folder", text);
        look();
    });
    connect(chord_, &QLineEdit::textChanged, this, [this](const QString& text) {
        settings_.setValue("hand_on/chord", text);
        look();
    });
    connect(choose, &QPushButton::clicked, this, [this] {
        const QString to = QFileDialog::getExistingDirectory(this, "Where the files go", folder_->text());
        if (!to.isEmpty()) folder_->setText(to);
    });
    return side;
}

QWidget* HandOnView::files() {
    auto* side = new QWidget;
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    count_ = heading("");
    column->addWidget(count_);
    list_ = new QTreeWidget;
    list_->setColumnCount(2);
    list_->setHeaderHidden(true);
    list_->setRootIsDecorated(false);
    list_->setSelectionMode(QAbstractItemView::NoSelection);
    list_->setFocusPolicy(Qt::NoFocus);
    list_->setUniformRowHeights(true);
    list_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    list_->header()->setStretchLastSection(true);
    column->addWidget(list_, 1);
    progress_ = new QProgressBar;
    progress_->setTextVisible(false);
    progress_->setFixedHeight(4);
    progress_->hide();
    column->addWidget(progress_);
    auto* line = new QHBoxLayout;
    result_ = new QLabel;
    result_->setWordWrap(true);
    open_ = new QPushButton("Open the folder");
    open_->hide();
    stop_ = new QPushButton("Stop");
    stop_->hide();
    write_ = new QPushButton("Write");
    write_->setObjectName("write");
    auto* back = new QPushButton("Back");
    back->setToolTip("To the views (Esc)");
    line->addWidget(result_, 1);
    for (QPushButton* b : {open_, stop_, back, write_})
        line->addWidget(b);
    column->addLayout(line);
    connect(write_, &QPushButton::clicked, this, &HandOnView::write);
    connect(stop_, &QPushButton::clicked, this, &HandOnView::stop);
    connect(back, &QPushButton::clicked, this, &HandOnView::left);
    connect(open_, &QPushButton::clicked, this,
            [this] { QDesktopServices::openUrl(QUrl::fromLocalFile(folder_->text())); });
    return side;
}

void HandOnView::showEvent(QShowEvent* e) {
    QWidget::showEvent(e);
    result_->clear();
    open_->hide();
    refresh_words();
}

void HandOnView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) {
        writing_ ? stop() : emit left();
    } else if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) {
        write();
    } else {
        QWidget::keyPressEvent(e);
    }
}

// Names and counts as the job has them now, and the formats of what is asked.
void HandOnView::refresh_words() {
    if (!session_.has_piece()) return;
    const Job& job = session_.job();
    filling_ = true;
    const QString name = QString::fromStdString(job.pieces[session_.piece()].name);
    const std::size_t group = group_of(job, session_.piece()).size();
    const auto put = [&](What w, const QString& text) {
        auto* button = what_->button(static_cast<int>(w));
        button->setText(QFontMetrics(button->font()).elidedText(text, Qt::ElideMiddle, 262));
        button->setToolTip(text);
    };
    put(What::piece, name);
    put(What::group, name + " and what pairs tie to it: " + pieces_text(group));
    what_->button(static_cast<int>(What::group))->setEnabled(group > 1);
    put(What::all, "All " + pieces_text(job.pieces.size()));
    put(What::chosen, "Some pieces:");
    if (group == 1 && what_->checkedId() == static_cast<int>(What::group))
        what_->button(static_cast<int>(What::piece))->setChecked(true);
    pieces_->setVisible(what_->checkedId() == static_cast<int>(What::chosen));
    if (std::size_t(pieces_->count()) != job.pieces.size()) {
        pieces_->clear();
        for (const Piece& p : job.pieces) {
            auto* item = new QListWidgetItem(QString::fromStdString(p.name), pieces_);
            item->setCheckState(pieces_->count() - 1 == int(session_.piece()) ? Qt::Checked : Qt::Unchecked);
        }
    }
    for (int i = 0; i < pieces_->count(); ++i)
        pieces_->item(i)->setText(QString::fromStdString(job.pieces[std::size_t(i)].name));
    const bool together = together_->isChecked();
    for (std::size_t i = 0; i < formats_.size(); ++i) {
        const Format& f = formats()[i];
        formats_[i]->setVisible(together ? f.of_all : f.of_a_piece);
        formats_[i]->setText(std::string(f.name) != "csv" ? f.words
                             : together                   ? "CSV, where each piece stands"
                                                          : "CSV, points and load curves");
        formats_[i]->setChecked(settings_
                                    .value(QString("hand_on/%1/%2").arg(together ? "all" : "piece", f.name),
                                           std::string(f.name) == "step")
                                    .toBool());
    }
    filling_ = false;
    look();
}

void HandOnView::set_what(What what) {
    what_->button(static_cast<int>(what))->setChecked(true);
    refresh_words();
}

void HandOnView::set_together(bool together) {
    together_->setChecked(together);
}

void HandOnView::set_format(const std::string& name, bool on) {
    for (std::size_t i = 0; i < formats_.size(); ++i)
        if (formats()[i].name == name) formats_[i]->setChecked(on);
}

void HandOnView::set_folder(const QString& folder) {
    folder_->setText(folder);
}

QString HandOnView::result() const {
    return result_->text();
}

// Throws InputError for a fineness or a folder that is none.
HandOn HandOnView::asked() const {
    HandOn out;
    const Job& job = session_.job();
    switch (static_cast<What>(what_->checkedId())) {
    case What::piece:
        out.pieces = {session_.piece()};
        break;
    case What::group:
        out.pieces = group_of(job, session_.piece());
        break;
    case What::all:
        for (std::size_t i = 0; i < job.pieces.size(); ++i)
            out.pieces.push_back(i);
        break;
    case What::chosen:
        for (int i = 0; i < pieces_->count(); ++i)
            if (pieces_->item(i)->checkState() == Qt::Checked) out.pieces.push_back(std::size_t(i));
        break;
    }
    out.together = together_->isChecked();
    for (std::size_t i = 0; i < formats_.size(); ++i)
        if (formats_[i]->isChecked() && (out.together ? formats()[i].of_all : formats()[i].of_a_piece))
            out.formats.push_back(formats()[i].name);
    if (out.together && out.pieces.size() < job.pieces.size() && !out.pieces.empty())
        out.name = job.pieces[out.pieces.front()].name + (out.pieces.size() > 1 ? " with others" : "");
    out.chord = in_mm(evaluate_length(with_points(chord_->text()).toStdString(), LengthUnit::millimetre));
    if (!(out.chord >= 1e-4 && out.chord <= 10))
        throw InputError("Triangles lie within 0.0001 to 10 mm of the true surface; 0.01 is usual.");
    if (folder_->text().trimmed().isEmpty()) throw InputError("Say in which folder the files go.");
    if (QFileInfo(folder_->text()).exists() && !QFileInfo(folder_->text()).isDir())
        throw InputError("'" + folder_->text().toStdString() +
                         "' is a file; say in which folder the files go.");
    out.folder = folder_->text().toStdString();
    return out;
}

void HandOnView::look() {
    const long serial = ++looked_;
    planning_ = true;
    try {
        pool_.start([this, serial, job = session_.job(), asked = asked()] {
            if (serial != looked_) return;
            std::vector<PlannedFile> plan;
            QString why;
            try {
                plan = plan_of(job, asked);
            } catch (const std::exception& e) {
                why = QString::fromStdString(e.what());
            }
            QMetaObject::invokeMethod(this, [this, serial, plan, why] {
                if (serial == looked_) show_plan(plan, why);
            });
        });
    } catch (const InputError& e) {
        show_plan({}, QString::fromStdString(e.what()));
    }
}

void HandOnView::show_plan(std::vector<PlannedFile> plan, const QString& why) {
    planning_ = false;
    plan_ = std::move(plan);
    list_->clear();
    const Theme& t = theme();
    std::size_t files = 0;
    for (const PlannedFile& f : plan_) {
        auto* row = new QTreeWidgetItem(list_);
        const auto known = std::find_if(formats().begin(), formats().end(),
                                        [&](const Format& one) { return one.name == f.format; });
        if (f.why_not.empty()) {
            ++files;
            row->setText(0, QString::fromStdString(f.path.filename().string()) + "    ");
            row->setText(1, QFileInfo::exists(QString::fromStdString(f.path.string()))
                                ? QString("takes the place of the one there")
                                : QString(known->words).section(", ", 1));
            row->setForeground(1, t.muted);
        } else {
            row->setFirstColumnSpanned(true);
            row->setText(0, QString::fromStdString(f.why_not));
            row->setToolTip(0, row->text(0));
            row->setForeground(0, f.fault ? t.stop : t.muted);
        }
    }
    count_->setText(!why.isEmpty()  ? why
                    : plan_.empty() ? QString("Nothing is asked: tick a format, and a piece")
                                    : files_text(files) + " will be written");
    write_->setText(files > 1 ? QString("Write %1").arg(files_text(files)) : QString("Write it"));
    write_->setEnabled(files > 0 && !writing_);
    emit planned();
}

void HandOnView::write() {
    if (writing_ || planning_ || !write_->isEnabled()) return;
    HandOn ask;
    try {
        ask = asked();
    } catch (const InputError& e) {
        return show_plan({}, QString::fromStdString(e.what()));
    }
    writing_ = true;
    stopping_ = std::stop_source();
    write_->setEnabled(false);
    open_->hide();
    stop_->show();
    progress_->setRange(0, 0);
    progress_->show();
    result_->setText("Writing…");
    pool_.start([this, ask, job = session_.job(), stop = stopping_.get_token()] {
        HandedOn done;
        QString why;
        try {
            done = hand_on(
                job, ask,
                [this](std::size_t n, std::size_t of, const std::string& what) {
                    QMetaObject::invokeMethod(this, [this, n, of, name = QString::fromStdString(what)] {
                        progress_->setRange(0, int(of));
                        progress_->setValue(int(n));
                        if (writing_ && !name.isEmpty())
                            result_->setText(QString("%1 of %2: %3").arg(n + 1).arg(of).arg(name));
                    });
                },
                stop);
        } catch (const std::exception& e) {
            why = QString::fromStdString(e.what());
        }
        QMetaObject::invokeMethod(this, [this, done, why] { finish(done, why); });
    });
}

void HandOnView::stop() {
    stopping_.request_stop();
}

void HandOnView::finish(const HandedOn& done, const QString& why) {
    writing_ = false;
    stop_->hide();
    progress_->hide();
    QString text = done.written.empty()
                       ? QString()
                       : files_text(done.written.size()) +
                             (done.written.size() == 1 ? " is in " : " are in ") + folder_->text() + ".";
    if (done.stopped) text = done.written.empty() ? "Stopped; nothing was written." : "Stopped; " + text;
    if (!why.isEmpty()) text = why;
    for (const std::string& sentence : done.failed)
        text += (text.isEmpty() ? "" : " ") + QString::fromStdString(sentence);
    result_->setText(text);
    open_->setVisible(!done.written.empty());
    look();
    emit written(why.isEmpty() && done.failed.empty() && !done.stopped);
}

} // namespace whorl::app
