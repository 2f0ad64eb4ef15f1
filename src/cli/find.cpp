// whorl find: what bears what is asked.
#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "form/coil/find_spring.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <ostream>

namespace whorl {
namespace {

struct Options {
    std::string what;
    std::vector<std::string> loads;
    std::string rate, outside, inside, solid, wire = "SM";
    bool as_json = false;
};

LoadAt load_of(const std::string& text) {
    const auto at = text.find('@');
    if (at == std::string::npos)
        throw InputError("A load is written with the length it stands at, such as 40@32 (N at mm), not " +
                         in_quotes(text) + ".");
    return {evaluate_number(text.substr(0, at)),
            in_mm(evaluate_length(text.substr(at + 1), LengthUnit::millimetre))};
}

int find(const Options& o, std::ostream& out) {
    if (o.what != "spring")
        throw InputError("What can be found is a spring: whorl find spring --load 40@32 --load 65@24.");
    SpringWanted w;
    for (const std::string& l : o.loads)
        w.loads.push_back(load_of(l));
    const auto length = [](const std::string& text) -> std::optional<double> {
        if (text.empty()) return {};
        return in_mm(evaluate_length(text, LengthUnit::millimetre));
    };
    if (!o.rate.empty()) w.rate = evaluate_number(o.rate);
    w.outside = length(o.outside);
    w.inside = length(o.inside);
    w.solid = length(o.solid);
    w.wire_class = o.wire;
    for (char& c : w.wire_class)
        c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    const auto found = find_springs(w);
    if (o.as_json) {
        json j{{"springs", json::array()}};
        for (const SpringFound& f : found) {
            json one{{"designation", write_spring(f.spec)},  {"why", f.why},
                     {"spring_rate", tidy(f.rate)},          {"mass", tidy(f.mass)},
                     {"solid_length", tidy(f.solid_length)}, {"margin", tidy(f.margin)},
                     {"used_stress", tidy(f.used)},          {"forces", json::array()}};
            for (const double force : f.forces)
                one["forces"].push_back(tidy(force));
            if (f.buckles_at) one["buckling_travel"] = tidy(*f.buckles_at);
            j["springs"].push_back(std::move(one));
        }
        print(out, j);
        return done;
    }
    out << found.size() << " springs, the lightest first\n";
    for (const SpringFound& f : found) {
        std::string forces;
        for (const double force : f.forces)
            forces += (forces.empty() ? "" : ", ") + number_text(force, 2) + " N";
        out << column(write_spring(f.spec), 52) << column(forces, 22) << f.why << "\n";
    }
    return done;
}

} // namespace

void add_find(Commands& commands) {
    add_command<Options>(
        commands, "find", "Find springs of preferred wire from loads and room",
        [](CLI::App& command, Options& o) {
            command.add_option("what", o.what, "spring")->required();
            command.add_option("--load", o.loads,
                               "force at a length, N@mm, such as 40@32; twice, or once with --rate");
            command.add_option("--rate", o.rate, "N/mm, with one load");
            command.add_option("--outside", o.outside, "the most that it may be wide, mm");
            command.add_option("--inside", o.inside, "what stands inside, mm");
            command.add_option("--solid", o.solid, "the most that it may be long when solid, mm");
            command.add_option("--wire", o.wire, "class by EN 10270-1: SL, SM (if not said), DM, SH, DH");
            command.add_flag("--json", o.as_json, "as JSON");
        },
        [](const Options& o, Commands& c) { return find(o, c.out); });
}

} // namespace whorl
