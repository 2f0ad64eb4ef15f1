#include "together/arrangement.hpp"

#include "model/free_place.hpp"
#include "model/pair_model.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <deque>
#include <numbers>
#include <set>

namespace whorl {
namespace {

class Placing {
public:
    Placing(const Job& job, const std::vector<ResolvedPiece>& pieces, const Names& names, const Run& run_now)
        : job_(job), pieces_(pieces), names_(names), run_(run_now), placed_(pieces.size()) {}

    Arrangement run() {
        std::vector<std::size_t> typed;
        for (std::size_t i = 0; i < pieces_.size(); ++i)
            if (const auto place = free_place(job_.pieces[i].stands, names_)) {
                put(i, standing_at(*place), {}, 0);
                typed.push_back(i);
            }
        if (!typed
                 .empty()) { // the job's first piece keeps its own axes beside them, unless it stands by one of them
            out_.groups = 1;
            follow_from(typed, 0);
            std::size_t first = 0;
            while (first + 1 < pieces_.size() && runs_on_a_cam(first))
                ++first;
            if (!placed_[first]) {
                put(first, same_space(), {}, 0);
                follow_from({first}, 0);
            }
        }
        for (const bool follower : {false, true}) // what runs on a cam is placed by it
            for (std::size_t i = 0; i < pieces_.size(); ++i)
                if (!placed_[i] && runs_on_a_cam(i) == follower) {
                    put(i, same_space(), {}, out_.groups);
                    follow_from({i}, out_.groups++);
                }
        for (std::size_t i = 0; i < job_.pairs.size(); ++i)
            if (!used_.contains(i)) look_at_circle(i, out_.open);
        for (auto& p : placed_)
            out_.pieces.push_back(*p);
        return std::move(out_);
    }

private:
    static Standing standing_at(const FreePlace& place) {
        // about x, then y, then z of the job
        Standing out = same_space();
        const auto about = [](std::size_t axis, double angle) {
            Standing s = same_space();
            std::array<std::array<double, 3>*, 3> own{&s.x, &s.y, &s.z};
            const std::size_t u = (axis + 1) % 3, v = (axis + 2) % 3;
            (*own[u])[u] = (*own[v])[v] = std::cos(angle);
            (*own[u])[v] = std::sin(angle);
            (*own[v])[u] = -std::sin(angle);
            return s;
        };
        for (std::size_t axis = 0; axis < 3; ++axis)
            out = within(about(axis, place.turns[axis]), out);
        out.origin = place.at;
        return out;
    }

    double moved_by(const std::vector<double>& of, std::size_t piece) const {
        return piece < of.size() ? of[piece] : 0;
    }

    bool runs_on_a_cam(std::size_t piece) const {
        return std::any_of(job_.pairs.begin(), job_.pairs.end(), [&](const Pair& pair) {
            return pair.second.piece == piece && freedom_of(job_, pair) == Freedom::turned;
        });
    }

    // How far a cam has turned: by its first follower's number and by what runs.
    double cam_angle(std::size_t piece) const {
        for (const Pair& pair : job_.pairs)
            if (pair.first.piece == piece && freedom_of(job_, pair) == Freedom::turned)
                return stands_of(job_, pair, names_).value_or(0) + moved_by(run_.turned, piece);
        return moved_by(run_.turned, piece);
    }

    // What a piece has moved by where it stands.
    Standing own_motion(std::size_t piece) const {
        const ResolvedPiece& p = pieces_[piece];
        double turn = cam_angle(piece);
        if (std::any_of(p.zones.begin(), p.zones.end(),
                        [](const ResolvedZone& z) { return z.motion() && z.turns_clockwise(); }))
            turn = -turn;
        Standing out = turned_about_axis(turn);
        out.origin[2] = moved_by(run_.travelled, piece);
        return out;
    }

    void put(std::size_t piece, const Standing& still, std::optional<std::size_t> by, std::size_t group,
             std::optional<PairPlace> held = {}) {
        placed_[piece] = Placed{within(still, own_motion(piece)), by, group, std::move(held), still};
    }

    std::optional<Length> centre_of(const Pair& pair) const {
        if (pair.centre.text.empty()) return {};
        return resolve_length(pair.centre, names_);
    }

    std::optional<PairPlace> place_of(const Pair& pair) const {
        auto asked = stands_of(job_, pair, names_);
        const bool cam = freedom_of(job_, pair) == Freedom::turned;
        return pair_place(pieces_[pair.first.piece], pair.first.zone, pieces_[pair.second.piece],
                          pair.second.zone, centre_of(pair), cam ? cam_angle(pair.first.piece) : asked);
    }

    // Whether the second is held by the place of the first's axis only, not turned with it.
    bool loosely(const Pair& pair) const {
        const Freedom f = freedom_of(job_, pair);
        return f == Freedom::about || f == Freedom::travel || f == Freedom::turned;
    }

    void follow_from(const std::vector<std::size_t>& first, std::size_t group) {
        std::deque<std::size_t> next(first.begin(), first.end());
        while (!next.empty()) {
            const std::size_t here = next.front();
            next.pop_front();
            for (std::size_t i = 0; i < job_.pairs.size(); ++i) {
                const Pair& pair = job_.pairs[i];
                const bool leads = pair.first.piece == here;
                if (!leads && pair.second.piece != here) continue;
                const std::size_t there = leads ? pair.second.piece : pair.first.piece;
                if (placed_[there]) continue;
                const auto place = place_of(pair);
                if (!place) continue;
                used_.insert(i);
                if (const auto asked = stands_of(job_, pair, names_);
                    asked && std::abs(*asked - place->range.within(*asked)) > 1e-9)
                    out_.beyond.push_back({i, *asked, place->range});
                const Standing& from = loosely(pair) ? placed_[here]->still : placed_[here]->at;
                put(there, within(from, leads ? place->second : inverse(place->second)), i, group, place);
                next.push_back(there);
            }
        }
    }

    void look_at_circle(std::size_t i, std::vector<OpenCircle>& open) const {
        const Pair& pair = job_.pairs[i];
        const Placed &a = *placed_[pair.first.piece], &b = *placed_[pair.second.piece];
        const auto place = place_of(pair);
        if (!place || a.group != b.group) return;
        Standing wanted = place->second;
        const Standing is = within(inverse(a.still), b.still);
        OpenCircle found{i};
        const ResolvedZone &first = pieces_[pair.first.piece].zones[pair.first.zone],
                           &second = pieces_[pair.second.piece].zones[pair.second.zone];
        if (const auto mesh = mesh_of_zones(first, second, centre_of(pair)); mesh && !mesh->rack) {
            wanted = mesh_standing_towards(*mesh, first, second, std::atan2(is.origin[1], is.origin[0]));
            const double off = std::atan2(is.x[1], is.x[0]) - std::atan2(wanted.x[1], wanted.x[0]);
            found.teeth = std::abs(std::remainder(off, second.gear()->pitch_angle())) *
                          (mesh->second_first ? mesh->mesh.first_radius : mesh->mesh.second_radius);
        }
        double gap = 0, along = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            gap += std::pow(wanted.origin[k] - is.origin[k], 2);
            along += wanted.z[k] * is.z[k];
        }
        found.gap = std::sqrt(gap);
        found.turn = std::acos(std::clamp(along, -1.0, 1.0));
        if (found.gap > 1e-6 || found.turn > 1e-7 || found.teeth > 1e-6) open.push_back(found);
    }

    const Job& job_;
    const std::vector<ResolvedPiece>& pieces_;
    const Names& names_;
    const Run& run_;
    Arrangement out_;
    std::vector<std::optional<Placed>> placed_;
    std::set<std::size_t> used_;
};

} // namespace

Box box_about(const solid::Mesh& mesh) {
    Box out{{1e300, 1e300, 1e300}, {-1e300, -1e300, -1e300}};
    for (const auto& p : mesh.points) {
        const std::array<double, 3> at{p.x, p.y, p.z};
        for (std::size_t k = 0; k < 3; ++k) {
            out.low[k] = std::min(out.low[k], at[k]);
            out.high[k] = std::max(out.high[k], at[k]);
        }
    }
    return out;
}

Box box_of(const Box& own, const Standing& at) {
    Box out{at.origin, at.origin};
    for (std::size_t k = 0; k < 3; ++k) {
        const std::array<double, 3> along{at.x[k], at.y[k], at.z[k]};
        for (std::size_t i = 0; i < 3; ++i) {
            const double a = along[i] * own.low[i], b = along[i] * own.high[i];
            out.low[k] += std::min(a, b);
            out.high[k] += std::max(a, b);
        }
    }
    return out;
}

Run run_of(const Train& train, const std::vector<ResolvedPiece>& pieces, double roll) {
    Run out{std::vector<double>(pieces.size(), 0), std::vector<double>(pieces.size(), 0)};
    for (const TrainMember& m : train.members) {
        if (m.piece >= pieces.size()) continue;
        out.turned[m.piece] = m.turns * roll;
        out.travelled[m.piece] = m.travel * roll / (2 * std::numbers::pi);
    }
    return out;
}

Run run_of(const Job& job, const std::vector<ResolvedPiece>& pieces, std::size_t driver, double roll) {
    const auto& zones = pieces.at(driver).zones;
    const bool runs =
        std::any_of(zones.begin(), zones.end(), [](const ResolvedZone& z) { return z.gear() || z.motion(); });
    return run_of(runs ? train_of(job, driver) : Train{}, pieces, roll);
}

std::optional<std::string> trouble_of(const Arrangement& all, const Job& job) {
    const auto both = [&](std::size_t pair) {
        return "'" + job.pieces[job.pairs[pair].first.piece].name + "' and '" +
               job.pieces[job.pairs[pair].second.piece].name + "'";
    };
    if (!all.beyond.empty()) {
        const Beyond& b = all.beyond.front();
        const bool angle = is_angle(freedom_of(job, job.pairs[b.pair]));
        const auto shown = [&](double v) {
            return angle ? number_text(in_deg(rad(v)), 3) + "°"
                         : length_text(mm(v), job.unit) + " " + symbol(job.unit);
        };
        return "The pair of " + both(b.pair) + " asks for " + shown(b.asked) + "; it goes from " +
               shown(b.range.low) + " to " + shown(b.range.high) + ".";
    }
    if (all.open.empty()) return {};
    const OpenCircle& open = all.open.front();
    const std::string left =
        open.gap > 1e-6 || open.turn > 1e-7
            ? number_text(open.gap, 4) + " mm and " + number_text(in_deg(rad(open.turn)), 3) + "° are left"
            : "its teeth miss the spaces by " + number_text(open.teeth, 4) + " mm";
    return "The pair of " + both(open.pair) +
           " closes a circle of pairs that does not meet as the others place it; " + left +
           ". Take off this pair or another one of the circle.";
}

namespace {

// Groups in columns along x, one column beside the other along z, together about as wide as a sheet. The first stays where it
// is; one whose pieces have no boxes too.
void lay_out(Arrangement& all, const std::vector<Box>& boxes) {
    std::vector<std::optional<Box>> groups(all.groups);
    for (std::size_t i = 0; i < all.pieces.size() && i < boxes.size(); ++i) {
        const Box b = box_of(boxes[i], all.pieces[i].still);
        auto& g = groups[all.pieces[i].group];
        if (!g) g = b;
        for (std::size_t k = 0; k < 3; ++k) {
            g->low[k] = std::min(g->low[k], b.low[k]);
            g->high[k] = std::max(g->high[k], b.high[k]);
        }
    }
    double area = 0, tallest = 0;
    for (const auto& g : groups) {
        if (!g) continue;
        const double tall = g->high[0] - g->low[0] + between_groups,
                     wide = g->high[2] - g->low[2] + between_groups;
        area += tall * wide;
        tallest = std::max(tallest, tall);
    }
    const double height = std::max(tallest, std::sqrt(area / 1.5));
    std::optional<double> foot; // of the columns
    double reached = 0, column = 0, beyond = 0;
    std::vector<std::array<double, 2>> way(all.groups);
    for (std::size_t group = 0; group < all.groups; ++group) {
        const auto& g = groups[group];
        if (!g) continue;
        if (!foot) { // the first
            foot = g->low[0];
            column = g->low[2];
            reached = g->high[0];
            beyond = g->high[2];
            continue;
        }
        const double tall = g->high[0] - g->low[0];
        if (reached + between_groups + tall - *foot > height + 1e-9) {
            column = beyond + between_groups;
            reached = *foot - between_groups;
        }
        way[group] = {reached + between_groups - g->low[0], column - g->low[2]};
        reached += between_groups + tall;
        beyond = std::max(beyond, column + g->high[2] - g->low[2]);
    }
    for (Placed& p : all.pieces) {
        for (Standing* s : {&p.at, &p.still}) {
            s->origin[0] += way[p.group][0];
            s->origin[2] += way[p.group][1];
        }
    }
}

} // namespace

Arrangement arrangement_of(const Job& job, const std::vector<ResolvedPiece>& pieces, const Names& names,
                           const std::vector<Box>& boxes, const Run& run_now) {
    Arrangement out = Placing(job, pieces, names, run_now).run();
    lay_out(out, boxes);
    return out;
}

} // namespace whorl
