// A thread, outside or in a bore.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

template<>
struct FormModel<ThreadForm> {
    static constexpr const char* key = "thread";
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
    static bool has_counterpart(const Zone&) { return true; }
    static Job counterpart(const Job&, ZoneRef);
};
static_assert(Modelled<ThreadForm>);

Zone zone_asked(const ThreadSpec& thread, const Designation& whole);
// An internal thread becomes a tapped ring.
Piece piece_asked(const ThreadSpec& spec, const Designation& whole);

} // namespace whorl
