#include "app/designation_line.hpp"

#include "app/locale.hpp"
#include "app/theme.hpp"
#include "form/coil/coil_designation.hpp"
#include "form/coil/find_spring.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"
#include "standard/screw_hole.hpp"

#include <QFocusEvent>
#include <QKeyEvent>
#include <QListWidget>
#include <QPainter>

namespace whorl::app {

DesignationLine::DesignationLine(Session& session, QWidget* parent)
    : QLineEdit(parent), session_(session), list_(new QListWidget(this)) {
    setObjectName("designation");
    setAccessibleName("Designation line");
    setPlaceholderText("Write a designation or a piece: M10x1.5-6g LH x 40, Tr20x4, ISO 4762 M6 x 25");
    setFont(text_font(16));
    setMinimumHeight(34);
    setToolTip("Designation line (Ctrl+L). Enter sets the zone, Shift+Enter starts a new piece.");
    list_->setWindowFlags(Qt::ToolTip);
    list_->setFocusPolicy(Qt::NoFocus);
    list_->setFont(text_font(13));
    list_->hide();
    connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem* i) {
        if (searching()) {
            list_->setCurrentItem(i);
            return try_row();
        }
        setText(i->text());
        text_edited();
        list_->hide();
    });
    connect(this, &QLineEdit::textEdited, this, [this] {
        if (!session_.has_piece()) new_piece_ = true;
        move_marks();
        text_edited();
    });
    connect(&session_, &Session::changed, this, &DesignationLine::show_zone);
    show_zone();
}

std::string DesignationLine::written() const {
    return with_points(text()).toStdString();
}

void DesignationLine::ask_for_new_piece() {
    new_piece_ = true;
    hole_at_far_end_.reset();
    marks_.clear();
    clear();
    setFocus();
    text_edited();
}

void DesignationLine::ask_for_hole(bool far_end) {
    if (!session_.resolved()) return;
    new_piece_ = false;
    marks_.clear();
    hole_at_far_end_ = far_end;
    // the largest screw whose head leaves a third of the end
    std::string words = "counterbore M3";
    const double outside = 2 * in_mm(session_.resolved()->largest_radius());
    for (const standard::ScrewHole& h : standard::screw_holes())
        if (h.counterbore && in_mm(*h.counterbore) < outside * 2 / 3)
            words = "counterbore M" + number_text(in_mm(h.thread), 1);
    setText(QString::fromStdString(words));
    setModified(true);
    setFocus();
    text_edited();
    list_->hide();
    setSelection(static_cast<int>(words.find('M')), static_cast<int>(words.size()));
}

void DesignationLine::ask_for_spring() {
    fill(catalogue_line({"find spring {40@32} {65@24} outside {24}", ""}));
    show_list();
}

bool DesignationLine::searching() const {
    return is_spring_search(written());
}

// The line stays the search; the row one stands on is what is on trial.
void DesignationLine::try_row() {
    const QListWidgetItem* row = list_->currentItem();
    if (!row || !(row->flags() & Qt::ItemIsEnabled)) return;
    list_->scrollToItem(row);
    (void)session_.try_piece(piece_of(row->data(Qt::UserRole).toString().toStdString(), session_.sections()));
}

void DesignationLine::offer_springs() {
    list_->clear();
    for (const SpringFound& f : find_springs(parse_spring_search(written()))) {
        const std::string line = write_spring(f.spec);
        auto* row = new QListWidgetItem(QString::fromStdString(line + ":  " + f.in_short), list_);
        row->setToolTip(QString::fromStdString(f.why));
        row->setData(Qt::UserRole, QString::fromStdString(line));
    }
    new_piece_ = true;
    hint_ =
        QString("%1 springs, the lightest first: arrow keys try them, Enter takes one").arg(list_->count());
    list_->setCurrentRow(0);
    try_row();
}

void DesignationLine::fill(const CatalogueLine& line) {
    new_piece_ = true;
    hole_at_far_end_.reset();
    setText(QString::fromStdString(line.text));
    setModified(true);
    setFocus();
    // the catalogue counts bytes, the field characters
    const auto characters = [&](std::size_t bytes) {
        return static_cast<int>(QString::fromUtf8(line.text.data(), static_cast<qsizetype>(bytes)).size());
    };
    marks_.clear();
    for (const auto& [at, extent] : line.marks)
        marks_.push_back({characters(at), characters(at + extent) - characters(at)});
    before_edit_ = text();
    text_edited();
    list_->hide();
    mark(0);
}

void DesignationLine::mark(std::size_t i) {
    if (marks_.empty()) return;
    marked_ = i % marks_.size();
    setSelection(marks_[marked_].at, marks_[marked_].length);
}

// The mark that was typed into grows, those behind it move along.
void DesignationLine::move_marks() {
    const int more = static_cast<int>(text().size() - before_edit_.size());
    int same = 0;
    while (same < std::min(text().size(), before_edit_.size()) && text()[same] == before_edit_[same])
        ++same;
    bool inside = false;
    for (Mark& m : marks_) {
        if (!inside && same >= m.at && same <= m.at + m.length) {
            m.length = std::max(0, m.length + more);
            inside = true;
        } else if (m.at >= same) {
            m.at += more;
        }
    }
    before_edit_ = text();
}

bool DesignationLine::focusNextPrevChild(bool next) {
    if (marks_.empty()) return QLineEdit::focusNextPrevChild(next);
    list_->hide();
    mark(next ? marked_ + 1 : marked_ + marks_.size() - 1);
    return true;
}

void DesignationLine::make_it() {
    accept(true);
}

void DesignationLine::leave_it() {
    list_->hide();
    new_piece_ = false;
    hole_at_far_end_.reset();
    marks_.clear();
    setModified(false);
    session_.drop_trial();
    clearFocus();
    show_zone();
    emit new_piece_left();
}

void DesignationLine::show_zone() {
    if (new_piece_ && !marks_.empty() && !session_.trying()) { // kept or dropped from elsewhere
        new_piece_ = false;
        marks_.clear();
        setModified(false);
    }
    if (session_.trying()) return;
    if (hasFocus() && isModified()) return;
    if (new_piece_ && hasFocus()) return;
    hole_at_far_end_.reset();
    bad_ = false;
    bad_at_ = -1;
    hint_.clear();
    if (session_.has_piece())
        setText(QString::fromStdString(zone_designation(
            session_.job().pieces[session_.piece()].zones[session_.zone()], session_.job())));
    else
        clear();
    setCursorPosition(0);
    update();
}

void DesignationLine::text_edited() {
    bad_ = false;
    bad_at_ = -1;
    hint_ = hole_at_far_end_ ? "clearance, counterbore, countersink or blind: Enter puts it in"
            : new_piece_ || !session_.has_piece() || is_starter(written()) ? "Enter starts a piece"
                                                                           : "Enter sets the zone";
    if (text().trimmed().isEmpty()) {
        if (!new_piece_) hint_.clear();
    } else {
        try {
            if (searching()) {
                offer_springs();
                show_list();
                update();
                return;
            }
            const Piece piece = piece_of(written(), session_.sections());
            if (new_piece_) (void)session_.try_piece(piece);
        } catch (const InputError& e) {
            bad_ = true;
            // the position is in bytes; the field counts characters
            bad_at_ = static_cast<int>(
                QString::fromUtf8(text().toUtf8().left(static_cast<int>(e.position))).size());
            hint_ = QString::fromUtf8(e.what());
        }
    }
    offer();
    update();
}

void DesignationLine::offer() {
    list_->clear();
    for (const auto& s : complete_piece(written(), 8, session_.sections()))
        list_->addItem(QString::fromStdString(s));
    // an unfinished text with a hint gets its sentence as the last, unselectable row
    if (bad_ && hasFocus()) {
        auto* row = new QListWidgetItem(hint_, list_);
        row->setFlags(Qt::NoItemFlags);
        const QRect text =
            QFontMetrics(list_->font()).boundingRect(QRect(0, 0, width() - 16, 400), Qt::TextWordWrap, hint_);
        row->setSizeHint(QSize(width() - 16, text.height() + 8));
        row->setForeground(list_->count() > 1 ? theme().muted : theme().stop);
    }
    show_list();
}

void DesignationLine::show_list() {
    if (list_->count() == 0 || !hasFocus()) {
        list_->hide();
        return;
    }
    const int rows = list_->count();
    list_->setWordWrap(true);
    list_->setFixedWidth(width());
    int height_of_rows = 6;
    for (int i = 0; i < rows; ++i)
        height_of_rows += list_->sizeHintForRow(i);
    list_->setFixedHeight(
        std::min(height_of_rows, searching() ? 150 : 320)); // what is on trial is seen under it
    list_->move(mapToGlobal(QPoint(0, height() + 2)));
    list_->show();
    list_->raise();
}

void DesignationLine::accepted() {
    new_piece_ = false;
    setModified(false);
    show_zone();
    selectAll();
    hint_.clear();
    bad_ = false;
    list_->hide();
}

void DesignationLine::accept(bool new_piece) {
    try {
        if (searching()) {                                      // the row one stands on is on trial
            (void)find_springs(parse_spring_search(written())); // what is on trial may be of the words before
            if (!session_.trying()) try_row();
            marks_.clear();
            session_.keep_trial();
            return accepted();
        }
        const std::string what = written();
        QString why;
        if (hole_at_far_end_) {
            const Piece from = piece_of(what, session_.sections());
            why = session_.change([&, p = session_.piece(), far = *hole_at_far_end_](const Job& j) {
                return add_bores(j, p, from, far);
            });
            if (why.isEmpty()) hole_at_far_end_.reset();
        } else if (new_piece || !session_.has_piece() || is_starter(what)) {
            why = session_.try_piece(piece_of(what, session_.sections()));
            if (why.isEmpty()) {
                marks_.clear();
                session_.keep_trial();
            }
        } else {
            why = session_.respec(parse_designation(what, session_.sections()));
        }
        if (why.isEmpty()) return accepted();
        hint_ = why;
    } catch (const InputError& e) {
        hint_ = QString::fromUtf8(e.what());
        bad_at_ =
            static_cast<int>(QString::fromUtf8(text().toUtf8().left(static_cast<int>(e.position))).size());
        setCursorPosition(bad_at_);
    }
    bad_ = true;
    offer();
    update();
}

void DesignationLine::keyPressEvent(QKeyEvent* e) {
    switch (e->key()) {
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (!searching() && list_->isVisible() && list_->currentRow() >= 0 &&
            (list_->currentItem()->flags() & Qt::ItemIsEnabled)) {
            setText(list_->currentItem()->text());
            setModified(true);
            text_edited();
            list_->setCurrentRow(-1);
            list_->hide();
            return;
        }
        accept(new_piece_ || (e->modifiers() & Qt::ShiftModifier));
        return;
    case Qt::Key_Down:
    case Qt::Key_Up:
        if (list_->isVisible()) {
            const int n = list_->count() - (bad_ ? 1 : 0), step = e->key() == Qt::Key_Down ? 1 : -1;
            if (n > 0) list_->setCurrentRow((list_->currentRow() + step + n) % n);
            if (searching()) try_row();
            return;
        }
        break;
    case Qt::Key_Escape:
        leave_it();
        return;
    default:
        break;
    }
    QLineEdit::keyPressEvent(e);
}

void DesignationLine::focusInEvent(QFocusEvent* e) {
    QLineEdit::focusInEvent(e);
    if (e->reason() != Qt::PopupFocusReason) selectAll();
}

void DesignationLine::focusOutEvent(QFocusEvent* e) {
    QLineEdit::focusOutEvent(e);
    if (e->reason() == Qt::PopupFocusReason || e->reason() == Qt::ActiveWindowFocusReason) return;
    list_->hide();
    if (session_.trying()) return; // it stays on trial until it is made or left
    new_piece_ = false;
    hole_at_far_end_.reset();
    if (!bad_) {
        setModified(false);
        show_zone();
    }
}

void DesignationLine::paintEvent(QPaintEvent* e) {
    QLineEdit::paintEvent(e);
    QPainter p(this);
    const Theme& t = theme();
    const QFontMetricsF big(font());
    if (bad_ && bad_at_ >= 0 && !text().isEmpty()) {
        // a mark under the place that wasn't understood
        const double x0 = 9 + big.horizontalAdvance(text().left(bad_at_));
        const double x1 = x0 + std::max(8.0, big.horizontalAdvance(text().mid(bad_at_, 1)));
        p.setPen(QPen(t.stop, 2));
        p.drawLine(QPointF(x0, height() - 6.5), QPointF(x1, height() - 6.5));
    }
    if (!hint_.isEmpty() && !bad_ && !text().isEmpty()) {
        p.setFont(text_font(11));
        const QFontMetricsF m(p.font());
        const double w = m.horizontalAdvance(hint_);
        if (big.horizontalAdvance(text()) + w + 40 < width()) {
            p.setPen(t.muted);
            p.drawText(QPointF(width() - w - 12, height() / 2.0 + 4), hint_);
        }
    }
}

} // namespace whorl::app
