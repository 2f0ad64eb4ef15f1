#include "app/forms/spring_charts.hpp"

#include "app/point_knobs.hpp"
#include "app/theme.hpp"
#include "form/coil/coil_load.hpp"
#include "form/coil/spring_block.hpp"
#include "form/coil/station_places.hpp"
#include "model/forms/coil.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::app {
namespace {

QString text(double v, int decimals) {
    return QString::fromStdString(number_text(v, decimals));
}

// --- pitch and diameter over the turns ---

// A row's stations as they were typed: "De " before them, each "4.6", "2.1@3" or "2.1@z22".
struct StationWords {
    QString before;
    QStringList words;
    QString with(const QStringList& changed) const { return before + changed.join(".."); }
};
StationWords words_of(const QString& typed) {
    StationWords w;
    int at = 0;
    while (at < typed.size() && (typed[at].isLetter() || typed[at] == ' '))
        ++at;
    w.before = typed.left(at);
    const QString rest = typed.mid(at);
    w.words = rest.contains("..") ? rest.split("..") : rest.isEmpty() ? QStringList() : QStringList{rest};
    return w;
}

// A station as it is typed, of what the curve is at a turn. By itself: it is held while a knob is dragged, and the coil
// it came from is another one by then.
struct StationText {
    LengthUnit unit;
    double wider = 0; // of the diameter asked over the mean one
    bool heights = false;
    Centreline line;
    double base = 0; // height of its near end

    StationText(const ResolvedCoil& c, LengthUnit in, bool pitch)
        : unit(in), heights(by_height(pitch ? c.spec.pitch : c.spec.diameters)), line(c.line),
          base(station_height(c, 0)) {
        const CoilDiameter m = c.spec.measured;
        if (!pitch && m != CoilDiameter::mean) wider = m == CoilDiameter::outside ? c.wire : -c.wire;
    }
    QString value(double v, bool fine) const {
        return dragged_number(in_steps(v + wider, drag_grain(unit, fine)), unit);
    }
    QString place(double turn) const {
        return heights ? "@z" + dragged_number(base + line.height(full_turn * turn), unit)
                       : "@" + text(turn, 2);
    }
};

struct Band {
    const char* name;
    Field field;
    bool pitch = false;
    std::function<double(double turn)> value; // mm
    double low = 0, high = 0;
    bool changes = false;
};

class BandView {
public:
    BandView(DevelopedView& view, QPainter& p, const ResolvedCoil& c, Band band, const QRectF& in)
        : view_(view), p_(p), c_(c), band_(std::move(band)), in_(in), turns_(c.line.shape().turns),
          typed_(words_of(view.session().text_of(band_.field))) {
        band_.low = 1e9, band_.high = -1e9;
        for (int i = 0; i <= 400; ++i) {
            const double v = band_.value(turns_ * i / 400);
            band_.low = std::min(band_.low, v), band_.high = std::max(band_.high, v);
        }
        band_.changes = band_.high - band_.low > 1e-6 * band_.high;
        const double least = 0.3 * band_.high; // a number that doesn't change stands in the middle
        if (band_.high - band_.low < least) {
            const double middle = (band_.low + band_.high) / 2;
            band_.low = middle - least / 2, band_.high = middle + least / 2;
        }
    }

    void draw() {
        const Theme& t = theme();
        p_.setFont(text_font(11, Weight::medium));
        p_.setPen(t.muted);
        p_.drawText(QPointF(8, in_.center().y() + 4),
                    QString("%1  %2").arg(band_.name, QString(symbol(view_.session().unit()))));
        QPolygonF line;
        const int n = std::max(200, static_cast<int>(48 * turns_));
        for (int i = 0; i <= n; ++i)
            line << at(turns_ * i / n);
        p_.setPen(QPen(view_.session().hovered() == key() ? t.active : t.ink, 1.6));
        p_.setBrush(Qt::NoBrush);
        p_.drawPolyline(line);
        const QString shown =
            typed_.words.isEmpty() ? view_.shown(c_.pitch) + " follows" : typed_.with(typed_.words);
        p_.setFont(text_font(11));
        if (band_.changes) { // between what it goes
            p_.setPen(t.muted);
            draw_number(p_, in_.left() - 6, in_.top() + 4, view_.shown(band_.high));
            draw_number(p_, in_.left() - 6, in_.bottom() + 4, view_.shown(band_.low));
        }
        // in the middle, on the side where the curve is not
        double middle = 0;
        for (int i = 0; i <= 20; ++i)
            middle += at(turns_ * (0.35 + 0.015 * i)).y() / 21;
        const bool below = middle < in_.center().y() - 1;
        view_.dimension_text(
            p_,
            {in_.left() + 0.5 * in_.width() + (band_.changes ? 0 : 0.25 * in_.width()),
             below ? in_.bottom() - 4 : in_.top() + 4},
            shown,
            view_.spot_of(key(), band_.field,
                          "Several are spread over the turns, 4.6..2.1..4.6, or stand at turns, 2.1@3, or "
                          "heights, 2.1@z22. Click to type, or drag the squares and rings."));
        if (!c_.made_at) add_knobs(); // what is asked is of the free one
    }

private:
    QString key() const { return band_.pitch ? "pitch" : "mean_diameter"; }
    QPointF at(double turn) const {
        const double v = band_.value(turn);
        return {x_of(turn), in_.bottom() - (v - band_.low) / (band_.high - band_.low) * in_.height()};
    }
    double x_of(double turn) const { return in_.left() + turn / turns_ * in_.width(); }

    void add_knobs() {
        Session& session = view_.session();
        const LengthUnit unit = session.unit();
        const StationWords typed = typed_;
        const auto set = [&session, typed, field = band_.field](const QStringList& words) {
            (void)session.edit(field, typed.with(words));
        };
        // as long as a knob is held all is read by what was drawn when it was taken
        const auto read = [in = in_, low = band_.low, high = band_.high, turns = turns_](QPointF to) {
            return QPointF((to.x() - in.left()) / in.width() * turns,
                           low + (in.bottom() - to.y()) / in.height() * (high - low));
        };
        const StationText said(c_, unit, band_.pitch);
        const std::vector<double> places = band_.pitch ? pitch_places(c_) : diameter_places(c_);
        const QStringList words =
            typed.words.isEmpty() ? QStringList{said.value(c_.pitch, true)} : typed.words;
        const double from = band_.pitch ? c_.active_from : 0, to = band_.pitch ? c_.active_to : turns_;
        const auto between = [=](double turn) { // clear of the stations at both ends
            const double clear = std::min(0.05, (to - from) / 4);
            return std::clamp(turn, from + clear, to - clear);
        };
        const auto ring = [&](int behind, double turn) {
            view_.add_knob(p_, {.key = QString("%1_between_%2").arg(key()).arg(behind),
                                .at = at(turn),
                                .ring = true,
                                .tip = "Drag for a new station here",
                                .drag = [=](QPointF where, bool fine) {
                                    QStringList all = words;
                                    if (all.size() == 1) all << all[0]; // both ends stay as they were
                                    const QPointF v = read(where);
                                    all.insert(behind + 1,
                                               said.value(v.y(), fine) + said.place(between(v.x())));
                                    set(all);
                                }});
        };
        const auto square = [&](int i, double turn, bool may_move) {
            const double value = band_.value(turn);
            const auto move = [=](double now_turn, double now_value, bool fine) {
                QStringList all = words;
                const bool keep = !may_move || std::abs(now_turn - turn) < 0.03 * (to - from);
                const auto sign = words[i].indexOf('@');
                all[i] = said.value(now_value, fine) +
                         (keep ? (sign < 0 ? QString() : words[i].mid(sign)) : said.place(between(now_turn)));
                set(all);
            };
            view_.add_knob(
                p_, {.key = QString("%1_%2").arg(key()).arg(i),
                     .at = at(turn),
                     .tip = "Drag it, or move it with the arrow keys; Delete takes it out",
                     .drag = [=](QPointF where, bool fine) { move(read(where).x(), read(where).y(), fine); },
                     .nudge =
                         [=](int right, int up) {
                             move(turn + right * 0.05 * (to - from), value + up * drag_grain(unit, false),
                                  false);
                         },
                     .remove =
                         [=] {
                             QStringList all = words;
                             if (all.size() < 2) return;
                             all.removeAt(i);
                             set(all);
                         }});
        };
        if (words.size() == 1 || places.size() != static_cast<std::size_t>(words.size())) {
            if (words.size() != 1) return; // "De (22)..18" and the like, which only typing changes
            ring(0, (from + to) / 2);
            return square(0, from, false);
        }
        for (int i = 0; i + 1 < words.size(); ++i)
            ring(i, (places[static_cast<std::size_t>(i)] + places[static_cast<std::size_t>(i) + 1]) / 2);
        for (int i = 0; i < words.size(); ++i)
            square(i, places[static_cast<std::size_t>(i)],
                   words[i].contains('@') || (i > 0 && i + 1 < words.size()));
    }

    DevelopedView& view_;
    QPainter& p_;
    const ResolvedCoil& c_;
    Band band_;
    QRectF in_;
    double turns_;
    StationWords typed_;
};

// The dead turns behind the bands, and the turns under them.
void draw_turns(QPainter& p, const ResolvedCoil& c, const QRectF& in) {
    const Theme& t = theme();
    const double turns = c.line.shape().turns;
    const auto x = [&](double turn) { return in.left() + turn / turns * in.width(); };
    p.fillRect(in, t.field);
    QColor shade = t.part_fill;
    shade.setAlphaF(0.6f);
    for (const bool far : {false, true})
        if (const double dead = c.turns_at(far).dead; dead > 0)
            p.fillRect(QRectF(QPointF(x(far ? turns - dead : 0), in.top()),
                              QPointF(x(far ? turns : dead), in.bottom())),
                       shade);
    p.setFont(text_font(11));
    const QFontMetricsF m(p.font());
    const double step = std::max(1.0, std::ceil(turns / (in.width() / 34)));
    for (double turn = 0; turn <= turns + 1e-9; turn += step) {
        const QString words = text(turn, 2);
        p.setPen(QPen(t.hairline, 1));
        p.drawLine(QPointF(x(turn), in.top()), QPointF(x(turn), in.bottom()));
        p.setPen(t.muted);
        p.drawText(QPointF(x(turn) - m.horizontalAdvance(words) / 2, in.bottom() + 13), words);
    }
}

// --- load over length ---

class LoadView {
public:
    LoadView(DevelopedView& view, QPainter& p, const ResolvedCoil& c, const QRectF& in)
        : view_(view), p_(p), c_(c), in_(in), torsion_(c.spec.kind == SpringKind::torsion),
          compression_(c.spec.kind == SpringKind::compression), most_(c.curve.points().back()) {}

    void draw() {
        const Theme& t = theme();
        p_.fillRect(in_, t.field);
        if (most_.travel <= 0 || most_.load <= 0) {
            p_.setFont(text_font(13));
            p_.setPen(t.muted);
            p_.drawText(in_, Qt::AlignCenter | Qt::TextWordWrap,
                        "It is solid as it stands: there is no travel to draw a load over.");
            return;
        }
        draw_scales();
        QPolygonF line, stress;
        double highest = 0;
        for (const LoadCurve::Point& q : c_.curve.points())
            highest = std::max(highest, q.stress);
        const ResolvedValue* permitted = find_value(c_.values, "permissible_stress");
        const double scale = std::max(highest, permitted && permitted->value ? *permitted->value : 0.0);
        const auto stress_y = [&](double s) { return in_.bottom() - s / scale * in_.height() * 0.94; };
        for (const LoadCurve::Point& q : c_.curve.points()) {
            line << at(q);
            stress << QPointF(at(q).x(), stress_y(q.stress));
        }
        draw_limits();
        p_.setFont(text_font(11));
        if (permitted && permitted->value) {
            p_.setPen(QPen(t.advice, 1, Qt::DashLine));
            p_.drawLine(QPointF(in_.left(), stress_y(*permitted->value)),
                        QPointF(in_.right(), stress_y(*permitted->value)));
        }
        p_.setPen(QPen(t.part, 1.1, Qt::DashLine));
        p_.drawPolyline(stress);
        p_.setPen(QPen(t.ink, 1.8));
        p_.drawPolyline(line);
        if (const ResolvedValue* gap = find_value(c_.values, "least_gap"); gap && gap->value) {
            upright(most_.travel - *gap->value, t.active, Qt::DashLine);
            const QString words = "Ln " + shown(most_.travel - *gap->value);
            const double w = QFontMetricsF(p_.font()).horizontalAdvance(words),
                         x = x_of(most_.travel - *gap->value) - w / 2;
            if (x + w < in_.right() - 70 && x > in_.left() + 80) {
                p_.setPen(t.active);
                p_.drawText(QPointF(x, in_.bottom() + 13), words);
            }
        }
        for (const SprungState& s : c_.spec.works)
            point(at_state(c_, s));
        // below the curves, which only rise
        const QString words = QString("%1 %2 MPa, dashed").arg(torsion_ ? "σ" : "τ", text(highest, 0));
        const double w = QFontMetricsF(p_.font()).horizontalAdvance(words);
        const QRectF box(in_.right() - w - 6, in_.bottom() - 17, w + 4, 15);
        p_.fillRect(box, t.field);
        p_.setPen(t.part);
        p_.drawText(box, Qt::AlignCenter, words);
        draw_state();
    }

private:
    // Between which the load may lie, EN 15800.
    void draw_limits() {
        const auto t = spring_tolerance(c_);
        if (!t) return;
        QPolygonF band;
        for (const double side : {1.0, -1.0})
            for (int i = 0; i <= 40; ++i) {
                LoadCurve::Point q = c_.curve.at_travel(most_.travel * (side > 0 ? i : 40 - i) / 40);
                q.load = std::clamp(q.load + side * t->load(q.load), 0.0, 1.06 * most_.load);
                band << at(q);
            }
        p_.setPen(Qt::NoPen);
        p_.setBrush(theme().part_fill);
        p_.drawPolygon(band);
        p_.setBrush(Qt::NoBrush);
    }
    double x_of(double travel) const { return in_.left() + travel / (1.03 * most_.travel) * in_.width(); }
    QPointF at(const LoadCurve::Point& q) const {
        return {x_of(q.travel), in_.bottom() - q.load / most_.load * in_.height() * 0.94};
    }
    QString shown(double travel) const {
        return torsion_ ? text(travel, 1) + "°" : view_.shown(standing(c_, travel));
    }
    void upright(double travel, const QColor& ink, Qt::PenStyle style) {
        if (travel <= 0) return;
        p_.setPen(QPen(ink, 1, style));
        p_.drawLine(QPointF(x_of(travel), in_.top()), QPointF(x_of(travel), in_.bottom()));
    }
    void point(const LoadCurve::Point& q) {
        upright(q.travel, theme().hairline, Qt::SolidLine);
        p_.setPen(QPen(theme().active, 1.4));
        p_.setBrush(theme().active);
        p_.drawEllipse(at(q), 3, 3);
        p_.setBrush(Qt::NoBrush);
    }
    void draw_scales() {
        const Theme& t = theme();
        p_.setFont(text_font(11, Weight::medium));
        p_.setPen(t.muted);
        p_.drawText(QPointF(8, in_.top() + 11), torsion_ ? "M  N·mm" : "F  N");
        p_.setFont(text_font(11));
        p_.setPen(t.ink);
        draw_number(p_, in_.left() - 6, at(most_).y() + (at(most_).y() < in_.top() + 16 ? 22 : 4),
                    text(most_.load, most_.load < 100 ? 1 : 0));
        p_.setPen(t.muted);
        const QFontMetricsF m(p_.font());
        const auto under = [&](double travel, const QString& words, bool from_right) {
            const double w = m.horizontalAdvance(words);
            p_.drawText(QPointF(from_right ? std::min(x_of(travel) - w / 2, in_.right() - w) : x_of(travel),
                                in_.bottom() + 13),
                        words);
        };
        under(0, torsion_ ? "free" : "L0 " + shown(0), false);
        under(most_.travel, (compression_ ? "Lc " : torsion_ ? "" : "Ln ") + shown(most_.travel), true);
    }
    // Where it stands: a square on the curve, and its numbers.
    void draw_state() {
        Session& session = view_.session();
        const LoadCurve::Point now = c_.made_at.value_or(c_.curve.points().front());
        const bool torsion = torsion_, compression = compression_;
        const double free = c_.free_length, most = most_.travel;
        const LengthUnit unit = session.unit();
        const auto stand = [=, &session](double travel, bool fine) {
            const double grain = torsion ? (fine ? 0.1 : 1) : drag_grain(unit, fine),
                         to = std::clamp(travel, 0.0, most);
            const double place = torsion ? to : free + (compression ? -to : to),
                         even = in_steps(place, grain);
            // never beyond what it can
            const double kept = std::abs(even - (torsion ? 0 : free)) > most ? place : even;
            const bool is_free = to < grain / 2;
            (void)session.edit(field::made_at, is_free   ? QString()
                                               : torsion ? text(kept, 2)
                                                         : dragged_number(kept, unit));
        };
        const auto travel_at = [in = in_, most](double x) {
            return (x - in.left()) / in.width() * 1.03 * most;
        };
        view_.add_knob(
            p_, {.key = "state_knob",
                 .at = at(now),
                 .tip = "Drag it along the curve: the spring stands under that load. Delete sets it free",
                 .drag = [=](QPointF to, bool fine) { stand(travel_at(to.x()), fine); },
                 .nudge =
                     [=](int right, int) {
                         stand(now.travel + right * (torsion ? 1 : drag_grain(unit, false)), false);
                     },
                 .remove = [=] { stand(0, false); }});
        p_.setFont(text_font(11));
        double x = in_.left() + 4, y = in_.top() + 8;
        const auto say = [&](const QString& words, Canvas::Spot spot) {
            const double w = number_width(p_.font(), words) + 8;
            if (x + w > in_.right() && x > in_.left() + 4)
                x = in_.left() + 4, y += 17; // under the one before
            view_.dimension_text(p_, {x + w / 2, y}, words, std::move(spot));
            x += w + 4;
        };
        const QString load = text(now.load, now.load < 100 ? 2 : 1) + (torsion ? " N·mm" : " N");
        say(c_.made_at ? shown(now.travel) + ", " + load + ", " + text(now.stress, 0) + " MPa" : "free",
            view_.spot_of("made_length", field::made_at,
                          "The state it is made in. Click to type a length (32), a force (40N), of torsion "
                          "springs an angle or "
                          "500Nmm; or drag the square along the curve."));
        say(c_.spec.works.empty() ? "works between …" : "works " + session.text_of(field::works),
            view_.spot_of("length_1", field::works,
                          "What it works between: 32..24, 40N..65N. Loads, stresses and their range follow "
                          "in the sheet."));
    }

    DevelopedView& view_;
    QPainter& p_;
    const ResolvedCoil& c_;
    QRectF in_;
    bool torsion_, compression_;
    LoadCurve::Point most_;
};

// Upper over lower stress: one's own line, the stresses it works between, and the bisector on which nothing ranges.
void draw_fatigue(DevelopedView& view, QPainter& p, const ResolvedCoil& c, const QRectF& in) {
    const Theme& t = theme();
    const FatigueLine line = *c.spec.fatigue;
    const auto [low, high] = *working_stresses(c);
    const double scale = 1.05 * std::max(line.meet, high);
    const auto at = [&](double lower, double upper) {
        return QPointF(in.left() + lower / scale * in.width(), in.bottom() - upper / scale * in.height());
    };
    p.fillRect(in, t.field);
    p.setPen(QPen(t.hairline, 1));
    p.drawLine(at(0, 0), at(scale, scale));
    p.setPen(QPen(t.ink, 1.6));
    p.drawLine(at(0, line.zero), at(line.meet, line.meet));
    const bool over = high > line.upper(low) + 1e-9;
    p.setPen(QPen(over ? t.advice : t.active, 2));
    p.drawLine(at(low, low), at(low, high));
    p.setBrush(over ? t.advice : t.active);
    p.drawEllipse(at(low, high), 3, 3);
    p.setBrush(Qt::NoBrush);
    p.setFont(text_font(11));
    p.setPen(t.muted);
    const char* letter = c.spec.kind == SpringKind::torsion ? "σ" : "τ";
    p.drawText(QPointF(in.left() + 2, in.bottom() + 13), QString("%1u  MPa").arg(letter));
    const QString upper = QString("%1o").arg(letter);
    p.drawText(QPointF(in.left() - 6 - QFontMetricsF(p.font()).horizontalAdvance(upper), in.top() + 11),
               upper);
    const QString words = QString("fatigue %1").arg(view.session().text_of(field::fatigue));
    view.dimension_text(
        p, {in.left() + number_width(p.font(), words) / 2 + 8, in.top() + 8}, words,
        view.spot_of(
            "fatigue_upper", field::fatigue,
            "Your own fatigue line: the upper stress at a lower of 0, and where both meet. Click to type."));
    const QString range = QString("%1…%2").arg(text(low, 0), text(high, 0));
    p.setPen(over ? t.advice : t.active);
    p.drawText(QRectF(in.left(), in.bottom() - 16, in.width() - 4, 14), Qt::AlignRight | Qt::AlignVCenter,
               range);
}

} // namespace

void draw_spring_charts(DevelopedView& view, QPainter& p, const ResolvedZone& zone) {
    const ResolvedCoil& c = *zone.coil();
    view.draw_title(p, "Over the turns",
                    QString("%1 turns, %2 %3 of wire; load over %4")
                        .arg(text(c.total, 3), view.shown(c.wire_length),
                             QString(symbol(view.session().unit())),
                             c.spec.kind == SpringKind::torsion ? "angle" : "length"));
    std::vector<Band> bands;
    if (c.spec.kind != SpringKind::extension)
        bands.push_back(
            {"p", field::pitch, true, [&](double turn) { return c.line.pitch(full_turn * turn); }});
    bands.push_back(
        {"D", field::coil_diameter, false, [&](double turn) { return 2 * c.line.radius(full_turn * turn); }});
    const double left = 58, right = view.width() - 14.0, top = 32, all = view.height() - top - 18 - 22;
    const double upper = all * (bands.size() > 1 ? 0.52 : 0.32);
    const QRectF turns(left, top, right - left, upper);
    draw_turns(p, c, turns);
    const double high = upper / static_cast<double>(bands.size());
    for (std::size_t i = 0; i < bands.size(); ++i) {
        const double y = top + high * static_cast<double>(i);
        if (i > 0) {
            p.setPen(QPen(theme().hairline, 1));
            p.drawLine(QPointF(left, y), QPointF(right, y));
        }
        BandView(view, p, c, bands[i], QRectF(left, y + 8, right - left, high - 16)).draw();
    }
    QRectF lower(left, top + upper + 24, right - left, all - upper - 2);
    if (c.spec.fatigue && working_stresses(c)) { // beside the load, as high as wide where there is room
        const double wide = std::min(lower.height(), 0.4 * lower.width());
        draw_fatigue(view, p, c, QRectF(lower.right() - wide, lower.top(), wide, lower.height()));
        lower.setRight(lower.right() - wide - 52);
    }
    LoadView(view, p, c, lower).draw();
}

} // namespace whorl::app
