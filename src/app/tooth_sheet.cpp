// The spec sheet's rows of a toothed zone and of its mesh.
#include "app/spec_sheet.hpp"

#include "form/tooth/measure.hpp"
#include "model/resolve.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace whorl::app {

namespace {
QString text(double v, int decimals) {
    return QString::fromStdString(number_text(v, decimals));
}
} // namespace

void SpecSheet::thickness_row(QPainter& p, double& y, const ResolvedGear& g) {
    if (g.half_outline.empty()) return;
    const double low = 2 * std::min(g.root_radius, g.tip_radius),
                 high = 2 * std::max(g.root_radius, g.tip_radius);
    const double at = std::clamp(thickness_at_.value_or(2 * g.pitch_radius), low, high);
    const Thickness tooth = thickness_at(g, at);
    asked_row(p, y, "Thick on Ø " + shown(at), field::teeth, shown(tooth.arc), symbol(session_.unit()),
              "thickness_at");
    Spot s = take_last_spot();
    s.field.reset();
    s.initial = shown(at);
    s.tip = "Tooth thickness on any diameter, arc in the transverse plane; type the diameter. Chord " +
            shown(tooth.chord) + ", " + shown(tooth.height) + " from the tip circle.";
    s.commit = [this](const QString& typed) -> QString {
        const auto* z = session_.resolved_zone();
        if (!z || !z->gear()) return {};
        try {
            const double d =
                in_mm(evaluate_length(typed.toStdString(), session_.unit(), resolve_names(session_.job())));
            (void)thickness_at(*z->gear(), d);
            thickness_at_ = d;
            update();
            return {};
        } catch (const InputError& e) {
            return QString::fromStdString(e.what());
        }
    };
    add_spot(s);
}

// Typed as a number it finds tooth counts for both gears near their size now, as 19:73 it takes those.
void SpecSheet::ratio_row(QPainter& p, double& y, const Session::ShownMesh& m) {
    asked_row(p, y, "Ratio", field::teeth, text(m.mesh.ratio, 5), {}, "ratio");
    Spot s = take_last_spot();
    s.field.reset();
    s.initial = text(m.mesh.ratio, 6);
    const int z1 = m.first.spec.teeth, z2 = m.second->spec.teeth;
    for (const RatioChoice& c :
         teeth_for_ratio(m.mesh.ratio, 0.01, std::max(5, z1 - 6), std::max(z1, z2) + 20, 8))
        s.choices << QString("%1:%2").arg(c.first).arg(c.second);
    s.tip = "z2/z1. Type a ratio: the nearest tooth counts are taken, without a common factor where that is "
            "as near; "
            "or type both, such as 19:73";
    const ZoneRef first = m.second_first ? m.there : m.here, second = m.second_first ? m.here : m.there;
    const bool internal = m.mesh.internal;
    s.commit = [this, z1, first, second, internal](const QString& typed) -> QString {
        int a = z1, b = 0;
        const auto parts = typed.split(':');
        if (parts.size() == 2) {
            a = parts[0].trimmed().toInt();
            b = parts[1].trimmed().toInt();
        } else {
            try {
                const double ratio = evaluate_number(typed.toStdString(), resolve_names(session_.job()));
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
                b = static_cast<int>(std::round(ratio * a));
            } catch (const InputError& e) {
                return QString::fromStdString(e.what());
            }
        }
        if (a < 5 || b < 5 || a > 1000 || b > 1000) return "Both gears need 5 to 1000 teeth, such as 19:73.";
        if (internal && b <= a) return "The ring needs more teeth than the pinion in it.";
        return session_.change([&](const Job& j) {
            const Job half = apply(j, {first.piece, first.zone, field::teeth, std::to_string(a), {}});
            return apply(half, {second.piece, second.zone, field::teeth, std::to_string(b), {}});
        });
    };
    add_spot(s);
}

void SpecSheet::mesh_rows(QPainter& p, double& y) {
    const auto& m = session_.mesh();
    if (!m) return;
    const Theme& t = theme();
    heading(p, y, QString::fromStdString("Mesh with " + session_.job().pieces[m->there.piece].name).left(36));
    p.setFont(text_font(11));
    p.setPen(m->mesh.runs() ? t.active : t.stop);
    p.drawText(QPointF(18, y + 11), m->mesh.runs()
                                        ? (m->follows ? "meshes; the second follows the first" : "meshes")
                                        : "does not mesh, see the checks");
    y += 18;
    const bool asked = !session_.job().pairs[m->pair].centre.text.empty();
    asked_row(p, y, m->rack ? "Axis to reference" : "Centre distance", field::centre_distance,
              (asked ? QString() : QString("follows, ")) + shown(m->mesh.centre), symbol(session_.unit()),
              "centre_distance", {},
              "Type a centre distance; clear it to follow from the profile shifts, without backlash but the "
              "thinning");
    if (!m->rack) ratio_row(p, y, *m);
    for (const auto& v : m->mesh.values)
        if (v.key != "centre_distance" && v.key != "ratio") follows_row(p, y, v);
    // and what turns beyond this pair
    const Train& train = session_.train();
    if (train.members.size() < 3) return;
    heading(p, y, "Train, per turn of this piece");
    for (const TrainMember& member : train.members)
        if (member.pair)
            follows_row(p, y,
                        {.key = "train_" + std::to_string(member.piece),
                         .label = session_.job().pieces[member.piece].name,
                         .kind = ValueKind::text,
                         .text = member.rack ? number_text(member.travel, 3) + " mm"
                                             : number_text(member.turns, 5) + " turns",
                         .source = "driven by " + session_.job().pieces[member.by].name});
}

} // namespace whorl::app
