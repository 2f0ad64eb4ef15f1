#include "check/check.hpp"
#include "check/bend_check.hpp"
#include "check/coil_check.hpp"
#include "check/cross_check.hpp"
#include "check/drum_check.hpp"
#include "check/edge_check.hpp"
#include "check/follower_check.hpp"
#include "check/groove_check.hpp"
#include "check/knurl_check.hpp"
#include "check/lobe_check.hpp"
#include "check/silhouette_check.hpp"
#include "model/forms/cam_rows.hpp"

#include "check/mesh_check.hpp"
#include "check/tooth_check.hpp"
#include "check/train.hpp"

#include "pair/fit.hpp"
#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"
#include "standard/iso_metric.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace whorl {
namespace {

// Part of the pitch that rounded and sharp crests keep; what leaves less is wider than its pitch.
constexpr double least_crest = 1e-3;
// Lead angle of a fastening or adjusting thread beyond which a mistake is likelier than an intention.
const Angle steep_lead = deg(12);

class ZoneChecks {
public:
    ZoneChecks(std::vector<Finding>& out, const ResolvedPiece& whole, std::size_t piece, std::size_t index,
               LengthUnit unit)
        : out_(out), whole_(whole), z_(whole.zones[index]), piece_(piece), index_(index), unit_(unit) {}

    void run() {
        if (z_.thread()) {
            section_wider_than_pitch();
            depth_beyond_axis();
            off_standard();
            chamfer_smaller_than_thread_depth();
            shorter_than_a_turn();
            steep_lead_angle();
        }
        if (z_.web) ends_reach_web();
        ends_do_not_fit();
    }

private:
    std::string show(double mm_value) const {
        return number_text(in_unit(mm(mm_value), unit_), unit_ == LengthUnit::inch ? 4 : 3) + " " +
               symbol(unit_);
    }
    std::string number(double mm_value) const { return length_text(mm(mm_value), unit_); }
    Edit edit(Field f, std::string text, LengthUnit unit) const {
        return {piece_, index_, f, std::move(text), unit};
    }
    Edit edit_mm(Field f, double v) const { return edit(f, number(v), unit_); }

    void found(Severity severity, std::string id, std::string sentence, double value, double limit,
               std::optional<Remedy> remedy) {
        out_.push_back(
            {severity, std::move(id), std::move(sentence), piece_, index_, value, limit, std::move(remedy)});
    }

    const ThreadSection& section() const { return z_.thread()->section; }

    void section_wider_than_pitch() {
        const auto& s = section();
        const double widest = s.pitch * (1 - least_crest);
        if (s.groove_width() <= s.pitch * (1 - 0.99 * least_crest) ||
            std::min(s.root_radius, s.crest_radius) <= 0)
            return;
        const double flanks =
            std::abs(s.depth()) * (std::tan(s.flank_half_angle) + std::tan(s.other_half_angle));
        std::optional<Remedy> remedy;
        // a little less, so that it holds as it is written
        const double root = std::floor((widest - flanks - 1e-3 * s.pitch) * 1000) / 1000;
        if (z_.thread()->spec.root_flat && root > 0)
            remedy = Remedy{"Root flat " + number(root), {edit_mm(field::root_flat, root)}};
        else if (z_.thread()->spec.depth)
            remedy = Remedy{"Depth back to the form", {edit(field::depth, "", unit_)}};
        found(Severity::stop, "section_wider_than_pitch",
              "The groove is " + show(s.groove_width()) + " wide at the crest but the pitch is only " +
                  show(s.pitch) +
                  ": neighbouring turns would cut into each other; the widest that works is " + show(widest) +
                  ".",
              s.groove_width(), widest, remedy);
    }

    void depth_beyond_axis() {
        const auto& s = section();
        if (std::min(s.root_radius, s.crest_radius) > 0 && s.depth() > 0) return;
        std::optional<Remedy> remedy;
        if (z_.thread()->spec.depth) {
            remedy = Remedy{"Depth back to the form", {edit(field::depth, "", unit_)}};
        } else if (z_.thread()->status.nearest) {
            const auto& n = *z_.thread()->status.nearest;
            remedy = Remedy{"Pitch " + number(in_mm(n.pitch)), {edit_mm(field::pitch, in_mm(n.pitch))}};
        }
        found(Severity::stop, "depth_beyond_axis",
              "A thread " + show(s.depth()) + " deep leaves no core in a bar of Ø " +
                  show(2 * s.crest_radius) + "; the pitch or the depth must be smaller.",
              s.depth(), s.crest_radius, remedy);
    }

    void off_standard() {
        const auto& t = *z_.thread();
        if (t.status.listed || !t.status.nearest) return;
        const auto& n = *t.status.nearest;
        const bool same_diameter = std::abs(in_mm(n.diameter - t.spec.diameter)) < 5e-4;
        const LengthUnit own = is_inch(t.spec.family) ? LengthUnit::inch : LengthUnit::millimetre;
        const double per_inch = threads_per_inch(n.pitch);
        const bool in_inches =
            std::abs(per_inch - std::round(per_inch * 2) / 2) < 1e-9 && is_per_inch(t.spec.family);
        const std::string pitch_text =
            in_inches ? "1/" + number_text(threads_per_inch(n.pitch), 4) : number_text(in_mm(n.pitch), 4);
        ThreadSpec nearest = t.spec;
        nearest.diameter = n.diameter;
        nearest.pitch = n.pitch;
        nearest.hand = Hand::right;
        nearest.starts = 1;
        std::string name = write_designation(nearest);
        name.resize(std::min(name.size(), name.rfind('-')));
        std::vector<Edit> edits{edit(field::pitch, pitch_text, in_inches ? LengthUnit::inch : own)};
        if (!same_diameter)
            edits.push_back(edit(field::diameter, number_text(in_unit(n.diameter, own), 6), own));
        const std::string what =
            "Ø " + show(in_mm(t.spec.diameter)) + " with pitch " + show(in_mm(t.spec.pitch));
        found(Severity::advice, "off_standard",
              what + " is not a listed " + word(t.spec.family) +
                  " thread; taps and nuts for it are made to order. The nearest is " + name + ".",
              in_mm(t.spec.pitch), in_mm(n.pitch), Remedy{"Make it " + name, edits});
    }

    void chamfer_smaller_than_thread_depth() {
        for (const auto& [end, field, name] : {std::tuple{&z_.near_end, field::near_end, "near"},
                                               std::tuple{&z_.far_end, field::far_end, "far"}}) {
            if (end->kind != EndKind::chamfer || end->is_dome() || section().root_radius <= 0) continue;
            const double at = in_mm(end->diameter);
            const Length end_plane = field == field::near_end ? z_.start : z_.end();
            const double gain =
                z_.taper() * in_mm(end_plane - z_.taper_from()); // what a taper makes of the radii
            const std::string angle = number_text(in_deg(end->angle), 3);
            if (z_.in_bore()) {
                const double major = 2 * (std::max(section().crest_radius, section().root_radius) + gain);
                if (at >= major || at < 2 * (std::min(section().crest_radius, section().root_radius) + gain))
                    continue;
                found(Severity::advice, "countersink_smaller_than_thread",
                      std::string("The ") + name + " countersink ends at Ø " + show(at) +
                          ", inside the thread's major diameter (Ø " + show(major) +
                          "): the first turn keeps a sharp edge.",
                      at, major,
                      Remedy{"Countersink past the thread", {edit(field, "chamfer " + angle, unit_)}});
                continue;
            }
            const double root = 2 * (section().root_radius + gain);
            if (at <= root) continue;
            found(Severity::advice, "chamfer_smaller_than_thread_depth",
                  std::string("The ") + name + " chamfer ends at Ø " + show(at) +
                      ", outside the thread's root (Ø " + show(root) +
                      "): a nut may catch on the sharp edge.",
                  at, root, Remedy{"Chamfer below the root", {edit(field, "chamfer " + angle, unit_)}});
        }
    }

    void shorter_than_a_turn() {
        const auto& s = section();
        const double length = in_mm(z_.length);
        if (length >= s.lead() || length < in_mm(solid::shortest_for_ends(z_))) return;
        const double want = std::ceil(3 * s.lead() * 10) / 10;
        std::optional<Remedy> longer = Remedy{"Length " + number(want), {edit_mm(field::length, want)}};
        if (z_.in_bore()) { // as long as the other bores leave it room
            double room = in_mm(whole_.length()) + length;
            for (const ResolvedZone& other : whole_.zones)
                if (other.in_bore()) room -= in_mm(other.length);
            if (want > room - 0.1) longer.reset();
        }
        found(Severity::advice, "zone_shorter_than_a_turn",
              "The zone is " + show(length) + " long, less than one turn of its thread (lead " +
                  show(s.lead()) + "): nothing can be screwed on it.",
              length, s.lead(), std::move(longer));
    }

    void steep_lead_angle() {
        const auto& t = *z_.thread();
        const bool fastens = use_of(t.spec.family) == ThreadUse::fastening;
        if (t.lead_angle <= steep_lead || !fastens) return;
        std::optional<Remedy> remedy;
        if (t.spec.starts > 1)
            remedy = Remedy{"One start", {edit(field::starts, "1", unit_)}};
        else if (t.status.nearest && t.status.nearest->pitch < t.spec.pitch)
            remedy = Remedy{"Pitch " + number(in_mm(t.status.nearest->pitch)),
                            {edit_mm(field::pitch, in_mm(t.status.nearest->pitch))}};
        found(Severity::advice, "steep_lead_angle",
              "The lead angle is " + number_text(in_deg(t.lead_angle), 1) + "°, unusually steep for a " +
                  word(t.spec.family) + " thread: it will not hold by friction alone.",
              in_deg(t.lead_angle), in_deg(steep_lead), remedy);
    }

    void ends_do_not_fit() {
        if (z_.thread() && !section().sweepable()) return; // said already
        const double need = in_mm(solid::shortest_for_ends(z_)), length = in_mm(z_.length);
        if (length >= need) return;
        const double want = std::ceil(need * 10 + 1e-9) / 10;
        found(Severity::stop, "ends_do_not_fit",
              "The ends of this zone need " + show(std::ceil(need * 1000) / 1000) + " but it is only " +
                  show(length) + " long; make it longer or its chamfers and run-outs shorter.",
              length, need, Remedy{"Length " + number(want), {edit_mm(field::length, want)}});
    }

    // A chamfer that comes in to the web's ring, or a countersink that goes out to its hub.
    void ends_reach_web() {
        constexpr double least_land = 2e-3; // mm on the diameter
        const auto meets = [&](std::size_t zone, Field field, const std::string& what, double at,
                               const std::string& limit_name, double limit) {
            Edit flat = edit(field, "flat", unit_);
            flat.zone = zone;
            found(Severity::stop, "end_meets_web",
                  what + " of Ø " + show(at) + " meets the web, whose " + limit_name + " Ø " + show(limit) +
                      "; make that end flat, or the web's ring narrower.",
                  at, limit, Remedy{"Flat end", {flat}});
        };
        for (const auto& [end, field, sunk] : {std::tuple{&z_.near_end, field::near_end, z_.web->near},
                                               std::tuple{&z_.far_end, field::far_end, z_.web->far}}) {
            const double at = in_mm(end->is_dome() ? end->tip_diameter : end->diameter),
                         rim = 2 * z_.web->rim;
            if (sunk && (end->kind == EndKind::chamfer || end->is_dome()) && at < rim + least_land)
                meets(index_, field, end->is_dome() ? "The rounded end" : "The chamfer", at, "rim begins at",
                      rim);
        }
        for (std::size_t i = 0; i < whole_.zones.size(); ++i) {
            const ResolvedZone& bore = whole_.zones[i];
            if (!bore.in_bore()) continue;
            for (const auto& [end, field, sunk, open] :
                 {std::tuple{&bore.near_end, field::near_end, z_.web->near, bore.start - z_.start},
                  std::tuple{&bore.far_end, field::far_end, z_.web->far, bore.end() - z_.end()}}) {
                const double at = in_mm(end->diameter), hub = 2 * z_.web->hub;
                if (sunk && end->kind == EndKind::chamfer && std::abs(in_mm(open)) < 1e-9 &&
                    at > hub - least_land)
                    meets(i, field, "The countersink", at, "hub has", hub);
            }
        }
    }

    std::vector<Finding>& out_;
    const ResolvedPiece& whole_;
    const ResolvedZone& z_;
    std::size_t piece_, index_;
    LengthUnit unit_;
};

// One zone of a piece; what is looked for in it depends on what it wears. A form that lacks an overload does
// not compile.
struct Looked {
    std::vector<Finding>& out;
    const ResolvedPiece& whole;
    std::size_t piece, zone;
    LengthUnit unit;
};
void check_form(const ResolvedPlain&, const Looked& at) {
    ZoneChecks(at.out, at.whole, at.piece, at.zone, at.unit).run();
    check_edges(at.out, at.whole, at.piece, at.zone, at.unit);
    check_cross_holes(at.out, at.whole, at.piece, at.zone, at.unit);
}
void check_form(const ResolvedScrew&, const Looked& at) {
    ZoneChecks(at.out, at.whole, at.piece, at.zone, at.unit).run();
}
void check_form(const ResolvedWheel&, const Looked& at) {
    ZoneChecks(at.out, at.whole, at.piece, at.zone, at.unit).run();
    check_teeth(at.out, at.whole, at.piece, at.zone, at.unit);
}
void check_form(const ResolvedBar&, const Looked& at) {
    check_rack(at.out, *at.whole.zones[at.zone].rack(), at.piece, at.zone, at.unit);
}
void check_form(const ResolvedKnurling&, const Looked& at) {
    ZoneChecks(at.out, at.whole, at.piece, at.zone, at.unit).run();
    check_knurl(at.out, at.whole.zones[at.zone], at.piece, at.zone, at.unit);
}
void check_form(const ResolvedGrooving&, const Looked& at) {
    ZoneChecks(at.out, at.whole, at.piece, at.zone, at.unit).run();
    check_groove(at.out, at.whole.zones[at.zone], at.piece, at.zone, at.unit);
}
void check_form(const ResolvedShape&, const Looked& at) {
    ZoneChecks(at.out, at.whole, at.piece, at.zone, at.unit).run();
    check_silhouette(at.out, at.whole.zones[at.zone], at.piece, at.zone, at.unit);
}
void check_form(const ResolvedLobe& lobe, const Looked& at) {
    ZoneChecks(at.out, at.whole, at.piece, at.zone, at.unit).run();
    check_lobe(at.out, lobe.cam, at.piece, at.zone, at.unit);
}
void check_form(const ResolvedTrack& track, const Looked& at) {
    ZoneChecks(at.out, at.whole, at.piece, at.zone, at.unit).run();
    check_drum(at.out, track.drum, at.piece, at.zone, at.unit);
}
void check_form(const ResolvedElbow&, const Looked& at) {
    ZoneChecks(at.out, at.whole, at.piece, at.zone, at.unit).run();
    check_bend(at.out, at.whole, at.piece, at.zone, at.unit);
}
void check_form(const ResolvedSpring&, const Looked& at) {
    check_coil(at.out, *at.whole.zones[at.zone].coil(), at.piece, at.zone, at.unit);
}

} // namespace

std::vector<Finding> check_piece(const ResolvedPiece& piece, std::size_t piece_index, LengthUnit unit) {
    std::vector<Finding> out;
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        std::visit(
            [&](const auto& form) {
                check_form(form, {out, piece, piece_index, i, unit});
            },
            piece.zones[i].form);
    std::stable_sort(out.begin(), out.end(),
                     [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
    return out;
}

std::vector<Finding> check_pairs(const Job& job, std::size_t piece) {
    std::vector<Finding> out;
    const Names names = job.pairs.empty() ? Names{} : resolve_names(job);
    for (const Pair& pair : job.pairs) {
        if (piece < job.pieces.size() && pair.first.piece != piece && pair.second.piece != piece) continue;
        const auto zone_at = [&](ZoneRef at) {
            return resolve_piece(job.pieces.at(at.piece), names).zones.at(at.zone);
        };
        const ResolvedZone first = zone_at(pair.first), second = zone_at(pair.second);
        const auto stop = [&](const char* id, std::string sentence, double value,
                              std::optional<Remedy> remedy) {
            out.push_back({Severity::stop, id, std::move(sentence), pair.second.piece, pair.second.zone,
                           value, 0, std::move(remedy)});
        };
        if (pair.first == pair.second) {
            stop("pair_with_itself",
                 "A pair names zone " + std::to_string(pair.first.zone + 1) + " of '" +
                     job.pieces[pair.first.piece].name +
                     "' twice; a pair is of two zones. Make the counterpart as a piece of its own.",
                 0, {});
            continue;
        }
        if (!pair.centre.text.empty())
            if (const double centre = in_mm(resolve_length(pair.centre, names)); !(centre > 0)) {
                Edit follow{pair.second.piece,      pair.second.zone,
                            field::centre_distance, "",
                            LengthUnit::millimetre, static_cast<std::size_t>(&pair - job.pairs.data())};
                stop("centre_not_positive",
                     "The centre distance of '" + job.pieces[pair.first.piece].name + "' and '" +
                         job.pieces[pair.second.piece].name + "' is " + number_text(centre, 3) +
                         " mm; it must be more than nothing, or left to follow from the teeth.",
                     centre, Remedy{"Let it follow", {follow}});
                continue;
            }
        if (first.motion() || second.motion()) {
            check_follower(out, job, pair, first, second);
            continue;
        }
        if (first.bend()) {
            check_strap(out, job, pair, first, second);
            continue;
        }
        if (first.groove()) {
            check_pin(out, job, pair, first, second);
            continue;
        }
        if (!first.thread() && !second.thread()) {
            const std::string& name =
                job.pieces[piece == pair.first.piece ? pair.second.piece : pair.first.piece].name;
            check_mesh(out, job, pair, names, name);
            continue;
        }
        const ResolvedThread *one = first.thread(), *other = second.thread();
        if (!one || !other) continue;
        const bool screw_first = one->side == Side::external;
        const Fit fit = fit_of(screw_first ? *one : *other, screw_first ? *other : *one);
        const ThreadSpec& like = one->spec;
        const LengthUnit own = is_inch(like.family) ? LengthUnit::inch : LengthUnit::millimetre;
        const auto edit = [&](Field f, std::string text, LengthUnit unit) {
            return Edit{pair.second.piece, pair.second.zone, f, std::move(text), unit};
        };
        const auto exact = [&](Length l) { return number_text(in_unit(l, own), 9); };
        const std::string other_name =
            job.pieces[piece == pair.first.piece ? pair.second.piece : pair.first.piece].name;
        if (fit.will_not_turn) {
            const std::string play = number_text(std::max(0.05, 0.025 * in_mm(like.pitch)), 2);
            out.push_back({Severity::advice, "pair_without_clearance",
                           "With " + other_name +
                               ": the threads touch and nothing is left between them; made like this they "
                               "will not turn.",
                           pair.second.piece, pair.second.zone, fit.least_clearance, 0,
                           Remedy{"Allowance " + play + " mm",
                                  {edit(field::allowance, play, LengthUnit::millimetre)}}});
        }
        for (const FitMistake& m : fit.mistakes) {
            std::optional<Remedy> remedy;
            std::string id;
            switch (m.what) {
            case Mismatch::pitch:
                id = "pair_pitch";
                remedy = Remedy{"Pitch " + length_text(like.pitch, job.unit),
                                {edit(field::pitch, exact(like.pitch), own)}};
                break;
            case Mismatch::diameter:
                id = "pair_diameter";
                remedy = Remedy{"Diameter " + length_text(like.diameter, job.unit),
                                {edit(field::diameter, exact(like.diameter), own)}};
                break;
            case Mismatch::hand:
                id = "pair_hand";
                remedy = Remedy{std::string("Make it ") + word(like.hand) + "-hand",
                                {edit(field::hand, word(like.hand), own)}};
                break;
            case Mismatch::starts:
                id = "pair_starts";
                remedy = Remedy{std::to_string(like.starts) + (like.starts > 1 ? " starts" : " start"),
                                {edit(field::starts, std::to_string(like.starts), own)}};
                break;
            case Mismatch::side:
                id = "pair_side";
                break;
            case Mismatch::form:
                id = "pair_form";
                break;
            case Mismatch::taper:
                id = "pair_taper";
                break;
            case Mismatch::interference:
            case Mismatch::limits: {
                id = m.what == Mismatch::limits ? "pair_class" : "pair_interferes";
                const ThreadSpec usual = counterpart(like);
                if (usual.tolerance_class != second.thread()->spec.tolerance_class)
                    remedy = Remedy{"Class " + usual.tolerance_class,
                                    {edit(field::tolerance_class, usual.tolerance_class, own)}};
                else if (second.thread()->spec.modelled_at != ModelledAt::middle)
                    remedy =
                        Remedy{"Modelled at the middle", {edit(field::modelled_at, "middle of limits", own)}};
                break;
            }
            }
            out.push_back({Severity::stop, id, "With " + other_name + ": " + m.sentence, pair.second.piece,
                           pair.second.zone, m.value, m.limit, std::move(remedy)});
        }
    }
    check_trains(out, job, piece);
    return out;
}

namespace {

std::vector<Finding> untried(const Job& job, std::size_t piece) {
    std::vector<Finding> out =
        check_piece(resolve_piece(job.pieces.at(piece), resolve_names(job)), piece, job.unit);
    for (Finding& f : check_pairs(job, piece))
        out.push_back(std::move(f));
    return out;
}

// How many findings of this one's kind there are at its place, and how many in all that stop.
struct Count {
    std::ptrdiff_t of_kind = 0, stopping = 0;
};
Count count_like(const std::vector<Finding>& all, const Finding& finding) {
    return {
        std::count_if(all.begin(), all.end(),
                      [&](const Finding& f) {
                          return f.id == finding.id && f.piece == finding.piece && f.zone == finding.zone;
                      }),
        std::count_if(all.begin(), all.end(), [](const Finding& f) { return f.severity == Severity::stop; })};
}

// Takes away the remedies that the job refuses, that leave as many findings of their kind or that bring more
// that stop.
std::vector<Finding> with_tried_remedies(const Job& job, std::vector<Finding> findings) {
    std::map<std::size_t, std::vector<Finding>> now; // of the pieces that have remedies
    const auto mends = [&](const Finding& finding) {
        try {
            const auto [it, is_new] = now.try_emplace(finding.piece);
            if (is_new) it->second = untried(job, finding.piece);
            const Count before = count_like(it->second, finding),
                        after = count_like(untried(apply(job, *finding.remedy), finding.piece), finding);
            return after.of_kind < before.of_kind && after.stopping <= before.stopping;
        } catch (const InputError&) {
            return false;
        }
    };
    for (Finding& f : findings)
        if (f.remedy && !mends(f)) f.remedy.reset();
    return findings;
}

// Remedies write a timing whole; what they leave alone keeps the words it was typed with.
std::vector<Finding> keeping_words(const Job& job, std::vector<Finding> findings) {
    for (Finding& f : findings)
        for (std::size_t i = 0; f.remedy && i < f.remedy->edits.size(); ++i) {
            Edit& e = f.remedy->edits[i];
            if (e.field != field::timing) continue;
            const Zone& zone = job.pieces.at(e.piece).zones.at(e.zone);
            const Number* typed = zone.as<LobeForm>()   ? &zone.as<LobeForm>()->timing
                                  : zone.as<DrumForm>() ? &zone.as<DrumForm>()->timing
                                                        : nullptr;
            if (!typed) continue;
            const Timing was = parse_timing(typed->text, typed->unit, resolve_names(job)),
                         now = parse_timing(e.text, e.unit);
            e.text = with_changes(typed->text, was, now, typed->unit);
            e.unit = typed->unit;
        }
    return findings;
}

} // namespace

std::vector<Finding> findings_of(const Job& job, std::size_t piece) {
    return with_tried_remedies(job, keeping_words(job, untried(job, piece)));
}

std::vector<Finding> check_job(const Job& job) {
    std::vector<Finding> out;
    const Names names = resolve_names(job);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        auto more = check_piece(resolve_piece(job.pieces[i], names), i, job.unit);
        out.insert(out.end(), more.begin(), more.end());
    }
    const auto pairs = check_pairs(job, job.pieces.size());
    out.insert(out.end(), pairs.begin(), pairs.end());
    return with_tried_remedies(job, keeping_words(job, std::move(out)));
}

Job apply(const Job& job, const Remedy& remedy) {
    Job changed = job;
    for (const auto& e : remedy.edits)
        changed = apply(changed, e);
    return changed;
}

bool stops(const std::vector<Finding>& findings) {
    return std::any_of(findings.begin(), findings.end(),
                       [](const auto& f) { return f.severity == Severity::stop; });
}

} // namespace whorl
