// Teeth around a zone, in a bore internal ones.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

template<>
struct FormModel<GearForm> {
    static constexpr const char* key = "teeth";
    static constexpr Stands stands = Stands::anywhere;
    static std::span<const Row> rows();
    static bool found(const nlohmann::json& zone); // teeth that are no rack's
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
static_assert(Modelled<GearForm>);

Zone zone_asked(const GearSpec& gear, const Designation& whole);
Piece piece_asked(const GearSpec& spec, const Designation& whole);

} // namespace whorl
