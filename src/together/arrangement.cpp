#include "together/arrangement.hpp"

#include <algorithm>
#include <cmath>
#include <deque>
#include <set>

namespace whorl {
namespace {

class Placing {
public:
    Placing(const Job& job, const std::vector<ResolvedPiece>& pieces, const Names& names)
        : job_(job), pieces_(pieces), names_(names), placed_(pieces.size()) {}

    Arrangement run() {
        Arrangement out;
        for (std::size_t i = 0; i < pieces_.size(); ++i)
            if (!placed_[i]) follow_from(i, out.groups++);
        for (std::size_t i = 0; i < job_.pairs.size(); ++i)
            if (!used_.contains(i)) look_at_circle(i, out.open);
        for (auto& p : placed_)
            out.pieces.push_back(*p);
        return out;
    }

private:
    std::optional<Length> centre_of(const Pair& pair) const {
        if (pair.centre.text.empty()) return {};
        return resolve_length(pair.centre, names_);
    }

    std::optional<Standing> place_of(const Pair& pair) const {
        return pair_place(pieces_[pair.first.piece], pair.first.zone, pieces_[pair.second.piece],
                          pair.second.zone, centre_of(pair));
    }

    void follow_from(std::size_t first, std::size_t group) {
        placed_[first] = Placed{same_space(), {}, group};
        std::deque<std::size_t> next{first};
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
                placed_[there] =
                    Placed{within(placed_[here]->at, leads ? *place : inverse(*place)), i, group};
                next.push_back(there);
            }
        }
    }

    void look_at_circle(std::size_t i, std::vector<OpenCircle>& open) const {
        const Pair& pair = job_.pairs[i];
        const Placed &a = *placed_[pair.first.piece], &b = *placed_[pair.second.piece];
        auto wanted = place_of(pair);
        if (!wanted || a.group != b.group) return;
        const Standing is = within(inverse(a.at), b.at);
        OpenCircle found{i};
        const ResolvedZone &first = pieces_[pair.first.piece].zones[pair.first.zone],
                           &second = pieces_[pair.second.piece].zones[pair.second.zone];
        if (const auto mesh = mesh_of_zones(first, second, centre_of(pair)); mesh && !mesh->rack) {
            wanted = mesh_standing_towards(*mesh, first, second, std::atan2(is.origin[1], is.origin[0]));
            const double off = std::atan2(is.x[1], is.x[0]) - std::atan2(wanted->x[1], wanted->x[0]);
            found.teeth = std::abs(std::remainder(off, second.gear()->pitch_angle())) *
                          (mesh->second_first ? mesh->mesh.first_radius : mesh->mesh.second_radius);
        }
        double gap = 0, along = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            gap += std::pow(wanted->origin[k] - is.origin[k], 2);
            along += wanted->z[k] * is.z[k];
        }
        found.gap = std::sqrt(gap);
        found.turn = std::acos(std::clamp(along, -1.0, 1.0));
        if (found.gap > 1e-6 || found.turn > 1e-7 || found.teeth > 1e-6) open.push_back(found);
    }

    const Job& job_;
    const std::vector<ResolvedPiece>& pieces_;
    const Names& names_;
    std::vector<std::optional<Placed>> placed_;
    std::set<std::size_t> used_;
};

} // namespace

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

Arrangement arrangement_of(const Job& job, const std::vector<ResolvedPiece>& pieces, const Names& names,
                           const std::vector<Box>& boxes) {
    Arrangement out = Placing(job, pieces, names).run();
    double reached = 0;
    for (std::size_t group = 0; group < out.groups; ++group) {
        double low = 1e300, high = -1e300;
        for (std::size_t i = 0; i < out.pieces.size(); ++i) {
            if (out.pieces[i].group != group || i >= boxes.size()) continue;
            const Box b = box_of(boxes[i], out.pieces[i].at);
            low = std::min(low, b.low[0]);
            high = std::max(high, b.high[0]);
        }
        if (low > high) continue;
        // the first group stays at its own origin
        const double way = group == 0 ? 0 : reached + between_groups - low;
        for (Placed& p : out.pieces)
            if (p.group == group) p.at.origin[0] += way;
        reached = high + way;
    }
    return out;
}

} // namespace whorl
