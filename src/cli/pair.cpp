// whorl pair: how two threads, splines or springs go together, or two gears, or a gear and a rack mesh.
// whorl ratio: tooth counts.
#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "model/starter.hpp"
#include "pair/fit.hpp"
#include "pair/gear_mesh.hpp"
#include "pair/spline_fit.hpp"
#include "pair/spring_fit.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <ostream>

namespace whorl {
namespace {

struct Options {
    std::string first, second, centre;
    bool as_json = false;
};

struct Ratio {
    std::string wanted;
    double within = 0.001;
    int largest = 120;
    bool as_json = false;
};

int pair_teeth(const Designation& one, const Designation& two, const Options& o, std::ostream& out) {
    // the ring or the rack, if there is one, is the second
    const auto* first = std::get_if<GearSpec>(&one.what);
    const bool swapped = !first || (first->internal && std::holds_alternative<GearSpec>(two.what) &&
                                    !std::get<GearSpec>(two.what).internal);
    const Designation &da = swapped ? two : one, &db = swapped ? one : two;
    if (!std::holds_alternative<GearSpec>(da.what))
        throw InputError("Two racks have nothing to run on; one of a pair must be a gear.");
    const GearSpec& a = std::get<GearSpec>(da.what);
    const auto* rack = std::get_if<RackSpec>(&db.what);
    std::optional<Length> distance;
    if (!o.centre.empty()) distance = evaluate_length(o.centre, LengthUnit::millimetre);
    const Length wide = rack ? rack->width : db.length.value_or(mm(1e9));
    const double width = in_mm(std::min(da.length.value_or(mm(1e9)), wide));
    const double common = width < 1e8 ? width : 0;
    const GearMesh m =
        rack ? mesh_of(resolve_gear(a), resolve_rack(*rack), distance, common)
             : mesh_of(resolve_gear(a), resolve_gear(std::get<GearSpec>(db.what)), distance, common);
    const std::string second = rack ? write_rack(*rack) : write_gear(std::get<GearSpec>(db.what));
    if (o.as_json) {
        json j{{"first", write_gear(a)}, {"second", second}, {"goes_together", m.runs()}};
        j["mistakes"] = json::array();
        for (const auto& w : m.mistakes)
            j["mistakes"].push_back({{"id", key_word(w.what)},
                                     {"severity", w.stops ? "stop" : "advice"},
                                     {"sentence", w.sentence},
                                     {"value", tidy(w.value)},
                                     {"limit", tidy(w.limit)}});
        j["values"] = json::object();
        for (const auto& v : m.values)
            j["values"][v.key] = value_json(v, false);
        print(out, j);
    } else {
        out << write_gear(a) << " with " << second << "; lengths in mm\n";
        for (const auto& w : m.mistakes)
            out << (w.stops ? "wrong   " : "advice  ") << w.sentence << "\n";
        if (m.runs()) out << "They mesh.\n";
        if (!m.values.empty()) out << "\n";
        for (const auto& v : m.values)
            out << column(v.label, 20) << column(cell_text(v, v.value, LengthUnit::millimetre), 12)
                << v.source << "\n";
    }
    return m.runs() ? done : stopped;
}

// What is wrong, whether they go together, and what follows; the first two are their keys and names.
int print_fit(const Options& o, const std::pair<const char*, std::string>& first,
              const std::pair<const char*, std::string>& second, const std::vector<PairMistake>& mistakes,
              const std::vector<ResolvedValue>& values, const std::string& but, std::ostream& out) {
    const bool together = std::ranges::none_of(mistakes, &PairMistake::stops);
    if (o.as_json) {
        json j{{first.first, first.second}, {second.first, second.second}, {"goes_together", together}};
        j["mistakes"] = json::array();
        for (const auto& m : mistakes)
            j["mistakes"].push_back({{"id", m.id},
                                     {"severity", m.stops ? "stop" : "advice"},
                                     {"sentence", m.sentence},
                                     {"value", tidy(m.value)},
                                     {"limit", tidy(m.limit)}});
        j["values"] = json::object();
        for (const auto& v : values)
            j["values"][v.key] = value_json(v, false);
        print(out, j);
        return together ? done : stopped;
    }
    out << first.second << " with " << second.second << "; lengths in mm\n";
    for (const auto& m : mistakes)
        out << (m.stops ? "wrong   " : "advice  ") << m.sentence << "\n";
    if (together) out << "They go together" << but << ".\n";
    if (!values.empty()) out << "\n";
    for (const auto& v : values)
        out << column(v.label, 26)
            << column(v.value ? cell_text(v, v.value, LengthUnit::millimetre)
                              : cell_text(v, v.min, LengthUnit::millimetre) + " to " +
                                    cell_text(v, v.max, LengthUnit::millimetre),
                      18)
            << v.source << "\n";
    return together ? done : stopped;
}

int pair_splines(const Designation& one, const Designation& two, const Options& o, std::ostream& out) {
    const bool swapped = std::get<SplineSpec>(one.what).hub;
    const SplineSpec &shaft = std::get<SplineSpec>((swapped ? two : one).what),
                     &hub = std::get<SplineSpec>((swapped ? one : two).what);
    if (shaft.hub == hub.hub)
        throw InputError("A splined shaft goes into a hub; what goes with " + o.first + " is " +
                         write_spline(counterpart(std::get<SplineSpec>(one.what)), one.length) + ".");
    const Length engaged = std::min(one.length.value_or(mm(1e9)), two.length.value_or(mm(1e9)));
    const Length length = in_mm(engaged) < 1e8 ? engaged : mm(10);
    const SplineFit fit = spline_fit(resolve_spline(shaft, length), resolve_spline(hub, length), length);
    return print_fit(o, {"shaft", write_spline(shaft)}, {"hub", write_spline(hub)}, fit.mistakes, fit.values,
                     fit.flank_clearance > 1e-6 ? "" : ", but nothing is left between their flanks", out);
}

// The outside of a round bar, or its bore where it has one.
SpringFit guided(const ResolvedCoil& spring, const Designation& d, const std::string& text) {
    const auto* bar = std::get_if<PlainBar>(&d.what);
    if (!bar || bar->outline != Outline::round)
        throw InputError(
            in_quotes(text) +
            " guides no spring; a rod such as \"round 12 x 60\" does, a piece with a bore such as "
            "\"round 40 x 60 bore 26\", or another spring stands in it.");
    const Piece piece = piece_of(text);
    const ResolvedPiece r = resolve_piece(piece, {});
    const auto bore = std::ranges::find_if(r.zones, &ResolvedZone::in_bore);
    return spring_fit(spring, bore == r.zones.end() ? r.zones.front() : *bore);
}

int pair_springs(const Designation& one, const Designation& two, const Options& o, std::ostream& out) {
    const auto *a = std::get_if<CoilSpec>(&one.what), *b = std::get_if<CoilSpec>(&two.what);
    const auto name = [&](const CoilSpec* spring, const std::string& text) {
        return spring ? write_spring(*spring) : text;
    };
    const SpringFit fit = a && b ? nested_springs(resolve_coil(*a), resolve_coil(*b))
                          : a    ? guided(resolve_coil(*a), two, o.second)
                                 : guided(resolve_coil(*b), one, o.first);
    return print_fit(o, {"first", name(a, o.first)}, {"second", name(b, o.second)}, fit.mistakes, fit.values,
                     "", out);
}

// Tooth counts for a ratio.
int tooth_ratio(const Ratio& o, std::ostream& out) {
    const double value = evaluate_number(o.wanted);
    if (!(value >= 0.01 && value <= 100)) throw InputError("A ratio lies between 0.01 and 100.");
    const auto choices = teeth_for_ratio(value, o.within, 12, o.largest, 12);
    if (o.as_json) {
        json rows = json::array();
        for (const auto& c : choices)
            rows.push_back(
                {{"first", c.first}, {"second", c.second}, {"error", tidy(c.error)}, {"hunting", c.hunting}});
        print(out, rows);
    } else {
        for (const auto& c : choices)
            out << column(std::to_string(c.first) + " : " + std::to_string(c.second), 14)
                << column(number_text(100 * c.error, 4) + " %", 12) << (c.hunting ? "no common factor" : "")
                << "\n";
    }
    if (choices.empty())
        throw InputError("No pair of 12 to " + std::to_string(o.largest) + " teeth comes within " +
                         number_text(100 * o.within, 4) + " % of " + number_text(value, 6) +
                         "; widen --within or --largest.");
    return done;
}

const ThreadSpec& thread_in(const Designation& d, const std::string& text) {
    if (const auto* t = std::get_if<ThreadSpec>(&d.what)) return *t;
    throw InputError(in_quotes(text) +
                     " does not go with it; a pair is made of two threads, two gears, a gear and a rack, a "
                     "splined shaft and its hub, or a spring and a rod, a bore or another spring, for "
                     "example \"M10-6g\" \"M10-6H\".");
}

int pair(const Options& o, std::ostream& out) {
    const auto read = [](const std::string& text) {
        try {
            return parse_designation(text, known_in(text));
        } catch (const InputError& e) {
            throw InputError("In '" + text + "': " + e.what(), e.position, e.extent);
        }
    };
    const Designation a = read(o.first), b = read(o.second);
    const auto toothed = [](const Designation& d) {
        return std::holds_alternative<GearSpec>(d.what) || std::holds_alternative<RackSpec>(d.what);
    };
    if (toothed(a) && toothed(b)) return pair_teeth(a, b, o, out);
    if (std::holds_alternative<SplineSpec>(a.what) && std::holds_alternative<SplineSpec>(b.what))
        return pair_splines(a, b, o, out);
    if (std::holds_alternative<CoilSpec>(a.what) || std::holds_alternative<CoilSpec>(b.what))
        return pair_springs(a, b, o, out);
    ThreadSpec one = thread_in(a, o.first), two = thread_in(b, o.second);
    // of two threads whose classes don't say it, the second is the nut
    if (one.side == two.side && !side_of_class(two.family, two.tolerance_class)) two.side = Side::internal;
    const ResolvedThread r1 = resolve_thread(one), r2 = resolve_thread(two);
    const bool swapped = r1.side == Side::internal && r2.side == Side::external;
    const auto engaged = b.length ? b.length : a.length;
    const Fit fit = fit_of(swapped ? r2 : r1, swapped ? r1 : r2, engaged);
    if (o.as_json) {
        json j;
        j["screw"] = write_designation((swapped ? r2 : r1).spec);
        j["nut"] = write_designation((swapped ? r1 : r2).spec);
        j["goes_together"] = fit.goes_together();
        j["will_turn"] = fit.goes_together() && !fit.will_not_turn;
        j["mistakes"] = json::array();
        constexpr const char* ids[]{"side",   "form",  "pitch",        "diameter", "hand",
                                    "starts", "taper", "interference", "limits"};
        for (const auto& m : fit.mistakes)
            j["mistakes"].push_back({{"id", ids[static_cast<int>(m.what)]},
                                     {"sentence", m.sentence},
                                     {"value", tidy(m.value)},
                                     {"limit", tidy(m.limit)}});
        if (one.side == two.side) j["counterpart"] = write_designation(counterpart(one));
        j["values"] = json::object();
        for (const auto& v : fit.values)
            j["values"][v.key] = value_json(v, a.unit == LengthUnit::inch);
        print(out, j);
    } else {
        out << write_designation((swapped ? r2 : r1).spec) << " with "
            << write_designation((swapped ? r1 : r2).spec) << "; lengths in " << symbol(a.unit) << "\n";
        for (const auto& m : fit.mistakes) {
            out << "wrong   " << m.sentence << "\n";
            if (m.what == Mismatch::side)
                out << "        What goes with " << o.first << " is " << write_designation(counterpart(one))
                    << ": whorl pair \"" << o.first << "\" \"" << write_designation(counterpart(one))
                    << "\"\n";
        }
        if (fit.will_not_turn)
            out << "They go together, but nothing is left between them: made like this they will not turn. "
                   "Give one of them a printing allowance in a job.\n";
        else if (fit.goes_together())
            out << "They go together.\n";
        if (!fit.values.empty())
            out << "\n"
                << column("", 24) << column("value", 12) << column("min", 10) << column("max", 10)
                << "source\n";
        for (const auto& v : fit.values)
            out << column(v.label, 24) << column(cell_text(v, v.value, a.unit), 12)
                << column(cell_text(v, v.min, a.unit), 10) << column(cell_text(v, v.max, a.unit), 10)
                << v.source << "\n";
    }
    return fit.goes_together() ? done : stopped;
}

} // namespace

void add_pair(Commands& commands) {
    add_command<Options>(
        commands, "pair",
        "Say how two threads, a splined shaft and its hub, a spring and its guide or two springs go "
        "together, or two "
        "gears, or a gear and a rack mesh",
        [](CLI::App& c, Options& o) {
            c.add_option("first", o.first, "for example \"M10-6g\" or \"gear m2 z19 b12\"")->required();
            c.add_option("second", o.second, "for example \"M10-6H x 8\" or \"gear m2 z73 b12\"")->required();
            c.add_option("--centre", o.centre,
                         "centre distance of gears, or from a gear's axis to a rack's reference line, in "
                         "mm, else that of no backlash");
            c.add_flag("--json", o.as_json, "as JSON");
        },
        [](const Options& o, Commands& to) { return pair(o, to.out); }, &Options::first);
}

void add_ratio(Commands& commands) {
    add_command<Ratio>(
        commands, "ratio", "Find tooth counts for a ratio",
        [](CLI::App& c, Ratio& o) {
            c.add_option("ratio", o.wanted,
                         "z2/z1, a number or an expression, for example 3.84 or 365.2422/31")
                ->required();
            c.add_option("--within", o.within, "largest relative error")->check(between(0, 0.1));
            c.add_option("--largest", o.largest, "most teeth")->check(CLI::Range(12, 1000));
            c.add_flag("--json", o.as_json, "as JSON");
        },
        [](const Ratio& o, Commands& to) { return tooth_ratio(o, to.out); }, &Ratio::wanted);
}

} // namespace whorl
