// The catalogue's lines: each can be made, its words to change are words, and nothing that has words lacks a
// card.
#include "check/check.hpp"
#include "model/catalogue.hpp"
#include "model/edit.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>
#include <set>

using namespace whorl;

TEST_CASE("every line of the catalogue is a piece that can be made") {
    std::size_t lines = 0;
    for (const CatalogueFamily& family : catalogue()) {
        INFO(family.key);
        CHECK(!family.card.title.empty());
        CHECK(family.card.sentence.ends_with('.'));
        REQUIRE(family.shown < family.lines.size());
        CHECK_FALSE(stops(findings_of(add_piece(Job{}, piece_of(family.drawn())), 0)));
        for (const CatalogueLine& line : family.lines) {
            INFO(line.text);
            const Piece piece = piece_of(line.text);
            const Job job = add_piece(Job{}, piece);
            const auto findings = findings_of(job, 0);
            CHECK_FALSE(stops(findings));
            ++lines;
        }
    }
    CHECK(lines > 600);
}

TEST_CASE("the marks of a line are the words one would change, in order") {
    const CatalogueLine bolt = catalogue_line({"ISO 4014 M{8} x {60}", ""});
    CHECK(bolt.text == "ISO 4014 M8 x 60");
    REQUIRE(bolt.marks.size() == 2);
    CHECK(bolt.text.substr(bolt.marks[0].first, bolt.marks[0].second) == "8");
    CHECK(bolt.text.substr(bolt.marks[1].first, bolt.marks[1].second) == "60");
    for (const CatalogueFamily& family : catalogue())
        for (const CatalogueLine& line : family.lines) {
            INFO(line.text);
            CHECK(!line.marks.empty());
            std::size_t end = 0;
            for (const auto& [at, extent] : line.marks) {
                CHECK(at >= end);
                CHECK(extent > 0);
                end = at + extent;
                CHECK(end <= line.text.size());
                CHECK(line.text.find_first_of("{} ", at) != at);
            }
        }
}

TEST_CASE("nothing can be reached only by knowing a word") {
    std::set<std::string> keys;
    std::vector<std::string> groups;
    for (const CatalogueFamily& family : catalogue()) {
        CHECK(keys.insert(family.key).second);
        if (groups.empty() || groups.back() != family.group) groups.push_back(family.group);
    }
    CHECK(std::set(groups.begin(), groups.end()).size() == groups.size()); // groups stand together
    for (int f = 0; f < family_count; ++f)
        if (static_cast<ThreadFamily>(f) != ThreadFamily::own)
            CHECK(keys.contains(key_word(static_cast<ThreadFamily>(f))));
    for (const char* other : {"gear",           "internal_gear", "rack",       "extension_spring",
                              "torsion_spring", "spline",        "spring",     "knurl",
                              "round_bar",      "hexagon_bar",   "square_bar", "iso 4017",
                              "iso 4014",       "iso 4762",      "iso 4032",   "iso 4026",
                              "iso 4027",       "iso 4028",      "nut",        "ring",
                              "plate",          "blind",         "rod",        "stud",
                              "lead screw",     "nipple"})
        CHECK(keys.contains(other));
    // sections of one's own when there are some
    const OwnSection rope = own_section_of(resolve_thread(ThreadSpec{}).section, "rope");
    CHECK(catalogue(std::span(&rope, 1)).size() == keys.size() + 1);
}

TEST_CASE("members are found by the beginning of a size or a word") {
    const auto found = [](const char* key, const char* typed) {
        std::vector<std::string> out;
        for (const CatalogueFamily& family : catalogue())
            if (family.key == key)
                for (const CatalogueLine& line : family.lines)
                    if (answers(line, typed)) out.push_back(line.text);
        return out;
    };
    const auto metric = found("iso_metric", "10 coarse");
    CHECK(metric == std::vector<std::string>{"M10x1.5-6g x 40"});
    for (const std::string& line : found("iso_metric", "10")) {
        INFO(line);
        CHECK(line.starts_with("M10"));
    }
    const auto inch = found("unified", "3/8");
    CHECK(inch.size() >= 3); // 1 3/8 is among them
    CHECK(inch.front() == "3/8-16 UNC-2A x 1.5");
    CHECK(found("gear", "m2.5").size() >= 3);
    CHECK(found("unified", "3/80").empty());
    // a number that is no size stands whole
    CHECK(found("spring", "L50").size() >= 2);
    CHECK(found("spring", "L5").empty());
    CHECK(found("iso_metric", "").size() > 100);
}
