// Teeth that hold a shaft in its hub, around a zone or in a bore.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

namespace field {
constexpr Field reference_diameter{"reference_diameter"}; // DIN 5480; empty: ISO 4156
constexpr Field spline_root{"spline_root"};               // a word of SplineRoot; empty: the usual one
} // namespace field

template<>
struct FormModel<SplineForm> {
    static constexpr const char* key = "spline";
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
static_assert(Modelled<SplineForm>);

Zone zone_asked(const SplineSpec& spline, const Designation& whole);
Piece piece_asked(const SplineSpec& spline, const Designation& whole);

} // namespace whorl
