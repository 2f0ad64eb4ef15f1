#include "app/together_view.hpp"

#include "app/paint_turns.hpp"
#include "app/picking.hpp"
#include "app/theme.hpp"
#include "model/free_place.hpp"
#include "model/pair_model.hpp"
#include "quantity/expression.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace whorl::app {
namespace {

QVector3D vec(const std::array<double, 3>& v) {
    return {static_cast<float>(v[0]), static_cast<float>(v[1]), static_cast<float>(v[2])};
}

} // namespace

TogetherView::TogetherView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), editor_(new InlineEditor(session, this)) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("Together");
    setMinimumSize(240, 160);
    const auto again = [this] {
        stale_ = true;
        update_in_turn(this);
    };
    connect(&session_, &Session::changed, this, [this, again] {
        if (isVisible()) refresh();
        again();
    });
    connect(&session_, &Session::rolled, this, [this, again] {
        if (!isVisible()) return;
        move();
        again();
    });
    still_timer_.setSingleShot(true);
    still_timer_.setInterval(200);
    connect(&still_timer_, &QTimer::timeout, this, [this] {
        moving_ = false;
        update();
    });
    connect(&maker_, &JobMaker::made, this, [this, again] {
        again();
        if (maker_.missing() > 0) return;
        arrange();
        maker_.look_for_clashes(session_.job(), still_);
        emit settled();
    });
    connect(&maker_, &JobMaker::clashed, this, [this] {
        update();
        emit clashed();
    });
    connect(editor_, &InlineEditor::left, this, [this] { setFocus(); });
    connect(editor_, &InlineEditor::stepped, this, [this](bool) {
        if (editor_->keep()) setFocus();
    });
}

TogetherView::~TogetherView() {
    if (!started_ || !gl_.make_current()) return;
    for (auto& b : bodies_)
        b->destroy();
    programs_.reset();
}

void TogetherView::showEvent(QShowEvent* e) {
    QWidget::showEvent(e);
    refresh();
}

void TogetherView::refresh() {
    stale_ = true;
    const ShownMesh* mesh = session_.mesh() ? &*session_.mesh() : nullptr;
    if (!session_.has_piece())
        train_ = {};
    else // a ring or a rack does not lead
        train_ = train_of(session_.job(), mesh && mesh->second_first ? mesh->there.piece : session_.piece());
    maker_.order(session_.job());
    if (maker_.missing() == 0 && !grip_) { // the same solids, perhaps at other places
        arrange();
        maker_.look_for_clashes(session_.job(), still_);
    }
}

Run TogetherView::run_now() const {
    const ResolvedZone* z = session_.resolved_zone();
    const bool runs = z && (z->gear() || z->rack() || z->motion());
    return runs && session_.roll() != 0 ? run_of(train_, pieces_, session_.roll()) : Run{};
}

void TogetherView::arrange() {
    stale_ = false;
    const Job& job = session_.job();
    const Names names = resolve_names(job);
    const auto& previews = maker_.previews();
    pieces_.clear();
    boxes_ = maker_.boxes();
    boxes_.resize(job.pieces.size());
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const Preview* p = i < previews.size() ? previews[i].get() : nullptr;
        const bool there = p && p->piece.zones.size() == job.pieces[i].zones.size();
        pieces_.push_back(there ? p->piece : resolve_piece(job.pieces[i], names));
    }
    try {
        still_ = arrangement_of(job, pieces_, names, boxes_);
        const Run run = run_now();
        all_ = run.turned.empty() ? still_ : arrangement_of(job, pieces_, names, boxes_, run);
        trouble_ = QString::fromStdString(trouble_of(still_, job).value_or(""));
    } catch (const InputError& e) {
        trouble_ = QString::fromStdString(e.what());
    }
}

Box TogetherView::box() const {
    if (grip_) return grip_->box;
    std::optional<Box> out;
    for (std::size_t i = 0; i < still_.pieces.size() && i < boxes_.size(); ++i) {
        if (boxes_[i].low == boxes_[i].high) continue;
        const Box b = box_of(boxes_[i], still_.pieces[i].at);
        if (!out) out = b;
        for (std::size_t k = 0; k < 3; ++k) {
            out->low[k] = std::min(out->low[k], b.low[k]);
            out->high[k] = std::max(out->high[k], b.high[k]);
        }
    }
    return out.value_or(Box{{-10, -10, -10}, {10, 10, 10}});
}

Scene TogetherView::scene() const {
    const Box b = box();
    const QVector3D middle = (vec(b.low) + vec(b.high)) / 2;
    Scene out;
    out.to_view = camera_.orientation();
    out.to_view.translate(-middle);
    out.to_clip = camera_.projection(size(), double((vec(b.high) - vec(b.low)).length()) + 200) * out.to_view;
    out.pixel = camera_.pixel();
    out.ratio = devicePixelRatioF();
    // fine threads from afar would be all edges
    out.coarse = moving_;
    out.edges = moving_ ? 0 : std::clamp(0.2 / out.pixel, 0.12, 1.0);
    if (cut_) {
        const double a = in_rad(deg(cut_angle_));
        const auto c = static_cast<float>(std::cos(a)), s = static_cast<float>(std::sin(a));
        const QVector3D normal(-s, c, 0);
        out.cut = Cut{normal, {c, s, 0}, middle + static_cast<float>(cut_shift_) * normal};
    }
    return out;
}

void TogetherView::move() {
    moving_ = true;
    still_timer_.start();
    update();
}

void TogetherView::look(Look l) {
    camera_.look(l);
    update();
}

void TogetherView::set_cut(bool on) {
    cut_ = on;
    cut_shift_ = 0;
    emit cut_changed();
    update();
}

void TogetherView::turn_cut(double degrees) {
    cut_angle_ = std::fmod(cut_angle_ + degrees + 360, 360);
    update();
}

void TogetherView::start_gl() {
    started_ = true;
    ready_ = gl_.start() && initializeOpenGLFunctions();
    if (!ready_) return;
    programs_.emplace();
    ready_ = programs_->link();
}

void TogetherView::paintEvent(QPaintEvent*) {
    if (!started_) start_gl();
    if (stale_) arrange();
    QPainter p(this);
    p.fillRect(rect(), theme().paper);
    if (ready_ && session_.has_piece()) {
        // the box's corners as they lie on the screen
        const Box b = box();
        const QVector3D size = vec(b.high) - vec(b.low);
        const QMatrix4x4 turned = camera_.orientation();
        double w = 0, h = 0;
        for (int k = 0; k < 3; ++k) {
            const QVector3D axis = turned.mapVector(QVector3D(k == 0, k == 1, k == 2)) * size[k];
            w += std::abs(double(axis.x()));
            h += std::abs(double(axis.y()));
        }
        camera_.fit =
            std::max({w / std::max(40.0, width() - 70.0), h / std::max(40.0, height() - 120.0), 1e-6});
        p.drawImage(rect(), drawn());
        ++frames_;
    }
    draw_overlay(p);
}

QImage TogetherView::drawn() {
    const Theme& t = theme();
    if (!gl_.begin(size() * devicePixelRatioF(), moving_ ? 0 : 4)) return {};
    glClearColor(static_cast<float>(t.paper.redF()), static_cast<float>(t.paper.greenF()),
                 static_cast<float>(t.paper.blueF()), 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT | GL_STENCIL_BUFFER_BIT);
    glEnable(GL_DEPTH_TEST);
    glEnable(GL_MULTISAMPLE);
    const auto& previews = maker_.previews();
    while (bodies_.size() > previews.size()) {
        bodies_.back()->destroy();
        bodies_.pop_back();
    }
    while (bodies_.size() < previews.size()) {
        bodies_.push_back(std::make_unique<SolidBody>());
        bodies_.back()->create();
    }
    const QVector3D active(float(t.active.redF()), float(t.active.greenF()), float(t.active.blueF()));
    const Scene scene = this->scene();
    // about two pixels of the whole, in steps of two so that it seldom changes
    const double grain = std::exp2(std::round(std::log2(std::max(2 * camera_.fit, 1e-3))));
    behind_ = false;
    std::size_t fresh = 0; // triangles that go to the graphics card in this frame
    constexpr std::size_t most_fresh = 60000;
    for (std::size_t i = 0; i < std::min(previews.size(), all_.pieces.size()); ++i) {
        if (previews[i] && (bodies_[i]->preview() != previews[i].get() || bodies_[i]->grain() != grain) &&
            (previews[i]->made() ||
             !bodies_[i]->preview())) { // the last good geometry stays while a finding stops
            if (fresh < most_fresh) {
                fresh += previews[i]->mesh.triangles.size();
                bodies_[i]->show(previews[i], grain);
            } else {
                behind_ = true; // no frame waits for all of them
            }
        }
        if (!bodies_[i]->made()) continue;
        BodyLook look = look_of(session_.job().pieces[i], 1);
        look.hatched_back = i % 2 == 1;
        if (i == session_.piece()) {
            look.colour = look.colour * 0.8f + active * 0.2f;
            for (QVector3D& zone : look.zones)
                zone = zone * 0.8f + active * 0.2f;
        }
        bodies_[i]->draw(*this, *programs_, scene, matrix_of(all_.pieces[i].at), look);
    }
    if (behind_) QTimer::singleShot(0, this, [this] { update(); });
    glDisable(GL_DEPTH_TEST);
    return gl_.end();
}

std::optional<std::size_t> TogetherView::piece_at(QPointF at) const {
    const Scene scene = this->scene();
    std::optional<std::size_t> out;
    double nearest = 0;
    const auto& previews = maker_.previews();
    for (std::size_t i = 0; i < std::min(previews.size(), all_.pieces.size()); ++i) {
        if (!previews[i] || !previews[i]->made()) continue;
        const auto hit = pick(*previews[i], scene, matrix_of(all_.pieces[i].at), across_view(at, size()));
        if (!hit || (out && hit->depth >= nearest)) continue;
        out = i;
        nearest = hit->depth;
    }
    return out;
}

void TogetherView::mousePressEvent(QMouseEvent* e) {
    pressed_ = last_ = e->position();
    moved_ = false;
    setFocus();
    if (e->button() != Qt::LeftButton || e->modifiers() & (Qt::ControlModifier | Qt::ShiftModifier)) return;
    if (session_.has_piece() && piece_at(e->position()) == session_.piece()) grip();
}

// How far the selected piece goes on the screen for one of its number, found by moving it.
void TogetherView::grip() {
    const Job& job = session_.job();
    const std::size_t here = session_.piece();
    if (here >= still_.pieces.size()) return;
    const Placed& is = still_.pieces[here];
    Grip g;
    g.box = box();
    if (!is.by) {
        const auto typed = free_place(job.pieces[here].stands, resolve_names(job));
        g.place = typed.value_or(FreePlace{is.at.origin, {}});
        grip_ = g;
        return;
    }
    const Freedom freedom = freedom_of(job, job.pairs[*is.by]);
    if (freedom == Freedom::none || !is.held) return;
    g.pair = is.by;
    g.from = is.held->at;
    g.range = is.held->range;
    const double step = is_angle(freedom) ? 0.01 : g.range.within(g.from + 0.1) > g.from ? 0.1 : -0.1;
    Job other = job;
    other.pairs[*is.by].stands = {
        number_text(is_angle(freedom) ? in_deg(rad(g.from + step)) : g.from + step, 9),
        LengthUnit::millimetre};
    const Arrangement moved = arrangement_of(other, pieces_, resolve_names(job), boxes_);
    std::array<double, 3> middle{};
    for (std::size_t k = 0; k < 3; ++k)
        middle[k] = (boxes_[here].low[k] + boxes_[here].high[k]) / 2;
    const QVector3D by = camera_.orientation().mapVector(vec(carried(moved.pieces[here].at, middle)) -
                                                         vec(carried(is.at, middle)));
    g.way = QPointF(double(by.x()), -double(by.y())) / step / camera_.pixel();
    if (std::hypot(g.way.x(), g.way.y()) * (is_angle(freedom) ? 0.1 : 1) < 0.5)
        g.way = {is_angle(freedom) ? 120.0 : 20.0, 0}; // seen along its way
    grip_ = g;
}

void TogetherView::drag_grip(QPointF by, bool fine) {
    grip_->dragged += fine ? by / 5 : by;
    const LengthUnit unit = session_.unit();
    session_.begin_live();
    if (!grip_->pair) {
        const QVector3D way = camera_.orientation().inverted().mapVector(QVector3D(
            float(grip_->dragged.x() * camera_.pixel()), float(-grip_->dragged.y() * camera_.pixel()), 0));
        FreePlace to = grip_->place;
        for (std::size_t k = 0; k < 3; ++k) {
            to.at[k] += double(way[int(k)]);
            const double grain = unit == LengthUnit::inch ? 0.254 : 0.1;
            to.at[k] = std::round(to.at[k] / grain) * grain;
        }
        session_.change([&](const Job& j) {
            return place_piece(j, session_.piece(), {written(to, unit), unit});
        });
        return;
    }
    const std::size_t pair = *grip_->pair;
    const bool angle = is_angle(freedom_of(session_.job(), session_.job().pairs[pair]));
    const QPointF& way = grip_->way;
    const double to = grip_->range.within(grip_->from + QPointF::dotProduct(grip_->dragged, way) /
                                                            QPointF::dotProduct(way, way));
    const double grain = angle ? 0.5 : unit == LengthUnit::inch ? 0.127 : 0.05;
    double rounded = angle ? in_deg(rad(to)) : to;
    if (to > grip_->range.low && to < grip_->range.high) rounded = std::round(rounded / grain) * grain;
    const std::string text = angle ? number_text(rounded, 4) : length_text(mm(rounded), unit);
    session_.change([&](const Job& j) { return place_pair(j, pair, {text, unit}); });
}

void TogetherView::mouseMoveEvent(QMouseEvent* e) {
    const QPointF d = e->position() - last_;
    last_ = e->position();
    if (e->buttons() == Qt::NoButton) {
        bool word = false;
        for (const Word& w : words_)
            word = word || w.at.contains(e->position());
        for (const QRectF& w : look_words_)
            word = word || w.contains(e->position());
        setCursor(word ? Qt::PointingHandCursor : Qt::ArrowCursor);
        return;
    }
    if ((e->position() - pressed_).manhattanLength() > 3) moved_ = true;
    if (!moved_) return;
    if (grip_) return drag_grip(d, e->modifiers() & Qt::ShiftModifier);
    if (e->buttons() & Qt::LeftButton && e->modifiers() & Qt::ControlModifier && cut_) {
        cut_angle_ = std::fmod(cut_angle_ + d.x() * 0.5 + 360, 360);
        cut_shift_ += -d.y() * camera_.pixel();
    } else {
        camera_.drag(d, e->buttons(), e->modifiers());
    }
    move();
}

void TogetherView::mouseReleaseEvent(QMouseEvent* e) {
    if (grip_) {
        grip_.reset();
        session_.end_live();
        refresh();
        update();
    }
    if (moved_ || e->button() != Qt::LeftButton) return;
    for (std::size_t i = 0; i < 3; ++i)
        if (look_words_[i].contains(e->position())) return look(static_cast<Look>(i));
    for (const Word& w : words_)
        if (w.at.contains(e->position())) return std::function(w.does)(); // which may draw the words anew
    if (const auto piece = piece_at(e->position())) session_.select(*piece, session_.telling_zone(*piece));
}

void TogetherView::mouseDoubleClickEvent(QMouseEvent* e) {
    if (e->button() == Qt::LeftButton && session_.has_piece() && piece_at(e->position()) == session_.piece())
        emit gone_in();
}

void TogetherView::wheelEvent(QWheelEvent* e) {
    camera_.wheel(e->angleDelta().y() / 120.0, e->position(), size());
    move();
}

void TogetherView::keyPressEvent(QKeyEvent* e) {
    if (camera_.key(e->key(), e->modifiers() & Qt::ShiftModifier)) return move();
    if (e->key() == Qt::Key_Escape && grip_) {
        grip_.reset();
        session_.cancel_live();
        refresh();
        return update();
    }
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) {
        if (edit_stand()) return;
    }
    QWidget::keyPressEvent(e);
}

} // namespace whorl::app
