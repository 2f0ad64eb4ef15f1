#include "cli/cli.hpp"
#include "cli/table.hpp"
#include "exchange/export.hpp"
#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>
#include <cstring>
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
    CHECK(whorl_run({"show", "M10x18-6g"}).code == 1);
    const auto target = (folder() / "no.step").string();
    const Run r = whorl_run({"make", "M10x18-6g x 40", "-o", target});
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

TEST_CASE("pieces of every kind are made from one line") {
    for (const char* text : {"M10-6H x 8", "ISO 4762 M6 x 25", "ISO 4032 M10", "nipple R1/2 x 60",
                             "Tr12x6(P3)-7e LH x 30", "Rd40x1/6 x 40", "blind M8 x 20"}) {
        const auto step = folder() / "one.step", stl = folder() / "one.stl";
        INFO(text);
        CHECK(whorl_run({"make", text, "-o", step.string()}).code == 0);
        CHECK(whorl_run({"make", text, "-o", stl.string()}).code == 0);
        CHECK(fs::file_size(step) > 10000);
        fs::remove(step);
        fs::remove(stl);
    }
}

TEST_CASE("a fit is said in words and as JSON") {
    const Run good = whorl_run({"pair", "M6-6g", "M6-6H", "--json"});
    CHECK(good.code == 0);
    const json j = json::parse(good.out);
    CHECK(j.at("goes_together") == true);
    CHECK(j.at("values").at("pitch_clearance").at("min") == Approx(0.026));
    const Run swapped = whorl_run({"pair", "M6-6H", "M6-6g", "--json"}); // either way round
    CHECK(json::parse(swapped.out) == j);
    const Run bad = whorl_run({"pair", "M10-6g", "M10x0.75-6H"});
    CHECK(bad.code == 1);
    CHECK(bad.out.find("The pitches differ: 1.5 mm on the screw, 0.75 mm in the nut") != std::string::npos);
}

TEST_CASE("series are listed") {
    const Run r = whorl_run({"list", "trapezoidal", "--json"});
    CHECK(r.code == 0);
    const json j = json::parse(r.out);
    CHECK(j.size() > 60);
    for (const auto& row : j)
        CHECK(whorl_run({"show", row.at("designation").get<std::string>()}).code == 0);
    CHECK(whorl_run({"list", "pipe_g"}).out.find("G1/2 A") != std::string::npos);
}

TEST_CASE("a table is made row by row, bad rows reported, and taken up again") {
    const auto table = folder() / "sizes.csv", out = folder() / "sizes";
    std::ofstream(table) << "name,designation\r\n"
                         << "one,M6-6g x 12\r\n"
                         << "\"two, quoted\",\"1/4-20 UNC-2A x 0.5\"\r\n"
                         << "\r\n"
                         << "three,M6x9-6g x 12\r\n"
                         << "four,nonsense\r\n"
                         << ",ISO 4032 M6\r\n";
    const Run r = whorl_run({"make", "--table", table.string(), "-o", out.string(), "--jobs", "2"});
    CHECK(r.code == 1);
    CHECK(fs::exists(out / "one.step"));
    CHECK(fs::exists(out / "two-quoted.step"));
    CHECK(fs::exists(out / "ISO-4032-M6.step"));
    CHECK_FALSE(fs::exists(out / "three.step"));
    CHECK(r.err.find("line 6") != std::string::npos);
    std::ifstream report(out / "report.csv");
    const std::string text((std::istreambuf_iterator<char>(report)), {});
    CHECK(std::count(text.begin(), text.end(), '\n') == 6);
    CHECK(text.find("6,four,nonsense,refused") != std::string::npos);
    CHECK(text.find("5,three,M6x9-6g x 12,stopped") != std::string::npos);
    const Run again = whorl_run({"make", "--table", table.string(), "-o", out.string()});
    CHECK(again.out.find("kept M6-6g x 12") != std::string::npos);
    std::ofstream(table) << "size\nM6\n";
    CHECK(whorl_run({"make", "--table", table.string(), "-o", out.string()}).code == 2);
}

TEST_CASE("show of a whole piece gives its zones and what it measures") {
    const Run r = whorl_run({"show", "ISO 4032 M8", "--json"});
    REQUIRE(r.code == 0);
    const json j = json::parse(r.out);
    CHECK(j["designation"] == "ISO 4032 M8");
    REQUIRE(j["zones"].size() == 2);
    CHECK(j["zones"][0]["designation"] == "hex 13 x 6.8"); // ISO 4032: s = 13, m = 6.8
    CHECK(j["zones"][1]["where"] == "near_bore");
    CHECK(j["values"]["overall_length"]["value"] == 6.8);
    // a plain bar by hand: π/4·10²·20 mm³ of brass, 8.5 g/cm³
    const json bar = json::parse(whorl_run({"show", "round 10 x 20", "--json"}).out);
    CHECK(bar["values"]["volume"]["value"].get<double>() == Approx(std::acos(-1.0) * 25 * 20));
    CHECK(bar["values"]["mass"]["value"].get<double>() == Approx(std::acos(-1.0) * 25 * 20 * 8.5e-3));
    CHECK(bar["values"]["mass"]["unit"] == "g");
    const std::string said = whorl_run({"show", "ISO 4014 M8 x 60"}).out;
    for (const char* line : {"a piece of 3 zones", "M8x1.25-6g x 22", "cm³", "g/cm³, steel"})
        CHECK(said.find(line) != std::string::npos);
    // every starter that can be made can be shown
    for (const char* text : {"ISO 4762 M6 x 25", "nipple R1/2 x 60", "nut Tr20x4", "round 12"})
        CHECK(whorl_run({"show", text}).code == 0);
    CHECK(whorl_run({"show", "ISO 4014 M8 x 60", "--block"}).code == 2);
    CHECK(whorl_run({"show", "ISO 4014 M8"}).code == 2); // no length
}

TEST_CASE("usage errors give exit code 2 and one line") {
    const std::vector<std::vector<std::string>> bad{{},
                                                    {"shwo"},
                                                    {"show"},
                                                    {"show", "bolt"},
                                                    {"show", "round 10", "--at", "3"},
                                                    {"make", "M10"},
                                                    {"make", "M10 x 10", "-o", "a.txt"},
                                                    {"make", "M10-6X x 10", "-o", "a.step"},
                                                    {"make", "-o", "a.step"},
                                                    {"make", "--table", "nothing.csv", "-o", "x"},
                                                    {"pair", "M10-6g", "round 10"},
                                                    {"list", "nonsense"},
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

TEST_CASE("an outline is imported, listed, used, paired and removed") {
    const fs::path home = folder() / "data";
    ::setenv("XDG_DATA_HOME", home.c_str(), 1);
    const fs::path outline = folder() / "rope.csv";
    std::ofstream(outline) << "z,r\n0,10\n1,10,-1.5\n4,10\n5,10\n";
    CHECK(whorl_run({"section", "list"}).out.find("library is empty") != std::string::npos);
    const Run in = whorl_run({"section", "import", outline.string()});
    INFO(in.err);
    REQUIRE(in.code == 0);
    CHECK(in.out.find("0.3 P deep") != std::string::npos);
    const json listed = json::parse(whorl_run({"section", "list", "--json"}).out);
    REQUIRE(listed.size() == 1);
    CHECK(listed[0]["name"] == "rope");
    CHECK(listed[0]["points"].size() == 3);
    CHECK(whorl_run({"section", "show", "rope"}).out.find("bow/P") != std::string::npos);
    const json shown = json::parse(whorl_run({"show", "section rope 30x5", "--json"}).out);
    CHECK(shown["values"]["minor_diameter"]["value"] == Approx(27));
    const fs::path step = folder() / "rope.step";
    CHECK(whorl_run({"make", "section rope 30x5 LH x 30", "-o", step.string()}).code == 0);
    CHECK(fs::file_size(step) > 10000);
    CHECK(whorl_run({"pair", "section rope 30x5", "section rope 30x5"}).code == 0);
    // the same outline at another pitch, under another name
    CHECK(whorl_run({"section", "import", outline.string(), "--name", "wide", "--pitch", "4"}).code == 0);
    CHECK(whorl_run({"pair", "section rope 30x5", "section wide 30x5"}).code == 1);
    CHECK(whorl_run({"section", "import", outline.string(), "--name", "a b"}).code == 2);
    CHECK(whorl_run({"section", "import", "/nowhere.dxf"}).code == 2);
    CHECK(whorl_run({"section", "remove", "rope"}).code == 0);
    CHECK(whorl_run({"section", "remove", "rope"}).code == 2);
    const Run gone = whorl_run({"show", "section rope 30x5"});
    CHECK(gone.code == 2);
    CHECK(gone.err.find("There are: wide") != std::string::npos);
    ::unsetenv("XDG_DATA_HOME");
}

TEST_CASE("gears are shown, paired, made and refused with reasons") {
    const auto shown = whorl_run({"show", "gear m2 z24 a20 b12", "--json"});
    REQUIRE(shown.code == 0);
    const json j = json::parse(shown.out);
    CHECK(j["designation"] == "gear m2 z24 a20 b12");
    CHECK(j["face_width"] == 12);
    for (const auto& [key, value] : {std::pair{"pitch_diameter", 48.0}, std::pair{"base_diameter", 45.105246},
                                     std::pair{"tip_diameter", 52.0}, std::pair{"root_diameter", 43.0},
                                     std::pair{"span_measurement", 15.432923}})
        CHECK(j["values"][key]["value"].get<double>() == Approx(value).margin(2e-5));
    CHECK(j["values"]["base_diameter"]["source"].get<std::string>().find("ISO 21771") != std::string::npos);
    CHECK(whorl_run({"show", "gear m2 z11 b12"}).out.find("undercut") != std::string::npos);
    CHECK(whorl_run({"show", "gear m2 z9 x0.8 b10"}).code == 1); // pointed
    CHECK(whorl_run({"show", "gear m2 z4"}).code == 2);
    CHECK(whorl_run({"show", "gear m2"}).err.find("number of teeth") != std::string::npos);

    const auto pair = whorl_run({"pair", "gear m2 z19 b12", "gear m2 z73 b12", "--json"});
    REQUIRE(pair.code == 0);
    const json m = json::parse(pair.out);
    CHECK(m["goes_together"] == true);
    CHECK(m["values"]["centre_distance"]["value"].get<double>() == Approx(92));
    CHECK(m["values"]["contact_ratio"]["value"].get<double>() == Approx(1.6786).margin(1e-3));
    CHECK(whorl_run({"pair", "gear m2 z19", "gear m3 z73"}).code == 1);
    CHECK(whorl_run({"pair", "gear m2 z19", "gear m2 z73", "--centre", "91"}).out.find("overlap") !=
          std::string::npos);
    CHECK(whorl_run({"pair", "gear m2 z19", "M10"}).code == 2);

    const json at = json::parse(whorl_run({"show", "gear m2 z24", "--at", "50", "--json"}).out);
    CHECK(at["values"]["thickness_at"]["value"].get<double>() == Approx(2.4092).margin(5e-5));
    CHECK(whorl_run({"show", "gear m2 z24", "--at", "60"}).err.find("off it") != std::string::npos);
    CHECK(whorl_run({"show", "M10", "--block"}).code == 2);
    CHECK(json::parse(whorl_run({"show", "gear m2 z24 b12", "--block", "--json"}).out)["Number of teeth"] ==
          "24");
    const json train = json::parse(whorl_run({"train", WHORL_SOURCE_DIR "/demo/saltmarsh-tide-gauge.whorl",
                                              "--driver", "Zero knob pinion", "--json"})
                                       .out);
    CHECK(train["members"][1]["piece"] == "Datum rack");
    CHECK(train["members"][1]["travel_per_turn"].get<double>() == Approx(-20.943951));
    CHECK(whorl_run({"train", WHORL_SOURCE_DIR "/demo/saltmarsh-tide-gauge.whorl", "--driver", "Nobody"})
              .code == 2);

    const auto ratio = whorl_run({"ratio", "73/19", "--json"});
    REQUIRE(ratio.code == 0);
    CHECK(json::parse(ratio.out)[0]["second"] == 73);
    CHECK(whorl_run({"ratio", "3.14159265", "--within", "0"}).code == 2);

    const auto dir = std::filesystem::temp_directory_path() / "whorl-gear-test";
    std::filesystem::create_directories(dir);
    for (const char* name : {"g.step", "g.stl", "g.svg", "g.dxf"}) {
        INFO(name);
        CHECK(whorl_run({"make", "gear m1.25 z19 helix 15 b10", "-o", (dir / name).string()}).code == 0);
        CHECK(std::filesystem::file_size(dir / name) > 3000);
    }
    CHECK(whorl_run({"make", "gear m2 z40 b14 bore 12 key web", "-o", (dir / "wheel.step").string()}).code ==
          0);
    CHECK(whorl_run({"make", "M10 x 20", "-o", (dir / "thread.dxf").string()}).code == 2);
    CHECK_FALSE(std::filesystem::exists(dir / "thread.dxf"));
    CHECK(whorl_run({"make", "gear m2 z9 x0.8 b10", "-o", (dir / "pointed.step").string()}).code == 1);
    CHECK_FALSE(std::filesystem::exists(dir / "pointed.step"));
    std::filesystem::remove_all(dir);
}

TEST_CASE("racks are shown, paired with gears, made and refused with reasons") {
    const auto shown = whorl_run({"show", "rack m1 z30 plain 12 b8 h8", "--json"});
    REQUIRE(shown.code == 0);
    const json j = json::parse(shown.out);
    CHECK(j["family"] == "rack");
    for (const auto& [key, value] : {std::pair{"circular_pitch", 3.141593}, std::pair{"length", 120.546504},
                                     std::pair{"reference_height", 7.0}, std::pair{"over_pin", 8.079275}})
        CHECK(j["values"][key]["value"].get<double>() == Approx(value).margin(2e-5));
    CHECK(whorl_run({"show", "rack m1 z30 h2"}).code == 1);
    CHECK(whorl_run({"show", "rack m1"}).err.find("number of teeth") != std::string::npos);

    // either way round
    for (const auto& [a, b] : {std::pair{"gear m1 z20 b8", "rack m1 z30 b8 h8"},
                               std::pair{"rack m1 z30 b8 h8", "gear m1 z20 b8"}}) {
        const auto pair = whorl_run({"pair", a, b, "--json"});
        REQUIRE(pair.code == 0);
        const json m = json::parse(pair.out);
        CHECK(m["second"].get<std::string>().find("rack") == 0);
        CHECK(m["values"]["travel_per_turn"]["value"].get<double>() == Approx(62.831853));
        CHECK(m["values"]["centre_distance"]["value"].get<double>() == Approx(10));
        CHECK(m["values"]["mounting_distance"]["value"].get<double>() == Approx(17));
    }
    CHECK(whorl_run({"pair", "gear m1 z20", "rack m1 z30", "--centre", "9.9"}).code == 1);
    CHECK(whorl_run({"pair", "rack m1 z20", "rack m1 z30"}).code == 2);

    const auto dir = std::filesystem::temp_directory_path() / "whorl-rack-test";
    std::filesystem::create_directories(dir);
    for (const char* name : {"r.step", "r.stl", "r.svg", "r.dxf"}) {
        INFO(name);
        CHECK(whorl_run({"make", "rack m1.25 z19 helix 15 b10 h12 plain 5", "-o", (dir / name).string()})
                  .code == 0);
        CHECK(std::filesystem::file_size(dir / name) > 1500);
    }
    CHECK(whorl_run({"make", "rack m2 z9 h3", "-o", (dir / "thin.step").string()}).code == 1);
    CHECK_FALSE(std::filesystem::exists(dir / "thin.step"));
    std::filesystem::remove_all(dir);
}

TEST_CASE("another gear is compared on the command line") {
    const auto other = (folder() / "other.dxf").string();
    REQUIRE(whorl_run({"make", "gear m2 z19 thin 0.1", "-o", other}).code == 0);
    const auto r = whorl_run({"compare", other, "gear m2 z19", "--json"});
    REQUIRE(r.code == 0);
    const json j = json::parse(r.out);
    CHECK(j["whole"] == true);
    CHECK(j["largest"].get<double>() < -0.045);
    const double there =
        j["largest_at_diameter"].get<double>(); // on the tooth: df = 2·(19 − 2.5), da = 2·(19 + 2)
    CHECK(there > 33 - 0.01);
    CHECK(there < 42 + 0.01);
    CHECK(j["profile"].size() > 5);
    CHECK(whorl_run({"compare", other, "gear m2 z19", "--within", "0.01"}).code == 1);
    CHECK(whorl_run({"compare", other, "gear m2 z19 thin 0.1", "--within", "0.001"}).code == 0);
    CHECK(whorl_run({"compare", other, "gear m2 z19"}).out.find("largest difference") != std::string::npos);
    CHECK(whorl_run({"compare", other, "gear m2 z90"}).code == 2);
    CHECK(whorl_run({"compare", "/nowhere.dxf", "gear m2 z19"}).code == 2);
    CHECK(whorl_run({"compare", other, "M10"}).code == 2);

    const auto side = (folder() / "side.dxf").string();
    REQUIRE(whorl_run({"make", "rack m2 z12 b20 h20 thin 0.1", "-o", side}).code == 0);
    const auto rack = whorl_run({"compare", side, "rack m2 z12 b20 h20", "--json"});
    REQUIRE(rack.code == 0);
    const json k = json::parse(rack.out);
    CHECK(k["largest"].get<double>() == Approx(-0.047).margin(0.002));
    CHECK(k["profile"].size() == 8);
    CHECK(whorl_run({"compare", side, "rack m2 z12 b20 h20", "--within", "0.01"}).code == 1);
    CHECK(whorl_run({"compare", side, "rack m2 z12 b20 h20 thin 0.1", "--within", "0.001"}).code == 0);
    CHECK(whorl_run({"compare", side, "rack m2 z12 b20 h20"}).out.find("over the reference line") !=
          std::string::npos);
    CHECK(whorl_run({"compare", side, "rack m5 z12 b20 h40"}).code == 2);
    CHECK(whorl_run({"compare", other, "rack m2 z12 b20 h20"}).code == 2);
    CHECK(whorl_run({"compare", "rack.step", "rack m2 z12 b20 h20"}).code == 2);
}

TEST_CASE("three pieces of colliding names are three files, and a file is kept only if it is what was made") {
    const fs::path table = folder() / "collide.csv", out = folder() / "collide";
    std::ofstream(table) << "designation,name\nround 6 x 4,a\nround 6 x 5,a\nround 6 x 6,a-2\n";
    const auto make = [&] {
        return whorl_run({"make", "--table", table.string(), "-o", out.string(), "--format", "stl"});
    };
    CHECK(make().code == 0);
    for (const char* name : {"a.stl", "a-2.stl", "a-3.stl"})
        CHECK(fs::file_size(out / name) > 84);
    const auto count = [](const std::string& text, const std::string& word) {
        std::size_t n = 0;
        for (auto at = text.find(word); at != std::string::npos; at = text.find(word, at + 1))
            ++n;
        return n;
    };
    CHECK(count(make().out, " kept ") == 3);
    std::ofstream(out / "a.stl").close(); // empty
    CHECK(count(make().out, " kept ") == 2);
    fs::remove(out / "a-2.stl");
    fs::create_directories(out / "a-2.stl"); // a folder
    CHECK(make().code == 1);
    fs::remove(out / "a-2.stl");
    make();
    std::ofstream(table) << "designation,name\nround 6 x 9,a\nround 6 x 5,a\nround 6 x 6,a-2\n";
    CHECK(count(make().out, " kept ") == 2); // the first row now is of another length
    std::ofstream(table) << "designation,name\rround 6 x 9,cr\r";
    CHECK(make().code == 0);
    CHECK(fs::exists(out / "cr.stl"));
}

TEST_CASE("what makes no sense on the command line is named") {
    const auto says = [](std::vector<std::string> words, const std::string& what) {
        const Run r = whorl_run(std::move(words));
        INFO(r.err);
        CHECK(r.code == 2);
        CHECK(r.err.find(what) != std::string::npos);
    };
    says({"export", demo, "-o", (folder() / "none").string(), "--format", ","}, "No format is named");
    says({"frobnicate", "M6"}, "there is no command 'frobnicate'");
    says({"make", "M6 x 10", "-o", (folder() / "x.stl").string(), "--chord", "nan"}, "'nan' is not a number");
    says({"compare", "x.dxf", "gear m2 z24", "--within", "nan"}, "'nan' is not a number");
    says({"show", "gear m2 m3 z24"}, "'m3' says m a second time");
    CHECK(!fs::exists(folder() / "none" / "x"));
}

TEST_CASE("gears are compared with what this program wrote of them, in every format") {
    for (const char* ending : {".svg", ".dxf", ".step", ".stl"}) {
        INFO(ending);
        const fs::path file = folder() / (std::string("self") + ending);
        REQUIRE(whorl_run({"make", "gear m2 z17 b4", "-o", file.string(), "--chord", "0.002"}).code == 0);
        CHECK(whorl_run({"compare", file.string(), "gear m2 z17", "--within", "0.005"}).code == 0);
        CHECK(whorl_run({"compare", file.string(), "gear m2 z17 x0.1", "--within", "0.005"}).code == 1);
    }
}

TEST_CASE("areas of inch threads are told in square inches as well") {
    const json j = json::parse(whorl_run({"show", "1/4-20 UNC-2A", "--json"}).out);
    CHECK(j["values"]["stress_area"]["value"].get<double>() == Approx(20.53).margin(0.02));
    CHECK(j["values"]["stress_area"]["own_unit"]["value"].get<double>() == Approx(0.0318).margin(5e-5));
    CHECK(j["values"]["stress_area"]["own_unit"]["unit"] == "in2");
}

TEST_CASE("a train that locks is said, and gives exit code 1") {
    using namespace whorl;
    Job job;
    for (const char* g : {"gear m1 z20 b5", "gear m1 z30 b5", "gear m1 z40 b5"})
        job = add_piece(job, piece_of(g));
    job = add_pair(add_pair(job, {0, 0}, {1, 0}), {1, 0}, {2, 0});
    const std::string path = (folder() / "train.whorl").string();
    save_job(job, path);
    CHECK(whorl_run({"train", path}).code == 0);
    save_job(add_pair(job, {2, 0}, {0, 0}), path);
    const Run locked = whorl_run({"train", path});
    CHECK(locked.code == 1);
    CHECK(locked.out.find("locks") != std::string::npos);
    CHECK(json::parse(whorl_run({"train", path, "--json"}).out)["locks"] == true);
}

TEST_CASE("cells of a table are read as RFC 4180 has them") {
    using Cells = std::vector<std::string>;
    CHECK(whorl::csv_cells("a,b,,c") == Cells{"a", "b", "", "c"});
    CHECK(whorl::csv_cells("\"1/2\"\" pipe\",\"a, b\", c ") == Cells{"1/2\" pipe", "a, b", "c"});
    CHECK(whorl::csv_cells("\"\"\"\"") == Cells{"\""});
    CHECK(whorl::csv_cells("") == Cells{""});
}

TEST_CASE("pieces together as one file, or the sentence why not") {
    const auto folder = std::filesystem::temp_directory_path() / "whorl-together";
    std::filesystem::create_directories(folder);
    const std::string csv = (folder / "all.csv").string();
    const Run r = whorl_run({"export", demo, "--together", "-o", csv, "--chord", "0.2"});
    CHECK(r.code == 0);
    CHECK_THAT(r.out, Catch::Contains("36 pieces as they stand"));
    CHECK_THAT(whorl::read_file(csv, 1u << 20), Catch::Contains("\"Pillar nut\",0,0,28.6,0,0,1,"));
    const auto refused = [&](std::vector<std::string> words, const char* why) {
        const Run bad = whorl_run(std::move(words));
        CHECK_THAT(bad.err, Catch::Contains(why));
        return bad.code;
    };
    CHECK(refused({"export", demo, "--together", "-o", "all.obj"}, "must end in .step") == 2);
    CHECK(refused({"export", demo, "--together", "-o", csv, "--format", "step"}, "leave --format out") == 2);
    const auto empty = folder / "empty.whorl";
    whorl::save_job(whorl::Job{}, empty);
    CHECK(refused({"export", empty.string(), "--together", "-o", csv}, "the job has no piece") == 1);
    std::filesystem::remove_all(folder);
}

TEST_CASE("pieces of a job are paired, placed and listed by the command line") {
    const auto folder = std::filesystem::temp_directory_path() / "whorl-arrange";
    std::filesystem::create_directories(folder);
    whorl::Job job;
    for (const char* line : {"ISO 4017 M10 x 40", "ISO 4032 M10", "round 20 x 10", "gear m2 z20 b10", "gear m2 z31 b10"})
        job.pieces.push_back(whorl::piece_of(line)), job.pieces.back().name = line;
    const std::string file = (folder / "job.whorl").string(), other = (folder / "other.whorl").string();
    whorl::save_job(job, file);
    const Run made = whorl_run({"job", file, "--pair", "ISO 4017 M10 x 40", "2", "--pair", "gear m2 z20 b10:1", "5"});
    INFO(made.err);
    CHECK(made.code == 0);
    CHECK(whorl::load_job(file).pairs.size() == 2);
    CHECK_THAT(made.out, Catch::Contains("by 'ISO 4017 M10 x 40', height "));
    CHECK_THAT(made.out, Catch::Contains("around it at 0°, as is usual"));
    const Run placed = whorl_run({"job", file, "--number", "2", "18.5", "--number", "5", "90", "--place", "3",
                                  "100 0 0 turned 0 90 0", "-o", other});
    CHECK(placed.code == 0);
    CHECK(whorl::load_job(file).pairs[0].stands.text.empty()); // the file itself is as it was
    CHECK(whorl::load_job(other).pairs[0].stands.text == "18.5");
    CHECK_THAT(placed.out, Catch::Contains("height 18.5 mm\n"));
    CHECK_THAT(placed.out, Catch::Contains("stands at 100 0 0 turned 0 90 0"));
    const json j = json::parse(whorl_run({"job", other, "--json"}).out);
    CHECK(j["pieces"][1]["number"]["at"].get<double>() == Approx(18.5));
    CHECK(j["pieces"][1]["number"]["usual"] == false);
    CHECK(j["pieces"][1]["number"]["from"].get<double>() < 18.5);
    CHECK(j["pieces"][1]["by"] == "ISO 4017 M10 x 40");
    CHECK(j["pieces"][2]["origin"] == json::array({100, 0, 0}));
    CHECK(j["pieces"][2]["axis"][0].get<double>() == Approx(1));
    CHECK(j["pieces"][4]["number"]["at"].get<double>() == Approx(90));
    const auto& gear = j["pieces"][4]["origin"];
    CHECK(gear[1].get<double>() == Approx(51)); // m(z1 + z2)/2 above
    // the table of placements says the same
    const std::string csv = (folder / "all.csv").string();
    CHECK(whorl_run({"export", other, "--together", "-o", csv, "--chord", "0.2"}).code == 0);
    CHECK_THAT(whorl::read_file(csv, 1u << 20), Catch::Contains("\"round 20 x 10\",100,0,0,1,0,0,0,0,-1,"));
    // a pair alone
    CHECK(whorl_run({"export", other, "--together", "-o", csv, "--piece", "1", "--piece", "ISO 4032 M10", "--chord", "0.2"}).code == 0);
    const std::string two = whorl::read_file(csv, 1u << 20);
    CHECK(std::count(two.begin(), two.end(), '\n') == 3);
    CHECK(whorl_run({"job", file, "--unpair", "1", "2"}).code == 0);
    CHECK(whorl::load_job(file).pairs.size() == 1);
    // beyond its range: kept, said, and no file of it all
    const Run beyond = whorl_run({"job", other, "--number", "2", "500"});
    CHECK(beyond.code == 1);
    CHECK_THAT(beyond.err, Catch::Contains("asks for 500 mm; it goes from "));
    CHECK(whorl_run({"export", other, "--together", "-o", csv}).code == 1);
    const auto refused = [&](std::vector<std::string> words, const char* why) {
        words.insert(words.begin(), {"job", file});
        const Run bad = whorl_run(std::move(words));
        CHECK_THAT(bad.err, Catch::Contains(why));
        CHECK(bad.code == 2);
    };
    refused({"--pair", "1", "nothing"}, "There is no piece 'nothing' in the job");
    refused({"--pair", "1:9", "2"}, "no zone 9");
    refused({"--pair", "1", "3"}, "These don't go together");
    refused({"--unpair", "1", "3"}, "are no pair");
    refused({"--number", "3", "5"}, "stands by no pair; say where it stands with --place");
    refused({"--number", "5", "up"}, "'up'");
    refused({"--place", "3", "1 2"}, "three lengths");
    std::filesystem::remove_all(folder);
}

TEST_CASE("a pair that goes together but will not turn is told from one that will") {
    const Run tight = whorl_run({"pair", "SQ20x4", "SQ20x4 internal", "--json"});
    CHECK(tight.code == 0);
    CHECK(json::parse(tight.out)["goes_together"] == true);
    CHECK(json::parse(tight.out)["will_turn"] == false);
    CHECK(whorl_run({"pair", "SQ20x4", "SQ20x4 internal"}).out.find("will not turn") != std::string::npos);
    const json usual = json::parse(whorl_run({"pair", "M10-6g", "M10-6H", "--json"}).out);
    CHECK(usual["will_turn"] == true);
    CHECK(usual["values"]["least_clearance"]["value"].get<double>() ==
          Approx(usual["values"]["flank_clearance"]["value"].get<double>()));
    // and of other pitches neither
    const json other = json::parse(whorl_run({"pair", "M10-6g", "M10x1-6H", "--json"}).out);
    CHECK(other["goes_together"] == false);
    CHECK(other["will_turn"] == false);
}

TEST_CASE("a spring is shown with the agreed keys, made and drawn") {
    const Run r = whorl_run({"show", "spring d2 D20 L50 n7 closed ground RH", "--json"});
    REQUIRE(r.code == 0);
    const json v = json::parse(r.out).at("values");
    for (const auto& [key, value] :
         {std::pair{"wire_diameter", 2.0}, std::pair{"mean_diameter", 20.0},
          std::pair{"outside_diameter", 22.0}, std::pair{"inside_diameter", 18.0},
          std::pair{"free_length", 50.0}, std::pair{"pitch", 46 / 7.0}, std::pair{"active_coils", 7.0},
          std::pair{"total_coils", 9.0}, std::pair{"index", 10.0}, std::pair{"spring_rate", 2.91071},
          std::pair{"shear_modulus", 81500.0}, std::pair{"solid_length", 18.0},
          std::pair{"stress_at_solid", 592.966}, std::pair{"wire_length", 567.928}, std::pair{"mass", 13.677},
          std::pair{"natural_frequency", 259.1}}) {
        INFO(key);
        REQUIRE(v.contains(key));
        CHECK(v[key].at("value").get<double>() == Approx(value).epsilon(1e-4));
        CHECK_FALSE(v[key].at("source").get<std::string>().empty());
    }
    const json waist = json::parse(whorl_run({"show", "spring d2.5 D52/30/52 L44 nt5 open", "--json"}).out);
    CHECK(waist["values"]["mean_diameter"]["min"] == 30.0);
    CHECK(waist["values"]["mean_diameter"]["max"] == 52.0);
    CHECK(waist["findings"][0]["id"] == "large_index");
    CHECK(whorl_run({"show", "spring d3 D10 L20 n9"}).code == 1); // the coils merge
    CHECK(whorl_run({"show", "spring d2 D20"}).code == 2);
    for (const char* extension : {"step", "stl", "svg"}) {
        const fs::path file = folder() / (std::string("spring.") + extension);
        CHECK(whorl_run({"make", "spring d2 D20 L50 n7 closed ground", "-o", file.string()}).code == 0);
        CHECK(fs::file_size(file) > 1000);
    }
}

TEST_CASE("fields of the spec sheet are set from the command line") {
    const fs::path file = folder() / "set.stl";
    const Run plain = whorl_run({"make", "M10 x 20", "-o", file.string()});
    const Run set =
        whorl_run({"make", "M10 x 20", "--set", "length=30", "--set", "near_end=flat", "-o", file.string()});
    CHECK(plain.code == 0);
    CHECK(set.code == 0);
    CHECK(set.out.find("x 30") != std::string::npos);
    // of a screw the thread is meant, not the head
    CHECK(whorl_run({"make", "ISO 4017 M8 x 30", "--set", "geometry=simplified", "-o", file.string()}).code ==
          0);
    const Run unknown = whorl_run({"make", "M10 x 20", "--set", "colour=red", "-o", file.string()});
    CHECK(unknown.code == 2);
    CHECK(unknown.err.find("length") != std::string::npos);
    // the piece's own: its colour goes into the file
    const fs::path coloured = folder() / "pin.step";
    REQUIRE(whorl_run({"make", "round 16 x 40", "--set", "finish=steel #7A5AA8", "--set", "cross_hole=5",
                       "-o", coloured.string()})
                .code == 0);
    std::ifstream made(coloured);
    const std::string step((std::istreambuf_iterator<char>(made)), {});
    CHECK_THAT(step, Catch::Contains("COLOUR_RGB('',0.4784"));
    // a zone's alone, beside the piece's
    REQUIRE(whorl_run({"make", "ISO 4017 M8 x 30", "--set", "zone_finish=#102030", "-o", coloured.string()})
                .code == 0);
    std::ifstream own(coloured);
    const std::string both((std::istreambuf_iterator<char>(own)), std::istreambuf_iterator<char>());
    CHECK_THAT(both, Catch::Contains("COLOUR_RGB('',6.27") && Catch::Contains("COLOUR_RGB('',0.55"));
    // a vessel says what it holds, in millilitres
    const Run cup = whorl_run({"show", "cup 80 x 95", "--json"});
    const json vessel = json::parse(cup.out);
    CHECK(double(vessel["values"]["contents"]["value"]) == Approx(291.8).margin(0.2));
    CHECK(double(vessel["values"]["least_wall"]["value"]) == Approx(2).margin(3e-3));
    CHECK(vessel["values"].contains("thickest_wall"));
    const Run gold = whorl_run({"make", "M10 x 20", "--set", "finish=gold", "-o", coloured.string()});
    CHECK(gold.code != 0);
    CHECK_THAT(gold.err, Catch::Contains("There is no finish 'gold'"));
    const Run bad = whorl_run({"make", "M10 x 20", "--set", "starts=9", "-o", file.string()});
    CHECK(bad.code == 2);
    CHECK(bad.err.find("1 to 8 starts") != std::string::npos);
}

TEST_CASE("show, make and motion of a cam") {
    const char* text = "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120, dwell 60; roller 8; b10";
    const Run r = whorl_run({"show", text, "--json"});
    REQUIRE(r.code == 0);
    const json j = json::parse(r.out);
    for (const char* key : {"base_radius", "prime_radius", "stroke", "closure_gap", "max_pressure_angle",
                            "least_radius_of_curvature", "max_velocity", "max_acceleration", "max_jerk"}) {
        INFO(key);
        CHECK(j.at("values").contains(key));
    }
    CHECK(j["values"]["prime_radius"]["value"] == 24);
    CHECK(j["values"]["closure_gap"]["value"] == 0);
    // tan φ = s'/(rp + s), found by hand at the largest
    CHECK(j["values"]["max_pressure_angle"]["value"].get<double>() == Approx(18.435).epsilon(1e-4));
    for (const char* ending : {"step", "stl", "svg", "dxf", "csv"}) {
        const std::string file = (folder() / (std::string("cam.") + ending)).string();
        INFO(ending);
        CHECK(whorl_run({"make", text, "-o", file}).code == 0);
        CHECK(fs::file_size(file) > 300);
    }
    // a screw has no points
    const Run none = whorl_run({"make", "M10 x 20", "-o", (folder() / "screw.csv").string()});
    CHECK(none.code == 2);
    CHECK_THAT(none.err, Catch::Contains("Only a cam has points"));

    const Run motion = whorl_run(
        {"motion", "rise 10 in 120 cycloidal, dwell 60, return in 120, dwell", "--step", "60", "--csv"});
    REQUIRE(motion.code == 0);
    std::istringstream lines(motion.out);
    std::string line;
    std::getline(lines, line);
    CHECK(line == "angle_deg,lift_mm,velocity_mm_per_rad,acceleration_mm_per_rad2,jerk_mm_per_rad3");
    std::vector<std::string> rows;
    while (std::getline(lines, line))
        rows.push_back(line);
    REQUIRE(rows.size() == 7);
    CHECK(rows[1].substr(0, 6) == "60,5,9");      // half way: 2·10/(2π/3) mm/rad
    CHECK(rows[3] == "180,10,0,0,-42.971834635"); // the return begins: the cycloid's jerk
    const Run fast = whorl_run(
        {"motion", "rise 10 in 120 cycloidal, dwell, return in 120", "--step", "60", "--csv", "--rpm", "60"});
    CHECK_THAT(fast.out, Catch::Contains("60,5,60,"));
    const Run open = whorl_run({"motion", "rise 10 in 120 harmonic, return 9 in 120"});
    CHECK(open.code == 0);
    CHECK_THAT(open.out, Catch::Contains("120° of the turn are not said") &&
                             Catch::Contains("ends 1 mm from where it began") &&
                             Catch::Contains("acceleration jumps"));
    CHECK(whorl_run({"motion", "rise 10 in 120, wait 60"}).code == 2);
    CHECK(whorl_run({"motion", "rise 10 in 120", "--step", "0"}).code == 2);
    const char* drum =
        "drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150, dwell; groove 8 wide 6 deep";
    const Run track = whorl_run({"show", drum, "--json"});
    REQUIRE(track.code == 0);
    const json t = json::parse(track.out);
    CHECK(t["family"] == "drum cam");
    CHECK(t["values"]["track_length"]["value"].get<double>() == Approx(226.194671));
    CHECK(t["values"]["closure_gap"]["value"] == 0);
    CHECK(t["values"]["max_pressure_angle"]["value"].get<double>() ==
          Approx(22.997).epsilon(1e-4)); // atan(2·20/(150°·36))
    for (const char* ending : {"step", "stl", "svg", "dxf", "csv"}) {
        const std::string file = (folder() / (std::string("drum.") + ending)).string();
        INFO(ending);
        CHECK(whorl_run({"make", drum, "-o", file}).code == 0);
        CHECK(fs::file_size(file) > 300);
    }
    CHECK(whorl_run({"motion", drum, "--csv"}).code == 0);
    const Run wrong = whorl_run({"show", "cam r20: rise 10 in 120, wait 60; roller 8"});
    CHECK(wrong.code == 2);
    CHECK_THAT(wrong.err, Catch::Contains("A timing is made of") && Catch::Contains("at character 26"));
}

TEST_CASE("grooves on the command line: own sections, from a file too, milled ends, the stand-in") {
    const json own =
        json::parse(whorl_run({"show", "groove own 0:0 1:1.5 3:1.5 4:0 pitch 10 on 40 x 60", "--json"}).out);
    CHECK(own["values"]["groove_width"]["value"] == 4.0);
    CHECK(own["values"]["groove_depth"]["value"] == 1.5);
    CHECK(own["values"]["across_grooves"]["value"] == 37.0);
    const fs::path outline = folder() / "groove.csv", target = folder() / "groove.step";
    std::ofstream(outline) << "0,0\n2,0\n3,-2\n5,-2\n6,0\n8,0\n";
    const Run made =
        whorl_run({"make", "groove rect 2 x 1 pitch 12 on 40 x 50", "--points", outline.string(), "--set",
                   "near_end=milled", "--set", "far_end=milled", "-o", target.string()});
    INFO(made.err);
    CHECK(made.code == 0);
    CHECK_THAT(made.out, Catch::Contains("a section through 4 points"));
    CHECK_THAT(made.out, Catch::Contains("groove own 0:0 1:2 3:2 4:0 pitch 12 on 40"));
    CHECK(fs::file_size(target) > 10000);
    const Run plain = whorl_run({"make", "groove rect 2 x 1 pitch 12 on 40 x 50", "--set",
                                 "geometry=simplified", "-o", target.string()});
    CHECK(plain.code == 0);
    CHECK_THAT(plain.out, Catch::Contains("simplified"));
    fs::remove(target);
    const Run thread = whorl_run({"make", "M10 x 30", "--points", outline.string(), "-o", target.string()});
    CHECK(thread.code != 0);
    CHECK_THAT(thread.err, Catch::Contains("for silhouettes and grooves"));
    const Run lopsided = whorl_run({"make", "groove own 0:0 1:2 4:0 pitch 12 on 40 x 50", "--set",
                                    "far_end=milled", "-o", target.string()});
    CHECK(lopsided.code != 0);
    CHECK_THAT(lopsided.err, Catch::Contains("the same on both"));
    CHECK_FALSE(fs::exists(target));
    const Run upright = whorl_run({"show", "groove own 0:0 2:1 1:1 3:0 pitch 12 on 40 x 50"});
    CHECK(upright.code != 0);
    CHECK_THAT(upright.err, Catch::Contains("overhangs"));
}

TEST_CASE("a bent bar says its smallest bend radius where its material has one") {
    const json clamp = json::parse(whorl_run({"show", "u-clamp M8 for 60 x 80", "--json"}).out);
    CHECK(clamp["values"]["least_bend_radius"]["value"].get<double>() == Approx(4 / 0.26).margin(1e-3));
    const json elbow = json::parse(whorl_run({"show", "elbow G3/8 30", "--json"}).out); // brass
    CHECK_FALSE(elbow["values"].contains("least_bend_radius"));
}

TEST_CASE("a table's further columns are fields, and unknown ones are refused with their names") {
    const auto table = folder() / "fields.csv", out = folder() / "fields";
    std::ofstream(table)
        << "name,designation,length,tolerance_class\nshort,M10 x 25,,\nlong,M10 x 25,40,6h\n";
    const Run r = whorl_run({"make", "--table", table.string(), "-o", out.string(), "--format", "stl"});
    INFO(r.err);
    CHECK(r.code == 0);
    const auto highest = [&](const char* name) {
        double z = 0;
        std::ifstream in(out / name, std::ios::binary);
        std::string content((std::istreambuf_iterator<char>(in)), {});
        for (std::size_t i = 84; i + 50 <= content.size(); i += 50)
            for (int k = 1; k < 4; ++k) {
                float v[3];
                std::memcpy(v, content.data() + i + 12 * k, sizeof v);
                z = std::max(z, double(v[2]));
            }
        return z;
    };
    CHECK(highest("short.stl") == Approx(25));
    CHECK(highest("long.stl") == Approx(40));
    std::ofstream(table) << "designation,lenght\nM10 x 25,40\n";
    const Run wrong = whorl_run({"make", "--table", table.string(), "-o", out.string()});
    CHECK(wrong.code == 2);
    CHECK(wrong.err.find("'lenght'") != std::string::npos);
    CHECK(wrong.err.find("designation, name") != std::string::npos);
}

TEST_CASE("export says what has no drawing, and stops at a misfit") {
    using namespace whorl;
    const auto path = (folder() / "fits.whorl").string();
    Job job = add_piece({}, piece_of("round 20 x 10"));
    job = add_piece(job, piece_of("M10 x 30"));
    job = add_counterpart(job, 1, 0);
    save_job(job, path);
    const Run svg = whorl_run({"export", path, "-o", (folder() / "svgs").string(), "--format", "svg"});
    CHECK(svg.code == 0);
    CHECK(svg.out.find("round 20 x 10: there is no drawing of it to write as SVG") != std::string::npos);
    job.pairs[0].follows = false;
    job = apply(job, {2, job.pairs[0].second.zone, field::pitch, "1.25", LengthUnit::millimetre});
    save_job(job, path);
    const Run check = whorl_run({"check", path});
    CHECK(check.code == 1);
    CHECK(check.out.find("stop: With M10") != std::string::npos);
    const auto out = folder() / "misfit";
    const Run r = whorl_run({"export", path, "-o", out.string(), "--format", "stl"});
    CHECK(r.code == 1);
    CHECK(r.err.find("not exported") != std::string::npos);
    CHECK(std::distance(fs::directory_iterator(out), fs::directory_iterator{}) == 1); // the disc
}

TEST_CASE("show takes fields, and every piece is weighed") {
    const auto values = [](std::vector<std::string> words) {
        words.insert(words.begin(), "show");
        words.push_back("--json");
        const Run r = whorl_run(words);
        INFO(r.err);
        REQUIRE(r.code == 0);
        return json::parse(r.out).at("values");
    };
    // ½·m·r² of a disc, of brass
    const json disc = values({"round 20 x 10"});
    const double mass = disc["mass"]["value"];
    CHECK(disc["moment_of_inertia"]["value"].get<double>() == Approx(mass * 100 / 2).epsilon(1e-5));
    const json tube = values({"round 20 x 30 bore 10"});
    CHECK(tube["moment_of_inertia"]["value"].get<double>() ==
          Approx(tube["mass"]["value"].get<double>() * (100 + 25) / 2).epsilon(1e-5));
    for (const char* text :
         {"cam r20: rise 10 in 120, dwell 60, return in 120, dwell; roller 8; b10", "bend d8 90 r20",
          "gear m2 z24 b12", "rack m2 z20 b20 h20", "spring d2 D20 L50 n7", "M10 x 40",
          "groove rect 2 x 1.5 pitch 10 on 40 x 60", "knurl RAA 1 on 20 x 15"}) {
        INFO(text);
        const json v = values({text});
        CHECK(v.contains("volume"));
        CHECK(v.contains("mass"));
        CHECK(v.contains("moment_of_inertia") == (std::string(text).find("rack") == std::string::npos &&
                                                  std::string(text).find("bend") == std::string::npos));
    }
    CHECK(values({"bend d8 90 r20"})["developed_length"]["value"].get<double>() > 31);
    const json longer = values({"M10 x 25", "--set", "length=40"});
    CHECK(longer["overall_length"]["value"].get<double>() == Approx(40));
    CHECK(longer.contains("pitch_diameter"));
    const Run r = whorl_run({"show", "gear m2 z24 b12", "--set", "cross_hole=4"});
    CHECK(r.code == 2);
    CHECK(r.err.find("a gear") != std::string::npos);
    CHECK(r.err.find("The fields here are") != std::string::npos);
    const json inch = values({"spring d1/8 D1 1/2 L3 n6 in"});
    CHECK(inch["spring_rate_lbf_per_in"]["value"].get<double>() ==
          Approx(inch["spring_rate"]["value"].get<double>() / 0.175126835).epsilon(1e-6));
    CHECK(inch["force_at_solid_lbf"]["value"].get<double>() ==
          Approx(inch["force_at_solid"]["value"].get<double>() / 4.4482216).epsilon(1e-6));
}

TEST_CASE("a pair of two screws offers the nut, and an asked centre distance says that it was asked") {
    const Run two = whorl_run({"pair", "M16", "M16"});
    CHECK(two.code == 1);
    CHECK(two.out.find("whorl pair \"M16\" \"M16x2-6H\"") != std::string::npos);
    for (const std::vector<std::string>& words :
         {std::vector<std::string>{"pair", "gear m2 z19", "gear m2 z73", "--centre", "92.1", "--json"},
          {"pair", "gear m2 z19", "rack m2 z30", "--centre", "19.2", "--json"}}) {
        const json asked = json::parse(whorl_run(words).out);
        CHECK(asked["values"]["centre_distance"]["source"].get<std::string>().starts_with("as asked"));
    }
    const json usual = json::parse(whorl_run({"pair", "gear m2 z19", "gear m2 z73", "--json"}).out);
    CHECK(usual["values"]["centre_distance"]["source"].get<std::string>().find("ISO 21771") !=
          std::string::npos);
}

TEST_CASE("a motion's table is in mm throughout, and its head says so") {
    const Run r = whorl_run({"motion", "rise 10 in 120 cycloidal, dwell 60, return in 120, dwell", "--csv",
                             "--rpm", "60", "--step", "60"});
    std::istringstream lines(r.out);
    std::string head, first, second;
    std::getline(lines, head);
    std::getline(lines, first);
    std::getline(lines, second); // at 60°, in the middle of the rise
    CHECK(head == "angle_deg,lift_mm,velocity_mm_per_s,acceleration_mm_per_s2,jerk_mm_per_s3");
    std::vector<double> cells;
    std::istringstream row(second);
    for (std::string cell; std::getline(row, cell, ',');)
        cells.push_back(std::stod(cell));
    REQUIRE(cells.size() == 5);
    const double beta = 2 * 3.14159265358979 / 3, omega = 2 * 3.14159265358979;
    CHECK(cells[1] == Approx(5));
    CHECK(cells[2] == Approx(2 * 10 / beta * omega));
    CHECK(cells[4] == Approx(-4 * 3.14159265358979 * 3.14159265358979 * 10 / (beta * beta * beta) * omega *
                             omega * omega));
    CHECK(whorl_run({"show", "spring d2.5 D52/30/52 L44 nt5 open"}).out.find("14.6667EN") ==
          std::string::npos);
}

TEST_CASE("springs are found on the command line, and springs with hooks and legs shown and made") {
    const json found = json::parse(
        whorl_run({"find", "spring", "--load", "40@32", "--load", "65@24", "--outside", "24", "--json"}).out);
    REQUIRE(found["springs"].size() > 3);
    const std::string line = found["springs"][0]["designation"];
    const json shown = json::parse(whorl_run({"show", line, "--json"}).out);
    CHECK(shown["values"]["spring_rate"]["value"].get<double>() ==
          Approx(found["springs"][0]["spring_rate"].get<double>()).epsilon(1e-6));
    CHECK_THAT(whorl_run({"find", "spring", "--load", "40@32", "--load", "65@24", "--wire", "sh"}).out,
               Catch::Contains("wire SH"));
    CHECK_THAT(whorl_run({"find", "spring", "--load", "40"}).err, Catch::Contains("40@32"));
    CHECK_THAT(whorl_run({"find", "nut", "--load", "40@32"}).err, Catch::Contains("whorl find spring"));
    const json extension = json::parse(whorl_run({"show", "extension spring d1.6 D12 n20", "--json"}).out);
    CHECK(extension["values"]["body_length"]["value"] == 33.6);
    CHECK(extension["values"]["initial_tension"]["value"].get<double>() == Approx(11.4916).epsilon(1e-5));
    const json torsion = json::parse(whorl_run({"show", "torsion spring d2 D16 n6 legs 30", "--json"}).out);
    CHECK(torsion["values"]["torsion_rate"]["value"].get<double>() == Approx(9.3628).epsilon(1e-5));
    CHECK_THAT(whorl_run({"pair", "spline W 30x2x14 x 25", "spline N 30x2x14 thin 0.06"}).out,
               Catch::Contains("They go together.") && Catch::Contains("0.06 "));
    CHECK_THAT(whorl_run({"pair", "spline W 30x2x14 x 25", "spline W 30x2x14"}).err,
               Catch::Contains("spline N"));
    CHECK_THAT(whorl_run({"pair", "gear m2 z20", "spring d2 D20 L50 n7"}).err,
               Catch::Contains("guides no spring"));
    CHECK_THAT(whorl_run({"pair", "gear m2 z20", "M10"}).err, Catch::Contains("does not go with it"));
    const json nested = json::parse(
        whorl_run({"pair", "spring d3 D30 L60 n6 closed ground", "spring d2 D20 L55 n8 LH", "--json"}).out);
    CHECK(nested["goes_together"] == true);
    CHECK(nested["mistakes"].empty());
    CHECK(nested["values"]["nest_clearance"]["value"] == 5);
    const auto rod = whorl_run({"pair", "round 18.5 x 60", "spring d2 D20 L50 n7", "--json"});
    CHECK(rod.code == 1);
    const json on_rod = json::parse(rod.out);
    CHECK(on_rod["goes_together"] == false);
    CHECK(on_rod["second"] == "spring d2 D20 L50 n7 closed RH");
    CHECK(on_rod["mistakes"][0]["id"] == "rod");
    CHECK(on_rod["mistakes"][0]["severity"] == "stop");
    CHECK_THAT(whorl_run({"pair", "spring d2 D20 L50 n7", "round 40 x 60 bore 23"}).out,
               Catch::Contains("They go together.") && Catch::Contains("Clearance in the bore"));
    const json spline = json::parse(whorl_run({"show", "spline EXT 24z x 2.5m x 30P x 5f", "--json"}).out);
    CHECK(spline["standard"] == "ISO 4156");
}

TEST_CASE("pieces and jobs are drawn from the line, and refused with reasons") {
    const auto at = [](const char* name) { return (folder() / name).string(); };
    for (const char* name : {"bolt.pdf", "bolt.svg", "bolt.dxf", "bolt.png"}) {
        const Run r = whorl_run({"draw", "M20x2.5 x 60", "-o", at(name)});
        INFO(r.err);
        CHECK(r.code == 0);
        CHECK_THAT(r.out, Catch::Contains(std::string(name) + ": A4, "));
        CHECK(fs::file_size(at(name)) > 2000);
    }
    const Run asked = whorl_run({"draw", "ISO 4762 M6 x 25", "--sheet", "A3", "--scale", "5:1", "--third-angle",
                                 "--true", "--owner", "Saltmarsh", "--set", "finish=brass", "-o", at("cap.dxf")});
    CHECK(asked.code == 0);
    CHECK_THAT(asked.out, Catch::Contains("A3, 5 : 1"));
    std::ifstream file(at("cap.dxf"));
    const std::string dxf((std::istreambuf_iterator<char>(file)), {});
    for (const char* words : {"Saltmarsh", "brass", "5 : 1"})
        CHECK(dxf.find(words) != std::string::npos);
    // what is asked for and isn't there
    const auto refused = [&](std::vector<std::string> words, const char* why) {
        words.insert(words.begin(), "draw");
        const Run r = whorl_run(words);
        INFO(r.err);
        CHECK(r.code == 2);
        CHECK_THAT(r.err, Catch::Contains(why));
    };
    refused({"M20 x 60", "-o", at("bolt.xyz")}, ".pdf, .svg, .dxf or .png");
    refused({"M20 x 60", "--sheet", "B5", "-o", at("bolt.pdf")}, "A4, A3, A2, A1");
    refused({"M20 x 60", "--scale", "3:1", "-o", at("bolt.pdf")}, "ISO 5455");
    refused({"M20 x 60", "-o", "/nowhere/bolt.pdf"}, "nowhere");
    refused({"no piece", "-o", at("bolt.pdf")}, "no designation");
    CHECK(whorl_run({"draw", "M12x1.75-6g x 40", "--set", "depth=9", "-o", at("stop.pdf")}).code == 1);
    // a job: one PDF, or a file a piece
    whorl::Job job;
    job.name = "Gauge";
    job = whorl::add_piece(job, whorl::piece_of("round 30 x 12"));
    job = whorl::add_piece(job, whorl::piece_of("nut M10"));
    whorl::save_job(job, at("gauge.whorl"));
    const Run one = whorl_run({"draw", at("gauge.whorl"), "-o", at("gauge.pdf")});
    CHECK(one.code == 0);
    CHECK_THAT(one.out, Catch::Contains("3 pages")); // its parts list first
    const Run many = whorl_run({"draw", at("gauge.whorl"), "-o", at("sheets"), "--format", "dxf,svg"});
    CHECK(many.code == 0);
    int files = 0;
    for (const auto& entry : fs::directory_iterator(at("sheets")))
        files += entry.path().extension() == ".dxf" || entry.path().extension() == ".svg";
    CHECK(files == 4);
    refused({at("gauge.whorl"), "-o", at("sheets"), "--format", "gif"}, "pdf, svg, dxf and png");
    whorl::save_job({}, at("empty.whorl"));
    refused({at("empty.whorl"), "-o", at("empty.pdf")}, "no piece to draw");
}
