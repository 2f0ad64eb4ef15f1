// The parts of resolve_piece(): one zone's ends, keyway and web. Internal to the model floor.
#pragma once

#include "model/resolve.hpp"

#include <initializer_list>

namespace whorl {

constexpr double shortest_length = 0.01, longest_length = 10000; // mm, of anything that is asked

// Runs `work` and says where it was if it fails.
template<class Work>
auto at(const std::string& place, Work work) {
    try {
        return work();
    } catch (const JobError&) {
        throw;
    } catch (const InputError& e) {
        throw JobError(e, place);
    }
}

// Throws InputError, naming `what`, for a length out of range.
Length length_in_range(const Number& n, const Names& names, const char* what, double least = shortest_length);

// `closed_bottom`: of a blind bore. The zone must be resolved but for its ends.
ResolvedEnd resolve_end(const EndTreatment& e, const ResolvedZone& z, const Names& names, bool closed_bottom,
                        bool far);

// Throws JobError at the place of an end of another kind than these.
struct ZoneInPiece;
void require_ends(const ZoneInPiece& where, std::initializer_list<EndKind> kinds, const char* sentence);

// Of a bore; of a disc, once every zone of the piece has its place.
ResolvedKeyway resolve_keyway(const Zone& z, const ResolvedZone& r, const Names& names);
ResolvedWeb resolve_web(const Zone& z, const ResolvedZone& r, const ResolvedPiece& piece, const Names& names);

} // namespace whorl
