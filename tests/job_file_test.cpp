#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "random_piece.hpp"

#include "model/forms/forms.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <set>
#include <sys/stat.h>
#include <unistd.h>

using namespace whorl;
namespace fs = std::filesystem;

namespace {

struct Folder {
    fs::path path = fs::temp_directory_path() /
                    ("whorl-test-" + std::to_string(::getpid()) + "-" + std::to_string(++count));
    static inline int count = 0;
    Folder() { fs::create_directories(path); }
    ~Folder() { fs::remove_all(path); }
};

std::string refusal(const std::string& text) {
    try {
        (void)job_from_json(text);
    } catch (const InputError& e) {
        return e.what();
    }
    FAIL("accepted: " << text.substr(0, 200));
    return {};
}

} // namespace

TEST_CASE("the demo job opens, and saving it again changes nothing") {
    const Job job = load_job(WHORL_SOURCE_DIR "/demo/saltmarsh-tide-gauge.whorl");
    CHECK(job.pieces.size() >= 3);
    for (const auto& p : job.pieces)
        CHECK(p.reason.size() > 20);
    CHECK(job_from_json(job_to_json(job)) == job);
}

TEST_CASE("any job survives writing and reading") {
    test::RandomPiece random(5);
    for (int i = 0; i < 200; ++i) {
        Job job;
        job.name = "job \"" + std::to_string(i) + "\" \xC3\xA9";
        job.unit = i % 2 ? LengthUnit::inch : LengthUnit::millimetre;
        job.pieces = {random.piece(), random.piece()};
        job.pieces[0].reason = "because\nof tabs\t and quotes \"";
        INFO("seed 5, round " << i);
        // thread zones of random pieces may be impossible to cut, but they always resolve
        CHECK(job_from_json(job_to_json(job)) == job);
    }
}

TEST_CASE("damaged files are refused with place and reason") {
    const std::string good = job_to_json(add_piece({}, parse_designation("M10 x 40")));
    CHECK(refusal("").find("line 1") != std::string::npos);
    CHECK(refusal("[]").find("not a Regular Whorl job") != std::string::npos);
    CHECK(refusal("{\"format\":\"regular-whorl job\",\"version\":99,\"pieces\":[]}").find("newer") !=
          std::string::npos);
    CHECK(refusal(std::string(100000, '[')).find("nested") != std::string::npos);
    for (std::size_t cut = 1; cut + 2 < good.size(); cut += 7)
        (void)refusal(good.substr(0, cut));
    const auto changed = [&](const std::string& from, const std::string& to) {
        std::string s = good;
        const auto at = s.find(from);
        REQUIRE(at != std::string::npos);
        return refusal(s.replace(at, from.size(), to));
    };
    CHECK(changed("\"diameter\": \"10\"", "\"diameter\": 10").find("diameter") != std::string::npos);
    CHECK(changed("\"hand\": \"right\"", "\"hand\": \"up\"").find("hand") != std::string::npos);
    CHECK(changed("\"starts\": 1", "\"starts\": 0").find("starts") != std::string::npos);
    CHECK(changed("\"pitch\": \"1.5\"", "\"pitch\": \"nonsense\"").find("pieces[0].zones[0].pitch") !=
          std::string::npos);
    CHECK(changed("\"pitch\": \"1.5\"", "\"extra\": 1, \"pitch\": \"1.5\"").size() > 20);
    CHECK(changed("\"length\": \"40\"", "\"length\": \"-40\"").find("pieces[0].zones[0].length") !=
          std::string::npos);
    CHECK(changed("\"zones\": [", "\"zones\": [[], ").find("zones") != std::string::npos);
    CHECK(changed("\"tolerance_class\": \"6g\"", "\"tolerance_class\": \"6H\"").find("thread") !=
          std::string::npos);
}

TEST_CASE("the published schema is valid JSON and names the version") {
    const auto schema = nlohmann::json::parse(job_schema());
    CHECK(schema.at("title").get<std::string>().find(std::to_string(job_file_version)) != std::string::npos);
}

TEST_CASE("files are written whole or not at all") {
    Folder folder;
    const auto target = folder.path / "job.whorl";
    const Job job = add_piece({}, parse_designation("M10 x 40"));
    save_job(job, target);
    CHECK(load_job(target) == job);
    CHECK_THROWS_AS(save_job(job, folder.path / "missing" / "job.whorl"), FileError);
    CHECK_THROWS_AS(save_job(job, folder.path), FileError);
    CHECK_THROWS_AS(load_job(folder.path / "nothing.whorl"), FileError);
    CHECK_THROWS_AS(load_job(folder.path), FileError);
    // a full disk
    CHECK_THROWS_AS(write_file_atomically("/dev/full", "x"), FileError);
    CHECK(load_job(target) == job);
    int files = 0;
    for (const auto& f : fs::directory_iterator(folder.path))
        (void)f, ++files;
    CHECK(files == 1); // no temporary file is left
    std::ofstream(folder.path / "big.whorl") << std::string(largest_job_file + 10, ' ');
    CHECK_THROWS_AS(load_job(folder.path / "big.whorl"), FileError);
}

TEST_CASE("a key that stands twice is named instead of one of the two being taken") {
    CHECK_THROWS_WITH(
        job_from_json(R"({"format": "regular-whorl job", "version": 2, "pieces": [], "pieces": []})"),
        Catch::Contains("'pieces'") && Catch::Contains("twice"));
    CHECK_THROWS_WITH(job_from_json(R"({"format": "regular-whorl job", "version": 2, "pieces": [
        {"name": "a", "zones": [{"length": "1", "diameter": "2", "length": "3"}]}]})"),
                      Catch::Contains("'length'"));
}

TEST_CASE("what a job file may not hold is said with its place and what would do") {
    const auto piece = [](const std::string& zones, const std::string& more = "") {
        return refusal(R"({"format": "regular-whorl job", "version": 2, "pieces": [{"name": "a", )" + more +
                       R"("zones": [)" + zones + "]}]}");
    };
    using Catch::Contains;
    CHECK_THAT(piece(R"({"length": 1, "diameter": "2"})"),
               Contains("pieces[0].zones[0].length is 1") && Contains("text"));
    CHECK_THAT(piece(R"({"length": "1", "diameter": "2", "hole": "3"})"),
               Contains("pieces[0].zones[0] has a member 'hole'") && Contains("far_diameter"));
    CHECK_THAT(piece(R"({"length": "1"})"), Contains("pieces[0].zones[0].diameter is missing"));
    CHECK_THAT(piece(""), Contains("pieces[0].zones has 0 entries") && Contains("at least 1"));
    CHECK_THAT(piece(R"({"length": "1", "diameter": "2"})", R"("finish": "gold", )"),
               Contains("pieces[0].finish is 'gold'") && Contains("stainless steel"));
    CHECK_THAT(piece(R"({"length": "1", "diameter": "2"})", R"("colour": "#7A5Z", )"),
               Contains("pieces[0].colour is '#7A5Z'") && Contains("six digits"));
    CHECK_THAT(piece(R"({"length": "1", "diameter": "2", "thread": {"family": "iso_metric", "pitch": "1",
                          "starts": 1.5}})"),
               Contains("starts is 1.5") && Contains("whole number"));
    CHECK_THAT(piece(R"({"length": {"text": "1", "unit": "ft"}, "diameter": "2"})"),
               Contains("length.unit is 'ft'") && Contains("mm, in"));
    CHECK_THAT(refusal(R"({"format": "regular-whorl job", "version": 2, "pieces": {}})"),
               Contains("pieces is an object") && Contains("list"));
    CHECK_THAT(refusal(R"({"format": "regular-whorl job", "version": 2, "pieces": [], "n": 1e999})"),
               Contains("larger than any"));
    for (const char* text : {"[]", "3", "{}", R"({"format": "other"})"})
        CHECK_THAT(refusal(text), !Contains("Failed") && !Contains("exception"));
}

TEST_CASE("the schema's keys are those of the forms' rows, both ways") {
    const auto schema = nlohmann::json::parse(job_schema());
    const auto& definitions = schema.at("definitions");
    const auto keys_of = [&](const char* definition) {
        std::set<std::string> out;
        for (const auto& [key, value] : definitions.at(definition).at("properties").items())
            out.insert(key);
        return out;
    };
    // what a form keeps that is no row of its own: which family, what a row keeps under a second key
    const std::map<std::string, std::set<std::string>> beside{{"thread", {"family", "section", "material"}},
                                                              {"teeth", {"rack", "tip_size"}},
                                                              {"coil", {"measured", "ground"}},
                                                              {"knurl", {"sunk"}}};
    std::map<std::string, std::set<std::string>> in_form = beside;
    std::set<std::string> in_zone{"where",   "colour", "length", "near_end",
                                  "far_end", "web",    "keyway", "follows"};
    for_each_model([&]<class F>(FormModel<F>) {
        using Model = FormModel<F>;
        if (*Model::key) in_zone.insert(Model::key);
        for (const Row& row : Model::rows()) {
            if (!row.kept.key) continue;
            if (*Model::key && row.kept.where == InFile::in_form)
                in_form[Model::key].insert(row.kept.key);
            else
                in_zone.insert(row.kept.key);
        }
    });
    for (const auto& [definition, keys] : in_form) {
        INFO(definition);
        CHECK(keys == keys_of(definition.c_str()));
    }
    CHECK(in_zone == keys_of("zone"));
}

namespace {
// One piece of these zones, in a file of that version.
std::string job_of_zones(const std::string& zones, int version = job_file_version,
                         const std::string& more = "") {
    return R"({"format": "regular-whorl job", "version": )" + std::to_string(version) + more +
           R"(, "pieces": [{"name": "p", "zones": [)" + zones + "]}]}";
}
} // namespace

TEST_CASE("what a zone's form does not know is refused, not lost") {
    const std::string
        thread = R"("thread": {"family": "iso_metric", "pitch": "1.5"})",
        groove =
            R"("groove": {"shape": "rect", "diameter": "20", "width": "2", "depth": "1", "pitch": "10"})";
    CHECK_THAT(refusal(job_of_zones(R"({"length": "20", "diameter": "10", )" + thread + ", " + groove + "}")),
               Catch::Matchers::Contains("one form") && Catch::Matchers::Contains("zones[0]"));
    CHECK_THAT(refusal(job_of_zones(R"({"length": "20", "diameter": "10", )" + groove + "}")),
               Catch::Matchers::Contains("'diameter' means nothing"));
    CHECK_THAT(refusal(job_of_zones(R"({"length": "20", "cross_hole": "4", )" + groove + "}")),
               Catch::Matchers::Contains("'cross_hole' means nothing"));
    CHECK(job_from_json(job_of_zones(R"({"length": "20", )" + groove + "}")).pieces.size() == 1);
    CHECK(
        job_from_json(job_of_zones(R"({"length": "20", "diameter": "10", )" + thread + "}")).pieces.size() ==
        1);
    // what the form knows, but not as the rest stands
    for (
        const char* lost :
        {R"("length": "20", "diameter": "10", "thickness": "3")",
         R"("length": "20", "diameter": "10", "near_end": {"kind": "flat", "angle": "45"})",
         R"("length": "20", "diameter": "10", "thread": {"family": "iso_metric", "pitch": "1", "material": "40"})",
         R"("length": "20", "teeth": {"module": "1", "teeth": "20", "tip_size": {"text": "1", "unit": "in"}})"}) {
        INFO(lost);
        CHECK_THAT(refusal(job_of_zones("{" + std::string(lost) + "}")),
                   Catch::Matchers::Contains("would be lost") && Catch::Matchers::Contains("zones[0]"));
    }
    // words that are the usual ones, and what is empty, say nothing that a file would lack
    CHECK(job_from_json(job_of_zones(R"({"length": "20", "where": "outer", "outline": "round",
              "web": "", "teeth": {"module": "1", "teeth": "20", "hand": "right", "thinning": ""}})"))
              .pieces.size() == 1);
    // older files wrote a diameter beside teeth, which never meant anything
    CHECK(
        job_from_json(
            job_of_zones(R"({"length": "12", "diameter": "7", "teeth": {"module": "2", "teeth": "20"}})", 2))
            .pieces.size() == 1);
}

TEST_CASE("a coil's stations of older files are stations still, and a new file's stroke is a fraction") {
    const auto diameters = [](const std::string& text, const char* unit, int version) {
        const std::string number = R"({"text": ")" + text + R"(", "unit": ")" + unit + R"("})";
        const Job job = job_from_json(job_of_zones(
            R"({"length": {"text": "3", "unit": "in"}, "coil": {"wire": {"text": "0.1", "unit": "in"}, "diameters": )" +
                number + R"(, "active": "6"}})",
            version));
        std::vector<double> out;
        const ResolvedPiece resolved = resolve_piece(job.pieces[0], {});
        for (const CoilStation& d : resolved.zones[0].coil()->spec.diameters)
            out.push_back(std::round(in_inch(d.value) * 1e9) / 1e9);
        return out;
    };
    CHECK(diameters("9/8", "in", 3) == std::vector<double>{9, 8});
    CHECK(diameters("9/8", "in", 4) == std::vector<double>{1.125});
    CHECK(diameters("1.5..1.25", "in", 4) == std::vector<double>{1.5, 1.25});
    CHECK(diameters("1 1/2", "in", 4) == std::vector<double>{1.5});
}

TEST_CASE("a named value in inch is that many inch as a bare length") {
    const Job job = job_from_json(
        job_of_zones(R"({"length": "20", "diameter": "bar"}, {"length": "2*turns", "diameter": "bar/2"})",
                     job_file_version,
                     R"(, "values": [{"name": "bar", "number": {"text": "3/4", "unit": "in"}},
                                                               {"name": "turns", "number": "5"}])"));
    const ResolvedPiece p = resolve_piece(job.pieces[0], resolve_names(job));
    CHECK(in_mm(p.zones[0].diameter) == Approx(19.05));
    CHECK(in_mm(p.zones[1].diameter) == Approx(9.525));
    CHECK(in_mm(p.zones[1].length) == Approx(10));
}

TEST_CASE("a zone that follows is evened out when it is read") {
    const Job job =
        job_from_json(job_of_zones(R"({"length": "10", "diameter": "10"}, {"length": "5", "diameter": "8"},
                                                  {"length": "16", "diameter": "12", "follows": {"zone": 0, "mirrored": true}})"));
    const auto& zones = job.pieces[0].zones;
    CHECK(zones[2].length.text == "10");
    CHECK(std::get<PlainForm>(zones[2].form).diameter.text == "10");
    CHECK(zones[2].follows);
}

TEST_CASE("a colour stands under its own key, on pieces and zones; where it was once is read") {
    Job job = job_from_json(job_of_zones(
        R"({"length": "10", "diameter": "10", "finish": "steel #7A5AA8"}, {"length": "5", "diameter": "8", "finish": "#102030"})",
        3));
    CHECK(job.pieces[0].zones[0].finish == "steel #7A5AA8");
    CHECK(job.pieces[0].zones[1].finish == "#102030");
    job.pieces[0].finish = "brass #0A0B0C";
    const auto j = nlohmann::json::parse(job_to_json(job));
    const auto& piece = j["pieces"][0];
    CHECK(piece["finish"] == "brass");
    CHECK(piece["colour"] == "#0A0B0C");
    CHECK(piece["zones"][0]["finish"] == "steel");
    CHECK(piece["zones"][0]["colour"] == "#7A5AA8");
    CHECK_FALSE(piece["zones"][1].contains("finish"));
    CHECK(piece["zones"][1]["colour"] == "#102030");
    CHECK(job_from_json(job_to_json(job)).pieces == job.pieces);
}

TEST_CASE("a drawing's part of a job file is refused with the place where it is wrong") {
    Job job;
    job.pieces.push_back(piece_of("round 20 x 30"));
    job.drawing.title.owner = "Saltmarsh";
    job.pieces[0].drawing.scale = "2 : 1";
    job.pieces[0].drawing.items.push_back({.zone = 0u, .key = "length", .x = 1.5, .y = -2, .left_out = true});
    const std::string good = job_to_json(job);
    CHECK(job_from_json(good) == job);
    const auto with = [&](const std::string& was, const std::string& now) {
        std::string text = good;
        const auto at = text.find(was);
        REQUIRE(at != std::string::npos);
        return text.replace(at, was.size(), now);
    };
    CHECK_THROWS_WITH(job_from_json(with("2 : 1", "twice")), Catch::Contains("scale"));
    CHECK_THROWS_WITH(job_from_json(with("\"owner\"", "\"owned\"")), Catch::Contains("owned"));
    CHECK_THROWS_WITH(job_from_json(with("-2.0", "-2e9")), Catch::Contains("moved"));
    CHECK_THROWS_WITH(job_from_json(with("\"zone\": 0", "\"zone\": 99")), Catch::Contains("zone"));
}
