#include "solid/body.hpp"

#include "quantity/about.hpp"
#include "quantity/expression.hpp"
#include "solid/skin/axial_cut.hpp"
#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <map>

namespace whorl::solid {
namespace {

// Beyond these a piece would take all memory and no receiver could open it. A thread has about six faces a
// turn.
constexpr double most_faces = 20000;
constexpr double most_triangles = 4e6;

void require_few_faces(const ResolvedPiece& piece) {
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        const ResolvedZone& z = piece.zones[i];
        if (!z.swept() || z.simplified()) continue;
        const ThreadSection& s = *z.swept();
        const double faces = 1.5 * static_cast<double>(s.groove.size()) * in_mm(z.length) / s.pitch;
        if (faces > most_faces)
            throw CannotMake(std::string(z.thread() ? "This thread has " : "This groove has ") +
                                 number_text(in_mm(z.length) / s.pitch, 0) + " pitches and would need " +
                                 about(faces) + " faces; at most " + number_text(most_faces, 0) +
                                 " are made. Make the zone shorter or its pitch larger" +
                                 (z.thread() ? ", or the thread simplified." : "."),
                             i);
    }
}

void require_bearable_mesh(const Skin& skin, double chord) {
    std::map<int, std::size_t> faces; // of each zone
    for (const auto& f : skin.faces)
        ++faces[f.zone];
    const auto busiest = std::max_element(faces.begin(), faces.end(),
                                          [](const auto& a, const auto& b) { return a.second < b.second; });
    const auto zone = static_cast<std::size_t>(busiest->first);
    const auto wanted = [&](double c) { return triangles_expected(skin, steps_for_chord(skin, c)); };
    if (const double triangles = wanted(chord); triangles > most_triangles) {
        double coarser = chord;
        while (coarser < 10 && wanted(coarser) > most_triangles)
            coarser *= 1.25;
        const bool helps = wanted(coarser) <= most_triangles;
        throw CannotMake("At a chord of " + number_text(chord, 4) + " mm this piece would need about " +
                             number_text(triangles / 1e6, 1) + " million triangles; at most " +
                             number_text(most_triangles / 1e6, 0) + " million are made. " +
                             (helps ? "A chord of " + number_text(coarser, 3) + " mm would do"
                                    : "Make this zone shorter or its pitch larger") +
                             ", or make its thread simplified.",
                         zone);
    }
}

Mesh mesh_of(const Skin& skin, double chord) {
    require_bearable_mesh(skin, chord);
    return triangulate(skin, steps_for_chord(skin, chord));
}
Mesh mesh_of(const BarBody& bar, double chord) {
    return triangulate(bar, chord);
}
Mesh mesh_of(const TubeBody& tube, double chord) {
    return triangulate(tube, chord);
}

void require_sound_surface(const Skin& skin) {
    require_closed(skin);
    require_cut_around(skin);
}
void require_sound_surface(const BarBody& bar) {
    require_closed(bar);
}
void require_sound_surface(const TubeBody& tube) {
    require_closed(tube);
}

} // namespace

Body::Body(Skin skin) : what_(std::move(skin)), volume_(whorl::solid::volume(std::get<Skin>(what_))) {}
Body::Body(BarBody bar, double volume) : what_(std::move(bar)), volume_(volume) {}
Body::Body(TubeBody tube, double volume) : what_(std::move(tube)), volume_(volume) {}

// Calls `work` with what the body is; nothing is asked of an empty one.
template<class Result, class Work>
static Result with(const std::variant<std::monostate, Skin, BarBody, TubeBody>& what, Work work) {
    return std::visit(
        [&]<class What>(const What& w) -> Result {
            if constexpr (std::is_same_v<What, std::monostate>)
                throw std::logic_error("There is no body.");
            else
                return work(w);
        },
        what);
}

std::size_t Body::faces() const {
    return with<std::size_t>(what_, [](const auto& w) { return w.faces.size(); });
}
std::size_t Body::zone_of(std::uint32_t face) const {
    return skin() ? static_cast<std::size_t>(skin()->faces[face].zone) : 0; // others are one zone
}
Mesh Body::mesh(double chord) const {
    return with<Mesh>(what_, [&](const auto& w) { return mesh_of(w, chord); });
}
Shading Body::shading(const Mesh& mesh) const {
    return with<Shading>(what_, [&](const auto& w) { return shade(w, mesh); });
}
Solid Body::solid(const Mesh& mesh) const {
    return with<Solid>(what_, [&](const auto& w) { return make_solid(w, mesh); });
}
void Body::require_sound() const {
    with<void>(what_, [](const auto& w) { require_sound_surface(w); });
}

Body make_body(const ResolvedPiece& piece) {
    if (const ResolvedRack* rack = piece.zones.front().rack()) return {rack_body(*rack), rack_volume(*rack)};
    if (const ResolvedCoil* coil = piece.zones.front().coil()) return {tube_body(*coil), coil->volume};
    require_few_faces(piece);
    return Body(build_skin(piece));
}

} // namespace whorl::solid
