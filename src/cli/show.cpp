// whorl show: what a designation or a starter means.
#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "build/piece_values.hpp"
#include "form/coil/spring_block.hpp"
#include "form/tooth/measure.hpp"
#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "pair/gauge.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <ostream>
#include <tuple>

namespace whorl {
namespace {

struct Options {
    std::string text;
    std::vector<std::string> fields;
    double at = 0; // mm; 0: not asked
    bool block = false, as_json = false;
};

// What one designation means, whichever form it is of.
struct Meaning { // NOLINT(bugprone-exception-escape): moving JSON does not throw
    json head;   // its first keys; `designation` leads
    std::string kind;
    std::vector<ResolvedValue> values;
    bool limits = false;                          // values have a least and a largest
    std::optional<json> gauges = {};              // of a thread that has its limits gauged
    std::vector<std::string> said_of_gauges = {}; // … in words
};

Meaning meaning(const ThreadSpec& spec, const Designation& d) {
    const ResolvedThread r = resolve_thread(spec);
    const std::string side = r.side == Side::external ? "external" : "internal";
    Meaning m{{{"designation", write_designation(spec, d.length)},
               {"family", word(spec.family)},
               {"side", side},
               {"listed", r.status.listed}},
              side + ", " + word(spec.family) + ", " +
                  (r.status.listed    ? r.status.series + " series"
                   : r.status.nearest ? "off-standard"
                                      : "computed from the form's rules"),
              r.values,
              true};
    if (r.status.nearest)
        m.head["nearest"] = {{"size", r.status.nearest->size},
                             {"pitch", tidy(in_mm(r.status.nearest->pitch))}};
    if (d.length) m.head["length"] = tidy(in_mm(*d.length));
    if (const GaugeTrial trial = try_gauges(r); trial.possible) {
        m.gauges = json{{"go_passes", trial.go_passes},
                        {"go_clearance", tidy(trial.go_clearance)},
                        {"no_go_stops", trial.no_go_stops},
                        {"no_go_overlap", tidy(trial.no_go_overlap)}};
        m.said_of_gauges = {trial.go, trial.no_go};
    }
    return m;
}

Meaning meaning(const GearSpec& spec, const Designation& d) {
    const ResolvedGear g = resolve_gear(spec);
    const std::string side = spec.internal ? "internal" : "external";
    Meaning m{{{"designation", write_gear(spec, d.length)}, {"family", "gear"}, {"side", side}},
              side + (in_rad(spec.helix_angle) != 0 ? " helical" : " spur") + " gear",
              g.values};
    if (d.length) m.head["face_width"] = tidy(in_mm(*d.length));
    m.head["undercut"] = g.undercut;
    return m;
}

Meaning meaning(const RackSpec& spec, const Designation&) {
    return {{{"designation", write_rack(spec)}, {"family", "rack"}},
            in_rad(spec.helix_angle) != 0 ? "helical rack" : "straight rack",
            resolve_rack(spec).values};
}

Meaning meaning(const SplineSpec& spec, const Designation& d) {
    const ResolvedSpline s = resolve_spline(spec, d.length.value_or(mm(10)));
    Meaning m{{{"designation", write_spline(spec, d.length)},
               {"family", "involute spline"},
               {"side", spec.hub ? "internal" : "external"},
               {"standard", spec.reference_diameter ? "DIN 5480" : "ISO 4156"},
               {"root", word(s.root)}},
              std::string(spec.hub ? "hub" : "shaft") + " with an involute spline, " +
                  (spec.reference_diameter ? "DIN 5480" : "ISO 4156"),
              s.values};
    if (d.length) m.head["length"] = tidy(in_mm(*d.length));
    return m;
}

Meaning meaning(const CoilSpec& spec, const Designation& d) {
    const std::string ends =
        spec.kind == SpringKind::compression && !(spec.near.is_turns() && spec.far.is_turns())
            ? std::string(spec.ends == CoilEnds::closed ? "closed" : "open") + (spec.ground ? " ground" : "")
            : write_wire_end(spec.near, d.unit) + ", " + write_wire_end(spec.far, d.unit);
    const std::string kind = std::string(word(spec.kind)) + " spring";
    return {{{"designation", write_spring(spec, d.unit)},
             {"family", kind},
             {"hand", word(spec.hand)},
             {"ends", ends}},
            std::string(word(spec.hand)) + "-hand " + kind,
            d.unit == LengthUnit::inch ? with_pounds(resolve_coil(spec).values) : resolve_coil(spec).values};
}

Meaning meaning(const KnurlSpec& spec, const Designation& d) {
    const ResolvedKnurl k = resolve_knurl(spec);
    return {{{"designation", write_knurl(spec, d.length, d.unit)}, {"family", "knurl"}},
            std::string(word(spec.kind)) + (spec.sunk ? " knurl, points sunk in" : " knurl"),
            k.values};
}

Meaning meaning(const GrooveSpec& spec, const Designation& d) {
    const ResolvedGroove g = resolve_groove(spec);
    return {{{"designation", write_groove(spec, d.length, d.unit)},
             {"family", "groove"},
             {"side", spec.side == Side::external ? "external" : "internal"},
             {"hand", word(spec.hand)},
             {"starts", spec.starts},
             {"pitch", tidy(in_mm(spec.pitch))}},
            std::string(word(spec.hand)) + "-hand " + std::string(word(spec.shape)) + " groove" +
                (spec.side == Side::external ? "" : " in a bore"),
            g.values};
}

Meaning meaning(const SilhouetteSpec& spec, const Designation& d) {
    Meaning m{{{"designation", write_silhouette(spec, d.length, d.unit)}, {"family", "silhouette"}},
              "hollow of a silhouette",
              {}};
    if (spec.points.empty()) return m;
    SilhouetteSpec outside = spec;
    outside.wall = {};
    const double end = d.length ? in_mm(*d.length) : spec.points.back().at;
    const ResolvedSilhouette s = resolve_silhouette(outside, 0, end);
    m.values = s.values;
    m.head["course"] = word(spec.course);
    m.head["length"] = tidy(end);
    if (spec.flutes) m.head["flutes"] = spec.flutes->count;
    m.kind = std::string(spec.flutes ? "fluted silhouette" : "silhouette") + " through " +
             std::to_string(spec.points.size()) + " points";
    if (spec.wall)
        for (const ResolvedValue& v : resolve_hollow(spec, s, spec.bottom, end).values)
            m.values.push_back(v);
    return m;
}

Meaning meaning(const CamSpec& spec, const Designation& d) {
    const ResolvedCam c = resolve_cam(spec, d.length ? in_mm(*d.length) : 0);
    Meaning m{{{"designation", write_cam(spec, d.length, d.unit)},
               {"family", "disc cam"},
               {"follower", word(spec.follower)},
               {"moves", spec.swings() ? "swinging" : "translating"},
               {"made", c.trouble == CamTrouble::none}},
              std::string("disc cam under a ") + (spec.swings() ? "swinging " : "translating ") +
                  std::string(word(spec.follower)) + " follower",
              c.values};
    if (d.length) m.head["width"] = tidy(in_mm(*d.length));
    return m;
}

Meaning meaning(const DrumSpec& spec, const Designation& d) {
    const ResolvedDrum r = resolve_drum(spec, d.length.value_or(mm(50)));
    return {{{"designation", write_drum(spec, d.length.value_or(mm(50)), d.unit)},
             {"family", "drum cam"},
             {"track", word(spec.track)},
             {"walls", spec.walls == WallKind::straight ? "straight" : "rolled"},
             {"made", r.trouble == DrumTrouble::none}},
            "drum cam with a " + std::string(word(spec.track)),
            r.values};
}

Meaning meaning(const BendSpec& spec, const Designation& d) {
    return {{{"designation", write_bend(spec, d.unit)}, {"family", "bend"}},
            "bend of a round bar",
            resolve_bend(spec).values};
}

// A piece as a whole: a starter, or a plain bar.
Meaning meaning_of_piece(const Job& job) {
    const Preview p = make_preview(job.pieces[0], 0, {}, job.unit);
    if (!p.made()) throw InputError(p.findings.front().sentence);
    Meaning m{{{"designation", job.pieces[0].name}, {"family", "piece"}, {"zones", json::array()}},
              "a piece of " + std::to_string(p.piece.zones.size()) +
                  (p.piece.zones.size() == 1 ? " zone" : " zones"),
              piece_values(p, job.pieces[0])};
    for (std::size_t i = 0; i < p.piece.zones.size(); ++i) {
        const ResolvedZone& z = p.piece.zones[i];
        m.head["zones"].push_back({{"designation", zone_designation(job.pieces[0].zones[i], job)},
                                   {"where", key_word(z.where)},
                                   {"start", tidy(in_mm(z.start))},
                                   {"length", tidy(in_mm(z.length))}});
    }
    return m;
}

// What follows from what a zone wears; a form without its line here does not compile.
using Values = std::vector<ResolvedValue>;
Values values(const ResolvedPlain&) {
    return {};
}
Values values(const ResolvedScrew& f) {
    return f.thread.values;
}
Values values(const ResolvedWheel& f) {
    return f.gear.values;
}
Values values(const ResolvedSplining& f) {
    return f.spline.values;
}
Values values(const ResolvedBar& f) {
    return f.rack.values;
}
Values values(const ResolvedSpring& f) {
    return f.coil.values;
}
Values values(const ResolvedKnurling& f) {
    return f.knurl.values;
}
Values values(const ResolvedLobe& f) {
    return f.cam.values;
}
Values values(const ResolvedTrack& f) {
    return f.drum.values;
}
Values values(const ResolvedElbow& f) {
    return f.bend.values;
}
Values values(const ResolvedGrooving& f) {
    return f.groove.values;
}
Values values(const ResolvedShape& f) {
    return f.silhouette.values;
}

// Those that are not said yet.
void add_new(Meaning& m, const std::vector<ResolvedValue>& more) {
    for (const ResolvedValue& v : more)
        if (!find_value(m.values, v.key)) m.values.push_back(v);
}

// Where the tooth's thickness was asked for.
std::vector<ResolvedValue> thickness_values(const GearSpec& spec, double at) {
    const Thickness t = thickness_at(resolve_gear(spec), at);
    const std::string where = "on Ø " + number_text(at, 4) + " mm";
    std::vector<ResolvedValue> out;
    for (const auto& [key, label, value, source] :
         {std::tuple{"thickness_at", "Thickness there", t.arc, "arc " + where + ", transverse"},
          std::tuple{"chord_at", "Chord there", t.chord, "chord " + where + ", for the tooth caliper"},
          std::tuple{"chord_height_at", "Height over it", t.height,
                     std::string("from the chord to the tip circle")}})
        out.push_back(
            {.key = key, .label = label, .kind = ValueKind::length, .value = value, .source = source});
    return out;
}

void print_values(const Meaning& m, LengthUnit unit, std::ostream& out) {
    if (m.limits)
        out << column("", 18) << column("value", 10) << column("min", 10) << column("max", 10) << "source\n";
    for (const auto& v : m.values) {
        const auto cell = [&](const std::optional<double>& x) { return cell_text(v, x, unit); };
        if (m.limits && v.kind == ValueKind::text)
            out << column(v.label, 18) << column(v.text, 30) << " " << v.source << "\n";
        else if (m.limits)
            out << column(v.label, 18) << column(cell(v.value), 10) << column(cell(v.min), 10)
                << column(cell(v.max), 10) << " " << v.source << "\n";
        else
            out << column(v.label, 30)
                << column(v.kind == ValueKind::text ? v.text
                          : v.value                 ? cell(v.value)
                                                    : cell(v.min) + " to " + cell(v.max),
                          16)
                << v.source << "\n";
    }
}

void print_meaning(const Meaning& m, LengthUnit unit, const std::vector<Finding>& findings,
                   std::ostream& out) {
    out << m.head.at("designation").get<std::string>() << "\n"
        << m.kind << "; lengths in " << symbol(unit) << "\n\n";
    if (m.head.contains("zones")) {
        for (const auto& z : m.head["zones"])
            out << column(z["where"].get<std::string>(), 18) << z["designation"].get<std::string>() << "\n";
        out << "\n";
    }
    print_values(m, unit, out);
    if (!m.said_of_gauges.empty()) out << "\n";
    for (const std::string& sentence : m.said_of_gauges)
        out << sentence << "\n";
    if (!findings.empty()) out << "\n";
    print_findings(findings, out);
}

json as_json(const Meaning& m, LengthUnit unit, const std::vector<Finding>& findings) {
    json j = m.head;
    j["values"] = json::object();
    for (const auto& v : m.values)
        j["values"][v.key] = value_json(v, unit == LengthUnit::inch);
    if (m.gauges) j["gauges"] = *m.gauges;
    j["findings"] = json::array();
    for (const auto& f : findings)
        j["findings"].push_back(finding_json(f));
    return j;
}

// What a drawing says to the maker of a gear or a spring.
int print_block(const std::vector<std::pair<std::string, std::string>>& rows, bool json_asked,
                std::ostream& out) {
    json j = json::object();
    for (const auto& [name, value] : rows)
        j[name] = value;
    if (json_asked)
        print(out, j);
    else
        for (const auto& [name, value] : rows)
            out << column(name, 30) << value << "\n";
    return done;
}

int show(const Options& o, std::ostream& out) {
    std::optional<Designation> d; // none: a starter
    if (!is_starter(o.text)) d = parse_designation(o.text, known_in(o.text));
    const GearSpec* gear = d ? std::get_if<GearSpec>(&d->what) : nullptr;
    const CoilSpec* spring = d ? std::get_if<CoilSpec>(&d->what) : nullptr;
    if (!gear && o.at != 0) throw InputError("--at is for gears, for example gear m2 z24 b12.");
    if (o.block && spring) return print_block(data_block(resolve_coil(*spring)), o.as_json, out);
    if (o.block && gear) return print_block(data_block(resolve_gear(*gear), d->length), o.as_json, out);
    if (o.block)
        throw InputError(
            "--block is for gears and springs, for example gear m2 z24 b12 or spring d2 D20 L50 n7.");
    Meaning m;
    const bool as_piece = !d || std::holds_alternative<PlainBar>(d->what) || !o.fields.empty();
    if (!as_piece)
        m = std::visit(
            [&]<class Spec>(const Spec& spec) {
                if constexpr (std::is_same_v<Spec, PlainBar>)
                    return Meaning(); // shown as the piece it is
                else
                    return meaning(spec, *d);
            },
            d->what);
    Job job = job_of(o.text);
    for (const std::string& field : o.fields)
        job = with_field(job, field);
    if (as_piece) {
        m = meaning_of_piece(job);
        if (!o.fields.empty()) {
            const ResolvedPiece piece = resolve_piece(job.pieces[0], resolve_names(job));
            add_new(m, std::visit([](const auto& form) { return values(form); },
                                  piece.zones[telling_zone(job.pieces[0])].form));
        }
    } else if (d->length || std::holds_alternative<CoilSpec>(d->what) ||
               std::holds_alternative<RackSpec>(d->what) || std::holds_alternative<BendSpec>(d->what)) {
        // what is a piece as it is written, not only a form
        if (const Preview p = make_preview(job.pieces[0], 0, {}, job.unit); p.made())
            add_new(m, piece_values(p, job.pieces[0]));
    }
    if (o.at != 0)
        for (ResolvedValue& v : thickness_values(*gear, o.at))
            m.values.push_back(std::move(v));
    const LengthUnit unit = d ? d->unit : job.unit;
    const std::vector<Finding> findings = findings_of(job, 0);
    if (o.as_json)
        print(out, as_json(m, unit, findings));
    else
        print_meaning(m, unit, findings, out);
    return stops(findings) ? stopped : done;
}

} // namespace

void add_show(Commands& commands) {
    add_command<Options>(
        commands, "show", "Say what a designation means: every value with its limits and source",
        [](CLI::App& c, Options& o) {
            c.add_option("designation", o.text, "for example \"M10x1.5-6g\" or \"ISO 4014 M8 x 60\"")
                ->required();
            c.add_option("--at", o.at, "of a gear, also the tooth's thickness on this diameter, mm")
                ->check(between(0, 1e5));
            c.add_option("--set", o.fields,
                         "a field of the spec sheet first, such as length=30; any number of them")
                ->type_name("FIELD=VALUE");
            c.add_flag("--block", o.block, "of a gear, what its drawing says to the maker, ISO 1340");
            c.add_flag("--json", o.as_json, "as JSON");
        },
        [](const Options& o, Commands& to) { return show(o, to.out); }, &Options::text);
}

} // namespace whorl
