#include "form/designation.hpp"
#include "standard/iso_metric.hpp"
#include "standard/unified.hpp"

#include <catch2/catch.hpp>
#include <random>

using namespace whorl;

namespace {

ThreadSpec thread(const std::string& text) {
    return std::get<ThreadSpec>(parse_designation(text).what);
}

std::size_t refused_at(const std::string& text) {
    try {
        (void)parse_designation(text);
    } catch (const InputError& e) {
        CHECK(std::string(e.what()).size() > 20);
        return e.position;
    }
    FAIL("'" << text << "' was accepted");
    return 0;
}

} // namespace

TEST_CASE("any thread can be tapered, but those that are") {
    for (const char* text :
         {"M20x1.5-6g taper 1:16 x 40", "M20x1.5-6H LH taper 1:10", "Tr40x7-7e taper 1:20 x 50",
          "1/2-13 UNC-2A taper 1:16 x 1", "G1/2 taper 1:12.5 x 20", "SQ20x4 (2 starts) taper 1:30"}) {
        INFO(text);
        const auto spec = std::get<ThreadSpec>(parse_designation(text).what);
        REQUIRE(spec.taper);
        const auto& length = parse_designation(text).length;
        CHECK(std::get<ThreadSpec>(parse_designation(write_designation(spec, length)).what) == spec);
        const ResolvedThread t = resolve_thread(spec);
        CHECK(t.section.sweepable());
        // in space the flanks keep their angles: dr/dz along a flank of the section, with the taper added
        const double side = t.side == Side::external ? 1 : -1;
        const auto& g = t.section.groove;
        for (std::size_t i = 0; i + 1 < g.size(); ++i) {
            if (g[i].arc_radius > 0 || std::abs(g[i + 1].r - g[i].r) < 0.3 * t.section.depth()) continue;
            const double slope = (g[i + 1].r - g[i].r) / (g[i + 1].z - g[i].z) + *spec.taper;
            const double angle = (side * slope < 0 ? t.section.flank_half_angle : t.section.other_half_angle);
            CHECK(std::abs(slope) == Approx(1 / std::tan(angle)).epsilon(1e-6));
        }
    }
    CHECK(*std::get<ThreadSpec>(parse_designation("M20 taper 1:16").what).taper == Approx(1.0 / 32));
    for (const char* text : {"M20 taper", "M20 taper 16", "M20 taper 1:2", "M20 taper 0:5", "R1/2 taper 1:16",
                             "round 20 taper 1:16", "M20 taper 1:16 taper 1:16"}) {
        INFO(text);
        CHECK_THROWS_AS(parse_designation(text), InputError);
    }
}

TEST_CASE("designations of the trade are read") {
    CHECK(thread("M10").pitch == mm(1.5));
    CHECK(thread("M10").tolerance_class == "6g");
    CHECK(thread("M12x1.25-6g LH").hand == Hand::left);
    CHECK(thread("M12x1.25-6g-LH").hand == Hand::left);
    CHECK(thread("M12\xC3\x97"
                 "1.25")
              .pitch == mm(1.25));
    CHECK(thread("M16xPh4P2").starts == 2);
    CHECK(thread("M16xPh4P2").pitch == mm(2));
    CHECK(thread("M8x1-5g6g").tolerance_class == "5g6g");
    CHECK(thread("M6-6H").tolerance_class == "6H");
    CHECK(in_inch(thread("1/4-20 UNC-2A").diameter) == Approx(0.25));
    CHECK(in_inch(thread("7/16-20 UNF-2B").diameter) == Approx(0.4375));
    CHECK(in_inch(thread("#10-32 UNF").diameter) == Approx(0.19));
    CHECK(in_inch(thread("1.125-12 UN-2A").pitch) == Approx(1.0 / 12));
    CHECK(in_inch(thread("7/8-9 UNC").diameter) == Approx(0.875));
    CHECK(in_inch(thread("1 3/8-6 UNC-2A LH").diameter) == Approx(1.375));
    CHECK(in_inch(thread("1-3/8-6 UNC").diameter) == Approx(1.375));
    CHECK(thread("1/2-13 UNC-2A (3 starts) LH").starts == 3);
    const auto d = parse_designation("M10x1.5-6g LH x 40");
    CHECK(in_mm(*d.length) == 40);
    CHECK(in_mm(*parse_designation("M10 x 2 in").length) == Approx(50.8));
    CHECK(in_mm(*parse_designation("1/4-20 UNC x 1.5").length) == Approx(38.1));
    CHECK(in_mm(*parse_designation("1/4-20 UNC x 40 mm").length) == Approx(40));
    CHECK(in_mm(*parse_designation("M10 x 10+2*5").length) == Approx(20));
    CHECK(std::get<PlainBar>(parse_designation("round 12 x 30").what).diameter == mm(12));
}

TEST_CASE("what follows a thread may stand in any order, and a length in its place without a blank") {
    const auto same = [](const char* a, const char* b) {
        INFO(a);
        const Designation one = parse_designation(a), other = parse_designation(b);
        CHECK(std::get<ThreadSpec>(one.what) == std::get<ThreadSpec>(other.what));
        CHECK(one.length == other.length);
        CHECK(one.unit == other.unit);
    };
    same("M10 x 20 LH", "M10 LH x 20");
    same("M10 LH-6e x 20", "M10-6e LH x 20");
    same("1/4-20 UNC (2 starts) -3B x 1", "1/4-20 UNC-3B (2 starts) x 1");
    CHECK_THROWS_WITH(parse_designation("M10-6g LH-6e x 20"), Catch::Matchers::Contains("not understood"));
    CHECK_THROWS_WITH(parse_designation("M10 internal-6e x 20"),
                      Catch::Matchers::Contains("class 6e is that of an external thread"));
    same("M8x60", "M8 x 60");
    same("M6x25", "M6 x 25");
    same("M12x1.5x40", "M12x1.5 x 40");
    same("TR20x4", "Tr20x4");
    same("Tr 20x4 x 100", "Tr20x4 x 100");
    same("SQ20x4 LH internal", "SQ20x4 internal LH");
    same("V60 20x2 taper 1:16 x 20", "V60 20x2 x 20 taper 1:16");
    same("M16 internal", "M16-6H");
    same("M16 internal x 20", "M16-6H x 20");
    same("M16 x 20 internal LH", "M16-6H LH x 20");
    same("1/4-20 UNC internal", "1/4-20 UNC-2B");
    same("M10 x 2 in LH", "M10 LH x 2 in");
    // the series that has it
    same("3/4-10", "3/4-10 UNC");
    same("3/4-16 x 2", "3/4-16 UNF x 2");
    same("3/4 UNC", "3/4-10 UNC");
    same("#10 UNF x 1/2", "#10-32 UNF x 1/2");
    same("1/2 NPT x 0.8", "1/2-14 NPT x 0.8");
    same("1/2 BSW", "1/2-12 BSW");
    same("1 1/4 UNC-2B", "1 1/4-7 UNC-2B");
    CHECK_THROWS_WITH(parse_designation("M16-6g internal"),
                      Catch::Matchers::Contains("external thread") && Catch::Matchers::Contains("6H"));
    CHECK_THROWS_WITH(parse_designation("M10 LH x 20 LH"), Catch::Matchers::Contains("second time"));
    CHECK_THROWS_WITH(parse_designation("M10 x 20 x 30"),
                      Catch::Matchers::Contains("x 30") || Catch::Matchers::Contains("second time"));
    CHECK_THROWS_WITH(parse_designation("1/4 UN"), Catch::Matchers::Contains("threads per inch"));
    // what nobody means in inch is asked about
    CHECK_THROWS_WITH(parse_designation("#10-24 UNC x 30"),
                      Catch::Matchers::Contains("30 in") && Catch::Matchers::Contains("30 mm"));
    CHECK(in_mm(*parse_designation("#10-24 UNC x 30 mm").length) == Approx(30));
    CHECK(in_mm(*parse_designation("#10-24 UNC x 30 in").length) == Approx(762));
    CHECK(in_mm(*parse_designation("1/4-20 UNC x 36").length) == Approx(914.4)); // a rod of a yard
    CHECK_THROWS_WITH(parse_designation("widget 5"),
                      Catch::Matchers::Contains("gear") && Catch::Matchers::Contains("spring"));
}

TEST_CASE("cams, bars and knurls take the words of the trade") {
    const Designation
        cam = parse_designation(
            "cam r20: rise 10 in 120 cycloidal, dwell 60, fall in 120, dwell; roller 8; b3/8; bore 1/4; in"),
        drum = parse_designation("drum cam d72 b50: rise 20 in 150, dwell 30, return in 150, dwell; groove 8 "
                                 "wide 6 deep; bore 16 key"),
        bar = parse_designation("round 20 x 30 bore 10"),
        other = parse_designation("round 20 bore 10 key x 30");
    CHECK(in_inch(*cam.length) == Approx(0.375));
    CHECK(in_inch(*cam.body.bore) == Approx(0.25));
    CHECK(std::get<CamSpec>(cam.what).timing.stretches[2].kind == CamStretch::back);
    CHECK(*drum.body.bore == mm(16));
    CHECK(drum.body.key);
    CHECK(*bar.body.bore == mm(10));
    CHECK(*bar.length == mm(30));
    CHECK(other.body.key);
    CHECK(*other.length == mm(30));
    CHECK_THROWS_WITH(parse_designation("cam r20: dwell; b12; bore 16; bore 12"),
                      Catch::Matchers::Contains("second time"));
    const auto turns = [](const std::string& word) {
        return std::get<CamSpec>(
                   parse_designation("cam r20: rise 10 in 120, dwell 60, return in 120, dwell; " + word).what)
            .clockwise;
    };
    for (const char* word : {"counterclockwise", "counter-clockwise", "ccw", "anticlockwise", "roller 8"})
        CHECK_FALSE(turns(word));
    CHECK(turns("clockwise"));
    CHECK(turns("CW"));
    struct Code {
        const char *din, *plain;
    };
    for (const Code& c : {Code{"knurl RAA 1 on 20 x 15", "knurl axial pitch 1 on 20 x 15"},
                          Code{"knurl RBL 0.8 on 20 x 15", "knurl left pitch 0.8 on 20 x 15"},
                          Code{"knurl rbr0.8 on 20", "knurl right pitch 0.8 on 20"},
                          Code{"knurl DIN 82-RGE 0.8 on 20", "knurl crossed pitch 0.8 on 20"},
                          Code{"knurl RGV 1 on 20", "knurl crossed sunk pitch 1 on 20"},
                          Code{"knurl RKE 1 on 20", "knurl axial-ring pitch 1 on 20"},
                          Code{"knurl RKV on 20 pitch 1", "knurl axial-ring sunk pitch 1 on 20"}}) {
        INFO(c.din);
        CHECK(std::get<KnurlSpec>(parse_designation(c.din).what) ==
              std::get<KnurlSpec>(parse_designation(c.plain).what));
    }
    std::string curve = "silhouette", own = "groove own 0:0";
    for (int i = 0; i < 40; ++i)
        curve += " " + std::to_string(i * 5) + "." + std::to_string(i) + ":" + std::to_string(20 + i % 7);
    REQUIRE(curve.size() > 300);
    CHECK(std::get<SilhouetteSpec>(parse_designation(curve).what).points.size() == 40);
    CHECK_THROWS_WITH(parse_designation("knurl axial angle"), Catch::Matchers::Contains("An angle"));
}

TEST_CASE("what is not understood is said, with its place") {
    CHECK(refused_at("") == 0);
    CHECK(refused_at("bolt") == 0);
    CHECK(refused_at("M") == 1);
    CHECK(refused_at("Mx") == 1);
    CHECK(refused_at("M10x") == 4);
    CHECK(refused_at("M10x1.5-9k") == 8);
    CHECK(refused_at("M10x1.5-6") == 8);
    CHECK(refused_at("M10x1.5 blue") == 8);
    CHECK(refused_at("M10x1.5 x") == 9);
    CHECK(refused_at("M10x1.5 x 4o") == 11);
    CHECK(refused_at("M10.5") == 1);
    CHECK(refused_at("M16xPh5P2") == 4);
    CHECK(refused_at("1/4-19") == 6); // no series has it
    CHECK(refused_at("1/4") == 3);
    CHECK(refused_at("7/8 UNEF UNC") == 9);
    CHECK(refused_at("1/4-21 UNC") == 4);
    CHECK(refused_at("1/0-20 UNC") == 3);
    CHECK(refused_at("#13-20 UNC") == 0);
    CHECK(refused_at("M0x1") == 1);
    CHECK(refused_at("M10 x -4") == 6);
    CHECK(refused_at("M10 x 0") == 6);
    CHECK(refused_at(std::string(300, 'M')) == 200);
}

TEST_CASE("writing and reading again gives the same thread") {
    std::mt19937 random(2026);
    const auto pick = [&](const auto& list) { return list[random() % list.size()]; };
    const std::vector<std::string> metric_classes{"6g", "6h", "4h", "5g6g", "8g", "6e", "6f"},
        unified_classes{"1A", "2A", "3A"};
    for (int i = 0; i < 3000; ++i) {
        ThreadSpec s;
        if (random() % 2) {
            const auto& t = pick(standard::iso_metric_series());
            s.diameter = random() % 3 ? t.diameter : mm(double(random() % 90000 + 1000) / 1000);
            s.pitch = random() % 3 ? t.pitch : mm(double(random() % 8000 + 100) / 1000);
            s.tolerance_class = pick(metric_classes);
        } else {
            s.family = ThreadFamily::unified;
            const auto& t = pick(standard::unified_series());
            s.diameter = t.diameter;
            s.pitch = random() % 2 ? t.pitch : inch(1 / double(random() % 60 + 4));
            s.tolerance_class = pick(unified_classes);
        }
        s.hand = random() % 2 ? Hand::left : Hand::right;
        s.starts = 1 + int(random() % 8);
        const Length length = mm(double(random() % 200000 + 1000) / 1000);
        const std::string text = write_designation(s, length);
        INFO("seed 2026, round " << i << ": " << text);
        const Designation back = parse_designation(text);
        const auto& b = std::get<ThreadSpec>(back.what);
        CHECK(in_mm(b.diameter) == Approx(in_mm(s.diameter)).epsilon(1e-9));
        CHECK(in_mm(b.pitch) == Approx(in_mm(s.pitch)).epsilon(1e-6));
        CHECK(b.tolerance_class == s.tolerance_class);
        CHECK(b.hand == s.hand);
        CHECK(b.starts == s.starts);
        CHECK(b.family == s.family);
        CHECK(in_mm(*back.length) == Approx(in_mm(length)).margin(1.3e-4));
        CHECK(write_designation(b, back.length) == text);
    }
}

TEST_CASE("plain zones are written in either unit and read back") {
    for (const auto unit : {LengthUnit::millimetre, LengthUnit::inch}) {
        const std::string text = write_designation(PlainBar{inch(0.5)}, inch(0.75), unit);
        const auto back = parse_designation(text);
        INFO(text);
        CHECK(in_inch(std::get<PlainBar>(back.what).diameter) == Approx(0.5));
        CHECK(in_inch(*back.length) == Approx(0.75));
    }
    CHECK(write_designation(PlainBar{inch(0.5)}, inch(0.75), LengthUnit::inch) == "round 0.5 in x 0.75");
}

TEST_CASE("completions are designations that begin with what is typed") {
    for (const char* typed : {"M", "M1", "M10", "M10x", "1", "1/4", "#", "#10-3", "r"}) {
        const auto offers = complete_designation(typed);
        INFO(typed);
        CHECK(!offers.empty());
        CHECK(offers.size() <= 8);
        for (const auto& o : offers) {
            CHECK(o.starts_with(typed));
            if (o != "round ") CHECK_NOTHROW(parse_designation(o));
        }
    }
    CHECK(complete_designation("M10").front() == "M10x1.5-6g");
    for (const auto& o : complete_designation("M10x1.5", 50)) // each with its class, none twice
        CHECK(o.starts_with("M10x1.5-"));
    CHECK(complete_designation("nonsense").empty());
}

namespace {
// The line in standard form, whatever form it is of.
std::string rewritten(const std::string& text) {
    const Designation d = parse_designation(text);
    return std::visit(
        [&]<class Spec>(const Spec& s) -> std::string {
            if constexpr (std::is_same_v<Spec, ThreadSpec>)
                return write_designation(s, d.length);
            else if constexpr (std::is_same_v<Spec, PlainBar>)
                return write_designation(s, d.length, d.unit);
            else if constexpr (std::is_same_v<Spec, GearSpec>)
                return write_gear(s, d.length);
            else if constexpr (std::is_same_v<Spec, RackSpec>)
                return write_rack(s);
            else if constexpr (std::is_same_v<Spec, CoilSpec>)
                return write_spring(s, d.unit);
            else if constexpr (std::is_same_v<Spec, KnurlSpec>)
                return write_knurl(s, d.length, d.unit);
            else if constexpr (std::is_same_v<Spec, CamSpec>)
                return write_cam(s, d.length, d.unit);
            else if constexpr (std::is_same_v<Spec, DrumSpec>)
                return write_drum(s, d.length, d.unit);
            else if constexpr (std::is_same_v<Spec, BendSpec>)
                return write_bend(s, d.unit);
            else if constexpr (std::is_same_v<Spec, GrooveSpec>)
                return write_groove(s, d.length, d.unit);
            else if constexpr (std::is_same_v<Spec, SplineSpec>)
                return write_spline(s, d.length);
            else
                return write_silhouette(s, d.length, d.unit);
        },
        d.what);
}
const std::string cam = "cam r20: rise 10 in 120, dwell, return in 120; ",
                  drum = "drum cam d72 b50: rise 20 in 150, dwell 30, return in 150, dwell; ";
} // namespace

TEST_CASE("numbers of every line may be worked out where they are written") {
    const std::pair<std::string, std::string> lines[]{
        {"round (2*10) x 3*10", "round 20 x 30"},
        {"hex (10+7) x 8", "hex 17 x 8"},
        {"flat (3*10) x (12/2) x 90", "flat 30 x 6 x 90"},
        {"bend d(4*2) 90 r(10+10)", "bend d8 90 r20"},
        {"bend d8 (45*2) inside 16 roll (-45)", "bend d8 90 inside 16 roll -45"},
        {"knurl axial pitch (1/2*2) on (2*10) x (3*5)", "knurl axial pitch 1 on 20 x 15"},
        {"groove rect (1+1) x (3/2) pitch (5*5) on (3*10) x (3*100), (1+1) starts",
         "groove rect 2 x 1.5 pitch 25 on 30 x 300, 2 starts"},
        {"groove vee (30*2) (1/2) pitch 6 on 20 x 40", "groove vee 60 0.5 pitch 6 on 20 x 40"},
        {"silhouette 0:30 (30*2):38, (4*2) flutes (2+2) deep, twist (30*2), from (5*2)",
         "silhouette 0:30 60:38, 8 flutes 4 deep, twist 60, from 10"},
        {"hollow (3/2) bottom (2+1)", "hollow 1.5 bottom 3"},
        {cam + "roller (4*2); b(5+5); at (-30); (2*60) rpm", cam + "roller 8; b10; at -30; 120 rpm"},
        {drum + "groove (4*2) wide (12/2) deep; from (5*5)", drum + "groove 8 wide 6 deep from 25"},
        {"gear m(4/2) z(2*12) b3*4", "gear m2 z24 b12"},
        {"rack m2 z4*5 b20 h20", "rack m2 z20 b20 h20"},
        {"spring d1+1 D4*5 L50 n7 open", "spring d2 D20 L50 n7 open"},
        {"M12 x 4*10", "M12 x 40"},
    };
    for (const auto& [worked, plain] : lines) {
        INFO(worked);
        CHECK(rewritten(worked) == rewritten(plain));
    }
    // what can't be worked out is shown at its place
    for (const auto& [text, at] : {std::pair<std::string, std::size_t>{"bend d(4*) 90 r20", 9},
                                   {"knurl axial pitch (1 on 20 x 15", 18},
                                   {cam + "roller (2/0); b10", cam.size() + 7}}) {
        INFO(text);
        try {
            (void)parse_designation(text);
            FAIL("nothing was said");
        } catch (const InputError& e) {
            CHECK(e.position >= at - 1);
            CHECK(e.position <= at + 5);
        }
    }
}

TEST_CASE("every line may be in inch, said last") {
    for (const char* text :
         {"round 1 x 2", "hex 3/4 x 1/2", "flat 2 x 1/4 x 4", "bend d1/4 90 r1",
          "knurl axial pitch 1/16 on 1 x 1/2", "groove rect 1/8 x 1/16 pitch 1 on 1 x 4",
          "groove own 0:0 0.05:0.05 0.1:0 pitch 0.5 on 1 x 2",
          "silhouette 0:1 2:1.5 4:1, 8 flutes 1/8 deep, from 1/4, wall 1/16 bottom 1/8",
          "hollow 1/16 bottom 1/8", "spring d1/8 D1 L2 n6", "rack m2 z20 b1 h1", "gear m2 z24 b1/2",
          "cam r1: rise 1/4 in 120, dwell, return in 120; roller 3/8; b1/2",
          "drum cam d3 b2: rise 3/4 in 150, dwell 30, return in 150, dwell; groove 3/8 wide 1/4 deep"}) {
        const std::string line = text, inches = line + (line.find(';') == line.npos ? " in" : "; in");
        INFO(inches);
        const Designation d = parse_designation(inches);
        CHECK(d.unit == LengthUnit::inch);
        try {
            if (const auto plain = parse_designation(line).length) CHECK(*d.length / *plain == Approx(25.4));
        } catch (const InputError&) {
            // too small in millimetres
        }
        CHECK(rewritten(rewritten(inches)) == rewritten(inches));
    }
    const auto vessel =
        std::get<SilhouetteSpec>(parse_designation("silhouette 0:1 2:1.5 4:1, 8 flutes 1/8 deep, "
                                                   "wall 1/16 bottom 1/8 in")
                                     .what);
    CHECK(vessel.points.back().at == Approx(4 * 25.4));
    CHECK(vessel.flutes->depth == Approx(25.4 / 8));
    CHECK(*vessel.wall == Approx(25.4 / 16));
    CHECK(vessel.bottom == Approx(25.4 / 8));
}

TEST_CASE("what a line says twice is said back, at its second place") {
    struct Line {
        std::string text, second; // the word that is one too many
    };
    const Line lines[]{
        {"bend d8 90 r20 d9", "d9"},
        {"bend d8 90 r20 inside 16", "inside"},
        {"bend d8 90 45 r20", "45"},
        {"knurl axial pitch 1 on 20 x 15 x 16", "x 16"},
        {"knurl RAA 1 on 20 x 15 pitch 2", "pitch"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 300 LH LH", "LH"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 300, 2 starts, 3 starts", "3 starts"},
        {"silhouette 0:30 60:38 arcs spline", "spline"},
        {"silhouette 0:30 60:38, 8 flutes 4 deep, 9 flutes", "9 flutes"},
        {"silhouette 0:30 60:38, 8 flutes 4 deep, twist 10, twist 20", "twist 20"},
        {"silhouette 0:30 60:38 x 70 x 80", "x 80"},
        {"silhouette 0:30 60:38, wall 2, wall 3", "wall 3"},
        {"hollow 2 bottom 3 bottom 4", "bottom 4"},
        {cam + "roller 8; flat; b10", "flat"},
        {cam + "roller 8; b10; clockwise; ccw", "ccw"},
        {cam + "roller 8; b10; at 30; at 40", "at 40"},
        {cam + "roller 8; b10; bore 8; bore 9", "bore 9"},
        {cam + "roller 8; b10; 30 rpm 40 rpm", "40 rpm"},
        {drum + "groove 8 wide 6 deep; corners 5; corners 6", "corners 6"},
        {drum + "groove 8 wide 6 deep; 2 turns; 3 turns", "3 turns"},
        {drum + "groove 8 wide 6 wide", "wide"},
        {drum + "groove 8 wide 6 deep; from 20 from 22", "from 22"},
        {"gear m2 z24 b12 LH RH", "rh"},
        {"gear m2 z24 b12 tip chamfer 0.1 tip round 0.2", "tip round"},
        {"rack m2 z20 b20 h20 profile A profile B", "profile B"},
        {"spring d2 D20 De22 L50 n7", "De22"},
        {"spring d2 D20 L50 n7 open closed", "closed"},
    };
    for (const Line& l : lines) {
        INFO(l.text);
        try {
            (void)parse_designation(l.text);
            FAIL("nothing was said");
        } catch (const InputError& e) {
            CHECK_THAT(e.what(), Catch::Contains("a second time"));
            const std::string said = l.text.substr(e.position, 2);
            CHECK((said == l.second.substr(0, 2) || said == "RH"));
            CHECK(e.position >= l.text.size() / 3);
        }
    }
}

TEST_CASE("lists of points and stretches may be long, other lines may not") {
    std::string points = "silhouette 0:30", groove = "groove own 0:0";
    for (int i = 1; i < 60; ++i) {
        points += " " + std::to_string(i * 5) + ":30.25";
        groove += " " + std::to_string(i * 0.05).substr(0, 4) + ":" + (i < 30 ? "0.5" : "0.4");
    }
    CHECK(points.size() > 200);
    CHECK(std::get<SilhouetteSpec>(parse_designation("  " + points).what).points.size() == 60);
    CHECK(std::get<GrooveSpec>(parse_designation(" " + groove + " 3:0 pitch 10 on 40 x 60").what)
              .points.size() == 61);
    CHECK_THROWS_WITH(parse_designation("M12" + std::string(200, ' ') + "x 40"), Catch::Contains("200"));
    CHECK_THROWS_WITH(parse_designation(points + std::string(20000, ' ')), Catch::Contains("20000"));
}
