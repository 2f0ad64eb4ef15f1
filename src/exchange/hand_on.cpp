#include "exchange/hand_on.hpp"

#include "build/all_cores.hpp"
#include "exchange/form_file.hpp"
#include "exchange/write_piece.hpp"

#include <algorithm>
#include <map>
#include <mutex>

namespace whorl {
namespace {

// Of a zone's flat drawing or its points, in a format; none: it has none.
bool has_flat(const ResolvedZone& z, const std::string& format) {
    const FormFile& f = file_of(z);
    const bool there = format == "svg"   ? f.svg != nullptr
                       : format == "dxf" ? f.dxf != nullptr
                                         : f.csv != nullptr;
    return there && f.drawn(z);
}

bool is_flat(const std::string& format) {
    return format == "svg" || format == "dxf" || format == "csv";
}

const Format& format_called(const HandOn& asked, const std::string& name) {
    std::string known;
    for (const Format& f : formats()) {
        if (!(asked.together ? f.of_all : f.of_a_piece)) continue;
        if (f.name == name) return f;
        known += (known.empty() ? "" : ", ") + std::string(f.name);
    }
    throw InputError("There is no format '" + name + "' of " +
                     (asked.together ? "pieces together" : "single pieces") + "; choose among " + known +
                     ".");
}

const char* nothing_flat(const std::string& format) {
    return format == "dxf"   ? "only gears, racks, splines, cams and silhouettes have an outline for DXF"
           : format == "csv" ? "only a cam has points, and a spring a load curve, for CSV"
                             : "there is no drawing of it to write as SVG";
}

// What keeps a piece from being exported: it doesn't go together with what it is paired with.
std::optional<std::string> misfit(const Job& job, std::size_t piece) {
    for (const Finding& f : check_pairs(job, piece))
        if (f.severity == Severity::stop) return f.sentence;
    return {};
}

// One zone's: by its kind; several of a kind are numbered.
void plan_flat(std::vector<PlannedFile>& out, const ResolvedPiece& piece, std::size_t index,
               const std::string& format, const std::filesystem::path& base, const std::string& name) {
    std::map<std::string, std::vector<std::size_t>> zones;
    for (std::size_t z = 0; z < piece.zones.size(); ++z)
        if (has_flat(piece.zones[z], format))
            zones[format == "csv" ? "points" : file_of(piece.zones[z]).drawing].push_back(z);
    if (zones.empty()) {
        out.push_back({{}, format, index, {}, name + ": " + nothing_flat(format) + "."});
        return;
    }
    for (const auto& [what, all] : zones)
        for (std::size_t i = 0; i < all.size(); ++i)
            out.push_back({base.string() + "-" + what + "-" + std::to_string(i + 1) + "." + format, format,
                           index, all[i]});
}

} // namespace

const std::vector<Format>& formats() {
    static const std::vector<Format> all{{"step", "STEP, exact solids", true, true},
                                         {"stl", "STL, triangles", true, true},
                                         {"3mf", "3MF, triangles with names and colours", false, true},
                                         {"glb", "glTF, a scene with names and colours", false, true},
                                         {"svg", "SVG, sections and outlines", true, false},
                                         {"dxf", "DXF, outlines", true, false},
                                         {"csv", "CSV, points and load curves, or placements", true, true}};
    return all;
}

std::vector<PlannedFile> plan_of(const Job& job, const HandOn& asked) {
    std::vector<const Format*> wanted;
    for (const std::string& f : asked.formats)
        wanted.push_back(&format_called(asked, f));
    std::vector<PlannedFile> out;
    if (asked.pieces.empty()) return out;
    if (asked.together) {
        const auto why = what_keeps_apart(only(job, asked.pieces));
        const std::string stem = file_stem(asked.name.empty() ? job.name : asked.name);
        for (const Format* f : wanted)
            out.push_back(
                {asked.folder / (stem + "." + f->name), f->name, {}, {}, why.value_or(""), why.has_value()});
        return out;
    }
    const Names names = resolve_names(job);
    std::vector<std::string> piece_names;
    for (const Piece& p : job.pieces)
        piece_names.push_back(p.name);
    const std::vector<std::string> stems = file_stems(piece_names);
    for (const std::size_t i : asked.pieces) {
        const Piece& piece = job.pieces.at(i);
        const ResolvedPiece resolved = resolve_piece(piece, names);
        const std::filesystem::path base = asked.folder / stems[i];
        const auto findings = check_piece(resolved, i, job.unit);
        const auto why = stops(findings) ? std::optional(findings.front().sentence) : misfit(job, i);
        for (const Format* f : wanted)
            if (why)
                out.push_back({{}, f->name, i, {}, piece.name + ": not exported. " + *why, true});
            else if (is_flat(f->name))
                plan_flat(out, resolved, i, f->name, base, piece.name);
            else
                out.push_back({base.string() + "." + f->name, f->name, i});
    }
    return out;
}

HandedOn hand_on(const Job& job, const HandOn& asked,
                 const std::function<void(std::size_t, std::size_t, const std::string&)>& progress,
                 const std::stop_token& stop) {
    const std::vector<PlannedFile> plan = plan_of(job, asked);
    std::error_code error;
    std::filesystem::create_directories(asked.folder, error);
    if (error) throw FileError("'" + asked.folder.string() + "' can't be made: " + error.message() + ".");
    std::vector<const PlannedFile*> files;
    HandedOn out;
    for (const PlannedFile& f : plan)
        if (f.why_not.empty())
            files.push_back(&f);
        else if (auto& said = f.fault ? out.failed : out.left;
                 std::find(said.begin(), said.end(), f.why_not) == said.end())
            said.push_back(f.why_not);
    std::mutex mutex;
    std::size_t done = 0;
    const auto said = [&](const std::string& what, std::size_t more) {
        const std::lock_guard lock(mutex);
        done += more;
        if (progress) progress(done, files.size(), what);
    };
    std::vector<std::string> notes(files.size()), wrong(files.size());
    if (asked.together && !files.empty()) {
        said("the pieces", 0);
        const Assembly all = assembly_of(only(job, asked.pieces), asked.chord, stop);
        for (std::size_t i = 0; i < files.size() && !stop.stop_requested(); ++i) {
            said(files[i]->path.filename().string(), 0);
            try {
                notes[i] = write_assembly(all, files[i]->path, stop);
            } catch (const FileError& e) {
                wrong[i] = e.what();
            }
            said("", 1);
        }
    } else if (!asked.together) {
        const Names names = resolve_names(job);
        // a piece's files one after the other, of one preview
        std::vector<std::vector<std::size_t>> of_piece(job.pieces.size());
        for (std::size_t i = 0; i < files.size(); ++i)
            of_piece[*files[i]->piece].push_back(i);
        on_all_cores(
            of_piece.size(),
            [&](std::size_t p) {
                if (of_piece[p].empty()) return;
                const Piece& piece = job.pieces[p];
                said(piece.name, 0);
                std::optional<Preview> preview;
                for (const std::size_t i : of_piece[p]) {
                    if (stop.stop_requested()) return;
                    try {
                        if (!preview) preview = make_preview(piece, p, names, job.unit, asked.chord);
                        notes[i] =
                            write_piece(*preview, piece, job.unit, files[i]->path, {.zone = files[i]->zone});
                    } catch (const std::exception& e) {
                        wrong[i] = piece.name + ": " + e.what();
                    }
                    said(piece.name, 1);
                }
            },
            stop);
    }
    for (std::size_t i = 0; i < files.size(); ++i)
        if (!notes[i].empty()) {
            out.written.push_back(files[i]->path);
            out.notes.push_back(notes[i]);
        } else if (!wrong[i].empty()) {
            out.failed.push_back(wrong[i]);
        }
    out.stopped = stop.stop_requested();
    return out;
}

Job only(const Job& job, const std::vector<std::size_t>& pieces) {
    Job out = job;
    out.pieces.clear();
    out.pairs.clear();
    std::vector<std::optional<std::size_t>> now(job.pieces.size());
    for (const std::size_t p : pieces) {
        now.at(p) = out.pieces.size();
        out.pieces.push_back(job.pieces[p]);
    }
    for (Pair pair : job.pairs) {
        if (!now[pair.first.piece] || !now[pair.second.piece]) continue;
        pair.first.piece = *now[pair.first.piece];
        pair.second.piece = *now[pair.second.piece];
        out.pairs.push_back(pair);
    }
    return out;
}

std::vector<std::size_t> group_of(const Job& job, std::size_t piece) {
    std::vector<bool> in(job.pieces.size(), false);
    in.at(piece) = true;
    for (bool more = true; more;) {
        more = false;
        for (const Pair& p : job.pairs)
            if (in[p.first.piece] != in[p.second.piece]) in[p.first.piece] = in[p.second.piece] = more = true;
    }
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < in.size(); ++i)
        if (in[i]) out.push_back(i);
    return out;
}

} // namespace whorl
