// The job's pieces as small side elevations, each as large as its card with its largest size beside it, and a
// status mark; pairs below them.
#pragma once

#include "app/session.hpp"

#include <QElapsedTimer>
#include <QPixmap>
#include <QWidget>

namespace whorl::app {

class Shelf final : public QWidget {
    Q_OBJECT
public:
    explicit Shelf(Session& session, QWidget* parent = nullptr);

signals:
    void new_piece_asked();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    QRectF card(std::size_t i) const;
    QRectF pair_card(std::size_t i) const;
    void show_selected();
    void find(const QString& typed);
    QString typed_;
    QElapsedTimer typed_at_;
    Session& session_;
    double scroll_ = 0;
    struct Drawing {
        QPixmap image;
        QSizeF size = {};
        bool dark = false;
    };
    struct Kept {
        Job job; // that the rest is of
        std::vector<ResolvedPiece> pieces;
        std::vector<Drawing> drawings;
        std::vector<int> worst;      // of each piece: 0 fits, 1 advice, 2 stops
        std::vector<int> pair_worst; // of each pair: 0 fits, 1 not
    } kept_;
    void refresh();
    void draw_card(QPainter& p, const QRectF& card, std::size_t piece);
};

} // namespace whorl::app
