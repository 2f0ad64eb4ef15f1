// A plain stretch: cylinder, cone, hexagon or square, in a bore with a keyway.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

template<>
struct FormModel<PlainForm> {
    static constexpr const char* key = "";
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
    static bool has_counterpart(const Zone&) { return false; }
    static Job counterpart(const Job&, ZoneRef);
};
static_assert(Modelled<PlainForm>);

Zone zone_asked(const PlainBar& bar, const Designation& whole);
Piece piece_asked(const PlainBar& bar, const Designation& whole);

} // namespace whorl
