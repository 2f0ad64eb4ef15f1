// A knurl on the outside of a zone.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

namespace field {
constexpr Field knurl{
    "knurl"}; // "axial", "ring", "left", "right", "crossed", "crossed sunk", "axial-ring", …
constexpr Field knurl_pitch{"knurl_pitch"}, knurl_teeth{"knurl_teeth"};     // one of them; the other follows
constexpr Field knurl_depth{"knurl_depth"}, profile_angle{"profile_angle"}; // at most one of them
} // namespace field

template<>
struct FormModel<KnurlForm> {
    static constexpr const char* key = "knurl";
    static constexpr Stands stands = Stands::anywhere;
    static std::span<const Row> rows();
    static void save(const Zone&, nlohmann::ordered_json&);
    static void load(Zone&, const nlohmann::json&);
    static std::string what(const Zone&);
    static std::string designation(const Zone&, const Job&, const Names&);
    static void resolve(ZoneInPiece&);
    static Radii radii(const ResolvedZone&);
    static void keep(Zone& now, const Zone& was);
    static bool has_counterpart(const Zone&) { return false; }
    static Job counterpart(const Job&, ZoneRef);
};
static_assert(Modelled<KnurlForm>);

Zone zone_asked(const KnurlSpec& knurl, const Designation& whole);
Piece piece_asked(const KnurlSpec& knurl, const Designation& whole);

} // namespace whorl
