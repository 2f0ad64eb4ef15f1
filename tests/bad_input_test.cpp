// At least 300 pieces of bad input, by designation, by file and by command: each is refused in a sentence or
// gives a finding; nothing crashes and nothing is written.
#include "cli/cli.hpp"
#include "model/edit.hpp"
#include "model/job_file.hpp"

#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <random>
#include <sstream>
#include <unistd.h>

using namespace whorl;
namespace fs = std::filesystem;

namespace {

int run(std::vector<std::string> words, std::string& err) {
    words.insert(words.begin(), "whorl");
    std::vector<const char*> argv;
    for (const auto& w : words)
        argv.push_back(w.c_str());
    std::ostringstream out, errors;
    const int code = run_command_line(static_cast<int>(argv.size()), argv.data(), out, errors);
    err = errors.str();
    return code;
}

} // namespace

TEST_CASE("300 bad designations, numbers and files") {
    int tried = 0;
    const fs::path folder = fs::temp_directory_path() / ("whorl-bad-" + std::to_string(::getpid()));
    fs::create_directories(folder);
    const std::string target = (folder / "bad.step").string();
    std::string err;

    // designations: refused (2) or stopped (1), and no file
    std::vector<std::string> texts{"",
                                   " ",
                                   "M",
                                   "M-",
                                   "Mx",
                                   "M0",
                                   "M0x0",
                                   "M-10",
                                   "M10x0",
                                   "M10x-1",
                                   "M10x1.5x",
                                   "M10x1.5-",
                                   "M10x1.5-6",
                                   "M10x1.5-6q",
                                   "M10x1.5-99g",
                                   "M1e3",
                                   "M10x1e-9",
                                   "M99999999x1",
                                   "M10x99999",
                                   "M10x18 x 40",
                                   "M10x1.5 x 0",
                                   "M10x1.5 x -1",
                                   "M10x1.5 x nan",
                                   "M10x1.5 x inf",
                                   "M10x1.5 x 1e99",
                                   "M10x1.5 x 1/0",
                                   "M10x1.5 x 40 40",
                                   "M10x1.5 LH LH",
                                   "M16xPh0P2",
                                   "M16xPh4P0",
                                   "M16xPh99P1",
                                   "M16xPh4",
                                   "M16xPhP",
                                   "NaN",
                                   "inf",
                                   "0/0-0 UNC",
                                   "1/4-0 UNC",
                                   "1/4--20 UNC",
                                   "1/4-20 UNX",
                                   "1/4-20 UNC-9A",
                                   "1/4-20 UNC-2A (0 starts)",
                                   "1/4-20 UNC-2A (99 starts)",
                                   "1/4-20 UNC-2A (",
                                   "#99-32 UNF",
                                   "#-1-32 UNF",
                                   "M10\n",
                                   "M10\t\x01",
                                   "M10;rm -rf",
                                   "\xFF\xFE\xFD",
                                   "M10x1.5-6g x \xF0\x9F\x94\xA9",
                                   "$(reboot)",
                                   "%s%n",
                                   "../../x",
                                   std::string(100000, 'M'),
                                   std::string(150, '('),
                                   "round",
                                   "round 0",
                                   "round -1",
                                   "round x",
                                   "M10x1.5 x 1e400",
                                   "M2x4 x 10",
                                   "M3x3 x 10",
                                   "M10x1.5 x 0.0001",
                                   "M0.01x0.001 x 1",
                                   "M5000x1 x 1",
                                   "M10-6X x 10",
                                   "1/4-20 UNC-2C x 1"};
    std::mt19937 random(1);
    const std::string alphabet = "M0123456789.x-gHLUNCF/# ()PhA\xC3\x97";
    while (texts.size() < 260) {
        std::string s = random() % 2 ? "M" : "";
        const int n = 1 + static_cast<int>(random() % 14);
        for (int i = 0; i < n; ++i)
            s += alphabet[random() % alphabet.size()];
        try {
            (void)parse_designation(s);
        } catch (const InputError&) {
            texts.push_back(s);
        }
    }
    for (const auto& t : texts) {
        INFO("designation '" << t.substr(0, 80) << "'");
        const int code = run({"make", t, "-o", target}, err);
        CHECK((code == 1 || code == 2));
        CHECK(err.size() > 20);
        CHECK_FALSE(fs::exists(target));
        ++tried;
    }

    // numbers in fields: the job is unchanged
    const Job job = add_piece({}, parse_designation("M10 x 40"));
    for (const auto f : {field::pitch, field::length, field::diameter, field::starts})
        for (const char* t : {"", "abc", "0", "-1", "1e30", "nan", "inf", "1/0", "1..2", "()", "pitch", "1,5",
                              "(((((((((((((((1"}) {
            INFO("field text '" << t << "'");
            CHECK_THROWS_AS(apply(job, Edit{0, 0, f, t, LengthUnit::millimetre}), InputError);
            ++tried;
        }

    // files
    const std::string good = job_to_json(job);
    std::vector<std::string> files{
        "",
        "{",
        "[]",
        "null",
        "true",
        "42",
        "\"job\"",
        "{}",
        std::string("\0\0\0", 3),
        "\xEF\xBB\xBF{}",
        std::string(200000, '['),
        std::string(200000, '{'),
        good.substr(0, good.size() / 2),
        good + "}",
        good + good,
        R"({"format":"regular-whorl job","version":1})",
        R"({"format":"regular-whorl job","version":"1","pieces":[]})",
        R"({"format":"regular-whorl job","version":-1,"pieces":[]})",
        R"({"format":"regular-whorl job","version":1,"pieces":{}})",
        R"({"format":"regular-whorl job","version":1,"pieces":[null]})",
        R"({"format":"regular-whorl job","version":1,"pieces":[{"name":"a","zones":[]}]})",
        R"({"format":"regular-whorl job","version":1,"pieces":[{"name":"","zones":[{"length":"1","diameter":"1"}]}]})",
        R"({"format":"regular-whorl job","version":1,"pieces":[{"name":"a","zones":[{"length":"1"}]}]})",
        R"({"format":"regular-whorl job","version":1,"pieces":[{"name":"a","zones":[{"length":"","diameter":"1"}]}]})",
        R"({"format":"regular-whorl job","version":1,"pieces":[{"name":"a","zones":[{"length":"x","diameter":"1"}]}]})",
        R"({"format":"regular-whorl job","version":1,"pieces":[{"name":"a","zones":[{"length":"1","diameter":"1","near_end":{"kind":"run_out"}}]}]})",
        R"({"format":"regular-whorl job","version":1,"values":[{"name":"a","number":"a"}],"pieces":[]})",
        R"({"format":"regular-whorl job","version":1,"values":[{"name":"mm","number":"1"}],"pieces":[]})",
        R"({"format":"regular-whorl job","version":1,"values":[{"name":"a","number":"1"},{"name":"a","number":"2"}],"pieces":[]})",
        "{\"format\":\"regular-whorl job\",\"version\":1,\"name\":\"" + std::string(1000000, 'a') +
            "\",\"pieces\":[]}",
        "{\"format\":\"regular-whorl job\",\"version\":1e999,\"pieces\":[]}",
        "{\"format\":\"regular-whorl job\",\"version\":1,\"pieces\":[],\"pieces2\":[]}"};
    {
        // a hundred megabytes of one string
        std::ofstream huge(folder / "huge.whorl");
        huge << "{\"format\":\"regular-whorl job\",\"name\":\"";
        const std::string block(1 << 20, 'x');
        for (int i = 0; i < 100; ++i)
            huge << block;
    }
    CHECK(run({"check", (folder / "huge.whorl").string()}, err) == 2);
    ++tried;
    for (std::size_t i = 0; i < files.size(); ++i) {
        const auto path = folder / ("bad" + std::to_string(i) + ".whorl");
        std::ofstream(path, std::ios::binary) << files[i];
        INFO("file " << i << ": " << files[i].substr(0, 120));
        CHECK(run({"check", path.string()}, err) == 2);
        CHECK(err.size() > 20);
        CHECK(std::count(err.begin(), err.end(), '\n') == 1);
        ++tried;
    }
    CHECK(tried >= 300);
    fs::remove_all(folder);
}

TEST_CASE("ranges are said with the value, its unit and what would be accepted") {
    struct Row {
        const char* designation;
        const char* says;
    };
    for (const Row& r :
         {Row{"gear m0.000000001 z20", "The module is 1e-09 mm; it must be between 0.05 and 100 mm."},
          Row{"M10x1.5 x 20000", "The length is 20000 mm; it must be more than zero and at most 10000 mm."},
          Row{"M10x1.5 x 1e308", "The length is 1e+308 mm"}, Row{"M10x0.009", "0.009 mm can't be made"},
          Row{"M3000x3", "3000 mm can't be made"}}) {
        INFO(r.designation);
        std::string err;
        CHECK(run({"show", r.designation}, err) == 2);
        INFO(err);
        CHECK(err.find(r.says) != std::string::npos);
        CHECK(err.size() < 250);
    }
}
