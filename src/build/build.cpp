#include "build/build.hpp"

#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <chrono>

namespace whorl {

Preview make_preview(const Piece& piece, std::size_t index, const Names& names, LengthUnit unit,
                     double chord) {
    Preview p;
    p.piece = resolve_piece(piece, names);
    p.findings = check_piece(p.piece, index, unit);
    if (stops(p.findings)) return p;
    try {
        p.body = solid::make_body(p.piece);
        p.mesh = p.body.mesh(chord);
    } catch (const solid::CannotMake& e) {
        p.findings.insert(p.findings.begin(),
                          Finding{Severity::stop, "cannot_make", e.what(), index, e.zone, 0, 0, {}});
        p.body = {};
        p.mesh = {};
    } catch (const std::exception& e) {
        // a fault of ours, said as one: the job stands, and the last good state stays on screen
        p.findings.insert(
            p.findings.begin(),
            Finding{Severity::stop,
                    "own_fault",
                    "'" + piece.name +
                        "' can't be built, through a fault of Regular Whorl's own. A small change of a "
                        "length or a diameter usually helps; please report the job with this note: " +
                        e.what() + ".",
                    index,
                    0,
                    0,
                    0,
                    {}});
        p.body = {};
        p.mesh = {};
    }
    return p;
}

std::shared_ptr<const VerifiedSolid> make_verified_solid(const Preview& preview,
                                                         const std::stop_token& stop) {
    if (!preview.made()) throw std::logic_error("There is nothing to make a solid of.");
    const auto start = std::chrono::steady_clock::now();
    auto out = std::make_shared<VerifiedSolid>();
    out->solid = preview.body.solid(preview.mesh);
    out->milliseconds =
        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
    for (std::uint32_t f = 0; f < preview.body.faces(); ++f)
        out->zone_of_face.push_back(preview.body.zone_of(f));
    if (stop.stop_requested()) return nullptr;
    preview.body.require_sound();
    if (stop.stop_requested()) return nullptr;
    solid::require_watertight(preview.mesh);
    if (stop.stop_requested()) return nullptr;
    out->volume = preview.volume();
    out->mesh_error = solid::volume(preview.mesh) / preview.volume() - 1;
    out->valid = solid::is_valid(out->solid, stop);
    if (stop.stop_requested()) return nullptr;
    return out;
}

std::shared_ptr<const Preview> PreviewCache::get(const Piece& piece, std::size_t index, const Names& names,
                                                 LengthUnit unit, double chord) {
    const MadeFrom from{piece, index, names, unit, chord};
    {
        const std::lock_guard lock(mutex_);
        const auto it =
            std::ranges::find(kept_, from, [](const auto& k) -> const MadeFrom& { return k.first; });
        if (it != kept_.end()) {
            std::rotate(it, it + 1, kept_.end());
            return kept_.back().second;
        }
    }
    auto made = std::make_shared<Preview>(make_preview(piece, index, names, unit, chord));
    if (made->made()) made->shading = made->body.shading(made->mesh);
    const std::lock_guard lock(mutex_);
    if (kept_.size() == 100) kept_.erase(kept_.begin());
    kept_.emplace_back(from, made);
    return made;
}

} // namespace whorl
