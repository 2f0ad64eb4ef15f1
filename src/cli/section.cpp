#include "cli/section.hpp"

#include "exchange/section_import.hpp"
#include "model/section_library.hpp"
#include "quantity/expression.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace whorl {
namespace {

std::string summary(const OwnSection& s) {
    const OwnShape shape = shape_of(s);
    return std::to_string(s.points.size()) + " points, " + number_text(shape.depth, 4) +
           " P deep, crest flat " + number_text(shape.crest_flat, 4) + " P, root flat " +
           number_text(shape.root_flat, 4) + " P";
}

} // namespace

std::vector<OwnSection> known_in(const std::string& text) {
    std::string low = text;
    std::transform(low.begin(), low.end(), low.begin(),
                   [](char c) { return static_cast<char>(std::tolower(static_cast<unsigned char>(c))); });
    return low.find("section") == std::string::npos ? std::vector<OwnSection>{} : load_library().sections;
}

int section_import(const std::string& path, const std::string& name, std::optional<double> pitch,
                   bool replace, std::ostream& out) {
    OwnSection s = import_section(path, name, pitch);
    if (!name.empty()) s.name = name;
    const auto kept = keep_section(s, section_folder(), replace ? Kept::replaced : Kept::stands);
    out << s.name << ": " << summary(s) << "\nkept in " << kept.string() << "\nUse it as: section " << s.name
        << " 20x4\n";
    return 0;
}

int section_list(bool as_json, std::ostream& out, std::ostream& err) {
    const SectionLibrary library = load_library();
    for (const std::string& problem : library.problems)
        err << "left out  " << problem << "\n";
    nlohmann::ordered_json rows = nlohmann::ordered_json::array();
    for (const OwnSection& s : library.sections)
        if (as_json)
            rows.push_back(nlohmann::ordered_json::parse(section_to_text(s)));
        else
            out << s.name << ": " << summary(s) << "\n";
    if (as_json) out << rows.dump(2) << "\n";
    if (!as_json && library.sections.empty())
        out << "The library is empty. Bring in an outline with: whorl section import groove.dxf\n";
    return 0;
}

int section_show(const std::string& name, bool as_json, std::ostream& out) {
    const auto sections = load_library().sections;
    const auto it =
        std::find_if(sections.begin(), sections.end(), [&](const OwnSection& s) { return s.name == name; });
    if (it == sections.end()) throw InputError("There is no section named '" + name + "' in your library.");
    if (as_json) {
        out << section_to_text(*it);
        return 0;
    }
    out << it->name << ": " << summary(*it) << "\n       z/P        h/P      bow/P\n";
    for (const OwnPoint& p : it->points)
        out << std::fixed << std::setprecision(5) << std::setw(10) << p.z << " " << std::setw(10) << p.h
            << " " << std::setw(10) << p.bow << "\n";
    return 0;
}

int section_remove(const std::string& name, std::ostream& out) {
    if (!forget_section(name)) throw InputError("There is no section named '" + name + "' in your library.");
    out << name << " removed; jobs that wear it keep their own copy.\n";
    return 0;
}

} // namespace whorl
