#include "app/theme.hpp"

#include <QApplication>
#include <QFontDatabase>
#include <QFontMetricsF>
#include <QPainterPath>
#include <QPalette>
#include <QPixmapCache>
#include <QStyleFactory>
#include <cmath>

namespace whorl::app {
namespace {

Theme make(bool dark) {
    Theme t;
    t.dark = dark;
    if (dark) {
        t.paper = QColor("#1B2024");
        t.panel = QColor("#242A2F");
        t.ink = QColor("#E6E1D6");
        t.muted = QColor("#98A0A3");
        t.hairline = QColor("#3B444A");
        t.active = QColor("#6DB5AC");
        t.active_tint = QColor("#243A39");
        t.part = QColor("#D2A353");
        t.part_fill = QColor("#3A342A");
        t.stop = QColor("#E27D63");
        t.advice = QColor("#E0B04E");
        t.field = QColor("#161B1E");
    } else {
        t.paper = QColor("#F7F4ED");
        t.panel = QColor("#EFEAE0");
        t.ink = QColor("#1E2A32");
        t.muted = QColor("#68707A");
        t.hairline = QColor("#CFC7B8");
        t.active = QColor("#2C6E68");
        t.active_tint = QColor("#E2ECE7");
        t.part = QColor("#A8782A");
        t.part_fill = QColor("#EFE5CF");
        t.stop = QColor("#B0452C");
        t.advice = QColor("#C08A1E");
        t.field = QColor("#FFFDF8");
    }
    return t;
}

Theme& current() {
    static Theme t = make(false);
    return t;
}

} // namespace

const Theme& theme() {
    return current();
}

void set_theme(bool dark) {
    current() = make(dark);
    const Theme& t = current();
    QPalette p;
    p.setColor(QPalette::Window, t.panel);
    p.setColor(QPalette::WindowText, t.ink);
    p.setColor(QPalette::Base, t.field);
    p.setColor(QPalette::AlternateBase, t.panel);
    p.setColor(QPalette::Text, t.ink);
    p.setColor(QPalette::PlaceholderText, t.muted);
    p.setColor(QPalette::Button, t.panel);
    p.setColor(QPalette::ButtonText, t.ink);
    p.setColor(QPalette::ToolTipBase, t.field);
    p.setColor(QPalette::ToolTipText, t.ink);
    p.setColor(QPalette::Highlight, t.active);
    p.setColor(QPalette::HighlightedText, t.paper);
    p.setColor(QPalette::Disabled, QPalette::Text, t.muted);
    p.setColor(QPalette::Disabled, QPalette::WindowText, t.muted);
    p.setColor(QPalette::Disabled, QPalette::ButtonText, t.muted);
    QApplication::setStyle(QStyleFactory::create("Fusion"));
    QApplication::setPalette(p);
    qApp->setStyleSheet(
        QString("QMenuBar{background:%1;color:%2;padding:2px 6px}"
                "QMenuBar::item{padding:6px 9px;background:transparent}"
                "QMenuBar::item:selected{background:%3;color:%4}"
                "QMenu{background:%5;color:%2;border:1px solid %6;padding:4px 0}"
                "QMenu::item{padding:5px 28px 5px 16px}"
                "QMenu::item:selected{background:%3;color:%4}"
                "QMenu::item:disabled{color:%7}"
                "QMenu::separator{height:1px;background:%6;margin:4px 10px}"
                "QLineEdit{background:%8;border:1px solid %6;border-radius:3px;padding:2px 6px;"
                "selection-background-color:%4;selection-color:%5}"
                "QLineEdit:focus{border:1px solid %4}"
                "QToolButton,QPushButton{background:transparent;border:1px solid "
                "transparent;border-radius:3px;padding:3px 7px;color:%2}"
                "QToolButton:hover,QPushButton:hover{background:%3;color:%4}"
                "QToolButton:checked{color:%4;font-weight:600}"
                "QToolButton:disabled{color:%7}"
                "QPushButton#remedy,QPushButton#write:enabled{border:1px solid %9;background:%8}"
                "QToolTip{background:%8;color:%2;border:1px solid %6;padding:3px}"
                "QAbstractItemView{background:%8;color:%2;border:1px solid "
                "%6;selection-background-color:%3;selection-color:%4}"
                "QScrollBar:vertical{background:transparent;width:9px;margin:0}"
                "QScrollBar::handle:vertical{background:%6;border-radius:4px;min-height:30px}"
                "QScrollBar::add-line,QScrollBar::sub-line{height:0;width:0}"
                "QScrollBar::add-page,QScrollBar::sub-page{background:transparent}"
                "QSplitter::handle{background:%6}"
                "QFrame#rule{background:%6}")
            .arg(t.panel.name(), t.ink.name(), t.active_tint.name(), t.active.name(), t.paper.name(),
                 t.hairline.name(), t.muted.name(), t.field.name(), t.advice.name()));
}

void load_fonts() {
    for (const char* file :
         {":/fonts/Inter-Regular.otf", ":/fonts/Inter-Medium.otf", ":/fonts/Inter-SemiBold.otf"})
        QFontDatabase::addApplicationFont(file);
    QApplication::setFont(text_font(13));
}

QFont text_font(int pixels, Weight weight) {
    QFont f("Inter");
    f.setPixelSize(pixels);
    f.setWeight(weight == Weight::semibold ? QFont::DemiBold
                : weight == Weight::medium ? QFont::Medium
                                           : QFont::Normal);
    f.setHintingPreference(QFont::PreferNoHinting);
    return f;
}

namespace {
double figure_width(const QFontMetricsF& m) {
    double widest = 0;
    for (char c = '0'; c <= '9'; ++c)
        widest = std::max(widest, m.horizontalAdvance(QChar(c)));
    return widest;
}
} // namespace

double number_width(const QFont& font, const QString& text) {
    const QFontMetricsF m(font);
    const double figure = figure_width(m);
    double w = 0;
    for (const QChar c : text)
        w += c.isDigit() ? figure : m.horizontalAdvance(c);
    return w;
}

void draw_number(QPainter& p, double right, double baseline, const QString& text) {
    const QFontMetricsF m(p.font());
    const double figure = figure_width(m);
    double x = right - number_width(p.font(), text);
    for (const QChar c : text) {
        const double own = m.horizontalAdvance(c), cell = c.isDigit() ? figure : own;
        p.drawText(QPointF(x + (cell - own) / 2, baseline), QString(c));
        x += cell;
    }
}

void draw_status(QPainter& p, QPointF c, Status status) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    const Theme& t = theme();
    switch (status) {
    case Status::fits:
        p.setBrush(t.active);
        p.drawEllipse(c, 4, 4);
        break;
    case Status::advice: {
        p.setBrush(t.advice);
        const QPointF tri[]{c + QPointF(0, -4.8), c + QPointF(5, 4), c + QPointF(-5, 4)};
        p.drawConvexPolygon(tri, 3);
        break;
    }
    case Status::stops:
        p.setBrush(t.stop);
        p.drawRect(QRectF(c.x() - 4, c.y() - 4, 8, 8));
        break;
    }
    p.restore();
}

void hatch(QPainter& p, const QPainterPath& area, const QColor& line, double spacing) {
    // a tile that repeats, anchored to the page: hatching doesn't crawl while a value is dragged, and costs
    // no more than a fill
    const double fine = p.device()->devicePixelRatioF();
    const double side = std::round(spacing * std::sqrt(2.0) * fine) / fine;
    const QString key = QString("hatch %1 %2 %3").arg(line.rgba()).arg(side).arg(fine);
    QPixmap tile;
    if (!QPixmapCache::find(key, &tile)) {
        tile = QPixmap(QSize(1, 1) * static_cast<int>(std::lround(side * fine)));
        tile.setDevicePixelRatio(fine);
        tile.fill(Qt::transparent);
        QPainter on_it(&tile);
        on_it.setRenderHint(QPainter::Antialiasing);
        on_it.setPen(QPen(line, 0.8));
        for (const double x : {-side, 0.0, side})
            on_it.drawLine(QPointF(x - side, 2 * side), QPointF(x + 2 * side, -side));
        QPixmapCache::insert(key, tile);
    }
    QBrush brush(tile);
    brush.setTransform(QTransform::fromScale(1 / fine, 1 / fine));
    p.fillPath(area, brush);
}

void fill_metal(QPainter& p, const QPainterPath& area) {
    const Theme& t = theme();
    p.fillPath(area, t.part_fill);
    QColor lines = t.part;
    lines.setAlphaF(t.dark ? 0.45f : 0.40f);
    hatch(p, area, lines);
}

void arrow_head(QPainter& p, QPointF tip, QPointF d) {
    const double length = std::hypot(d.x(), d.y());
    if (length <= 0) return;
    d /= length;
    const QPointF n(-d.y(), d.x());
    QPainterPath path(tip);
    path.lineTo(tip - 7 * d + 1.8 * n);
    path.lineTo(tip - 7 * d - 1.8 * n);
    path.closeSubpath();
    p.fillPath(path, p.pen().color());
}

void dimension_line(QPainter& p, QPointF a, QPointF b) {
    const QPointF d = b - a;
    const double length = std::hypot(d.x(), d.y());
    if (length < 1e-6) return;
    const QPointF u = d / length;
    if (length > 26) {
        p.drawLine(a, b);
        arrow_head(p, a, -u);
        arrow_head(p, b, u);
    } else {
        p.drawLine(a - 14 * u, b + 14 * u);
        arrow_head(p, a, u);
        arrow_head(p, b, -u);
    }
}

} // namespace whorl::app
