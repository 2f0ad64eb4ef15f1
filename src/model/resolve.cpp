#include "model/resolve.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double shortest = 0.01, longest = 10000; // mm

// Runs `work` and says where it was if it fails.
template<class Work>
auto at(const std::string& place, Work work) {
    try {
        return work();
    } catch (const JobError&) {
        throw;
    } catch (const InputError& e) {
        throw JobError(e, place);
    }
}

Length length_in_range(const Number& n, const Names& names, const char* what, double least = shortest) {
    const Length l = resolve_length(n, names);
    if (!(in_mm(l) >= least && in_mm(l) <= longest))
        throw InputError(std::string("The ") + what + " is " + number_text(in_mm(l), 4) +
                             " mm; it must be between " + number_text(least, 4) + " and " +
                             number_text(longest, 0) + " mm.",
                         0, n.text.size());
    return l;
}

// Just below the thread's root, down to a round twentieth of a millimetre, so that the thread starts cleanly.
Length default_chamfer(const ResolvedZone& z) {
    const double outer = 2 * in_mm(z.outer_radius());
    if (z.thread) {
        const double root = 2 * z.thread->section.root_radius;
        const double round = std::floor((root - 0.02) / 0.05) * 0.05;
        return mm(round > 0.1 ? round : std::max(root * 0.9, 0.02));
    }
    return mm(std::max(outer - 2, outer * 0.8));
}

ResolvedEnd resolve_end(const EndTreatment& e, const ResolvedZone& z, const Names& names) {
    ResolvedEnd r;
    r.kind = e.kind;
    if (e.kind == EndKind::chamfer) {
        r.follows = e.diameter.text.empty();
        r.diameter = r.follows ? default_chamfer(z) : length_in_range(e.diameter, names, "chamfer diameter");
        r.angle = evaluate_angle(e.angle.text, names);
        if (!(in_deg(r.angle) >= 5 && in_deg(r.angle) <= 85))
            throw InputError("A chamfer angle must be between 5° and 85° to the axis.", 0,
                             e.angle.text.size());
    } else if (e.kind == EndKind::run_out) {
        if (!z.thread) throw InputError("Only a threaded zone can have a run-out; choose flat or chamfer.");
        r.turns = evaluate_number(e.turns.text, names);
        if (!(r.turns >= 0.05 && r.turns <= 20))
            throw InputError("A run-out takes 0.05 to 20 turns.", 0, e.turns.text.size());
    }
    return r;
}

} // namespace

const std::vector<Finish>& finishes() {
    static const std::vector<Finish> all{{"brass", 0.71, 0.53, 0.24},           {"steel", 0.55, 0.58, 0.60},
                                         {"stainless steel", 0.70, 0.72, 0.73}, {"bronze", 0.58, 0.42, 0.25},
                                         {"aluminium", 0.78, 0.79, 0.80},       {"nylon", 0.90, 0.88, 0.82}};
    return all;
}

const Finish& finish_of(const Piece& piece) {
    for (const auto& f : finishes())
        if (piece.finish == f.name) return f;
    return finishes().front();
}

Length ResolvedZone::outer_radius() const {
    return thread ? mm(thread->section.crest_radius) : diameter / 2;
}

Length ResolvedPiece::largest_radius() const {
    Length r = mm(0);
    for (const auto& z : zones)
        r = std::max(r, z.outer_radius());
    return r;
}

Length resolve_length(const Number& n, const Names& names) {
    return evaluate_length(n.text, n.unit, names);
}

Names resolve_names(const Job& job) {
    Names names;
    for (std::size_t i = 0; i < job.values.size(); ++i) {
        const auto& v = job.values[i];
        at("values[" + std::to_string(i) + "]", [&] {
            require_usable_name(v.name);
            if (names.contains(v.name))
                throw InputError("The name '" + v.name + "' is used twice.", 0, v.name.size());
            names[v.name] = evaluate(v.number.text, names);
            return 0;
        });
    }
    return names;
}

ResolvedPiece resolve_piece(const Piece& piece, const Names& names) {
    ResolvedPiece out;
    out.name = piece.name;
    if (piece.zones.empty()) throw JobError(InputError("A piece needs at least one zone."), "zones");
    Length start = mm(0);
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        const Zone& z = piece.zones[i];
        const std::string place = "zones[" + std::to_string(i) + "].";
        ResolvedZone r;
        r.start = start;
        r.length = at(place + "length", [&] { return length_in_range(z.length, names, "length"); });
        r.diameter =
            at(place + "diameter", [&] { return length_in_range(z.diameter, names, "diameter", 0.1); });
        if (z.thread) {
            const ThreadForm& f = *z.thread;
            ThreadSpec s;
            s.family = f.family;
            s.diameter = r.diameter;
            s.pitch = at(place + "pitch", [&] { return length_in_range(f.pitch, names, "pitch"); });
            s.tolerance_class = f.tolerance_class;
            s.hand = f.hand;
            s.starts = f.starts;
            s.modelled_at = f.modelled_at;
            if (!f.depth.text.empty())
                s.depth = at(place + "depth",
                             [&] { return length_in_range(f.depth, names, "thread depth", 1e-4); });
            if (!f.root_flat.text.empty())
                s.root_flat = at(place + "root_flat",
                                 [&] { return length_in_range(f.root_flat, names, "root flat", 0); });
            r.thread = at(place + "thread", [&] {
                if (side_of_class(s.family, s.tolerance_class) == Side::internal)
                    throw InputError(
                        "Class " + s.tolerance_class +
                        " is for nuts; a zone of a piece is an external thread and takes a class such as " +
                        (s.family == ThreadFamily::unified ? "2A." : "6g."));
                return resolve_thread(s);
            });
        }
        r.near_end = at(place + "near_end", [&] { return resolve_end(z.near_end, r, names); });
        r.far_end = at(place + "far_end", [&] { return resolve_end(z.far_end, r, names); });
        start += r.length;
        out.zones.push_back(std::move(r));
    }
    return out;
}

void require_resolvable(const Job& job) {
    const Names names = resolve_names(job);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        try {
            (void)resolve_piece(job.pieces[i], names);
        } catch (const JobError& e) {
            throw JobError(InputError(std::string(e.what()).substr(e.place.size() + 2), e.position, e.extent),
                           "pieces[" + std::to_string(i) + "]." + e.place);
        }
    }
}

} // namespace whorl
