#include "cli/cli.hpp"
#include "exchange/export.hpp"

#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>
#include <unistd.h>

namespace fs = std::filesystem;
using nlohmann::json;

namespace {

struct Run {
    int code;
    std::string out, err;
};
Run whorl_run(std::vector<std::string> words) {
    words.insert(words.begin(), "whorl");
    std::vector<const char*> argv;
    for (const auto& w : words)
        argv.push_back(w.c_str());
    std::ostringstream out, err;
    const int code = whorl::run_command_line(static_cast<int>(argv.size()), argv.data(), out, err);
    return {code, out.str(), err.str()};
}
fs::path folder() {
    static const fs::path p = [] {
        const auto f = fs::temp_directory_path() / ("whorl-cli-" + std::to_string(::getpid()));
        fs::create_directories(f);
        return f;
    }();
    return p;
}
constexpr const char* demo = WHORL_SOURCE_DIR "/demo/saltmarsh-tide-gauge.whorl";

} // namespace

TEST_CASE("show --json has the agreed keys and the published numbers") {
    const Run r = whorl_run({"show", "M6-6g", "--json"});
    REQUIRE(r.code == 0);
    const json j = json::parse(r.out);
    for (const char* key : {"major_diameter", "pitch_diameter", "minor_diameter", "pitch", "lead", "starts",
                            "hand", "thread_depth"}) {
        INFO(key);
        REQUIRE(j.at("values").contains(key));
        CHECK(!j["values"][key].at("source").get<std::string>().empty());
    }
    CHECK(j["values"]["major_diameter"]["max"].get<double>() == Approx(5.974));
    CHECK(j["values"]["major_diameter"]["min"].get<double>() == Approx(5.794));
    CHECK(j["values"]["pitch_diameter"]["max"].get<double>() == Approx(5.324));
    CHECK(j["values"]["pitch"]["value"].get<double>() == 1.0);
    CHECK(j["values"]["hand"]["value"] == "right");
    CHECK_FALSE(j["values"]["pitch"].contains("own_unit"));
}

TEST_CASE("show of an inch thread gives millimetres and its own unit") {
    const json j = json::parse(whorl_run({"show", "1/4-20 UNC-2A", "--json"}).out);
    const auto& major = j["values"]["major_diameter"];
    CHECK(major["max"].get<double>() == Approx(6.32206));
    CHECK(major["own_unit"]["max"].get<double>() == Approx(0.2489));
    CHECK(major["own_unit"]["min"].get<double>() == Approx(0.2408));
    CHECK(major["own_unit"]["unit"] == "in");
}

TEST_CASE("show for people lists every value with its source") {
    const Run r = whorl_run({"show", "M10x1.5-6g LH"});
    CHECK(r.code == 0);
    for (const char* part : {"M10x1.5-6g LH", "coarse series", "Pitch", "9.968", "ISO 965-1", "left"})
        CHECK(r.out.find(part) != std::string::npos);
    CHECK(whorl_run({"show", "M10x1.3"}).out.find("not a listed") != std::string::npos);
}

TEST_CASE("findings that stop give exit code 1") {
    CHECK(whorl_run({"show", "M10x18"}).code == 1);
    const auto target = (folder() / "no.step").string();
    const Run r = whorl_run({"make", "M10x18 x 40", "-o", target});
    CHECK(r.code == 1);
    CHECK(r.err.find("no core") != std::string::npos);
    CHECK_FALSE(fs::exists(target));
}

TEST_CASE("make writes STEP, STL and SVG") {
    for (const char* ending : {".step", ".stl", ".svg"}) {
        const auto target = folder() / (std::string("stud") + ending);
        const Run r = whorl_run({"make", "M10x1.5-6g LH x 20", "-o", target.string()});
        INFO(r.err);
        CHECK(r.code == 0);
        CHECK(fs::file_size(target) > 1000);
    }
    CHECK(whorl::read_step(folder() / "stud.step").valid);
}

TEST_CASE("a job is checked and exported") {
    const Run check = whorl_run({"check", demo, "--json"});
    CHECK(check.code == 0);
    CHECK(json::parse(check.out).at("stops") == false);
    const auto out = folder() / "all";
    const Run r = whorl_run({"export", demo, "-o", out.string(), "--format", "step,stl,svg"});
    INFO(r.err);
    CHECK(r.code == 0);
    int steps = 0, stls = 0, svgs = 0;
    for (const auto& f : fs::directory_iterator(out)) {
        steps += f.path().extension() == ".step";
        stls += f.path().extension() == ".stl";
        svgs += f.path().extension() == ".svg";
    }
    const auto pieces = json::parse(check.out).at("pieces").get<int>();
    CHECK(steps == pieces);
    CHECK(stls == pieces);
    CHECK(svgs >= pieces);
}

TEST_CASE("one bad piece does not stop the others") {
    const auto path = folder() / "mixed.whorl";
    std::ofstream(path) << R"({"format":"regular-whorl job","version":1,"pieces":[
      {"name":"bad","zones":[{"length":"40","diameter":"10","thread":{"family":"iso_metric","pitch":"18"}}]},
      {"name":"good","zones":[{"length":"10","diameter":"10"}]}]})";
    const auto out = folder() / "mixed";
    const Run r = whorl_run({"export", path.string(), "-o", out.string(), "--format", "stl"});
    CHECK(r.code == 1);
    CHECK(r.err.find("bad: not exported") != std::string::npos);
    CHECK(fs::exists(out / "good.stl"));
    CHECK(whorl_run({"check", path.string()}).code == 1);
}

TEST_CASE("usage errors give exit code 2 and one line") {
    const std::vector<std::vector<std::string>> bad{{},
                                                    {"shwo"},
                                                    {"show"},
                                                    {"show", "bolt"},
                                                    {"show", "round 10"},
                                                    {"make", "M10"},
                                                    {"make", "M10 x 10", "-o", "a.txt"},
                                                    {"make", "M10-6H x 10", "-o", "a.step"},
                                                    {"check", "nothing.whorl"},
                                                    {"export", demo, "-o", "/proc/nope"},
                                                    {"export", demo, "-o", "x", "--format", "docx"},
                                                    {"make", "M10 x 10", "-o", "/nonexistent/a.stl"},
                                                    {"show", "M10", "--chord"}};
    for (const auto& words : bad) {
        const Run r = whorl_run(words);
        INFO((words.empty() ? "" : words.back()) << ": " << r.err);
        CHECK(r.code == 2);
        CHECK(std::count(r.err.begin(), r.err.end(), '\n') == 1);
        CHECK(r.err.size() > 20);
    }
    CHECK(whorl_run({"--help"}).code == 0);
}
