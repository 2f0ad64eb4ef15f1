#include "app/spec_sheet.hpp"

#include "model/row.hpp"
#include "pair/gauge.hpp"
#include "quantity/expression.hpp"

#include <QMouseEvent>

namespace whorl::app {

namespace {
constexpr double margin = 18, row = 24, right_pad = 42;
} // namespace

SpecSheet::SpecSheet(Session& session, QWidget* parent) : Canvas(session, parent) {
    setAccessibleName("Spec sheet");
    setMinimumWidth(250);
}

QScrollArea* scrolled(SpecSheet* sheet) {
    auto* area = new QScrollArea;
    area->setWidget(sheet);
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    return area;
}

void SpecSheet::heading(QPainter& p, double& y, const QString& text, bool limits) {
    const Theme& t = theme();
    y += 10;
    p.setFont(text_font(11, Weight::semibold));
    p.setPen(t.muted);
    p.drawText(QPointF(margin, y + 12), text);
    const double w = QFontMetricsF(p.font()).horizontalAdvance(text);
    const double line_end = limits ? width() - right_pad - 112 : width() - margin;
    p.setPen(QPen(t.hairline, 1));
    p.drawLine(QPointF(margin + w + 8, y + 8), QPointF(line_end, y + 8));
    if (limits) {
        p.setFont(text_font(11));
        p.setPen(t.muted);
        draw_number(p, width() - right_pad - 66, y + 12, "min");
        draw_number(p, width() - right_pad, y + 12, "max");
    }
    y += 20;
}

void SpecSheet::asked_row(QPainter& p, double& y, const QString& label, Field field, const QString& value,
                          const QString& unit, const QString& key, const QStringList& choices,
                          const QString& tip) {
    const Theme& t = theme();
    const QRectF box(margin - 8, y, width() - 2 * margin + 16, row);
    const bool lit = !key.isEmpty() && key == session_.hovered();
    if (lit) p.fillRect(box, t.active_tint);
    p.setFont(text_font(13));
    p.setPen(t.ink);
    p.drawText(QPointF(margin, y + 16.5), label);
    p.setFont(text_font(13, Weight::medium));
    p.setPen(lit ? t.active : t.ink);
    const double room =
        width() - margin - right_pad - QFontMetricsF(text_font(13)).horizontalAdvance(label) - 14;
    draw_number(p, width() - right_pad, y + 16.5,
                QFontMetricsF(p.font()).elidedText(value, Qt::ElideRight, room));
    p.setFont(text_font(11));
    p.setPen(t.muted);
    p.drawText(QPointF(width() - right_pad + 6, y + 16.5), unit);
    Spot s = spot_of(key, field, tip);
    s.rect = box;
    s.choices = choices;
    add_spot(s);
    y += row;
}

// The name of a section of one's own: that of another known one makes the thread wear it, a new one renames
// it.
void SpecSheet::section_row(QPainter& p, double& y, const OwnSection& section) {
    asked_row(p, y, "Section", field::pitch, QString::fromStdString(section.name), {}, "own_section");
    Spot s = take_last_spot();
    s.field.reset();
    s.initial = QString::fromStdString(section.name);
    const auto known = session_.sections();
    for (const OwnSection& k : known)
        s.choices << QString::fromStdString(k.name);
    s.tip = "Your own section: type the name of another one to wear it, or a new name for this one";
    s.commit = [this, section, known](const QString& typed) {
        OwnSection next = section;
        next.name = typed.trimmed().toStdString();
        for (const OwnSection& k : known)
            if (k.name == next.name) next = k;
        const std::size_t piece = session_.piece(), zone = session_.zone();
        return session_.change([&](const Job& j) { return set_own_section(j, piece, zone, next); });
    };
    add_spot(s);
}

void SpecSheet::follows_row(QPainter& p, double& y, const ResolvedValue& v) {
    const Theme& t = theme();
    const QString key = QString::fromStdString(v.key);
    // a source is never cut off: it takes as many lines as it needs
    const QString source = QString::fromStdString(v.source);
    const double back_width =
        v.overridden ? QFontMetricsF(text_font(11)).horizontalAdvance("hand back") + right_pad : 0;
    const double source_room = width() - 2 * margin - back_width;
    const double source_height = QFontMetricsF(text_font(11))
                                     .boundingRect(QRectF(0, 0, source_room, 1000), Qt::TextWordWrap, source)
                                     .height();
    const double h = 21 + std::max(15.0, source_height);
    const QRectF box(margin - 8, y, width() - 2 * margin + 16, h);
    const bool lit = key == session_.hovered();
    if (lit) p.fillRect(box, t.active_tint);
    p.setFont(text_font(13));
    p.setPen(t.ink);
    p.drawText(QPointF(margin, y + 15), QString::fromStdString(v.label));
    const auto cell = [&](double x) {
        switch (v.kind) {
        // equal decimals, so that the points stand under each other
        case ValueKind::length:
            return QString::number(in_unit(mm(x), session_.unit()), 'f',
                                   session_.unit() == LengthUnit::inch ? 4 : 3);
        case ValueKind::angle:
            return QString::number(in_deg(rad(x)), 'f', 2) + "°";
        case ValueKind::area:
            return session_.unit() == LengthUnit::inch
                       ? QString::fromStdString(number_text(x / (25.4 * 25.4), 4)) + " in²"
                       : QString::fromStdString(number_text(x, 1)) + " mm²";
        default:
            return QString::fromStdString(number_text(x, std::abs(x) >= 100 ? 2 : 4));
        }
    };
    p.setFont(text_font(13, Weight::medium));
    p.setPen(lit ? t.active : t.ink);
    const double right = width() - right_pad;
    if (v.kind == ValueKind::text) {
        draw_number(p, right, y + 15, QString::fromStdString(v.text));
    } else if (v.value) {
        draw_number(p, right, y + 15, cell(*v.value));
    } else {
        if (v.max) draw_number(p, right, y + 15, cell(*v.max));
        p.setFont(text_font(13));
        if (v.min) draw_number(p, right - 66, y + 15, cell(*v.min));
    }
    p.setFont(text_font(11));
    p.setPen(v.overridden ? t.advice : t.muted);
    if (v.overridden) {
        const QString back = "hand back";
        const double w = QFontMetricsF(p.font()).horizontalAdvance(back);
        const QRectF r(right - w, y + 18, w, 15);
        p.setPen(t.active);
        p.drawText(r, Qt::AlignCenter, back);
        hand_backs_.push_back({r, v.key == "root_flat" ? field::root_flat : field::depth});
        p.setPen(t.advice);
    }
    p.drawText(QRectF(margin, y + 18, source_room, source_height + 4), Qt::TextWordWrap, source);
    Spot s;
    s.rect = box;
    s.key = key;
    s.tip = QString::fromStdString(v.label) + ": " + source;
    add_spot(s);
    y += h;
}

void SpecSheet::draw(QPainter& p) {
    const Theme& t = theme();
    p.fillRect(rect(), t.panel);
    hand_backs_.clear();
    double y = 12;
    const ResolvedZone* z = session_.resolved_zone();
    if (!z) {
        p.setFont(text_font(16, Weight::medium));
        p.setPen(t.ink);
        p.drawText(QPointF(margin, y + 14), "Nothing here yet");
        p.setFont(text_font(13));
        p.setPen(t.muted);
        p.drawText(QRectF(margin, y + 30, width() - 2 * margin, 90), Qt::TextWordWrap,
                   "Write a designation above, for example M10x1.5-6g LH x 40, and press Enter. The sheet "
                   "fills itself.");
        setMinimumHeight(0);
        return;
    }
    const Piece& piece = session_.job().pieces[session_.piece()];
    const QString unit = symbol(session_.unit());
    const auto now = [&](Field f) {
        return QString::fromStdString(
            field_text(session_.job(), session_.piece(), session_.zone(), f, session_.unit()));
    };
    // a formula is shown by its value; the editor shows the formula
    p.setFont(text_font(16, Weight::medium));
    p.setPen(t.ink);
    const bool bore = z->in_bore();
    const QString title = QString(z->gear() && bore     ? "Teeth in bore %1"
                                  : z->gear()           ? "Teeth on zone %1"
                                  : z->thread() && bore ? "Thread in bore %1"
                                  : z->thread()         ? "Thread on zone %1"
                                  : bore                ? "Bore %1"
                                                        : "Plain zone %1")
                              .arg(session_.zone() + 1);
    p.drawText(QPointF(margin, y + 15), z->rack() ? "Rack" : z->coil() ? "Spring" : title);
    p.setFont(text_font(11));
    p.setPen(t.muted);
    QString detail = QString::fromStdString(piece.name) + ", " + QString::fromStdString(piece.finish);
    if (z->thread())
        detail = QString("%1, %2, %3")
                     .arg(bore ? "internal" : "external", word(z->thread()->spec.family),
                          z->thread()->status.listed
                              ? QString::fromStdString(z->thread()->status.series) + " series"
                          : z->thread()->status.nearest ? "off-standard"
                                                        : "from the form's rules");
    else if (z->gear())
        detail = QString("%1 %2 gear, %3")
                     .arg(bore ? "internal" : "external",
                          in_rad(z->gear()->spec.helix_angle) != 0 ? "helical" : "spur",
                          QString::fromStdString(piece.finish));
    else if (z->rack())
        detail = QString(in_rad(z->rack()->spec.helix_angle) != 0 ? "helical" : "straight") + ", " +
                 QString::fromStdString(piece.finish);
    else if (bore)
        detail = z->where == Where::near_bore ? "from the near end inwards" : "from the far end inwards";
    p.drawText(QPointF(margin, y + 33),
               QFontMetricsF(p.font()).elidedText(detail, Qt::ElideRight, width() - 2 * margin));
    y += 38;
    heading(p, y, "Asked");
    asked_row(p, y, "Piece", field::piece_name, now(field::piece_name), {}, "piece_name", {},
              QString::fromStdString(piece.reason));
    const bool toothed = z->gear() || z->rack();
    const Names names = resolve_names(session_.job());
    const Zone& asked = piece.zones[session_.zone()];
    if (const ResolvedThread* worn = z->thread(); worn && worn->spec.family == ThreadFamily::own)
        section_row(p, y, worn->spec.own_section);
    for (const Row& row : rows_of(asked)) {
        if ((row.applies && !row.applies(asked)) || (row.hidden && row.hidden(*z))) continue;
        const Shown value = shown_of(row, asked, *z, {session_.unit(), names});
        QStringList choices;
        if (row.choices)
            for (const std::string& c : row.choices(*z))
                choices << QString::fromStdString(c);
        asked_row(p, y, row.label, row.field, QString::fromStdString(value.text),
                  QString::fromStdString(value.unit), row.shown_key(), choices, row.tip);
    }
    asked_row(
        p, y, "Finish", field::piece_finish, now(field::piece_finish), {}, {},
        [] {
            QStringList l;
            for (const auto& f : finishes())
                l << f.name;
            return l;
        }(),
        "Colour of the piece, on screen and in STEP");

    if (z->thread()) {
        heading(p, y, "Follows", true);
        for (const auto& v : z->thread()->values) {
            // what is asked above is not repeated
            static const QStringList said{"pitch",
                                          "starts",
                                          "hand",
                                          "tolerance_class",
                                          "modelled_at",
                                          "series",
                                          "major_diameter_basic"};
            if (said.contains(QString::fromStdString(v.key))) continue;
            follows_row(p, y, v);
        }
    }
    if (const ResolvedCoil* coil = z->coil()) {
        heading(p, y, "Follows");
        for (const auto& v : coil->values) {
            static const QStringList said{"wire_diameter", "free_length", "pitch",        "active_coils",
                                          "total_coils",   "dead_coils",  "tip_thickness"};
            const bool asked_mean = v.key == "mean_diameter" && coil->spec.measured == CoilDiameter::mean;
            if (!asked_mean && !said.contains(QString::fromStdString(v.key))) follows_row(p, y, v);
        }
    }
    if (toothed) {
        heading(p, y, "Follows");
        for (const auto& v : z->gear() ? z->gear()->values : z->rack()->values) {
            static const QStringList said{"module", "teeth",         "pressure_angle", "helix_angle",
                                          "hand",   "profile_shift", "basic_rack",     "length",
                                          "height", "face_width"};
            if (!said.contains(QString::fromStdString(v.key))) follows_row(p, y, v);
        }
        if (z->gear()) thickness_row(p, y, *z->gear());
        mesh_rows(p, y);
    }
    if (z->thread()) {
        const GaugeTrial trial = try_gauges(*z->thread());
        if (trial.possible) {
            heading(p, y, "Gauges at the modelled size");
            const auto gauge = [&](const char* key, const char* label, bool good, const std::string& yes,
                                   const std::string& no, const std::string& sentence) {
                ResolvedValue v{.key = key,
                                .label = label,
                                .kind = ValueKind::text,
                                .text = good ? yes : no,
                                .source = sentence};
                follows_row(p, y, v);
            };
            gauge("go_gauge", "GO", trial.go_passes, "passes", "jams", trial.go);
            gauge("no_go_gauge", "NOT GO", trial.no_go_stops, "stops", "goes on", trial.no_go);
        }
    }
    if (const auto& fit = session_.fit()) {
        heading(p, y,
                QString::fromStdString("Fit with " + session_.job().pieces[fit->there.piece].name).left(34),
                true);
        p.setFont(text_font(11));
        p.setPen(fit->fit.goes_together() ? t.active : t.stop);
        p.drawText(
            QPointF(margin, y + 11),
            fit->fit.will_not_turn ? "goes together without clearance; made like this it will not turn"
            : fit->fit.goes_together()
                ? (fit->follows ? "goes together; the second piece follows the first" : "goes together")
                : "does not go together, see the checks");
        y += 18;
        for (const auto& v : fit->fit.values)
            follows_row(p, y, v);
    }
    if (const auto preview = session_.preview(); preview && preview->made()) {
        heading(p, y, z->as<ResolvedPlain>() ? "Follows" : "The piece");
        ResolvedValue volume{.key = "volume",
                             .label = "Volume",
                             .kind = ValueKind::number,
                             .source = "closed form over the exact skin"};
        p.setFont(text_font(13));
        volume.value = {};
        volume.kind = ValueKind::text;
        volume.text = number_text(preview->volume() / 1000, 3) + " cm³";
        follows_row(p, y, volume);
        const Finish& finish = finish_of(piece);
        ResolvedValue mass{.key = "mass",
                           .label = "Mass",
                           .kind = ValueKind::text,
                           .source = std::string("volume × ") + number_text(finish.density, 2) + " g/cm³, " +
                                     finish.name};
        mass.text = number_text(preview->volume() / 1000 * finish.density, 2) + " g";
        follows_row(p, y, mass);
        ResolvedValue length{.key = "piece_length", .label = "Overall length", .source = "sum of its zones"};
        length.value = in_mm(preview->piece.length());
        follows_row(p, y, length);
    }
    // named values
    heading(p, y, "Named values");
    for (const auto& v : session_.job().values) {
        const QRectF box(margin - 8, y, width() - 2 * margin + 16, row);
        p.setFont(text_font(13));
        p.setPen(t.ink);
        p.drawText(QPointF(margin, y + 16.5), QString::fromStdString(v.name));
        const Value& value = names.at(v.name);
        QString text, suffix;
        if (const auto* l = std::get_if<Length>(&value))
            text = shown(in_mm(*l)), suffix = unit;
        else if (const auto* a = std::get_if<Angle>(&value))
            text = QString::fromStdString(number_text(in_deg(*a), 4)), suffix = "°";
        else
            text = QString::fromStdString(number_text(std::get<double>(value), 6));
        p.setFont(text_font(13, Weight::medium));
        draw_number(p, width() - right_pad, y + 16.5, text);
        p.setFont(text_font(11));
        p.setPen(t.muted);
        p.drawText(QPointF(width() - right_pad + 6, y + 16.5), suffix);
        Spot s;
        s.rect = box;
        s.key = QString::fromStdString("value_" + v.name);
        s.initial = QString::fromStdString(v.number.text);
        s.tip =
            "A number or formula with its unit, for example 64 mm or 2*drum_d. Clear it to remove the value.";
        const std::string name = v.name;
        const LengthUnit own = v.number.unit;
        s.commit = [this, name, own](const QString& typed) {
            return session_.change([&](const Job& j) {
                return typed.trimmed().isEmpty() ? remove_value(j, name)
                                                 : set_value(j, name, {typed.trimmed().toStdString(), own});
            });
        };
        add_spot(s);
        y += row;
    }
    {
        const QRectF box(margin - 8, y, width() - 2 * margin + 16, row);
        p.setFont(text_font(13));
        p.setPen(t.active);
        p.drawText(QPointF(margin, y + 16.5), "+ name = value");
        Spot s;
        s.rect = box;
        s.key = "new_value";
        s.tip = "For example drum_d = 64 mm. Use the name in any field.";
        s.commit = [this](const QString& typed) -> QString {
            const int at = typed.indexOf('=');
            if (at < 1) return "Write a name, an equals sign and a value: drum_d = 64 mm.";
            const std::string name = typed.left(at).trimmed().toStdString(),
                              value = typed.mid(at + 1).trimmed().toStdString();
            return session_.change([&](const Job& j) {
                return set_value(j, name, {value, session_.unit()});
            });
        };
        add_spot(s);
        y += row;
    }
    const int want = static_cast<int>(y + 16);
    if (minimumHeight() != want) setMinimumHeight(want);
}

void SpecSheet::mousePressEvent(QMouseEvent* e) {
    for (const auto& h : hand_backs_)
        if (h.rect.adjusted(-4, -2, 4, 2).contains(e->position())) {
            session_.edit(h.field, "");
            return;
        }
    Canvas::mousePressEvent(e);
}

} // namespace whorl::app
