// The sheet as an item model: what it is about in the first row, then the groups with their rows. Screen
// readers get each row as a sentence.
#pragma once

#include "app/sheet/sheet.hpp"

#include <QAbstractItemModel>

namespace whorl::app {

class SheetModel final : public QAbstractItemModel {
    Q_OBJECT
public:
    // Takes over what has changed; true when rows came or went, so that the view was reset.
    bool set(Sheet sheet);
    const Sheet& sheet() const { return sheet_; }

    const SheetGroup* group(const QModelIndex& index) const; // none for the title and for rows
    const SheetRow* row(const QModelIndex& index) const;     // none for title and groups
    QModelIndex find(const QString& key) const;              // a row by its value key
    QModelIndex find(Field field) const;

    QModelIndex index(int row, int column, const QModelIndex& parent = {}) const override;
    QModelIndex parent(const QModelIndex& index) const override;
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& = {}) const override { return 1; }
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;

private:
    Sheet sheet_;
};

} // namespace whorl::app
