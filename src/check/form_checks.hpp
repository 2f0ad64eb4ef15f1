// What can be wrong with a zone, by what it wears, each with its remedy. A form that lacks its overload does not
// compile. Internal to the check floor.
#pragma once

#include "check/kit.hpp"

namespace whorl {

void check_form(const ResolvedPlain&, const ZoneLook& look);
void check_form(const ResolvedScrew&, const ZoneLook& look);
void check_form(const ResolvedWheel&, const ZoneLook& look);
void check_form(const ResolvedSplining&, const ZoneLook& look);
void check_form(const ResolvedBar&, const ZoneLook& look);
void check_form(const ResolvedKnurling&, const ZoneLook& look);
void check_form(const ResolvedGrooving&, const ZoneLook& look);
void check_form(const ResolvedShape&, const ZoneLook& look);
void check_form(const ResolvedLobe& lobe, const ZoneLook& look);
void check_form(const ResolvedTrack& track, const ZoneLook& look);
void check_form(const ResolvedElbow&, const ZoneLook& look);
void check_form(const ResolvedSpring& spring, const ZoneLook& look);

// What several of them have.
void check_ends(const ZoneLook& look);  // they have room, and keep clear of a web
void check_edges(const ZoneLook& look); // the shoulder or rim of an edge or fillet is there, and large enough
void check_cross_holes(const ZoneLook& look); // they lie in the zone, clear of each other and of the bores
void check_module(const Looking& look, Length module); // cutters of it are made

} // namespace whorl
