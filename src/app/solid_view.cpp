#include "app/solid_view.hpp"

#include "model/forms/follower.hpp"

#include "app/paint_turns.hpp"
#include "app/picking.hpp"
#include "app/theme.hpp"
#include "quantity/expression.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>
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
            camera_.zoom = 1;
            camera_.pan = {};
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
        if (together_ && !m.flipped) camera_.roll = std::fmod(camera_.roll + in_deg(rad(m.angle(was))), 360);
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
    camera_.look(l);
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

void SolidView::fit() {
    const Extent e = extent();
    const QVector3D axis = camera_.orientation().mapVector(QVector3D(0, 0, 1));
    // a cylinder's shadow: its axis plus the discs at both ends
    const auto shadow = [&](double a) {
        return std::abs(a) * (e.to - e.from) + 2 * e.radius * std::sqrt(std::max(0.0, 1 - a * a));
    };
    const double w = shadow(axis.x()), h = shadow(axis.y());
    camera_.fit = std::max(w / std::max(40.0, width() - 90.0),
                           h / std::max(40.0, height() - (pair_shown() ? 140.0 : 104.0)));
    camera_.fit = std::max(camera_.fit, 1e-6);
}

QMatrix4x4 SolidView::centred() const {
    const Extent e = extent();
    QMatrix4x4 m = camera_.orientation();
    m.translate(static_cast<float>(-e.aside), static_cast<float>(-e.aside_y),
                static_cast<float>(-(e.from + e.to) / 2));
    return m;
}

QMatrix4x4 SolidView::projection() const {
    const Extent e = extent();
    return camera_.projection(size(), e.to - e.from + 2 * e.radius);
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
    const auto look = [](const Piece& piece, double shade, double selected, bool back) {
        BodyLook out = look_of(piece, shade);
        out.selected_zone = selected;
        out.hatched_back = back;
        return out;
    };
    const Scene scene = this->scene();
    piece_.draw(
        *this, *programs_, scene, piece_place(),
        look(session_.job().pieces[session_.piece()], 1, static_cast<double>(session_.zone()), false));
    if (counterpart_shown()) {
        const Piece& there = follower_shown()
                                 ? session_.follower()->piece
                                 : session_.job().pieces[gears_shown()    ? session_.mesh()->there.piece
                                                         : beside_shown() ? session_.beside()->there.piece
                                                                          : session_.together()->there.piece];
        counterpart_.draw(*this, *programs_, scene, counterpart_place(), look(there, 0.9, -1, true));
    }
    glDisable(GL_DEPTH_TEST);
    return gl_.end();
}

Scene SolidView::scene() const {
    Scene out;
    out.to_view = centred();
    out.to_clip = projection() * out.to_view;
    out.pixel = camera_.pixel();
    out.ratio = devicePixelRatioF();
    if (cut_) {
        const double a = cut_direction();
        out.cut = Cut{QVector3D(static_cast<float>(-std::sin(a)), static_cast<float>(std::cos(a)), 0),
                      QVector3D(static_cast<float>(std::cos(a)), static_cast<float>(std::sin(a)), 0),
                      {}};
    }
    return out;
}

std::optional<SolidView::Hit> SolidView::hit_at(QPointF at) const {
    if (!piece_.made()) return {};
    const QPointF there = across_view(at, size());
    const auto own = pick(*piece_.preview(), scene(), piece_place(), there);
    const auto other = counterpart_shown()
                           ? pick(*counterpart_.preview(), scene(), counterpart_place(), there)
                           : std::nullopt;
    if (other && (!own || other->depth < own->depth)) return Hit{true, other->zone};
    if (own) return Hit{false, own->zone};
    return {};
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
        const QVector3D axis = camera_.orientation().mapVector(QVector3D(0, 0, 1));
        const double along = axis_in_plane(axis), k = camera_.pixel();
        if (along > 0.3)
            gripped_at_ += (d.x() * double(axis.x()) - d.y() * double(axis.y())) * k / (along * along);
        else
            gripped_at_ += d.x() / 360 * session_.together()->mating.lead;
        screw_to(gripped_at_);
        return;
    }
    if (e->buttons() & Qt::LeftButton && e->modifiers() & Qt::ControlModifier && cut_)
        cut_angle_ = std::fmod(cut_angle_ + d.x() * 0.5 + 360, 360);
    else
        camera_.drag(d, e->buttons(), e->modifiers());
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
        session_.select(!hit->counterpart   ? session_.piece()
                        : follower          ? session_.follower()->there->piece
                        : session_.mesh()   ? session_.mesh()->there.piece
                        : session_.beside() ? session_.beside()->there.piece
                                            : session_.together()->there.piece,
                        hit->zone);
    }
}

void SolidView::wheelEvent(QWheelEvent* e) {
    if (e->modifiers() & Qt::ShiftModifier && pair_shown()) {
        screw_by(e->angleDelta().y() / 120.0 / 12); // a notch is 30°
        return;
    }
    camera_.wheel(e->angleDelta().y() / 120.0, e->position(), size());
    update();
}

void SolidView::leaveEvent(QEvent*) {
    setCursor(Qt::ArrowCursor);
}

void SolidView::keyPressEvent(QKeyEvent* e) {
    if (camera_.key(e->key(), e->modifiers() & Qt::ShiftModifier)) return update();
    switch (e->key()) {
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
    }
}

} // namespace whorl::app
