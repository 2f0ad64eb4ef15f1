#include "app/catalogue_view.hpp"

#include "app/elevation.hpp"
#include "app/theme.hpp"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QScrollBar>
#include <QStyledItemDelegate>
#include <QToolButton>
#include <QVBoxLayout>

namespace whorl::app {

namespace {

enum Role { number_role = Qt::UserRole + 1, says_role };
constexpr int group_item = -1; // in place of a number: a heading
constexpr int card_height = 84, least_card = 232, heading_height = 34, member_height = 40, least_member = 196;

// As many columns as have room.
QSize cell(const QListView* view, int least_width, int height) {
    const int room = view->viewport()->width() - 4;
    return {room / std::max(1, room / least_width), height};
}

void frame(QPainter& p, const QStyleOptionViewItem& option) {
    const Theme& t = theme();
    const bool lit = option.state & QStyle::State_MouseOver, chosen = option.state & QStyle::State_Selected;
    if (!lit && !chosen) return;
    p.setPen(chosen ? QPen(t.active, 1.4) : QPen(Qt::NoPen));
    p.setBrush(lit ? t.active_tint : t.panel);
    p.drawRoundedRect(QRectF(option.rect).adjusted(3, 3, -3, -3), 4, 4);
}

class FamilyCards final : public QStyledItemDelegate {
public:
    FamilyCards(CatalogueView& catalogue, QListView* view)
        : QStyledItemDelegate(view), catalogue_(catalogue), view_(view) {}

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& i) const override {
        if (i.data(number_role).toInt() == group_item)
            return {view_->viewport()->width() - 4, heading_height};
        return cell(view_, least_card, card_height);
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& i) const override {
        QPainter& p = *painter;
        const Theme& t = theme();
        const QRectF r = option.rect;
        p.save();
        p.setRenderHint(QPainter::Antialiasing);
        if (const int number = i.data(number_role).toInt(); number == group_item) {
            p.setFont(text_font(11, Weight::semibold));
            p.setPen(t.muted);
            p.drawText(QPointF(r.left() + 14, r.bottom() - 8), i.data().toString());
        } else {
            const CatalogueFamily& family = catalogue_.families()[static_cast<std::size_t>(number)];
            frame(p, option);
            if (const auto* piece = catalogue_.piece_of_line(family.drawn()))
                draw_elevation(p, *piece, QRectF(r.left() + 16, r.top() + 14, 72, r.height() - 28));
            const QRectF text = r.adjusted(100, 12, -10, -8);
            p.setFont(text_font(13, Weight::medium));
            p.setPen(t.ink);
            p.drawText(text, Qt::AlignTop | Qt::AlignLeft, QString::fromStdString(family.card.title));
            p.setFont(text_font(11));
            p.setPen(t.muted);
            p.drawText(text.adjusted(0, 19, 0, 0), Qt::TextWordWrap,
                       QString::fromStdString(family.card.sentence));
        }
        p.restore();
    }

private:
    CatalogueView& catalogue_;
    QListView* view_;
};

class MemberCards final : public QStyledItemDelegate {
public:
    explicit MemberCards(QListView* view) : QStyledItemDelegate(view), view_(view) {}

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& i) const override {
        // long lines take two columns
        const QSize one = cell(view_, least_member, member_height);
        const bool wide =
            QFontMetrics(text_font(13)).horizontalAdvance(i.data().toString()) > one.width() - 24;
        return wide ? QSize(2 * one.width(), one.height()) : one;
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& i) const override {
        QPainter& p = *painter;
        const Theme& t = theme();
        const QRectF r = QRectF(option.rect).adjusted(12, 0, -8, 0);
        p.save();
        p.setRenderHint(QPainter::Antialiasing);
        frame(p, option);
        const QString says = i.data(says_role).toString();
        p.setFont(text_font(13));
        p.setPen(t.ink);
        p.drawText(QPointF(r.left(), r.top() + (says.isEmpty() ? 24 : 18)), i.data().toString());
        p.setFont(text_font(11));
        p.setPen(t.muted);
        p.drawText(QPointF(r.left(), r.top() + 32), says);
        p.restore();
    }

private:
    QListView* view_;
};

// The member under the pointer or the keys, drawn as large as there is room.
class Drawing final : public QWidget {
public:
    Drawing(CatalogueView& catalogue, Session& session) : catalogue_(catalogue), session_(session) {
        setFixedSize(230, 92);
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const QModelIndex at = catalogue_.member_list()->currentIndex();
        if (!at.isValid()) return;
        const auto* piece = catalogue_.piece_of_line(catalogue_.line(at).text);
        if (!piece) return;
        p.setFont(text_font(11));
        const QString size = largest_size(*piece, session_.unit());
        const double size_w = p.fontMetrics().horizontalAdvance(size);
        draw_elevation(p, *piece, QRectF(10, 8, width() - 20, height() - 26));
        p.setFont(text_font(11));
        p.setPen(theme().muted);
        p.drawText(QPointF(width() - size_w - 10, height() - 4), size);
    }

private:
    CatalogueView& catalogue_;
    Session& session_;
};

QListView* list_of_cards(const QString& name) {
    auto* list = new QListView;
    list->setAccessibleName(name);
    list->setFrameShape(QFrame::NoFrame);
    list->setViewMode(QListView::IconMode);
    list->setMovement(QListView::Static);
    list->setResizeMode(QListView::Adjust);
    list->setFlow(QListView::LeftToRight);
    list->setWrapping(true);
    list->setSpacing(0);
    list->setUniformItemSizes(false);
    list->setEditTriggers(QAbstractItemView::NoEditTriggers);
    list->setMouseTracking(true);
    list->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn); // the columns stay where they are
    list->verticalScrollBar()->setSingleStep(24);
    list->setStyleSheet("QListView{background:transparent;border:none}");
    return list;
}

} // namespace

CatalogueView::CatalogueView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), pages_(new QStackedWidget),
      family_list_(list_of_cards("Catalogue: families")), member_list_(list_of_cards("Catalogue: members")),
      filter_(new QLineEdit), title_(new QLabel), sentence_(new QLabel), none_(new QLabel),
      drawing_(new Drawing(*this, session)), back_(new QToolButton) {
    setObjectName("catalogue");
    family_list_->setItemDelegate(new FamilyCards(*this, family_list_));
    member_list_->setItemDelegate(new MemberCards(member_list_));
    family_list_->setModel(&family_items_);
    member_list_->setModel(&member_items_);

    auto* families = new QWidget;
    auto* column = new QVBoxLayout(families);
    column->setContentsMargins(8, 14, 4, 4);
    column->setSpacing(4);
    auto* question = new QLabel("What is it to be?");
    question->setFont(text_font(16, Weight::medium));
    question->setContentsMargins(14, 0, 0, 0);
    auto* how = new QLabel("Choose a family, or write a designation in the line above.");
    how->setFont(text_font(13));
    how->setContentsMargins(14, 0, 0, 4);
    column->addWidget(question);
    column->addWidget(how);
    column->addWidget(family_list_, 1);

    auto* members = new QWidget;
    auto* below = new QVBoxLayout(members);
    below->setContentsMargins(8, 10, 4, 4);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(6, 0, 10, 0);
    auto* words = new QVBoxLayout;
    words->setSpacing(2);
    back_->setText("‹ All families");
    back_->setToolTip("Back to the families (Esc)");
    title_->setFont(text_font(16, Weight::medium));
    title_->setContentsMargins(8, 0, 0, 0);
    sentence_->setFont(text_font(13));
    sentence_->setContentsMargins(8, 0, 0, 4);
    sentence_->setWordWrap(true);
    filter_->setPlaceholderText("Find a size: 10, 3/8, fine");
    filter_->setAccessibleName("Find a size");
    filter_->setMaximumWidth(280);
    filter_->setClearButtonEnabled(true);
    words->addWidget(back_, 0, Qt::AlignLeft);
    words->addWidget(title_);
    words->addWidget(sentence_);
    auto* filter_line = new QHBoxLayout;
    filter_line->setContentsMargins(8, 0, 0, 0);
    filter_line->addWidget(filter_);
    words->addLayout(filter_line);
    words->setAlignment(filter_line, Qt::AlignLeft);
    head->addLayout(words, 1);
    head->addWidget(drawing_, 0, Qt::AlignVCenter);
    below->addLayout(head);
    none_->setFont(text_font(13));
    none_->setContentsMargins(14, 8, 0, 0);
    none_->hide();
    below->addWidget(none_);
    below->addWidget(member_list_, 1);

    pages_->addWidget(families);
    pages_->addWidget(members);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(pages_);

    const auto open_family = [this](const QModelIndex& i) {
        const int number = i.data(number_role).toInt();
        if (number != group_item) open_members(static_cast<std::size_t>(number));
    };
    connect(family_list_, &QListView::clicked, this, open_family);
    connect(member_list_, &QListView::clicked, this, &CatalogueView::pick);
    connect(member_list_, &QListView::entered, member_list_, &QListView::setCurrentIndex);
    connect(member_list_->selectionModel(), &QItemSelectionModel::currentChanged, drawing_,
            qOverload<>(&QWidget::update));
    connect(back_, &QToolButton::clicked, this, &CatalogueView::step_back);
    connect(filter_, &QLineEdit::textEdited, this, &CatalogueView::fill_members);
    for (QObject* o : {static_cast<QObject*>(family_list_), static_cast<QObject*>(member_list_),
                       static_cast<QObject*>(filter_)})
        o->installEventFilter(this);
}

void CatalogueView::open() {
    pages_->setCurrentIndex(0);
    fill_families();
    family_list_->scrollToTop();
}

void CatalogueView::showEvent(QShowEvent* e) {
    QWidget::showEvent(e);
    if (families_.empty()) fill_families();
}

void CatalogueView::fill_families() {
    known_ = session_.sections();
    families_ = catalogue(known_);
    drawn_.clear();
    family_items_.clear();
    std::string group;
    for (std::size_t i = 0; i < families_.size(); ++i) {
        const CatalogueFamily& family = families_[i];
        if (family.group != group) {
            group = family.group;
            auto* heading = new QStandardItem(QString::fromStdString(group));
            heading->setData(group_item, number_role);
            heading->setFlags(Qt::NoItemFlags);
            family_items_.appendRow(heading);
        }
        auto* card = new QStandardItem(QString::fromStdString(family.card.title));
        card->setData(static_cast<int>(i), number_role);
        card->setToolTip(QString::fromStdString(family.lines[family.shown].text));
        card->setData(QString::fromStdString(family.card.title + ". " + family.card.sentence),
                      Qt::AccessibleTextRole);
        family_items_.appendRow(card);
    }
}

const ResolvedPiece* CatalogueView::piece_of_line(const std::string& line) {
    const auto [at, fresh] = drawn_.try_emplace(line);
    if (fresh) try {
            at->second = resolve_piece(piece_of(line, known_), {});
        } catch (const std::exception&) {
            // stays without a drawing
        }
    return at->second ? &*at->second : nullptr;
}

void CatalogueView::open_members(std::size_t family) {
    family_ = family;
    title_->setText(QString::fromStdString(families_.at(family).card.title));
    sentence_->setText(QString::fromStdString(families_.at(family).card.sentence));
    filter_->clear();
    fill_members();
    pages_->setCurrentIndex(1);
    filter_->setFocus();
}

void CatalogueView::fill_members() {
    const CatalogueFamily& family = families_.at(family_);
    const std::string typed = filter_->text().toStdString();
    member_items_.clear();
    int telling = 0;
    for (std::size_t i = 0; i < family.lines.size(); ++i) {
        const CatalogueLine& line = family.lines[i];
        if (!answers(line, typed)) continue;
        if (i == family.shown) telling = member_items_.rowCount();
        auto* item = new QStandardItem(QString::fromStdString(line.text));
        item->setData(static_cast<int>(i), number_role);
        item->setData(QString::fromStdString(line.says), says_role);
        item->setData(QString::fromStdString(line.text + (line.says.empty() ? "" : ", " + line.says)),
                      Qt::AccessibleTextRole);
        member_items_.appendRow(item);
    }
    const bool none = member_items_.rowCount() == 0;
    none_->setText(
        QString("No usual member has “%1”. Pick the nearest and change its numbers, or write it in "
                "the line above.")
            .arg(filter_->text()));
    none_->setVisible(none);
    if (!none) member_list_->setCurrentIndex(member_items_.index(telling, 0));
    drawing_->update();
}

const CatalogueLine& CatalogueView::line(const QModelIndex& member) const {
    return families_.at(family_).lines.at(static_cast<std::size_t>(member.data(number_role).toInt()));
}

void CatalogueView::pick(const QModelIndex& member) {
    if (member.isValid()) emit picked(line(member));
}

void CatalogueView::step_back() {
    if (!at_members()) {
        emit closed();
        return;
    }
    pages_->setCurrentIndex(0);
    family_list_->setFocus();
}

void CatalogueView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) return step_back();
    QWidget::keyPressEvent(e);
}

// Enter picks, Esc steps back, the arrows go through the members while their filter is typed into.
bool CatalogueView::eventFilter(QObject* o, QEvent* e) {
    if (e->type() != QEvent::KeyPress) return QWidget::eventFilter(o, e);
    auto* key = static_cast<QKeyEvent*>(e);
    const bool enter = key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter;
    if (key->key() == Qt::Key_Escape) {
        step_back();
        return true;
    }
    if (o == family_list_ && enter) {
        const QModelIndex i = family_list_->currentIndex();
        if (i.isValid() && i.data(number_role).toInt() != group_item)
            open_members(static_cast<std::size_t>(i.data(number_role).toInt()));
        return true;
    }
    if (o != family_list_ && enter) {
        pick(member_list_->currentIndex());
        return true;
    }
    if (o == filter_ && (key->key() == Qt::Key_Down || key->key() == Qt::Key_Up)) {
        member_list_->setFocus();
        return true;
    }
    return QWidget::eventFilter(o, e);
}

} // namespace whorl::app
