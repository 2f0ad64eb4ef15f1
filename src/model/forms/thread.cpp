#include "model/forms/thread.hpp"

#include "model/ready_zone.hpp"

#include "model/edit.hpp"
#include "model/forms/common_rows.hpp"
#include "model/number_json.hpp"
#include "model/resolve_zone.hpp"
#include "model/section_json.hpp"
#include "model/starter.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

constexpr const char* at_words[]{"basic", "maximum_material", "middle", "minimum_material", "chosen"};

const ThreadForm& thread(const Zone& z) {
    return std::get<ThreadForm>(z.form);
}
ThreadForm& thread(Zone& z) {
    return std::get<ThreadForm>(z.form);
}
const ThreadSpec& spec(const ResolvedZone& z) {
    return z.thread()->spec;
}
Side side_of(const Zone& z) {
    return z.in_bore() ? Side::internal : Side::external;
}
Length lead_of(const Zone& z, const Names& names) {
    return resolve_length(thread(z).pitch, names) * thread(z).starts;
}
bool is_own(const Zone& z) {
    return thread(z).family == ThreadFamily::own;
}
bool can_round_root(const Zone& z) {
    return !z.in_bore() &&
           (thread(z).family == ThreadFamily::iso_metric || thread(z).family == ThreadFamily::unified);
}

bool seen_among_what_follows(const ResolvedZone&) {
    return true;
}

// The classes to choose from; none where there is no choice.
Words classes_to_choose(ThreadFamily family, Side side) {
    const Words classes = classes_of(family, side);
    return classes.size() > 1 ? classes : Words{};
}

void set_modelled_at(Zone& z, const Typed& t) {
    ThreadForm& f = thread(z);
    const std::string w = t.lowered();
    std::string percent = w;
    if (!percent.empty() && percent.back() == '%') percent.pop_back();
    while (!percent.empty() && percent.back() == ' ')
        percent.pop_back();
    if (!percent.empty() && (std::isdigit(static_cast<unsigned char>(percent[0])) || percent[0] == '.')) {
        f.modelled_at = ModelledAt::chosen;
        f.material = {percent, LengthUnit::millimetre};
        return;
    }
    for (const auto at :
         {ModelledAt::basic, ModelledAt::maximum_material, ModelledAt::middle, ModelledAt::minimum_material})
        if (!w.empty() && std::string(word(at)).starts_with(w)) {
            f.modelled_at = at;
            return;
        }
    t.refuse("The modelled size is basic, maximum material, middle of limits, minimum material, or a "
             "percentage between minimum (0) and maximum material (100), such as 40 %.");
}

Row class_row() {
    return {.field = field::tolerance_class,
            .label = "Class",
            .tip = "Tolerance class",
            .of = "a thread with tolerance classes",
            .kind = RowKind::choice,
            .get = [](const Zone& z, const Reading&) { return thread(z).tolerance_class; },
            .set = [](Zone& z, const Typed& t) { thread(z).tolerance_class = t.text; },
            .choices = [](const ResolvedZone& z) { return classes_to_choose(spec(z).family, spec(z).side); },
            .applies = [](const Zone& z) { return !classes_to_choose(thread(z).family, side_of(z)).empty(); },
            .kept = {.key = "tolerance_class",
                     .save =
                         [](const Zone& z, nlohmann::ordered_json& to) {
                             to["tolerance_class"] = thread(z).tolerance_class;
                         },
                     .load =
                         [](Zone& z, const nlohmann::json& from) {
                             thread(z).tolerance_class =
                                 from.value("tolerance_class", usual_class(thread(z).family, side_of(z)));
                         }}};
}

Row thread_hand_row() {
    Row row = hand_row<&ThreadForm::hand>("Hand; Ctrl+H flips it");
    row.frees_pair = true;
    row.kept.always = true;
    return row;
}

Row starts_row() {
    return {
        .field = field::starts,
        .label = "Starts",
        .tip = "Number of starts, 1 to 8",
        .of = "a thread",
        .kind = RowKind::count,
        .get = [](const Zone& z, const Reading&) { return std::to_string(thread(z).starts); },
        .set =
            [](Zone& z, const Typed& t) {
                const double n = evaluate_number(t.text, t.names);
                if (n != std::floor(n) || n < 1 || n > 8)
                    t.refuse("A thread has 1 to 8 starts, a whole number.");
                thread(z).starts = static_cast<int>(n);
            },
        .choices =
            [](const ResolvedZone&) {
                return Words{"1", "2", "3", "4"};
            },
        .frees_pair = true,
        .kept = {.key = "starts",
                 .save = [](const Zone& z, nlohmann::ordered_json& to) { to["starts"] = thread(z).starts; },
                 .load = [](Zone& z,
                            const nlohmann::json& from) { thread(z).starts = from.value("starts", 1); }}};
}

Row modelled_row() {
    return {.field = field::modelled_at,
            .label = "Modelled at",
            .tip = "The size within the limits at which the solid is made; a percentage is a point between "
                   "minimum (0) and maximum material (100)",
            .of = "a thread",
            .kind = RowKind::choice,
            .get =
                [](const Zone& z, const Reading&) {
                    return thread(z).modelled_at == ModelledAt::chosen ? thread(z).material.text + " %"
                                                                       : word(thread(z).modelled_at);
                },
            .set = set_modelled_at,
            .shown = [](const Zone&, const ResolvedZone& r,
                        const Reading&) { return Shown{modelled_text(spec(r))}; },
            .choices =
                [](const ResolvedZone&) {
                    return Words{"basic", "maximum material", "middle of limits", "minimum material", "75 %"};
                },
            .kept = {.key = "modelled_at",
                     .save =
                         [](const Zone& z, nlohmann::ordered_json& to) {
                             to["modelled_at"] = at_words[static_cast<int>(thread(z).modelled_at)];
                             if (thread(z).modelled_at == ModelledAt::chosen)
                                 to["material"] = number_to_json(thread(z).material);
                         },
                     .load =
                         [](Zone& z, const nlohmann::json& from) {
                             for (int i = 0; i < 5; ++i)
                                 if (from.value("modelled_at", "middle") == at_words[i])
                                     thread(z).modelled_at = static_cast<ModelledAt>(i);
                             if (from.contains("material"))
                                 thread(z).material = number_from_json(from["material"]);
                         }}};
}

Row taper_row() {
    return {.field = field::taper,
            .label = "Taper",
            .tip = "1:16 on the diameter, 3.6° for the cone's angle, or to 19 for the diameter at the small "
                   "end; a minus sign turns it round; none",
            .of = "a thread that has none by its standard",
            .kind = RowKind::text,
            .number = member<&ThreadForm::taper>,
            .get = [](const Zone& z, const Reading&) { return thread(z).taper.text; },
            .set = [](Zone& z,
                      const Typed& t) { thread(z).taper = t.lowered() == "none" ? Number{} : t.number(); },
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading& as) {
                    if (r.taper() == 0 || has_own_taper(spec(r))) return Shown{"none"};
                    const double lost = 2 * std::abs(r.taper()) * in_mm(r.length);
                    return Shown{taper_text(r.taper()) + ", to Ø " +
                                 shown_length(in_mm(r.diameter) - lost, as.unit)};
                },
            .choices =
                [](const ResolvedZone&) {
                    return Words{"1:16", "1:10", "none"};
                },
            .applies =
                [](const Zone& z) {
                    ThreadSpec s;
                    s.family = thread(z).family;
                    s.side = side_of(z);
                    s.tolerance_class = thread(z).tolerance_class;
                    return !has_own_taper(s);
                },
            .frees_pair = true,
            .kept = {.key = "taper"}};
}

constexpr ChoiceWord root_words[]{{"flat"}, {"rounded"}};

Row root_row() {
    return {.field = field::root_shape,
            .label = "Root",
            .tip = "Flat, or rounded as far as it goes",
            .of = "an external ISO metric or Unified thread",
            .kind = RowKind::choice,
            .choice = choice_of<&ThreadForm::rounded_root, root_words>,
            .applies = can_round_root,
            .key = "root_rounding",
            .kept = {.key = "root"}};
}

Row turns_row() {
    return {.field = field::turns,
            .label = "Turns",
            .tip = "Turns over the zone's length; typing it sets the length to turns × lead",
            .of = "a thread",
            .kind = RowKind::number,
            .get =
                [](const Zone& z, const Reading& as) {
                    if (z.length.text.empty()) return std::string();
                    return number_text(resolve_length(z.length, as.names) / lead_of(z, as.names), 4);
                },
            .set =
                [](Zone& z, const Typed& t) {
                    const double turns = evaluate_number(t.text, t.names);
                    if (!(turns > 0 && turns < 1e5)) t.refuse("The number of turns must be more than zero.");
                    z.length = {exact_number(lead_of(z, t.names) * turns, t.unit), t.unit};
                },
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading&) {
                    return Shown{number_text(in_mm(r.length) / r.thread()->section.lead(), 3)};
                }};
}

Row major_diameter_row() {
    Row row = diameter_row(member<&ThreadForm::diameter>, "Nominal diameter");
    row.shown = [](const Zone&, const ResolvedZone& r, const Reading& as) {
        return length_shown(in_mm(r.diameter), as.unit); // of a pipe's thread by its size
    };
    row.frees_pair = true;
    row.key = "major_diameter_basic";
    row.kept.where = InFile::in_zone;
    return row;
}

Row thread_lead_row() {
    Row row =
        lead_row([](const Zone& z, const Reading& as) { return length_text(lead_of(z, as.names), as.unit); },
                 [](Zone& z, const Typed& t) {
                     const Length lead = resolve_length(t.number(), t.names);
                     thread(z).pitch = {exact_number(lead / thread(z).starts, t.unit), t.unit};
                 },
                 [](const Zone&, const ResolvedZone& r, const Reading& as) {
                     return length_shown(r.thread()->section.lead(), as.unit);
                 });
    row.frees_pair = true;
    return row;
}

} // namespace

std::span<const Row> FormModel<ThreadForm>::rows() {
    static const Row rows[]{
        major_diameter_row(),
        {.field = field::pitch,
         .label = "Pitch",
         .tip = "Pitch, crest to crest; for inch threads write 1/20 in",
         .of = "a thread or a coil",
         .kind = RowKind::length,
         .number = member<&ThreadForm::pitch>,
         .shown = [](const Zone&, const ResolvedZone& r,
                     const Reading& as) { return length_shown(r.thread()->section.pitch, as.unit); },
         .frees_pair = true,
         .kept = {.key = "pitch", .always = true}},
        thread_lead_row(),
        length_row("Length",
                   "Length of the zone, run-out and chamfers included; of a bore, clear it to go through",
                   "a zone"),
        class_row(),
        taper_row(),
        {.field = field::flank_angle,
         .label = "Flank angle",
         .tip = "Angle between the flanks",
         .of = "a sharp V thread",
         .kind = RowKind::angle,
         .number = member<&ThreadForm::flank_angle>,
         .usual = "60°",
         .choices =
             [](const ResolvedZone&) {
                 return Words{"60", "55", "90"};
             },
         .applies = [](const Zone& z) { return thread(z).family == ThreadFamily::sharp_v; },
         .frees_pair = true,
         .kept = {.key = "flank_angle"}},
        root_row(),
        thread_hand_row(),
        starts_row(),
        modelled_row(),
        turns_row(),
        start_angle_row(member<&ThreadForm::start_angle>),
        geometry_row<&ThreadForm::simplified>(
            "The real thread, or a plain surface at its crest; exports say which"),
        {.field = field::allowance,
         .label = "For printing",
         .tip =
             "A layer taken off crest, flanks and root so that a printed thread turns freely; clear it for "
             "none",
         .of = "a thread",
         .kind = RowKind::length,
         .number = member<&ThreadForm::allowance>,
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading& as) {
                 const double off = in_mm(spec(r).allowance);
                 return off == 0 ? Shown{"none"}
                                 : Shown{shown_length(off, as.unit) + " off", symbol(as.unit)};
             },
         .choices =
             [](const ResolvedZone&) {
                 return Words{"0.1", "0.2", ""};
             },
         .key = "printing_allowance",
         .kept = {.key = "allowance"}},
        {.field = field::depth,
         .label = "Thread depth",
         .tip = "Crest to root; clear it to let it follow from the form",
         .of = "a thread of a standard form",
         .kind = RowKind::length,
         .number = member<&ThreadForm::depth>,
         .usual = "follows",
         .applies = [](const Zone& z) { return !is_own(z); },
         .hidden = seen_among_what_follows,
         .key = "thread_depth",
         .kept = {.key = "depth"}},
        {.field = field::root_flat,
         .label = "Root flat",
         .tip = "Width of the root; clear it to let it follow from the form",
         .of = "a thread of a standard form",
         .kind = RowKind::length,
         .number = member<&ThreadForm::root_flat>,
         .usual = "follows",
         .applies = [](const Zone& z) { return !is_own(z); },
         .hidden = seen_among_what_follows,
         .kept = {.key = "root_flat"}},
        zone_finish_row(),
        follows_row(),
        repeat_row(),
        near_end_row(),
        far_end_row()};
    return rows;
}

void FormModel<ThreadForm>::save(const Zone& z, nlohmann::ordered_json& to) {
    to["family"] = key_word(thread(z).family);
    if (is_own(z)) to["section"] = section_to_json(thread(z).own_section);
}

void FormModel<ThreadForm>::load(Zone& z, const nlohmann::json& from) {
    for (int k = 0; k < family_count; ++k)
        if (from.at("family") == key_word(static_cast<ThreadFamily>(k)))
            thread(z).family = static_cast<ThreadFamily>(k);
    if (from.contains("section")) thread(z).own_section = section_from_json(from["section"]);
}

std::string FormModel<ThreadForm>::what(const Zone& z) {
    if (is_own(z)) return "a thread with a section of its own";
    const std::string family = word(thread(z).family);
    const std::string side = z.in_bore() ? "internal " : "external ";
    return (z.in_bore() || side.front() == 'e' ? "an " : "a ") + side + family + " thread";
}

std::string FormModel<ThreadForm>::designation(const Zone& z, const Job&, const Names& names) {
    const ThreadForm& f = thread(z);
    std::optional<Length> length; // none: through
    if (!z.length.text.empty()) length = resolve_length(z.length, names);
    ThreadSpec s;
    s.family = f.family;
    s.diameter = resolve_length(f.diameter, names);
    s.pitch = resolve_length(f.pitch, names);
    s.tolerance_class = f.tolerance_class;
    s.hand = f.hand;
    s.starts = f.starts;
    s.side = side_of(z);
    s.own_section = f.own_section;
    if (!f.flank_angle.text.empty()) s.flank_angle = evaluate_angle(f.flank_angle.text, names);
    if (const double lost = resolve_taper(f.taper, s.diameter, length.value_or(s.diameter), names); lost != 0)
        s.taper = lost / 2;
    return write_designation(s, length);
}

namespace {

void require_class_of_side(const ThreadSpec& s) {
    const auto side = side_of_class(s.family, s.tolerance_class);
    if (!side || *side == s.side) return;
    const std::string usual = usual_class(s.family, s.side);
    throw InputError(
        s.side == Side::external
            ? "Class " + s.tolerance_class +
                  " is for nuts; a zone of a piece is an external thread and takes a class such as " + usual +
                  "."
            : (s.tolerance_class.empty() ? "This is an external thread"
                                         : "Class " + s.tolerance_class + " is for screws") +
                  "; a bore has an internal thread and takes " +
                  (usual.empty() ? "no class." : "a class such as " + usual + "."));
}

ThreadSpec thread_spec(const ZoneInPiece& where) {
    const ThreadForm& f = thread(where.zone);
    const std::string& place = where.place;
    const Names& names = where.names;
    ThreadSpec s;
    s.family = f.family;
    s.diameter = at(place + "diameter", [&] { return length_in_range(f.diameter, names, "diameter", 0.1); });
    s.pitch = at(place + "pitch", [&] { return length_in_range(f.pitch, names, "pitch"); });
    s.tolerance_class = f.tolerance_class;
    s.side = side_of(where.zone);
    s.hand = f.hand;
    s.starts = f.starts;
    s.modelled_at = f.modelled_at;
    s.rounded_root = f.rounded_root;
    s.own_section = f.own_section;
    if (f.modelled_at == ModelledAt::chosen)
        s.material = at(place + "material", [&] {
            const double percent = evaluate_number(f.material.text, names);
            if (!(percent >= 0 && percent <= 100))
                throw InputError(
                    "A chosen point in the band lies between 0 (minimum material) and 100 (maximum "
                    "material) percent.",
                    0, f.material.text.size());
            return percent / 100;
        });
    const auto angle = [&](const char* key, const Number& n) {
        return at(place + key, [&] { return evaluate_angle(n.text, names); });
    };
    if (!f.start_angle.text.empty()) s.start_angle = angle("start_angle", f.start_angle);
    if (!f.flank_angle.text.empty()) s.flank_angle = angle("flank_angle", f.flank_angle);
    if (!f.taper.text.empty()) {
        const double lost =
            at(place + "taper", [&] { return resolve_taper(f.taper, s.diameter, where.out.length, names); });
        if (lost != 0) s.taper = (where.small_end_far ? -lost : lost) / 2;
    }
    if (!f.depth.text.empty())
        s.depth = at(place + "depth", [&] { return length_in_range(f.depth, names, "thread depth", 1e-4); });
    if (!f.root_flat.text.empty())
        s.root_flat =
            at(place + "root_flat", [&] { return length_in_range(f.root_flat, names, "root flat", 0); });
    if (!f.allowance.text.empty())
        s.allowance = at(place + "allowance", [&] { return resolve_length(f.allowance, names); });
    at(place + "thread", [&] {
        require_class_of_side(s);
        return 0;
    });
    return s;
}

} // namespace

void FormModel<ThreadForm>::resolve(ZoneInPiece& where) {
    ResolvedZone& r = where.out;
    const ThreadSpec s = thread_spec(where);
    r.diameter = r.far_diameter = s.diameter;
    ResolvedScrew screw;
    screw.thread = at(where.place + "thread", [&] { return resolve_thread(s); });
    screw.simplified = thread(where.zone).simplified;
    if (s.taper) {
        screw.taper = *s.taper;
        screw.taper_from = screw.taper > 0 ? r.end() : r.start;
    } else if (const double k = screw.thread.section.taper; k > 0) {
        screw.taper = where.small_end_far ? -k : k;
        const Length gauge = screw.thread.gauge_distance;
        const bool at_end = r.in_bore() != where.small_end_far;
        screw.taper_from = at_end ? r.end() - gauge : r.start + gauge;
        if (where.small_end_far) screw.thread.section.groove = mirrored(screw.thread.section.groove);
    }
    r.form = std::move(screw);
    if (s.taper && !(in_mm(r.smallest_radius()) > 0.02 * in_mm(r.diameter)))
        throw JobError(
            InputError("With this taper the thread's root comes to the axis within the zone; make the "
                       "taper or the length smaller.",
                       0, thread(where.zone).taper.text.size()),
            where.place + "taper");
}

Radii FormModel<ThreadForm>::radii_at(const ResolvedZone& zone, double z) {
    return swept_radii_at(zone, z);
}

Radii FormModel<ThreadForm>::radii(const ResolvedZone& z) {
    const ThreadSection& s = z.thread()->section;
    // the thread's radii at its two ends, by which a taper widens or narrows it
    const double a = z.taper() * in_mm(z.start - z.taper_from()),
                 b = z.taper() * in_mm(z.end() - z.taper_from());
    return {std::min(s.crest_radius, s.root_radius) + std::min(a, b),
            std::max(s.crest_radius, s.root_radius) + std::max(a, b)};
}

void FormModel<ThreadForm>::keep(Zone& now, const Zone& was) {
    const auto* old = was.as<ThreadForm>();
    if (!old) return;
    now.near_end = was.near_end;
    now.far_end = was.far_end;
    ThreadForm& f = thread(now);
    f.modelled_at = old->modelled_at;
    f.material = old->material;
    f.start_angle = old->start_angle;
    f.simplified = old->simplified;
    f.allowance = old->allowance;
    // only a Unified designation says how the root is
    if (f.family == ThreadFamily::iso_metric) f.rounded_root = old->rounded_root;
}

Zone zone_asked(const ThreadSpec& t, const Designation& whole) {
    Zone z;
    ThreadForm f;
    f.diameter = {exact_number(t.diameter, whole.unit), whole.unit};
    f.family = t.family;
    // a Unified pitch stays the fraction the designation says
    const bool per_inch =
        is_per_inch(t.family) || (t.family == ThreadFamily::sharp_v && whole.unit == LengthUnit::inch);
    f.pitch = per_inch ? Number{"1/" + number_text(threads_per_inch(t.pitch), 6), LengthUnit::inch}
                       : Number{exact_number(t.pitch, whole.unit), whole.unit};
    f.tolerance_class = t.tolerance_class;
    f.hand = t.hand;
    f.starts = t.starts;
    f.modelled_at = t.modelled_at;
    f.own_section = t.own_section;
    f.rounded_root = t.rounded_root;
    if (t.taper) f.taper = {taper_text(*t.taper), {}};
    if (t.flank_angle) f.flank_angle = {number_text(in_deg(*t.flank_angle), 6), {}};
    if (t.side == Side::internal) z.where = Where::near_bore;
    z.form = std::move(f);
    z.near_end.kind = z.far_end.kind = EndKind::chamfer;
    z.length = {length_text(whole.length.value_or(t.diameter * 3), whole.unit), whole.unit};
    return z;
}

Piece piece_asked(const ThreadSpec& t, const Designation& d) {
    Piece p;
    p.name = write_designation(t, d.length);
    Zone z = zone_asked(t, d);
    if (z.where == Where::outer) {
        p.zones.push_back(std::move(z));
        return p;
    }
    Zone body;
    body.form = PlainForm{.diameter = millimetres(rounded(t.diameter * 1.5, 1))};
    body.length = d.length ? z.length : millimetres(rounded(t.diameter));
    z.length = {"", d.unit};
    z.near_end = z.far_end = chamfer(60);
    p.zones = {body, z};
    return p;
}

} // namespace whorl
