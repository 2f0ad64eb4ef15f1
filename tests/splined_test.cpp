// Involute splines: the numbers of DIN 5480 and ISO 4156, pins by a derivation of their own, random shafts and hubs through
// every proof, shaft and hub in each other, what is read, kept, refused and mended.
#include "check/check.hpp"
#include "form/tooth/measure.hpp"
#include "model/edit.hpp"
#include "model/forms/spline.hpp"
#include "model/job_file.hpp"
#include "model/pair_model.hpp"
#include "model/starter.hpp"
#include "pair/spline_fit.hpp"
#include "pair/standing.hpp"
#include "prove_piece.hpp"
#include "quantity/expression.hpp"

#include <numbers>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

ResolvedSpline of(const char* line, double length = 40) {
    return resolve_spline(parse_spline(line).spec, mm(length));
}
double value(const ResolvedSpline& s, const char* key) {
    const ResolvedValue* v = find_value(s.values, key);
    REQUIRE(v);
    REQUIRE(v->value);
    return *v->value;
}
Job set(const Job& job, std::size_t piece, std::size_t zone, Field f, const char* text) {
    return apply(job, {piece, zone, f, text, LengthUnit::millimetre});
}
std::string why(const Job& job, std::size_t zone, Field f, const char* text) {
    try {
        (void)set(job, 0, zone, f, text);
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

// Over two pins of a shaft, between them in a hub, of this tooth thickness or space width on the pitch circle: the involute
// through a pin's middle is that of the flank, turned by half a pin on the base circle (textbooks; by bisection).
double pins_of(double m, int z, double alpha, double width, double pin, bool hub) {
    const double d = m * z, base = d * std::cos(alpha), inv = std::tan(alpha) - alpha;
    const double sought = hub ? width / d + inv - pin / base : width / d + inv + pin / base - pi / z;
    double low = 0, high = 1.5;
    for (int i = 0; i < 200; ++i) {
        const double middle = (low + high) / 2;
        (std::tan(middle) - middle < sought ? low : high) = middle;
    }
    double across = base / std::cos(low);
    if (z % 2 == 1) across *= std::cos(pi / 2 / z);
    return hub ? across - pin : across + pin;
}

Piece random_splined(std::mt19937& random, std::string& text) {
    const auto real = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const bool din = real(0, 1) < 0.5, hub = real(0, 1) < 0.5;
    const auto& modules = spline_modules(din);
    SplineSpec s;
    s.hub = hub;
    s.module = mm(modules[static_cast<std::size_t>(real(0, static_cast<double>(modules.size()) - 0.01))]);
    s.teeth = static_cast<int>(real(6, real(0, 1) < 0.7 ? 40 : 90));
    if (din) {
        s.reference_diameter = s.module * (s.teeth + 1.1 + 2 * real(-0.05, 0.45));
        if (real(0, 1) < 0.4) s.root = static_cast<SplineRoot>(2 + static_cast<int>(real(0, 2.99)));
    } else {
        const double angles[]{30, 37.5, 45};
        s.pressure_angle = deg(angles[static_cast<int>(real(0, 2.99))]);
        if (in_deg(s.pressure_angle) < 31 && real(0, 1) < 0.5) s.root = SplineRoot::fillet;
        if (real(0, 1) < 0.6)
            s.tolerance_class = std::to_string(static_cast<int>(real(4, 7.99))) +
                                (hub ? 'H' : "defgh"[static_cast<int>(real(0, 4.99))]);
    }
    if (real(0, 1) < 0.3) s.thinning = s.module * real(0.01, 0.1);
    Designation d;
    d.what = s;
    d.length = s.module * real(3, 30);
    text = write_spline(s, d.length);
    Piece p = piece_asked(s, d);
    if (!hub && real(0, 1) < 0.5) p.zones.push_back(zone_of(parse_designation("round 10 x 8"))); // a neck
    return p;
}

} // namespace

TEST_CASE("DIN 5480: the teeth that go with a reference diameter, and the profile that makes it") {
    // as they are used
    for (const auto& [d, m, z] :
         {std::tuple{15.0, 1.25, 10}, std::tuple{20.0, 1.25, 14}, std::tuple{25.0, 1.25, 18},
          std::tuple{30.0, 2.0, 14}, std::tuple{32.0, 2.0, 14}, std::tuple{35.0, 2.0, 16},
          std::tuple{40.0, 2.0, 18}, std::tuple{45.0, 2.0, 21}, std::tuple{50.0, 2.0, 24},
          std::tuple{60.0, 2.0, 28}, std::tuple{70.0, 3.0, 22}, std::tuple{80.0, 3.0, 25},
          std::tuple{90.0, 3.0, 28}, std::tuple{100.0, 3.0, 32}, std::tuple{120.0, 3.0, 38}}) {
        INFO(d << " x " << m);
        CHECK(usual_spline_teeth(mm(d), mm(m)) == z);
        const std::string sizes = number_text(d, 2) + "x" + number_text(m, 2) + "x" + std::to_string(z);
        const ResolvedSpline shaft = of(("spline W " + sizes).c_str()),
                             hub = of(("spline N " + sizes).c_str());
        CHECK(value(shaft, "tip_diameter") == Approx(d - 0.2 * m));
        CHECK(value(hub, "tip_diameter") == Approx(d - 2 * m));
        CHECK(value(hub, "root_diameter") == Approx(d));             // broached
        CHECK(value(shaft, "root_diameter") == Approx(d - 2.3 * m)); // hobbed
        CHECK(shaft.shift >= -0.05 - 1e-9);
        CHECK(shaft.shift <= 0.45 + 1e-9);
        CHECK(hub.gear.spec.profile_shift == -shaft.shift);
        const double width = m * pi / 2 + (d - m * z - 1.1 * m) * std::tan(pi / 6);
        CHECK(value(shaft, "basic_width") == Approx(width));
        CHECK(tooth_thickness(shaft.gear, m * z / 2) == Approx(width));
        CHECK(m * pi - tooth_thickness(hub.gear, m * z / 2) == Approx(width)); // its space
        for (const ResolvedSpline* s : {&shaft, &hub})
            CHECK(value(*s, "over_pins") ==
                  Approx(pins_of(m, z, pi / 6, width, value(*s, "pin_diameter"), s == &hub)).epsilon(1e-9));
    }
    CHECK_FALSE(usual_spline_teeth(mm(8), mm(3)));
    // by what makes the root
    for (const auto& [word, deep] :
         {std::pair{"broached", 1.1}, std::pair{"hobbed", 1.2}, std::pair{"shaped", 1.3}})
        CHECK(value(of(("spline W 120x3x38 " + std::string(word)).c_str()), "root_diameter") ==
              Approx(114 + 2.7 - 3 * deep));
    const ResolvedSpline classed = of("spline W 120x3x38 x 8f");
    const ResolvedValue* limits = find_value(classed.values, "class_limits");
    REQUIRE(limits); // said, not guessed
    CHECK_THAT(limits->source, Catch::Contains("DIN 5480-1"));
}

TEST_CASE("ISO 4156: diameters by angle and root, limits by class") {
    struct Row {
        const char* angle;
        double alpha, shaft_tip, root, hs;
    };
    const double m = 2.5, d = 60;
    for (const Row& r : {Row{"30P", 30, 1, 1.5, 0.6}, Row{"30R", 30, 1, 1.8, 0.6},
                         Row{"37.5", 37.5, 0.9, 1.4, 0.55}, Row{"45", 45, 0.8, 1.2, 0.5}}) {
        INFO(r.angle);
        const ResolvedSpline shaft = of((std::string("spline EXT 24z x 2.5m x ") + r.angle).c_str()),
                             hub = of((std::string("spline INT 24z x 2.5m x ") + r.angle).c_str());
        const double a = r.alpha * pi / 180;
        CHECK(value(shaft, "pitch_diameter") == Approx(d));
        CHECK(value(shaft, "base_diameter") == Approx(d * std::cos(a)));
        CHECK(value(shaft, "tip_diameter") == Approx(m * (24 + r.shaft_tip)));
        CHECK(value(shaft, "root_diameter") == Approx(m * (24 - r.root)));
        CHECK(value(hub, "root_diameter") == Approx(m * (24 + r.root)));
        const double form = 2 * std::sqrt(std::pow(d / 2 * std::cos(a), 2) +
                                          std::pow(d / 2 * std::sin(a) - r.hs * m / std::sin(a), 2));
        CHECK(value(hub, "tip_diameter") == Approx(form + 0.2 * m));
        CHECK(value(shaft, "form_diameter") <= form + 1e-3); // the flank reaches as far as the hub needs it
        CHECK(shaft.gear.trouble == ToothTrouble::none);
        CHECK(hub.gear.trouble == ToothTrouble::none);
    }
    // class 5 by hand: i* 1.8217, i** 0.71386 µm; Fp 43.464, Fα 24.125, Fβ 11.325 µm
    const ResolvedSpline hub = of("spline INT 24z x 2.5m x 30P x 5H");
    REQUIRE(hub.limits);
    const double basic = 2.5 * pi / 2;
    CHECK(hub.limits->effective == Approx(basic));
    CHECK(hub.limits->variation == Approx(0.03059).margin(5e-6));
    CHECK(hub.limits->most - basic == Approx(0.074835).margin(2e-6));
    CHECK(hub.limits->least - basic == Approx(0.03059).margin(5e-6));
    CHECK(2.5 * pi - tooth_thickness(hub.gear, 30) == Approx(hub.limits->middle()));
    // f: 5.5·60^0.41 = 29.47 µm off the teeth, and by tan 30° off the diameters
    const ResolvedSpline shaft = of("spline EXT 24z x 2.5m x 30P x 5f");
    REQUIRE(shaft.limits);
    CHECK(shaft.limits->deviation == Approx(0.02947).margin(1e-5));
    CHECK(basic - shaft.limits->effective == Approx(0.02947).margin(1e-5));
    CHECK(shaft.limits->effective - shaft.limits->least == Approx(0.074835).margin(2e-6));
    CHECK(value(shaft, "tip_diameter") == Approx(62.5 - 0.02947 / std::tan(pi / 6)).margin(2e-5));
    CHECK(tooth_thickness(shaft.gear, 30) == Approx(shaft.limits->middle()));
    const ResolvedValue* pins = find_value(shaft.values, "over_pins");
    REQUIRE((pins && pins->min && pins->max));
    const double pin = value(shaft, "pin_diameter");
    CHECK(*pins->min == Approx(pins_of(2.5, 24, pi / 6, shaft.limits->least, pin, false)).epsilon(1e-9));
    CHECK(*pins->max == Approx(pins_of(2.5, 24, pi / 6, shaft.limits->most, pin, false)).epsilon(1e-9));
    const ResolvedValue* between = find_value(hub.values, "over_pins");
    REQUIRE((between && between->min && between->max));
    CHECK(*between->max ==
          Approx(pins_of(2.5, 24, pi / 6, hub.limits->most, value(hub, "pin_diameter"), true)).epsilon(1e-9));
    // finer classes lie within coarser ones; longer teeth vary more
    for (const char letter : {'d', 'e', 'f', 'g', 'h'}) {
        double before = 0;
        for (int grade = 4; grade <= 7; ++grade) {
            const auto l = of(("spline EXT 24z x 2.5m x 37.5 x " + std::to_string(grade) + letter).c_str())
                               .limits.value();
            CHECK(l.effective - l.least > before);
            before = l.effective - l.least;
        }
    }
    CHECK(of("spline INT 24z x 2.5m x 45 x 5H", 200).limits->variation >
          of("spline INT 24z x 2.5m x 45 x 5H", 20).limits->variation);
}

TEST_CASE("splines are read, written, kept and refused") {
    for (const char* line :
         {"spline W 30x2x14 x 25", "spline N 30x2x14 x 25 shaped", "spline W 120x3x38 x 8f x 60",
          "spline N 120x3x38 x 9H", "spline EXT 24z x 2.5m x 30P x 5f x 40",
          "spline INT 24z x 2.5m x 30R x 5H x 40", "spline EXT 30z x 1m x 37.5",
          "spline INT 30z x 1m x 45 x 7H", "spline EXT 24z x 2.5m x 45 x 30 thin 0.05"}) {
        INFO(line);
        const SplineDesignation d = parse_spline(line);
        CHECK(write_spline(d.spec, d.length) == line);
        CHECK(std::get<SplineSpec>(parse_designation(line).what) == d.spec);
        const Job job = add_piece({}, piece_of(line));
        CHECK(job_from_json(job_to_json(job)) == job);
        const std::size_t zone = job.pieces[0].zones.size() - 1;
        Job other = respec_zone(job, 0, zone, parse_designation(line));
        CHECK(zone_designation(other.pieces[0].zones[zone], other).substr(0, 12) ==
              std::string(line).substr(0, 12));
    }
    CHECK(parse_spline("DIN 5480 W 30 x 2 x 14 x 25").spec == parse_spline("spline w30x2x14").spec);
    CHECK(parse_spline("ISO 4156 int 24z × 2.5m × 30r").spec == parse_spline("INT 24z x 2.5m x 30R").spec);
    CHECK_THAT(refusal("spline"), Catch::Contains("Write for example"));
    CHECK_THAT(refusal("spline W 30x2"), Catch::Contains("number of teeth"));
    CHECK_THAT(refusal("spline W 30x2x14.5"), Catch::Contains("whole number"));
    CHECK_THAT(refusal("spline W 30x2x30"), Catch::Contains("profile shift"));
    CHECK_THAT(refusal("spline W 30x2x14 x 8H"), Catch::Contains("no class"));
    CHECK_THAT(refusal("spline EXT 24z x 2.5m x 30P x 9f"), Catch::Contains("4 to 7"));
    CHECK_THAT(refusal("spline EXT 24z x 2.5m x 20P"), Catch::Contains("37.5"));
    CHECK_THAT(refusal("spline EXT 24z x 2.5m x 45P"), Catch::Contains("fillet"));
    CHECK_THAT(refusal("spline EXT 24z x 2.5m x 30P hobbed"), Catch::Contains("DIN 5480"));
    CHECK_THAT(refusal("spline W 30x2x14 x 25 x 30"), Catch::Contains("twice"));
    CHECK_THAT(refusal("spline W 30x2x14 hobbed shaped"), Catch::Contains("twice"));
    CHECK_THAT(refusal("spline W 30x2x14 deep"), Catch::Contains("not understood"));
    // rows: the teeth follow from the reference diameter, or belong to ISO 4156
    Job job = add_piece({}, piece_of("spline W 30x2x14 x 25"));
    job = set(job, 0, 0, field::teeth, "");
    job = set(job, 0, 0, field::reference_diameter, "50");
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].spline()->spec.teeth == 24);
    CHECK_THAT(why(job, 0, field::reference_diameter, ""), Catch::Contains("needs its number of teeth"));
    CHECK_THAT(why(job, 0, field::reference_diameter, "7"), Catch::Contains("another module"));
    job = set(job, 0, 0, field::teeth, "23");
    job = set(job, 0, 0, field::reference_diameter, "");
    CHECK(in_deg(resolve_piece(job.pieces[0], {}).zones[0].spline()->spec.pressure_angle) == Approx(30));
    job = set(job, 0, 0, field::pressure_angle, "37.5");
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].spline()->root == SplineRoot::fillet);
    CHECK_THAT(why(job, 0, field::pressure_angle, "20"), Catch::Contains("30°, 37.5° or 45°"));
    CHECK_THAT(why(job, 0, field::spline_root, "flat"), Catch::Contains("fillet"));
    CHECK_THAT(why(job, 0, field::spline_root, "deep"), Catch::Contains("broached"));
    CHECK_THAT(why(job, 0, field::near_end, "chamfer 45"), Catch::Contains("has no near end"));
    CHECK_THAT(why(job, 0, field::thinning, "1"), Catch::Contains("0.4"));
}

TEST_CASE("a shaft stands in its hub, tooth in space, clear of it all around") {
    for (const char* line : {"spline W 30x2x14 x 25", "spline W 45x2x21 x 20",
                             "spline EXT 24z x 2.5m x 30P x 5f x 40", "spline EXT 17z x 1.5m x 45 x 6h x 15",
                             "spline EXT 20z x 3m x 37.5 x 7e x 30", "spline EXT 24z x 2m x 30R x 5f x 20"}) {
        INFO(line);
        Job job = add_counterpart(add_piece({}, piece_of(line)), 0, 0);
        REQUIRE(job.pairs.size() == 1);
        CHECK(pair_kind(job, job.pairs[0]) == PairKind::spline);
        const ZoneRef at = job.pairs[0].second;
        const ResolvedPiece shaft = resolve_piece(job.pieces[0], {}),
                            hub = resolve_piece(job.pieces[at.piece], {});
        const ResolvedSpline &a = *shaft.zones[0].spline(), &b = *hub.zones[at.zone].spline();
        CHECK(b.spec.hub);
        const auto standing = standing_of(shaft, 0, hub, at.zone);
        REQUIRE(standing);
        const Standing to_hub = inverse(*standing);
        // every point of the shaft's mesh lies in the hub's spaces
        const Preview made = make_preview(job.pieces[0], 0, {}, LengthUnit::millimetre, 0.005);
        REQUIRE(made.made());
        double nearest = 1e9;
        for (const auto& p : made.mesh.points) {
            const double x = p.x * to_hub.x[0] + p.y * to_hub.y[0] + p.z * to_hub.z[0] + to_hub.origin[0],
                         y = p.x * to_hub.x[1] + p.y * to_hub.y[1] + p.z * to_hub.z[1] + to_hub.origin[1];
            const double r = std::hypot(x, y), pitch = b.gear.pitch_angle();
            if (r < b.gear.tip_radius) continue;
            CHECK(r < b.gear.root_radius);
            const double off = std::abs(std::remainder(std::atan2(y, x), pitch)); // from a space's middle
            nearest = std::min(nearest, (space_half_angle_at(b.gear, r) - off) * r);
        }
        CHECK(nearest > -2e-6);
        const SplineFit fit = spline_fit(a, b, std::min(shaft.zones[0].length, hub.zones[at.zone].length));
        CHECK(fit.goes_together());
        CHECK(nearest == Approx(fit.flank_clearance / 2).margin(0.25 * std::abs(fit.flank_clearance) + 2e-3));
        if (a.limits) {
            const ResolvedValue* limits = find_value(fit.values, "clearance_limits");
            REQUIRE((limits && limits->min));
            CHECK(*limits->min == Approx(a.limits->deviation).margin(1e-9)); // with a hub of class H
            CHECK(fit.flank_clearance == Approx(b.limits->middle() - a.limits->middle()).margin(1e-9));
        }
        // what follows stays a fit
        if (a.spec.reference_diameter)
            job = set(set(job, 0, 0, field::teeth, ""), 0, 0, field::reference_diameter, "61");
        job = set(job, 0, 0, field::module, "4");
        CHECK(in_mm(resolve_piece(job.pieces[at.piece], {}).zones[at.zone].spline()->spec.module) == 4);
        for (const Finding& f : findings_of(job, at.piece))
            CHECK(f.severity != Severity::stop);
    }
}

TEST_CASE("what is wrong between shaft and hub is said, and mended") {
    Job job = add_counterpart(add_piece({}, piece_of("spline W 30x2x14 x 25")), 0, 0);
    const std::size_t hub = job.pairs[0].second.zone;
    const Finding* none = nullptr;
    std::vector<Finding> all = findings_of(job, 1);
    REQUIRE((none = found(all, "spline_no_clearance")));
    REQUIRE(none->remedy);
    for (const Edit& e : none->remedy->edits)
        job = apply(job, e);
    CHECK_FALSE(found(all = findings_of(job, 1), "spline_no_clearance"));
    // unlike each other
    job = set(job, 1, hub, field::reference_diameter, "32");
    const Finding* other = found(all = findings_of(job, 1), "spline_reference_diameter");
    REQUIRE(other);
    CHECK(other->severity == Severity::stop);
    REQUIRE(other->remedy);
    for (const Edit& e : other->remedy->edits)
        job = apply(job, e);
    CHECK_FALSE(found(all = findings_of(job, 1), "spline_reference_diameter"));
    // tips that run into roots
    const ResolvedSpline shaft = of("spline W 30x2x14");
    ResolvedSpline ring = of("spline N 30x2x14");
    ring.gear.tip_radius = shaft.gear.root_radius + 0.02; // into the shaft's fillet
    CHECK(spline_fit(shaft, ring, mm(10)).mistakes.at(0).id == "overlap");
    ring = of("spline N 30x2x14 thin 0.1");
    CHECK(spline_fit(shaft, ring, mm(10)).goes_together());
    CHECK(spline_fit(shaft, ring, mm(10)).flank_clearance == Approx(0.1));
    // a tip just in the fillet: 14 hobbed teeth; shaped ones are clear of it
    const SplineFit hobbed = spline_fit(shaft, of("spline N 30x2x14"), mm(10)),
                    shaped = spline_fit(of("spline W 30x2x14 shaped"), of("spline N 30x2x14"), mm(10));
    CHECK(hobbed.goes_together());
    CHECK(hobbed.form_clearance < 0);
    CHECK(shaped.form_clearance > 0.04);
    const Finding* form = found(all = findings_of(job, 1), "spline_form_clearance");
    REQUIRE((form && form->remedy));
    job = apply(job, form->remedy->edits.at(0));
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].spline()->root == SplineRoot::shaped);
    CHECK_FALSE(found(all = findings_of(job, 1), "spline_form_clearance"));
    CHECK(spline_fit(of("spline W 30x2x14"), of("spline N 30x2x13"), mm(10)).mistakes.at(0).id == "teeth");
    CHECK(spline_fit(of("spline EXT 24z x 2m x 30P"), of("spline INT 24z x 2m x 45"), mm(10))
              .mistakes.at(0)
              .id == "pressure_angle");
    // teeth that the standard hasn't
    Job one = add_piece({}, piece_of("spline W 30x2x13 x 25"));
    CHECK_FALSE(found(all = findings_of(one, 0), "shift_out_of_range")); // 0.45 is in it
    one = add_piece({}, piece_of("spline W 30x2x12 x 25"));
    const Finding* shift = found(all = findings_of(one, 0), "shift_out_of_range");
    REQUIRE((shift && shift->remedy));
    CHECK(apply(one, shift->remedy->edits.at(0)).pieces[0].zones[0].as<SplineForm>()->teeth.text == "14");
    one = add_piece({}, piece_of("spline EXT 24z x 2.1m x 30P x 20"));
    const Finding* module = found(all = findings_of(one, 0), "module_not_listed");
    REQUIRE((module && module->remedy));
    CHECK(module->limit == 2);
    // a bore too near
    Job thin = add_piece({}, piece_of("spline W 30x2x14 x 25"));
    thin = insert_zone(thin, 0, 1, [] {
        Zone bore = zone_of(parse_designation("round 24.5 x 10"));
        bore.where = Where::near_bore;
        return bore;
    }());
    CHECK(found(all = findings_of(thin, 0), "thin_rim"));
}

TEST_CASE("random shafts and hubs pass every proof") {
    test::prove_random(1, 20, 0.9, random_splined);
}
TEST_CASE("1 000 random shafts and hubs", "[.][long]") {
    test::prove_random(1001, 1000, 0.9, random_splined);
}

TEST_CASE("a spline's files carry its teeth") {
    const Piece p = piece_of("spline W 30x2x14 x 25");
    const Preview made = make_preview(p, 0, {}, LengthUnit::millimetre, 0.01);
    REQUIRE(made.made());
    // between a cylinder over the tips and one at the roots, and by its teeth's own area
    const ResolvedGear& g = *made.piece.zones[0].gear();
    CHECK(made.volume() < pi * g.tip_radius * g.tip_radius * 25);
    CHECK(made.volume() > pi * g.root_radius * g.root_radius * 25);
    double area = 0; // ∫ r²/2 dθ over the half outline, 28 times
    for (const TransverseCurve& c : g.half_outline) {
        TransversePoint before = point_at(c, c.from);
        for (int i = 1; i <= 20000; ++i) {
            const TransversePoint now = point_at(c, c.from + (c.to - c.from) * i / 20000);
            area += (before.x * now.y - before.y * now.x) / 2;
            before = now;
        }
    }
    CHECK(made.volume() == Approx(28 * area * 25).epsilon(1e-6));
}
