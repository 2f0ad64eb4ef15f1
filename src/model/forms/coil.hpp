// A coil of round wire, which is the whole piece: a compression, an extension or a torsion spring.
#pragma once

#include "model/form_model.hpp"

namespace whorl {

namespace field {
constexpr Field wire_diameter{"wire_diameter"}, coil_diameter{"mean_diameter"}; // "20", "52..30..52", "De 22"
constexpr Field active_coils{"active_coils"}, total_coils{"total_coils"}, dead_coils{"dead_coils"};
constexpr Field coil_ends{"ends"}; // "open", "closed", "closed ground", "open ground"
constexpr Field tip_thickness{"tip_thickness"}, spring_wire{"spring_wire"};
constexpr Field spring_kind{"spring_kind"}; // "compression", "extension", "torsion"
constexpr Field near_wire{"near_wire"},
    far_wire{"far_wire"}; // "full", "half 8", "leg 30 axial": form/coil/wire_end.hpp
constexpr Field initial_tension{"initial_tension"}; // N
constexpr Field wire_class{"wire_class"};           // "SM"
constexpr Field length_over{"length_over"};         // "faces", "wire", "centreline"
constexpr Field tolerance_grade{"grade"};           // "1", "2", "3"
constexpr Field works{"works"}, made_at{"made_at"}; // "32..24", "40N"
constexpr Field fatigue{"fatigue"};                 // "650..900"
} // namespace field

template<>
struct FormModel<CoilForm> {
    static constexpr const char* key = "coil";
    static constexpr Stands stands = Stands::alone;
    static std::span<const Row> rows();
    static void save(const Zone&, nlohmann::ordered_json&);
    static void load(Zone&, const nlohmann::json&);
    static std::string what(const Zone&);
    static std::string designation(const Zone&, const Job&, const Names&);
    static std::string called(const Zone&, const Names&); // by its kind and size
    static void resolve(ZoneInPiece&);
    static Radii radii(const ResolvedZone&);
    static void keep(Zone& now, const Zone& was);
    static bool has_counterpart(const Zone&) { return false; }
    static Job counterpart(const Job&, ZoneRef);
};
static_assert(Modelled<CoilForm>);

Zone zone_asked(const CoilSpec& coil, const Designation& whole);
Piece piece_asked(const CoilSpec& spec, const Designation& whole);

} // namespace whorl
