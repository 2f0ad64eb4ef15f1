// What the model floor has to know of a form, one specialisation of FormModel each, in the form's own file
// under forms/. A form without one, or one that lacks a member, does not compile.
#pragma once

#include "form/designation.hpp"
#include "model/row.hpp"

#include <concepts>

namespace whorl {

// Where a form may stand in its piece.
enum class Stands {
    anywhere,
    alone // it is the whole piece: no other zones, no bores
};

// One zone on its way to dimensions. `out` has its place (where, start, length) and gets the rest but its
// ends and its web.
struct ZoneInPiece {
    const Zone& zone;
    ResolvedZone& out;
    const std::vector<Zone>& all; // of the piece, this one among them
    const ResolvedPiece& before;  // what of the piece is resolved
    const std::string& place;     // for JobError: "zones[2]."
    const Names& names;
    bool small_end_far; // of the two ends of a taper: outside the small end is the piece's nearer end, inside
                        // the one away from the mouth
};

template<class F>
struct FormModel;

template<class F>
concept Modelled = requires(const Zone& zone, Zone& changed, const Job& job, ZoneInPiece& at,
                            const ResolvedZone& resolved, ResolvedZone& alone, const Names& names,
                            nlohmann::ordered_json& to, const nlohmann::json& from, ZoneRef ref) {
    { FormModel<F>::stands } -> std::convertible_to<Stands>;
    { FormModel<F>::rows() } -> std::same_as<std::span<const Row>>;
    // Under which key of a zone its rows stand in a file; empty: beside those of the zone. The form is chosen
    // by it, or by FormModel<F>::found(json of the zone) where two share a key; what is no row is read and
    // written.
    { FormModel<F>::key } -> std::convertible_to<const char*>;
    FormModel<F>::save(zone, to);
    FormModel<F>::load(changed, from);
    // "an ISO metric thread", for sentences
    { FormModel<F>::what(zone) } -> std::same_as<std::string>;
    { FormModel<F>::designation(zone, job, names) } -> std::same_as<std::string>;
    FormModel<F>::resolve(at);
    // The smallest and largest radius of the surface it leaves.
    { FormModel<F>::radii(resolved) } -> std::same_as<Radii>;
    // … and at one place between its ends, where they are not the same all along: FormModel<F>::radii_at(resolved, z).
    // What a zone that is newly designated keeps of the one it was.
    FormModel<F>::keep(changed, zone);
    // Whether there may be a counterpart to be made. As a new piece with its pair; throws InputError where there is none.
    { FormModel<F>::has_counterpart(zone) } -> std::same_as<bool>;
    { FormModel<F>::counterpart(job, ref) } -> std::same_as<Job>;
};

} // namespace whorl
