// A bend of a round bar or tube.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

namespace field {
constexpr Field bend_angle{"bend_angle"};       // degrees
constexpr Field bend_radius{"bend_radius"};     // as `bend_measured` says
constexpr Field bend_measured{"bend_measured"}; // "centreline", "inside"
constexpr Field roll{"roll"};                   // degrees from the plane of the bend before; empty: 0
} // namespace field

template<>
struct FormModel<BendForm> {
    static constexpr const char* key = "bend";
    static constexpr Stands stands = Stands::anywhere;
    static std::span<const Row> rows();
    static void save(const Zone&, nlohmann::ordered_json&);
    static void load(Zone&, const nlohmann::json&);
    static std::string what(const Zone&);
    static std::string designation(const Zone&, const Job&, const Names&);
    static Length length(const Zone&, const Names&); // along its centreline: it follows
    static void resolve(ZoneInPiece&);
    static Radii radii(const ResolvedZone&);
    static void keep(Zone& now, const Zone& was);
    static bool has_counterpart(const Zone&) { return true; }
    static Job counterpart(const Job&, ZoneRef);
};
static_assert(Modelled<BendForm>);

Zone zone_asked(const BendSpec& bend, const Designation& whole);
Piece piece_asked(const BendSpec& bend, const Designation& whole);

} // namespace whorl
