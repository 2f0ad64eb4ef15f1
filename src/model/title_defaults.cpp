#include "model/title_defaults.hpp"

#include "model/drawing_json.hpp"
#include "model/file.hpp"
#include "model/section_library.hpp"

#include <nlohmann/json.hpp>

namespace whorl {

std::filesystem::path title_defaults_file() {
    const std::filesystem::path sections = section_folder();
    return sections.empty() ? sections : sections.parent_path() / "title-block.json";
}

JobDrawing load_title_defaults(const std::filesystem::path& file) {
    std::error_code none;
    if (file.empty() || !std::filesystem::exists(file, none)) return {};
    try {
        return job_drawing_from(nlohmann::json::parse(read_file(file, 1u << 20)));
    } catch (const FileError&) {
        return {};
    } catch (const nlohmann::json::exception&) {
        return {}; // damaged: a job begins as if there were none
    }
}

void keep_title_defaults(const JobDrawing& drawing, const std::filesystem::path& file) {
    if (file.empty())
        throw FileError("There is no folder to keep it in: neither XDG_DATA_HOME nor HOME is set.");
    JobDrawing kept = drawing;
    kept.title.number.clear();
    kept.title.revision.clear();
    kept.title.date.clear();
    nlohmann::ordered_json j{{"format", "regular-whorl title block"}};
    drawing_to_json(kept, j);
    std::error_code error;
    std::filesystem::create_directories(file.parent_path(), error);
    if (error)
        throw FileError("'" + file.parent_path().string() + "' can't be made: " + error.message() + ".");
    write_file_atomically(file, j.dump(1) + "\n");
}

} // namespace whorl
