#include "cli/gear.hpp"

#include "cli/print.hpp"
#include "exchange/rack_compare.hpp"
#include "form/tooth/measure.hpp"
#include "pair/gear_mesh.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <ostream>
#include <tuple>

namespace whorl {

int gear_block(const GearDesignation& d, bool as_json, std::ostream& out) {
    const auto rows = data_block(resolve_gear(d.spec), d.width);
    if (as_json) {
        json j = json::object();
        for (const auto& [name, value] : rows)
            j[name] = value;
        out << j.dump(2) << "\n";
    } else {
        for (const auto& [name, value] : rows)
            out << column(name, 30) << value << "\n";
    }
    return done;
}

int show_gear(const GearDesignation& d, const std::vector<Finding>& findings, double at, bool as_json,
              std::ostream& out) {
    const GearSpec& spec = d.spec;
    ResolvedGear g = resolve_gear(spec);
    if (at != 0) {
        const Thickness t = thickness_at(g, at);
        const std::string where = "on Ø " + number_text(at, 4) + " mm";
        for (const auto& [key, label, value, source] :
             {std::tuple{"thickness_at", "Thickness there", t.arc, "arc " + where + ", transverse"},
              std::tuple{"chord_at", "Chord there", t.chord, "chord " + where + ", for the tooth caliper"},
              std::tuple{"chord_height_at", "Height over it", t.height,
                         std::string("from the chord to the tip circle")}})
            g.values.push_back(
                {.key = key, .label = label, .kind = ValueKind::length, .value = value, .source = source});
    }
    const std::string side = spec.internal ? "internal" : "external";
    json head{{"designation", write_gear(spec, d.width)}, {"family", "gear"}, {"side", side}};
    if (d.width) head["face_width"] = tidy(in_mm(*d.width));
    head["undercut"] = g.undercut;
    return print_form(head, side + (in_rad(spec.helix_angle) != 0 ? " helical" : " spur") + " gear", g.values,
                      d.unit, findings, as_json, out);
}

int show_rack(const RackDesignation& d, const std::vector<Finding>& findings, bool as_json,
              std::ostream& out) {
    const ResolvedRack r = resolve_rack(d.spec);
    return print_form({{"designation", write_rack(d.spec)}, {"family", "rack"}},
                      in_rad(d.spec.helix_angle) != 0 ? "helical rack" : "straight rack", r.values, d.unit,
                      findings, as_json, out);
}

int pair_teeth(const Designation& one, const Designation& two, const std::string& centre, bool as_json,
               std::ostream& out) {
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
    if (!centre.empty()) distance = evaluate_length(centre, LengthUnit::millimetre);
    const Length wide = rack ? rack->width : db.length.value_or(mm(1e9));
    const double width = in_mm(std::min(da.length.value_or(mm(1e9)), wide));
    const double common = width < 1e8 ? width : 0;
    const GearMesh m =
        rack ? mesh_of(resolve_gear(a), resolve_rack(*rack), distance, common)
             : mesh_of(resolve_gear(a), resolve_gear(std::get<GearSpec>(db.what)), distance, common);
    const std::string second = rack ? write_rack(*rack) : write_gear(std::get<GearSpec>(db.what));
    if (as_json) {
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
        out << j.dump(2) << "\n";
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

// Tooth counts for a ratio.
int tooth_ratio(const std::string& wanted, double tolerance, int largest, bool as_json, std::ostream& out) {
    const double value = evaluate_number(wanted);
    if (!(value >= 0.01 && value <= 100)) throw InputError("A ratio lies between 0.01 and 100.");
    const auto choices = teeth_for_ratio(value, tolerance, 12, largest, 12);
    if (as_json) {
        json rows = json::array();
        for (const auto& c : choices)
            rows.push_back(
                {{"first", c.first}, {"second", c.second}, {"error", tidy(c.error)}, {"hunting", c.hunting}});
        out << rows.dump(2) << "\n";
    } else {
        for (const auto& c : choices)
            out << column(std::to_string(c.first) + " : " + std::to_string(c.second), 14)
                << column(number_text(100 * c.error, 4) + " %", 12) << (c.hunting ? "no common factor" : "")
                << "\n";
    }
    if (choices.empty())
        throw InputError("No pair of 12 to " + std::to_string(largest) + " teeth comes within " +
                         number_text(100 * tolerance, 4) + " % of " + number_text(value, 6) +
                         "; widen --within or --largest.");
    return done;
}

namespace {

// By height on the tooth, both flanks of every space together.
class Profile {
public:
    static constexpr int bands = 8;
    Profile(double low, double high) : low_(low), high_(high) {}
    void add(double at, double off) {
        Band& b = band_[std::clamp(static_cast<int>((at - low_) / (high_ - low_) * bands), 0, bands - 1)];
        b.least = b.points == 0 ? off : std::min(b.least, off);
        b.most = b.points == 0 ? off : std::max(b.most, off);
        b.sum += off;
        ++b.points;
    }
    // Heights are multiplied by `scale` (2 for diameters).
    json to_json(const char* from, const char* to, double scale) const {
        json out = json::array();
        for (int i = 0; i < bands; ++i)
            if (band_[i].points > 0)
                out.push_back({{from, tidy(scale * edge(i))},
                               {to, tidy(scale * edge(i + 1))},
                               {"mean", tidy(band_[i].sum / band_[i].points)},
                               {"min", tidy(band_[i].least)},
                               {"max", tidy(band_[i].most)}});
        return out;
    }
    void print(std::ostream& out, const char* heading, double scale) const {
        out << column(heading, 22) << column("mean", 12) << column("min", 12) << "max\n";
        for (int i = bands - 1; i >= 0; --i)
            if (band_[i].points > 0)
                out << column(number_text(scale * edge(i), 3) + " to " + number_text(scale * edge(i + 1), 3),
                              22)
                    << column(number_text(band_[i].sum / band_[i].points, 4), 12)
                    << column(number_text(band_[i].least, 4), 12) << number_text(band_[i].most, 4) << "\n";
    }

private:
    struct Band {
        double least = 0, most = 0, sum = 0;
        int points = 0;
    };
    double edge(int i) const { return low_ + (high_ - low_) * i / bands; }
    double low_, high_;
    Band band_[bands];
};

} // namespace

int compare_gear(const std::string& path, const GearSpec& spec, double within, bool as_json,
                 std::ostream& out) {
    const ResolvedGear g = resolve_gear(spec);
    const GearComparison c = compare_file(g, path);
    Profile profile(std::min(g.root_radius, g.tip_radius), std::max(g.root_radius, g.tip_radius));
    for (const GearDeviation& d : c.points)
        profile.add(d.radius, d.off);
    if (as_json) {
        out << json{{"gear", write_gear(spec)},
                    {"whole", c.whole},
                    {"axis", {tidy(c.axis_x), tidy(c.axis_y)}},
                    {"turned", tidy(in_deg(rad(c.turned)))},
                    {"root_mean_square", tidy(c.root_mean_square)},
                    {"largest", tidy(c.worst.off)},
                    {"largest_at_diameter", tidy(2 * c.worst.radius)},
                    {"profile", profile.to_json("from_diameter", "to_diameter", 2)}}
                   .dump(2)
            << "\n";
    } else {
        out << path << " laid over " << write_gear(spec)
            << "; lengths in mm, positive: the other has more material\n"
            << (c.whole ? "axis at " + number_text(c.axis_x, 4) + ", " + number_text(c.axis_y, 4)
                        : std::string("axis at the origin (not a whole gear)"))
            << "; turned by " << number_text(in_deg(rad(c.turned)), 4) << "°\n"
            << "largest difference " << number_text(c.worst.off, 4) << " at Ø "
            << number_text(2 * c.worst.radius, 3) << "; root mean square "
            << number_text(c.root_mean_square, 5) << "\n\n";
        profile.print(out, "Ø", 2);
    }
    return within > 0 && std::abs(c.worst.off) > within ? stopped : done;
}

int compare_rack(const std::string& path, const RackSpec& spec, double within, bool as_json,
                 std::ostream& out) {
    const ResolvedRack r = resolve_rack(spec);
    const RackComparison c = compare_file(r, path);
    Profile profile(r.root_height, r.tip_height);
    for (const RackDeviation& d : c.points)
        profile.add(d.height, d.off);
    if (as_json) {
        out << json{{"rack", write_rack(spec)},
                    {"space_on_reference_line", {tidy(c.x), tidy(c.y)}},
                    {"turned", tidy(in_deg(rad(c.turned)))},
                    {"root_mean_square", tidy(c.root_mean_square)},
                    {"largest", tidy(c.worst.off)},
                    {"largest_at_height", tidy(c.worst.height)},
                    {"profile", profile.to_json("from_height", "to_height", 1)}}
                   .dump(2)
            << "\n";
    } else {
        out << path << " laid over " << write_rack(spec)
            << "; lengths in mm, positive: the other has more material\n"
            << "a space's middle on the reference line at " << number_text(c.x, 4) << ", "
            << number_text(c.y, 4) << "; turned by " << number_text(in_deg(rad(c.turned)), 4) << "°\n"
            << "largest difference " << number_text(c.worst.off, 4) << " at "
            << number_text(c.worst.height, 3) << " over the reference line; root mean square "
            << number_text(c.root_mean_square, 5) << "\n\n";
        profile.print(out, "over reference", 1);
    }
    return within > 0 && std::abs(c.worst.off) > within ? stopped : done;
}

} // namespace whorl
