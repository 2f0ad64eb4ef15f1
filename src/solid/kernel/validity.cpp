// The kernel's validity check, face by face.
//
// The kernel can check a whole solid in parallel, but its results then share tables behind locks, and its
// tasks are runs of shapes in the order they were added. Here every face is checked by itself, with its
// wires, edges and vertices in its context, largest first, and then the shell and the solid: the same checks,
// in two thirds of the time on two cores, and they can be stopped between faces. Flat faces of very many edges have a
// check of their own (flat_face_check.hpp), since the kernel's grows with their square. tests/validity_test.cpp
// holds both against each other, on broken solids, too.
#include "solid/kernel/flat_face_check.hpp"
#include "solid/kernel/kernel_shape.hpp"
#include "solid/solid.hpp"

#include <BRepCheck_Analyzer.hxx>
#include <BRepCheck_ListOfStatus.hxx>
#include <BRepCheck_Shell.hxx>
#include <BRepCheck_Solid.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>

#include <algorithm>
#include <atomic>
#include <functional>
#include <thread>

namespace whorl::solid {
namespace {

struct LoadedFace {
    TopoDS_Face face;
    int edges = 0;
};

std::vector<LoadedFace> largest_first(const TopoDS_Solid& solid) {
    std::vector<LoadedFace> out;
    for (TopExp_Explorer f(solid, TopAbs_FACE); f.More(); f.Next()) {
        LoadedFace one{TopoDS::Face(f.Current()), 0};
        for (TopExp_Explorer e(one.face, TopAbs_EDGE); e.More(); e.Next())
            ++one.edges;
        out.push_back(std::move(one));
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const LoadedFace& a, const LoadedFace& b) { return a.edges > b.edges; });
    return out;
}

bool no_error(const BRepCheck_ListOfStatus& list) {
    return std::all_of(list.begin(), list.end(), [](BRepCheck_Status s) { return s == BRepCheck_NoError; });
}

bool closes(const TopoDS_Solid& solid) {
    for (TopExp_Explorer s(solid, TopAbs_SHELL); s.More(); s.Next()) {
        const Handle(BRepCheck_Shell) shell = new BRepCheck_Shell(TopoDS::Shell(s.Current()));
        if (!no_error(shell->Status()) || shell->Closed() != BRepCheck_NoError ||
            shell->Orientation() != BRepCheck_NoError)
            return false;
    }
    const Handle(BRepCheck_Solid) whole = new BRepCheck_Solid(solid);
    return no_error(whole->Status());
}

bool without_failure(const std::function<bool()>& check) {
    try {
        return check();
    } catch (const Standard_Failure&) {
        return false;
    }
}

} // namespace

bool is_valid(const Solid& solid, std::stop_token stop) {
    const TopoDS_Solid& shape = solid.shape().solid;
    const std::vector<LoadedFace> faces = largest_first(shape);
    if (faces.empty()) return false;
    std::atomic<std::size_t> next = 0;
    std::atomic<bool> valid = true;
    const auto work = [&] {
        for (std::size_t i = next++; i < faces.size() && valid && !stop.stop_requested(); i = next++)
            if (!without_failure([&] {
                    const TopoDS_Face& face = faces[i].face;
                    return faces[i].edges >= many_edges && is_plane(face)
                               ? flat_face_is_valid(face)
                               : BRepCheck_Analyzer(face, true).IsValid();
                }))
                valid = false;
    };
    {
        std::vector<std::jthread> helpers;
        const unsigned threads = std::clamp(std::thread::hardware_concurrency(), 1u, 8u);
        for (unsigned i = 1; i < threads && i < faces.size(); ++i)
            helpers.emplace_back(work);
        work();
        if (valid && !stop.stop_requested() && !without_failure([&] { return closes(shape); })) valid = false;
    }
    return valid;
}

} // namespace whorl::solid
