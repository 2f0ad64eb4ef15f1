// whorl section: sections of one's own and the personal library.
#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "exchange/section_import.hpp"
#include "model/section_library.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <iomanip>
#include <ostream>

namespace whorl {
namespace {

std::string summary(const OwnSection& s) {
    const OwnShape shape = shape_of(s);
    return std::to_string(s.points.size()) + " points, " + number_text(shape.depth, 4) +
           " P deep, crest flat " + number_text(shape.crest_flat, 4) + " P, root flat " +
           number_text(shape.root_flat, 4) + " P";
}

struct Import {
    std::string path, name;
    double pitch = 0; // in the drawing's units; 0: the outline's width
    bool replace = false;
};
struct Options {
    std::string name;
    bool as_json = false;
};

int import(const Import& o, std::ostream& out) {
    OwnSection s = import_section(o.path, o.name, o.pitch > 0 ? std::optional(o.pitch) : std::nullopt);
    if (!o.name.empty()) s.name = o.name;
    const auto kept = keep_section(s, section_folder(), o.replace ? Kept::replaced : Kept::stands);
    out << s.name << ": " << summary(s) << "\nkept in " << kept.string() << "\nUse it as: section " << s.name
        << " 20x4\n";
    return done;
}

int list(const Options& o, std::ostream& out, std::ostream& err) {
    const SectionLibrary library = load_library();
    for (const std::string& problem : library.problems)
        err << "left out  " << problem << "\n";
    json rows = json::array();
    for (const OwnSection& s : library.sections)
        if (o.as_json)
            rows.push_back(json::parse(section_to_text(s)));
        else
            out << s.name << ": " << summary(s) << "\n";
    if (o.as_json) print(out, rows);
    if (!o.as_json && library.sections.empty())
        out << "The library is empty. Bring in an outline with: whorl section import groove.dxf\n";
    return done;
}

int show(const Options& o, std::ostream& out) {
    const auto sections = load_library().sections;
    const auto it =
        std::find_if(sections.begin(), sections.end(), [&](const OwnSection& s) { return s.name == o.name; });
    if (it == sections.end()) throw InputError("There is no section named '" + o.name + "' in your library.");
    if (o.as_json) {
        out << section_to_text(*it);
        return done;
    }
    out << it->name << ": " << summary(*it) << "\n       z/P        h/P      bow/P\n";
    for (const OwnPoint& p : it->points)
        out << std::fixed << std::setprecision(5) << std::setw(10) << p.z << " " << std::setw(10) << p.h
            << " " << std::setw(10) << p.bow << "\n";
    return done;
}

int remove(const Options& o, std::ostream& out) {
    if (!forget_section(o.name))
        throw InputError("There is no section named '" + o.name + "' in your library.");
    out << o.name << " removed; jobs that wear it keep their own copy.\n";
    return done;
}

} // namespace

std::vector<OwnSection> known_in(const std::string& text) {
    std::string low = text;
    std::transform(low.begin(), low.end(), low.begin(),
                   [](char c) { return static_cast<char>(std::tolower(static_cast<unsigned char>(c))); });
    return low.find("section") == std::string::npos ? std::vector<OwnSection>{} : load_library().sections;
}

void add_section(Commands& commands) {
    CLI::App& section =
        *commands.app.add_subcommand("section", "Sections of your own: import, list, show, remove");
    section.require_subcommand(1);
    add_command<Import>(
        section, commands, "import", "Keep an outline (.dxf, .svg, .csv) in your library",
        [](CLI::App& c, Import& o) {
            c.add_option("outline", o.path, "from crest to crest across one groove")->required();
            c.add_option("--name", o.name, "what to call it; else the file's name");
            c.add_option("--pitch", o.pitch, "the pitch in the drawing's units; else the outline's width")
                ->check(between(1e-9, 1e9));
            c.add_flag("--replace", o.replace, "in place of a section of that name");
        },
        [](const Import& o, Commands& to) { return import(o, to.out); }, &Import::name);
    const auto named = [](CLI::App& c, Options& o) { c.add_option("name", o.name)->required(); };
    const auto json_too = [](CLI::App& c, Options& o) { c.add_flag("--json", o.as_json, "as JSON"); };
    add_command<Options>(section, commands, "list", "What is in your library", json_too,
                         [](const Options& o, Commands& to) { return list(o, to.out, to.err); });
    add_command<Options>(
        section, commands, "show", "The points of one section",
        [=](CLI::App& c, Options& o) {
            named(c, o);
            json_too(c, o);
        },
        [](const Options& o, Commands& to) { return show(o, to.out); }, &Options::name);
    add_command<Options>(
        section, commands, "remove", "Take one out of your library", named,
        [](const Options& o, Commands& to) { return remove(o, to.out); }, &Options::name);
}

} // namespace whorl
