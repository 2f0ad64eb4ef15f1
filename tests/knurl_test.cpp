// Knurls: DIN 82's numbers, what closes, the surface's mean against the table's blank, the written form, and
// what is refused.
#include "form/designation.hpp"
#include "form/knurl/knurl.hpp"
#include "quantity/input_error.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

ResolvedKnurl knurl(const char* text) {
    return resolve_knurl(parse_knurl(text).spec);
}
double value(const ResolvedKnurl& k, const char* key) {
    const ResolvedValue* v = find_value(k.values, key);
    REQUIRE(v);
    REQUIRE(v->value);
    return *v->value;
}
std::string why(const char* text) {
    try {
        (void)parse_knurl(text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "understood";
}

// The mean of r² over the pattern, by sums.
double mean_square(const ResolvedKnurl& k) {
    const double across = k.teeth > 0 ? 2 * pi / k.teeth : 1;
    const double along = k.ring_pitch > 0 ? k.ring_pitch : k.twist != 0 ? across / std::abs(k.twist) : 1;
    constexpr int n = 400;
    double sum = 0;
    for (int i = 0; i < n; ++i)
        for (int j = 0; j < n; ++j) {
            const double r = knurl_radius(k, (i + 0.5) / n * across, (j + 0.5) / n * along);
            sum += r * r / n / n;
        }
    return sum;
}

} // namespace

TEST_CASE("the count that closes, and the pitch it makes") {
    const ResolvedKnurl k = knurl("knurl axial pitch 1 on 20 x 15");
    CHECK(k.teeth == 63); // π·20/1 = 62.83
    CHECK(value(k, "pitch") == Approx(pi * 20 / 63));
    CHECK(value(k, "teeth") == 63);
    CHECK(value(k, "depth") == Approx(pi * 20 / 63 / 2)); // 90°
    CHECK(value(k, "root_diameter") == Approx(20 - pi * 20 / 63));
    // slanted grooves are further apart around the zone
    CHECK(knurl("knurl left pitch 1 on 20 x 15").teeth == 54); // π·20·cos 30° = 54.41
    CHECK(knurl("knurl crossed pitch 0.8 on 16 x 10").teeth == 54);
    CHECK(knurl("knurl axial 60 teeth on 20").pitch == Approx(pi / 3));
    CHECK(knurl("knurl ring pitch 0.8 on 16 x 10").teeth == 0);
    CHECK(knurl("knurl ring pitch 0.8 on 16 x 10").ring_pitch == 0.8);
}

TEST_CASE("DIN 82: names, and the blank before knurling") {
    struct Row {
        const char *words, *name;
        double factor; // of the pitch, off the diameter
    };
    for (const Row& row : {Row{"axial", "RAA", 0.5}, Row{"left", "RBL", 0.5}, Row{"right", "RBR", 0.5},
                           Row{"crossed", "RGE", 0.67}, Row{"crossed sunk", "RGV", 0.33},
                           Row{"axial-ring", "RKE", 0.67}, Row{"axial-ring sunk", "RKV", 0.33}}) {
        INFO(row.words);
        const ResolvedKnurl k = knurl(("knurl " + std::string(row.words) + " pitch 1 on 40 x 10").c_str());
        CHECK(find_value(k.values, "standard_name")->text == row.name);
        CHECK(value(k, "blank_diameter") == Approx(40 - row.factor * k.pitch));
        // a second route: nothing is taken away, so the blank has the volume of what becomes of it; the
        // table leaves out the second order, p²/D
        CHECK(2 * std::sqrt(mean_square(k)) ==
              Approx(k.blank_diameter).margin(0.3 * k.pitch * k.pitch / 40 + 0.005 * k.pitch));
    }
    // where the profile is another one the volume itself is taken
    const ResolvedKnurl deep = knurl("knurl crossed pitch 1.2 angle 70 on 20");
    CHECK(value(deep, "blank_diameter") == Approx(2 * std::sqrt(mean_square(deep))).epsilon(1e-5));
    const ResolvedKnurl ring = knurl("knurl ring pitch 1 on 20");
    CHECK(value(ring, "blank_diameter") == Approx(2 * std::sqrt(mean_square(ring))).epsilon(1e-5));
}

TEST_CASE("the surface of a knurl goes from root to ridge and closes around") {
    for (const char* text :
         {"knurl axial pitch 1 on 20", "knurl left pitch 1 on 20", "knurl right 40 teeth on 20",
          "knurl ring pitch 1 on 20", "knurl crossed pitch 1 on 20", "knurl crossed sunk pitch 1 on 20",
          "knurl axial-ring sunk pitch 1 on 20"}) {
        INFO(text);
        const ResolvedKnurl k = knurl(text);
        double low = 1e9, high = 0;
        for (int i = 0; i < 4000; ++i) {
            const double theta = 0.37 * i, z = 0.0173 * i;
            const double r = knurl_radius(k, theta, z);
            CHECK(r == Approx(knurl_radius(k, theta + 2 * pi, z)).margin(1e-9));
            low = std::min(low, r);
            high = std::max(high, r);
        }
        CHECK(low == Approx(k.root()).margin(0.02));
        CHECK(high == Approx(k.radius).margin(0.02));
        CHECK(low >= k.root() - 1e-12);
        CHECK(high <= k.radius + 1e-12);
    }
    // a right-hand groove goes on to larger θ with rising z
    const ResolvedKnurl right = knurl("knurl right pitch 1 on 20"), left = knurl("knurl left pitch 1 on 20");
    CHECK(knurl_radius(right, right.twist * 3, 3) == Approx(right.root()));
    CHECK(right.twist == Approx(std::tan(pi / 6) / 10));
    CHECK(left.twist == -right.twist);
}

TEST_CASE("knurls are read and written in one form") {
    for (const char* text :
         {"knurl axial pitch 1 on 20 x 15", "knurl left 60 teeth on 20 x 15",
          "knurl ring pitch 0.8 on 16 x 10", "knurl crossed pitch 1 on 20 x 15",
          "knurl crossed sunk pitch 1.2 on 20 x 15", "knurl axial-ring pitch 1 depth 0.3 on 20 x 15",
          "knurl right pitch 1 angle 105 on 20 x 15"}) {
        const KnurlDesignation d = parse_knurl(text);
        CHECK(write_knurl(d.spec, d.length) == text);
        CHECK(parse_knurl(write_knurl(d.spec, d.length)).spec == d.spec);
        CHECK(std::holds_alternative<KnurlSpec>(parse_designation(text).what));
    }
    const KnurlDesignation inch_one = parse_knurl("Knurl axial on 0.75 x 0.5 pitch 0.04 in");
    CHECK(in_mm(inch_one.spec.diameter) == Approx(19.05));
    CHECK(write_knurl(inch_one.spec, inch_one.length, LengthUnit::inch) ==
          "knurl axial pitch 0.04 on 0.75 x 0.5 in");
    CHECK(parse_knurl("knurl crossed raised pitch 1 on 20").spec ==
          parse_knurl("knurl crossed pitch 1 on 20").spec);
}

TEST_CASE("what can't be a knurl is refused with what would be") {
    CHECK(why("knurl").find("axial, ring, left") != std::string::npos);
    CHECK(why("knurl wavy pitch 1 on 20").find("axial, ring, left") != std::string::npos);
    CHECK(why("knurl axial on 20 x 10").find("needs its pitch") != std::string::npos);
    CHECK(why("knurl axial pitch 1").find("outside diameter") != std::string::npos);
    CHECK(why("knurl axial pitch 1 60 teeth on 20").find("Write one of them") != std::string::npos);
    CHECK(why("knurl axial 5000 teeth on 20 x 10").find("8 to 1000") != std::string::npos);
    CHECK(why("knurl axial pitch 20 on 20 x 10").find("between 0.1 and 10") != std::string::npos);
    CHECK(why("knurl axial pitch 1 depth 0.4 angle 90 on 20").find("one of them") != std::string::npos);
    CHECK(why("knurl axial pitch 1 depth 3 on 20").find("between 40° and 150°") != std::string::npos);
    CHECK(why("knurl axial sunk pitch 1 on 20").find("crossed") != std::string::npos);
    CHECK(why("knurl ring 30 teeth on 20").find("no teeth around") != std::string::npos);
    CHECK(why("knurl axial pitch 1 on 20 x 10 blue").find("not understood") != std::string::npos);
    CHECK(why("knurl axial pitch 1 pitch 2 on 20").find("second time") != std::string::npos);
    CHECK(why("knurl axial pitch on 20").find("pitch is expected") != std::string::npos);
    CHECK(why("knurl ring pitch 1 on 2 x 3").find("too much") != std::string::npos);
}

TEST_CASE("any words after knurl are understood and written back, or refused with a place") {
    const char* const words[]{
        "axial", "ring", "left", "right", "crossed", "axial-ring", "sunk",  "raised", "pitch",       "depth",
        "angle", "on",   "x",    "in",    "mm",      "60",         "teeth", "1",      "0.4",         "20",
        "90",    "-3",   "1e9",  "°",     "1/2",     "z",          "×",     "knurl",  "999999999999"};
    std::mt19937 random(20261127);
    int understood = 0;
    for (int i = 0; i < 40000; ++i) {
        // half of them begin as one would
        std::string text = i % 2 ? "knurl" : "knurl crossed pitch 1 on 20";
        for (int n = static_cast<int>(random() % 8); n > 0; --n)
            text += std::string(random() % 9 ? " " : "") + words[random() % std::size(words)];
        INFO("round " << i << ": " << text);
        try {
            const KnurlDesignation d = parse_knurl(text);
            ++understood;
            const std::string written = write_knurl(d.spec, d.length, d.unit);
            const KnurlDesignation again = parse_knurl(written);
            CHECK(write_knurl(again.spec, again.length, again.unit) == written);
            CHECK(again.spec.kind == d.spec.kind);
            CHECK(resolve_knurl(again.spec).teeth == resolve_knurl(d.spec).teeth);
        } catch (const InputError& e) {
            CHECK(std::string(e.what()).size() > 20);
            CHECK(e.position <= text.size());
            CHECK(e.position + e.extent <= text.size() + 1);
        }
    }
    CHECK(understood > 1000);
}
