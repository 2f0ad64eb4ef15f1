#include "exchange/assembly.hpp"

#include "build/all_cores.hpp"
#include "exchange/export.hpp"
#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {
namespace {

std::string quoted_csv(const std::string& text) {
    std::string out = "\"";
    for (const char c : text)
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

} // namespace

std::optional<std::string> what_keeps_apart(const Job& job) {
    if (job.pieces.empty()) return "Nothing was exported: the job has no piece.";
    for (const Finding& f : check_pairs(job, job.pieces.size())) // all pairs
        if (f.severity == Severity::stop)
            return "Nothing was exported: '" + job.pieces[f.piece].name +
                   "' does not go together with what it is paired with. " + f.sentence;
    const Names names = resolve_names(job);
    std::vector<ResolvedPiece> resolved;
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        resolved.push_back(resolve_piece(job.pieces[i], names));
        const auto findings = check_piece(resolved.back(), i, job.unit);
        if (stops(findings))
            return "Nothing was exported: '" + job.pieces[i].name + "' can't be made. " +
                   findings.front().sentence;
    }
    if (const auto trouble = trouble_of(arrangement_of(job, resolved, names, {}), job))
        return "Nothing was exported. " + *trouble;
    return {};
}

Assembly assembly_of(const Job& job, double chord, const std::stop_token& stop) {
    if (const auto why = what_keeps_apart(job)) throw NotTogether(*why);
    const Names names = resolve_names(job);
    Assembly out{job.name, job.unit, {}};
    std::vector<std::shared_ptr<const Preview>> made(job.pieces.size());
    on_all_cores(
        made.size(),
        [&](std::size_t i) {
            auto p = std::make_shared<const Preview>(make_preview(job.pieces[i], i, names, job.unit, chord));
            if (!p->made())
                throw NotTogether("Nothing was exported: '" + job.pieces[i].name + "' can't be made. " +
                                  p->findings.front().sentence);
            made[i] = std::move(p);
        },
        stop);
    if (stop.stop_requested()) return {};
    std::vector<ResolvedPiece> resolved;
    std::vector<Box> boxes;
    for (std::size_t i = 0; i < made.size(); ++i) {
        resolved.push_back(made[i]->piece);
        boxes.push_back(box_about(made[i]->mesh));
        out.parts.push_back({job.pieces[i], std::move(made[i]), same_space(), {}});
    }
    const Arrangement all = arrangement_of(job, resolved, names, boxes);
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
        std::vector<std::shared_ptr<const VerifiedSolid>> solids(all.parts.size());
        on_all_cores(
            solids.size(),
            [&](std::size_t i) {
                solids[i] = make_verified_solid(*all.parts[i].preview, stop);
                if (solids[i] && !solids[i]->valid)
                    throw FileError("Nothing was exported: the kernel does not accept the solid of '" +
                                    all.parts[i].piece.name + "' as valid.");
            },
            stop);
        if (stop.stop_requested()) return {};
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
