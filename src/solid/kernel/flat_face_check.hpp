// The validity check of a flat face with very many edges, in time that grows as they do.
//
// The kernel compares every edge of a face with every other one: a knurl's or a large gear's end takes it seconds. What it
// asks is asked here as well: each edge's curve lies in the plane as its flat curve says, within its tolerance (the
// kernel's own check, of a face with that edge alone); edges join end to end in the plane and share their vertices;
// every vertex is left once and reached once in its wire; wires meet neither themselves nor each other; one goes round
// all the others, the right way, and they the other way. Crossings are looked for between chords of the edges, 12 or more
// of each, none of which turns by more than a degree: what crosses less deep than their sagitta, a four-hundredth of a
// chord, is not seen. tests/validity_test.cpp holds it against the kernel's, on broken faces, too.
#pragma once

#include <TopoDS_Face.hxx>

namespace whorl::solid {

constexpr int many_edges = 300; // of a face, from which on this is faster

bool is_plane(const TopoDS_Face& face);
bool flat_face_is_valid(const TopoDS_Face& face);

} // namespace whorl::solid
