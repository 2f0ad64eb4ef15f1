#include "app/job_maker.hpp"

#include <algorithm>

namespace whorl::app {

namespace {
constexpr double chord = 0.05; // mm; a whole job is seen from further away than a piece

bool same(const std::vector<Standing>& a, const std::vector<Standing>& b) {
    return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](const Standing& s, const Standing& t) {
        return s.x == t.x && s.y == t.y && s.z == t.z && s.origin == t.origin;
    });
}

// What its solid does not depend on is left out.
Piece shape_of(Piece piece) {
    piece.drawing = {};
    piece.stands = {};
    piece.finish = {};
    piece.reason.clear();
    for (Zone& z : piece.zones)
        z.finish.clear();
    return piece;
}
} // namespace

JobMaker::JobMaker(QObject* parent) : QObject(parent) {
    pool_.setThreadPriority(QThread::LowPriority);
}

JobMaker::~JobMaker() {
    ++serial_;
    looking_.request_stop();
    pool_.clear();
    pool_.waitForDone();
}

void JobMaker::order(const Job& job) {
    const Names names = resolve_names(job);
    const bool anew = !(names == names_);
    std::vector<Asked> asked;
    std::vector<std::shared_ptr<const Preview>> previews(job.pieces.size());
    std::vector<std::shared_ptr<const ClashBody>> bodies(job.pieces.size());
    std::vector<Box> boxes(job.pieces.size());
    bool all_same = !anew && asked_.size() == job.pieces.size();
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        asked.push_back({shape_of(job.pieces[i]), job.unit});
        const auto is_it = [&](const Asked& a) { return a.unit == job.unit && a.piece == asked[i].piece; };
        // where it was, or wherever it is now that one before it has gone
        std::size_t at =
            i < asked_.size() && is_it(asked_[i])
                ? i
                : std::size_t(std::find_if(asked_.begin(), asked_.end(), is_it) - asked_.begin());
        if (anew || at >= asked_.size()) at = asked_.size();
        all_same = all_same && at == i;
        if (at < previews_.size())
            previews[i] = previews_[at], boxes[i] = boxes_[at], bodies[i] = bodies_[at];
    }
    if (all_same) return; // what is on its way comes
    const long serial = ++serial_;
    looking_.request_stop();
    pool_.clear();
    asked_ = std::move(asked);
    names_ = names;
    previews_ = std::move(previews);
    boxes_ = std::move(boxes);
    bodies_ = std::move(bodies);
    clashes_.reset();
    looked_at_.clear();
    missing_ = 0;
    for (std::size_t i = 0; i < asked_.size(); ++i) {
        if (previews_[i]) continue;
        ++missing_;
        pool_.start([this, i, serial, piece = job.pieces[i], names, unit = job.unit] {
            if (serial != serial_) return;
            std::shared_ptr<const Preview> made;
            try {
                auto p = std::make_shared<Preview>(make_preview(piece, i, names, unit, chord));
                if (p->made()) p->shading = p->body.shading(p->mesh);
                made = std::move(p);
            } catch (const std::exception&) {
                made = std::make_shared<Preview>(); // a job in the session always resolves
            }
            const Box box = made->made() ? box_about(made->mesh) : Box{};
            QMetaObject::invokeMethod(this, [this, i, serial, made, box] { take(i, serial, made, box); });
        });
    }
    if (missing_ == 0) emit made();
}

void JobMaker::take(std::size_t piece, long serial, std::shared_ptr<const Preview> preview, const Box& box) {
    if (serial != serial_) return;
    previews_[piece] = std::move(preview);
    boxes_[piece] = box;
    --missing_;
    emit made();
}

void JobMaker::look_for_clashes(const Job& job, const Arrangement& all) {
    std::vector<Standing> at;
    for (const Placed& p : all.pieces)
        at.push_back(p.at);
    if (same(at, looked_at_) && looked_pairs_ == job.pairs) return;
    looked_at_ = std::move(at);
    looked_pairs_ = job.pairs;
    looking_.request_stop();
    looking_ = std::stop_source();
    clashes_.reset();
    const long asked = ++looked_;
    const long serial = serial_;
    pool_.start([this, asked, serial, job, all, previews = previews_, bodies = bodies_,
                 stop = looking_.get_token()]() mutable {
        std::vector<Clash> found;
        try {
            for (std::size_t i = 0; i < previews.size() && !stop.stop_requested(); ++i)
                if (!bodies[i] && previews[i] && previews[i]->made())
                    bodies[i] = clash_body(previews[i]->mesh);
            found = whorl::clashes(job, all, bodies, stop);
        } catch (const std::exception&) {
            return; // nothing is said of clashes then
        }
        if (stop.stop_requested()) return;
        QMetaObject::invokeMethod(
            this, [this, asked, serial, found = std::move(found), bodies = std::move(bodies)] {
                if (serial == serial_) bodies_ = bodies;
                if (asked != looked_ || serial != serial_) return;
                clashes_ = found;
                emit clashed();
            });
    });
}

} // namespace whorl::app
