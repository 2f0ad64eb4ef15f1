#include "app/session.hpp"

#include "model/job_file.hpp"

#include <QDir>
#include <QFile>
#include <QStandardPaths>
#include <numbers>

namespace whorl::app {

namespace {
// A library that can't be read is said when something is kept; the window opens without it.
SectionLibrary library_or_problem() {
    try {
        return load_library();
    } catch (const FileError& e) {
        return {{}, {e.what()}};
    }
}
constexpr std::size_t most_undo = 500;
} // namespace

Session::Session(QObject* parent) : QObject(parent), library_(library_or_problem()) {
    run_timer_.setTimerType(Qt::PreciseTimer);
    run_timer_.setInterval(16);
    connect(&run_timer_, &QTimer::timeout, this, [this] {
        // a tooth in about a second and a half, whatever the size
        const auto* z = resolved_zone();
        if (!z || (!z->gear() && !mesh_)) return set_running(false);
        const int teeth = mesh_ ? mesh_->first.spec.teeth : z->gear()->spec.teeth;
        const double step = 2 * std::numbers::pi / teeth * 0.011;
        const double before = roll_;
        set_roll(roll_ + (run_back_ ? -step : step));
        if (roll_ == before) run_back_ = !run_back_; // at the end of a rack
    });
    recovery_timer_.setSingleShot(true);
    recovery_timer_.setInterval(1500);
    connect(&recovery_timer_, &QTimer::timeout, this, &Session::keep_for_recovery);
    worker_ = std::jthread([this](std::stop_token stop) { work(stop); });
}

Session::~Session() {
    worker_.request_stop();
    current_.request_stop();
    wake_.notify_all();
    worker_.join();
    if (!unsaved_) discard_recovery();
}

QString Session::guarded(const std::function<void()>& work) {
    try {
        work();
        return {};
    } catch (const InputError& e) {
        error_position_ = e.position;
        return QString::fromStdString(e.what());
    } catch (const std::exception& e) {
        error_position_ = 0;
        return QString::fromStdString(e.what());
    }
}

void Session::select(std::size_t piece, std::size_t zone) {
    if (piece == piece_ && zone == zone_) return;
    piece_ = piece;
    zone_ = zone;
    refresh();
}

void Session::select_pair(std::size_t pair, ZoneRef zone) {
    looked_at_pair_ = pair;
    piece_ = zone.piece;
    zone_ = zone.zone;
    refresh();
}

std::size_t Session::telling_zone(std::size_t piece) const {
    const auto& zones = job_.pieces.at(piece).zones;
    for (std::size_t i = 0; i < zones.size(); ++i)
        if (!zones[i].as<PlainForm>()) return i;
    return 0;
}

const ResolvedZone* Session::resolved_zone() const {
    return resolved_ && zone_ < resolved_->zones.size() ? &resolved_->zones[zone_] : nullptr;
}

QString Session::edit(Field field, const QString& text) {
    Edit e{piece_, zone_, field, text.toStdString(), job_.unit};
    if (mesh_) e.pair = mesh_->pair;
    return edit(e);
}

QString Session::edit(const Edit& e) {
    return guarded([&] { set_job(apply(job_, e), true); });
}

QString Session::respec(const Designation& d) {
    return guarded([&] {
        if (!has_piece()) {
            set_job(add_piece(job_, d), true);
            return;
        }
        set_job(respec_zone(job_, piece_, zone_, d), true);
    });
}

QString Session::change(const std::function<Job(const Job&)>& how) {
    return guarded([&] { set_job(how(job_), true); });
}

QString Session::keep_in_library(const OwnSection& section) {
    return guarded([&] {
        (void)keep_section(section);
        library_ = load_library();
    });
}

QString Session::apply_remedy(const Remedy& remedy) {
    return guarded([&] { set_job(apply(job_, remedy), true); });
}

void Session::set_job(Job job, bool remember) {
    if (job == job_) return;
    keep_trial(); // what is worked on is no trial any more
    if (remember && !live_) {
        undo_.push_back({job_, piece_, zone_});
        if (undo_.size() > most_undo) undo_.erase(undo_.begin());
        redo_.clear();
    }
    job_ = std::move(job);
    unsaved_ = true;
    recovery_timer_.start();
    refresh();
    emit saved_changed();
}

void Session::begin_live() {
    keep_trial();
    if (live_) return;
    live_ = true;
    live_start_ = Snapshot{job_, piece_, zone_};
}

void Session::end_live() {
    if (!live_) return;
    live_ = false;
    if (live_start_ && !(live_start_->job == job_)) {
        undo_.push_back(*live_start_);
        redo_.clear();
    }
    live_start_.reset();
    emit changed();
}

void Session::cancel_live() {
    if (!live_) return;
    live_ = false;
    if (live_start_) set_job(live_start_->job, false);
    live_start_.reset();
}

QString Session::try_piece(const Piece& piece) {
    return guarded([&] {
        Job job = add_piece(live_start_ && trying_ ? live_start_->job : job_, piece);
        if (!trying_) {
            unsaved_before_trial_ = unsaved_;
            end_live();
            begin_live();
            trying_ = true;
        }
        piece_ = job.pieces.size() - 1;
        job_ = std::move(job);
        zone_ = telling_zone(piece_);
        refresh();
    });
}

void Session::keep_trial() {
    if (!trying_) return;
    trying_ = false;
    redo_.clear();
    unsaved_ = true;
    recovery_timer_.start();
    end_live();
    emit saved_changed();
}

void Session::drop_trial() {
    if (!trying_) return;
    trying_ = live_ = false;
    const Snapshot before = *live_start_;
    live_start_.reset();
    job_ = before.job;
    piece_ = before.piece;
    zone_ = before.zone;
    unsaved_ = unsaved_before_trial_;
    refresh();
    emit saved_changed();
}

void Session::travel(std::vector<Snapshot>& from, std::vector<Snapshot>& to) {
    if (from.empty()) return;
    const Snapshot s = from.back();
    from.pop_back();
    to.push_back({job_, piece_, zone_});
    piece_ = s.piece;
    zone_ = s.zone;
    set_job(s.job, false);
}

void Session::undo() {
    if (trying_) return drop_trial();
    travel(undo_, redo_);
}
void Session::redo() {
    if (trying_) return;
    travel(redo_, undo_);
}

void Session::set_unit(LengthUnit unit) {
    if (unit == job_.unit) return;
    Job job = job_;
    job.unit = unit;
    set_job(std::move(job), true);
}

void Session::new_job() {
    drop_trial();
    job_ = {};
    path_.clear();
    undo_.clear();
    redo_.clear();
    piece_ = zone_ = 0;
    unsaved_ = false;
    discard_recovery();
    refresh();
    emit saved_changed();
}

void Session::open(const QString& path) {
    Job job = load_job(path.toStdString());
    drop_trial();
    job_ = std::move(job);
    path_ = path;
    undo_.clear();
    redo_.clear();
    piece_ = 0;
    zone_ = job_.pieces.empty() ? 0 : telling_zone(0);
    unsaved_ = false;
    refresh();
    emit saved_changed();
}

void Session::save(const QString& path) {
    drop_trial();
    save_job(job_, path.toStdString());
    path_ = path;
    unsaved_ = false;
    discard_recovery();
    emit saved_changed();
}

QString Session::recovery_path() {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovery.whorl";
}
void Session::keep_for_recovery() {
    if (!unsaved_) return;
    if (trying_) return recovery_timer_.start(); // what is on trial is nobody's work yet
    const QString target = recovery_path();
    QDir().mkpath(QFileInfo(target).path());
    try {
        save_job(job_, target.toStdString());
    } catch (const FileError&) {
        // the next change tries again; the job itself is untouched
    }
}
bool Session::has_recovery() const {
    return QFile::exists(recovery_path());
}
void Session::recover() {
    job_ = load_job(recovery_path().toStdString());
    path_.clear();
    piece_ = zone_ = 0;
    undo_.clear();
    redo_.clear();
    unsaved_ = true;
    refresh();
    emit saved_changed();
}
void Session::discard_recovery() {
    QFile::remove(recovery_path());
}

void Session::hover(const QString& key) {
    if (key == hovered_) return;
    hovered_ = key;
    emit hover_changed();
}

void Session::refresh() {
    resolved_.reset();
    findings_.clear();
    if (piece_ >= job_.pieces.size()) piece_ = job_.pieces.empty() ? 0 : job_.pieces.size() - 1;
    if (has_piece()) {
        zone_ = std::min(zone_, job_.pieces[piece_].zones.size() - 1);
        resolved_ = resolve_piece(job_.pieces[piece_], resolve_names(job_));
        findings_ = whorl::findings_of(job_, piece_);
        resolve_pairs();
        order();
    } else {
        zone_ = 0;
        preview_.reset();
        solid_.reset();
        fit_.reset();
        together_.reset();
        mesh_.reset();
    }
    if (!together_ && !mesh_ && counterpart_preview_) {
        counterpart_preview_.reset();
        emit counterpart_previewed();
    }
    emit changed();
    if (!has_piece()) emit previewed();
}

void Session::set_roll(double roll) {
    roll_ = roll;
    if (mesh_ && mesh_->rack && mesh_->mesh.meshes) {
        const double most = rack_reach(*mesh_->rack) / mesh_->mesh.first_radius;
        roll_ = std::clamp(roll, -most, most);
    }
    emit rolled();
}

void Session::set_running(bool on) {
    if (on == running()) return;
    run_back_ = false;
    set_roll(roll_); // a rack may have become shorter
    on ? run_timer_.start() : run_timer_.stop();
    emit rolled();
}

void Session::resolve_mesh() {
    mesh_.reset();
    train_ = {};
    const ResolvedZone* z = resolved_zone();
    if (!z || (!z->gear() && !z->rack())) return set_running(false);
    std::optional<ShownMesh> found;
    for (std::size_t i = 0; i < job_.pairs.size(); ++i) {
        const Pair& pair = job_.pairs[i];
        const ZoneRef selected{piece_, zone_};
        if (pair.first != selected && pair.second != selected) continue;
        const ZoneRef there = pair.first == selected ? pair.second : pair.first;
        const Names names = resolve_names(job_);
        const ResolvedZone other = resolve_piece(job_.pieces[there.piece], names).zones.at(there.zone);
        std::optional<Length> centre;
        if (!pair.centre.text.empty()) centre = resolve_length(pair.centre, names);
        auto both = mesh_of_zones(*z, other, centre);
        if (!both) continue;
        mesh_ = ShownMesh{std::move(*both), i, selected, there, *z, other, pair.follows};
        if (i == looked_at_pair_ || !found) found = std::move(mesh_);
        if (i == looked_at_pair_) break;
    }
    mesh_ = std::move(found);
    if (mesh_) train_ = train_of(job_, piece_);
}

void Session::resolve_pairs() {
    fit_.reset();
    together_.reset();
    resolve_mesh();
    for (const Pair& pair : job_.pairs) {
        if (pair.first.piece != piece_ && pair.second.piece != piece_) continue;
        const bool first_here =
            pair.first.piece == piece_ && (pair.second.piece != piece_ || pair.first.zone == zone_);
        const ZoneRef here = first_here ? pair.first : pair.second,
                      there = first_here ? pair.second : pair.first;
        const bool selected = here.zone == zone_;
        if (!selected && together_) continue;
        const ResolvedPiece other = resolve_piece(job_.pieces[there.piece], resolve_names(job_));
        const ResolvedZone &a = resolved_->zones[here.zone], &b = other.zones[there.zone];
        if (!a.thread() || !b.thread()) continue;
        const bool screw_here = a.thread()->side == Side::external;
        const ResolvedZone &screw = screw_here ? a : b, &nut = screw_here ? b : a;
        const Fit fit = fit_of(*screw.thread(), *nut.thread(), std::min(screw.length, nut.length));
        together_ = Together{here, there, mating_of(*resolved_, here.zone, other, there.zone, fit)};
        if (!selected) continue;
        fit_ = ShownFit{there, *b.thread(), fit, pair.follows};
        return;
    }
}

// Taken apart by the worker before its next order.
void Session::retire_solid() {
    if (!solid_) return;
    const std::lock_guard lock(mutex_);
    retired_.push_back(std::move(solid_));
    solid_.reset();
}

void Session::order() {
    {
        const std::lock_guard lock(mutex_);
        order_ = Order{job_.pieces[piece_], piece_, {}, 0, resolve_names(job_), job_.unit, ++serial_};
        if (mesh_) {
            order_->counterpart = job_.pieces[mesh_->there.piece];
            order_->counterpart_index = mesh_->there.piece;
        } else if (together_) {
            order_->counterpart = job_.pieces[together_->there.piece];
            order_->counterpart_index = together_->there.piece;
        }
        current_.request_stop();
        current_ = std::stop_source();
    }
    building_ = true;
    wake_.notify_one();
}

void Session::work(std::stop_token stop) {
    for (;;) {
        Order now;
        std::vector<std::shared_ptr<const VerifiedSolid>> done_with; // taking one apart takes milliseconds
        std::stop_token cancelled;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [&] { return order_.has_value(); })) return;
            now = std::move(*order_);
            order_.reset();
            cancelled = current_.get_token();
            done_with.swap(retired_);
        }
        done_with.clear();
        std::shared_ptr<const Preview> preview;
        try {
            preview = cache_.get(now.piece, now.index, now.names, now.unit);
        } catch (const std::exception&) {
            continue; // a job in the session always resolves; nothing to show otherwise
        }
        QMetaObject::invokeMethod(this, [this, preview, serial = now.serial] {
            if (serial != serial_) return;
            preview_ = preview;
            retire_solid();
            if (!preview->made()) building_ = false;
            emit previewed();
        });
        if (now.counterpart && !cancelled.stop_requested()) {
            std::shared_ptr<const Preview> counterpart;
            try {
                counterpart = cache_.get(*now.counterpart, now.counterpart_index, now.names, now.unit);
            } catch (const std::exception&) {
                // as above
            }
            QMetaObject::invokeMethod(this, [this, counterpart, serial = now.serial] {
                if (serial != serial_ || counterpart == counterpart_preview_) return;
                counterpart_preview_ = counterpart;
                emit counterpart_previewed();
            });
        }
        if (!preview->made() || cancelled.stop_requested()) continue;
        std::shared_ptr<const VerifiedSolid> made;
        try {
            made = make_verified_solid(*preview, cancelled);
        } catch (const std::exception&) {
            made = std::make_shared<VerifiedSolid>(); // not valid: shown as such
        }
        if (!made) continue;
        QMetaObject::invokeMethod(this, [this, made, serial = now.serial] {
            if (serial != serial_) return;
            retire_solid();
            solid_ = made;
            building_ = false;
            emit verified();
        });
    }
}

} // namespace whorl::app
