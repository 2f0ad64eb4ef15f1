// How the sheet's rows look: label, value with its unit, and the source under it in as many lines as it
// needs.
#pragma once

#include "app/sheet/sheet_model.hpp"

#include <QStyledItemDelegate>
#include <map>

namespace whorl::app {

class SheetPaint final : public QStyledItemDelegate {
public:
    SheetPaint(const SheetModel& model, Session& session, QWidget* view);

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override;
    void paint(QPainter*, const QStyleOptionViewItem&, const QModelIndex&) const override;
    // "hand back" beside a value that was set instead of following; empty on other rows.
    static QRectF hand_back(const SheetRow& row, const QRectF& at);

    static constexpr double margin = 18, right_pad = 42; // where values end

private:
    double source_height(const SheetRow& row) const;
    void paint_title(QPainter& p, const QRectF& r) const;
    void paint_group(QPainter& p, const QRectF& r, const SheetGroup& group, bool open) const;
    void paint_row(QPainter& p, const QRectF& r, const SheetRow& row, bool current) const;

    const SheetModel& model_;
    Session& session_;
    QWidget* view_; // its width is every row's
    mutable std::map<std::pair<QString, int>, double> heights_;
};

} // namespace whorl::app
