// The section view of a toothed zone: a few teeth in the transverse plane, dimensioned; a pair at its pitch
// point with the line of action and what touches; the rack that generates the teeth.
#include "app/comparison.hpp"
#include "app/section_view.hpp"

#include "form/tooth/measure.hpp"
#include "model/forms/spline.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <QMouseEvent>
#include <QPainterPath>
#include <cmath>

namespace whorl::app {
namespace {

// One tooth's outline from space to space: angle about the axis and radius.
std::vector<std::pair<double, double>> outline_of(const ResolvedGear& g, double chord) {
    std::vector<std::pair<double, double>> half, out;
    for (const TransverseCurve& c : g.half_outline)
        for (const double t : samples(c, chord)) {
            const TransversePoint p = point_at(c, t);
            half.push_back({p.angle(), p.radius()});
        }
    out = half;
    for (auto it = half.rbegin(); it != half.rend(); ++it)
        out.push_back({g.pitch_angle() - it->first, it->second});
    return out;
}

} // namespace

// Mesh coordinates, x from the first gear's axis to the pitch point, onto the page, where x points up.
QPointF SectionView::on_teeth(double x, double y) const {
    return {teeth_.centre.x() - (y - teeth_.y0) * teeth_.scale,
            teeth_.centre.y() - (x - teeth_.x0) * teeth_.scale};
}

void SectionView::draw_gear(QPainter& p, const ResolvedGear& g, double axis_x, double turned, bool ghost) {
    const auto outline = outline_of(g, 0.15 / teeth_.scale);
    const bool internal = g.spec.internal;
    // which way the visible teeth look, seen from the gear's own axis
    const double facing = axis_x > teeth_.x0 ? pi : 0;
    const double reach =
        std::hypot(width(), height()) / teeth_.scale / 2 / std::max(g.root_radius, g.tip_radius) +
        g.pitch_angle();
    const int teeth =
        std::min(g.spec.teeth, static_cast<int>(std::ceil(2 * std::min(reach, pi) / g.pitch_angle())) + 1);
    const auto first = static_cast<int>(std::round((facing - turned) / g.pitch_angle())) - (teeth + 1) / 2;
    QPolygonF edge;
    for (int k = 0; k < teeth; ++k)
        for (const auto& [angle, r] : outline) {
            const double a = turned + (first + k) * g.pitch_angle() + angle;
            edge << on_teeth(axis_x + r * std::cos(a), r * std::sin(a));
        }
    QPainterPath metal;
    metal.addPolygon(edge);
    // the body goes on behind the roots, out of the picture
    const double a0 = turned + first * g.pitch_angle(), a1 = a0 + teeth * g.pitch_angle();
    const double back = internal ? g.root_radius + 40 * in_mm(g.spec.module)
                                 : std::max(0.0, g.root_radius - 40 * in_mm(g.spec.module));
    for (int i = 0; i <= 40; ++i) {
        const double a = a1 + (a0 - a1) * i / 40;
        metal.lineTo(on_teeth(axis_x + back * std::cos(a), back * std::sin(a)));
    }
    metal.closeSubpath();
    fill_teeth(p, metal, edge, ghost);
}

// The metal of one of a pair: the one looked at hatched, the other as a tint.
void SectionView::fill_teeth(QPainter& p, const QPainterPath& metal, const QPolygonF& edge, bool ghost) {
    const Theme& t = theme();
    if (ghost) {
        QColor tint = t.active;
        tint.setAlphaF(0.13f);
        p.fillPath(metal, tint);
        p.setPen(QPen(t.active, 1.4));
    } else {
        fill_metal(p, metal);
        p.setPen(QPen(t.ink, 1.7));
    }
    p.setBrush(Qt::NoBrush);
    p.drawPolyline(edge);
}

void SectionView::draw_circle(QPainter& p, double axis_x, double radius) {
    const QPointF c = on_teeth(axis_x, 0);
    const double r = radius * teeth_.scale;
    if (r < 20000) {
        p.drawEllipse(c, r, r);
        return;
    }
    // nearly straight: only the part that shows
    QPolygonF line;
    const double facing = axis_x > teeth_.x0 ? pi : 0;
    for (int i = -60; i <= 60; ++i) {
        const double a = facing + i / 60.0 * width() / teeth_.scale / radius;
        line << on_teeth(axis_x + radius * std::cos(a), radius * std::sin(a));
    }
    p.drawPolyline(line);
}

// The rack whose flanks and rounded tips leave these teeth, where it stands when the gear has turned so far.
void SectionView::draw_rack(QPainter& p, const ResolvedGear& g, double turned) {
    const GearSpec& s = g.spec;
    const double m = in_mm(s.module), alpha = in_rad(s.pressure_angle),
                 stretch = 1 / std::cos(in_rad(s.helix_angle));
    const double datum = s.profile_shift * m, half = (pi * m / 2 + in_mm(s.thinning)) / 2;
    const double dedendum = s.rack.dedendum * m, rho = g.root_rounding,
                 top = datum + s.rack.addendum * m + 0.25 * m;
    const double corner_y = datum - dedendum + rho,
                 corner_x = half - dedendum * std::tan(alpha) - rho * (1 - std::sin(alpha)) / std::cos(alpha);
    // half a cutter tooth, from its tip's middle up the flank
    std::vector<std::pair<double, double>> side{{0, datum - dedendum}};
    for (int i = 0; i <= 12; ++i) {
        const double psi = pi / 2 - (pi / 2 - alpha) * i / 12;
        side.push_back({(corner_x + rho * std::cos(psi)) * stretch, corner_y - rho * std::sin(psi)});
    }
    side.push_back({(half + (top - datum) * std::tan(alpha)) * stretch, top});
    const double pitch = pi * m * stretch, shift = turned * g.pitch_radius;
    const auto at = [&](double along, double height) { return on_teeth(g.pitch_radius + height, along); };
    QPolygonF line;
    const int reach = static_cast<int>(width() / teeth_.scale / pitch / 2) + 2;
    const double rest = std::remainder(shift, pitch);
    for (int k = -reach; k <= reach; ++k) {
        for (auto it = side.rbegin(); it != side.rend(); ++it)
            line << at(rest + k * pitch - it->first, it->second);
        for (const auto& [x, y] : side)
            line << at(rest + k * pitch + x, y);
    }
    p.setPen(QPen(theme().active, 1.2));
    p.drawPolyline(line);
}

// Two that run together, at the pitch point: the line of action, what touches now, the clearance if it is
// lit.
void SectionView::draw_mesh(QPainter& p, const ShownMesh& pair, double roll) {
    const Theme& t = theme();
    const double k = teeth_.scale;
    const GearMesh& mesh = pair.mesh;
    const bool second_here = pair.second_first;
    draw_gear(p, pair.first, 0, roll, second_here);
    // the first gear drives: the second stands back by half the backlash, so that flanks touch
    const double back = std::max(0.0, mesh.backlash) / 2;
    if (pair.rack) {
        draw_bar(p, *pair.rack, mesh.centre, -1, mesh.rack_travel(roll) - back, !second_here);
        p.setPen(QPen(t.active, 0.9, Qt::DashDotLine));
        draw_circle(p, 0, mesh.first_radius);
        p.drawLine(on_teeth(mesh.first_radius, -width() / k), on_teeth(mesh.first_radius, width() / k));
    } else {
        const double second_axis = mesh.internal ? -mesh.centre : mesh.centre;
        const double turn = back / mesh.second_radius;
        draw_gear(p, *pair.second, second_axis, mesh.second_turn(roll) + (mesh.internal ? -turn : turn),
                  !second_here);
        p.setPen(QPen(t.active, 0.9, Qt::DashDotLine));
        draw_circle(p, 0, mesh.first_radius);
        draw_circle(p, second_axis, mesh.second_radius);
    }
    draw_ways(p, pair);
    if (session_.hovered() == "tip_clearance") { // between the tips of each and the other's roots
        p.setPen(QPen(t.active, 1.2, Qt::DashLine));
        const auto level = [&](double axis, double radius) {
            if (axis == 0 || !pair.rack) return draw_circle(p, axis, radius);
            const double x = mesh.centre - radius;
            p.drawLine(on_teeth(x, -width() / k), on_teeth(x, width() / k));
        };
        const double there = mesh.internal ? -mesh.centre : mesh.centre;
        for (const double r : {pair.first.tip_radius, pair.first.root_radius})
            level(0, r);
        for (const double r : {pair.rack ? pair.rack->tip_height : pair.second->tip_radius,
                               pair.rack ? pair.rack->root_height : pair.second->root_radius})
            level(there, r);
    }
    // line of action, its path of contact heavy, and where flanks touch now
    const double a = mesh.working_angle;
    const auto along = [&](double s) {
        return on_teeth(mesh.first_radius + s * std::sin(a), s * std::cos(a));
    };
    p.setPen(QPen(t.part, 0.9));
    const double far = width() / k;
    p.drawLine(along(-far), along(far));
    p.setPen(QPen(t.part, 3));
    p.drawLine(along(mesh.contact_from), along(mesh.contact_to));
    p.setPen(QPen(t.part, 1.4));
    p.setBrush(t.field);
    for (const double place : contact_places(pair.first, mesh, roll))
        p.drawEllipse(along(place), 4, 4);
}

// One gear with its circles, and what is laid over it: the generating rack, another source's gear.
void SectionView::draw_alone(QPainter& p, const ResolvedGear& g, double roll) {
    const Theme& t = theme();
    const double k = teeth_.scale;
    draw_gear(p, g, 0, roll, false);
    const auto circle = [&](const char* key, double r, Qt::PenStyle style) {
        p.setPen(QPen(session_.hovered() == key  ? t.active
                      : style == Qt::DashDotLine ? t.active
                                                 : t.muted,
                      session_.hovered() == key ? 1.8 : 0.9, style));
        p.setBrush(Qt::NoBrush);
        draw_circle(p, 0, r);
    };
    circle("tip_diameter", g.tip_radius, Qt::DashLine);
    circle("pitch_diameter", g.pitch_radius, Qt::DashDotLine);
    circle("base_diameter", g.base_radius, Qt::DotLine);
    circle("root_diameter", g.root_radius, Qt::DashLine);
    circle("form_diameter", g.form_radius, Qt::DashDotDotLine);
    if (rack_shown_ && !rack_word_.isNull()) draw_rack(p, g, roll);
    if (comparison_ &&
        comparison_->result()) { // the other gear, each of its points in every space that shows
        p.setPen(QPen(t.active, 1.8, Qt::SolidLine, Qt::RoundCap));
        const double pa = g.pitch_angle();
        const int reach = static_cast<int>(width() / k / g.pitch_radius / pa / 2) + 2;
        QPolygonF dots;
        for (const GearDeviation& d : comparison_->result()->points)
            for (int i = -reach; i <= reach; ++i) {
                const double a = roll - std::floor(roll / pa + 0.5) * pa + i * pa + d.angle;
                const QPointF at = on_teeth(d.radius * std::cos(a), d.radius * std::sin(a));
                if (rect().contains(at.toPoint())) dots << at;
            }
        p.drawPoints(dots);
    }
}

// Typed here even while they don't mesh: the distance may be what is wrong. Gives the width it takes.
double SectionView::centre_text(QPainter& p, const GearMesh& mesh) {
    Spot s =
        spot_of("centre_distance", field::centre_distance,
                mesh.rack ? "From the axis to the rack's reference line. Click to type; clear it to follow "
                            "from the shift without backlash."
                          : "Centre distance. Click to type; clear it to follow from the shifts without "
                            "backlash.");
    if (s.initial.isEmpty()) s.initial = shown(mesh.centre);
    const QString what = mesh.rack ? "axis to reference" : "centres";
    const QString words = mesh.centre > 0 ? what + " " + shown(mesh.centre) : what;
    const double w = number_width(p.font(), words) + 8;
    dimension_text(p, {14 + w / 2, height() - 18.0}, words, std::move(s));
    return w;
}

void SectionView::mesh_texts(QPainter& p, const GearMesh& mesh) {
    const auto text = [&](const char* key, const QString& words, QPointF at, const QString& tip) {
        const double w = number_width(p.font(), words) + 8;
        dimension_text(p, {at.x() + w / 2, at.y()}, words, spot_of(key, {}, tip));
    };
    const double y = height() - 18;
    const double w = centre_text(p, mesh);
    text("backlash", "backlash " + shown(std::abs(mesh.backlash) < 5e-7 ? 0 : mesh.backlash), {14 + w + 8, y},
         "On the pitch circles");
    text("contact_ratio", "contact ratio " + QString::fromStdString(number_text(mesh.contact_ratio, 2)),
         {14, y - 22}, "Pairs of teeth in contact, on average");
    text("tip_clearance", "tip clearance " + shown(mesh.tip_clearance), {14, y - 44},
         "From the tips of one to the roots of the other, the smaller of both");
    text("working_pressure_angle",
         QString("%1°").arg(number_text(in_deg(rad(mesh.working_angle)), 2).c_str()), {width() - 70.0, y},
         "Working pressure angle, between the line of action and the common tangent");
}

// Circles by name at the right edge, kept apart.
void SectionView::circle_texts(QPainter& p, const ResolvedGear& g) {
    const double k = teeth_.scale;
    const double y_edge = std::min((width() / 2.0 - 50) / k, g.pitch_radius * 0.9);
    double last = -1e9;
    std::vector<std::tuple<double, const char*, QString>> labels;
    for (const auto& [key, name, r] : {std::tuple{"tip_diameter", "tip Ø ", g.tip_radius},
                                       std::tuple{"pitch_diameter", "pitch Ø ", g.pitch_radius},
                                       std::tuple{"base_diameter", "base Ø ", g.base_radius},
                                       std::tuple{"form_diameter", "form Ø ", g.form_radius},
                                       std::tuple{"root_diameter", "root Ø ", g.root_radius}}) {
        const double x = std::sqrt(std::max(0.0, r * r - y_edge * y_edge));
        labels.push_back({on_teeth(x, -y_edge).y(), key, QString(name) + shown(2 * r)});
    }
    std::sort(labels.begin(), labels.end(),
              [](const auto& a, const auto& b) { return std::get<0>(a) < std::get<0>(b); });
    for (auto& [y, key, text] : labels) {
        y = std::max(y, last + 21);
        last = y;
    }
    if (!labels.empty() && std::get<0>(labels.back()) > height() - 14) {
        const double up = std::get<0>(labels.back()) - (height() - 14);
        for (auto& l : labels)
            std::get<0>(l) -= up;
    }
    for (auto& [y, key, text] : labels) {
        const double w = number_width(p.font(), text) + 8;
        dimension_text(p, {width() - w / 2 - 10, y}, text, spot_of(key, {}, text));
    }
}

// What the gear is made from on the left; each is typed here.
void SectionView::gear_texts(QPainter& p, const ResolvedGear& g) {
    const auto left_text = [&](double y, const char* key, std::optional<Field> field, const QString& text,
                               const QString& tip) {
        const double w = number_width(p.font(), text) + 8;
        dimension_text(p, {w / 2 + 12, y}, text, spot_of(key, field, tip));
    };
    left_text(46, "module", field::module,
              "m " + QString::fromStdString(number_text(in_mm(g.spec.module), 4)),
              "Module, normal. Click to type; 12 dp works too.");
    left_text(70, "teeth", field::teeth, "z " + QString::number(g.spec.teeth),
              "Number of teeth. Click to type.");
    left_text(94, "pressure_angle", field::pressure_angle,
              QString("α %1°").arg(number_text(in_deg(g.spec.pressure_angle), 3).c_str()),
              "Pressure angle of the basic rack. Click to type.");
    left_text(118, "profile_shift", field::profile_shift,
              "x " + QString::fromStdString(number_text(g.spec.profile_shift, 4)),
              "Profile shift, × module. Click to type.");
    if (in_rad(g.spec.helix_angle) != 0)
        left_text(142, "helix_angle", field::helix_angle,
                  QString("β %1°").arg(number_text(in_deg(g.spec.helix_angle), 3).c_str()),
                  "Helix angle at the pitch circle. Click to type.");
}

void SectionView::spline_texts(QPainter& p, const ResolvedSpline& s) {
    double y = 46;
    const auto left_text = [&](const char* key, Field field, const QString& text, const QString& tip) {
        const double w = number_width(p.font(), text) + 8;
        dimension_text(p, {w / 2 + 12, y}, text, spot_of(key, field, tip));
        y += 24;
    };
    if (s.spec.reference_diameter)
        left_text("reference_diameter", field::reference_diameter,
                  "dB " + shown(in_mm(*s.spec.reference_diameter)),
                  "Reference diameter, DIN 5480. Click to type; clear it for ISO 4156.");
    left_text("module", field::module, "m " + QString::fromStdString(number_text(in_mm(s.spec.module), 4)),
              "Module, in mm. Click to type.");
    left_text("teeth", field::teeth, "z " + QString::number(s.spec.teeth), "Number of teeth. Click to type.");
    const QString angle = QString("α %1°").arg(number_text(in_deg(s.spec.pressure_angle), 2).c_str());
    if (s.spec.reference_diameter)
        dimension_text(p, {number_width(p.font(), angle) / 2 + 16, y}, angle,
                       spot_of("pressure_angle", {}, "Pressure angle, 30° by DIN 5480"));
    else
        left_text("pressure_angle", field::pressure_angle, angle,
                  "Pressure angle: 30, 37.5 or 45. Click to type.");
}

// In the tooth that stands nearest the middle.
void SectionView::thickness_text(QPainter& p, const ResolvedGear& g, double roll) {
    const double pa = g.pitch_angle();
    const double middle = roll + (std::round((-roll) / pa - 0.5) + 0.5) * pa;
    const double half = tooth_thickness(g, g.pitch_radius) / 2 / g.pitch_radius;
    const auto at = [&](double a) {
        return on_teeth(g.pitch_radius * std::cos(a), g.pitch_radius * std::sin(a));
    };
    const QPointF a = at(middle + half), b = at(middle - half);
    dimension(p, a, b, {a, b}, at(middle) + QPointF(0, 15), shown(tooth_thickness(g, g.pitch_radius)),
              spot_of("tooth_thickness", {}, "Tooth thickness on the pitch circle, transverse"));
}

// A word in the title's line that switches something; gives the rectangle it takes.
QRectF SectionView::switch_word(QPainter& p, double right, const QString& text, bool on) {
    p.setFont(text_font(11, on ? Weight::medium : Weight::regular));
    const double w = QFontMetricsF(p.font()).horizontalAdvance(text);
    p.setPen(on ? theme().active : theme().muted);
    p.drawText(QPointF(right - w, 20), text);
    return QRectF(right - w - 4, 6, w + 8, 20);
}

// So many pitches across and depths high fill the view; gives the scale in words.
QString SectionView::frame_teeth(const ResolvedGear& g, double pitches, double depths) {
    const double top = 36, bottom = height() - 12, depth = std::abs(g.tip_radius - g.root_radius);
    teeth_.scale =
        std::min((width() - 40) / (pitches * pi * g.transverse_module), (bottom - top) / (depths * depth));
    teeth_.centre = {width() / 2.0, (top + bottom) / 2};
    teeth_.y0 = 0;
    teeth_.x0 = (g.tip_radius + g.root_radius) / 2 + (g.spec.internal ? -0.1 : 0.1) * depth;
    const double scale = teeth_.scale / (96 / 25.4);
    return scale >= 1 ? QString("%1 : 1").arg(number_text(scale, scale < 10 ? 1 : 0).c_str())
                      : QString("1 : %1").arg(number_text(1 / scale, 2).c_str());
}

// Shaft and hub stand as they are assembled: a tooth of one in the middle of a space of the other.
void SectionView::draw_spline(QPainter& p, const ResolvedZone& zone, const ResolvedZone* other) {
    const ResolvedGear& g = *zone.gear();
    run_word_ = rack_word_ = {};
    const QString scale = frame_teeth(g, 2.3, 2.1);
    draw_title(p, "Section", QString("transverse, %1%2").arg(scale, other ? ", shaft in its hub" : ""));
    if (g.half_outline.empty()) {
        draw_hint(p, "These teeth can't be made as they are; the checks line says why and what would work.");
        return;
    }
    p.save();
    p.setClipRect(QRectF(0, 28, width(), height() - 28));
    if (other && !other->gear()->half_outline.empty())
        draw_gear(p, *other->gear(), 0, other->gear()->pitch_angle() / 2, true);
    draw_alone(p, g, 0);
    p.restore();
    p.setBrush(Qt::NoBrush);
    p.setFont(text_font(11));
    circle_texts(p, g);
    p.setFont(text_font(13, Weight::medium));
    spline_texts(p, *zone.spline());
    // the tooth of a shaft, the space of a hub, on the pitch circle
    const double tooth = tooth_thickness(g, g.pitch_radius) / g.pitch_radius, pa = g.pitch_angle();
    const double width = zone.in_bore() ? pa - tooth : tooth, middle = zone.in_bore() ? 0 : pa / 2;
    const auto at = [&](double a) {
        return on_teeth(g.pitch_radius * std::cos(a), g.pitch_radius * std::sin(a));
    };
    const QPointF a = at(middle + width / 2), b = at(middle - width / 2);
    p.setFont(text_font(11));
    dimension(p, a, b, {a, b}, at(middle) + QPointF(0, 15), shown(width * g.pitch_radius),
              spot_of("basic_width", {},
                      zone.in_bore() ? "Space width on the pitch circle, as it is made"
                                     : "Tooth thickness on the pitch circle, as it is made"));
}

void SectionView::draw_teeth(QPainter& p, const ResolvedZone& zone) {
    const auto& shown_mesh = session_.mesh();
    if (!zone.gear() && !shown_mesh) return; // a rack is drawn here with the gear that runs on it
    const ResolvedGear& g = zone.rack() ? shown_mesh->first : *zone.gear();
    // a gear that is laid over another is looked at alone
    const bool paired = shown_mesh && shown_mesh->mesh.meshes && !(comparison_ && comparison_->loaded());
    const QString scale = frame_teeth(g, paired ? 2.6 : 2.3, paired ? 2.35 : 2.1);
    if (paired) teeth_.x0 = shown_mesh->mesh.first_radius;
    draw_title(p, "Section", QString("transverse, %1%2").arg(scale, paired ? ", at the pitch point" : ""));
    run_word_ = switch_word(p, width() - 14, session_.running() ? "stop" : "run", session_.running());
    rack_word_ =
        g.spec.internal || paired ? QRectF() : switch_word(p, run_word_.left() - 10, "rack", rack_shown_);

    p.save();
    p.setClipRect(QRectF(0, 28, width(), height() - 28));
    const double roll = session_.roll();
    if (g.half_outline.empty()) {
        p.restore();
        draw_hint(p, "These teeth can't be made as they are; the checks line says why and what would work.");
        return;
    }
    if (paired)
        draw_mesh(p, *shown_mesh, roll);
    else
        draw_alone(p, g, roll);
    p.restore();
    p.setBrush(Qt::NoBrush);

    p.setFont(text_font(11));
    if (shown_mesh && !paired) centre_text(p, shown_mesh->mesh);
    if (paired) return mesh_texts(p, shown_mesh->mesh);
    circle_texts(p, g);
    p.setFont(text_font(13, Weight::medium));
    gear_texts(p, g);
    p.setFont(text_font(11));
    if (!session_.running()) thickness_text(p, g, roll);
}

bool SectionView::press_teeth(QMouseEvent* e) {
    const auto* z = session_.resolved_zone();
    if (!z || (!z->gear() && !z->rack() && !z->motion()) || e->button() != Qt::LeftButton) return false;
    if (z->spline() || (z->rack() && !session_.mesh())) return false; // nothing turns
    if (run_word_.contains(e->position())) {
        session_.set_running(!session_.running());
        return true;
    }
    if (rack_word_.contains(e->position())) {
        rack_shown_ = !rack_shown_;
        update();
        return true;
    }
    for (const auto& s : spots())
        if (s.rect.contains(e->position())) return false;
    rolled_from_ = e->position();
    roll_before_ = session_.roll();
    return true;
}

bool SectionView::roll_teeth(QMouseEvent* e) {
    if (!rolled_from_) return false;
    const auto* z = session_.resolved_zone();
    const auto& mesh = session_.mesh();
    if (!z || (!z->gear() && !z->motion() && !mesh)) return false;
    if (z->motion()) { // the angle of the timing, whichever way the cam turns
        const double across =
            (e->position().x() - rolled_from_->x()) / teeth_.scale / in_mm(z->largest_radius());
        session_.set_roll(roll_before_ - (z->turns_clockwise() ? -across : across));
        return true;
    }
    const double r = mesh && mesh->mesh.meshes ? mesh->mesh.first_radius
                     : z->gear()               ? z->gear()->pitch_radius
                                               : mesh->first.pitch_radius;
    session_.set_roll(roll_before_ - (e->position().x() - rolled_from_->x()) / teeth_.scale / r);
    return true;
}

} // namespace whorl::app
