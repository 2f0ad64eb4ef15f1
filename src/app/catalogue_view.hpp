// The way in without words: families as drawn cards, then the usual members of the one that is chosen. Stands
// in the place of the views for a new piece and in an empty job; what is picked goes to the designation line.
#pragma once

#include "app/session.hpp"
#include "model/catalogue.hpp"

#include <QLineEdit>
#include <QListView>
#include <QStackedWidget>
#include <QStandardItemModel>
#include <map>

class QLabel;
class QToolButton;

namespace whorl::app {

class CatalogueView final : public QWidget {
    Q_OBJECT
public:
    explicit CatalogueView(Session& session, QWidget* parent = nullptr);

    void open(); // at the families, from the top
    void open_members(std::size_t family);
    bool at_members() const { return pages_->currentIndex() == 1; }
    void step_back(); // from members to families, from there closed()

    const std::vector<CatalogueFamily>& families() const { return families_; }
    const CatalogueLine& line(const QModelIndex& member) const;
    const ResolvedPiece*
    piece_of_line(const std::string& line); // to be drawn; made once, none if it can't be
    QListView* family_list() const { return family_list_; }
    QListView* member_list() const { return member_list_; }
    QLineEdit* filter() const { return filter_; }

signals:
    void picked(const whorl::CatalogueLine& line);
    void closed();

protected:
    void keyPressEvent(QKeyEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;
    void showEvent(QShowEvent*) override;

private:
    void fill_families();
    void fill_members();
    void pick(const QModelIndex& member);

    Session& session_;
    std::vector<CatalogueFamily> families_;
    std::vector<OwnSection> known_;
    std::map<std::string, std::optional<ResolvedPiece>> drawn_;
    std::size_t family_ = 0;
    QStackedWidget* pages_;
    QListView *family_list_, *member_list_;
    QStandardItemModel family_items_, member_items_;
    QLineEdit* filter_;
    QLabel *title_, *sentence_, *none_;
    QWidget* drawing_;
    QToolButton* back_;
};

} // namespace whorl::app
