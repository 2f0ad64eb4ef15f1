#include "drawing/draft.hpp"

#include "drawing/forms/form_drawing.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::drawing {
namespace {

Direction3 cross(const Direction3& a, const Direction3& b) {
    return {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
}

Gaze gaze_of(const ResolvedPiece& piece) {
    Gaze g;
    const auto seen_with = [&](Direction3 up) {
        g.up = up;
        g.towards = cross(g.right, g.up);
    };
    for (const ResolvedZone& z : piece.zones)
        if (z.rack() || z.outline() == Outline::flat) seen_with({1, 0, 0});
    if (piece.bent()) { // square to its first bend's plane
        const BentLine way = piece.centreline();
        for (const BentPart& b : way.parts())
            if (!b.straight()) {
                g.right = b.begin.t;
                Direction3 up;
                for (std::size_t k = 0; k < 3; ++k)
                    up[k] = std::cos(b.towards) * b.begin.x[k] + std::sin(b.towards) * b.begin.y[k];
                seen_with(up);
                break;
            }
    }
    return g;
}

Sectioned sectioned_of(const ResolvedPiece& piece) {
    bool bored = false, says_more_outside = false;
    for (const ResolvedZone& z : piece.zones) {
        bored = bored || z.in_bore();
        if (!z.in_bore())
            says_more_outside =
                says_more_outside || z.thread() || z.knurl() || z.outline() != Outline::round || z.spline();
    }
    for (const ResolvedZone& z : piece.zones) // webs and face tracks are seen in the section alone
        if (z.web || z.drum() || (z.lobe() && z.lobe()->spec.disc)) bored = true;
    if (!bored) return Sectioned::no;
    if (piece.bent() || !says_more_outside) return Sectioned::whole;
    double bored_length = 0;
    for (const ResolvedZone& z : piece.zones)
        if (z.in_bore()) bored_length += in_mm(z.length);
    for (const ResolvedZone& z : piece.zones)
        if (z.web) return Sectioned::whole;
    return bored_length < 0.6 * in_mm(piece.length()) ? Sectioned::broken : Sectioned::half;
}

// Where the bores of either end are, and a little beyond.
std::vector<Stretch> broken_of(const ResolvedPiece& piece) {
    const double length = in_mm(piece.length());
    double near = 0, far = length;
    for (const ResolvedZone& z : piece.zones) {
        const double beyond = 0.35 * in_mm(z.largest_radius()) + 0.03 * length;
        if (z.where == Where::near_bore) near = std::max(near, in_mm(z.end()) + beyond);
        if (z.where == Where::far_bore) far = std::min(far, in_mm(z.start) - beyond);
    }
    std::vector<Stretch> out;
    if (near > 0) out.push_back({-1, near});
    if (far < length) out.push_back({far, length + 1});
    return out;
}

struct Model {
    solid::Mesh mesh;
    solid::Shading shading;
};

Model model_of(const ResolvedPiece& piece, double chord) {
    const solid::Body body = solid::make_body(piece);
    Model out{body.mesh(chord), {}};
    out.shading = body.shading(out.mesh);
    return out;
}

} // namespace

bool Draft::axial() const {
    return !piece.bent();
}

Draft make_draft(const ResolvedPiece& piece, std::size_t index, const DraftOptions& options) {
    Draft d{.piece = piece, .drawn = piece, .index = index, .unit = options.unit};
    d.gaze = gaze_of(piece);
    d.sectioned = options.section == "none"    ? Sectioned::no
                  : options.section == "half"  ? Sectioned::half
                  : options.section == "whole" ? Sectioned::whole
                                               : sectioned_of(piece);
    if (d.sectioned == Sectioned::half && piece.bent())
        d.sectioned = Sectioned::whole; // it has no straight axis
    d.true_form = options.true_form;
    if (d.sectioned == Sectioned::broken) d.broken = broken_of(piece);
    ResolvedPiece core = piece;
    bool teeth = false;
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        const ResolvedZone& z = piece.zones[i];
        const FormDrawing& f = drawing_of(z);
        if (options.details == "all" ? z.swept() != nullptr
                                     : options.details.empty() && f.enlarged && f.enlarged(z))
            d.enlarged.push_back(i);
        if (!f.simplify || options.true_form) continue;
        f.simplify(d.drawn.zones[i], false);
        f.simplify(core.zones[i], true);
        teeth = teeth || z.gear();
        if (f.simplified)
            if (std::string s = f.simplified(z);
                std::find(d.notes.begin(), d.notes.end(), s) == d.notes.end())
                d.notes.push_back(std::move(s));
    }
    const double size = std::max(2 * in_mm(piece.largest_radius()), in_mm(piece.length()));
    d.chord =
        std::clamp(size * 2.5e-4, 0.001, 0.05); // well below a line on paper, curves go through its points
    const Model model = model_of(d.drawn, d.chord);
    if (d.sectioned != Sectioned::whole)
        d.side = see(model.mesh, model.shading, {.gaze = d.gaze, .hidden = options.hidden, .chord = d.chord});
    if (d.sectioned != Sectioned::no) {
        d.cut = see(model.mesh, model.shading, {.gaze = d.gaze, .cut = true, .chord = d.chord});
        d.hatched = d.cut.cut;
        if (teeth) {
            const Model bare = model_of(core, d.chord);
            d.hatched = see(bare.mesh, bare.shading, {.gaze = d.gaze, .cut = true, .chord = d.chord}).cut;
        }
    }
    bool near = false, far = false;
    for (const ResolvedZone& z : piece.zones) {
        const FormDrawing& f = drawing_of(z);
        if (!f.from_end || !f.from_end(z)) continue;
        // of outer zones the end is taken that shows them
        (z.where == Where::far_bore || (!z.in_bore() && z.start + z.length * 0.5 > piece.length() * 0.5)
             ? far
             : near) = true;
    }
    if (d.axial() && (near || far)) {
        d.end_is_near = near || !far;
        d.end = see(model.mesh, model.shading, {.gaze = from_end(d.gaze, d.end_is_near), .chord = d.chord});
    }
    d.dimensions = dimensions_of(piece, index, options.unit, d.sectioned != Sectioned::no);
    return d;
}

} // namespace whorl::drawing
