#include "check/train.hpp"

#include "check/mesh_check.hpp"
#include "quantity/expression.hpp"

#include <cmath>
#include <numbers>

namespace whorl {

namespace {

using Meshes = std::vector<std::optional<PairMesh>>; // of each pair; none of threads

Meshes meshes_of(const Job& job) {
    const Names names = resolve_names(job);
    Meshes out;
    for (const Pair& pair : job.pairs)
        out.push_back(mesh_of_pair(job, pair, names));
    return out;
}

Train follow(const Job& job, std::size_t driver, const Meshes& meshes) {
    Train out;
    out.members.push_back({driver, {}, driver, 1, 0, false});
    std::vector<std::optional<std::size_t>> at(job.pieces.size()); // index among the members
    at.at(driver) = 0;
    for (std::size_t next = 0; next < out.members.size(); ++next) {
        const TrainMember from = out.members[next];
        for (std::size_t i = 0; i < job.pairs.size(); ++i) {
            const Pair& pair = job.pairs[i];
            if (!meshes[i] || !meshes[i]->mesh.meshes || from.pair == i) continue;
            const bool first_here = pair.first.piece == from.piece;
            if (!first_here && pair.second.piece != from.piece) continue;
            const GearMesh& m = meshes[i]->mesh;
            // whether the piece at hand carries the mesh's first gear
            const bool drives_first = first_here != meshes[i]->second_first;
            TrainMember to;
            to.piece = first_here ? pair.second.piece : pair.first.piece;
            to.pair = i;
            to.by = from.piece;
            if (from.rack) {
                to.turns = from.travel / (2 * std::numbers::pi * m.first_radius);
            } else if (m.rack) {
                to.rack = true;
                to.travel = from.turns * 2 * std::numbers::pi * m.first_radius;
            } else {
                to.turns = from.turns * (drives_first ? 1 / m.ratio : m.ratio) * (m.internal ? 1 : -1);
            }
            if (const auto known = at[to.piece]) {
                const TrainMember& other = out.members[*known];
                if (std::abs(other.turns - to.turns) > 1e-9 * std::abs(other.turns) ||
                    std::abs(other.travel - to.travel) > 1e-9 * std::abs(other.travel))
                    out.locked_by = i;
                continue;
            }
            at[to.piece] = out.members.size();
            out.members.push_back(to);
        }
    }
    return out;
}

} // namespace

Train train_of(const Job& job, std::size_t driver) {
    return follow(job, driver, meshes_of(job));
}

void check_trains(std::vector<Finding>& out, const Job& job, std::size_t piece) {
    if (job.pairs.size() < 3) return; // fewer close no ring
    const Meshes meshes = meshes_of(job);
    std::vector<bool> seen(job.pieces.size(), false);
    for (const Pair& pair : job.pairs) {
        if (seen[pair.first.piece]) continue;
        const Train train = follow(job, pair.first.piece, meshes);
        bool here = piece >= job.pieces.size();
        for (const TrainMember& m : train.members) {
            seen[m.piece] = true;
            here = here || m.piece == piece;
        }
        if (!train.locked_by || !here) continue;
        const Pair& last = job.pairs[*train.locked_by];
        out.push_back(
            {Severity::advice,
             "train_locks",
             "The pair of " + job.pieces[last.first.piece].name + " and " +
                 job.pieces[last.second.piece].name +
                 " closes a ring of gears whose ratios or directions contradict each other: it locks. "
                 "Remove a pair, or change teeth.",
             last.second.piece,
             last.second.zone,
             0,
             0,
             {}});
    }
}

std::string said(const TrainMember& m) {
    if (m.rack) return "moves " + number_text(std::abs(m.travel), 4) + " mm a turn";
    return "turns " + number_text(std::abs(m.turns), 6) + " times, the " + (m.turns < 0 ? "other" : "same") +
           " way";
}

} // namespace whorl
