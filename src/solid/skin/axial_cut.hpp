// Faces that run around the axis, cut by planes through it.
//
// Receiving programs take a face of a cylinder, a cone or a sphere for less than one turn of its surface: one
// that winds further can't be cut, joined or meshed there, and their plain quadrature weighs it wrong. So no
// face of a closed surface in a finished skin runs further than half a turn, and no helicoid further than
// one: measured on studs, screws and nipples, half a turn throughout made files a sixth larger that were no
// better to cut or to weigh, two turns made them a tenth smaller and as slow to read. On a face r = a + b·z +
// c·θ the plane θ = const leaves a straight line, on a swept arc an arc, so that the cuts are exact; they
// stand in two planes for the whole skin, turned to where they are far from every corner and from the planes
// in which people like to cut.
#pragma once

#include "solid/skin/skin.hpp"

#include <optional>
#include <vector>

namespace whorl::solid {

// How many planes there are in a turn.
constexpr int cuts_per_turn = 2;

// How far a face runs around the axis, rad. 0 for flat ends and the sides of prisms.
double angle_around(const Skin& skin, const Face& face);

// A stretch around the axis that no plane may pass: of a cross hole's mouth.
struct KeepClear {
    double middle = 0, half = 0; // rad
};

// Cuts every face that runs further than that. Faces that were closed by a seam lose it. Of planes that are
// equally clear that is taken which is nearest to the direction `towards` (rad): of a bent bar that of its first
// bend, so that a plane which leaves the bend sideways crosses no joint of its faces on the way. False if every
// plane would pass something to keep clear of; nothing is cut then.
bool cut_around(Skin& skin, std::optional<double> towards = {}, const std::vector<KeepClear>& clear = {});

// Throws std::logic_error unless every face keeps to that.
void require_cut_around(const Skin& skin);

} // namespace whorl::solid
