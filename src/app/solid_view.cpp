#include "app/solid_view.hpp"

#include "model/forms/follower.hpp"

#include "app/paint_turns.hpp"
#include "app/theme.hpp"
#include "quantity/expression.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>
#include <limits>
#include <numbers>

namespace whorl::app {
namespace {

double axis_in_plane(const QVector3D& axis) {
    return std::hypot(double(axis.x()), double(axis.y()));
}

} // namespace

SolidView::SolidView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("Solid");
    setMinimumSize(240, 160);
    connect(&session_, &Session::previewed, this, [this] {
        const auto preview = session_.preview();
        const bool other = shown_piece_ != session_.piece();
        shown_piece_ = session_.piece();
        // the last good geometry of a piece stays while a finding stops
        if (!preview || preview->made() || other || !piece_.preview()) piece_.show(preview);
        if (other && !swapped_) {
            zoom_ = 1;
            pan_ = {};
        }
        swapped_ = false;
        update_in_turn(this);
    });
    connect(&session_, &Session::counterpart_previewed, this, [this] {
        counterpart_.show(session_.counterpart_preview());
        update();
    });
    connect(&session_, &Session::changed, this, [this] {
        keep_place();
        update_in_turn(this);
    });
}

// The place on the thread is kept while the same two zones are looked at, from whichever side.
void SolidView::keep_place() {
    const auto& pair = session_.together();
    if (!pair) {
        placed_.reset();
        travel_.reset();
        return;
    }
    if (placed_ && placed_->there == pair->here && placed_->here == pair->there) {
        const Mating& m = placed_->mating;
        const double was = m.clamped(travel_.value_or(m.usual));
        travel_ = m.flipped ? was : -was;
        if (together_ && !m.flipped) roll_ = std::fmod(roll_ + in_deg(rad(m.angle(was))), 360);
        swapped_ = together_;
    } else if (!placed_ || placed_->here != pair->here || placed_->there != pair->there) {
        travel_.reset();
    }
    placed_ = *pair;
}

SolidView::~SolidView() {
    if (!started_ || !gl_.make_current()) return;
    piece_.destroy();
    counterpart_.destroy();
    programs_.reset();
}

void SolidView::look(Look l) {
    roll_ = 0;
    pan_ = {};
    zoom_ = 1;
    switch (l) {
    case Look::side:
        tilt_ = 0, yaw_ = 0;
        break;
    case Look::end:
        tilt_ = 0, yaw_ = 90;
        break;
    case Look::oblique:
        tilt_ = 20, yaw_ = 28;
        break;
    }
    update();
}

void SolidView::set_cut(bool on) {
    cut_ = on;
    emit cut_changed();
    update();
}

// From the plane of a bent bar's first bend, which is the whole centreline's where that has one, rad.
double SolidView::cut_direction() const {
    double from = 0;
    if (const ResolvedPiece* piece = session_.resolved(); piece && piece->bent()) {
        const BentLine way = piece->centreline();
        const auto bend = std::find_if(way.parts().begin(), way.parts().end(),
                                       [](const BentPart& part) { return !part.straight(); });
        if (bend != way.parts().end()) from = bend->towards;
    }
    return from + in_rad(deg(cut_angle_));
}

void SolidView::turn_cut(double degrees) {
    cut_angle_ = std::fmod(cut_angle_ + degrees + 360, 360);
    update();
}

void SolidView::start_gl() {
    started_ = true;
    ready_ = gl_.start() && initializeOpenGLFunctions();
    if (!ready_) return;
    programs_.emplace();
    ready_ = programs_->link();
    piece_.create();
    counterpart_.create();
}

bool SolidView::pair_shown() const {
    return together_ && session_.together() && !session_.mesh() && counterpart_.made() && piece_.made();
}

bool SolidView::gears_shown() const {
    return together_ && session_.mesh() && session_.mesh()->mesh.meshes && counterpart_.made() &&
           piece_.made();
}

bool SolidView::follower_shown() const {
    const auto* z = session_.resolved_zone();
    return (together_ || session_.running() || session_.roll() != 0) && session_.follower() && z &&
           z->motion() && counterpart_.made() && piece_.made();
}

namespace {
// A gear's own angles to those of the mesh: the middle of a space at its zone's middle looks along `turn`.
double turned(const ResolvedZone& zone, double turn) {
    return turn - zone.as<ResolvedWheel>()->turned - zone.gear()->twist * in_mm(zone.length) / 2;
}
double middle_of(const ResolvedZone& z) {
    return in_mm(z.start + z.length / 2);
}
float degrees(double angle) {
    return static_cast<float>(std::remainder(in_deg(rad(angle)), 360));
}
} // namespace

QMatrix4x4 SolidView::piece_place() const {
    QMatrix4x4 place;
    const auto& m = session_.mesh();
    const auto* z = session_.resolved_zone();
    if (m && gears_shown() && !(m->rack && m->second_first))
        place.rotate(degrees(turned(m->here_zone, m->second_first ? m->mesh.second_turn(session_.roll())
                                                                  : session_.roll())),
                     0, 0, 1);
    else if (z && z->gear())
        place.rotate(degrees(session_.roll()), 0, 0, 1);
    else if (z && z->motion())
        place.rotate(degrees(z->turns_clockwise() ? -session_.roll() : session_.roll()), 0, 0, 1);
    return place;
}

namespace {
// From the straightened bar to where the straight part of a bent piece stands that a zone lies in.
QMatrix4x4 straight_part(const ResolvedPiece& piece, std::size_t zone) {
    QMatrix4x4 out;
    if (!piece.bent() || zone >= piece.zones.size()) return out;
    const double z = in_mm(piece.zones[zone].start + piece.zones[zone].length / 2);
    const BarFrame f = piece.centreline().frame_at(z);
    for (int k = 0; k < 3; ++k) {
        const auto i = static_cast<std::size_t>(k);
        out.setRow(k, QVector4D(static_cast<float>(f.x[i]), static_cast<float>(f.y[i]),
                                static_cast<float>(f.t[i]), static_cast<float>(f.origin[i] - z * f.t[i])));
    }
    return out;
}
} // namespace

void SolidView::set_together(bool on) {
    together_ = on;
    emit together_changed();
    update();
}

double SolidView::travel() const {
    if (!session_.together()) return 0;
    const Mating& m = session_.together()->mating;
    return m.clamped(travel_.value_or(m.usual));
}

void SolidView::screw_to(double travel) {
    if (!session_.together()) return;
    travel_ = session_.together()->mating.clamped(travel);
    update();
}

// On is positive: towards where it is seated.
void SolidView::screw_by(double turns) {
    if (!session_.together()) return;
    const Mating& m = session_.together()->mating;
    screw_to(travel() + turns * std::abs(m.lead) * (m.seated < m.apart ? -1 : 1));
}

QMatrix4x4 SolidView::counterpart_place() const {
    QMatrix4x4 place;
    if (gears_shown()) {
        // beside the shown gear, the middles of both zones in one plane
        const auto& mesh = *session_.mesh();
        if (mesh.rack) {
            // the rack stands on the gear's right, teeth to it and its length along y
            const double at = rack_middle(*mesh.rack), lift = in_mm(mesh.rack->spec.height) / 2;
            const double travel = mesh.mesh.rack_travel(session_.roll());
            const double zone = middle_of(mesh.second_first ? mesh.there_zone : mesh.here_zone);
            QMatrix4x4 rack(-1, 0, 0, static_cast<float>(mesh.mesh.centre + mesh.rack->body() - lift), //
                            0, 0, 1, static_cast<float>(travel - at),                                  //
                            0, 1, 0, static_cast<float>(zone),                                         //
                            0, 0, 0, 1);
            if (!mesh.second_first) return rack;
            place = rack.inverted(); // the gear where the rack's own place is
            place.rotate(degrees(turned(mesh.there_zone, session_.roll())), 0, 0, 1);
            return place;
        }
        const double aside = mesh.mesh.internal == mesh.second_first ? mesh.mesh.centre : -mesh.mesh.centre;
        place.translate(static_cast<float>(aside), 0,
                        static_cast<float>(middle_of(mesh.here_zone) - middle_of(mesh.there_zone)));
        place.rotate(
            degrees(turned(mesh.there_zone,
                           mesh.second_first ? session_.roll() : mesh.mesh.second_turn(session_.roll()))),
            0, 0, 1);
        return place;
    }
    if (follower_shown()) {
        const Standing s = follower_standing(*session_.resolved_zone(), session_.roll());
        const auto f = [](double v) { return static_cast<float>(v); };
        return QMatrix4x4(f(s.x[0]), f(s.y[0]), f(s.z[0]), f(s.origin[0]), //
                          f(s.x[1]), f(s.y[1]), f(s.z[1]), f(s.origin[1]), //
                          f(s.x[2]), f(s.y[2]), f(s.z[2]), f(s.origin[2]), //
                          0, 0, 0, 1);
    }
    const Mating& m = session_.together()->mating;
    // along the straightened bar, and with it to its place
    place = straight_part(piece_.preview()->piece, session_.zone());
    place.translate(0, 0, static_cast<float>(travel()));
    // float turns lose nothing here: the angle is taken within one turn first
    place.rotate(static_cast<float>(std::remainder(in_deg(rad(m.angle(travel()))), 360)), 0, 0, 1);
    if (m.flipped) place.rotate(180, 1, 0, 0);
    if (placed_) place *= straight_part(counterpart_.preview()->piece, placed_->there.zone).inverted();
    return place;
}

QMatrix4x4 SolidView::orientation() const {
    QMatrix4x4 m;
    m.rotate(static_cast<float>(tilt_), 1, 0, 0);
    m.rotate(static_cast<float>(yaw_), 0, 1, 0);
    // the axis (z) lies to the right, x towards the viewer's up
    QMatrix4x4 lay(0, 0, 1, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 1);
    m = m * lay;
    m.rotate(static_cast<float>(roll_), 0, 0, 1);
    return m;
}

SolidView::Extent SolidView::extent() const {
    if (gripped_extent_) return *gripped_extent_;
    if (!piece_.preview()) return {};
    const ResolvedPiece& piece = piece_.preview()->piece;
    Extent e{0, in_mm(piece.length()), in_mm(piece.largest_radius()), 0, 0};
    if (piece.bent()) e = extent_of_bent(piece);
    if (gears_shown()) {
        const auto& mesh = *session_.mesh();
        if (mesh.rack) { // a box about both, as they stand in the middle of the rack's travel
            const double gear =
                in_mm((mesh.second_first ? counterpart_ : piece_).preview()->piece.largest_radius());
            const double back = mesh.mesh.centre + mesh.rack->body(), half = mesh.rack->length / 2;
            const double wide =
                std::max(in_mm(mesh.rack->spec.width),
                         in_mm((mesh.second_first ? mesh.there_zone : mesh.here_zone).length));
            if (mesh.second_first)
                return {0, mesh.rack->length, (back + gear) / 2,
                        (back + gear) / 2 - in_mm(mesh.rack->spec.height) / 2};
            const double zone = middle_of(mesh.here_zone);
            return {zone - wide / 2, zone + wide / 2, std::max((back + gear) / 2, std::min(half, 2.5 * gear)),
                    (back - gear) / 2};
        }
        const double there = mesh.mesh.internal == mesh.second_first ? mesh.mesh.centre : -mesh.mesh.centre;
        const double reach = in_mm(counterpart_.preview()->piece.largest_radius());
        const double low = std::min(-e.radius, there - reach), high = std::max(e.radius, there + reach);
        e.aside = (low + high) / 2;
        e.radius = (high - low) / 2;
        const double shift = in_mm(mesh.here_zone.start + mesh.here_zone.length / 2) -
                             in_mm(mesh.there_zone.start + mesh.there_zone.length / 2);
        e.from = std::min(e.from, shift);
        e.to = std::max(e.to, shift + in_mm(counterpart_.preview()->piece.length()));
        return e;
    }
    if (follower_shown()) return extent_with_follower(e);
    if (!pair_shown()) return e;
    const Mating& m = session_.together()->mating;
    const ResolvedPiece& other = counterpart_.preview()->piece;
    const double length = in_mm(other.length());
    for (const double at : {m.usual, travel()}) {
        e.from = std::min(e.from, m.flipped ? at - length : at);
        e.to = std::max(e.to, m.flipped ? at : at + length);
    }
    e.radius = std::max(e.radius, in_mm(other.largest_radius()));
    if (piece_.preview()->piece.bent()) { // on one of its legs
        e = extent_of_bent(piece_.preview()->piece);
        const double reach = in_mm(other.largest_radius());
        e.from -= reach;
        e.to += reach;
        e.radius += reach;
    } else if (other.bent()) {
        e.radius = std::max(e.radius, length);
    }
    return e;
}

// About the part's middle: a bent piece has no single axis.
SolidView::Extent SolidView::extent_of_bent(const ResolvedPiece& piece) {
    const BentLine way = piece.centreline();
    const double r = in_mm(piece.largest_radius());
    std::array<double, 3> low{1e300, 1e300, 1e300}, high{-1e300, -1e300, -1e300};
    constexpr int steps = 200;
    for (int i = 0; i <= steps; ++i) {
        const Direction at = way.frame_at(way.length() * i / steps).origin;
        for (std::size_t k = 0; k < 3; ++k) {
            low[k] = std::min(low[k], at[k] - r);
            high[k] = std::max(high[k], at[k] + r);
        }
    }
    return {low[2], high[2], std::max(high[0] - low[0], high[1] - low[1]) / 2, (low[0] + high[0]) / 2,
            (low[1] + high[1]) / 2};
}

// Room for the follower wherever it stands in a turn, so that the picture keeps still.
SolidView::Extent SolidView::extent_with_follower(Extent e) const {
    const ResolvedZone& cam = *session_.resolved_zone();
    const ResolvedPiece& f = counterpart_.preview()->piece;
    const double length = in_mm(f.length()), radius = in_mm(f.largest_radius());
    double low = -e.radius, high = e.radius, beside = e.radius;
    for (int k = 0; k < 24; ++k) {
        const Standing s = follower_standing(cam, 2 * std::numbers::pi * k / 24);
        for (const double along : {0.0, length}) {
            const double x = s.origin[0] + along * s.z[0], y = s.origin[1] + along * s.z[1],
                         z = s.origin[2] + along * s.z[2];
            const double about = std::abs(s.z[2]) > 0.5 ? 0 : radius; // a roller lies along the cam
            low = std::min(low, x - radius);
            high = std::max(high, x + radius);
            beside = std::max(beside, std::abs(y) + radius);
            e.from = std::min(e.from, z - about);
            e.to = std::max(e.to, z + about);
        }
    }
    e.aside = (low + high) / 2;
    e.radius = std::max((high - low) / 2, beside);
    return e;
}

void SolidView::fit() {
    const Extent e = extent();
    const QVector3D axis = orientation().mapVector(QVector3D(0, 0, 1));
    // a cylinder's shadow: its axis plus the discs at both ends
    const auto shadow = [&](double a) {
        return std::abs(a) * (e.to - e.from) + 2 * e.radius * std::sqrt(std::max(0.0, 1 - a * a));
    };
    const double w = shadow(axis.x()), h = shadow(axis.y());
    fit_mm_per_pixel_ = std::max(w / std::max(40.0, width() - 90.0),
                                 h / std::max(40.0, height() - (pair_shown() ? 140.0 : 104.0)));
    fit_mm_per_pixel_ = std::max(fit_mm_per_pixel_, 1e-6);
}

QMatrix4x4 SolidView::centred() const {
    const Extent e = extent();
    QMatrix4x4 m = orientation();
    m.translate(static_cast<float>(-e.aside), static_cast<float>(-e.aside_y),
                static_cast<float>(-(e.from + e.to) / 2));
    return m;
}

QMatrix4x4 SolidView::projection() const {
    const double k = fit_mm_per_pixel_ / zoom_;
    const double w = width() * k / 2, h = height() * k / 2;
    const Extent e = extent();
    const double depth = e.to - e.from + 2 * e.radius;
    QMatrix4x4 p;
    p.ortho(static_cast<float>(-w - pan_.x()), static_cast<float>(w - pan_.x()),
            static_cast<float>(-h - pan_.y()), static_cast<float>(h - pan_.y()), static_cast<float>(-depth),
            static_cast<float>(depth));
    return p;
}

void SolidView::paintEvent(QPaintEvent*) {
    if (!started_) start_gl();
    QPainter p(this);
    p.fillRect(rect(), theme().paper);
    if (ready_ && piece_.made() && session_.has_piece()) {
        fit();
        p.drawImage(rect(), drawn());
        ++frames_;
    }
    draw_overlay(p);
}

QImage SolidView::drawn() {
    const Theme& t = theme();
    if (!gl_.begin(size() * devicePixelRatioF())) return {};
    glClearColor(static_cast<float>(t.paper.redF()), static_cast<float>(t.paper.greenF()),
                 static_cast<float>(t.paper.blueF()), 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT | GL_STENCIL_BUFFER_BIT);
    glEnable(GL_DEPTH_TEST);
    glEnable(GL_MULTISAMPLE);
    const auto of = [&](const Finish& f, double shade) {
        return QVector3D(float(f.red), float(f.green), float(f.blue)) * float(shade * (t.dark ? 0.94 : 1.08));
    };
    const auto look = [&](const Piece& piece, double shade, double selected, bool back) {
        BodyLook out{of(finish_of(piece), shade), {}, selected, back};
        if (std::any_of(piece.zones.begin(), piece.zones.end(),
                        [](const Zone& z) { return !z.finish.empty(); }))
            for (std::size_t i = 0; i < piece.zones.size(); ++i)
                out.zones.push_back(of(finish_of(piece, i), shade));
        return out;
    };
    Scene scene;
    scene.to_view = centred();
    scene.to_clip = projection() * scene.to_view;
    scene.pixel = fit_mm_per_pixel_ / zoom_;
    scene.ratio = devicePixelRatioF();
    if (cut_) {
        const double a = cut_direction();
        scene.cut = Cut{QVector3D(static_cast<float>(-std::sin(a)), static_cast<float>(std::cos(a)), 0),
                        QVector3D(static_cast<float>(std::cos(a)), static_cast<float>(std::sin(a)), 0)};
    }
    piece_.draw(
        *this, *programs_, scene, piece_place(),
        look(session_.job().pieces[session_.piece()], 1, static_cast<double>(session_.zone()), false));
    if (counterpart_shown()) {
        const Piece& there = follower_shown()
                                 ? session_.follower()->piece
                                 : session_.job().pieces[gears_shown() ? session_.mesh()->there.piece
                                                                       : session_.together()->there.piece];
        counterpart_.draw(*this, *programs_, scene, counterpart_place(), look(there, 0.9, -1, true));
    }
    glDisable(GL_DEPTH_TEST);
    return gl_.end();
}

std::optional<SolidView::Hit> SolidView::hit_at(QPointF at) const {
    if (!piece_.made()) return {};
    const QMatrix4x4 to_clip = projection() * centred();
    const double nx = 2 * at.x() / width() - 1, ny = 1 - 2 * at.y() / height();
    double nearest = std::numeric_limits<double>::max();
    std::optional<Hit> hit;
    const double a = cut_direction();
    const auto look_at = [&](const Preview& preview, const QMatrix4x4& place, bool counterpart) {
        const auto& mesh = preview.mesh;
        const QMatrix4x4 clip = to_clip * place;
        const QVector3D gone = place.inverted().mapVector(
            QVector3D(static_cast<float>(-std::sin(a)), static_cast<float>(std::cos(a)), 0));
        std::vector<QVector3D> q;
        q.reserve(mesh.points.size());
        for (const auto& p : mesh.points)
            q.push_back(clip.map(QVector3D(float(p.x), float(p.y), float(p.z))));
        for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
            const auto& t = mesh.triangles[i];
            const QVector3D &A = q[t[0]], &B = q[t[1]], &C = q[t[2]];
            const auto side = [&](const QVector3D& u, const QVector3D& v) {
                return (v.x() - u.x()) * (ny - u.y()) - (v.y() - u.y()) * (nx - u.x());
            };
            const double s0 = side(A, B), s1 = side(B, C), s2 = side(C, A);
            if (!((s0 >= 0 && s1 >= 0 && s2 >= 0) || (s0 <= 0 && s1 <= 0 && s2 <= 0))) continue;
            const auto& p = mesh.points[t[0]];
            if (cut_ && p.x * double(gone.x()) + p.y * double(gone.y()) > 0) continue;
            const double total = s0 + s1 + s2;
            const double z = total == 0 ? A.z() : (s1 * A.z() + s2 * B.z() + s0 * C.z()) / total;
            if (z < nearest) {
                nearest = z;
                hit = Hit{counterpart, preview.body.zone_of(mesh.face[i])};
            }
        }
    };
    look_at(*piece_.preview(), piece_place(), false);
    if (counterpart_shown()) look_at(*counterpart_.preview(), counterpart_place(), true);
    return hit;
}

void SolidView::mousePressEvent(QMouseEvent* e) {
    pressed_ = last_ = e->position();
    moved_ = false;
    setFocus();
    if (e->button() != Qt::LeftButton || e->modifiers() != Qt::NoModifier || !pair_shown()) return;
    const auto hit = hit_at(e->position());
    if (!hit || !hit->counterpart) return;
    gripped_extent_ = extent(); // the picture stands still under the hand
    gripped_at_ = gripped_from_ = travel();
}

void SolidView::mouseMoveEvent(QMouseEvent* e) {
    const QPointF d = e->position() - last_;
    last_ = e->position();
    if (e->buttons() == Qt::NoButton) {
        bool word = cut_word_.contains(e->position());
        for (const auto& w : words_)
            word = word || w.contains(e->position());
        word = word || together_word_.contains(e->position());
        setCursor(word ? Qt::PointingHandCursor : Qt::ArrowCursor);
        return;
    }
    if ((e->position() - pressed_).manhattanLength() > 3) moved_ = true;
    if (!moved_) return;
    if (gripped_extent_) {
        // along the axis as it lies on the screen; seen from its end, around it
        const QVector3D axis = orientation().mapVector(QVector3D(0, 0, 1));
        const double along = axis_in_plane(axis), k = fit_mm_per_pixel_ / zoom_;
        if (along > 0.3)
            gripped_at_ += (d.x() * double(axis.x()) - d.y() * double(axis.y())) * k / (along * along);
        else
            gripped_at_ += d.x() / 360 * session_.together()->mating.lead;
        screw_to(gripped_at_);
        return;
    }
    if (e->buttons() & Qt::MiddleButton ||
        (e->buttons() & Qt::LeftButton && e->modifiers() & Qt::ShiftModifier)) {
        const double k = fit_mm_per_pixel_ / zoom_;
        pan_ += QPointF(d.x() * k, -d.y() * k);
    } else if (e->buttons() & Qt::LeftButton) {
        if (e->modifiers() & Qt::ControlModifier && cut_)
            cut_angle_ = std::fmod(cut_angle_ + d.x() * 0.5 + 360, 360);
        else {
            roll_ = std::fmod(roll_ - d.x() * 0.5, 360);
            tilt_ = std::clamp(tilt_ + d.y() * 0.4, -90.0, 90.0);
        }
    } else if (e->buttons() & Qt::RightButton) {
        yaw_ = std::fmod(yaw_ + d.x() * 0.4, 360);
    }
    update();
}

void SolidView::mouseReleaseEvent(QMouseEvent* e) {
    if (gripped_extent_) {
        gripped_extent_.reset();
        update();
    }
    if (moved_ || e->button() != Qt::LeftButton) return;
    for (int i = 0; i < 3; ++i)
        if (words_[i].contains(e->position())) {
            look(static_cast<Look>(i));
            return;
        }
    if (cut_word_.contains(e->position())) {
        set_cut(!cut_);
        return;
    }
    if (together_word_.contains(e->position())) {
        set_together(!together_);
        return;
    }
    if (const auto hit = hit_at(e->position())) {
        const bool follower = hit->counterpart && follower_shown();
        if (follower && !session_.follower()->there) return; // no piece of the job
        session_.select(!hit->counterpart ? session_.piece()
                        : follower        ? session_.follower()->there->piece
                        : session_.mesh() ? session_.mesh()->there.piece
                                          : session_.together()->there.piece,
                        hit->zone);
    }
}

void SolidView::wheelEvent(QWheelEvent* e) {
    if (e->modifiers() & Qt::ShiftModifier && pair_shown()) {
        screw_by(e->angleDelta().y() / 120.0 / 12); // a notch is 30°
        return;
    }
    const double factor = std::pow(1.0015, e->angleDelta().y());
    const double before = fit_mm_per_pixel_ / zoom_;
    zoom_ = std::clamp(zoom_ * factor, 0.2, 200.0);
    const double after = fit_mm_per_pixel_ / zoom_;
    // what is under the pointer stays there
    const QPointF from_centre(e->position().x() - width() / 2.0, height() / 2.0 - e->position().y());
    pan_ += from_centre * (after - before);
    update();
}

void SolidView::leaveEvent(QEvent*) {
    setCursor(Qt::ArrowCursor);
}

void SolidView::keyPressEvent(QKeyEvent* e) {
    const double step = e->modifiers() & Qt::ShiftModifier ? 1 : 10;
    switch (e->key()) {
    case Qt::Key_Left:
        roll_ += step;
        break;
    case Qt::Key_Right:
        roll_ -= step;
        break;
    case Qt::Key_Up:
        tilt_ = std::min(90.0, tilt_ + step);
        break;
    case Qt::Key_Down:
        tilt_ = std::max(-90.0, tilt_ - step);
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        zoom_ = std::min(200.0, zoom_ * 1.25);
        break;
    case Qt::Key_Minus:
        zoom_ = std::max(0.2, zoom_ / 1.25);
        break;
    case Qt::Key_Escape:
        if (!gripped_extent_) return QWidget::keyPressEvent(e);
        gripped_extent_.reset();
        screw_to(gripped_from_);
        return;
    case Qt::Key_PageDown:
    case Qt::Key_PageUp:
    case Qt::Key_Home:
    case Qt::Key_End:
        if (!pair_shown()) return QWidget::keyPressEvent(e);
        if (e->key() == Qt::Key_Home)
            screw_to(session_.together()->mating.apart);
        else if (e->key() == Qt::Key_End)
            screw_to(session_.together()->mating.seated);
        else
            screw_by((e->key() == Qt::Key_PageDown ? 1 : -1) *
                     (e->modifiers() & Qt::ShiftModifier ? 1.0 / 36 : 0.25));
        return;
    default:
        QWidget::keyPressEvent(e);
        return;
    }
    update();
}

} // namespace whorl::app
