// A disc cam's lobe around a zone. A camshaft has several, each at its own angle, with plain journals
// between.
#pragma once

#include "model/form_model.hpp"
#include "model/forms/cam_rows.hpp"

namespace whorl {

namespace field {
constexpr Field base_radius{"base_radius"};                   // of the profile
constexpr Field follower{"follower"};                         // "roller", "knife", "flat", "mushroom"
constexpr Field roller{"roller"}, face_radius{"face_radius"}; // the roller's diameter; a mushroom's radius
constexpr Field follower_offset{"offset"};                    // of a translating follower
constexpr Field conjugate{"conjugate"};                       // of a second lobe: followers apart
constexpr Field disc{"disc"};   // of a closed track in a disc's face, its depth is groove_depth
constexpr Field swing{"swing"}; // "50 60" (arm, pivot to axis), or "none"
} // namespace field

template<>
struct FormModel<LobeForm> {
    static constexpr const char* key = "lobe";
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
static_assert(Modelled<LobeForm>);

// A journal and the second lobe of a conjugate pair behind a lobe. Throws InputError where there can be none.
Job add_conjugate(const Job& job, ZoneRef lobe);

Zone zone_asked(const CamSpec& cam, const Designation& whole);
Piece piece_asked(const CamSpec& cam, const Designation& whole);

} // namespace whorl
