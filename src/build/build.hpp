// Job to geometry: the preview at once, the verified solid right after, both cached by what the piece says.
#pragma once

#include "check/check.hpp"
#include "model/resolve.hpp"
#include "solid/body.hpp"

#include <memory>
#include <mutex>
#include <stop_token>
#include <utility>
#include <vector>

namespace whorl {

// Everything the views need of one piece; made on every edit.
struct Preview {
    ResolvedPiece piece;
    std::vector<Finding> findings;
    solid::Body body; // empty when a finding stops, as the mesh is
    solid::Mesh mesh;
    solid::Shading shading; // how the mesh is drawn; only what a PreviewCache gives has it
    bool made() const { return !mesh.triangles.empty(); }
    double volume() const { return body.volume(); } // mm³, closed form
};

// `chord` is the largest distance (mm) of a mesh side from the true surface.
// Throws JobError if the piece doesn't resolve.
Preview make_preview(const Piece& piece, std::size_t index, const Names& names, LengthUnit unit,
                     double chord = 0.02);

// The kernel solid, and what was proved about it.
struct VerifiedSolid {
    solid::Solid solid;
    std::vector<std::size_t> zone_of_face; // of the kernel solid's faces, in their order
    bool valid = false;                    // the kernel's validity check
    double volume = 0;                     // mm³, closed form
    double mesh_error = 0;                 // relative difference of the mesh's volume
    double milliseconds = 0;               // for construction, without the checks
};

// Empty if `stop` was requested on the way. Throws std::logic_error if the piece is not made or a proof
// fails.
std::shared_ptr<const VerifiedSolid> make_verified_solid(const Preview& preview,
                                                         const std::stop_token& stop = {});

// Keeps the latest hundred results by what they were made from, so that going back and forth costs nothing. Safe to
// use from several threads.
class PreviewCache {
public:
    std::shared_ptr<const Preview> get(const Piece& piece, std::size_t index, const Names& names,
                                       LengthUnit unit, double chord = 0.02);

private:
    struct MadeFrom {
        Piece piece;
        std::size_t index;
        Names names;
        LengthUnit unit;
        double chord;
        friend bool operator==(const MadeFrom&, const MadeFrom&) = default;
    };
    std::mutex mutex_;
    std::vector<std::pair<MadeFrom, std::shared_ptr<const Preview>>> kept_; // the latest last
};

} // namespace whorl
