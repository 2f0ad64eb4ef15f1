#include "app/sheet/sheet_paint.hpp"

#include "app/theme.hpp"

#include <QPainter>
#include <QPainterPath>

namespace whorl::app {

namespace {

constexpr double asked_height = 24;

double back_width(const SheetRow& row) {
    return row.handed_back
               ? QFontMetricsF(text_font(11)).horizontalAdvance("hand back") + SheetPaint::right_pad
               : 0;
}

} // namespace

SheetPaint::SheetPaint(const SheetModel& model, Session& session, QWidget* view)
    : QStyledItemDelegate(view), model_(model), session_(session), view_(view) {}

// Wrapping a text is what a row costs; the same sources come back at every keystroke.
double SheetPaint::source_height(const SheetRow& row) const {
    const double room = view_->width() - 2 * margin - back_width(row);
    const auto key = std::pair(row.source, static_cast<int>(room));
    if (const auto at = heights_.find(key); at != heights_.end()) return at->second;
    if (heights_.size() > 1000) heights_.clear();
    return heights_[key] = QFontMetricsF(text_font(11))
                               .boundingRect(QRectF(0, 0, room, 1000), Qt::TextWordWrap, row.source)
                               .height();
}

QRectF SheetPaint::hand_back(const SheetRow& row, const QRectF& at) {
    if (!row.handed_back) return {};
    const double w = QFontMetricsF(text_font(11)).horizontalAdvance("hand back");
    return {at.right() - right_pad - w, at.top() + 18, w, 15};
}

QSize SheetPaint::sizeHint(const QStyleOptionViewItem&, const QModelIndex& i) const {
    const int w = view_->width();
    const SheetRow* row = model_.row(i);
    if (!row) return {w, i.row() == 0 ? 52 : 30};
    if (row->kind == SheetRow::Kind::note) return {w, 20};
    if (row->source.isEmpty()) return {w, static_cast<int>(asked_height)};
    return {w, static_cast<int>(21 + std::max(15.0, source_height(*row)))};
}

void SheetPaint::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& i) const {
    QPainter& p = *painter;
    const QRectF r(0, option.rect.top(), view_->width(), option.rect.height());
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    if (const SheetRow* row = model_.row(i))
        paint_row(p, r, *row, option.state & QStyle::State_Selected && option.state & QStyle::State_HasFocus);
    else if (const SheetGroup* group = model_.group(i))
        paint_group(p, r, *group, option.state & QStyle::State_Open);
    else
        paint_title(p, r);
    p.restore();
}

void SheetPaint::paint_title(QPainter& p, const QRectF& r) const {
    const Theme& t = theme();
    p.setFont(text_font(16, Weight::medium));
    p.setPen(t.ink);
    p.drawText(QPointF(margin, r.top() + 27), model_.sheet().title);
    p.setFont(text_font(11));
    p.setPen(t.muted);
    p.drawText(
        QPointF(margin, r.top() + 45),
        QFontMetricsF(p.font()).elidedText(model_.sheet().detail, Qt::ElideRight, r.width() - 2 * margin));
}

void SheetPaint::paint_group(QPainter& p, const QRectF& r, const SheetGroup& group, bool open) const {
    const Theme& t = theme();
    const double y = r.top() + 10;
    // what folds it
    QPainterPath sign;
    const QPointF at(margin - 9, y + 8);
    if (open)
        sign.addPolygon(QPolygonF{at + QPointF(-3.5, -2), at + QPointF(3.5, -2), at + QPointF(0, 2.6)});
    else
        sign.addPolygon(QPolygonF{at + QPointF(-2, -3.5), at + QPointF(-2, 3.5), at + QPointF(2.6, 0)});
    p.fillPath(sign, t.muted);
    p.setFont(text_font(11, Weight::semibold));
    p.setPen(t.muted);
    const QFontMetricsF m(p.font());
    const bool limits = group.limits && open;
    const double line_end = limits ? r.width() - right_pad - 112 : r.width() - margin;
    const QString title = m.elidedText(group.title, Qt::ElideRight, line_end - margin);
    p.drawText(QPointF(margin, y + 12), title);
    p.setPen(QPen(t.hairline, 1));
    p.drawLine(QPointF(margin + m.horizontalAdvance(title) + 8, y + 8), QPointF(line_end, y + 8));
    if (!limits) return;
    p.setFont(text_font(11));
    p.setPen(t.muted);
    draw_number(p, r.width() - right_pad - 66, y + 12, "min");
    draw_number(p, r.width() - right_pad, y + 12, "max");
}

void SheetPaint::paint_row(QPainter& p, const QRectF& r, const SheetRow& row, bool current) const {
    const Theme& t = theme();
    const double right = r.width() - right_pad;
    if (row.kind == SheetRow::Kind::note) {
        p.setFont(text_font(11));
        p.setPen(row.bad ? t.stop : t.active);
        p.drawText(QPointF(margin, r.top() + 12), row.label);
        return;
    }
    const QRectF box = r.adjusted(margin - 8, 0, 8 - margin, 0);
    const bool lit = !row.input.key.isEmpty() && row.input.key == session_.hovered();
    if (lit) p.fillRect(box, t.active_tint);
    if (current) {
        p.setPen(QPen(t.active, 1));
        p.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
    }
    const double line = r.top() + (row.source.isEmpty() ? 16.5 : 15);
    p.setFont(text_font(13));
    p.setPen(row.kind == SheetRow::Kind::add ? t.active : t.ink);
    p.drawText(QPointF(margin, line), row.label);
    p.setFont(text_font(13, Weight::medium));
    p.setPen(lit ? t.active : t.ink);
    const double room = right - margin - QFontMetricsF(text_font(13)).horizontalAdvance(row.label) - 14;
    if (!row.value.isEmpty()) {
        draw_number(p, right, line, QFontMetricsF(p.font()).elidedText(row.value, Qt::ElideRight, room));
    } else {
        draw_number(p, right, line, row.most);
        p.setFont(text_font(13));
        draw_number(p, right - 66, line, row.least);
    }
    p.setFont(text_font(11));
    p.setPen(t.muted);
    p.drawText(QPointF(right + 6, line), row.unit);
    if (row.source.isEmpty()) return;
    if (row.handed_back) {
        p.setPen(t.active);
        p.drawText(hand_back(row, r), Qt::AlignCenter, "hand back");
    }
    p.setPen(row.overridden ? t.advice : t.muted);
    p.drawText(QRectF(margin, r.top() + 18, r.width() - 2 * margin - back_width(row), r.height() - 14),
               Qt::TextWordWrap, row.source);
}

} // namespace whorl::app
