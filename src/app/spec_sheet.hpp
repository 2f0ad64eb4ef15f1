// The spec sheet: the rows of sheet/sheet.hpp in groups that fold. A value that can be typed over opens on a
// click, on Enter or by Ctrl+D; typing finds a row by its label; Ctrl+C copies a value with its unit.
#pragma once

#include "app/sheet/sheet_model.hpp"

#include <QTreeView>

namespace whorl::app {

class SpecSheet final : public QTreeView {
    Q_OBJECT
public:
    explicit SpecSheet(Session& session, QWidget* parent = nullptr);

    // Opens the editor on the row of this field; false if there is none that can be typed.
    bool edit_field(Field field);
    QModelIndex row_of(const QString& key) const { return model_.find(key); }
    const SheetModel& rows() const { return model_; }

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    bool viewportEvent(QEvent*) override;
    void drawBranches(QPainter*, const QRect&, const QModelIndex&) const override {}
    void scrollContentsBy(int dx, int dy) override;

private:
    bool open_editor(const QModelIndex& row);
    QRect editor_place(const QModelIndex& row) const;
    void step(bool forward);
    void refresh();
    void fold(const QModelIndex& group, bool folded);
    void copy() const;

    Session& session_;
    SheetMemory memory_;
    SheetModel model_;
    InlineEditor* editor_;
    QStringList folded_; // keys of groups
};

} // namespace whorl::app
