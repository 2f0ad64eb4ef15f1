#include "exchange/assembly.hpp"

#include "exchange/export.hpp"
#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {
namespace {

Box box_about(const solid::Mesh& mesh) {
    Box out{{1e300, 1e300, 1e300}, {-1e300, -1e300, -1e300}};
    for (const auto& p : mesh.points) {
        const std::array<double, 3> at{p.x, p.y, p.z};
        for (std::size_t k = 0; k < 3; ++k) {
            out.low[k] = std::min(out.low[k], at[k]);
            out.high[k] = std::max(out.high[k], at[k]);
        }
    }
    return out;
}

std::string pair_words(const Job& job, const Pair& pair) {
    return "'" + job.pieces[pair.first.piece].name + "' and '" + job.pieces[pair.second.piece].name + "'";
}

std::string quoted_csv(const std::string& text) {
    std::string out = "\"";
    for (const char c : text)
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

} // namespace

Assembly assembly_of(const Job& job, double chord, const std::stop_token& stop) {
    if (job.pieces.empty()) throw NotTogether("Nothing was exported: the job has no piece.");
    for (const Finding& f : check_pairs(job, job.pieces.size())) // all pairs
        if (f.severity == Severity::stop)
            throw NotTogether("Nothing was exported: '" + job.pieces[f.piece].name +
                              "' does not go together with what it is paired with. " + f.sentence);
    const Names names = resolve_names(job);
    Assembly out{job.name, job.unit, {}};
    std::vector<ResolvedPiece> resolved;
    std::vector<Box> boxes;
    for (std::size_t i = 0; i < job.pieces.size() && !stop.stop_requested(); ++i) {
        const Piece& piece = job.pieces[i];
        auto p = std::make_shared<Preview>(make_preview(piece, i, names, job.unit, chord));
        if (!p->made())
            throw NotTogether("Nothing was exported: '" + piece.name + "' can't be made. " +
                              p->findings.front().sentence);
        resolved.push_back(p->piece);
        boxes.push_back(box_about(p->mesh));
        out.parts.push_back({piece, std::move(p), same_space(), {}});
    }
    if (out.parts.size() < job.pieces.size()) return {};
    const Arrangement all = arrangement_of(job, resolved, names, boxes);
    if (!all.open.empty()) {
        const OpenCircle& open = all.open.front();
        const std::string left = open.gap > 1e-6 || open.turn > 1e-7
                                     ? number_text(open.gap, 4) + " mm and " +
                                           number_text(in_deg(rad(open.turn)), 3) + "° are left"
                                     : "its teeth miss the spaces by " + number_text(open.teeth, 4) + " mm";
        throw NotTogether("Nothing was exported: the pair of " + pair_words(job, job.pairs[open.pair]) +
                          " closes a circle of pairs that does not meet as the others place it; " + left +
                          ". Take off this pair or another one of the circle.");
    }
    for (std::size_t i = 0; i < out.parts.size(); ++i) {
        const Placed& at = all.pieces[i];
        out.parts[i].at = at.at;
        if (!at.by) continue;
        const Pair& pair = job.pairs[*at.by];
        out.parts[i].held_by = job.pieces[pair.first.piece == i ? pair.second.piece : pair.first.piece].name;
    }
    return out;
}

void require_assembly_ending(const std::filesystem::path& path) {
    const std::string ending = path.extension();
    for (const char* known : {".step", ".stp", ".3mf", ".glb", ".stl", ".csv"})
        if (ending == known) return;
    throw FileError(
        "The file name of all pieces together must end in .step, .3mf, .glb, .stl or .csv, not '" + ending +
        "'.");
}

std::string stl_of(const Assembly& all) {
    solid::Mesh mesh;
    for (const Part& part : all.parts) {
        solid::require_watertight(part.preview->mesh);
        const auto first = static_cast<std::uint32_t>(mesh.points.size());
        for (const auto& p : part.preview->mesh.points) {
            const auto at = carried(part.at, {p.x, p.y, p.z});
            mesh.points.push_back({at[0], at[1], at[2]});
        }
        for (auto t : part.preview->mesh.triangles) {
            for (auto& corner : t)
                corner += first;
            mesh.triangles.push_back(t);
        }
    }
    return stl_of(mesh, all.name);
}

std::string placements_csv(const Assembly& all) {
    std::string out = "piece,x,y,z,axis_x,axis_y,axis_z,zero_x,zero_y,zero_z,held_by\n";
    for (const Part& part : all.parts) {
        out += quoted_csv(part.piece.name);
        for (const auto& v : {part.at.origin, part.at.z, part.at.x})
            for (const double x : v)
                out += "," + number_text(std::abs(x) < 5e-13 ? 0 : x, 12);
        out += "," + (part.held_by.empty() ? std::string() : quoted_csv(part.held_by)) + "\n";
    }
    return out;
}

std::string write_assembly(const Assembly& all, const std::filesystem::path& path,
                           const std::stop_token& stop) {
    require_assembly_ending(path);
    const std::string ending = path.extension(), pieces = std::to_string(all.parts.size()) +
                                                          (all.parts.size() == 1 ? " piece" : " pieces");
    std::string content;
    if (ending == ".step" || ending == ".stp") {
        std::vector<std::shared_ptr<const VerifiedSolid>> solids;
        for (const Part& part : all.parts) {
            solids.push_back(make_verified_solid(*part.preview, stop));
            if (!solids.back()) return {};
            if (!solids.back()->valid)
                throw FileError("Nothing was exported: the kernel does not accept the solid of '" +
                                part.piece.name + "' as valid.");
        }
        content = step_of(all, solids, path);
    } else {
        content = ending == ".3mf"   ? three_mf_of(all)
                  : ending == ".glb" ? glb_of(all)
                  : ending == ".stl" ? stl_of(all)
                                     : placements_csv(all);
    }
    if (stop.stop_requested()) return {};
    write_file_atomically(path, content);
    return pieces + " as they stand, " + std::to_string((content.size() + 512) / 1024) + " kB";
}

} // namespace whorl
