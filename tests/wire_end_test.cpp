// Hooks and legs of springs: where they run against their own geometry, both ends alike, the numbers of EN 13906-2 and -3 by a
// second derivation, solids of all kinds through every proof, what is read, kept, refused and mended.
#include "check/check.hpp"
#include "form/coil/find_spring.hpp"
#include "model/edit.hpp"
#include "model/forms/coil.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "quantity/expression.hpp"

#include <numbers>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

ResolvedCoil of(const std::string& line) {
    return resolve_coil(parse_spring(line).spec);
}
double value(const ResolvedCoil& c, const char* key) {
    const ResolvedValue* v = find_value(c.values, key);
    REQUIRE(v);
    REQUIRE(v->value);
    return *v->value;
}
Job set(const Job& job, Field f, const char* text) {
    return apply(job, {0, 0, f, text, LengthUnit::millimetre});
}
std::string why(const Job& job, Field f, const char* text) {
    try {
        (void)set(job, f, text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "done";
}
std::string refusal(const char* line) {
    try {
        (void)parse_designation(line);
    } catch (const InputError& e) {
        return e.what();
    }
    return "read";
}
const Finding* found(const std::vector<Finding>& all, const std::string& id) {
    for (const Finding& f : all)
        if (f.id == id) return &f;
    return nullptr;
}
Vec3 far_point(const ResolvedCoil& c, double angle) {
    return c.line.point(c.line.coil_end() + angle).at;
}
// The highest point of the far end's middle line.
double highest(const ResolvedCoil& c) {
    double z = -1e9;
    for (int i = 0; i <= 40000; ++i)
        z = std::max(z, far_point(c, (c.line.end() - c.line.coil_end()) * i / 40000).z);
    return z;
}

Piece random_spring(std::mt19937& random, std::string& text) {
    const auto real = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto whole = [&](int a, int b) { return std::uniform_int_distribution<int>(a, b)(random); };
    const auto number = [](double v) { return number_text(v, 3); };
    const bool extension = real(0, 1) < 0.5;
    const double d = real(1.6, 4), D = d * real(4.5, 14);
    text = std::string(extension ? "extension" : "torsion") + " spring d" + number(d) + " D" + number(D) +
           " n" + number(whole(2, 20) + (real(0, 1) < 0.5 ? 0.25 * whole(0, 3) : real(0, 1)));
    if (!extension && real(0, 1) < 0.3) text += " p" + number(d * real(1.1, 2));
    const auto end = [&]() -> std::string {
        if (extension) {
            const std::string r = real(0, 1) < 0.3 ? " r " + number(d * real(0.7, 1.6)) : "";
            switch (whole(0, 5)) {
            case 0:
                return "plain";
            case 1:
                return "half" + r;
            case 2:
                return "full" + r;
            case 3:
                return "side";
            case 4:
                return "eye " + number(d * real(1, 4)) + r;
            default:
                return "extended " + number(D * real(1.2, 4)) + r;
            }
        }
        const char* ways[]{"", " axial", " radial", " inward"};
        const int way = whole(0, 3);
        std::string leg = "leg " + number(way == 3 ? 0.2 * D : D * real(0.3, 2)) + ways[way];
        if (way != 3 && real(0, 1) < 0.4)
            leg += " bent " + number(real(20, 120)) + " r " + number(d * real(1, 3)) + " " +
                   number(D * real(0.2, 1)) + (real(0, 1) < 0.5 ? " up" : "");
        return leg;
    };
    text += " near " + end() + " far " + end() + (real(0, 1) < 0.5 ? " LH" : " RH");
    try {
        return piece_of(text);
    } catch (const InputError& e) {
        text += std::string(": ") + e.what();
        return piece_of(extension ? "extension spring d4 D30 n10" : "torsion spring d4 D30 n4 legs 40");
    }
}

} // namespace

TEST_CASE("a hook is as high inside as it says, and its circle stands over the axis") {
    for (const char* hook : {"half", "half 12", "full", "full 9", "eye 4", "extended 40", "side", "side 8",
                             "half r 3", "eye 5 r 1.7"})
        for (const char* hand : {"RH", "LH"}) {
            const ResolvedCoil c =
                of(std::string("extension spring d1.6 D12 n20.25 hooks ") + hook + " " + hand);
            INFO(hook << " " << hand);
            const double body_top = c.line.point(c.line.coil_end()).at.z + c.wire / 2;
            CHECK(highest(c) - c.wire / 2 - body_top == Approx(c.far_laid.clear).epsilon(1e-6).margin(1e-6));
            CHECK(c.near_laid.clear == c.far_laid.clear);
            // three points of its last arc make a circle of the loop's radius
            const double end = c.line.end() - c.line.coil_end(), from = end - 2;
            const Vec3 p = far_point(c, from), q = far_point(c, end - 1), r = far_point(c, end);
            const Vec3 a = q - p, b = r - p, n = cross(a, b);
            const Vec3 centre =
                p + (1 / (2 * dot(n, n))) * (dot(a, a) * cross(b, n) + dot(b, b) * cross(n, a));
            CHECK(norm(centre - p) == Approx(c.far_laid.loop).epsilon(1e-9));
            CHECK(n.z / norm(n) == Approx(0).margin(1e-9)); // upright
            if (std::string(hook).substr(0, 4) != "side") CHECK(std::hypot(centre.x, centre.y) < 1e-9);
        }
    // as the trade has them: a full hook as wide as the coil inside, LH = Di
    CHECK(of("extension spring d1.6 D12 n20 hooks full").far_laid.clear == Approx(12 - 1.6));
    CHECK(of("extension spring d1.6 D12 n20 hooks side").far_laid.clear == Approx(12 - 1.6));
    CHECK(2 * of("extension spring d1.6 D12 n20 hooks eye 4").far_laid.loop - 1.6 == Approx(4));
    CHECK(of("extension spring d1.6 D12 n20 hooks extended 40").far_laid.clear == Approx(40));
}

TEST_CASE("both ends of a spring wear the same for the same words, and the wire is smooth") {
    for (const char* line :
         {"extension spring d1.6 D12 n20 hooks full", "extension spring d1 D8 n15 hooks half 9 LH",
          "extension spring d1 D8 n15 hooks side", "extension spring d2 D16 n12 hooks extended 30",
          "torsion spring d2 D16 n6 legs 30", "torsion spring d2 D16 n6 legs 20 axial LH",
          "torsion spring d2 D16 n6 near leg 20 radial bent 90 r 4 10 up far leg 20 radial bent 90 r 4 10 up",
          "torsion spring d2 D16 n6 legs 12 inward"}) {
        INFO(line);
        const ResolvedCoil c = of(line);
        const double rise = c.line.rise(), reach = -c.line.begin();
        CHECK(c.line.end() - c.line.coil_end() == Approx(reach));
        REQUIRE(reach > 0);
        for (int i = 0; i <= 50; ++i) { // turned half round about the radius in the middle of whole turns
            const Vec3 near = c.line.point(-reach * i / 50).at, far = far_point(c, reach * i / 50);
            CHECK(norm(near - Vec3{far.x, -far.y, rise - far.z}) < 1e-9);
        }
        // neither a kink nor a twist anywhere, and derivatives that are those of the line
        for (const double b : c.line.breaks()) {
            if (b <= c.line.begin() || b >= c.line.end()) continue;
            const auto f = c.line.frame(b - 1e-9), g = c.line.frame(b + 1e-9);
            CHECK(norm(f.along - g.along) < 1e-7);
            CHECK(norm(f.outwards - g.outwards) < 1e-7);
            CHECK(norm(f.upwards - g.upwards) < 1e-7);
        }
        for (double t = c.line.begin() + 0.01; t < c.line.end(); t += 0.37) {
            const auto p = c.line.point(t);
            const double h = 1e-5;
            const Vec3 slope = (1 / (2 * h)) * (c.line.point(t + h).at - c.line.point(t - h).at);
            bool at_break = false;
            for (const double b : c.line.breaks())
                at_break = at_break || std::abs(b - t) < 2 * h;
            if (!at_break) CHECK(norm(slope - p.d1) < 1e-5 * (1 + norm(p.d1)));
            const auto f = c.line.frame(t);
            CHECK(std::abs(dot(f.along, f.outwards)) + std::abs(dot(f.along, f.upwards)) +
                      std::abs(dot(f.outwards, f.upwards)) <
                  1e-12);
        }
    }
}

TEST_CASE("legs run where they are told") {
    const auto leg = [](const char* words) {
        const ResolvedCoil c = of(std::string("torsion spring d2 D16 n6 legs ") + words);
        return c.line.frame(c.line.end()).along;
    };
    const double slope = std::atan2(of("torsion spring d2 D16 n6 legs 30").pitch, pi * 16);
    CHECK(norm(leg("30") - Vec3{0, std::cos(slope), std::sin(slope)}) < 1e-9);
    CHECK(norm(leg("30 axial") - Vec3{0, 0, 1}) < 1e-9);
    CHECK(norm(leg("30 radial") - Vec3{1, 0, 0}) < 1e-9);
    CHECK(norm(leg("12 inward") - Vec3{-1, 0, 0}) < 1e-9);
    CHECK(norm(leg("30 axial bent 90 r 4 10 down") - Vec3{0, 1, 0}) < 1e-9); // on along the coil again
    CHECK(norm(leg("30 axial bent 90 r 4 10") - Vec3{1, 0, 0}) < 1e-9);
    CHECK(norm(leg("30 axial bent 180 r 4 10 in") - Vec3{0, 0, -1}) < 1e-9);
    // their length is the straight one
    const ResolvedCoil bare = of("torsion spring d2 D16 n6"),
                       long_legs = of("torsion spring d2 D16 n6 legs 30/20");
    CHECK(long_legs.wire_length == Approx(bare.wire_length + 50));
    const ResolvedCoil bent = of("torsion spring d2 D16 n6 near leg 30 radial r 4 far plain");
    CHECK(bent.wire_length == Approx(bare.wire_length + 30 + 4 * pi / 2));
    // the outer edge of the wire's end: half the wire beyond the coil's middle line, 30 along the tangent
    CHECK(long_legs.reach == Approx(std::hypot(9, 30 * std::cos(slope))).epsilon(1e-3));
}

TEST_CASE("EN 13906-2: rate, initial tension, body and loads of an extension spring") {
    const ResolvedCoil c = of("extension spring d1.6 D12 n20");
    CHECK(value(c, "spring_rate") == Approx(1.93185).epsilon(1e-5)); // 81500·1.6⁴/(8·12³·20)
    CHECK(value(c, "body_length") == Approx(21 * 1.6));
    CHECK(value(c, "free_length") == Approx(33.6 + 2 * 10.4));
    const double strength = 1980 - 740 * std::log10(1.6), section = pi * 1.6 * 1.6 * 1.6 / (8 * 12);
    CHECK(value(c, "tensile_strength") == Approx(strength));
    CHECK(value(c, "initial_tension") == Approx((0.075 - 0.00375 * 7.5) * strength * section));
    CHECK(value(c, "most_initial_tension") == Approx((0.135 - 0.00625 * 7.5) * strength * section));
    CHECK(value(c, "permissible_stress") == Approx(0.45 * strength));
    // torsion of a wire: τ = 16·(F·D/2)/(π·d³)
    CHECK(16 * value(c, "permissible_force") * 6 / (pi * std::pow(1.6, 3)) == Approx(0.45 * strength));
    CHECK(value(c, "permissible_travel") ==
          Approx((value(c, "permissible_force") - value(c, "initial_tension")) / value(c, "spring_rate")));
    // bending in the hook's bend of r = d: w = 2, q = 2.07/1.25
    const double F = value(c, "permissible_force");
    CHECK(value(c, "hook_stress") ==
          Approx(F * 6 / (pi * std::pow(1.6, 3) / 32) * (2.07 / 1.25) + F / (pi * 1.6 * 1.6 / 4)));
    CHECK(value(of("extension spring d1.6 D12 n20 F0 8"), "initial_tension") == 8);
    CHECK(value(of("extension spring d1.6 D12 n20 wire SH"), "tensile_strength") ==
          Approx(2220 - 820 * std::log10(1.6)));
    CHECK(value(of("extension spring d1.6 D12 n20 wire SL"), "tensile_strength") ==
          Approx(1720 - 660 * std::log10(1.6)));
    CHECK_FALSE(find_value(of("extension spring d1.6 D12 n20 wire EN 10270-2").values, "tensile_strength"));
    CHECK(value(of("extension spring d1.6 D12 n20.25"), "end_angle") == Approx(pi / 2));
    // compression springs say what they bear too
    const ResolvedCoil k = of("spring d2 D20 L50 n7 closed ground");
    CHECK(value(k, "safety_at_solid") ==
          Approx(0.56 * (1980 - 740 * std::log10(2.0)) / value(k, "stress_at_solid")));
}

TEST_CASE("EN 13906-3: rate, moment, angle and mandrel of a torsion spring") {
    const ResolvedCoil c = of("torsion spring d2 D16 n6 legs 30");
    // a bar of the wire's length π·D·n in bending: M = E·I·α/l, per degree; the standard's 3667 is 64·180/π
    const double I = pi * 16 / 64, per_degree = 206000 * I / (pi * 16 * 6) * pi / 180;
    CHECK(value(c, "torsion_rate") == Approx(per_degree).epsilon(3e-5));
    CHECK(value(c, "torsion_rate") == Approx(206000 * 16 / (3667.0 * 16 * 6)));
    // legs loaded at their ends give a third of their length more: l/3·M/(E·I)
    CHECK(value(c, "torsion_rate_legs") ==
          Approx(206000 * I / (pi * 16 * 6 + 60 / 3.0) * pi / 180).epsilon(3e-5));
    CHECK(value(c, "body_length") == Approx(7.5 * 2));
    const double strength = 1980 - 740 * std::log10(2.0), q = (8 + 0.07) / (8 - 0.75);
    CHECK(value(c, "permissible_moment") == Approx(0.7 * strength * (pi * 8 / 32) / q));
    const double degrees = value(c, "permissible_moment") / value(c, "torsion_rate");
    CHECK(value(c, "permissible_angle") == Approx(degrees * pi / 180));
    // the wire's length stays: D·n = D'·n'
    CHECK(value(c, "wound_diameter") * (6 + degrees / 360) == Approx(16 * 6));
    CHECK(value(c, "largest_mandrel") == Approx(0.98 * (value(c, "wound_diameter") - 2)));
    CHECK(value(of("torsion spring d2 D16 n6 p3 legs 30"), "body_length") == Approx(20));
    CHECK(value(of("torsion spring d2 D16 n6 L20 legs 30"), "pitch") == Approx(3));
    // of several diameters turn by turn: ∫D dn
    CHECK(value(of("torsion spring d2 D16..24 n6 p4 legs 20"), "torsion_rate") ==
          Approx(206000 * 16 / (3667.0 * 20 * 6)).epsilon(1e-9));
}

TEST_CASE("springs with hooks and legs are made, and weigh what their wire weighs") {
    for (const char* line :
         {"extension spring d1.6 D12 n20", "extension spring d1 D8 n15 near half far eye 3",
          "extension spring d2 D16 n12 near side far extended 40 LH",
          "extension spring d1.6 D12 n10.5 hooks plain", "torsion spring d2 D16 n6 legs 30",
          "torsion spring d2 D16 n4.25 legs 25/15 LH", "torsion spring d2 D18 n5.5 legs 20 axial",
          "torsion spring d2 D18 n5 near leg 20 radial far leg 6 inward",
          "torsion spring d1 D8 n8 near leg 20 far leg 12 bent 90 r 2 6 up",
          "torsion spring d2 D16..24 n6 p4 legs 20", "extension spring d1/16 De1/2 n12 hooks half in"}) {
        INFO(line);
        const Piece piece = piece_of(line);
        const Preview p = test::prove(piece, 0.0015);
        const ResolvedCoil& c = *p.piece.zones[0].coil();
        // the line's length by many short sides
        double length = 0;
        Vec3 before = c.line.point(c.line.begin()).at;
        for (int i = 1; i <= 200000; ++i) {
            const Vec3 at = c.line.point(c.line.begin() + (c.line.end() - c.line.begin()) * i / 200000).at;
            length += norm(at - before);
            before = at;
        }
        CHECK(p.volume() == Approx(pi * c.wire * c.wire / 4 * length).epsilon(1e-7));
        // it lies between its ends, which its mesh touches
        double low = 1e9, high = -1e9, out = 0;
        for (const auto& q : p.mesh.points) {
            low = std::min(low, q.z);
            high = std::max(high, q.z);
            out = std::max(out, std::hypot(q.x, q.y));
        }
        CHECK(low == Approx(0).margin(0.01 * c.wire));
        CHECK(low > -1e-6);
        CHECK(high == Approx(c.overall).margin(0.01 * c.wire));
        CHECK(high < c.overall + 1e-6);
        CHECK(out < c.reach + 1e-6);
        CHECK(out > c.reach - 0.03 * c.wire);
        CHECK(in_mm(p.piece.length()) == Approx(c.overall));
    }
}

TEST_CASE("random springs with hooks and legs pass every proof where the checks say nothing") {
    test::prove_random(1, 24, 0.6, random_spring);
}
TEST_CASE("1 000 random springs with hooks and legs", "[.][long]") {
    test::prove_random(1001, 1000, 0.6, random_spring);
}

TEST_CASE("extension and torsion springs are read, written, kept and refused") {
    for (const char* line :
         {"extension spring d1.6 D12 n20 hooks full RH", "extension spring d1 D8 n15 near half far eye 3 RH",
          "extension spring d1 D8 n15 near plain far extended 30 r 2 F0 4 LH wire SH",
          "torsion spring d2 D16 n6 legs 30 RH", "torsion spring d2 D16 n6 legs 20 axial bent 90 r 4 5 RH",
          "torsion spring d2 D16 n6 near leg 30 far leg 20 RH",
          "torsion spring d2 D16 p3 n6.25 near leg 20 axial r 4 bent 90 r 4 15 up RH"}) {
        INFO(line);
        const CoilDesignation d = parse_spring(line);
        CHECK(write_spring(d.spec) == line);
        CHECK(std::get<CoilSpec>(parse_designation(line).what) == d.spec);
        const Job job = add_piece({}, piece_of(line));
        INFO(job_to_json(job));
        CHECK(job_from_json(job_to_json(job)) == job);
        CHECK(resolve_piece(job.pieces[0], {}).zones[0].coil()->spec == d.spec);
    }
    CHECK(parse_spring("extension spring d1 D8 n15").spec.far.kind == WireEndKind::full);
    CHECK(parse_spring("torsion spring d1 D8 n5 legs 12/8 axial").spec.near ==
          parse_wire_end("leg 12 axial", LengthUnit::millimetre));
    CHECK_THAT(refusal("spring d1 D8 L20 n5 hooks half"), Catch::Contains("neither hooks nor legs"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 legs 10"), Catch::Contains("hooks, not legs"));
    CHECK_THAT(refusal("torsion spring d1 D8 n5 hooks half"), Catch::Contains("legs, not hooks"));
    CHECK_THAT(refusal("torsion spring d1 D8 n5 legs 10 F0 3"), Catch::Contains("initial tension"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 ground"), Catch::Contains("nothing ground"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 L50"), Catch::Contains("follows from its turns"));
    CHECK_THAT(refusal("extension spring d1 D8"), Catch::Contains("needs its turns"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 p0.5"), Catch::Contains("coils that touch"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 hooks half 2"), Catch::Contains("at least"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 hooks eye"), Catch::Contains("clear width"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 hooks eye 0.2"), Catch::Contains("at least"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 hooks full r 3"),
               Catch::Contains("half the coil's mean radius"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 hooks full r 0.3"),
               Catch::Contains("tighter than a wire"));
    CHECK_THAT(refusal("extension spring d1 D8..12 n15"), Catch::Contains("one diameter"));
    CHECK_THAT(refusal("torsion spring d1 D8 n5 legs 10 bent 90 r"), Catch::Contains("missing"));
    CHECK_THAT(refusal("torsion spring d1 D8 n5 legs 10 bent 400 r 2 5"),
               Catch::Contains("between 0 and 360"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 near half near full"), Catch::Contains("a second time"));
    CHECK_THAT(refusal("extension spring d1 D8 n15 wire XX"), Catch::Contains("standard"));
    // rows
    Job job = add_piece({}, piece_of("spring d2 D20 L50 n7 closed ground"));
    CHECK(job.pieces[0].name == "Compression spring 2 x 20");
    CHECK_THAT(why(job, field::near_wire, "half"),
               Catch::Contains("write extension spring or torsion spring"));
    job = set(job, field::spring_kind, "extension");
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].coil()->active == 7);
    CHECK_THAT(why(job, field::dead_coils, "2"), Catch::Contains("a coil"));
    CHECK_THAT(why(job, field::thickness, "2"),
               Catch::Contains("This zone is an extension spring, which has no"));
    CHECK_THAT(why(job, field::near_wire, "leg 20"), Catch::Contains("hooks, not legs"));
    CHECK_THAT(why(job, field::initial_tension, "-2"), Catch::Contains("not below zero"));
    job = set_value(job, "high", {"18", {}});
    job = set(set(job, field::near_wire, "extended 2*high"), field::initial_tension, "high/2");
    CHECK(value(*resolve_piece(job.pieces[0], resolve_names(job)).zones[0].coil(), "near_hook") ==
          Approx(36));
    CHECK(value(*resolve_piece(job.pieces[0], resolve_names(job)).zones[0].coil(), "initial_tension") ==
          Approx(9));
    CHECK(field_text(job, 0, 0, field::far_wire, LengthUnit::inch) == "full");
    job = set(job, field::spring_kind, "torsion");
    job = set(job, field::far_wire, "leg 25 radial");
    CHECK(resolve_piece(job.pieces[0], resolve_names(job)).zones[0].coil()->torsion_rate > 0);
    job = set(job, field::spring_kind, "compression");
    CHECK(resolve_piece(job.pieces[0], resolve_names(job)).zones[0].coil()->total == 9);
}

TEST_CASE("hooks that clash, tension that can't be wound and tight bends are pointed out") {
    std::vector<Finding> all;
    Job job = add_piece({}, piece_of("extension spring d1.6 D12 n20 F0 40"));
    const Finding* tension = found(all = findings_of(job, 0), "initial_tension_too_high");
    REQUIRE((tension && tension->remedy));
    job = apply(job, tension->remedy->edits.at(0));
    CHECK_FALSE(found(all = findings_of(job, 0), "initial_tension_too_high"));
    // a leg that is longer than there is room for inside the coils
    job = add_piece({}, piece_of("torsion spring d2 D16 n6 near plain far leg 8 inward"));
    CHECK_FALSE(found(all = findings_of(job, 0), "ends_meet_coils"));
    job = set(job, field::far_wire, "leg 14 inward");
    const Finding* clash = found(all = findings_of(job, 0), "ends_meet_coils");
    REQUIRE(clash);
    CHECK(clash->severity == Severity::stop);
    CHECK(clash->value < clash->limit);
    CHECK_FALSE(make_preview(job.pieces[0], 0, {}, LengthUnit::millimetre, 0.02).made());
    CHECK(found(all = findings_of(add_piece({}, piece_of("torsion spring d2 D16 n6 legs 20 axial r 1.5")), 0),
                "leg_bent_tight"));
}

TEST_CASE("springs are found from two loads and a room") {
    SpringWanted w;
    w.loads = {{40, 32}, {65, 24}};
    w.outside = 24;
    const auto found = find_springs(w);
    REQUIRE(found.size() > 3);
    double before = 0;
    for (const SpringFound& f : found) {
        INFO(write_spring(f.spec));
        CHECK(f.mass >= before); // the lightest first
        before = f.mass;
        // each is what its line resolves to, and holds what was asked
        const ResolvedCoil c = of(write_spring(f.spec));
        CHECK(c.rate == Approx(f.rate).epsilon(1e-9));
        CHECK(c.rate == Approx((65.0 - 40) / (32 - 24)).epsilon(0.1));
        CHECK(c.rate * (c.free_length - 32) == Approx(40).epsilon(0.02));
        CHECK(c.rate * (c.free_length - 24) == Approx(65).epsilon(0.02));
        CHECK(c.outside() <= 24);
        CHECK(c.solid_length == Approx(f.solid_length));
        CHECK(c.solid_length + value(c, "least_gap") + f.margin == Approx(24));
        CHECK(f.margin >= 0);
        CHECK(value(c, "safety_at_solid") == Approx(1 / f.used));
        CHECK(f.used <= 1);
        CHECK(value(c, "mass") == Approx(f.mass).epsilon(0.05)); // its ends are ground
        CHECK(std::ranges::find(preferred_wires(), c.wire) != preferred_wires().end());
        if (f.buckles_at) CHECK(*f.buckles_at >= c.free_length - 24);
    }
    w.inside = 14;
    for (const SpringFound& f : find_springs(w))
        CHECK(in_mm(f.spec.diameters[0].value - f.spec.wire) >= 14 - 1e-9);
    w.solid = 12;
    for (const SpringFound& f : find_springs(w))
        CHECK(f.solid_length <= 12);
    w = {};
    w.loads = {{10, 20}};
    CHECK_THROWS_WITH(find_springs(w), Catch::Contains("the rate is wanted too"));
    w.rate = 2;
    CHECK_FALSE(find_springs(w).empty());
    w.loads = {{40, 24}, {65, 32}};
    w.rate = {};
    CHECK_THROWS_WITH(find_springs(w), Catch::Contains("grow as the spring gets shorter"));
    w.loads = {{4000, 32}, {6500, 24}};
    w.outside = 24;
    CHECK_THROWS_WITH(find_springs(w), Catch::Contains("No spring of preferred wire"));
    // buckling by the standard's own limit: never below π·D/(ν·L0) = √((0.5 + G/E)/(1 − G/E))
    const double G = 81500, E = 206000, limit = pi * 20 / 0.5 / std::sqrt((0.5 + G / E) / (1 - G / E));
    CHECK_FALSE(buckling_travel(limit * 0.999, 20, G, E));
    REQUIRE(buckling_travel(limit * 1.001, 20, G, E));
    CHECK(*buckling_travel(limit * 1.0001, 20, G, E) == Approx(limit * 0.5 / (1 - G / E)).epsilon(0.02));
    CHECK(*buckling_travel(200, 20, G, E) < *buckling_travel(150, 20, G, E) * 200 / 150);
}
