#include "app/checks_line.hpp"

#include "app/theme.hpp"
#include "quantity/expression.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QTextLayout>

namespace whorl::app {

ChecksLine::ChecksLine(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), remedy_(new QPushButton(this)) {
    setFixedHeight(40);
    setAccessibleName("Checks");
    remedy_->setObjectName("remedy");
    remedy_->setFocusPolicy(Qt::TabFocus);
    remedy_->setToolTip("Make this edit (Ctrl+R)");
    remedy_->hide();
    connect(remedy_, &QPushButton::clicked, this, [this] {
        if (!session_.findings().empty() && session_.findings().front().remedy)
            session_.apply_remedy(*session_.findings().front().remedy);
    });
    connect(&session_, &Session::changed, this, [this] {
        message_.clear();
        refresh();
    });
    connect(&session_, &Session::previewed, this, &ChecksLine::refresh);
    connect(&session_, &Session::verified, this, &ChecksLine::refresh);
    refresh();
}

void ChecksLine::say(const QString& sentence, bool bad) {
    message_ = sentence;
    message_bad_ = bad;
    message_working_ = false;
    refresh();
}

void ChecksLine::say_working(const QString& sentence) {
    say(sentence, false);
    message_working_ = true;
    update();
}

void ChecksLine::clear_message() {
    say({}, false);
}

void ChecksLine::refresh() {
    remedy_->hide();
    state_.clear();
    if (!message_.isEmpty()) {
        sentence_ = message_;
        status_ = message_bad_ ? 2 : 0;
    } else if (!session_.has_piece()) {
        sentence_ = "Nothing to check yet.";
        status_ = -1;
    } else if (session_.findings().empty()) {
        sentence_ = "Every check holds.";
        status_ = 0;
    } else {
        const Finding& worst = session_.findings().front();
        sentence_ = QString::fromStdString(worst.sentence);
        status_ = worst.severity == Severity::stop ? 2 : 1;
        if (worst.remedy) {
            remedy_->setText(QString::fromStdString(worst.remedy->label));
            remedy_->show();
        }
    }
    if (session_.has_piece()) {
        const auto n = session_.findings().size();
        QString solid;
        if (session_.solid())
            solid = session_.solid()->valid
                        ? QString("solid valid, %1 ms").arg(session_.solid()->milliseconds, 0, 'f', 1)
                        : QString("solid not valid");
        else if (session_.building())
            solid = "making the solid…";
        else
            solid = "no solid";
        state_ = (n > 1 ? QString("1 of %1 findings, ").arg(n) : QString()) + solid;
    }
    const QSize s = remedy_->sizeHint();
    state_rect_ = QRectF();
    QFontMetricsF m(text_font(11));
    const double sw = m.horizontalAdvance(state_);
    state_rect_ = QRectF(width() - sw - 18, 0, sw + 8, height());
    double right = state_rect_.left() - 14;
    if (remedy_->isVisibleTo(this)) {
        remedy_->setGeometry(int(right - s.width()), (height() - 28) / 2, s.width(), 28);
        right = remedy_->geometry().left() - 12;
    }
    const double left = status_ < 0 ? 16 : 94; // after the state's word
    sentence_rect_ = QRectF(left, 0, std::max(40.0, right - left), height());
    setToolTip(sentence_);
    update();
}

void ChecksLine::resizeEvent(QResizeEvent*) {
    refresh();
}

void ChecksLine::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    QColor ground = t.panel;
    if (status_ == 1) ground = t.dark ? QColor("#352E1F") : QColor("#FBF3DF");
    if (status_ == 2) ground = t.dark ? QColor("#3A2521") : QColor("#F8E6DF");
    p.fillRect(rect(), ground);
    p.setPen(QPen(t.hairline, 1));
    p.drawLine(0, 0, width(), 0);
    const double mid = height() / 2.0;
    if (status_ >= 0) draw_status(p, {22, mid}, static_cast<Status>(status_));
    p.setFont(text_font(13, Weight::medium));
    p.setPen(status_ == 2 ? t.stop : status_ == 1 ? (t.dark ? t.advice : QColor("#8A6110")) : t.active);
    const char* words[]{"fits", "advice", "stops"};
    QString word = status_ >= 0 ? words[status_] : "";
    if (!message_.isEmpty()) word = message_working_ ? "working" : message_bad_ ? "refused" : "done";
    p.drawText(QPointF(34, mid + 5), word);
    p.setFont(text_font(13));
    p.setPen(t.ink);
    // two lines if one is not enough
    const QFontMetricsF m(p.font());
    if (m.horizontalAdvance(sentence_) <= sentence_rect_.width()) {
        p.drawText(QPointF(sentence_rect_.left(), mid + 5), sentence_);
    } else {
        p.setFont(text_font(11));
        const QFontMetricsF small(p.font());
        QTextLayout layout(sentence_, p.font());
        layout.beginLayout();
        QTextLine line = layout.createLine();
        line.setLineWidth(sentence_rect_.width());
        const int cut = line.textLength();
        layout.endLayout();
        p.drawText(QPointF(sentence_rect_.left(), mid - 3), sentence_.left(cut).trimmed());
        p.drawText(QPointF(sentence_rect_.left(), mid + 12),
                   small.elidedText(sentence_.mid(cut).trimmed(), Qt::ElideRight, sentence_rect_.width()));
    }
    p.setFont(text_font(11));
    p.setPen(t.muted);
    p.drawText(state_rect_, Qt::AlignVCenter | Qt::AlignLeft, state_);
}

void ChecksLine::mousePressEvent(QMouseEvent*) {
    if (!message_.isEmpty())
        clear_message();
    else if (!session_.findings().empty())
        open_all();
}

void ChecksLine::open_all() {
    QMenu menu(this);
    for (const auto& f : session_.findings()) {
        auto* a = menu.addAction(QString("%1, zone %2: %3")
                                     .arg(f.severity == Severity::stop ? "stops" : "advice")
                                     .arg(f.zone + 1)
                                     .arg(QString::fromStdString(f.sentence)));
        const auto zone = f.zone;
        connect(a, &QAction::triggered, this, [this, zone] { session_.select(session_.piece(), zone); });
        if (f.remedy) {
            auto* r = menu.addAction("      remedy: " + QString::fromStdString(f.remedy->label));
            const Remedy remedy = *f.remedy;
            connect(r, &QAction::triggered, this, [this, remedy] { session_.apply_remedy(remedy); });
        }
    }
    menu.exec(mapToGlobal(QPoint(16, -menu.sizeHint().height())));
}

} // namespace whorl::app
