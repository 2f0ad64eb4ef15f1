#include "form/groove/groove.hpp"

#include "form/groove/section_points.hpp"
#include "form/reader.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr const char* shape_words[]{"rect", "round", "vee", "trapezium", "own"};

void require_between(double value, double least, double most, const char* what, const char* unit) {
    if (value >= least && value <= most) return;
    throw InputError("The " + std::string(what) + " of a groove is between " + number_text(least, 4) +
                     " and " + number_text(most, 4) + unit + "; " + number_text(value, 4) + unit +
                     " is not.");
}

// The section's corners, z from its middle and how far below the surface. Flanks that stand upright lean half a
// micrometre to the open side, since they would be no function of z, and the edges of a half-round by as much.
double lean_of(const ResolvedGroove& g) {
    return std::min(5e-4, g.width / 20);
}
std::vector<ProfilePoint> corners_of(const ResolvedGroove& g) {
    const double w = g.width / 2, h = g.depth;
    if (g.spec.shape == GrooveShape::vee) return {{-w, 0}, {0, -h}, {w, 0}};
    if (g.spec.shape == GrooveShape::round) return {{-w, 0}, {0, -std::min(h, w - lean_of(g))}, {w, 0}};
    const double b = g.bottom / 2 - (g.spec.shape == GrooveShape::rectangle ? lean_of(g) : 0);
    return {{-w, 0}, {-b, -h}, {b, -h}, {w, 0}};
}

// An arc that stands upright at an end, less bowed by half a micrometre, as a half-round is.
double leaning_bow(const OwnPoint& a, const OwnPoint& b) {
    const double chord = std::hypot(b.z - a.z, b.h - a.h), along = std::atan2(b.h - a.h, b.z - a.z),
                 half = 2 * std::atan(2 * a.bow / chord);
    const bool upright = std::min(std::abs(std::cos(along + half)), std::abs(std::cos(along - half))) < 1e-3;
    return !upright || a.bow == 0 ? a.bow
                                  : a.bow - std::copysign(std::min(5e-4, std::abs(a.bow) / 20), a.bow);
}

// One's own outline in units of the pitch, its middle at 0.
OwnSection own_of(const ResolvedGroove& g) {
    const std::vector<OwnPoint>& p = g.spec.points;
    OwnSection out{"groove", {}};
    const double k = 1 / in_mm(g.spec.pitch);
    for (std::size_t i = 0; i < p.size(); ++i) {
        const double bow = i + 1 < p.size() ? leaning_bow(p[i], p[i + 1]) : 0;
        out.points.push_back({(p[i].z - p.front().z - g.width / 2) * k, p[i].h * k, bow * k});
    }
    return out.points.size() == 2 ? with_point_after(std::move(out), 0) : out;
}

std::vector<GroovePoint> section_of(const ResolvedGroove& g) {
    if (g.spec.shape == GrooveShape::own) {
        // in a bore the outline is that of the groove too, so it is made outside and turned over
        const double d = in_mm(g.spec.diameter) / 2;
        std::vector<GroovePoint> out = groove_of(own_of(g), in_mm(g.spec.pitch), d, Side::external);
        if (g.spec.side == Side::internal)
            for (GroovePoint& q : out)
                q.r = 2 * d - q.r, q.centre_r = 2 * d - q.centre_r;
        return out;
    }
    // heights are the radius outside and minus the radius in a bore, where the groove lies lower all the same
    const double surface = (g.spec.side == Side::external ? 1 : -1) * in_mm(g.spec.diameter) / 2;
    const auto corners = corners_of(g);
    const double h = -corners[1].height, arc = (g.width * g.width / 4 + h * h) / (2 * h);
    std::vector<ProfilePiece> pieces;
    for (std::size_t i = 0; i + 1 < corners.size(); ++i) {
        ProfilePiece piece;
        piece.from = {corners[i].z, surface + corners[i].height};
        piece.to = {corners[i + 1].z, surface + corners[i + 1].height};
        if (g.spec.shape == GrooveShape::round) {
            piece.radius = arc;
            piece.centre = {0, surface - h + arc};
        }
        pieces.push_back(piece);
    }
    ProfilePiece land;
    land.from = {g.width / 2, surface};
    land.to = {in_mm(g.spec.pitch) - g.width / 2, surface};
    pieces.push_back(land);
    return groove_of(pieces, in_mm(g.spec.pitch), g.spec.side);
}

std::vector<ResolvedValue> values_of(const ResolvedGroove& g) {
    const GrooveSpec& s = g.spec;
    std::vector<ResolvedValue> out;
    const auto add = [&](const char* key, const char* label, ValueKind kind, double value,
                         std::string source) {
        out.push_back(valued(key, label, kind, value, std::move(source)));
    };
    const bool own = s.shape == GrooveShape::own;
    add("lead", "Lead", ValueKind::length, g.lead(), "starts × pitch");
    add("lead_angle", "Lead angle", ValueKind::angle, g.lead_angle, "tan γ = lead/(π·d)");
    if (s.shape == GrooveShape::vee) add("groove_width", "Width", ValueKind::length, g.width, "2·h·tan(α/2)");
    if (own) add("groove_width", "Width", ValueKind::length, g.width, "of its points");
    if (own || s.across || !s.depth)
        add("groove_depth", "Depth", ValueKind::length, g.depth,
            own        ? "of its points"
            : s.across ? (s.side == Side::external ? "(d − d across)/2" : "(d across − d)/2")
                       : "half-round, w/2");
    if (own || !s.across)
        add("across_grooves", "Across grooves", ValueKind::length, g.across,
            s.side == Side::external ? "d − 2·h" : "d + 2·h");
    if (s.shape == GrooveShape::round)
        add("arc_radius", "Radius", ValueKind::length, g.arc, "(w²/4 + h²)/(2·h)");
    if (s.shape == GrooveShape::trapezium)
        add("bottom_width", "Bottom", ValueKind::length, g.bottom, "w − 2·h·tan(α/2)");
    add("width_square", "Square to the groove", ValueKind::length, g.width * std::cos(g.lead_angle),
        "w·cos γ");
    add("land", "Land between", ValueKind::length, g.land(), "pitch − w");
    return out;
}

} // namespace

std::string_view word(GrooveShape shape) {
    return shape_words[static_cast<int>(shape)];
}

double milled_reach(const ThreadSection& s) {
    return s.groove_width() / 2 * std::cos(std::atan(s.lead() / (2 * pi * s.crest_radius))) + s.pitch / 20;
}

ResolvedGroove resolve_groove(const GrooveSpec& s) {
    ResolvedGroove g;
    g.spec = s;
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    require_between(d, 0.5, 2000, "diameter", " mm");
    require_between(p, 0.01, 5000, "pitch", " mm");
    if (s.starts < 1 || s.starts > most_groove_starts)
        throw InputError("A groove has 1 to " + std::to_string(most_groove_starts) + " starts.");
    if (s.shape == GrooveShape::vee || s.shape == GrooveShape::trapezium)
        require_between(s.angle * 180 / pi, s.shape == GrooveShape::vee ? 5 : 0.5, 170, "angle", "°");
    const double sign = s.side == Side::external ? -1 : 1; // of the bottoms, seen from the surface
    if (s.shape == GrooveShape::own) {
        require_groove(s.points);
        OwnSection outline{"groove", s.points};
        if (outline.points.size() == 2) outline = with_point_after(std::move(outline), 0);
        const OwnShape shape = shape_of(outline);
        g.depth = shape.depth;
        g.bottom = shape.root_flat;
        g.width = s.points.back().z - s.points.front().z;
    } else if (s.across) {
        g.depth = sign * (in_mm(*s.across) - d) / 2;
        if (!(g.depth >= 0.001))
            throw InputError("Across the grooves it is " + number_text(in_mm(*s.across), 4) +
                             " mm, which is not " + (s.side == Side::external ? "less" : "more") +
                             " than the diameter of " + number_text(d, 4) + " mm.");
    } else {
        g.depth = s.depth ? in_mm(*s.depth) : in_mm(s.width) / 2;
    }
    require_between(g.depth, 0.001, 500, "depth", " mm");
    const double tangent = std::tan(s.angle / 2);
    if (s.shape != GrooveShape::own)
        g.width = s.shape == GrooveShape::vee ? 2 * g.depth * tangent : in_mm(s.width);
    require_between(g.width, 0.001, 1000, "width", " mm");
    g.across = d + sign * 2 * g.depth;
    if (s.shape == GrooveShape::rectangle) g.bottom = g.width;
    if (s.shape == GrooveShape::trapezium) g.bottom = g.width - 2 * g.depth * tangent;
    if (s.shape == GrooveShape::round) {
        if (g.depth > g.width / 2 + 1e-9)
            throw InputError("A round groove is at most half as deep as it is wide, " +
                             number_text(g.width / 2, 4) + " mm; " + number_text(g.depth, 4) +
                             " mm would undercut its edges.");
        g.depth = std::min(g.depth, g.width / 2);
        g.arc = (g.width * g.width / 4 + g.depth * g.depth) / (2 * g.depth);
    }
    g.lead_angle = std::atan(g.lead() / (pi * d));
    ThreadSection& t = g.section;
    t.pitch = p;
    t.crest_radius = d / 2;
    t.root_radius = g.across / 2;
    t.pitch_radius = (t.crest_radius + t.root_radius) / 2;
    t.crest_flat = g.land();
    t.root_flat = std::max(0.0, g.bottom);
    t.starts = s.starts;
    t.hand = s.hand;
    t.side = s.side;
    const bool possible = g.land() >= 0.001 * p && g.across > 0.02 &&
                          (s.shape != GrooveShape::trapezium || g.bottom >= 0.001 * p);
    if (possible) t.groove = section_of(g);
    g.values = values_of(g);
    return g;
}

} // namespace whorl
