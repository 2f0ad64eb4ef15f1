// Helical grooves, outside or in a bore.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

namespace field {
constexpr Field groove{"groove"}; // "rect", "round", "vee", "trapezium", "own"
constexpr Field groove_width{"groove_width"}, groove_angle{"groove_angle"};
constexpr Field across_grooves{"across_grooves"}; // or groove_depth; the other follows
} // namespace field

template<>
struct FormModel<GrooveForm> {
    static constexpr const char* key = "groove";
    static constexpr Stands stands = Stands::anywhere;
    static std::span<const Row> rows();
    static void save(const Zone&, nlohmann::ordered_json&);
    static void load(Zone&, const nlohmann::json&);
    static std::string what(const Zone&);
    static std::string designation(const Zone&, const Job&, const Names&);
    static void resolve(ZoneInPiece&);
    static Radii radii(const ResolvedZone&);
    static Radii radii_at(const ResolvedZone&, double z);
    static void keep(Zone& now, const Zone& was);
    static bool has_counterpart(const Zone& z) { return z.in_bore(); }
    static Job counterpart(const Job&, ZoneRef);
};
static_assert(Modelled<GrooveForm>);

Zone zone_asked(const GrooveSpec& groove, const Designation& whole);
Piece piece_asked(const GrooveSpec& groove, const Designation& whole);

} // namespace whorl
