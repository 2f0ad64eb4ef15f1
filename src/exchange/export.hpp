// Files out: STEP, STL, SVG. All are written atomically and throw FileError with path and reason.
#pragma once

#include "build/build.hpp"
#include "model/job_file.hpp"

#include <filesystem>
#include <string>

namespace whorl {

// STEP AP214 with the piece's name and colour, in the given unit. Every thread zone is real geometry; the
// product's description says at which size it is modelled. `note` goes into the header (see model_note).
void write_step(const VerifiedSolid& solid, const Piece& piece, const std::string& note, LengthUnit unit,
                const std::filesystem::path& path);

// Binary STL in mm; the header names the piece. `mesh` must be watertight.
std::string stl_of(const solid::Mesh& mesh, const std::string& name);
void write_stl(const solid::Mesh& mesh, const std::string& name, const std::filesystem::path& path);

// The generating section over three pitches in its axial plane, to scale, dimensioned; one SVG unit is one mm
// on paper.
std::string section_svg(const ResolvedThread& thread, LengthUnit unit);

// What a solid is modelled at, for file descriptions: "M10x1.5-6g x 40 real thread at middle of limits".
std::string model_note(const Piece& piece, const ResolvedPiece& resolved);

// A file name from a piece's name: letters of any script, digits, dash and underscore, at most 200 bytes.
std::string file_stem(const std::string& name);
// The same for many, no two alike: a second one of a name is numbered past all names that are asked for.
std::vector<std::string> file_stems(const std::vector<std::string>& names);

// What another program would read back, for the tests.
struct StepContent {
    int solids = 0;
    bool valid = false;
    double volume = 0; // mm³
    std::string name;
};
StepContent read_step(const std::filesystem::path& path);

} // namespace whorl
