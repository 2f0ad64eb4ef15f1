#include "app/sheet/sheet_model.hpp"

#include <algorithm>

namespace whorl::app {

namespace {

// Top rows have no parent's number; rows of a group have it, one up.
constexpr quintptr top_row = 0;

bool same_places(const Sheet& a, const Sheet& b) {
    return a.title.isEmpty() == b.title.isEmpty() &&
           std::ranges::equal(a.groups, b.groups, [](const SheetGroup& x, const SheetGroup& y) {
               return x.key == y.key && x.title == y.title &&
                      std::ranges::equal(x.rows, y.rows, [](const SheetRow& r, const SheetRow& s) {
                          return r.same_place(s) && r.source == s.source;
                      });
           });
}

} // namespace

bool SheetModel::set(Sheet sheet) {
    if (same_places(sheet_, sheet)) {
        sheet_ = std::move(sheet);
        if (rowCount() == 0) return false;
        emit dataChanged(index(0, 0), index(rowCount() - 1, 0));
        for (int g = 0; g < static_cast<int>(sheet_.groups.size()); ++g) {
            const QModelIndex group = index(g + 1, 0);
            emit dataChanged(index(0, 0, group), index(rowCount(group) - 1, 0, group));
        }
        return false;
    }
    beginResetModel();
    sheet_ = std::move(sheet);
    endResetModel();
    return true;
}

const SheetGroup* SheetModel::group(const QModelIndex& i) const {
    if (!i.isValid() || i.internalId() != top_row || i.row() == 0) return nullptr;
    return &sheet_.groups[static_cast<std::size_t>(i.row() - 1)];
}

const SheetRow* SheetModel::row(const QModelIndex& i) const {
    if (!i.isValid() || i.internalId() == top_row) return nullptr;
    return &sheet_.groups[i.internalId() - 1].rows[static_cast<std::size_t>(i.row())];
}

namespace {
template<class Is>
QModelIndex first_row(const SheetModel& model, const Is& is) {
    for (int g = 1; g < model.rowCount(); ++g) {
        const QModelIndex group = model.index(g, 0);
        for (int r = 0; r < model.rowCount(group); ++r)
            if (const QModelIndex i = model.index(r, 0, group); is(*model.row(i))) return i;
    }
    return {};
}
} // namespace

QModelIndex SheetModel::find(const QString& key) const {
    return first_row(*this, [&](const SheetRow& r) { return r.input.key == key; });
}

QModelIndex SheetModel::find(Field field) const {
    return first_row(*this, [&](const SheetRow& r) { return r.input.field == field; });
}

QModelIndex SheetModel::index(int row, int column, const QModelIndex& parent) const {
    if (!hasIndex(row, column, parent)) return {};
    return createIndex(row, column, parent.isValid() ? static_cast<quintptr>(parent.row()) : top_row);
}

QModelIndex SheetModel::parent(const QModelIndex& i) const {
    if (!i.isValid() || i.internalId() == top_row) return {};
    return createIndex(static_cast<int>(i.internalId()), 0, top_row);
}

int SheetModel::rowCount(const QModelIndex& parent) const {
    if (!parent.isValid()) return sheet_.title.isEmpty() ? 0 : static_cast<int>(sheet_.groups.size()) + 1;
    const SheetGroup* g = group(parent);
    return g ? static_cast<int>(g->rows.size()) : 0;
}

QVariant SheetModel::data(const QModelIndex& i, int role) const {
    if (const SheetRow* r = row(i)) {
        if (role == Qt::DisplayRole) return r->label;
        if (role == Qt::AccessibleTextRole) return r->spoken();
        if (role == Qt::AccessibleDescriptionRole || role == Qt::ToolTipRole) return r->input.tip;
        return {};
    }
    if (role != Qt::DisplayRole && role != Qt::AccessibleTextRole) return {};
    if (const SheetGroup* g = group(i)) return g->title;
    if (!i.isValid()) return {};
    return role == Qt::DisplayRole ? sheet_.title : sheet_.title + ", " + sheet_.detail;
}

Qt::ItemFlags SheetModel::flags(const QModelIndex& i) const {
    const SheetRow* r = row(i);
    return r && r->kind == SheetRow::Kind::note ? Qt::ItemFlags(Qt::ItemIsEnabled)
                                                : Qt::ItemIsEnabled | Qt::ItemIsSelectable;
}

} // namespace whorl::app
