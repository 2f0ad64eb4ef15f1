#include "app/session.hpp"

#include "model/title_defaults.hpp"

#include "model/job_file.hpp"
#include "quantity/expression.hpp"

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
} // namespace

Session::Session(QObject* parent)
    : QObject(parent), library_(library_or_problem()), recovery_([this]() -> const Job* {
          if (!unsaved_) return nullptr;
          // what is on trial is nobody's work yet
          return trying_ ? (unsaved_before_trial_ ? &history_.before()->job : nullptr) : &job_;
      }) {
    job_.drawing = load_title_defaults();
    connect(&maker_, &Maker::previewed, this, &Session::previewed);
    connect(&maker_, &Maker::counterpart_previewed, this, &Session::counterpart_previewed);
    connect(&maker_, &Maker::verified, this, &Session::verified);
    connect(&running_, &Running::rolled, this, &Session::rolled);
}

Session::~Session() {
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

QString Session::shown(double millimetres) const {
    return QString::fromStdString(
        number_text(in_unit(mm(millimetres), unit()), unit() == LengthUnit::inch ? 4 : 3));
}

QString Session::text_of(Field field) const {
    return QString::fromStdString(field_text(job_, piece_, zone_, field, unit(),
                                             look_.mesh ? std::optional(look_.mesh->pair) : std::nullopt));
}

QString Session::edit(Field field, const QString& text) {
    Edit e{piece_, zone_, field, text.toStdString(), job_.unit};
    if (look_.mesh) e.pair = look_.mesh->pair;
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
    if (remember) history_.step(now());
    job_ = std::move(job);
    unsaved_ = true;
    recovery_.changed();
    refresh();
    emit saved_changed();
}

void Session::begin_live() {
    keep_trial();
    history_.begin(now());
}

void Session::end_live() {
    if (trying_ || !history_.under_way()) return; // a trial ends by keep_trial() or drop_trial() only
    history_.keep(job_);
    emit changed();
}

void Session::cancel_live() {
    if (trying_) return;
    if (auto before = history_.give_up()) set_job(std::move(before->job), false);
}

QString Session::try_piece(const Piece& piece) {
    return guarded([&] {
        Job job = add_piece(trying_ ? history_.before()->job : job_, piece);
        if (!trying_) {
            end_live();
            unsaved_before_trial_ = unsaved_;
            history_.begin(now());
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
    unsaved_ = true;
    recovery_.changed();
    end_live();
    emit saved_changed();
}

void Session::drop_trial() {
    if (!trying_) return;
    trying_ = false;
    const Snapshot before = *history_.give_up();
    job_ = before.job;
    piece_ = before.piece;
    zone_ = before.zone;
    unsaved_ = unsaved_before_trial_;
    refresh();
    emit saved_changed();
}

void Session::go_to(const std::optional<Snapshot>& there) {
    if (!there) return;
    piece_ = there->piece;
    zone_ = there->zone;
    set_job(there->job, false);
}

void Session::undo() {
    if (trying_) return drop_trial();
    go_to(history_.undo(now()));
}
void Session::redo() {
    if (!trying_) go_to(history_.redo(now()));
}

void Session::set_unit(LengthUnit unit) {
    if (unit == job_.unit) return;
    Job job = job_;
    job.unit = unit;
    set_job(std::move(job), true);
}

void Session::start_with(Job job, const QString& path, bool unsaved) {
    trying_ = false;
    job_ = std::move(job);
    path_ = path;
    history_.clear();
    piece_ = 0;
    zone_ = job_.pieces.empty() ? 0 : telling_zone(0);
    unsaved_ = unsaved;
    refresh();
    emit saved_changed();
}

void Session::new_job() {
    Job fresh;
    fresh.drawing = load_title_defaults();
    start_with(std::move(fresh), {}, false);
    discard_recovery();
}

void Session::open(const QString& path) {
    start_with(load_job(path.toStdString()), path, false);
}

void Session::save(const QString& path) {
    drop_trial();
    save_job(job_, path.toStdString());
    path_ = path;
    unsaved_ = false;
    discard_recovery();
    emit saved_changed();
}

void Session::recover() {
    start_with(load_job(recovery_path().toStdString()), {}, true);
}

void Session::hover(const QString& key) {
    if (key == hovered_) return;
    hovered_ = key;
    emit hover_changed();
}

void Session::refresh() {
    resolved_.reset();
    findings_.clear();
    look_ = {};
    train_ = {};
    if (piece_ >= job_.pieces.size()) piece_ = job_.pieces.empty() ? 0 : job_.pieces.size() - 1;
    if (has_piece()) {
        zone_ = std::min(zone_, job_.pieces[piece_].zones.size() - 1);
        resolved_ = resolve_piece(job_.pieces[piece_], resolve_names(job_));
        findings_ = whorl::findings_of(job_, piece_);
        look_ = pair_look(job_, *resolved_, {piece_, zone_}, looked_at_pair_);
        if (look_.mesh) train_ = train_of(job_, piece_);
        order();
    } else {
        zone_ = 0;
        maker_.forget();
    }
    const ResolvedZone* z = resolved_zone();
    const ResolvedGear* turning = look_.mesh                    ? &look_.mesh->first
                                  : z && z->as<ResolvedWheel>() ? z->gear()
                                                                : nullptr;
    running_.look_at(turning            ? turning->pitch_angle()
                     : z && z->motion() ? std::numbers::pi / 2 // a cam's turn in six seconds
                                        : 0,
                     look_.mesh ? &*look_.mesh : nullptr);
    if (!look_.together && !look_.mesh && !look_.follower && !look_.beside) maker_.forget_counterpart();
    emit changed();
    if (!has_piece()) emit previewed();
}

void Session::set_running(bool on) {
    running_.set(on);
}

void Session::order() {
    Maker::Order next{job_.pieces[piece_], piece_, {}, 0, resolve_names(job_), job_.unit};
    next.piece.drawing = {}; // where its dimensions stand makes no other solid
    next.piece.stands = {};  // nor does where it stands itself
    if (look_.mesh || look_.together || look_.beside) {
        next.counterpart_index = look_.mesh     ? look_.mesh->there.piece
                                 : look_.beside ? look_.beside->there.piece
                                                : look_.together->there.piece;
        next.counterpart = job_.pieces[next.counterpart_index];
    } else if (look_.follower) {
        next.counterpart_index = look_.follower->there ? look_.follower->there->piece : job_.pieces.size();
        next.counterpart = look_.follower->piece;
    }
    maker_.order(std::move(next));
}

} // namespace whorl::app
