// Files out, read back by another reader than the writer: STEP by the kernel's reader, STL by one written
// here.
#include "exchange/coil_section.hpp"
#include "exchange/export.hpp"
#include "exchange/spring_chart.hpp"
#include "exchange/step_text.hpp"
#include "form/coil/coil_designation.hpp"
#include "form/coil/spring_block.hpp"
#include "random_piece.hpp"

#include <catch2/catch.hpp>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <map>
#include <numbers>
#include <sstream>
#include <unistd.h>

using namespace whorl;
using Catch::Matchers::Contains;
namespace fs = std::filesystem;

namespace {

struct Made {
    Piece piece;
    Preview preview;
    std::shared_ptr<const VerifiedSolid> solid;
};

Made made(const std::string& designation, const std::string& name = "Test piece") {
    Job j = add_piece({}, parse_designation(designation), name);
    Made m;
    m.piece = j.pieces[0];
    m.preview = make_preview(m.piece, 0, {}, LengthUnit::millimetre, 0.02);
    REQUIRE(m.preview.made());
    m.solid = make_verified_solid(m.preview);
    REQUIRE(m.solid->valid);
    return m;
}

fs::path in_temp(const std::string& name) {
    return fs::temp_directory_path() / (std::to_string(::getpid()) + "-" + name);
}

// A reader of binary STL that knows nothing of the writer: 80 bytes, a count, then 50 bytes a facet.
struct Stl {
    std::string header;
    std::vector<std::array<std::array<float, 3>, 3>> facets;
    std::vector<std::array<float, 3>> normals;
    bool watertight() const {
        std::map<std::array<std::array<float, 3>, 2>, int> sides;
        for (const auto& f : facets)
            for (std::size_t k = 0; k < 3; ++k)
                ++sides[{f[k], f[(k + 1) % 3]}];
        for (const auto& [side, n] : sides) {
            const auto back = sides.find({side[1], side[0]});
            if (n != 1 || back == sides.end() || back->second != 1) return false;
        }
        return !facets.empty();
    }
    double volume() const {
        double six = 0;
        for (const auto& f : facets) {
            const auto &a = f[0], &b = f[1], &c = f[2];
            six += double(a[0]) * (double(b[1]) * c[2] - double(b[2]) * c[1]) -
                   double(a[1]) * (double(b[0]) * c[2] - double(b[2]) * c[0]) +
                   double(a[2]) * (double(b[0]) * c[1] - double(b[1]) * c[0]);
        }
        return six / 6;
    }
};
Stl read_stl(const std::string& bytes) {
    Stl s;
    REQUIRE(bytes.size() >= 84);
    s.header = bytes.substr(0, 80);
    std::uint32_t n = 0;
    std::memcpy(&n, bytes.data() + 80, 4);
    REQUIRE(bytes.size() == 84 + 50 * std::size_t(n));
    for (std::uint32_t i = 0; i < n; ++i) {
        std::array<std::array<float, 3>, 3> f;
        std::memcpy(f.data(), bytes.data() + 84 + 50 * std::size_t(i) + 12, 36);
        s.facets.push_back(f);
        std::array<float, 3> normal;
        std::memcpy(normal.data(), bytes.data() + 84 + 50 * std::size_t(i), 12);
        s.normals.push_back(normal);
    }
    return s;
}

} // namespace

TEST_CASE("STEP is read back as one valid solid of the same volume and name") {
    for (const char* designation : {"M10x1.5-6g LH x 15", "M16xPh4P2-6g x 20", "1/4-20 UNC-2A x 0.5"}) {
        INFO(designation);
        const Made m = made(designation, "Pillar stud");
        const auto path = in_temp("back.step");
        write_step(*m.solid, m.piece, model_note(m.piece, m.preview.piece), LengthUnit::millimetre, path);
        const StepContent back = read_step(path);
        CHECK(back.solids == 1);
        CHECK(back.valid);
        CHECK(back.name == "Pillar stud");
        CHECK(back.volume == Approx(m.preview.volume()).epsilon(1e-5));
        const std::string text = read_file(path, 1 << 24);
        CHECK(text.find("real thread at middle of limits") != std::string::npos);
        CHECK(text.find("COLOUR_RGB") != std::string::npos);
        CHECK(text.find("CYLINDRICAL_SURFACE") != std::string::npos);
        CHECK(text.find("CONICAL_SURFACE") != std::string::npos);
        CHECK(text.find("SI_UNIT(.MILLI.,.METRE.)") != std::string::npos);
        fs::remove(path);
    }
}

TEST_CASE("STEP of randomised pieces is read back valid and of the same volume") {
    test::RandomPiece random(9);
    int compared = 0;
    for (int i = 0; compared < 20; ++i) {
        Piece piece = random.piece();
        const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre, 0.1);
        double turns = 0;
        for (const auto& z : p.piece.zones)
            if (z.thread()) turns += in_mm(z.length) / z.thread()->section.pitch;
        if (!p.made() || turns > 25) continue; // the reader takes seconds for long ones
        const auto solid = make_verified_solid(p);
        INFO("seed 9, round " << i);
        REQUIRE(solid->valid);
        const auto path = in_temp("random.step");
        write_step(*solid, piece, "random", LengthUnit::millimetre, path);
        const StepContent back = read_step(path);
        CHECK(back.solids == 1);
        CHECK(back.valid);
        CHECK(back.volume ==
              Approx(p.volume()).epsilon(3e-4)); // as good as the kernel's quadrature of chamfer cones
        fs::remove(path);
        ++compared;
    }
}

TEST_CASE("STEP in inch says so and is the same size") {
    const Made m = made("1/4-20 UNC-2A x 0.5");
    const auto path = in_temp("inch.step");
    write_step(*m.solid, m.piece, "note", LengthUnit::inch, path);
    CHECK(read_file(path, 1 << 24).find("INCH") != std::string::npos);
    CHECK(read_step(path).volume == Approx(m.preview.volume()).epsilon(1e-5));
    fs::remove(path);
}

TEST_CASE("STL is watertight in single precision and says what it is") {
    for (const char* designation : {"M10x1.5-6g LH x 15", "M16xPh4P2-6g x 20", "M1.6 x 4", "round 12 x 30"}) {
        INFO(designation);
        const Made m = made(designation);
        const Stl s = read_stl(stl_of(m.preview.mesh, model_note(m.piece, m.preview.piece)));
        CHECK(s.watertight());
        // every facet says which way it looks, and that is outwards: as its corners go round
        for (std::size_t i = 0; i < s.facets.size(); ++i) {
            const auto& [a, b, c] = s.facets[i];
            double u[3], v[3];
            for (std::size_t k = 0; k < 3; ++k)
                u[k] = double(b[k]) - a[k], v[k] = double(c[k]) - a[k];
            const double n[3]{u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2],
                              u[0] * v[1] - u[1] * v[0]};
            const double area = std::sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
            if (area < 1e-5) continue; // single precision leaves a sliver no direction
            const auto& said = s.normals[i];
            const double along = (n[0] * said[0] + n[1] * said[1] + n[2] * said[2]) / area;
            if (!(along > 0.999)) FAIL_CHECK("facet " << i << " looks another way: " << along);
        }
        CHECK(s.volume() == Approx(solid::volume(m.preview.mesh)).epsilon(1e-5));
        CHECK(s.header.find("Regular Whorl") != std::string::npos);
        CHECK(s.header.rfind("solid", 0) != 0); // would be taken for text
    }
}

TEST_CASE("the section's SVG is well formed and carries the figures") {
    const Made m = made("M10x1.5-6g x 15");
    const std::string svg = section_svg(*m.preview.piece.zones[0].thread(), LengthUnit::millimetre);
    for (const char* part : {"<svg ", "</svg>", ">1.5<", ">60°<", "M10x1.5-6g", "mm"}) {
        INFO(part);
        CHECK(svg.find(part) != std::string::npos);
    }
    // every tag that opens closes
    int depth = 0;
    for (std::size_t i = 0; i < svg.size(); ++i) {
        if (svg[i] != '<' || svg[i + 1] == '?') continue;
        const auto end = svg.find('>', i);
        REQUIRE(end != std::string::npos);
        if (svg[i + 1] == '/')
            --depth;
        else if (svg[end - 1] != '/')
            ++depth;
        CHECK(depth >= 0);
    }
    CHECK(depth == 0);
}

TEST_CASE("targets that can't be written are refused and leave nothing behind") {
    const Made m = made("M4 x 5");
    CHECK_THROWS_AS(write_step(*m.solid, m.piece, "n", LengthUnit::millimetre, "/nonexistent/dir/a.step"),
                    FileError);
    CHECK_THROWS_AS(write_stl(m.preview.mesh, "n", "/nonexistent/dir/a.stl"), FileError);
    CHECK_THROWS_AS(write_stl(m.preview.mesh, "n", "/dev/full"), FileError);
    CHECK_THROWS_AS(write_step(*m.solid, m.piece, "n", LengthUnit::millimetre, fs::temp_directory_path()),
                    FileError);
    for (const auto& f : fs::directory_iterator(fs::temp_directory_path()))
        CHECK(f.path().filename().string().find(".part-" + std::to_string(::getpid())) == std::string::npos);
}

TEST_CASE("file names come from piece names") {
    CHECK(file_stem("Pillar stud") == "Pillar-stud");
    CHECK(file_stem("../../etc/passwd") == "etc-passwd");
    CHECK(file_stem("") == "piece");
    CHECK(file_stem("///") == "piece");
}

TEST_CASE("arcs of the section's SVG bulge as the thread does") {
    for (const char* designation :
         {"Rd40x1/6 x 20", "Rd40x1/6 internal x 20", "G1/2 A x 20", "Tr40x7-7e x 40"}) {
        INFO(designation);
        const Designation d = parse_designation(designation);
        const ResolvedThread t = resolve_thread(std::get<ThreadSpec>(d.what));
        const std::string svg = section_svg(t, LengthUnit::millimetre);
        const std::size_t at = svg.find("class=\"outline\" d=\"") + 19, end = svg.find('"', at);
        std::istringstream path(svg.substr(at, end - at));
        // read as SVG 1.1 has it: a sweep of 1 goes on in rising angles of (x right, y down)
        const double scale = 40 / t.section.pitch, down = t.section.side == Side::internal ? -scale : scale;
        std::string word;
        double x = 0, y = 0;
        int arcs = 0;
        while (path >> word) {
            double to_x = 0, to_y = 0;
            if (word[0] == 'A') {
                double r = std::stod(word.substr(1)), same = 0, rotation = 0;
                int large = 0, sweep = 0;
                path >> same >> rotation >> large >> sweep >> to_x >> to_y;
                CHECK(large == 0);
                const double dx = to_x - x, dy = to_y - y, chord = std::hypot(dx, dy),
                             rise = r - std::sqrt(std::max(0.0, r * r - chord * chord / 4));
                const double side = sweep ? -1 : 1; // of the middle, seen along the chord
                const double mx = (x + to_x) / 2 - side * rise * dy / chord,
                             my = (y + to_y) / 2 + side * rise * dx / chord;
                const double z = std::remainder(mx - 15 - 20, 40.0) / scale;
                CHECK(groove_radius(t.section, z) ==
                      Approx(t.section.crest_radius - (my - 30) / down).margin(2e-3));
                ++arcs;
            } else {
                to_x = std::stod(word.substr(1));
                path >> to_y;
            }
            x = to_x, y = to_y;
        }
        CHECK(arcs >= 6);
    }
}

TEST_CASE("a STEP text loses repetitions and digits, and nothing it says") {
    const std::string before =
        "ISO-10303-21;\nHEADER;\nFILE_NAME('a; #3 = b','');\nENDSEC;\nDATA;\n"
        "#1 = CARTESIAN_POINT('',(1.000000000001,-0.,2.5));\n"
        "#2 = CARTESIAN_POINT('',(1.,0.,2.5));\n"
        "#7 = DIRECTION('',(0.,0.,1.));\n#8 = DIRECTION('',(0.,0.,1.));\n"
        "#9 = VECTOR('',#7,1.);\n#10 = VECTOR('',#8,1.);\n"
        "#11 = LINE('',#2,#10);\n#12 = VERTEX_POINT('',#1);\n#13 = VERTEX_POINT('',#2);\n"
        "#20 = PRODUCT('it''s #1; (a) = b','',(\n    #11\n    ,#12));\nENDSEC;\nEND-ISO-10303-21;\n";
    CHECK(smaller_step(before) ==
          "ISO-10303-21;\nHEADER;\nFILE_NAME('a; #3 = b','');\nENDSEC;\nDATA;\n"
          "#1=CARTESIAN_POINT('',(1.,0.,2.5));\n#2=DIRECTION('',(0.,0.,1.));\n#3=VECTOR('',#2,1.);\n"
          "#4=LINE('',#1,#3);\n#5=VERTEX_POINT('',#1);\n#6=VERTEX_POINT('',#1);\n"
          "#7=PRODUCT('it''s #1; (a) = b','',(#4,#5));\nENDSEC;\nEND-ISO-10303-21;\n");
    CHECK(smaller_step("no STEP at all") == "no STEP at all");
    CHECK(smaller_step("DATA;\n#1 = broken\nENDSEC;\n") == "DATA;\n#1 = broken\nENDSEC;\n");
}

TEST_CASE("a spring's load curve is written as a table and drawn under its section") {
    const auto coil = [](const char* text) { return resolve_coil(parse_spring(text).spec); };
    const auto rows_of = [](const std::string& csv) {
        std::vector<std::vector<double>> rows;
        std::istringstream lines(csv);
        std::string line;
        std::getline(lines, line);
        while (std::getline(lines, line)) {
            std::istringstream cells(line);
            rows.emplace_back();
            for (std::string cell; std::getline(cells, cell, ',');)
                rows.back().push_back(std::stod(cell));
        }
        return rows;
    };
    const ResolvedCoil pressed = coil("spring d2 D20 L50 n7 closed ground works 40..60N");
    const std::string csv = spring_csv(pressed);
    CHECK(csv.starts_with("travel,length,load,stress,load_least,load_most\n"));
    const auto limits = spring_tolerance(pressed); // EN 15800, tested where it is worked out
    REQUIRE(limits);
    const auto rows = rows_of(csv);
    REQUIRE(rows.size() == 103); // hundredths and what it works between
    for (std::size_t i = 0; i < rows.size(); ++i) {
        REQUIRE(rows[i].size() == 6);
        CHECK(rows[i][4] == Approx(std::max(0.0, rows[i][2] - limits->load(rows[i][2]))).margin(1e-4));
        CHECK(rows[i][5] == Approx(rows[i][2] + limits->load(rows[i][2])).margin(1e-4));
        CHECK(rows[i][1] == Approx(50 - rows[i][0]).margin(1e-5));
        CHECK(rows[i][2] == Approx(pressed.rate * rows[i][0]).margin(1e-4));
        CHECK(rows[i][3] == Approx(rows[i][2] * 8 * 20 / (std::numbers::pi * 8)).margin(1e-3));
        if (i) CHECK(rows[i][0] >= rows[i - 1][0]);
    }
    CHECK(rows.back()[1] == Approx(18));
    const auto wound = rows_of(spring_csv(coil("torsion spring d2 D16 n6 legs 30")));
    REQUIRE(wound.front().size() == 3);
    CHECK(wound[50][1] ==
          Approx(wound[50][0] * coil("torsion spring d2 D16 n6 legs 30").torsion_rate).margin(1e-3));
    const ResolvedCoil pulled = coil("extension spring d1.6 D12 n20 F0 10");
    CHECK(rows_of(spring_csv(pulled)).front()[2] == 10);
    CHECK(rows_of(spring_csv(pulled)).back()[1] > pulled.free_length);

    // the curve goes from one corner of its rectangle to the opposite one; what it works between stands on it
    const std::string chart = spring_chart(pressed, LengthUnit::millimetre, 30, 40, 100, 60);
    CHECK_THAT(chart, Contains("points=\"30,100 130,40 \""));
    for (const char* words :
         {">L0 50<", ">Lc 18<", ">93.1 N<", ">29.11 N at 40<", ">60 N at 29.39<", ">Ln 21.5<"})
        CHECK_THAT(chart, Contains(words));
    const double x = 30 + 10 / 32.0 * 100, y = 100 - 10 / 32.0 * 60;
    CHECK_THAT(chart, Contains("x1=\"" + number_text(x, 3) + "\" y1=\"" + number_text(y, 3) + "\" x2=\"" +
                               number_text(x, 3) + "\" y2=\"100\""));
    // the limits' first and last corners: at no travel nothing less than 0 and a load's share, at solid no more than all
    CHECK_THAT(chart, Contains("class=\"band\" points=\"30," +
                               number_text(100 - limits->load(0) / pressed.force_at_solid * 60, 3) + " ") &&
                          Contains(" 30,100 \"/>"));
    CHECK_THAT(
        chart,
        Contains(" 130,40 130," +
                 number_text(40 + limits->load(pressed.force_at_solid) / pressed.force_at_solid * 60, 3) +
                 " "));
    CHECK_THAT(coil_svg(pressed, LengthUnit::millimetre),
               Contains("polyline") && Contains(">L0 50<") && Contains("<ellipse"));
    const std::string flat = coil_svg(coil("spring d4x2 D32 L60 n8 closed ground"), LengthUnit::millimetre);
    CHECK_THAT(flat, Contains("<rect class=\"cut\"") && !Contains("<ellipse") &&
                         Contains("b 4   h 2   De 36") && !Contains("band\" points"));
}
