// Pieces together as one file: each part once, in its colour and under its name, placed where it stands.
//
//   .step  ISO 10303-242: a product with an instance a piece, exact solids, in the job's unit
//   .3mf   the 3MF core specification: an object and a build item a piece, mm, base materials as colours, one a piece (lib3mf)
//   .glb   glTF 2.0, binary: a node a piece under one of the job, metres, y up as that format has it (tinygltf)
//   .stl   one mesh of all, mm; every piece's own part of it watertight
//   .csv   a row a piece: origin (mm), own axis and own zero direction as unit vectors, what holds it
#pragma once

#include "build/build.hpp"
#include "together/arrangement.hpp"

#include "model/file.hpp"

#include <filesystem>
#include <string>
#include <vector>

namespace whorl {

struct Part {
    Piece piece;
    std::shared_ptr<const Preview> preview; // made
    Standing at;
    std::string held_by = {}; // name of the piece it stands by; empty: it is the first of its group
};

struct Assembly {
    std::string name;
    LengthUnit unit = LengthUnit::millimetre;
    std::vector<Part> parts;
};

// What keeps a job's pieces from being put together: one that can't be made, a pair that does not go together, a circle of
// pairs that does not close. The sentence names them.
class NotTogether : public FileError {
public:
    using FileError::FileError;
};

// That, seen before anything is made; none: nothing. A piece that only its solid can't be made of is not.
std::optional<std::string> what_keeps_apart(const Job& job);

// All pieces of a job as its pairs place them; stopped, none. `chord`: see make_preview. Throws NotTogether.
Assembly assembly_of(const Job& job, double chord, const std::stop_token& stop = {});

// Throws FileError for an ending that is none of .step, .stp, .3mf, .glb, .stl and .csv.
void require_assembly_ending(const std::filesystem::path& path);

// Writes and says what. Throws FileError; what stood at the path is then as it was. Stopped, it writes nothing and returns "".
std::string write_assembly(const Assembly& all, const std::filesystem::path& path,
                           const std::stop_token& stop = {});

// The content of each kind. The solids are those of the parts, in their order.
std::string step_of(const Assembly& all, const std::vector<std::shared_ptr<const VerifiedSolid>>& solids,
                    const std::filesystem::path& path);
std::string three_mf_of(const Assembly& all);
std::string glb_of(const Assembly& all);
std::string stl_of(const Assembly& all);
std::string placements_csv(const Assembly& all);

// What another program would read back, for the tests.
struct ReadInstance {
    std::string name;
    Standing at;
    double volume = 0; // mm³, to a part in 10⁵
    bool coloured = false;
};
std::vector<ReadInstance> read_step_instances(const std::filesystem::path& path);

} // namespace whorl
