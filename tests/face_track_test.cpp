// Closed tracks in a disc's face: the roller between both walls, the solid through every proof, what can't be.
#include "build/build.hpp"
#include "check/check.hpp"
#include "exchange/cam_outline.hpp"
#include "model/edit.hpp"
#include "model/forms/lobe.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"

#include <cmath>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;
constexpr const char* track = "cam r20: rise 12 in 110 cycloidal, dwell 70, return in 110 3-4-5, dwell; "
                              "roller 8; b12; groove 5 deep in d84";

std::string text_of(double v) {
    return number_text(v, 3);
}

// Points of a closed outline, on their shaft.
std::vector<TransversePoint> points_of(const std::vector<LobeCurve>& curves, int each) {
    std::vector<TransversePoint> out;
    for (const LobeCurve& l : curves)
        for (int k = 0; k < each; ++k) {
            const TransversePoint q =
                point_at(l.curve, l.curve.from + (l.curve.to - l.curve.from) * k / each);
            out.push_back({q.x * std::cos(l.turned) - q.y * std::sin(l.turned),
                           q.x * std::sin(l.turned) + q.y * std::cos(l.turned)});
        }
    return out;
}
double area_of(const std::vector<TransversePoint>& p) {
    double sum = 0;
    for (std::size_t i = 0; i < p.size(); ++i) {
        const TransversePoint &a = p[i], &b = p[(i + 1) % p.size()];
        sum += (a.x * b.y - a.y * b.x) / 2;
    }
    return sum;
}
const Finding* found(const std::vector<Finding>& all, const char* id) {
    for (const Finding& f : all)
        if (f.id == id) return &f;
    return nullptr;
}

} // namespace

TEST_CASE("a roller in a face's groove touches both walls wherever it stands") {
    for (const char* text :
         {track,
          "cam r30: rise 6 in 100 modified-sine, dwell 40, return in 90, dwell; roller 10 offset 5; "
          "b10; groove 4 deep in d110 clockwise",
          "cam r25: rise 6 in 100, dwell 60, return in 100, dwell; roller 8 swing 60 70; b10 at 40; "
          "groove 6 deep in d92"}) {
        INFO(text);
        const ResolvedCam c = *resolve_piece(piece_of(text), {}).zones[0].lobe();
        REQUIRE(c.trouble == CamTrouble::none);
        const double rho = roller_radius(c.spec);
        const auto inner = points_of(c.outline, 4000), outer = points_of(c.outer_wall, 4000);
        for (int k = 0; k < 90; ++k) {
            const double theta = 4 * k * pi / 180;
            const TransversePoint f = follower_at(c.spec, c.motion, theta).centre;
            const double back = (c.spec.clockwise ? theta : -theta) + c.spec.at;
            const double x = f.x * std::cos(back) - f.y * std::sin(back),
                         y = f.x * std::sin(back) + f.y * std::cos(back);
            for (const auto* wall : {&inner, &outer}) {
                double least = 1e300;
                for (const TransversePoint& p : *wall)
                    least = std::min(least, std::hypot(p.x - x, p.y - y));
                // no wall reaches into the roller, each is touched; between points it is a little further
                CHECK(least > rho - 1e-9);
                CHECK(least < rho + 1e-4);
            }
        }
    }
}

TEST_CASE("the volume of a disc with a groove, by polygons through both walls") {
    const Preview p = test::prove(piece_of(track));
    const ResolvedCam& c = *p.piece.zones[0].lobe();
    const double groove =
        (area_of(points_of(c.outer_wall, 20000)) - area_of(points_of(c.outline, 20000))) * 5;
    CHECK(p.volume() == Approx(pi * 42 * 42 * 12 - groove).epsilon(1e-8));
}

TEST_CASE("discs with grooves go with hubs, bores and a camshaft's other lobes") {
    Piece piece = piece_of(track);
    Zone bore = plain(mm(10), mm(1));
    bore.where = Where::near_bore;
    bore.length = {"", {}};
    piece.zones.push_back(bore);
    test::prove(piece);                                                // a bore through it
    piece.zones.insert(piece.zones.begin() + 1, plain(mm(60), mm(8))); // a hub behind
    test::prove(piece);
    piece.zones.insert(piece.zones.begin(), plain(mm(24), mm(5))); // and one in front, inside the groove
    test::prove(piece);
    Piece shaft = piece_of("cam r20: rise 8 in 120, dwell, return in 120; roller 8; b6 at 90");
    shaft.zones.push_back(plain(mm(24), mm(4)));
    shaft.zones.push_back(piece_of(track).zones[0]);
    test::prove(shaft);
    // what reaches into the groove says so
    piece.zones[0] = plain(mm(50), mm(5));
    const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre);
    CHECK_FALSE(p.made());
    REQUIRE_FALSE(p.findings.empty());
    CHECK_THAT(p.findings.front().sentence, Catch::Contains("the groove begins at Ø 40"));
}

namespace {
void prove_tracks(unsigned from, unsigned count) {
    test::prove_random(from, count, 0.6, [](std::mt19937& random, std::string& text) {
        const auto real = [&](double low, double high) {
            return std::uniform_real_distribution<double>(low, high)(random);
        };
        const double r = real(12, 50), stroke = r * real(0.05, 0.3), roller = r * real(0.1, 0.35),
                     wide = real(3, 15);
        const double up = std::round(real(80, 120)), rest = std::round(real(2, 50)),
                     down = std::round(real(80, 110));
        const auto law = [&] { return std::string(word(static_cast<Law>(1 + random() % (law_count - 1)))); };
        text = "cam r" + text_of(r) + ": rise " + text_of(stroke) + " in " + text_of(up) + " " + law() +
               ", dwell " + text_of(rest) + ", return in " + text_of(down) + " " + law() +
               ", dwell; roller " + text_of(roller);
        const bool swings = random() % 4 == 0;
        if (!swings && random() % 3 == 0) text += " offset " + text_of(r * real(-0.2, 0.2));
        if (swings) text += " swing " + text_of(r * 2) + " " + text_of(r * 2.3);
        text += "; b" + text_of(wide) + "; groove " + text_of(wide * real(0.2, 0.8)) + " deep in d" +
                text_of(2 * (r + stroke + roller) + real(0.5, 20));
        if (random() % 2) text += " at " + text_of(real(1, 359));
        if (random() % 3 == 0) text += " clockwise";
        Piece piece = piece_of(text);
        if (random() % 2) piece.zones.push_back(plain(mm(r * real(0.3, 3)), mm(4)));
        if (random() % 3 == 0) piece.zones.insert(piece.zones.begin(), plain(mm(r * real(0.5, 1.8)), mm(4)));
        if (random() % 3 == 0) {
            Zone bore = plain(mm(0.4 * r * real(0.2, 0.6)), mm(1));
            bore.where = Where::near_bore;
            bore.length = {"", {}};
            piece.zones.push_back(bore);
        }
        return piece;
    });
}
} // namespace

TEST_CASE("randomised discs with grooves are closed, valid, watertight and of their closed volume") {
    prove_tracks(800, 40);
}
TEST_CASE("1 000 randomised discs with grooves", "[.][long]") {
    prove_tracks(30000, 1000);
}

TEST_CASE("a groove that can't be says why, and the remedy makes one") {
    const auto mended = [](const char* text, const char* id) {
        Job job = add_piece({}, piece_of(text));
        const auto before = findings_of(job, 0);
        INFO(text);
        const Finding* f = found(before, id);
        REQUIRE(f);
        CHECK(f->severity == Severity::stop);
        REQUIRE(f->remedy);
        for (const Edit& e : f->remedy->edits)
            job = apply(job, e);
        CHECK_FALSE(found(findings_of(job, 0), id));
    };
    mended("cam r20: rise 12 in 110 cycloidal, dwell 70, return in 110, dwell; roller 8; b12; groove 5 deep "
           "in d80",
           "groove_at_the_edge");
    // corners are rounded where there is room
    const auto constant = [](const char* rise) {
        return findings_of(add_piece({}, piece_of(std::string("cam r20: rise ") + rise +
                                                  " constant, dwell 70, return in 110, dwell; roller 8; b12; "
                                                  "groove 5 deep in d90")),
                           0);
    };
    CHECK(found(constant("12 in 110"), "corners_rounded"));
    CHECK_FALSE(found(constant("12 in 110"), "speed_drops"));
    CHECK(found(constant("1.2 in 6"), "speed_drops"));
    mended("cam r30: dwell 60, spline to 12 in 160 through 10/0.05/0.01 13/0.5/0.28 60/7/0.1, dwell 20, "
           "return in 90, dwell; roller 24; b12; groove 5 deep in d140",
           "wall_undercut");
    CHECK_THROWS_WITH(parse_cam("cam r20: dwell; flat; b12; groove 5 deep in d90"),
                      Catch::Contains("holds a roller"));
    CHECK_THROWS_WITH(parse_cam("cam r20: dwell; roller 8; b5; groove 5 deep in d90"),
                      Catch::Contains("a floor"));
    CHECK_THROWS_WITH(parse_cam("cam r20: dwell; roller 8; b5; groove 5"),
                      Catch::Contains("groove 5 deep in d80"));
    CHECK_THROWS_WITH(parse_cam("cam r20: dwell; roller 8; b12; groove 5 deep in d90; conjugate"),
                      Catch::Contains("both ways already"));
    const CamDesignation d = parse_cam(track);
    CHECK(parse_cam(write_cam(d.spec, d.length)).spec == d.spec);
}

TEST_CASE("a roller in a groove is held both ways, and never said to lift off") {
    const ResolvedCam c =
        resolve_cam(parse_cam("cam r20: rise 12 in 110 cycloidal, dwell 70, return in 110, dwell; "
                              "roller 8; b12; groove 5 deep in d84; mass 300; 1200 rpm")
                        .spec,
                    12);
    REQUIRE(c.loads);
    CHECK(c.loads->least_force < 0);
    CHECK_FALSE(c.loads->lift_off_rpm);
    CHECK_FALSE(find_value(c.values, "force_needed"));
    CHECK(find_value(c.values, "contact_pressure"));
}

TEST_CASE("a groove's drawing has both walls and the disc") {
    const ResolvedCam c = *resolve_piece(piece_of(track), {}).zones[0].lobe();
    const std::string dxf = cam_dxf(c), svg = cam_svg(c);
    std::size_t lines = 0;
    for (std::size_t at = dxf.find("POLYLINE"); at != std::string::npos; at = dxf.find("POLYLINE", at + 1))
        ++lines;
    CHECK(lines == 2);
    CHECK(dxf.find("\n40\n42\n") != std::string::npos);
    CHECK(std::count(svg.begin(), svg.end(), 'Z') == 2);
}
