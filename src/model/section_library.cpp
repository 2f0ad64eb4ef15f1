#include "model/section_library.hpp"

#include "model/section_json.hpp"

#include <algorithm>
#include <cstdlib>

namespace whorl {
namespace {

namespace fs = std::filesystem;
constexpr std::size_t largest_section_file = 1u << 20;
constexpr const char* ending = ".section.json";
constexpr int version = 1;

} // namespace

fs::path section_folder() {
    const char* data = std::getenv("XDG_DATA_HOME");
    const char* home = std::getenv("HOME");
    fs::path base;
    if (data && *data)
        base = data;
    else if (home && *home)
        base = fs::path(home) / ".local" / "share";
    else
        return {};
    return base / "regular-whorl" / "sections";
}

std::string section_to_text(const OwnSection& section) {
    nlohmann::ordered_json j{{"format", "regular-whorl section"}, {"version", version}};
    j.update(section_to_json(section));
    return j.dump(1) + "\n";
}

OwnSection section_from_text(std::string_view text) {
    OwnSection s;
    try {
        const auto j = nlohmann::json::parse(text);
        if (!j.is_object() || j.value("format", "") != "regular-whorl section")
            throw InputError("This is not a section file; it has no \"format\": \"regular-whorl section\".");
        if (j.value("version", 0) != version)
            throw InputError("This section file has version " + std::to_string(j.value("version", 0)) +
                             "; this program reads version 1.");
        s = section_from_json(j);
    } catch (const nlohmann::json::exception&) {
        throw InputError(
            "This section file is damaged or not written by this program; import its drawing again.");
    }
    require_usable(s);
    return s;
}

SectionLibrary load_library(const fs::path& folder) {
    SectionLibrary out;
    std::error_code none;
    if (folder.empty() || !fs::exists(folder, none)) {
        if (none && none != std::errc::no_such_file_or_directory)
            throw FileError("The section library " + folder.string() + " can't be read: " + none.message() +
                            ".");
        return out;
    }
    for (fs::directory_iterator it(folder, none), end; !none && it != end; it.increment(none)) {
        const std::string name = it->path().filename().string();
        if (!name.ends_with(ending)) continue;
        try {
            out.sections.push_back(section_from_text(read_file(it->path(), largest_section_file)));
        } catch (const std::exception& e) {
            out.problems.push_back(it->path().string() + ": " + e.what());
        }
    }
    if (none)
        throw FileError("The section library " + folder.string() + " can't be read: " + none.message() + ".");
    std::sort(out.sections.begin(), out.sections.end(),
              [](const OwnSection& a, const OwnSection& b) { return a.name < b.name; });
    return out;
}

fs::path keep_section(const OwnSection& section, const fs::path& folder, Kept old) {
    require_usable(section);
    if (folder.empty())
        throw FileError("There is no place for a section library: neither HOME nor XDG_DATA_HOME is set.");
    std::error_code error;
    fs::create_directories(folder, error);
    if (error) throw FileError("The folder " + folder.string() + " can't be made: " + error.message() + ".");
    fs::path path = folder / (section.name + ending);
    const std::string text = section_to_text(section);
    if (old == Kept::stands && fs::exists(path, error) && read_file(path, largest_section_file) != text)
        throw InputError("There is already another section named '" + section.name +
                         "' in your library; choose another name, or have it replaced.");
    write_file_atomically(path, text);
    return path;
}

bool forget_section(const std::string& name, const fs::path& folder) {
    require_section_name(name);
    std::error_code error;
    const bool was = fs::remove(folder / (name + ending), error);
    if (error) throw FileError("The section " + name + " can't be removed: " + error.message() + ".");
    return was;
}

std::vector<OwnSection> known_sections(const Job& job, const std::vector<OwnSection>& library) {
    std::vector<OwnSection> out = sections_in(job);
    for (const OwnSection& s : library)
        if (std::none_of(out.begin(), out.end(), [&](const OwnSection& o) { return o.name == s.name; }))
            out.push_back(s);
    return out;
}

} // namespace whorl
