// What is written over the solid: title, views, hand and lead, scale bar; what
// stops.
#include "app/solid_view.hpp"

#include "app/theme.hpp"
#include "app/view_words.hpp"
#include "quantity/expression.hpp"

#include <QPainter>
#include <cmath>

namespace whorl::app {

// How far the counterpart is on, and how far it still goes.
QString SolidView::mating_text() const {
    const Mating& m = session_.together()->mating;
    if (m.seated_by == SeatedBy::mismatch) return "They don't go together; the checks say why";
    const double at = travel(), engaged = m.engaged(at), lead = std::abs(m.lead);
    const auto turns = [&](double mm_along) {
        return QString::fromStdString(number_text(std::abs(mm_along) / lead, 2)) + " turns";
    };
    const QString length = QString::fromStdString(number_text(in_unit(mm(engaged), session_.unit()),
                                                              session_.unit() == LengthUnit::inch ? 3 : 2)) +
                           " " + symbol(session_.unit());
    const QString on = engaged > 0 ? "Engaged " + length + ", " + turns(engaged) : "Apart";
    if (std::abs(at - m.seated) < 1e-6)
        return on + (m.seated_by == SeatedBy::taper      ? "; tight"
                     : m.seated_by == SeatedBy::shoulder ? "; against the shoulder"
                                                         : "; off the other end");
    return on + "; " + turns(at - m.seated) +
           (m.seated_by == SeatedBy::taper      ? " until tight"
            : m.seated_by == SeatedBy::shoulder ? " to the shoulder"
                                                : " to the other end");
}

// The words in the title's line that switch: cut or whole, alone or together, from where it is seen.
void SolidView::draw_words(QPainter& p) {
    const Theme& t = theme();
    p.setFont(text_font(11, Weight::semibold));
    p.setPen(t.muted);
    p.drawText(QPointF(16, 20), "Solid");
    double x = 16 + QFontMetricsF(p.font()).horizontalAdvance("Solid") + 10;
    p.setFont(text_font(11, cut_ ? Weight::medium : Weight::regular));
    const QString cut_text = cut_ ? QString("cut at %1°").arg(cut_angle_, 0, 'f', 0) : QString("whole");
    const QFontMetricsF m(p.font());
    p.setPen(t.active);
    p.drawText(QPointF(x, 20), cut_text);
    cut_word_ = QRectF(x - 4, 6, m.horizontalAdvance(cut_text) + 8, 20);
    together_word_ = {};
    const auto& mesh = session_.mesh();
    const auto& pair = session_.together();
    const auto& follower = session_.follower();
    const auto& beside = session_.beside();
    if (mesh || pair || follower || beside) {
        x += m.horizontalAdvance(cut_text) + 14;
        const Piece& there = mesh     ? session_.job().pieces[mesh->there.piece]
                             : beside ? session_.job().pieces[beside->there.piece]
                             : pair   ? session_.job().pieces[pair->there.piece]
                                      : follower->piece;
        const QString name = QString::fromStdString(there.name);
        const bool with = together_ || follower_shown();
        p.setFont(text_font(11, with ? Weight::medium : Weight::regular));
        const QFontMetricsF w(p.font());
        const QString text = with ? w.elidedText("with " + name, Qt::ElideRight, width() / 2.6) : "alone";
        p.drawText(QPointF(x, 20), text);
        together_word_ = QRectF(x - 4, 6, w.horizontalAdvance(text) + 8, 20);
    }
    draw_look_words(p, width(), camera_, words_);
}

void SolidView::draw_last_good(QPainter& p) const {
    const Theme& t = theme();
    const QString note =
        piece_.made() ? "The last solid that could be made" : "No solid can be made of this; see the checks";
    p.setFont(text_font(13, Weight::medium));
    const double w = QFontMetricsF(p.font()).horizontalAdvance(note) + 36;
    const QRectF box((width() - w) / 2, 34, w, 26);
    p.setPen(QPen(t.stop, 1));
    p.setBrush(t.paper);
    p.drawRoundedRect(box, 4, 4);
    draw_status(p, {box.left() + 14, box.center().y()}, Status::stops);
    p.setPen(t.stop);
    p.drawText(QPointF(box.left() + 26, box.center().y() + 5), note);
}

void SolidView::draw_mating(QPainter& p) const {
    const Theme& t = theme();
    const bool stopped = session_.together()->mating.seated_by == SeatedBy::mismatch;
    p.setFont(text_font(13));
    p.setPen(stopped ? t.stop : t.ink);
    if (stopped) draw_status(p, QPointF(22, height() - 58), Status::stops);
    p.drawText(QPointF(stopped ? 34 : 16, height() - 53), mating_text());
}

void SolidView::draw_mesh_words(QPainter& p, const ShownMesh& mesh) const {
    const auto length = [&](double v) {
        return QString::fromStdString(length_text(mm(v), session_.unit())) + " " + symbol(session_.unit());
    };
    const QString text = mesh.rack ? QString("%1 teeth on %2, %3 a turn; axis to reference %4")
                                         .arg(mesh.first.spec.teeth)
                                         .arg(mesh.rack->teeth)
                                         .arg(length(2 * std::numbers::pi * mesh.mesh.first_radius))
                                         .arg(length(mesh.mesh.centre))
                                   : QString("%1 : %2, the other turns %3; centres %4")
                                         .arg(mesh.here_zone.gear()->spec.teeth)
                                         .arg(mesh.there_zone.gear()->spec.teeth)
                                         .arg(mesh.mesh.internal ? "the same way" : "the other way")
                                         .arg(length(mesh.mesh.centre));
    p.setFont(text_font(11));
    p.setPen(theme().muted);
    p.drawText(QPointF(16, height() - 27), text);
}

// Which way it winds and how far it goes in a turn, in words and as an arrow seen from the far end.
void SolidView::draw_winding(QPainter& p, const ThreadSection& s) const {
    const Theme& t = theme();
    const bool left = s.hand == Hand::left;
    const QRectF ring(18, height() - 40, 34, 18);
    p.setPen(QPen(t.muted, 1.4));
    p.setBrush(Qt::NoBrush);
    p.drawArc(ring, left ? 120 * 16 : -220 * 16, 280 * 16);
    const double end = (left ? 120 : 60) * std::numbers::pi / 180;
    const QPointF tip =
        ring.center() + QPointF(ring.width() / 2 * std::cos(end), -ring.height() / 2 * std::sin(end));
    arrow_head(p, tip + QPointF(left ? 2 : -2, 0), left ? QPointF(1, -0.35) : QPointF(-1, -0.35));
    p.setFont(text_font(11));
    p.setPen(t.muted);
    p.drawText(QPointF(62, height() - 27),
               QString("%1-hand%2, advances %3 %4 a turn")
                   .arg(left ? "left" : "right")
                   .arg(s.starts > 1 ? QString(", %1 starts").arg(s.starts) : QString())
                   .arg(QString::fromStdString(number_text(in_unit(mm(s.lead()), session_.unit()), 4)))
                   .arg(symbol(session_.unit())));
}

void SolidView::draw_overlay(QPainter& p) {
    p.setRenderHint(QPainter::Antialiasing);
    draw_words(p);
    if (!ready_) {
        p.setFont(text_font(13));
        p.setPen(theme().stop);
        p.drawText(QRectF(20, 40, width() - 40, height() - 60), Qt::TextWordWrap,
                   "This display offers no OpenGL 3.3, so the solid can't be shown. Everything else works, "
                   "exports too.");
        return;
    }
    if (!session_.has_piece()) return;
    if (session_.preview() && !session_.preview()->made()) draw_last_good(p);
    if (pair_shown()) draw_mating(p);
    if (const auto& mesh = session_.mesh(); mesh && mesh->mesh.meshes) draw_mesh_words(p, *mesh);
    if (const ResolvedZone* z = session_.resolved_zone(); z && z->thread())
        draw_winding(p, z->thread()->section);
    if (piece_.made()) draw_scale(p, size(), camera_.pixel(), session_.unit());
}

} // namespace whorl::app
