#include "app/spec_sheet.hpp"

#include "app/sheet/sheet_paint.hpp"
#include "app/theme.hpp"

#include <QApplication>
#include <QClipboard>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <QToolTip>

namespace whorl::app {

SpecSheet::SpecSheet(Session& session, QWidget* parent)
    : QTreeView(parent), session_(session), editor_(new InlineEditor(session, viewport())) {
    setAccessibleName("Spec sheet");
    setObjectName("spec_sheet");
    setMinimumWidth(250);
    setModel(&model_);
    setItemDelegate(new SheetPaint(model_, session, viewport()));
    setHeaderHidden(true);
    setFrameShape(QFrame::NoFrame);
    setIndentation(0);
    setRootIsDecorated(false);
    setItemsExpandable(true);
    setExpandsOnDoubleClick(false);
    setEditTriggers(NoEditTriggers); // the editor is ours; typing finds rows
    setSelectionMode(SingleSelection);
    setVerticalScrollMode(ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    verticalScrollBar()->setSingleStep(24);
    setMouseTracking(true);
    setStyleSheet("QTreeView{background:transparent;border:none}");
    memory_.changed = [this] { refresh(); };
    connect(&session_, &Session::changed, this, &SpecSheet::refresh);
    connect(&session_, &Session::previewed, this, &SpecSheet::refresh);
    connect(&session_, &Session::hover_changed, viewport(), qOverload<>(&QWidget::update));
    connect(editor_, &InlineEditor::stepped, this, &SpecSheet::step);
    connect(editor_, &InlineEditor::left, this, [this] { setFocus(); });
    connect(this, &QTreeView::expanded, this, [this](const QModelIndex& i) { fold(i, false); });
    connect(this, &QTreeView::collapsed, this, [this](const QModelIndex& i) { fold(i, true); });
    refresh();
}

void SpecSheet::fold(const QModelIndex& i, bool folded) {
    const SheetGroup* group = model_.group(i);
    if (!group) return;
    folded_.removeAll(group->key);
    if (folded) folded_ << group->key;
}

// What has changed only; after rows have come or gone the view stands where it stood.
void SpecSheet::refresh() {
    const int scrolled = verticalScrollBar()->value();
    const SheetRow* current = model_.row(currentIndex());
    const QString key = current ? current->input.key : QString();
    if (model_.set(sheet_of(session_, memory_))) {
        const QStringList folded = folded_; // unfolding changes it
        for (int g = 1; g < model_.rowCount(); ++g) {
            const QModelIndex i = model_.index(g, 0);
            setExpanded(i, !folded.contains(model_.group(i)->key));
        }
        if (!key.isEmpty()) setCurrentIndex(model_.find(key));
        executeDelayedItemsLayout();
        verticalScrollBar()->setValue(scrolled);
    }
    if (editor_->is_open())
        if (const QModelIndex at = model_.find(editor_->input().key); at.isValid())
            editor_->setGeometry(editor_place(at));
    viewport()->update();
}

void SpecSheet::paintEvent(QPaintEvent* e) {
    if (model_.rowCount() > 0) return QTreeView::paintEvent(e);
    QPainter p(viewport());
    const double margin = SheetPaint::margin;
    p.setFont(text_font(16, Weight::medium));
    p.setPen(theme().ink);
    p.drawText(QPointF(margin, 26), "Nothing here yet");
    p.setFont(text_font(13));
    p.setPen(theme().muted);
    p.drawText(
        QRectF(margin, 42, viewport()->width() - 2 * margin, 90), Qt::TextWordWrap,
        "Choose from the catalogue, or write a designation above, for example M10x1.5-6g LH x 40, and press "
        "Enter. The sheet fills itself.");
}

void SpecSheet::resizeEvent(QResizeEvent* e) {
    QTreeView::resizeEvent(e);
    scheduleDelayedItemsLayout(); // sources wrap anew
}

QRect SpecSheet::editor_place(const QModelIndex& row) const {
    const QRect r = visualRect(row);
    const int w = std::max(120, static_cast<int>(number_width(editor_->font(), editor_->text())) + 24);
    return {viewport()->width() - 8 - w, r.top() - 1, w, 26};
}

bool SpecSheet::open_editor(const QModelIndex& i) {
    const SheetRow* row = model_.row(i);
    if (!row || !row->input.typed()) return false;
    const Input input = row->input;
    expand(i.parent());
    setCurrentIndex(i);
    scrollTo(i);
    editor_->setText(input.initial);
    editor_->open(input, editor_place(i));
    return true;
}

bool SpecSheet::edit_field(Field field) {
    return open_editor(model_.find(field));
}

void SpecSheet::step(bool forward) {
    const QString key = editor_->input().key;
    if (!editor_->keep()) return;
    // every row that can be typed, in order
    std::vector<QModelIndex> typed;
    std::size_t at = 0;
    for (int g = 1; g < model_.rowCount(); ++g) {
        const QModelIndex group = model_.index(g, 0);
        for (int r = 0; r < model_.rowCount(group); ++r) {
            const QModelIndex i = model_.index(r, 0, group);
            if (!model_.row(i)->input.typed()) continue;
            if (model_.row(i)->input.key == key) at = typed.size();
            typed.push_back(i);
        }
    }
    if (!typed.empty()) open_editor(typed[(at + (forward ? 1 : typed.size() - 1)) % typed.size()]);
}

void SpecSheet::mousePressEvent(QMouseEvent* e) {
    if (!editor_->keep()) return;
    const QModelIndex i = indexAt(e->position().toPoint());
    QTreeView::mousePressEvent(e);
    if (model_.group(i)) return setExpanded(i, !isExpanded(i));
    const SheetRow* row = model_.row(i);
    if (!row) return;
    if (SheetPaint::hand_back(*row, visualRect(i)).adjusted(-4, -2, 4, 2).contains(e->position())) {
        (void)session_.edit(*row->handed_back, "");
        return;
    }
    (void)open_editor(i);
}

void SpecSheet::mouseMoveEvent(QMouseEvent* e) {
    const SheetRow* row = model_.row(indexAt(e->position().toPoint()));
    session_.hover(row ? row->input.key : QString());
    viewport()->setCursor(row && row->input.typed() ? Qt::IBeamCursor : Qt::ArrowCursor);
}

void SpecSheet::leaveEvent(QEvent*) {
    session_.hover({});
}

void SpecSheet::copy() const {
    if (const SheetRow* row = model_.row(currentIndex())) QApplication::clipboard()->setText(row->copied());
}

void SpecSheet::keyPressEvent(QKeyEvent* e) {
    if (e->matches(QKeySequence::Copy)) return copy();
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter || e->key() == Qt::Key_F2) {
        const QModelIndex i = currentIndex();
        if (model_.group(i)) return setExpanded(i, !isExpanded(i));
        (void)open_editor(i);
        return;
    }
    const QModelIndex before = currentIndex();
    QTreeView::keyPressEvent(e);
    // the row the keys have come to is lit in the drawings
    const SheetRow* row = model_.row(currentIndex());
    if (currentIndex() != before) session_.hover(row ? row->input.key : QString());
}

bool SpecSheet::viewportEvent(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(e);
        const SheetRow* row = model_.row(indexAt(help->pos()));
        // of what follows the source stands there already
        if (row && row->input.typed() && !row->input.tip.isEmpty())
            QToolTip::showText(help->globalPos(), row->input.tip, this);
        else
            QToolTip::hideText();
        return true;
    }
    return QTreeView::viewportEvent(e);
}

void SpecSheet::scrollContentsBy(int dx, int dy) {
    QTreeView::scrollContentsBy(dx, dy);
    if (editor_->is_open()) editor_->move(editor_->x(), editor_->y() + dy);
}

} // namespace whorl::app
