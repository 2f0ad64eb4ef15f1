// The validity check, face by face, against the kernel's check of the whole, on sound and on broken solids.
#include "build/build.hpp"
#include "mesh_crossings.hpp"
#include "model/starter.hpp"
#include "solid/kernel/kernel_shape.hpp"
#include "solid/solid.hpp"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <catch2/catch.hpp>
#include <functional>

using namespace whorl;
using namespace whorl::solid;

namespace {

TopoDS_Solid made(const char* text) {
    return make_solid(*make_preview(piece_of(text), 0, {}, LengthUnit::millimetre).body.skin()).shape().solid;
}

// A copy whose faces went through `change`, which may leave one out by giving a null face.
TopoDS_Solid changed(const TopoDS_Solid& from,
                     const std::function<TopoDS_Face(const TopoDS_Face&, int)>& change) {
    const BRep_Builder brep;
    TopoDS_Shell shell;
    brep.MakeShell(shell);
    int index = 0;
    for (TopExp_Explorer f(BRepBuilderAPI_Copy(from).Shape(), TopAbs_FACE); f.More(); f.Next())
        if (const TopoDS_Face face = change(TopoDS::Face(f.Current()), index++); !face.IsNull())
            brep.Add(shell, face);
    shell.Closed(true);
    TopoDS_Solid solid;
    brep.MakeSolid(solid);
    brep.Add(solid, shell);
    return solid;
}

bool face_by_face(const TopoDS_Solid& solid, std::stop_token stop = {}) {
    auto shape = std::make_shared<KernelShape>();
    shape->solid = solid;
    return is_valid(Solid(shape), stop);
}

} // namespace

TEST_CASE("checked face by face and as a whole, solids are as valid") {
    const char* const pieces[]{"M8x1-6g x 6",
                               "gear m1 z83 b4 bore 20", // its ends have more edges than the kernel bears
                               "knurl axial 157 teeth on 50 x 8",
                               "ISO 4032 M6",
                               "nipple R1/2 x 40",
                               "gear m2 z12 b10",
                               "gear m1 z31 helix 20 b8 bore 8",
                               "internal gear m1 z40 b6"};
    for (const char* const text : pieces) {
        const TopoDS_Solid sound = made(text);
        int faces = 0;
        for (TopExp_Explorer f(sound, TopAbs_FACE); f.More(); f.Next())
            ++faces;
        const auto agree = [&](const char* how, const TopoDS_Solid& solid, bool expected) {
            INFO(text << ", " << how);
            CHECK(BRepCheck_Analyzer(solid, true).IsValid() == expected);
            CHECK(face_by_face(solid) == expected);
        };
        const BRep_Builder brep;
        agree("as made", sound, true);
        agree("copied", changed(sound, [](const TopoDS_Face& f, int) { return f; }), true);
        for (const int victim : {faces / 2, faces - 1}) {
            agree(
                "a face left out",
                changed(sound, [&](const TopoDS_Face& f, int i) { return i == victim ? TopoDS_Face() : f; }),
                false);
            agree("a face turned over",
                  changed(sound, [&](const TopoDS_Face& f,
                                     int i) { return i == victim ? TopoDS::Face(f.Reversed()) : f; }),
                  false);
            agree("a corner moved",
                  changed(sound,
                          [&](const TopoDS_Face& f, int i) {
                              if (i != victim) return f;
                              TopExp_Explorer v(f, TopAbs_VERTEX);
                              const auto vertex = TopoDS::Vertex(v.Current());
                              gp_Pnt at = BRep_Tool::Pnt(vertex);
                              at.SetX(at.X() + 0.01);
                              brep.UpdateVertex(vertex, at, 1e-7);
                              return f;
                          }),
                  false);
            agree("a wire without one of its edges",
                  changed(sound,
                          [&](const TopoDS_Face& f, int i) {
                              if (i != victim) return f;
                              TopoDS_Face open = TopoDS::Face(f.EmptyCopied());
                              for (TopExp_Explorer w(f, TopAbs_WIRE); w.More(); w.Next()) {
                                  TopoDS_Wire wire;
                                  brep.MakeWire(wire);
                                  TopExp_Explorer e(w.Current(), TopAbs_EDGE);
                                  for (e.Next(); e.More(); e.Next())
                                      brep.Add(wire, e.Current());
                                  brep.Add(open, wire);
                              }
                              return open;
                          }),
                  false);
        }
    }
}

TEST_CASE("a check that was stopped looks at nothing more") {
    const TopoDS_Solid sound = made("gear m1 z127 b20");
    const TopoDS_Solid open =
        changed(sound, [&](const TopoDS_Face& f, int i) { return i == 3 ? TopoDS_Face() : f; });
    CHECK(face_by_face(sound));
    CHECK_FALSE(face_by_face(open));
    std::stop_source stopped;
    stopped.request_stop();
    CHECK(face_by_face(open, stopped.get_token())); // what is wrong with it was not looked for
}

TEST_CASE("two bodies that stand in each other are seen to, and how deep; bodies that only touch are not") {
    // two tetrahedra, the second moved along x so that its corner goes `deep` into the first's slanting face
    const auto pair = [](double deep) {
        Mesh m;
        const auto add = [&](double x, double scale) {
            const auto n = static_cast<std::uint32_t>(m.points.size());
            for (const Point& p : {Point{0, 0, 0}, Point{1, 0, 0}, Point{0, 1, 0}, Point{0, 0, 1}})
                m.points.push_back({x + scale * p.x, 0.2 + scale * (p.y - 0.2), 0.2 + scale * (p.z - 0.2)});
            for (const auto& t : {std::array{0u, 2u, 1u}, std::array{0u, 1u, 3u}, std::array{0u, 3u, 2u},
                                  std::array{1u, 2u, 3u}})
                m.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
        };
        add(0, 1);
        add(0.6 - deep, -0.5); // mirrored: its corner at x looks to the first
        return m;
    };
    CHECK(test::MeshCrossings(pair(-0.4)).deepest(1e-9).depth == 0);
    const auto crossed = test::MeshCrossings(pair(0.1)).deepest(1e-9);
    CHECK(crossed.depth > 0.01);
    CHECK(crossed.depth < 0.21); // as far as the corner goes in, and as it lies off the border
    CHECK(crossed.count > 0);
}
