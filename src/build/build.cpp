#include "build/build.hpp"

#include "model/job_file.hpp"
#include "solid/axial_cut.hpp"
#include "solid/build_skin.hpp"

#include <algorithm>
#include <chrono>
#include <map>

namespace whorl {

namespace {

// Beyond these a piece would take all memory and no receiver could open it. A thread has about six faces a
// turn.
constexpr double most_faces = 20000;
constexpr double most_triangles = 4e6;

// Both throw CannotMake.
void require_few_faces(const ResolvedPiece& piece) {
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        const ResolvedZone& z = piece.zones[i];
        if (!z.thread() || z.simplified()) continue;
        const ThreadSection& s = z.thread()->section;
        const double faces = 1.5 * static_cast<double>(s.groove.size()) * in_mm(z.length) / s.pitch;
        if (faces > most_faces)
            throw solid::CannotMake(
                "This thread has " + number_text(in_mm(z.length) / s.pitch, 0) +
                    " pitches and would need about " + number_text(faces, 0) + " faces; at most " +
                    number_text(most_faces, 0) +
                    " are made. Make the zone shorter or its pitch larger, or the thread simplified.",
                i);
    }
}

void require_bearable_mesh(const solid::Skin& skin, double chord) {
    std::map<int, std::size_t> faces; // of each zone
    for (const auto& f : skin.faces)
        ++faces[f.zone];
    const auto busiest = std::max_element(faces.begin(), faces.end(),
                                          [](const auto& a, const auto& b) { return a.second < b.second; });
    const auto zone = static_cast<std::size_t>(busiest->first);
    const auto wanted = [&](double c) {
        return solid::triangles_expected(skin, solid::steps_for_chord(skin, c));
    };
    if (const double triangles = wanted(chord); triangles > most_triangles) {
        double coarser = chord;
        while (coarser < 10 && wanted(coarser) > most_triangles)
            coarser *= 1.25;
        const bool helps = wanted(coarser) <= most_triangles;
        throw solid::CannotMake("At a chord of " + number_text(chord, 4) +
                                    " mm this piece would need about " + number_text(triangles / 1e6, 1) +
                                    " million triangles; at most " + number_text(most_triangles / 1e6, 0) +
                                    " million are made. " +
                                    (helps ? "A chord of " + number_text(coarser, 3) + " mm would do"
                                           : "Make this zone shorter or its pitch larger") +
                                    ", or make its thread simplified.",
                                zone);
    }
}

} // namespace

Preview make_preview(const Piece& piece, std::size_t index, const Names& names, LengthUnit unit,
                     double chord) {
    Preview p;
    p.piece = resolve_piece(piece, names);
    p.findings = check_piece(p.piece, index, unit);
    if (stops(p.findings)) return p;
    try {
        if (const auto& rack = p.piece.zones.front().rack()) {
            p.bar = solid::rack_body(*rack);
            p.mesh = solid::triangulate(p.bar, chord);
            p.volume = solid::rack_volume(*rack);
            return p;
        }
        require_few_faces(p.piece);
        p.skin = solid::build_skin(p.piece);
        require_bearable_mesh(p.skin, chord);
        p.mesh = solid::triangulate(p.skin, solid::steps_for_chord(p.skin, chord));
        p.volume = solid::volume(p.skin);
    } catch (const solid::CannotMake& e) {
        p.findings.insert(p.findings.begin(),
                          Finding{Severity::stop, "cannot_make", e.what(), index, e.zone, 0, 0, {}});
        p.skin = {};
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
        p.skin = {};
        p.bar = {};
        p.mesh = {};
    }
    return p;
}

std::size_t Preview::zone_of(std::uint32_t face) const {
    return bar.empty() ? static_cast<std::size_t>(skin.faces[face].zone) : 0;
}

solid::Shading Preview::shading() const {
    return bar.empty() ? solid::shade(skin, mesh) : solid::shade(bar, mesh);
}

std::shared_ptr<const VerifiedSolid> make_verified_solid(const Preview& preview, std::stop_token stop) {
    if (!preview.made()) throw std::logic_error("There is nothing to make a solid of.");
    const auto start = std::chrono::steady_clock::now();
    auto out = std::make_shared<VerifiedSolid>();
    const bool bar = !preview.bar.empty();
    out->solid =
        bar ? solid::make_solid(preview.bar, preview.mesh) : solid::make_solid(preview.skin, preview.mesh);
    out->milliseconds =
        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
    if (stop.stop_requested()) return nullptr;
    bar ? solid::require_closed(preview.bar) : solid::require_closed(preview.skin);
    solid::require_cut_around(preview.skin);
    if (stop.stop_requested()) return nullptr;
    solid::require_watertight(preview.mesh);
    if (stop.stop_requested()) return nullptr;
    out->volume = preview.volume;
    out->mesh_error = solid::volume(preview.mesh) / preview.volume - 1;
    out->valid = solid::is_valid(out->solid, stop);
    if (stop.stop_requested()) return nullptr;
    return out;
}

std::shared_ptr<const Preview> PreviewCache::get(const Piece& piece, std::size_t index, const Names& names,
                                                 LengthUnit unit, double chord) {
    Job alone;
    alone.unit = unit;
    alone.pieces = {piece};
    std::string key = job_to_json(alone) + std::to_string(index) + "/" + std::to_string(chord);
    for (const auto& [name, value] : names)
        key += "/" + name + "=" + std::to_string(value.index()) + ":" +
               number_text(std::holds_alternative<double>(value)   ? std::get<double>(value)
                           : std::holds_alternative<Length>(value) ? in_mm(std::get<Length>(value))
                                                                   : in_rad(std::get<Angle>(value)),
                           12);
    {
        const std::lock_guard lock(mutex_);
        if (const auto it = by_content_.find(key); it != by_content_.end()) return it->second;
    }
    auto made = std::make_shared<const Preview>(make_preview(piece, index, names, unit, chord));
    const std::lock_guard lock(mutex_);
    if (by_content_.size() > 100) by_content_.clear();
    by_content_[key] = made;
    return made;
}

} // namespace whorl
