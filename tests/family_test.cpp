// The families beside metric and Unified against published tables.
#include "form/designation.hpp"
#include "form/thread/thread.hpp"
#include "quantity/input_error.hpp"

#include <catch2/catch.hpp>
#include <cmath>

using namespace whorl;

namespace {

ResolvedThread of(const std::string& designation) {
    return resolve_thread(std::get<ThreadSpec>(parse_designation(designation).what));
}
double basic(const ResolvedThread& t, const std::string& which) {
    const auto* v = find_value(t.values, which + "_diameter_basic");
    REQUIRE(v);
    return *v->value;
}
double limit(const ResolvedThread& t, const std::string& which, bool upper) {
    const auto* v = find_value(t.values, which + "_diameter");
    REQUIRE(v);
    return upper ? *v->max : *v->min;
}

// The sheet's rows of a designation in inch, by key: value, min and max.
auto in_inches(const std::string& designation) {
    return [t = of(designation), designation](const std::string& key) {
        INFO(designation << " " << key);
        const auto* v = find_value(t.values, key);
        REQUIRE(v);
        ResolvedValue row = *v;
        for (auto* x : {&row.value, &row.min, &row.max})
            if (*x) **x /= 25.4;
        struct {
            double value, min, max;
            bool limited_above;
            std::string source;
        } out{row.value.value_or(NAN), row.min.value_or(NAN), row.max.value_or(NAN), row.max.has_value(),
              row.source};
        return out;
    };
}

} // namespace

TEST_CASE("BS 84: basic effective and minor diameters") {
    struct Row {
        const char* size;
        double effective, minor; // in
    };
    for (const Row& r :
         {Row{"1/4-20 BSW", 0.2180, 0.1860}, Row{"5/16-18 BSW", 0.2769, 0.2414},
          Row{"3/8-16 BSW", 0.3350, 0.2950}, Row{"1/2-12 BSW", 0.4466, 0.3932},
          Row{"5/8-11 BSW", 0.5668, 0.5086}, Row{"3/4-10 BSW", 0.6860, 0.6219},
          Row{"7/8-9 BSW", 0.8039, 0.7327}, Row{"1-8 BSW", 0.9200, 0.8400}, Row{"1/4-26 BSF", 0.2254, 0.2008},
          Row{"3/8-20 BSF", 0.3430, 0.3110}, Row{"1/2-16 BSF", 0.4600, 0.4200}}) {
        const auto t = of(r.size);
        INFO(r.size);
        CHECK(basic(t, "pitch") / 25.4 == Approx(r.effective).margin(0.00011));
        CHECK(basic(t, "minor") / 25.4 == Approx(r.minor).margin(0.00011));
        CHECK(t.status.listed);
    }
}

TEST_CASE("BS 84: the form's radius is 0.137329 P at crest and root, flanks are tangent to it") {
    ThreadSpec s = std::get<ThreadSpec>(parse_designation("1/2-12 BSW").what);
    s.modelled_at = ModelledAt::basic;
    const ThreadSection section = resolve_thread(s).section;
    int arcs = 0;
    for (const auto& g : section.groove)
        if (g.arc_radius > 0) {
            ++arcs;
            CHECK(g.arc_radius == Approx(0.137329 * section.pitch).epsilon(2e-5));
        }
    CHECK(arcs == 4);
    // smooth: the slope just before a joint is the slope just after it
    for (std::size_t i = 1; i + 1 < section.groove.size(); ++i) {
        const double z = section.groove[i].z, h = 1e-6;
        const double before = (groove_radius(section, z) - groove_radius(section, z - h)) / h,
                     after = (groove_radius(section, z + h) - groove_radius(section, z)) / h;
        CHECK(before == Approx(after).margin(1e-3));
    }
}

TEST_CASE("ISO 228-1: basic diameters and limits") {
    struct Row {
        const char* size;
        double major, pitch, minor;
    };
    for (const Row& r : {Row{"1/8", 9.728, 9.147, 8.566}, Row{"1/4", 13.157, 12.301, 11.445},
                         Row{"3/8", 16.662, 15.806, 14.950}, Row{"1/2", 20.955, 19.793, 18.631},
                         Row{"3/4", 26.441, 25.279, 24.117}, Row{"1", 33.249, 31.770, 30.291},
                         Row{"1 1/4", 41.910, 40.431, 38.952}, Row{"2", 59.614, 58.135, 56.656}}) {
        for (const std::string prefix : {"G", "R"}) {
            const auto t = of(prefix + r.size + (prefix == "G" ? " A" : ""));
            INFO(prefix << r.size);
            CHECK(basic(t, "major") == Approx(r.major).margin(1e-9));
            CHECK(basic(t, "pitch") == Approx(r.pitch).margin(0.0006));
            CHECK(basic(t, "minor") == Approx(r.minor).margin(0.0011));
        }
    }
    CHECK(limit(of("G1/2 A"), "pitch", false) == Approx(19.651));
    CHECK(limit(of("G1/2 B"), "pitch", false) == Approx(19.509));
    CHECK(limit(of("G1/2"), "pitch", true) == Approx(19.935));
    CHECK(limit(of("G1/2"), "minor", true) == Approx(19.172));
    CHECK(limit(of("G1/4 A"), "pitch", false) == Approx(12.176));
    CHECK(limit(of("G1 A"), "pitch", false) == Approx(31.590));
    CHECK(limit(of("G1"), "minor", true) == Approx(30.931));
}

TEST_CASE("ISO 7-1: the gauge plane lies the gauge length from the small end, taper 1:16") {
    const auto r = of("R1/2");
    CHECK(in_mm(r.gauge_distance) == Approx(8.2));
    CHECK(r.section.taper == Approx(1.0 / 32));
    CHECK(in_mm(of("Rc1/2").gauge_distance) == 0);
    CHECK(of("Rp1/2").section.taper == 0);
}

TEST_CASE("ASME B1.20.1: pitch diameters E0 and E1 of NPT") {
    struct Row {
        const char* size;
        double e0, e1; // in
    };
    for (const Row& r : {Row{"1/8-27 NPT", 0.36351, 0.37360}, Row{"1/4-18 NPT", 0.47739, 0.49163},
                         Row{"3/8-18 NPT", 0.61201, 0.62701}, Row{"1/2-14 NPT", 0.75843, 0.77843},
                         Row{"3/4-14 NPT", 0.96768, 0.98887}, Row{"1-11.5 NPT", 1.21363, 1.23863},
                         Row{"2-11.5 NPT", 2.26902, 2.29627}, Row{"4-8 NPT", 4.33438, 4.38713}}) {
        INFO(r.size);
        CHECK(basic(of(r.size), "pitch") / 25.4 == Approx(r.e0).margin(2e-5));
        CHECK(basic(of(std::string(r.size) + " internal"), "pitch") / 25.4 == Approx(r.e1).margin(2e-5));
    }
}

TEST_CASE("ISO 2904: diameters of trapezoidal threads") {
    struct Row {
        const char* size;
        double d2, d3, D4, D1;
    };
    for (const Row& r :
         {Row{"Tr8x1.5", 7.25, 6.2, 8.3, 6.5}, Row{"Tr10x2", 9, 7.5, 10.5, 8},
          Row{"Tr12x3", 10.5, 8.5, 12.5, 9}, Row{"Tr16x4", 14, 11.5, 16.5, 12},
          Row{"Tr20x4", 18, 15.5, 20.5, 16}, Row{"Tr22x5", 19.5, 16.5, 22.5, 17},
          Row{"Tr24x5", 21.5, 18.5, 24.5, 19}, Row{"Tr30x6", 27, 23, 31, 24}, Row{"Tr40x7", 36.5, 32, 41, 33},
          Row{"Tr50x8", 46, 41, 51, 42}, Row{"Tr60x9", 55.5, 50, 61, 51}, Row{"Tr100x12", 94, 87, 101, 88}}) {
        const auto screw = of(std::string(r.size) + "-7e"), nut = of(std::string(r.size) + "-7H");
        INFO(r.size);
        CHECK(basic(screw, "pitch") == Approx(r.d2));
        CHECK(basic(screw, "minor") == Approx(r.d3));
        CHECK(basic(nut, "major") == Approx(r.D4));
        CHECK(basic(nut, "minor") == Approx(r.D1));
        CHECK(screw.status.listed);
    }
    // ISO 2903 rounds its rule to preferred numbers; the rule lies within a step (6 %) of what it prints
    const auto t = of("Tr20x4-7e");
    CHECK(18 - limit(t, "pitch", true) == Approx(0.095).epsilon(0.06));
    CHECK(limit(t, "pitch", true) - limit(t, "pitch", false) == Approx(0.265).epsilon(0.06));
    CHECK(limit(t, "major", true) - limit(t, "major", false) == Approx(0.300).epsilon(0.06));
    CHECK(limit(of("Tr40x7-7e"), "pitch", true) - limit(of("Tr40x7-7e"), "pitch", false) ==
          Approx(0.355).epsilon(0.06));
}

TEST_CASE("ASME B1.5: limits of class 2G") {
    const auto in = [](double mm_value) { return mm_value / 25.4; };
    const auto a = of("1-5 ACME-2G"), n = of("1-5 ACME-2G internal");
    CHECK(in(limit(a, "major", true)) == Approx(1.0000));
    CHECK(in(limit(a, "major", false)) == Approx(0.9900));
    CHECK(in(limit(a, "pitch", true)) == Approx(0.8920).margin(6e-5));
    CHECK(in(limit(a, "pitch", false)) == Approx(0.8726).margin(6e-5));
    CHECK(in(limit(a, "minor", true)) == Approx(0.7800));
    CHECK(in(limit(a, "minor", false)) == Approx(0.7509).margin(6e-5));
    CHECK(in(limit(n, "major", false)) == Approx(1.0200));
    CHECK(in(limit(n, "pitch", true)) == Approx(0.9194).margin(6e-5));
    CHECK(in(limit(n, "minor", true)) == Approx(0.8100));
    const auto h = of("1/2-10 ACME-2G");
    CHECK(in(limit(h, "pitch", true)) == Approx(0.4443).margin(6e-5));
    CHECK(in(limit(h, "pitch", false)) == Approx(0.4306).margin(6e-5));
    CHECK(in(limit(h, "minor", false)) == Approx(0.3594).margin(6e-5));
}

TEST_CASE("DIN 405 and DIN 513: diameters") {
    const auto rd = of("Rd40x1/6"), rd_nut = of("Rd40x1/6 internal");
    CHECK(basic(rd, "pitch") == Approx(37.883).margin(0.0006));
    CHECK(basic(rd, "minor") == Approx(35.767).margin(0.0006));
    CHECK(basic(rd_nut, "major") == Approx(40.423).margin(0.0006));
    CHECK(basic(rd_nut, "minor") == Approx(36.190).margin(0.0006));
    // R1 = 0.238507 P outside, R2 = 0.255967 P and R3 = 0.221047 P inside
    CHECK(*find_value(rd.values, "crest_rounding")->value == Approx(0.238507 * 25.4 / 6).epsilon(1e-4));
    CHECK(*find_value(rd.values, "root_rounding")->value == Approx(0.238507 * 25.4 / 6).epsilon(1e-4));
    CHECK(*find_value(rd_nut.values, "crest_rounding")->value == Approx(0.255967 * 25.4 / 6).epsilon(1e-4));
    CHECK(*find_value(rd_nut.values, "root_rounding")->value == Approx(0.221047 * 25.4 / 6).epsilon(1e-4));
    struct Row {
        const char* size;
        double d3, D1;
    };
    for (const Row& r : {Row{"S20x4", 13.058, 14}, Row{"S30x6", 19.586, 21}, Row{"S40x7", 27.852, 29.5}}) {
        INFO(r.size);
        CHECK(basic(of(r.size), "minor") == Approx(r.d3).margin(0.0011));
        CHECK(basic(of(std::string(r.size) + " internal"), "minor") == Approx(r.D1));
    }
}

TEST_CASE("every listed size of every family resolves to a section, on both sides") {
    for (int k = 0; k < family_count; ++k) {
        const auto family = static_cast<ThreadFamily>(k);
        Length before = mm(0);
        std::string series;
        for (const auto& l : listed_threads(family))
            for (const Side side : {Side::external, Side::internal}) {
                ThreadSpec s;
                s.family = family;
                s.side = side;
                s.tolerance_class = usual_class(family, side);
                s.diameter = l.diameter;
                s.pitch = l.pitch;
                for (const auto at :
                     {ModelledAt::basic, ModelledAt::maximum_material, ModelledAt::minimum_material}) {
                    s.modelled_at = at;
                    const auto r = resolve_thread(s);
                    INFO(word(family) << " " << l.size << " " << in_mm(l.pitch));
                    CHECK(r.section.sweepable());
                    CHECK(r.status.listed);
                    for (const auto& v : r.values)
                        CHECK_FALSE(v.source.empty());
                }
                // what is written reads back as the same thread
                s.modelled_at = ModelledAt::middle;
                INFO(write_designation(s));
                const auto back = std::get<ThreadSpec>(parse_designation(write_designation(s)).what);
                CHECK(write_designation(back) == write_designation(s));
                CHECK(back.side == s.side);
                CHECK(in_mm(back.diameter) == Approx(in_mm(s.diameter)).epsilon(1e-12));
                CHECK(in_mm(back.pitch) == Approx(in_mm(s.pitch)).epsilon(1e-9));
                if (l.series == series) CHECK(l.diameter >= before);
                before = l.diameter;
                series = l.series;
            }
    }
}

TEST_CASE("flanks keep their angle to the plane square to the axis, tapered or not") {
    for (const char* designation :
         {"M12x1.75-6g", "1/2-14 NPT", "Tr40x7-7e", "1-5 ACME-2G", "S40x7", "V55 20x2"}) {
        const auto t = of(designation);
        const auto& s = t.section;
        // between the pitch line and a hundredth of the pitch above it, on both flanks, in true r
        const auto angle = [&](double sign, double half) {
            double low = 0, high = sign * s.pitch / 2;
            for (int i = 0; i < 60; ++i) { // where the flank crosses the pitch line
                const double m = (low + high) / 2;
                (groove_radius(s, m) < s.pitch_radius ? low : high) = m;
            }
            const double h = 1e-5;
            const double slope = (groove_radius(s, low + h) - groove_radius(s, low - h)) / (2 * h) + s.taper;
            CHECK(std::atan(1 / std::abs(slope)) == Approx(half).epsilon(1e-6));
        };
        INFO(designation);
        angle(-1, s.flank_half_angle);
        angle(1, s.other_half_angle);
    }
}

TEST_CASE("a printing allowance takes the same layer off crest, root and flanks") {
    ThreadSpec s = std::get<ThreadSpec>(parse_designation("M20x2.5-6g").what);
    const auto plain = resolve_thread(s).section;
    s.allowance = mm(0.1);
    const auto thinner = resolve_thread(s).section;
    CHECK(plain.crest_radius - thinner.crest_radius == Approx(0.1));
    CHECK(plain.root_radius - thinner.root_radius == Approx(0.1));
    CHECK((plain.pitch_radius - thinner.pitch_radius) * std::sin(plain.flank_half_angle) == Approx(0.1));
    s = counterpart(s);
    CHECK(resolve_thread(s).section.crest_radius > plain.crest_radius - 2.5); // a nut's grow
    ThreadSpec nut = s;
    nut.allowance = mm(0);
    CHECK(resolve_thread(s).section.crest_radius - resolve_thread(nut).section.crest_radius == Approx(0.1));
}

TEST_CASE("what a family does not have is refused with a sentence") {
    for (const char* bad : {"1/2-12 BSW-tight", "1/2-13 BSW", "G5/16", "R7/8", "1/2-13 NPT", "Tr20x4-7g",
                            "Tr20", "Tr12x7(P3)", "1-5 ACME-5G", "S40x7-7e", "Rd40", "SQ20", "V3 20x2",
                            "V60 20", "G1/2 C", "1/2-14 NPTF", "hex", "square x 3"}) {
        INFO(bad);
        try {
            (void)parse_designation(bad);
            FAIL_CHECK("was accepted");
        } catch (const InputError& e) {
            CHECK(std::string(e.what()).size() > 20);
            CHECK(e.position <= std::string(bad).size());
        }
    }
}

namespace {
ResolvedThread thread_of(const char* designation) {
    return resolve_thread(std::get<ThreadSpec>(parse_designation(designation).what));
}
std::optional<ResolvedValue> value_in(const ResolvedThread& t, const char* key) {
    const ResolvedValue* v = find_value(t.values, key);
    return v ? std::optional(*v) : std::nullopt;
}
struct Printed {
    const char* designation;
    const char* key;
    double min, max; // in; negative: not asked
};
} // namespace

TEST_CASE("Unified limits to the printed digit, ASME B1.1 table 2") {
    for (const Printed& row : {
             Printed{"1/4-20 UNC-2B", "pitch_diameter", 0.2175, 0.2224},
             Printed{"1/4-20 UNC-2A", "pitch_diameter", 0.2127, 0.2164},
             Printed{"1-8 UNC-2A", "pitch_diameter", 0.9100, 0.9168},
             Printed{"#1-64 UNC-2A", "major_diameter", 0.0686, 0.0724},
             Printed{"#1-64 UNC-3A", "major_diameter", 0.0692, 0.0730},
             Printed{"#2-64 UNF-2A", "major_diameter", 0.0816, -1},
             Printed{"#2-64 UNF-3A", "major_diameter", 0.0822, 0.0860},
             Printed{"#12-24 UNC-3A", "pitch_diameter", 0.1863, 0.1889},
             Printed{"1/4-20 UNC-2B", "minor_diameter", 0.196, 0.207},
             Printed{"1/2-13 UNC-2B", "minor_diameter", 0.417, 0.434},
             Printed{"1/4-20 UNC-3B", "minor_diameter", 0.1960, 0.2067},
             Printed{"1/2-13 UNC-3B", "minor_diameter", 0.4170, 0.4284},
             Printed{"#2-56 UNC-2B", "minor_diameter", 0.0667, 0.0737},
             Printed{"5/8-11 UNC-2A", "major_diameter", 0.6113, 0.6234},
             Printed{"5/8-11 UNC-2A", "pitch_diameter", 0.5589, 0.5644},
             Printed{"1 1/8-7 UNC-2A", "pitch_diameter", 1.0228, 1.0300},
             Printed{"1 1/2-8 UN-2A", "major_diameter", 1.4828, 1.4978},
             Printed{"1 1/2-8 UN-2A", "pitch_diameter", 1.4093, 1.4166},
             Printed{"2-8 UN-2A", "pitch_diameter", 1.9087, 1.9165},
             Printed{"1/2-10 ACME-2G", "major_diameter", -1, 0.5000},
         }) {
        INFO(row.designation << " " << row.key);
        const auto v = value_in(thread_of(row.designation), row.key);
        REQUIRE(v);
        if (row.min > 0) CHECK(in_inch(mm(*v->min)) == Approx(row.min).margin(1e-9));
        if (row.max > 0) CHECK(in_inch(mm(*v->max)) == Approx(row.max).margin(1e-9));
    }
}

TEST_CASE("8-UN is a listed series") {
    for (const char* d : {"1 1/8-8 UN-2A", "1 1/2-8 UN-2A", "2-8 UN-2A", "3 3/8-8 UN-2A", "4-8 UN-2A"}) {
        INFO(d);
        const Designation read = parse_designation(d);
        CHECK(resolve_thread(std::get<ThreadSpec>(read.what)).status.listed);
        CHECK(write_designation(std::get<ThreadSpec>(read.what)) == d);
    }
}

TEST_CASE("stress areas: ASME B1.1 appendix B for Unified, none for pipe") {
    const auto area = [](const char* d) { return value_in(thread_of(d), "stress_area"); };
    // ASME B1.1 and SAE J429 tables, in²
    for (const auto& [d, in2] : {std::pair{"1/4-20 UNC-2A", 0.0318}, std::pair{"1/2-13 UNC-2A", 0.1419},
                                 std::pair{"1-8 UNC-2A", 0.606}, std::pair{"#10-32 UNF-2A", 0.0200}}) {
        INFO(d);
        REQUIRE(area(d));
        CHECK(*area(d)->value / 645.16 == Approx(in2).margin(in2 > 0.5 ? 5e-4 : 5.1e-5));
    }
    CHECK(*area("M10-6g")->value == Approx(58.0).margin(0.05)); // ISO 898-1 table
    CHECK(!area("G1/2 A"));
    CHECK(!area("R1/2"));
    CHECK(!area("1/2-14 NPT"));
}

TEST_CASE("trapezoidal limits from the tables of ISO 2903, several starts wider") {
    const auto value = [](const char* d, const char* key) { return value_in(thread_of(d), key).value(); };
    CHECK(*value("Tr40x7-7e", "pitch_diameter").max == Approx(36.375));
    CHECK(*value("Tr40x7-7e", "pitch_diameter").min == Approx(36.020));
    CHECK(*value("Tr40x7-7e", "major_diameter").min == Approx(39.575));
    CHECK(*value("Tr40x7-7H", "pitch_diameter").max == Approx(36.5 + 0.475));
    CHECK(*value("Tr40x7-8c", "pitch_diameter").max == Approx(36.5 - 0.250));
    CHECK(*value("Tr80x10-7e", "pitch_diameter").max == Approx(75 - 0.150));
    for (const auto& [d, factor] : {std::pair{"Tr40x14(P7)-7e", 1.12}, std::pair{"Tr40x21(P7)-7e", 1.25},
                                    std::pair{"Tr40x28(P7)-7e", 1.4}, std::pair{"Tr40x35(P7)-7e", 1.6},
                                    std::pair{"Tr40x42(P7)-7e", 1.6}}) {
        INFO(d);
        CHECK(*value(d, "pitch_diameter").max - *value(d, "pitch_diameter").min ==
              Approx(0.355 * factor).margin(6e-4));
    }
    CHECK(*value("Tr40x14(P7)-7H", "pitch_diameter").max == Approx(36.5 + 0.475 * 1.12).margin(6e-4));
    CHECK(value("Tr40x7-7e", "major_diameter").source.find("table") != std::string::npos);
    CHECK(value("Tr40x6.5-7e", "major_diameter").source.find("rule") != std::string::npos);
}

TEST_CASE(
    "internal Acme threads clear the screw: D + 0.020 to D + 0.040 in, half of that above 10 per inch") {
    for (const auto& [d, least, most] :
         {std::tuple{"1/2-10 ACME-2G", 0.52, 0.54}, std::tuple{"1/4-16 ACME-2G", 0.26, 0.27},
          std::tuple{"1-5 ACME-3G", 1.02, 1.04}}) {
        ThreadSpec s = std::get<ThreadSpec>(parse_designation(d).what);
        s.side = Side::internal;
        const ResolvedThread t = resolve_thread(s);
        const auto v = value_in(t, "major_diameter");
        REQUIRE(v);
        CHECK(in_inch(mm(*v->min)) == Approx(least).margin(1e-9));
        CHECK(in_inch(mm(*v->max)) == Approx(most).margin(1e-9));
    }
}

TEST_CASE("over wires counts the lead: wires lie askew in a steep thread") {
    const auto over = [](const char* d) { return value_in(thread_of(d), "over_wires").value(); };
    // the same pitch line without and with a steep lead: exact contact of a wire with the helicoid gives
    // 0.212
    const double askew = *over("Tr40x21(P7)-7e").max - *over("Tr40x7-7e").max;
    CHECK(askew == Approx(0.19).margin(0.01)); // less the single start's own 0.024
    CHECK(over("Tr40x21(P7)-7e").source.find("for the lead") != std::string::npos);
    CHECK(over("M10-6g").source.find("for the lead") == std::string::npos);
}

TEST_CASE("NPSM: the Unified form and its limits, ASME B1.20.1") {
    // size, external major max/min, pitch max/min, internal minor min/max, pitch min/max, inch
    struct Row {
        const char* size;
        double major_max, major_min, pitch_max, pitch_min, minor_min, minor_max, nut_min, nut_max;
    };
    for (const Row& r : {Row{"1/8-27", .397, .390, .3725, .3689, .358, .364, .3736, .3783},
                         Row{"1/4-18", .526, .517, .4903, .4859, .468, .481, .4916, .4974},
                         Row{"3/8-18", .662, .653, .6256, .6211, .603, .612, .6270, .6329},
                         Row{"1/2-14", .823, .813, .7769, .7718, .747, .759, .7784, .7851},
                         Row{"3/4-14", 1.034, 1.024, .9873, .9820, .958, .970, .9889, .9958},
                         Row{"1-11.5", 1.293, 1.281, 1.2369, 1.2311, 1.201, 1.211, 1.2386, 1.2462},
                         Row{"1 1/2-11.5", 1.877, 1.865, 1.8205, 1.8144, 1.785, 1.794, 1.8223, 1.8302}}) {
        INFO(r.size);
        const auto external = in_inches(std::string(r.size) + " NPSM"),
                   internal = in_inches(std::string(r.size) + " NPSM internal");
        CHECK(external("major_diameter").max == Approx(r.major_max).margin(6e-4));
        CHECK(external("major_diameter").min == Approx(r.major_min).margin(6e-4));
        CHECK(external("pitch_diameter").max == Approx(r.pitch_max).margin(5e-5));
        CHECK(external("pitch_diameter").min == Approx(r.pitch_min).margin(5e-5));
        CHECK(internal("minor_diameter").min == Approx(r.minor_min).margin(6e-4));
        CHECK(internal("minor_diameter").max == Approx(r.minor_max).margin(6e-4));
        CHECK(internal("pitch_diameter").min == Approx(r.nut_min).margin(5e-5));
        CHECK(internal("pitch_diameter").max == Approx(r.nut_max).margin(1.01e-4));
    }
    const auto big = in_inches("3-8 NPSM internal");
    CHECK(big("pitch_diameter").source.find("rule") != std::string::npos);
    CHECK_FALSE(big("minor_diameter").limited_above);
}

TEST_CASE("ASME B1.1 table 3B: minor diameters of small nuts, as printed") {
    struct Row {
        const char* size;
        double least, most_2b, most_3b;
    };
    for (const Row& r : {Row{"#0-80 UNF", .0465, .0514, .0514}, Row{"#1-64 UNC", .0561, .0623, .0623},
                         Row{"#1-72 UNF", .0580, .0635, .0635}, Row{"#2-56 UNC", .0667, .0737, .0737},
                         Row{"#2-64 UNF", .0691, .0753, .0753}, Row{"#3-48 UNC", .0764, .0845, .0845},
                         Row{"#3-56 UNF", .0797, .0865, .0865}, Row{"#4-40 UNC", .0849, .0939, .0939},
                         Row{"#4-48 UNF", .0894, .0968, .0968}, Row{"#5-40 UNC", .0979, .1062, .1062},
                         Row{"#5-44 UNF", .1004, .1079, .1079}, Row{"#6-32 UNC", .104, .114, .1140},
                         Row{"#6-40 UNF", .111, .119, .1186},   Row{"#8-32 UNC", .130, .139, .1389},
                         Row{"#8-36 UNF", .134, .142, .1416},   Row{"#10-24 UNC", .145, .156, .1555},
                         Row{"#10-32 UNF", .156, .164, .1641},  Row{"#12-24 UNC", .171, .181, .1807},
                         Row{"#12-28 UNF", .177, .186, .1857},  Row{"1/4-20 UNC", .196, .207, .2067},
                         Row{"1/4-28 UNF", .211, .220, .2190},  Row{"5/16-18 UNC", .252, .265, .2630},
                         Row{"3/8-16 UNC", .307, .321, .3182},  Row{"1/2-13 UNC", .417, .434, .4284}}) {
        INFO(r.size);
        const auto b2 = in_inches(std::string(r.size) + "-2B"), b3 = in_inches(std::string(r.size) + "-3B");
        CHECK(b2("minor_diameter").min == Approx(r.least).margin(1e-6));
        CHECK(b2("minor_diameter").max == Approx(r.most_2b).margin(1e-6));
        CHECK(b3("minor_diameter").max == Approx(r.most_3b).margin(1e-6));
    }
}

TEST_CASE("BS 84: minor diameters and tap drills") {
    // the nut's minor limits as printed, inch, and the drill of the trade, mm
    struct Row {
        const char* size;
        double least, most, drill;
    };
    for (const Row& r : {Row{"1/4-20", .1860, .2030, 5.1}, Row{"3/8-16", .2950, .3145, 7.9},
                         Row{"1/2-12", .3932, .4169, 10.5}}) {
        INFO(r.size);
        const auto nut = in_inches(std::string(r.size) + " BSW-medium internal");
        CHECK(nut("minor_diameter").min == Approx(r.least).margin(1e-4));
        CHECK(nut("minor_diameter").max == Approx(r.most).margin(1e-4));
        CHECK(25.4 * nut("tap_drill").value == Approx(r.drill).margin(0.06));
    }
    const auto bolt = in_inches("1/2-12 BSW-free");
    const double T = 1.5 * (0.002 * std::cbrt(0.5) + 0.003 * std::sqrt(0.5) + 0.005 * std::sqrt(1. / 12));
    const auto basic = bolt("minor_diameter_basic").value;
    CHECK(bolt("minor_diameter").max == Approx(basic));
    CHECK(bolt("minor_diameter").min == Approx(basic - T - 0.013 * std::sqrt(1. / 12)));
}

TEST_CASE("taper pipe threads: how far they go by hand, how much of them is of use, tap drills") {
    // ASME B1.20.1 table 2, inch; drills of the trade
    struct Row {
        const char* size;
        double e0, e1, l1, l2, drill;
    };
    for (const Row& r : {Row{"1/8-27", .36351, .37360, .1615, .2639, .339},
                         Row{"1/4-18", .47739, .49163, .2278, .4018, .4375},
                         Row{"1/2-14", .75843, .77843, .320, .5337, .71875},
                         Row{"3/4-14", .96768, .98887, .339, .5457, .9219},
                         Row{"1-11.5", 1.21363, 1.23863, .400, .6828, 1.15625}}) {
        INFO(r.size);
        const auto t = in_inches(std::string(r.size) + " NPT");
        CHECK(t("pitch_diameter_small_end").value == Approx(r.e0).margin(1e-5));
        CHECK(t("pitch_diameter_hand_tight").value == Approx(r.e1).margin(1e-5));
        CHECK(t("hand_tight_engagement").value == Approx(r.l1));
        CHECK(t("useful_length").value == Approx(r.l2).margin(6e-5));
        CHECK(in_inches(std::string(r.size) + " NPT internal")("tap_drill").value ==
              Approx(r.drill).margin(8e-3));
    }
    const ResolvedThread r = resolve_thread(std::get<ThreadSpec>(parse_designation("Rc1/2").what));
    CHECK(find_value(r.values, "hand_tight_engagement")->value == Approx(8.2));
    CHECK(find_value(r.values, "useful_length")->value == Approx(13.2));
    CHECK(find_value(r.values, "pitch_diameter_small_end")->value == Approx(19.793 - 8.2 / 16));
    CHECK(find_value(r.values, "tap_drill")->value == Approx(18.4).margin(0.1)); // 18 to 18.5 in the trade
    CHECK(find_value(resolve_thread(std::get<ThreadSpec>(parse_designation("R1/2").what)).values,
                     "tap_drill") == nullptr);
}

TEST_CASE("UNR is a Unified thread with a rounded root; DIN 513 has its preferred pitches") {
    const auto spec = [](const char* text) { return std::get<ThreadSpec>(parse_designation(text).what); };
    CHECK(spec("1/4-20 UNRC-2A").rounded_root);
    CHECK_FALSE(spec("1/4-20 UNC-2A").rounded_root);
    CHECK(write_designation(spec("1/4-20 UNRC-3A")) == "1/4-20 UNRC-3A");
    CHECK(write_designation(spec("1 1/2-8 UNR-2A")) == "1 1/2-8 UNR-2A");
    CHECK(write_designation(spec("1/4-32 UNREF-2A")) == "1/4-32 UNREF-2A");
    CHECK_THROWS_WITH(parse_designation("1/4-20 UNRC-2B"), Catch::Contains("UNC-2B"));
    CHECK(resolve_thread(spec("S40x7")).status.listed);
    CHECK_FALSE(resolve_thread(spec("S40x5")).status.listed);
    CHECK(listed_threads(ThreadFamily::buttress).size() == 24);
}
