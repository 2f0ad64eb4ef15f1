// Pieces placed together by their pairs, and handed on as one file.
#include "exchange/hand_on.hpp"
#include "exchange/export.hpp"
#include "model/edit.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#pragma GCC diagnostic ignored "-Wpedantic"
#include <Model/COM/NMR_DLLInterfaces.h>
#pragma GCC diagnostic pop

#include <cmath>
#include <cstring>

using namespace whorl;

namespace {

Job job_of(const std::string& designation) {
    Job job;
    job.pieces.push_back(piece_of(designation));
    return job;
}

Job demo() {
    return load_job(std::filesystem::path(WHORL_SOURCE_DIR) / "demo/saltmarsh-tide-gauge.whorl");
}

bool inside(const solid::Mesh& mesh, const std::array<double, 3>& p) {
    // a ray along z, a little aslant so that it meets no edge of a regular mesh
    const double dx = 0.0123456, dy = 0.0071357;
    int crossings = 0;
    for (const auto& t : mesh.triangles) {
        double u[3], v[3], w[3];
        for (std::size_t k = 0; k < 3; ++k) {
            const auto& q = mesh.points[t[k]];
            w[k] = q.z - p[2];
            u[k] = q.x - p[0] - dx * w[k];
            v[k] = q.y - p[1] - dy * w[k];
        }
        const double a = u[0] * v[1] - u[1] * v[0], b = u[1] * v[2] - u[2] * v[1],
                     c = u[2] * v[0] - u[0] * v[2];
        if (!((a > 0 && b > 0 && c > 0) || (a < 0 && b < 0 && c < 0))) continue;
        if ((b * w[0] + c * w[1] + a * w[2]) / (a + b + c) > 0) ++crossings;
    }
    return crossings % 2 == 1;
}

// How many of about 200 points of one piece, this far (mm) under its surface, lie in the other one.
int deep_points(const Part& one, const Part& other, double under) {
    const solid::Mesh& mesh = one.preview->mesh;
    const solid::Shading shading = one.preview->body.shading(mesh);
    const Standing back = inverse(other.at);
    const std::size_t step = std::max<std::size_t>(1, mesh.triangles.size() / 200);
    int found = 0;
    for (std::size_t t = 0; t < mesh.triangles.size(); t += step) {
        std::array<double, 3> p{};
        for (std::size_t k = 0; k < 3; ++k) {
            const auto& q = mesh.points[mesh.triangles[t][k]];
            const auto& n = shading.normals[t][k];
            p[0] += (q.x - under * n.x) / 3;
            p[1] += (q.y - under * n.y) / 3;
            p[2] += (q.z - under * n.z) / 3;
        }
        if (inside(other.preview->mesh, carried(back, carried(one.at, p)))) ++found;
    }
    return found;
}

std::filesystem::path file(const char* name) {
    return std::filesystem::temp_directory_path() / name;
}

} // namespace

TEST_CASE("a placement within another and back is where it was", "[together]") {
    const Standing a = within(turned_about_axis(0.7), {{0, 1, 0}, {0, 0, 1}, {1, 0, 0}, {3, -4, 5}});
    const Standing same = within(inverse(a), a);
    for (std::size_t k = 0; k < 3; ++k) {
        CHECK(same.x[k] == Approx(k == 0 ? 1 : 0).margin(1e-14));
        CHECK(same.y[k] == Approx(k == 1 ? 1 : 0).margin(1e-14));
        CHECK(same.z[k] == Approx(k == 2 ? 1 : 0).margin(1e-14));
        CHECK(same.origin[k] == Approx(0).margin(1e-14));
    }
}

TEST_CASE("pairs of the tide gauge stand without going through each other", "[together]") {
    // screw and nut, gears, gear and rack, cam and roller, clamp with nut, bush and pin, splines
    const Job job = demo();
    for (const auto pieces : {std::initializer_list<std::size_t>{2, 4},
                              {0, 5},
                              {4, 2}, // the pair's second piece is the group's first
                              {13, 15},
                              {11, 12},
                              {13, 14},
                              {15, 13},
                              {18, 21},
                              {23, 24},
                              {23, 25},
                              {27, 30},
                              {33, 34}}) {
        const Assembly both = assembly_of(only(job, pieces), 0.01);
        INFO(both.parts[0].piece.name << " and " << both.parts[1].piece.name);
        REQUIRE(both.parts.size() == 2);
        CHECK(!both.parts[1].held_by.empty());
        CHECK(deep_points(both.parts[0], both.parts[1], 0.03) == 0);
        CHECK(deep_points(both.parts[1], both.parts[0], 0.03) == 0);
    }
}

TEST_CASE("meshes stand clear of each other whichever zone is the first", "[together]") {
    for (const char* mate : {"gear m2 z41 helix 15 LH b10", "internal gear m2 z90 helix 15 x0.5 b16",
                             "rack m2 z30 helix 15 LH b16 h12"})
        for (const bool swapped : {false, true}) {
            Job job = job_of(swapped ? mate : "gear m2 z26 helix 15 x0.5 b16");
            job.pieces.push_back(piece_of(swapped ? "gear m2 z26 helix 15 x0.5 b16" : mate));
            const auto toothed = [&](std::size_t piece) {
                const auto& zones = job.pieces[piece].zones;
                return static_cast<std::size_t>(
                    std::ranges::find_if(zones, [](const Zone& z) { return z.teeth() != nullptr; }) -
                    zones.begin());
            };
            job.pairs.push_back({{0, toothed(0)}, {1, toothed(1)}, false, {}});
            const Assembly both = assembly_of(job, 0.005);
            INFO(both.parts[0].piece.name << " and " << both.parts[1].piece.name);
            CHECK(deep_points(both.parts[0], both.parts[1], 0.03) == 0);
            CHECK(deep_points(both.parts[1], both.parts[0], 0.03) == 0);
            // and they do mesh: a hair's turn more than the backlash leaves, and they run into each other
            Assembly turned = both;
            const double a_tooth = 2 * 3.14159265 / 26;
            turned.parts[swapped ? 1 : 0].at =
                within(both.parts[swapped ? 1 : 0].at, turned_about_axis(a_tooth / 8));
            CHECK(deep_points(turned.parts[0], turned.parts[1], 0.03) +
                      deep_points(turned.parts[1], turned.parts[0], 0.03) >
                  0);
        }
}

TEST_CASE("what is turned or moved out of its place goes through its counterpart", "[together]") {
    // that the test before can fail: a nut half a pitch on, a gear turned by half a tooth
    const Job job = demo();
    Assembly nut = assembly_of(only(job, {0, 5}), 0.005);
    nut.parts[1].at.origin[2] += 0.5;
    CHECK(deep_points(nut.parts[1], nut.parts[0], 0.03) > 0);
    Assembly gear = assembly_of(only(job, {11, 12}), 0.005);
    gear.parts[1].at = within(gear.parts[1].at, turned_about_axis(3.14159265 / 73));
    CHECK(deep_points(gear.parts[1], gear.parts[0], 0.03) > 0);
}

TEST_CASE("a train of gears stands at its centre distances, groups beside each other", "[together]") {
    const Job job = demo();
    const Assembly all = assembly_of(job, 0.1);
    REQUIRE(all.parts.size() == job.pieces.size());
    const Names names = resolve_names(job);
    int meshes = 0;
    for (const Pair& pair : job.pairs) {
        const auto mesh = mesh_of_pair(job, pair, names);
        if (!mesh || mesh->rack) continue;
        ++meshes;
        const auto &a = all.parts[pair.first.piece].at.origin, &b = all.parts[pair.second.piece].at.origin;
        CHECK(std::hypot(a[0] - b[0], a[1] - b[1]) == Approx(mesh->mesh.centre).epsilon(1e-12));
    }
    CHECK(meshes == 2);
    // what no pair ties together stands clear of each other, and together they are no wider than twice their height
    std::vector<Box> groups(job.pieces.size(), Box{{1e300, 1e300, 1e300}, {-1e300, -1e300, -1e300}});
    std::vector<std::size_t> group(job.pieces.size());
    Box whole = groups[0];
    const auto grow = [](Box& to, const Box& by) {
        for (std::size_t k = 0; k < 3; ++k) {
            to.low[k] = std::min(to.low[k], by.low[k]);
            to.high[k] = std::max(to.high[k], by.high[k]);
        }
    };
    for (std::size_t i = 0; i < all.parts.size(); ++i) {
        group[i] = i;
        for (std::size_t j = 0; j < i; ++j)
            if (all.parts[j].piece.name == all.parts[i].held_by) group[i] = group[j];
        for (std::size_t j = i + 1; j < all.parts.size(); ++j)
            if (all.parts[j].piece.name == all.parts[i].held_by) group[i] = j;
        const Box box = box_of(box_about(all.parts[i].preview->mesh), all.parts[i].at);
        grow(groups[group[i]], box);
        grow(whole, box);
    }
    for (std::size_t i = 0; i < groups.size(); ++i)
        for (std::size_t j = 0; j < i; ++j) {
            if (group[i] != i || group[j] != j) continue;
            const auto between = [&](std::size_t k) {
                return std::max(groups[i].low[k] - groups[j].high[k], groups[j].low[k] - groups[i].high[k]);
            };
            CHECK(std::max(between(0), between(2)) > 9.9);
        }
    const double tall = whole.high[0] - whole.low[0], wide = whole.high[2] - whole.low[2];
    CHECK(wide < 3 * tall);
    CHECK(tall < 2 * wide);
}

TEST_CASE("whichever piece of a pair comes first in the job, they stand alike", "[together]") {
    const Job job = demo();
    for (const auto& [one, other] : {std::pair<std::size_t, std::size_t>{2, 4}, {15, 13}, {23, 25}}) {
        const Assembly forth = assembly_of(only(job, {one, other}), 0.1),
                       back = assembly_of(only(job, {other, one}), 0.1);
        const Standing same = within(forth.parts[1].at, back.parts[1].at); // there and back again
        INFO(forth.parts[0].piece.name);
        for (std::size_t k = 0; k < 3; ++k) {
            CHECK(same.origin[k] == Approx(0).margin(1e-9));
            CHECK(same.x[k] == Approx(k == 0 ? 1 : 0).margin(1e-12));
            CHECK(same.z[k] == Approx(k == 2 ? 1 : 0).margin(1e-12));
        }
    }
}

TEST_CASE("pieces that no pair ties stand ten millimetres apart", "[together]") {
    Job job = job_of("round 20 x 5");
    for (const char* line : {"round 30 x 5", "round 20 x 60", "round 10 x 5"})
        job.pieces.push_back(piece_of(line));
    const Assembly all = assembly_of(job, 0.01);
    const auto at = [&](std::size_t i) { return all.parts[i].at.origin; };
    CHECK(at(0) == std::array<double, 3>{0, 0, 0});
    // with 10 mm of room they take 3 450 mm²: columns of √(3450/1.5) = 48 mm, in which no two of the first three stand
    CHECK(at(1)[0] == Approx(-10 + 15).epsilon(1e-9));
    CHECK(at(1)[2] == Approx(5 + 10));
    CHECK(at(2)[0] == Approx(0).margin(1e-9));
    CHECK(at(2)[2] == Approx(5 + 10 + 5 + 10));
    CHECK(at(3)[0] == Approx(10 + 10 + 5)); // beside the one before it
    CHECK(at(3)[2] == Approx(30));
    CHECK(all.parts[1].held_by.empty());
}

TEST_CASE("one STL of all holds every piece where it stands", "[together]") {
    const Assembly all = assembly_of(only(demo(), {0, 5, 22}), 0.05);
    const std::string stl = stl_of(all);
    std::uint32_t count = 0;
    std::memcpy(&count, stl.data() + 80, 4);
    REQUIRE(stl.size() == 84 + std::size_t(50) * count);
    double volume = 0, far = -1e9, expected = 0, farthest = -1e9;
    for (std::uint32_t t = 0; t < count; ++t) {
        float v[9];
        std::memcpy(v, stl.data() + 84 + 50 * t + 12, sizeof v);
        const auto d = [&](int i) { return double(v[i]); };
        volume += (d(0) * (d(4) * d(8) - d(5) * d(7)) - d(1) * (d(3) * d(8) - d(5) * d(6)) +
                   d(2) * (d(3) * d(7) - d(4) * d(6))) /
                  6;
        for (const int i : {0, 3, 6})
            far = std::max(far, d(i));
    }
    for (const Part& part : all.parts) {
        expected += solid::volume(part.preview->mesh);
        for (const auto& p : part.preview->mesh.points)
            farthest = std::max(farthest, carried(part.at, {p.x, p.y, p.z})[0]);
    }
    CHECK(volume == Approx(expected).epsilon(1e-5));
    CHECK(far == Approx(farthest).epsilon(1e-6));
}

TEST_CASE("a circle of gears that does not close is said with its gap", "[together]") {
    Job job = job_of("gear m2 z20 b10");
    job = add_mate(job, 0, 0, Mate::gear, 30);
    job = add_mate(job, 1, 0, Mate::gear, 20);
    job = add_pair(job, {0, 0}, {2, 0});
    CHECK_THROWS_WITH(assembly_of(job, 0.05), Catch::Contains("closes a circle of pairs that does not meet"));
}

TEST_CASE("two meshes of the same two shafts close where their teeth agree", "[together]") {
    const auto shafts = [](const char* one, const char* other) {
        Job job;
        for (const char* first : {"gear m2 z20 b10", "gear m2 z30 b10"})
            job.pieces.push_back(piece_of(first));
        for (Piece& p : job.pieces)
            p.zones.push_back(piece_of("round 30 x 4").zones[0]);
        job.pieces[0].zones.push_back(piece_of(one).zones[0]);
        job.pieces[1].zones.push_back(piece_of(other).zones[0]);
        job.pairs = {{{0, 0}, {1, 0}, false, {}}, {{0, 2}, {1, 2}, false, {}}};
        return job;
    };
    const Assembly same = assembly_of(shafts("gear m2 z20 b10", "gear m2 z30 b10"), 0.02);
    CHECK(deep_points(same.parts[0], same.parts[1], 0.03) == 0);
    // the axes meet, but the teeth do not; and the axes do not
    CHECK_THROWS_WITH(assembly_of(shafts("gear m2 z21 b10", "gear m2 z29 b10"), 0.05),
                      Catch::Contains("its teeth miss the spaces by"));
    CHECK_THROWS_WITH(assembly_of(shafts("gear m2 z20 b10", "gear m2 z31 b10"), 0.05),
                      Catch::Contains("1 mm and 0° are left"));
}

TEST_CASE("a mesh turned to any side stands as its own numbers say", "[together]") {
    const ResolvedPiece a = resolve_piece(piece_of("gear m2 z20 b10"), {}),
                        b = resolve_piece(piece_of("gear m2 z31 b12"), {});
    for (const bool swapped : {false, true}) {
        const ResolvedZone &first = (swapped ? b : a).zones[0], &second = (swapped ? a : b).zones[0];
        const auto mesh = mesh_of_zones(first, second, {});
        REQUIRE(mesh);
        for (const double towards : {0.0, 0.4, -2.9}) {
            const Standing s = mesh_standing_towards(*mesh, first, second, towards);
            CHECK(s.origin[0] == Approx(mesh->mesh.centre * std::cos(towards)).margin(1e-9));
            CHECK(s.origin[1] == Approx(mesh->mesh.centre * std::sin(towards)).margin(1e-9));
            CHECK(s.origin[2] == Approx(swapped ? 1 : -1));
        }
    }
}

TEST_CASE("a misfit or a piece that can't be made stops all of them", "[together]") {
    Job job = job_of("M10 x 30");
    job = add_counterpart(job, 0, 0);
    job.pairs[0].follows = false;
    const std::size_t zone = job.pairs[0].second.zone;
    job = apply(job, Edit{1, zone, field::pitch, "1", LengthUnit::millimetre});
    CHECK_THROWS_WITH(assembly_of(job, 0.05), Catch::Contains("does not go together"));
    CHECK_THROWS_WITH(assembly_of(Job{}, 0.05), Catch::Contains("no piece"));
    CHECK_THROWS_WITH(require_assembly_ending("all.obj"), Catch::Contains("must end in .step"));
}

TEST_CASE("an assembly's STEP is read back part by part where it stands", "[together]") {
    const Assembly all = assembly_of(only(demo(), {0, 5, 11, 12, 25, 23}), 0.05);
    const auto path = file("whorl-together.step");
    CHECK_THAT(write_assembly(all, path), Catch::StartsWith("6 pieces as they stand"));
    const auto read = read_step_instances(path);
    REQUIRE(read.size() == all.parts.size());
    for (std::size_t i = 0; i < read.size(); ++i) {
        INFO(all.parts[i].piece.name);
        CHECK(read[i].name == all.parts[i].piece.name);
        CHECK(read[i].coloured);
        CHECK(read[i].volume == Approx(all.parts[i].preview->volume()).epsilon(1e-5));
        for (std::size_t k = 0; k < 3; ++k) {
            CHECK(read[i].at.origin[k] == Approx(all.parts[i].at.origin[k]).margin(1e-9));
            CHECK(read[i].at.x[k] == Approx(all.parts[i].at.x[k]).margin(1e-9));
            CHECK(read[i].at.z[k] == Approx(all.parts[i].at.z[k]).margin(1e-9));
        }
    }
    CHECK(read_file(path, 1u << 28).find("AP242") != std::string::npos);
    std::filesystem::remove(path);
}

TEST_CASE("an assembly's GLB has a node a piece, in metres", "[together]") {
    const Assembly all = assembly_of(only(demo(), {11, 12}), 0.05);
    const std::string glb = glb_of(all);
    std::uint32_t words[5];
    std::memcpy(words, glb.data(), sizeof words);
    CHECK(words[0] == 0x46546C67); // "glTF"
    CHECK(words[1] == 2);
    CHECK(words[2] == glb.size());
    CHECK(words[4] == 0x4E4F534A); // "JSON"
    const auto j = nlohmann::json::parse(glb.substr(20, words[3]));
    REQUIRE(j["nodes"].size() == 3);
    CHECK(j["nodes"][2]["children"].size() == 2);
    for (std::size_t i = 0; i < 2; ++i) {
        CHECK(j["nodes"][i]["name"] == all.parts[i].piece.name);
        const auto& point =
            j["accessors"][std::size_t(j["meshes"][i]["primitives"][0]["attributes"]["POSITION"])];
        double high = 0;
        for (const auto& p : all.parts[i].preview->mesh.points)
            high = std::max(high, p.z);
        CHECK(double(point["max"][2]) == Approx(high / 1000).epsilon(1e-6));
    }
    // normals are unit vectors, one way with the triangles' own
    const std::size_t binary = 20 + words[3] + 8;
    const auto data = [&](std::size_t accessor) {
        const auto& view = j["bufferViews"][std::size_t(j["accessors"][accessor]["bufferView"])];
        return glb.data() + binary + view.value("byteOffset", std::size_t(0));
    };
    const auto& primitive = j["meshes"][0]["primitives"][0];
    const std::size_t corners = j["accessors"][std::size_t(primitive["indices"])]["count"];
    CHECK(corners == 3 * all.parts[0].preview->mesh.triangles.size());
    const auto vector = [&](const char* what, std::uint32_t index) {
        std::array<float, 3> v{};
        std::memcpy(v.data(), data(std::size_t(primitive["attributes"][what])) + 12 * index, sizeof v);
        return v;
    };
    int askew = 0;
    for (std::size_t t = 0; t < corners; t += 3) {
        std::uint32_t i[3];
        std::memcpy(i, data(std::size_t(primitive["indices"])) + 4 * t, sizeof i);
        const auto a = vector("POSITION", i[0]), b = vector("POSITION", i[1]), c = vector("POSITION", i[2]),
                   n = vector("NORMAL", i[0]);
        double dot = 0, length = 0, area = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const std::size_t l = (k + 1) % 3, m = (k + 2) % 3;
            const double own =
                double(b[l] - a[l]) * double(c[m] - a[m]) - double(b[m] - a[m]) * double(c[l] - a[l]);
            dot += own * double(n[k]);
            area += own * own;
            length += double(n[k]) * double(n[k]);
        }
        if (std::abs(length - 1) > 1e-5 || dot < 0.8 * std::sqrt(area)) ++askew;
    }
    CHECK(askew == 0);
    CHECK(double(j["nodes"][1]["matrix"][12]) == Approx(all.parts[1].at.origin[0] / 1000).epsilon(1e-9));
    // z up becomes y up, x stays
    CHECK(j["nodes"][2]["matrix"] ==
          nlohmann::json({1.0, 0.0, 0.0, 0.0, 0.0, 0.0, -1.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0}));
    // linear there, sRGB here: back by the inverse of IEC 61966-2-1
    const double linear = j["materials"][0]["pbrMetallicRoughness"]["baseColorFactor"][0];
    CHECK(1.055 * std::pow(linear, 1 / 2.4) - 0.055 ==
          Approx(finish_of(all.parts[0].piece).red).epsilon(1e-6));
    CHECK(j["materials"].size() == 2);
}

TEST_CASE("an assembly's 3MF is accepted by the strict reader, with names", "[together]") {
    const Assembly all = assembly_of(only(demo(), {0, 5, 22}), 0.05);
    const auto path = file("whorl-together.3mf");
    write_assembly(all, path);
    NMR::PLib3MFModel* model = nullptr;
    REQUIRE(NMR::lib3mf_createmodel(&model) == 0);
    NMR::PLib3MFModelReader* reader = nullptr;
    REQUIRE(NMR::lib3mf_model_queryreader(model, "3mf", &reader) == 0);
    REQUIRE(NMR::lib3mf_reader_setstrictmodeactive(reader, true) == 0);
    REQUIRE(NMR::lib3mf_reader_readfromfileutf8(reader, path.c_str()) == 0);
    DWORD warnings = 1;
    CHECK(NMR::lib3mf_reader_getwarningcount(reader, &warnings) == 0);
    CHECK(warnings == 0);
    NMR::PLib3MFModelBuildItemIterator* items = nullptr;
    REQUIRE(NMR::lib3mf_model_getbuilditems(model, &items) == 0);
    BOOL more = false;
    std::array<double, 3> least{1e300, 1e300, 1e300}; // no place of a 3MF is negative
    for (const Part& part : all.parts)
        for (const auto& p : part.preview->mesh.points)
            for (std::size_t k = 0; k < 3; ++k)
                least[k] = std::min(least[k], carried(part.at, {p.x, p.y, p.z})[k]);
    for (const Part& part : all.parts) {
        REQUIRE(NMR::lib3mf_builditemiterator_movenext(items, &more) == 0);
        REQUIRE(more);
        NMR::PLib3MFModelBuildItem* item = nullptr;
        REQUIRE(NMR::lib3mf_builditemiterator_getcurrent(items, &item) == 0);
        NMR::PLib3MFModelObjectResource* object = nullptr;
        REQUIRE(NMR::lib3mf_builditem_getobjectresource(item, &object) == 0);
        char name[200]{};
        ULONG needed = 0;
        REQUIRE(NMR::lib3mf_object_getnameutf8(object, name, sizeof name, &needed) == 0);
        CHECK(std::string(name) == part.piece.name);
        NMR::MODELTRANSFORM place{};
        REQUIRE(NMR::lib3mf_builditem_getobjecttransform(item, &place) == 0);
        for (std::size_t k = 0; k < 3; ++k) {
            const double kept[]{part.at.x[k], part.at.y[k], part.at.z[k], part.at.origin[k] - least[k]};
            for (std::size_t column = 0; column < 4; ++column)
                CHECK(double(place.m_fFields[k][column]) == Approx(kept[column]).margin(1e-4));
        }
        NMR::lib3mf_release(object);
        NMR::lib3mf_release(item);
    }
    NMR::lib3mf_release(items);
    NMR::lib3mf_release(reader);
    NMR::lib3mf_release(model);
    std::filesystem::remove(path);
}

TEST_CASE("placements as a table, and nothing written where it can't be", "[together]") {
    Assembly all = assembly_of(only(demo(), {0, 5}), 0.05);
    all.parts[0].piece.name = "A \"stud\", long";
    const std::string csv = placements_csv(all);
    CHECK_THAT(csv, Catch::StartsWith("piece,x,y,z,axis_x"));
    CHECK_THAT(csv, Catch::Contains("\"A \"\"stud\"\", long\",0,0,0,0,0,1,1,0,0,\n"));
    CHECK_THAT(csv, Catch::Contains("\"Pillar nut\",0,0,28.6,0,0,1,"));
    CHECK_THROWS_AS(write_assembly(all, "/nowhere/at/all.glb"), FileError);
    std::stop_source stopped;
    stopped.request_stop();
    const auto path = file("whorl-stopped.stl");
    CHECK(write_assembly(all, path, stopped.get_token()).empty());
    CHECK(!std::filesystem::exists(path));
}

TEST_CASE("what will be written is known before, and what won't and why", "[together]") {
    Job job = job_of("M10 x 40");
    job.pieces[0].name = "Screw";
    job = add_counterpart(job, 0, 0);
    HandOn asked{{0, 1}, true, {"step", "glb"}, "/tmp", {}, 0.05};
    CHECK(plan_of(job, asked).size() == 2);
    CHECK(plan_of(job, asked)[1].path.extension() == ".glb");
    const Job beyond = place_pair(job, 0, {"400", {}});
    for (const PlannedFile& f : plan_of(beyond, asked)) {
        CHECK(f.fault);
        CHECK(f.why_not.find("asks for 400 mm") != std::string::npos);
    }
    CHECK(hand_on(beyond, asked).written.empty());
    CHECK(hand_on(beyond, asked).failed.size() == 1);
    asked.pieces = {0};
    CHECK(plan_of(beyond, asked)[0].why_not.empty()); // alone it stands wherever
    asked.pieces = {};
    CHECK(plan_of(job, asked).empty());
    asked.formats = {"svg"};
    CHECK_THROWS_AS(plan_of(job, asked), InputError);
}
