// What the meshes of two gears and of a gear with a rack have in common. Internal to the pair floor.
#pragma once

#include "pair/gear_mesh.hpp"

namespace whorl {

// Below this the next pair of teeth takes over late: the textbooks' limit for quiet running.
constexpr double least_contact_ratio = 1.2;
constexpr double least_tip_clearance = 0.1; // × module
constexpr double most_looseness = 0.1;      // × module, of backlash beyond the thinning

std::string length_words(double mm);

// Length of the involute's string at a radius.
double string_at(const ResolvedGear& gear, double radius);
// Where the flank ends towards the tip: below its chamfer or rounding.
double flank_tip(const ResolvedGear& gear);

// What keeps teeth of these modules, angles and hands apart; those of a ring lean the same way as its
// pinion's.
void compare_teeth(std::vector<MeshMistake>& out, const GearSpec& first, const GearSpec& second,
                   bool same_hand);

// At a centre distance that was asked; `of` is the one whose shift closes the gap.
void judge_looseness(std::vector<MeshMistake>& out, const GearMesh& mesh, double thinning, double module,
                     const char* of);
void judge_clearance(std::vector<MeshMistake>& out, double clearance, double module);
void judge_contact_ratio(std::vector<MeshMistake>& out, double ratio);

// Lists what every running pair has: backlash, contact, clearance, sliding. `undercut`: the path of contact
// ends where undercut took the involute away.
void list_running(GearMesh& mesh, const GearSpec& teeth, const char* backlash_source, bool undercut,
                  const std::string& first, const std::string& second);

} // namespace whorl
