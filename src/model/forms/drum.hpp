// A drum cam's track around a zone.
#pragma once

#include "model/form_model.hpp"
#include "model/forms/cam_rows.hpp"

namespace whorl {

namespace field {
constexpr Field track{"track"}; // "groove", "rib"
constexpr Field track_width{"track_width"}, track_depth{"track_depth"};
constexpr Field walls{"walls"};               // "rolled", "straight"
constexpr Field arm{"arm"};                   // of a follower that swings; empty: it moves along the axis
constexpr Field track_turns{"track_turns"};   // empty: 1
constexpr Field keep_corners{"keep_corners"}; // "rounded", "sharp"
constexpr Field corners{"corners"};           // radius they are rounded by; empty: follows
constexpr Field track_from{"track_from"};     // from the near end at lift 0; empty: in the middle
} // namespace field

template<>
struct FormModel<DrumForm> {
    static constexpr const char* key = "track";
    static constexpr Stands stands = Stands::anywhere;
    static std::span<const Row> rows();
    static void save(const Zone&, nlohmann::ordered_json&);
    static void load(Zone&, const nlohmann::json&);
    static std::string what(const Zone&);
    static std::string designation(const Zone&, const Job&, const Names&);
    static void resolve(ZoneInPiece&);
    static Radii radii(const ResolvedZone&);
    static void keep(Zone& now, const Zone& was);
    static bool has_counterpart(const Zone&) { return true; }
    static Job counterpart(const Job&, ZoneRef);
};
static_assert(Modelled<DrumForm>);

Zone zone_asked(const DrumSpec& drum, const Designation& whole);
Piece piece_asked(const DrumSpec& drum, const Designation& whole);

} // namespace whorl
