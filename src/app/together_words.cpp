// What is written over the pieces as they stand: where the selected one stands, what keeps the job from standing, clashes.
#include "app/together_view.hpp"

#include "app/theme.hpp"
#include "app/view_words.hpp"
#include "model/free_place.hpp"
#include "model/pair_model.hpp"
#include "quantity/expression.hpp"

#include <QPainter>

namespace whorl::app {
namespace {

QString name_of(const Job& job, std::size_t piece) {
    return QString::fromStdString(job.pieces.at(piece).name);
}

QString lowered(const char* word) {
    QString out(word);
    if (!out.isEmpty()) out[0] = out[0].toLower();
    return out;
}

} // namespace

// Where the selected piece stands, up to the number.
QString TogetherView::stand_text() const {
    const Job& job = session_.job();
    const std::size_t here = session_.piece();
    if (here >= still_.pieces.size()) return {};
    const Placed& is = still_.pieces[here];
    const QString name = name_of(job, here);
    if (!is.by)
        return job.pieces[here].stands.text.empty() ? name + " stands where its group begins, at"
                                                    : name + " stands at";
    const Pair& pair = job.pairs[*is.by];
    const QString other = name_of(job, pair.first.piece == here ? pair.second.piece : pair.first.piece);
    const Freedom freedom = freedom_of(job, pair);
    if (freedom == Freedom::none) return name + " stands by " + other;
    return name + " stands by " + other + ", " + lowered(word(freedom));
}

Input TogetherView::stand_input() const {
    const Job& job = session_.job();
    const std::size_t here = session_.piece();
    Input in;
    in.key = "stands";
    if (here >= still_.pieces.size()) return in;
    const Placed& is = still_.pieces[here];
    const LengthUnit unit = session_.unit();
    if (!is.by) {
        const Number& typed = job.pieces[here].stands;
        in.initial = QString::fromStdString(typed.text.empty() ? written({is.at.origin, {}}, unit)
                                            : typed.unit == unit
                                                ? typed.text
                                                : written(*free_place(typed, resolve_names(job)), unit));
        in.tip = "x y z of its origin, then, where it is turned, by how much about each axis: 10 20 5 turned "
                 "0 90 0. Empty: "
                 "beside the others";
        in.commit = [this, here, unit](const QString& text) {
            return session_.change([&](const Job& j) {
                return place_piece(j, here, {text.trimmed().toStdString(), unit});
            });
        };
        return in;
    }
    const std::size_t pair = *is.by;
    const Freedom freedom = freedom_of(job, job.pairs[pair]);
    if (freedom == Freedom::none || !is.held) return in;
    const bool angle = is_angle(freedom);
    const auto shown = [&](double v) {
        return QString::fromStdString(angle ? number_text(in_deg(rad(v)), 3) : length_text(mm(v), unit));
    };
    const Number& typed = job.pairs[pair].stands;
    in.initial =
        typed.text.empty() || typed.unit != unit ? shown(is.held->at) : QString::fromStdString(typed.text);
    in.tip = is.held->range.high < 1e5 ? QString("From %1 to %2; empty: %3, as is usual")
                                             .arg(shown(is.held->range.low), shown(is.held->range.high),
                                                  shown(is.held->range.usual))
                                       : QString("Empty: %1, as is usual").arg(shown(is.held->range.usual));
    in.commit = [this, pair, unit](const QString& text) {
        return session_.change([&](const Job& j) {
            return place_pair(j, pair, {text.trimmed().toStdString(), unit});
        });
    };
    return in;
}

bool TogetherView::edit_stand() {
    if (!session_.has_piece()) return false;
    const Input input = stand_input();
    if (!input.typed()) return false;
    const double w = std::max(stand_at_.width() + 24, 90.0);
    editor_->open(input, QRect(int(stand_at_.left()) - 6, int(stand_at_.top()) - 3, int(w),
                               int(stand_at_.height()) + 6));
    return true;
}

double TogetherView::draw_stand(QPainter& p, double baseline) {
    const Theme& t = theme();
    p.setFont(text_font(13));
    const QFontMetricsF m(p.font());
    const QString text = m.elidedText(stand_text(), Qt::ElideMiddle, width() - 330.0);
    p.setPen(t.ink);
    p.drawText(QPointF(16, baseline), text);
    double x = 16 + m.horizontalAdvance(text) + 6;
    const Input input = stand_input();
    if (!input.typed()) return x;
    const Placed& is = still_.pieces[session_.piece()];
    const Job& job = session_.job();
    const bool angle = is.by && is_angle(freedom_of(job, job.pairs[*is.by]));
    const QString number = input.initial + (angle ? "°" : QString(" ") + symbol(session_.unit()));
    const bool usual =
        is.by ? job.pairs[*is.by].stands.text.empty() : job.pieces[session_.piece()].stands.text.empty();
    p.setPen(usual ? t.muted : t.active);
    p.drawText(QPointF(x, baseline), number);
    stand_at_ = QRectF(x, baseline - 14, m.horizontalAdvance(number), 18);
    p.setPen(QPen(t.active, 1, Qt::DotLine));
    p.drawLine(QPointF(x, baseline + 3), QPointF(stand_at_.right(), baseline + 3));
    words_.push_back({stand_at_.adjusted(-4, -4, 4, 4), [this] { edit_stand(); }});
    return stand_at_.right();
}

void TogetherView::draw_words(QPainter& p) {
    const Theme& t = theme();
    p.setFont(text_font(11, Weight::semibold));
    p.setPen(t.muted);
    p.drawText(QPointF(16, 20), "Together");
    double x = 16 + QFontMetricsF(p.font()).horizontalAdvance("Together") + 10;
    p.setFont(text_font(11, cut_ ? Weight::medium : Weight::regular));
    const QString cut_text = cut_ ? QString("cut at %1°").arg(cut_angle_, 0, 'f', 0) : QString("whole");
    const QFontMetricsF m(p.font());
    p.setPen(t.active);
    p.drawText(QPointF(x, 20), cut_text);
    words_.push_back({QRectF(x - 4, 6, m.horizontalAdvance(cut_text) + 8, 20), [this] { set_cut(!cut_); }});
    x += m.horizontalAdvance(cut_text) + 14;
    p.setFont(text_font(11));
    p.setPen(t.muted);
    const std::size_t n = session_.job().pieces.size(), there = n - std::min(n, maker_.missing());
    QString count = QString::number(n) + (n == 1 ? " piece" : " pieces");
    if (still_.groups > 1) count += QString(" in %1 groups").arg(still_.groups);
    p.drawText(QPointF(x, 20),
               maker_.missing() ? QString("making %1 of %2 pieces").arg(there).arg(n) : count);
    draw_look_words(p, width(), camera_, look_words_);
}

void TogetherView::draw_clashes(QPainter& p) {
    if (!maker_.clashes() || maker_.clashes()->empty()) return;
    const Theme& t = theme();
    const Job& job = session_.job();
    const auto& all = *maker_.clashes();
    double y = 44;
    p.setFont(text_font(13));
    const QFontMetricsF m(p.font());
    constexpr std::size_t most = 5;
    for (std::size_t i = 0; i < std::min(all.size(), most); ++i, y += 20) {
        const QString text =
            m.elidedText(name_of(job, all[i].one) + " stands in " + name_of(job, all[i].other),
                         Qt::ElideMiddle, width() - 60.0);
        const QRectF row(12, y - 15, m.horizontalAdvance(text) + 32, 20);
        p.setPen(Qt::NoPen);
        QColor ground = t.paper;
        ground.setAlpha(215);
        p.setBrush(ground);
        p.drawRoundedRect(row, 3, 3);
        draw_status(p, {22, y - 5}, Status::advice);
        p.setPen(t.ink);
        p.drawText(QPointF(34, y), text);
        // to whichever of the two is not looked at
        words_.push_back({row, [this, c = all[i]] {
                              const std::size_t to = session_.piece() == c.one ? c.other : c.one;
                              session_.select(to, session_.telling_zone(to));
                          }});
    }
    if (all.size() > most) {
        p.setPen(t.muted);
        p.drawText(QPointF(34, y), QString("and %1 more").arg(all.size() - most));
    }
}

void TogetherView::draw_overlay(QPainter& p) {
    p.setRenderHint(QPainter::Antialiasing);
    words_.clear();
    stand_at_ = {};
    draw_words(p);
    if (!ready_) {
        p.setFont(text_font(13));
        p.setPen(theme().stop);
        p.drawText(QRectF(20, 40, width() - 40, height() - 60), Qt::TextWordWrap,
                   "This display offers no OpenGL 3.3, so the pieces can't be shown together. Everything "
                   "else works, "
                   "exports too.");
        return;
    }
    if (!session_.has_piece()) return;
    draw_clashes(p);
    draw_stand(p, height() - 22);
    if (!trouble_.isEmpty()) {
        p.setFont(text_font(13));
        const QFontMetricsF m(p.font());
        const QRectF room(34, 0, width() - 210, 1000);
        const double h = m.boundingRect(room, Qt::TextWordWrap, trouble_).height();
        p.setPen(theme().stop);
        draw_status(p, {22, height() - 44 - h + 9}, Status::stops);
        p.drawText(QRectF(34, height() - 44 - h, room.width(), h + 2), Qt::TextWordWrap, trouble_);
    }
    draw_scale(p, size(), camera_.pixel(), session_.unit());
}

} // namespace whorl::app
