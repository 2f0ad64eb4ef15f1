#include "app/sheet/sheet.hpp"

#include "app/forms/form_views.hpp"
#include "build/piece_values.hpp"
#include "model/row.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::app {

QString SheetRow::copied() const {
    const QString number = value.isEmpty() ? (least.isEmpty()  ? most
                                              : most.isEmpty() ? least
                                                               : least + " to " + most)
                                           : value;
    return unit.isEmpty() ? number : number + " " + unit;
}

QString SheetRow::spoken() const {
    QStringList parts{label, copied()};
    if (overridden) parts << "set by you";
    if (!source.isEmpty()) parts << source;
    parts.removeAll(QString());
    return parts.join(", ");
}

QString SheetBuilder::unit() const {
    return symbol(session_.unit());
}

void SheetBuilder::group(const QString& key, const QString& title, bool limits) {
    groups_.push_back({key, title, limits, {}});
}

SheetRow& SheetBuilder::asked(const QString& label, std::optional<Field> field, const QString& value,
                              const QString& unit, const QString& key, const QString& tip) {
    SheetRow row{.kind = SheetRow::Kind::asked, .label = label, .unit = unit, .value = value};
    row.input.key = key;
    row.input.field = field;
    row.input.tip = tip;
    if (field) row.input.initial = session_.text_of(*field);
    groups_.back().rows.push_back(std::move(row));
    return groups_.back().rows.back();
}

SheetRow& SheetBuilder::follows(const ResolvedValue& v) {
    const bool inches = session_.unit() == LengthUnit::inch;
    SheetRow row{.label = QString::fromStdString(v.label), .source = QString::fromStdString(v.source)};
    row.input.key = QString::fromStdString(v.key);
    row.input.tip = row.label + ": " + row.source;
    row.overridden = v.overridden;
    if (v.overridden) row.handed_back = v.key == "root_flat" ? field::root_flat : field::depth;
    const auto number = [&](double x) -> QString {
        switch (v.kind) {
        // equal decimals, so that the points stand under each other
        case ValueKind::length:
            return QString::number(in_unit(mm(x), session_.unit()), 'f', inches ? 4 : 3);
        case ValueKind::angle:
            return QString::number(in_deg(rad(x)), 'f', 2) + "°";
        case ValueKind::area:
            return QString::fromStdString(inches ? number_text(x / (25.4 * 25.4), 4) : number_text(x, 1));
        case ValueKind::volume:
            return QString::fromStdString(number_text(x / 1000, 3));
        case ValueKind::mass:
            return QString::fromStdString(number_text(x, 2));
        default:
            return QString::fromStdString(number_text(x, std::abs(x) >= 100 ? 2 : 4));
        }
    };
    row.unit = v.kind == ValueKind::length   ? unit()
               : v.kind == ValueKind::area   ? unit() + "²"
               : v.kind == ValueKind::volume ? "cm³"
               : v.kind == ValueKind::mass   ? "g"
                                             : QString();
    if (v.kind == ValueKind::text) {
        row.value = QString::fromStdString(v.text);
    } else if (v.value) {
        row.value = number(*v.value);
    } else {
        if (v.min) row.least = number(*v.min);
        if (v.max) row.most = number(*v.max);
    }
    groups_.back().rows.push_back(std::move(row));
    return groups_.back().rows.back();
}

void SheetBuilder::follow_all(const std::vector<ResolvedValue>& values, const QStringList& said,
                              const QStringList& shop, bool limits) {
    group("follows", "Follows", limits);
    for (const ResolvedValue& v : values)
        if (const QString key = QString::fromStdString(v.key); !said.contains(key) && !shop.contains(key))
            follows(v);
    group("shop", "In the shop", limits);
    for (const ResolvedValue& v : values)
        if (shop.contains(QString::fromStdString(v.key))) follows(v);
}

void SheetBuilder::note(const QString& sentence, bool bad) {
    SheetRow row{.kind = SheetRow::Kind::note, .label = sentence};
    row.bad = bad;
    groups_.back().rows.push_back(std::move(row));
}

namespace {

void asked_rows(SheetBuilder& b, const ResolvedZone& z, const Piece& piece, const Names& names) {
    Session& s = b.session();
    b.group("asked", "Asked");
    b.asked("Piece", field::piece_name, s.text_of(field::piece_name), {}, "piece_name",
            QString::fromStdString(piece.reason));
    views_of(z).asks(b, z);
    const Zone& asked = piece.zones[s.zone()];
    for (const Row& row : rows_of(asked)) {
        if ((row.applies && !row.applies(asked)) || (row.hidden && row.hidden(z))) continue;
        const Shown value = shown_of(row, asked, z, {s.unit(), names});
        SheetRow& shown = b.asked(row.label, row.field, QString::fromStdString(value.text),
                                  QString::fromStdString(value.unit), row.shown_key(), row.tip);
        if (row.order) {
            shown.input.field.reset(); // nothing happens while it is typed
            shown.input.commit = [&s, order = row.field](const QString& text) { return s.edit(order, text); };
        }
        for (const std::string& c : choices_of(row, z))
            shown.input.choices << QString::fromStdString(c);
    }
    SheetRow& finish = b.asked("Finish", field::piece_finish, s.text_of(field::piece_finish), {}, "finish",
                               "What it is made of, for mass and colour; a colour of one's own behind it: "
                               "steel #7A5AA8, or alone: #7A5AA8");
    for (const auto& f : finishes())
        finish.input.choices << f.name;
}

void fit_rows(SheetBuilder& b) {
    const auto& fit = b.session().fit();
    if (!fit) return;
    b.group("fit", QString::fromStdString("Fit with " + b.session().job().pieces[fit->there.piece].name),
            true);
    b.note(fit->fit.will_not_turn ? "goes together without clearance; made like this it will not turn"
           : fit->fit.goes_together()
               ? (fit->follows ? "goes together; the second piece follows the first" : "goes together")
               : "does not go together, see the checks",
           !fit->fit.goes_together());
    for (const auto& v : fit->fit.values)
        b.follows(v);
}

void piece_rows(SheetBuilder& b, const Piece& piece) {
    const auto preview = b.session().preview();
    if (!preview || !preview->made()) return;
    b.group("piece", "The piece");
    for (const ResolvedValue& v : piece_values(*preview, piece))
        b.follows(v);
}

void named_values(SheetBuilder& b, const Names& names) {
    Session& session = b.session();
    b.group("values", "Named values");
    for (const auto& v : session.job().values) {
        const Value& value = *names.find(v.name);
        QString text, unit;
        if (const auto* l = std::get_if<Length>(&value))
            text = b.shown(in_mm(*l)), unit = b.unit();
        else if (const auto* a = std::get_if<Angle>(&value))
            text = QString::fromStdString(number_text(in_deg(*a), 4)), unit = "°";
        else if (const auto* n = std::get_if<InchNumber>(&value))
            text = QString::fromStdString(number_text(n->value, 6)), unit = "in, or a count";
        else
            text = QString::fromStdString(number_text(std::get<double>(value), 6));
        SheetRow& row =
            b.asked(QString::fromStdString(v.name), {}, text, unit, QString::fromStdString("value_" + v.name),
                    "A number or formula with its unit, for example 64 mm or 2*drum_d. Clear it to remove "
                    "the value.");
        row.input.initial = QString::fromStdString(v.number.text);
        row.input.commit = [&session, name = v.name, own = v.number.unit](const QString& typed) {
            return session.change([&](const Job& j) {
                return typed.trimmed().isEmpty() ? remove_value(j, name)
                                                 : set_value(j, name, {typed.trimmed().toStdString(), own});
            });
        };
    }
    SheetRow& add = b.asked("+ name = value", {}, {}, {}, "new_value",
                            "For example drum_d = 64 mm. Use the name in any field.");
    add.kind = SheetRow::Kind::add;
    add.input.commit = [&session](const QString& typed) -> QString {
        const int at = static_cast<int>(typed.indexOf('='));
        if (at < 1) return "Write a name, an equals sign and a value: drum_d = 64 mm.";
        const std::string name = typed.left(at).trimmed().toStdString(),
                          value = typed.mid(at + 1).trimmed().toStdString();
        return session.change([&](const Job& j) { return set_value(j, name, {value, session.unit()}); });
    };
}

} // namespace

Sheet sheet_of(Session& session, SheetMemory& memory) {
    const ResolvedZone* z = session.resolved_zone();
    if (!z) return {};
    const Piece& piece = session.job().pieces[session.piece()];
    const Names names = resolve_names(session.job());
    const FormViews& views = views_of(*z);
    SheetBuilder b(session, memory);
    asked_rows(b, *z, piece, names);
    views.follows(b, *z);
    fit_rows(b);
    piece_rows(b, piece);
    named_values(b, names);
    Sheet out{views.title(*z, session.zone() + 1), views.detail(*z, piece), b.take()};
    std::erase_if(out.groups, [](const SheetGroup& g) { return g.rows.empty(); });
    for (SheetGroup& g : out.groups)
        g.limits =
            g.limits && std::ranges::any_of(g.rows, [](const SheetRow& r) { return r.value.isEmpty(); });
    return out;
}

} // namespace whorl::app
