// Silhouettes, their flutes, and the hollows inside them.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

namespace field {
constexpr Field course{"course"};                             // "spline", "monotone", "arcs"
constexpr Field flutes{"flutes"}, flute_depth{"flute_depth"}; // how many; "4", or "20:0 60:4 150:0"
constexpr Field flutes_from{"flutes_from"}, flutes_to{"flutes_to"}, twist{"twist"}, ridge{"ridge"};
constexpr Field wall{"wall"}, bottom{"bottom"}; // of a hollow
constexpr Field inside{"inside"};               // "fluted" or "smooth"
} // namespace field

template<>
struct FormModel<SilhouetteForm> {
    static constexpr const char* key = "silhouette";
    static constexpr Stands stands = Stands::anywhere;
    static std::span<const Row> rows();
    static void save(const Zone&, nlohmann::ordered_json&);
    static void load(Zone&, const nlohmann::json&);
    static std::string what(const Zone&);
    static std::string designation(const Zone&, const Job&, const Names&);
    // The zone's length: that of its points where none is said.
    static Length length(const Zone&, const Names&);
    // What a hollow leaves at its bottom, where its length is not said.
    static Length bottom(const Zone&, const Names&);
    static void resolve(ZoneInPiece&);
    static Radii radii(const ResolvedZone&);
    static Radii radii_at(const ResolvedZone&, double z);
    static void keep(Zone& now, const Zone& was);
    static bool has_counterpart(const Zone&) { return false; }
    static Job counterpart(const Job&, ZoneRef);
};
static_assert(Modelled<SilhouetteForm>);

Zone zone_asked(const SilhouetteSpec& silhouette, const Designation& whole);
Piece piece_asked(const SilhouetteSpec& silhouette, const Designation& whole);

// The hollow of a silhouette at the end of its piece: wall, bottom.
Zone hollow_zone(Length wall, Length bottom, LengthUnit unit = LengthUnit::millimetre);

// Hollows the outer silhouettes of a piece: as `hollow` says, or with a wall of a twentieth of the largest radius, 1 mm
// at least, and a bottom twice as thick. A hollow that is there takes its numbers. Throws InputError without a
// silhouette.
Job with_hollow(const Job& before, std::size_t piece, const SilhouetteSpec& hollow,
                LengthUnit unit = LengthUnit::millimetre);
Job with_hollow(const Job& before, std::size_t piece);
bool has_silhouette(const Piece& piece); // outside

// The points as they are typed in a unit, and a text of them in another one.
std::string points_in(const Number& points, LengthUnit unit, const Names& names);

} // namespace whorl
