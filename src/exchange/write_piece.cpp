#include "exchange/write_piece.hpp"

#include "exchange/form_file.hpp"
#include "model/edit.hpp"
#include "quantity/expression.hpp"

#include <algorithm>

namespace whorl {

namespace {

// What is asked of a form's table, by the file's ending.
bool has(const ResolvedZone& z, const std::string& ending) {
    const FormFile& f = file_of(z);
    return (ending == ".dxf"   ? f.dxf != nullptr
            : ending == ".csv" ? f.csv != nullptr
                               : f.svg != nullptr) &&
           f.drawn(z);
}

// The zone whose drawing or points are asked for.
const ResolvedZone& drawn_zone(const ResolvedPiece& piece, const std::string& ending,
                               const WriteOptions& options) {
    if (options.zone) {
        const ResolvedZone& z = piece.zones.at(*options.zone);
        if (has(z, ending)) return z;
        throw FileError(
            ending == ".dxf" ? "Select a toothed zone or a cam; its outline is what the DXF holds."
            : ending == ".csv"
                ? "Select a cam or a spring; its points, or its load curve, are what the CSV holds."
                : "Select a threaded or toothed zone that can be made, a spring or a cam; its "
                  "drawing is what the SVG holds.");
    }
    const auto found = std::find_if(piece.zones.begin(), piece.zones.end(),
                                    [&](const ResolvedZone& z) { return has(z, ending); });
    if (found != piece.zones.end()) return *found;
    throw FileError(ending == ".dxf" ? "Only a gear, a rack or a cam has an outline to write as DXF."
                    : ending == ".csv"
                        ? "Only a cam has points, and a spring a load curve, to write as CSV."
                        : "Only a thread, a gear, a rack, a spring or a cam has a drawing to write as SVG.");
}

} // namespace

void require_known_ending(const std::filesystem::path& path) {
    const std::string ending = path.extension();
    for (const char* known : {".step", ".stp", ".stl", ".svg", ".dxf", ".csv"})
        if (ending == known) return;
    throw FileError("The file name must end in .step, .stl, .svg, .dxf or .csv, not '" + ending + "'.");
}

std::string write_piece(const Preview& p, const Piece& piece, LengthUnit unit,
                        const std::filesystem::path& path, const WriteOptions& options) {
    require_known_ending(path);
    const std::string ending = path.extension();
    if (ending == ".svg" || ending == ".dxf" || ending == ".csv") {
        if (stops(p.findings)) throw FileError("Nothing was exported: " + p.findings.front().sentence);
        const ResolvedZone& z = drawn_zone(p.piece, ending, options);
        const FormFile& f = file_of(z);
        if (ending == ".csv") {
            write_file_atomically(path, f.csv(z, options.step, options.cutter_radius));
            if (f.table) return f.note(z) + ", " + f.table;
            return f.note(z) + ", points every " + number_text(options.step, 4) + "°";
        }
        write_file_atomically(path,
                              ending == ".dxf" ? f.dxf(z, options.space) : f.svg(z, unit, options.space));
        return f.note(z) + (f.dxf ? ", outline within 0.0005 mm" : ", section");
    }
    if (!p.made()) throw FileError("Nothing was exported: " + p.findings.front().sentence);
    const std::string note = model_note(piece, p.piece);
    if (ending == ".stl") {
        write_stl(p.mesh, note, path);
    } else {
        const auto solid = make_verified_solid(p);
        if (!solid->valid)
            throw FileError("Nothing was exported: the kernel does not accept the solid as valid.");
        write_step(*solid, piece, note, unit, path);
    }
    return note + ", " + number_text(p.volume(), 3) + " mm3";
}

} // namespace whorl
