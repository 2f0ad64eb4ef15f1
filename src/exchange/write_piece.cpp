#include "exchange/write_piece.hpp"

#include "exchange/form_file.hpp"
#include "model/edit.hpp"
#include "quantity/expression.hpp"

#include <algorithm>

namespace whorl {

namespace {

// The zone whose drawing is asked for.
const ResolvedZone& drawn_zone(const ResolvedPiece& piece, bool as_dxf, const WriteOptions& options) {
    const auto has = [&](const ResolvedZone& z) {
        const FormFile& f = file_of(z);
        return (as_dxf ? f.dxf != nullptr : f.svg != nullptr) && f.drawn(z);
    };
    if (options.zone) {
        const ResolvedZone& z = piece.zones.at(*options.zone);
        if (has(z)) return z;
        throw FileError(
            as_dxf ? "Select a toothed zone; its outline is what the DXF holds."
                   : "Select a threaded or toothed zone that can be made, or a spring; its drawing is "
                     "what the SVG holds.");
    }
    const auto found = std::find_if(piece.zones.begin(), piece.zones.end(), has);
    if (found != piece.zones.end()) return *found;
    throw FileError(as_dxf ? "Only a gear or a rack has an outline to write as DXF."
                           : "Only a thread, a gear, a rack or a spring has a drawing to write as SVG.");
}

} // namespace

void require_known_ending(const std::filesystem::path& path) {
    const std::string ending = path.extension();
    for (const char* known : {".step", ".stp", ".stl", ".svg", ".dxf"})
        if (ending == known) return;
    throw FileError("The file name must end in .step, .stl, .svg or .dxf, not '" + ending + "'.");
}

std::string write_piece(const Preview& p, const Piece& piece, LengthUnit unit,
                        const std::filesystem::path& path, const WriteOptions& options) {
    require_known_ending(path);
    const std::string ending = path.extension();
    if (ending == ".svg" || ending == ".dxf") {
        const ResolvedZone& z = drawn_zone(p.piece, ending == ".dxf", options);
        if (stops(p.findings)) throw FileError("Nothing was exported: " + p.findings.front().sentence);
        const FormFile& f = file_of(z);
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
