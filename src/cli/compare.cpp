// whorl compare: another gear's outline or solid laid over a gear, or a rack's side over a rack.
#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "exchange/rack_compare.hpp"
#include "form/tooth/gear_designation.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cmath>
#include <ostream>

namespace whorl {
namespace {

struct Options {
    std::string path, text;
    double within = 0; // mm; 0: any difference will do
    bool as_json = false;
};

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

int compare_gear(const GearSpec& spec, const Options& o, std::ostream& out) {
    const ResolvedGear g = resolve_gear(spec);
    const GearComparison c = compare_file(g, o.path);
    Profile profile(std::min(g.root_radius, g.tip_radius), std::max(g.root_radius, g.tip_radius));
    for (const GearDeviation& d : c.points)
        profile.add(d.radius, d.off);
    json missing = json::array();
    std::string at;
    for (const double angle : c.missing) {
        missing.push_back(tidy(in_deg(rad(angle))));
        at += (at.empty() ? " " : ", ") + number_text(in_deg(rad(angle)), 1) + "°";
    }
    if (o.as_json) {
        print(out, json{{"gear", write_gear(spec)},
                        {"whole", c.whole},
                        {"axis", {tidy(c.axis_x), tidy(c.axis_y)}},
                        {"turned", tidy(in_deg(rad(c.turned)))},
                        {"missing_teeth_at", missing},
                        {"root_mean_square", tidy(c.root_mean_square)},
                        {"largest", tidy(c.worst.off)},
                        {"largest_at_diameter", tidy(2 * c.worst.radius)},
                        {"profile", profile.to_json("from_diameter", "to_diameter", 2)}});
    } else {
        out << o.path << " laid over " << write_gear(spec)
            << "; lengths in mm, positive: the other has more material\n"
            << (c.whole ? "axis at " + number_text(c.axis_x, 4) + ", " + number_text(c.axis_y, 4)
                        : std::string("axis at the origin (not a whole gear)"))
            << "; turned by " << number_text(in_deg(rad(c.turned)), 4) << "°\n"
            << (c.missing.empty() ? ""
                                  : std::to_string(c.missing.size()) + " of " + std::to_string(g.spec.teeth) +
                                        " teeth are not there, at" + at + "; left out of what follows\n")
            << "largest difference " << number_text(c.worst.off, 4) << " at Ø "
            << number_text(2 * c.worst.radius, 3) << "; root mean square "
            << number_text(c.root_mean_square, 5) << "\n\n";
        profile.print(out, "Ø", 2);
    }
    return !c.missing.empty() || (o.within > 0 && std::abs(c.worst.off) > o.within) ? stopped : done;
}

int compare_rack(const RackSpec& spec, const Options& o, std::ostream& out) {
    const ResolvedRack r = resolve_rack(spec);
    const RackComparison c = compare_file(r, o.path);
    Profile profile(r.root_height, r.tip_height);
    for (const RackDeviation& d : c.points)
        profile.add(d.height, d.off);
    if (o.as_json) {
        print(out, json{{"rack", write_rack(spec)},
                        {"space_on_reference_line", {tidy(c.x), tidy(c.y)}},
                        {"turned", tidy(in_deg(rad(c.turned)))},
                        {"root_mean_square", tidy(c.root_mean_square)},
                        {"largest", tidy(c.worst.off)},
                        {"largest_at_height", tidy(c.worst.height)},
                        {"profile", profile.to_json("from_height", "to_height", 1)}});
    } else {
        out << o.path << " laid over " << write_rack(spec)
            << "; lengths in mm, positive: the other has more material\n"
            << "a space's middle on the reference line at " << number_text(c.x, 4) << ", "
            << number_text(c.y, 4) << "; turned by " << number_text(in_deg(rad(c.turned)), 4) << "°\n"
            << "largest difference " << number_text(c.worst.off, 4) << " at "
            << number_text(c.worst.height, 3) << " over the reference line; root mean square "
            << number_text(c.root_mean_square, 5) << "\n\n";
        profile.print(out, "over reference", 1);
    }
    return o.within > 0 && std::abs(c.worst.off) > o.within ? stopped : done;
}

} // namespace

void add_compare(Commands& commands) {
    add_command<Options>(
        commands, "compare", "Lay another gear's outline or solid over a gear, or a rack's side over a rack",
        [](CLI::App& c, Options& o) {
            c.add_option("file", o.path, "a .dxf, .svg or .csv outline, or a .stl or .step solid")
                ->required();
            c.add_option("gear", o.text, "for example \"gear m2 z24\" or \"rack m2 z20\"")->required();
            c.add_option("--within", o.within,
                         "exit code 1 beyond this difference, mm; teeth that are not there are beyond any")
                ->check(between(0, 1e6));
            c.add_flag("--json", o.as_json, "as JSON");
        },
        [](const Options& o, Commands& to) {
            return is_rack(o.text) ? compare_rack(parse_rack_bar(o.text).spec, o, to.out)
                                   : compare_gear(parse_gear(o.text).spec, o, to.out);
        },
        &Options::text);
}

} // namespace whorl
