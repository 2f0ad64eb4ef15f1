// What a program does that receives our STEP files, with the kernel as a stranger has it: reads a file,
// checks it, weighs it with plain quadrature, meshes it, cuts it in half in planes through the axis and joins
// a block to it. The two halves' volumes add up to the whole's, and so do those of the joined and the shared.
#include "build/build.hpp"
#include "exchange/export.hpp"
#include "model/job_file.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "random_piece.hpp"

#include <catch2/catch.hpp>

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Poly_Triangulation.hxx>
#include <STEPControl_Reader.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <cmath>
#include <filesystem>
#include <unistd.h>

using namespace whorl;

namespace {

double weight(const TopoDS_Shape& s, double precision = 1e-6) {
    GProp_GProps g;
    if (precision > 0)
        BRepGProp::VolumeProperties(s, g, precision);
    else
        BRepGProp::VolumeProperties(s, g);
    return g.Mass();
}

TopoDS_Shape received(const Piece& piece, const Preview& preview) {
    const auto path =
        std::filesystem::temp_directory_path() / ("whorl-receiver-" + std::to_string(::getpid()) + ".step");
    write_step(*make_verified_solid(preview), piece, "", LengthUnit::millimetre, path);
    STEPControl_Reader reader;
    REQUIRE(reader.ReadFile(path.c_str()) == IFSelect_RetDone);
    reader.TransferRoots();
    std::filesystem::remove(path);
    return reader.OneShape();
}

// Everything at the given angles, in degrees.
void receive(const Piece& piece, const std::vector<double>& angles) {
    const Preview preview = make_preview(piece, 0, {}, LengthUnit::millimetre);
    REQUIRE(preview.made());
    const TopoDS_Shape s = received(piece, preview);
    CHECK(BRepCheck_Analyzer(s).IsValid());
    const double whole = preview.volume();
    CHECK(weight(s, 0) == Approx(whole).epsilon(1e-5)); // a tenth of what the receiver bears
    BRepMesh_IncrementalMesh(s, 0.02, false, 0.2, true);
    for (TopExp_Explorer x(s, TopAbs_FACE); x.More(); x.Next()) {
        TopLoc_Location where;
        CHECK(!BRep_Tool::Triangulation(TopoDS::Face(x.Current()), where).IsNull());
    }
    Bnd_Box box;
    BRepBndLib::Add(s, box);
    double x0, y0, z0, x1, y1, z1;
    box.Get(x0, y0, z0, x1, y1, z1);
    const double r = 2 * std::max({-x0, -y0, -z0, x1, y1, z1, std::abs(x0), std::abs(y0), std::abs(z0)}) + 1;
    for (const double degrees : angles) {
        INFO("cut at " << degrees << " degrees");
        gp_Trsf turn;
        turn.SetRotation(gp::OZ(), degrees * M_PI / 180);
        double sum = 0;
        for (const double from : {-r, 0.0}) {
            const TopoDS_Shape half =
                BRepBuilderAPI_Transform(
                    BRepPrimAPI_MakeBox(gp_Pnt(-r, from, -r), gp_Pnt(r, from + r, r)).Shape(), turn)
                    .Shape();
            const TopoDS_Shape cut = BRepAlgoAPI_Common(s, half).Shape();
            CHECK(BRepCheck_Analyzer(cut).IsValid());
            sum += weight(cut);
        }
        CHECK(sum == Approx(whole).epsilon(1e-4));
    }
    const TopoDS_Shape block =
        BRepPrimAPI_MakeBox(gp_Pnt(x0 - 1, y0 - 1, z0 - 3), gp_Pnt(x1 + 1, y1 + 1, z0 + 0.37)).Shape();
    const TopoDS_Shape joined = BRepAlgoAPI_Fuse(s, block).Shape(),
                       shared = BRepAlgoAPI_Common(s, block).Shape();
    CHECK(BRepCheck_Analyzer(joined).IsValid());
    CHECK(weight(joined) + weight(shared) == Approx(whole + weight(block)).margin(1e-4 * whole));
}

Piece written(const std::string& designation) {
    return piece_of(designation, {});
}

// A short random piece: what a receiver does with a turn it does with a hundred.
void receive_random(unsigned seed, int wanted) {
    test::RandomPiece random(seed);
    for (int made = 0, round = 0; made < wanted && round < 20 * wanted; ++round) {
        const Piece piece = random.any_piece();
        const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre);
        if (!p.made() || p.body.skin()->faces.size() > 100) continue;
        ++made;
        Job job;
        job.pieces = {piece};
        INFO("seed " << seed << ", round " << round << ":\n" << job_to_json(job));
        receive(piece, {random.between(0, 180)});
    }
}

// those that could not be cut, joined or weighed before faces were cut below a turn, and their kin
constexpr const char* kinds[]{
    "M7x1-6g x 12",
    "M10 x 10",
    "M14x1.5-6g LH x 8",
    "Tr20x4 x 16",
    "ISO 4032 M10",
    "M6-6H x 8",
    "1/4-20 UNC-2A x 0.4",
    "R1/8 x 8",
    "gear m2 z19 b12",
    "gear m2 z9 b8",
    "gear m1 z12 helix 30 LH b6",
    "internal gear m1 z40 b6",
    "rack m2 z6 b10 h12",
    "spring d2 D20 L30 n3 closed ground",
    "spring d2.5 D30/20/30 L30 nt3 open LH",
    "knurl axial pitch 1.6 on 10 x 6",
    "knurl left pitch 1.6 on 10 x 20",
    "knurl crossed pitch 2 on 8 x 5",
    "knurl axial-ring sunk pitch 2 on 8 x 5",
    "knurl ring pitch 1 on 10 x 5",
    "groove round 4.2 pitch 4.5 on 30 x 12",
    "groove rect 2 pitch 25 in 20 across 23 x 20",
    "groove vee 60 1 pitch 6 on 20 x 12, 3 starts LH",
    "silhouette 0:12 8:16 22:10 40:14:0",
    "silhouette 0:20 30:25 60:20 arcs, 6 flutes 2 deep, twist 40 LH, wall 2 bottom 3 smooth",
    "cup 46 x 58, ridges 0.6",
    "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; roller 8; b10",
    "cam r20: rise 5 in 180 constant, return in 180 constant; roller 8; b10",
    "cam r12: rise 3 in 90 modified-trapezoid, return in 90 parabolic, dwell; flat; b5",
    "cam r20: rise 6 in 90 3-4-5, dwell, return in 120 4-5-6-7; roller 10 swing 40 50; b6",
    "cam r20: spline in 360 through 45/3 90/8 180/10 270/4; roller 8; b10",
    "drum cam d40 b30: rise 12 in 150 cycloidal, return in 150 cycloidal, dwell; groove 5 wide 4 deep",
    "drum cam d40 b30: rise 12 in 120 constant, dwell 60, return in 120 constant, dwell; groove 5 wide "
    "4 deep clockwise",
    "drum cam d40 b30: rise 12 in 150 3-4-5, return in 150 3-4-5, dwell; rib 5 wide 3 high",
    "drum cam d40 b30: rise 12 in 150 3-4-5, return in 150 3-4-5, dwell; groove 5 wide 4 deep; "
    "straight walls",
    "drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; groove 4 wide 3 deep; 4 turns",
    "drum cam d40 b40: rise 18 in 90 constant, dwell 90, return in 120 constant, dwell; groove 4 wide "
    "5 "
    "deep corners sharp",
    "drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; line; 4 turns"};

} // namespace

// One of each surface in every run; all of them in the long one.
constexpr const char* few[]{
    "M10 x 10",
    "R1/8 x 8",
    "ISO 4032 M10",
    "gear m2 z9 b8",
    "gear m1 z12 helix 30 LH b6",
    "rack m2 z6 b10 h12",
    "spring d2 D20 L30 n3 closed ground",
    "knurl crossed pitch 2 on 8 x 5",
    "groove vee 60 1 pitch 6 on 20 x 12, 3 starts LH",
    "silhouette 0:12 8:16 22:10 40:14:0",
    "cam r20: rise 5 in 180 constant, return in 180 constant; roller 8; b10",
    "drum cam d40 b30: rise 12 in 150 3-4-5, return in 150 3-4-5, dwell; groove 5 wide 4 deep; "
    "straight walls"};

TEST_CASE("a receiver can use a piece of every surface") {
    bool through_the_seam = true; // half of them, the other half beside it
    for (const char* d : few) {
        INFO(d);
        receive(written(d), {through_the_seam ? 0.0 : 34.0});
        through_the_seam = !through_the_seam;
    }
}
TEST_CASE("a receiver can use a piece of every kind, in both planes", "[.][long]") {
    for (const char* d : kinds) {
        INFO(d);
        receive(written(d), {0, 34});
    }
}

TEST_CASE(
    "a receiver can use milled grooves, edges on cones, and elbows in the planes that once lost a half") {
    for (const char* d :
         {"groove rect 2 x 1.5 pitch 25 on 20 x 24", "groove round 3 pitch 10 on 20 x 18, 2 starts LH",
          "groove vee 60 1 pitch 12 in 16 x 20"}) {
        INFO(d);
        Piece p = written(d);
        p.zones.back().near_end.kind = p.zones.back().far_end.kind = EndKind::milled;
        receive(p, {34});
    }
    Piece cone = written("round 20 x 16");
    std::get<PlainForm>(cone.zones[0].form).far_diameter = {"26", {}};
    cone.zones[0].near_end = rounded_edge(mm(2));
    cone.zones[0].far_end = rounded_edge(mm(1.5));
    receive(cone, {0, 34});
    receive(written("elbow G3/8 30"), {68});
    receive(written("elbow G3/8 45"), {153});
}

TEST_CASE("a receiver can use pieces with cross holes, cut through their axes and beside them") {
    struct Drilled {
        const char* text;
        double bore;
        CrossHoles holes;
    };
    for (const Drilled& d :
         {Drilled{"round 16 x 20", 0, {{"5", {}}, {}, {"20", {}}, {}, {}, false}},
          Drilled{"round 16 x 20", 8, {{"6", {}}, {}, {}, {"2", {}}, {"8", {}}, false}},
          Drilled{"round 16 x 20", 8, {{"3", {}}, {}, {"50", {}}, {}, {}, true}},
          Drilled{"flat 20 x 5 x 40", 0, {{"6", {}}, {}, {}, {"2", {}}, {"20", {}}, false}},
          Drilled{"hex 17 x 20", 0, {{"5", {}}, {}, {"60", {}}, {}, {}, false}}}) {
        Piece p = written(d.text);
        std::get<PlainForm>(p.zones[0].form).cross = d.holes;
        if (d.bore > 0) {
            Zone z = plain(mm(d.bore), mm(1));
            z.where = Where::near_bore;
            z.length = {};
            p.zones.push_back(z);
        }
        INFO(d.text);
        receive(p, {0, 20, 77});
    }
}

TEST_CASE("a receiver can use 5 random pieces") {
    receive_random(20261126, 5);
}

TEST_CASE("a receiver can use 1 000 random pieces", "[.][long]") {
    receive_random(7, 1000);
}
