// What gears and racks say in the sheet, and of their mesh.
#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/forms/rack_side.hpp"
#include "app/section_view.hpp"
#include "form/tooth/measure.hpp"
#include "model/resolve.hpp"
#include "pair/spline_fit.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace whorl::app {

namespace {
QString text(double v, int decimals) {
    return QString::fromStdString(number_text(v, decimals));
}

void thickness_row(SheetBuilder& b, const ResolvedGear& g) {
    if (g.half_outline.empty()) return;
    const double low = 2 * std::min(g.root_radius, g.tip_radius),
                 high = 2 * std::max(g.root_radius, g.tip_radius);
    const double at = std::clamp(b.memory().thickness_at.value_or(2 * g.pitch_radius), low, high);
    const Thickness tooth = thickness_at(g, at);
    SheetRow& row = b.asked("Thick on Ø " + b.shown(at), {}, b.shown(tooth.arc), b.unit(), "thickness_at");
    row.input.initial = b.shown(at);
    row.input.tip =
        "Tooth thickness on any diameter, arc in the transverse plane; type the diameter. Chord " +
        b.shown(tooth.chord) + ", " + b.shown(tooth.height) + " from the tip circle.";
    row.input.commit = [&session = b.session(), &memory = b.memory()](const QString& typed) -> QString {
        const auto* z = session.resolved_zone();
        if (!z || !z->gear()) return {};
        try {
            const double d =
                in_mm(evaluate_length(typed.toStdString(), session.unit(), resolve_names(session.job())));
            (void)thickness_at(*z->gear(), d);
            memory.thickness_at = d;
            memory.changed();
            return {};
        } catch (const InputError& e) {
            return QString::fromStdString(e.what());
        }
    };
}

// Typed as a number it finds tooth counts for both gears near their size now, as 19:73 it takes those.
void ratio_row(SheetBuilder& b, const ShownMesh& m) {
    SheetRow& row = b.asked("Ratio", {}, text(m.mesh.ratio, 5), {}, "ratio");
    row.input.initial = text(m.mesh.ratio, 6);
    const int z1 = m.first.spec.teeth, z2 = m.second->spec.teeth;
    for (const RatioChoice& c :
         teeth_for_ratio(m.mesh.ratio, 0.01, std::max(5, z1 - 6), std::max(z1, z2) + 20, 8))
        row.input.choices << QString("%1:%2").arg(c.first).arg(c.second);
    row.input.tip =
        "z2/z1. Type a ratio: the nearest tooth counts are taken, without a common factor where that is "
        "as near; "
        "or type both, such as 19:73";
    const ZoneRef first = m.second_first ? m.there : m.here, second = m.second_first ? m.here : m.there;
    const bool internal = m.mesh.internal;
    row.input.commit = [&session = b.session(), z1, first, second,
                        internal](const QString& typed) -> QString {
        int a = z1, other = 0;
        const auto parts = typed.split(':');
        if (parts.size() == 2) {
            a = parts[0].trimmed().toInt();
            other = parts[1].trimmed().toInt();
        } else {
            try {
                const double ratio = evaluate_number(typed.toStdString(), resolve_names(session.job()));
                if (!(ratio >= 0.01 && ratio <= 100)) return "A ratio lies between 0.01 and 100.";
                // near the size the first has now, the second whatever that takes
                const auto error = [&](int teeth) {
                    return std::abs(std::round(ratio * teeth) / (ratio * teeth) - 1);
                };
                for (int z = std::max(5, z1 - 4); z <= z1 + 4; ++z)
                    if (error(z) < error(a) - 1e-9 ||
                        (error(z) < error(a) + 1e-9 &&
                         std::gcd(z, int(std::round(ratio * z))) < std::gcd(a, int(std::round(ratio * a)))))
                        a = z;
                other = static_cast<int>(std::round(ratio * a));
            } catch (const InputError& e) {
                return QString::fromStdString(e.what());
            }
        }
        if (a < 5 || other < 5 || a > 1000 || other > 1000)
            return "Both gears need 5 to 1000 teeth, such as 19:73.";
        if (internal && other <= a) return "The ring needs more teeth than the pinion in it.";
        return session.change([&](const Job& j) {
            const Job half = apply(j, {first.piece, first.zone, field::teeth, std::to_string(a), {}});
            return apply(half, {second.piece, second.zone, field::teeth, std::to_string(other), {}});
        });
    };
}

void mesh_rows(SheetBuilder& b) {
    const Session& session = b.session();
    const auto& m = session.mesh();
    if (!m) return;
    b.group("fit", QString::fromStdString("Mesh with " + session.job().pieces[m->there.piece].name));
    b.note(m->mesh.runs() ? (m->follows ? "meshes; the second follows the first" : "meshes")
                          : "does not mesh, see the checks",
           !m->mesh.runs());
    const bool asked = !session.job().pairs[m->pair].centre.text.empty();
    b.asked(m->rack ? "Axis to reference" : "Centre distance", field::centre_distance,
            (asked ? QString() : QString("follows, ")) + b.shown(m->mesh.centre), b.unit(), "centre_distance",
            "Type a centre distance; clear it to follow from the profile shifts, without backlash but the "
            "thinning");
    if (!m->rack) ratio_row(b, *m);
    for (const auto& v : m->mesh.values)
        if (v.key != "centre_distance" && v.key != "ratio") b.follows(v);
    // and what turns beyond this pair
    const Train& train = session.train();
    if (train.members.size() < 3) return;
    b.group("train", "Train, per turn of this piece");
    for (const TrainMember& member : train.members)
        if (member.pair)
            b.follows({.key = "train_" + std::to_string(member.piece),
                       .label = session.job().pieces[member.piece].name,
                       .kind = ValueKind::text,
                       .text = member.rack ? number_text(member.travel, 3) + " mm"
                                           : number_text(member.turns, 5) + " turns",
                       .source = "driven by " + session.job().pieces[member.by].name});
}

const QStringList said{"module",        "teeth",      "pressure_angle", "helix_angle", "hand",
                       "profile_shift", "basic_rack", "length",         "height",      "face_width"};
const QStringList said_of_spline{"module", "teeth", "pressure_angle", "reference_diameter", "thinning"};
const QStringList shop{"span_teeth", "span_measurement", "pin_diameter",
                       "over_pins",  "over_pin",         "between_pins"};

} // namespace

namespace {

// The tips' envelope.
QPolygonF tips(const ResolvedZone& z, double) {
    const double r = z.gear()->tip_radius;
    return {{in_mm(z.start), r}, {in_mm(z.end()), r}};
}

// ISO 2203: teeth are not hatched, the pitch surface is a chain line.
void teeth_in_strip(QPainter& p, const ResolvedZone& z, const StripPlace& place) {
    const Theme& t = theme();
    const ResolvedGear& g = *z.gear();
    const double a = place.block.left(), b = place.block.right(), root = place.at(0, g.root_radius).y(),
                 pitch = place.at(0, g.pitch_radius).y();
    p.fillRect(QRectF(QPointF(a, place.at(0, g.tip_radius).y()), QPointF(b, root)).adjusted(1, 1, -1, 0),
               strip_metal(place.selected));
    p.setPen(QPen(place.selected ? t.active : t.part, 1.5));
    p.drawLine(QPointF(a, root), QPointF(b, root));
    p.setPen(QPen(t.active, 1, Qt::DashDotLine));
    p.drawLine(QPointF(a - 5, pitch), QPointF(b + 5, pitch));
}

QPainterPath teeth_from_end(const ResolvedZone& z) {
    const ResolvedGear& g = *z.gear();
    QPainterPath path;
    if (g.half_outline.empty()) return path;
    QPolygonF teeth;
    for (int i = 0; i < g.spec.teeth; ++i)
        for (const bool down : {false, true}) {
            QPolygonF half;
            for (const TransverseCurve& c : g.half_outline)
                for (const double at : {c.from, (c.from + c.to) / 2, c.to}) {
                    const TransversePoint q = point_at(c, at);
                    const double a = i * g.pitch_angle() + (down ? g.pitch_angle() - q.angle() : q.angle());
                    half << q.radius() * QPointF(std::cos(a), std::sin(a));
                }
            if (down) std::reverse(half.begin(), half.end());
            teeth << half;
        }
    path.addPolygon(teeth);
    path.closeSubpath();
    return path;
}

} // namespace

const FormViews& views(const ResolvedWheel&) {
    static const FormViews table{
        .title =
            [](const ResolvedZone& z, std::size_t number) {
                return QString(z.in_bore() ? "Teeth in bore %1" : "Teeth on zone %1").arg(number);
            },
        .detail =
            [](const ResolvedZone& z, const Piece& piece) {
                return QString("%1 %2 gear, %3")
                    .arg(z.in_bore() ? "internal" : "external",
                         in_rad(z.gear()->spec.helix_angle) != 0 ? "helical" : "spur",
                         QString::fromStdString(piece.finish));
            },
        .asks = asks_nothing_more,
        .follows =
            [](SheetBuilder& b, const ResolvedZone& z) {
                b.follow_all(z.gear()->values, said, shop);
                thickness_row(b, *z.gear());
                mesh_rows(b);
            },
        .section = [](SectionView& view, QPainter& p, const ResolvedZone& z) { view.draw_teeth(p, z); },
        .developed = [](DevelopedView& view, QPainter& p, const ResolvedZone& z) { view.draw_teeth(p, z); },
        .side = {.outline = tips, .from_end = teeth_from_end, .strip_marks = teeth_in_strip}};
    return table;
}

namespace {

// What the selected spline is paired with.
struct SplinePair {
    const Pair& pair;
    std::size_t piece;
    ResolvedZone zone;
};
std::optional<SplinePair> spline_pair(const Session& session) {
    const ZoneRef here{session.piece(), session.zone()};
    for (const Pair& pair : session.job().pairs) {
        if (pair.first != here && pair.second != here) continue;
        const ZoneRef there = pair.first == here ? pair.second : pair.first;
        if (!session.job().pieces[there.piece].zones[there.zone].as<SplineForm>()) continue;
        return SplinePair{pair, there.piece,
                          resolve_piece(session.job().pieces[there.piece], resolve_names(session.job()))
                              .zones.at(there.zone)};
    }
    return {};
}
std::optional<ResolvedZone> spline_counterpart(const Session& session) {
    auto found = spline_pair(session);
    if (!found) return {};
    return std::move(found->zone);
}

void spline_fit_rows(SheetBuilder& b, const ResolvedZone& z) {
    const Session& session = b.session();
    const auto with = spline_pair(session);
    if (!with) return;
    const ResolvedZone& other = with->zone;
    const bool hub = z.in_bore();
    const SplineFit fit = spline_fit(*(hub ? other : z).spline(), *(hub ? z : other).spline(),
                                     std::min(z.length, other.length));
    b.group("fit", QString::fromStdString("Fit with " + session.job().pieces[with->piece].name));
    b.note(!fit.goes_together() ? "does not go together, see the checks"
           : with->pair.follows ? "goes together; the second follows the first"
                                : "goes together",
           !fit.goes_together());
    for (const auto& v : fit.values)
        b.follows(v);
}

} // namespace

const FormViews& views(const ResolvedSplining&) {
    static const FormViews table{
        .title =
            [](const ResolvedZone& z, std::size_t number) {
                return QString(z.in_bore() ? "Spline in bore %1" : "Spline on zone %1").arg(number);
            },
        .detail =
            [](const ResolvedZone& z, const Piece& piece) {
                return QString("%1, %2, %3")
                    .arg(z.in_bore() ? "hub" : "shaft",
                         z.spline()->spec.reference_diameter ? "DIN 5480" : "ISO 4156",
                         QString::fromStdString(piece.finish));
            },
        .asks = asks_nothing_more,
        .follows =
            [](SheetBuilder& b, const ResolvedZone& z) {
                b.follow_all(z.spline()->values, said_of_spline, shop);
                spline_fit_rows(b, z);
            },
        .section =
            [](SectionView& view, QPainter& p, const ResolvedZone& z) {
                const auto other = spline_counterpart(view.session());
                view.draw_spline(p, z, other ? &*other : nullptr);
            },
        .developed = [](DevelopedView& view, QPainter& p, const ResolvedZone& z) { view.draw_teeth(p, z); },
        .side = {.outline = tips, .from_end = teeth_from_end, .strip_marks = teeth_in_strip}};
    return table;
}

namespace {

void draw_bar(QPainter& p, const ResolvedPiece& piece, const QRectF& room) {
    const ResolvedRack& rack = *piece.zones.front().rack();
    const double length = in_mm(piece.length()), high = in_mm(rack.spec.height), x0 = room.left(),
                 mid = room.center().y(),
                 k = std::min(room.width() / std::max(1e-3, length), room.height() / std::max(1e-3, high));
    const Theme& t = theme();
    const double half = in_mm(rack.spec.height) / 2;
    QPolygonF side;
    for (const auto& q : rack_side(rack, 1.6 / k))
        side << QPointF(x0 + q.x() * k, mid + (half - q.y()) * k);
    p.setPen(QPen(t.part, 1.2));
    p.setBrush(t.part_fill);
    p.drawPolygon(side);
    if (rack.pitch() >= 1.6 / k) return; // teeth too fine to be drawn: a thin line at the roots
    p.setPen(QPen(t.part, 0.7));
    const double y = mid + (half - rack.body() - rack.root_height) * k;
    p.drawLine(QPointF(x0, y), QPointF(x0 + length * k, y));
}

// Whole, with its back on the line.
void bar_in_strip(QPainter& p, const ResolvedZone& z, const StripPlace& place) {
    QPolygonF line;
    for (const auto& q : rack_side(*z.rack(), 2.0 / place.k))
        line << place.at(q.x(), q.y());
    QPainterPath metal;
    metal.addPolygon(line);
    metal.closeSubpath();
    draw_strip_metal(p, metal, place.selected);
    p.setPen(QPen(theme().active, 1, Qt::DashDotLine));
    const double y = place.at(0, z.rack()->body()).y();
    p.drawLine(QPointF(place.block.left() - 5, y), QPointF(place.block.right() + 5, y));
}

} // namespace

const FormViews& views(const ResolvedBar&) {
    static const FormViews table{
        .title = [](const ResolvedZone&, std::size_t) { return QString("Rack"); },
        .detail =
            [](const ResolvedZone& z, const Piece& piece) {
                return QString(in_rad(z.rack()->spec.helix_angle) != 0 ? "helical" : "straight") + ", " +
                       QString::fromStdString(piece.finish);
            },
        .asks = asks_nothing_more,
        .follows =
            [](SheetBuilder& b, const ResolvedZone& z) {
                b.follow_all(z.rack()->values, said, shop);
                mesh_rows(b);
            },
        .section = [](SectionView& view, QPainter& p, const ResolvedZone& z) { view.draw_bar_or_mesh(p, z); },
        .developed = [](DevelopedView& view, QPainter& p,
                        const ResolvedZone& z) { view.draw_bar_or_mesh(p, z); },
        .side = {.outline = turned_outline,
                 .strip = bar_in_strip,
                 .strip_height = [](const ResolvedZone& z) { return in_mm(z.rack()->spec.height); },
                 .on_its_back = true,
                 .alone = draw_bar}};
    return table;
}

} // namespace whorl::app
