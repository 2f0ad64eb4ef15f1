#include "solid/skin/build_skin.hpp"

#include "solid/skin/axial_cut.hpp"
#include "solid/skin/bent_zones.hpp"
#include "solid/skin/cross_hole.hpp"
#include "solid/skin/face_track.hpp"
#include "solid/skin/tooth_zone.hpp"
#include "solid/skin/walls.hpp"
#include "solid/skin/web.hpp"
#include "solid/skin/zone_skin.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <concepts>
#include <numbers>

namespace whorl::solid {
namespace {

// A simplified thread or groove is the plain surface at its crest, a simplified knurl the one over its ridges.
ResolvedZone plain_instead(const ResolvedZone& zone) {
    ResolvedZone plain = zone;
    if (zone.knurl()) {
        plain.form = ResolvedPlain{};
        return plain;
    }
    const double crest = zone.swept()->crest_radius;
    plain.diameter = mm(2 * (crest + zone.taper() * in_mm(zone.start - zone.taper_from())));
    plain.far_diameter = mm(2 * (crest + zone.taper() * in_mm(zone.end() - zone.taper_from())));
    plain.form = ResolvedPlain{};
    for (ResolvedEnd* e : {&plain.near_end, &plain.far_end})
        if (e->ends_inside()) e->kind = EndKind::flat;
    return plain;
}

// The skin of each form; one that has none yet does not compile. Teeth and lobes around a zone are a
// ToothZone, and what is a piece of its own never comes here.
std::unique_ptr<ZoneSkin> skin_of(const ResolvedPlain&, const ResolvedZone& zone, std::size_t index) {
    if (zone.keyway()) return keyed_zone_skin(zone, index);
    return zone.outline() == Outline::round ? plain_zone_skin(zone, index) : prism_zone_skin(zone, index);
}
std::unique_ptr<ZoneSkin> skin_of(const ResolvedScrew&, const ResolvedZone& zone, std::size_t index) {
    // In a bore a thread's chamfer is a countersink. One that comes to the axis was asked for as a point.
    for (const ResolvedEnd* e : {&zone.near_end, &zone.far_end})
        if (zone.in_bore() && e->kind == EndKind::chamfer &&
            in_mm(e->diameter) <= std::max(0.02, 0.0101 * in_mm(zone.diameter)))
            throw CannotMake("A thread can't end in the drill's point itself; add a plain zone after it that "
                             "ends in a point, as 'blind M8 x 20' has it.",
                             index);
    return thread_zone_skin(zone, index);
}
std::unique_ptr<ZoneSkin> skin_of(const ResolvedKnurling&, const ResolvedZone& zone, std::size_t index) {
    return knurl_zone_skin(zone, index);
}
std::unique_ptr<ZoneSkin> skin_of(const ResolvedGrooving&, const ResolvedZone& zone, std::size_t index) {
    return thread_zone_skin(zone, index);
}
std::unique_ptr<ZoneSkin> skin_of(const ResolvedShape&, const ResolvedZone& zone, std::size_t index) {
    return silhouette_zone_skin(zone, index);
}
std::unique_ptr<ZoneSkin> skin_of(const ResolvedTrack&, const ResolvedZone& zone, std::size_t index) {
    return drum_zone_skin(zone, index);
}
std::unique_ptr<ZoneSkin> skin_of(const ResolvedElbow&, const ResolvedZone& zone, std::size_t index) {
    ResolvedZone plain = zone; // straightened
    plain.form = ResolvedPlain{};
    return plain_zone_skin(plain, index);
}
std::unique_ptr<ZoneSkin> skin_of(const ResolvedLobe& lobe, const ResolvedZone& zone, std::size_t index) {
    if (lobe.cam.outline.empty()) throw CannotMake("This cam can't be made; the checks say why.", index);
    return plain_zone_skin(disc_of(zone), index); // its groove is sunk in afterwards
}
template<class Form>
requires std::same_as<Form, ResolvedWheel> || std::same_as<Form, ResolvedSplining> ||
    std::same_as<Form, ResolvedBar> || std::same_as<Form, ResolvedSpring>
        std::unique_ptr<ZoneSkin> skin_of(const Form&, const ResolvedZone&, std::size_t) {
    throw std::logic_error("build_skin: this form is not made here");
}

std::unique_ptr<ZoneSkin> zone_skin(const ResolvedZone& zone, std::size_t index) {
    if (zone.simplified()) {
        const ResolvedZone plain = plain_instead(zone);
        if (std::min(in_mm(plain.diameter), in_mm(plain.far_diameter)) < 2e-3)
            throw CannotMake("The taper brings this zone to the axis; make the zone shorter.", index);
        return plain_zone_skin(plain, index);
    }
    return std::visit([&](const auto& form) { return skin_of(form, zone, index); }, zone.form);
}

// Of the circle that a dome, a rounded edge or a fillet stands on; without one, of the zone's end.
Length base_diameter(const ResolvedZone& zone, bool far) {
    const ResolvedEnd& e = far ? zone.far_end : zone.near_end;
    const Length own = far ? zone.far_diameter : zone.diameter,
                 other = far ? zone.diameter : zone.far_diameter;
    return e.is_edge() ? own + (other - own) * (in_mm(e.dome_height) / in_mm(zone.length)) : own;
}

// A zone without its domes: it ends where they begin, its groove where it was.
ResolvedZone without_domes(const ResolvedZone& zone, std::size_t index) {
    ResolvedZone out = zone;
    out.start += zone.near_end.dome_height;
    out.length = zone.length - zone.near_end.dome_height - zone.far_end.dome_height;
    out.diameter = base_diameter(zone, false);
    out.far_diameter = base_diameter(zone, true);
    if (zone.thread() && !zone.simplified()) {
        ThreadSection& s = std::get<ResolvedScrew>(out.form).thread.section;
        s.start_angle += (s.hand == Hand::left ? -1 : 1) * in_mm(zone.near_end.dome_height) * 2 *
                         std::numbers::pi / s.lead();
    }
    if (in_mm(out.length) < 1e-3)
        throw CannotMake("The rounded ends need " +
                             number_text(in_mm(zone.near_end.dome_height + zone.far_end.dome_height), 3) +
                             " mm but the zone is only " + number_text(in_mm(zone.length), 3) +
                             " mm long; make it longer or their radii larger.",
                         index);
    return out;
}

// A toothed zone in lengths in which its faces run no more than half a turn around, as others do: the helix's
// turning and, at the most, a tooth and its space.
std::vector<ResolvedZone> toothed_lengths(const ResolvedZone& zone) {
    const double twist = zone.gear()->twist * in_mm(zone.length);
    const int n = std::max(
        1, static_cast<int>(std::ceil(std::abs(twist) / (std::numbers::pi - zone.gear()->pitch_angle()))));
    std::vector<ResolvedZone> out;
    for (int k = 0; k < n; ++k) {
        ResolvedZone part = zone;
        part.length = zone.length * (1.0 / n);
        part.start = zone.start + zone.length * (static_cast<double>(k) / n);
        if (k > 0) std::get<ResolvedWheel>(part.form).turned += twist * k / n; // straight ones are one length
        out.push_back(std::move(part));
    }
    return out;
}

Dome dome_of(const ResolvedZone& zone, bool far) {
    const ResolvedEnd& e = far ? zone.far_end : zone.near_end;
    const double sign = zone.in_bore() ? -1 : 1;
    Dome d;
    d.tip = in_mm(far ? zone.end() : zone.start);
    d.base = d.tip + (far ? -1 : 1) * in_mm(e.dome_height);
    d.tip_radius = sign * in_mm(e.tip_diameter) / 2;
    d.base_radius = sign * in_mm(e.kind == EndKind::chamfer ? e.diameter : base_diameter(zone, far)) / 2;
    d.radius = in_mm(e.dome_radius);
    d.middle = sign * in_mm(e.arc_middle);
    return d;
}

// What stands before a zone's end: a dome, or the cylinder of a dog.
std::unique_ptr<ZoneSkin> cap_of(const ResolvedZone& zone, bool far, std::size_t index) {
    const ResolvedEnd& e = far ? zone.far_end : zone.near_end;
    if (!e.is_dog()) return dome_skin(dome_of(zone, far), index);
    ResolvedZone dog = zone;
    dog.form = ResolvedPlain{};
    dog.near_end = dog.far_end = {};
    dog.diameter = dog.far_diameter = e.tip_diameter;
    dog.start = far ? zone.end() - e.dome_height : zone.start;
    dog.length = e.dome_height;
    return plain_zone_skin(dog, index);
}

// A prism whose flats just touch a drum's edge leaves corners there that stand on its joints; a lobe that leaves
// the drum's own circle does so at no angle, and a joint just after that place is next to nothing off it.
void require_clear_of_drum(const ResolvedZone& a, const ResolvedZone& b, std::size_t index) {
    const ResolvedZone &drum = a.drum() ? a : b, &other = a.drum() ? b : a;
    if (!drum.drum()) return;
    const double radius = in_mm(drum.diameter) / 2;
    if (other.outline() != Outline::round && std::abs(in_mm(other.diameter) / 2 - radius) < 5e-4)
        throw CannotMake(
            "The neighbour is exactly as wide across its flats as the drum, so that they touch its edge in "
            "single points; make it narrower or wider, or put a plain zone between.",
            index);
    if (!other.lobe() || other.lobe()->spec.disc) return;
    for (const LobeCurve& l : other.lobe()->outline)
        if (l.curve.shape == CurveShape::circle && std::abs(l.curve.radius - radius) < 5e-4)
            throw CannotMake(
                "The lobe rests exactly on the drum's circle beside it and leaves it at no angle; make one "
                "of them a little wider, or put a plain zone between.",
                index);
}

// The rims at which a chain is open, as loops in rising θ.
struct Chain {
    RimEdges near, far;
};

// The skin of zones that follow each other. `open` ends get no flat face.
Chain add_chain(Skin& skin, const ResolvedPiece& piece, const std::vector<std::size_t>& indices,
                bool open_near, bool open_far) {
    struct Part {
        std::unique_ptr<ZoneSkin> skin; // one of the two
        std::unique_ptr<ToothZone> teeth;
        int zone;
        double start;
    };
    std::vector<Part> parts;
    double end = 0;
    for (const std::size_t i : indices) {
        const int index = static_cast<int>(i);
        end = in_mm(piece.zones[i].end());
        if (i != indices.front())
            require_clear_of_drum(piece.zones[*std::prev(std::find(indices.begin(), indices.end(), i))],
                                  piece.zones[i], i);
        for (const ResolvedZone& zone : bent_lengths(piece, i)) {
            const double start = in_mm(zone.start), near = in_mm(zone.near_end.dome_height),
                         far = in_mm(zone.far_end.dome_height), stop = in_mm(zone.end());
            if (zone.lobe() && !zone.lobe()->spec.disc) {
                parts.push_back({nullptr, std::make_unique<ToothZone>(zone, i), index, start});
                continue;
            }
            if (zone.gear()) {
                for (const ResolvedZone& part : toothed_lengths(zone))
                    parts.push_back(
                        {nullptr, std::make_unique<ToothZone>(part, i), index, in_mm(part.start)});
                continue;
            }
            if (zone.outline() != Outline::round) { // a ball cuts its corners only
                parts.push_back({zone_skin(zone, i), nullptr, index, start});
                continue;
            }
            if (zone.near_end.has_cap()) parts.push_back({cap_of(zone, false, i), nullptr, index, start});
            const bool domed = zone.near_end.has_cap() || zone.far_end.has_cap();
            parts.push_back(
                {zone_skin(domed ? without_domes(zone, i) : zone, i), nullptr, index, start + near});
            if (zone.far_end.has_cap()) parts.push_back({cap_of(zone, true, i), nullptr, index, stop - far});
        }
    }
    const std::size_t n = parts.size();
    std::vector<JoinedPlane> planes(n + 1);
    for (std::size_t plane = 0; plane <= n; ++plane) {
        Rim below, above;
        PlaneSide low, high;
        if (plane > 0) {
            const Part& p = parts[plane - 1];
            if (p.skin) below = p.skin->far_rim();
            low = {p.skin ? &below : nullptr, p.teeth.get(), p.zone};
        }
        if (plane < n) {
            const Part& p = parts[plane];
            if (p.skin) above = p.skin->near_rim();
            high = {p.skin ? &above : nullptr, p.teeth.get(), p.zone};
        }
        const double z = plane < n ? parts[plane].start : end;
        const bool open = plane < n ? plane == 0 && open_near : open_far;
        if (low.teeth || high.teeth) {
            planes[plane] = join_teeth(skin, z, low, high, open);
            continue;
        }
        Joined joined = join_rims(skin, z, low.rim, low.zone, high.rim, high.zone, open);
        planes[plane].below_rim = std::move(joined.below);
        planes[plane].above_rim = std::move(joined.above);
    }
    for (std::size_t i = 0; i < n; ++i)
        if (parts[i].teeth)
            parts[i].teeth->add_faces(skin, *planes[i].above_teeth, *planes[i + 1].below_teeth);
        else
            parts[i].skin->add_faces(skin, *planes[i].above_rim, *planes[i + 1].below_rim);
    const auto rim_of = [](const std::optional<RimEdges>& rim, const std::optional<ToothedRim>& teeth) {
        return teeth ? flattened(*teeth) : *rim;
    };
    return {rim_of(planes.front().above_rim, planes.front().above_teeth),
            rim_of(planes.back().below_rim, planes.back().below_teeth)};
}

// Cuts a bore's mouth into the piece's end face at z.
void open_mouth(Skin& skin, const RimEdges& mouth, const Offset& offset, double z, bool up) {
    for (Face& f : skin.faces) {
        if (f.kind != FaceKind::flat || f.role != FaceRole::end || f.bore != 0 || f.up != up ||
            std::abs(f.a - z) > 1e-9)
            continue;
        // the material lies outside the mouth: seen against the outward normal the hole runs clockwise
        std::vector<EdgeUse> hole;
        for (const int e : mouth.edge)
            hole.push_back({e + offset.edge, !up, 0});
        if (up) std::reverse(hole.begin(), hole.end());
        // both boundaries are sampled at each other's corners, see Join
        const int join = static_cast<int>(skin.joins.size());
        skin.joins.push_back({z, {}});
        f.loops.push_back(std::move(hole));
        for (const auto& loop : f.loops)
            for (const EdgeUse& u : loop) {
                Edge& e = skin.edges[static_cast<std::size_t>(u.edge)];
                e.join = join;
                skin.joins.back().theta.push_back(wrapped(e.begin.theta));
            }
        std::sort(skin.joins.back().theta.begin(), skin.joins.back().theta.end());
        return;
    }
    throw std::logic_error("build_skin: no end face for a bore's mouth");
}

// The bores, each a chain of zones in order of rising z. One from the near face that ends where one from the far face
// does is one bore with it: their bottoms would be a wall of no thickness.
std::vector<std::vector<std::size_t>> bores_of(const ResolvedPiece& piece) {
    std::vector<std::size_t> near = piece.chain(Where::near_bore), far = piece.chain(Where::far_bore);
    std::vector<std::vector<std::size_t>> out;
    if (!near.empty() && !far.empty()) {
        const ResolvedZone &last = piece.zones[near.back()], &first = piece.zones[far.front()];
        if (std::abs(in_mm(last.end() - first.start)) < 1e-9 && last.far_end.kind != EndKind::point &&
            first.near_end.kind != EndKind::point) {
            near.insert(near.end(), far.begin(), far.end());
            far.clear();
        }
    }
    for (auto* chain : {&near, &far})
        if (!chain->empty()) out.push_back(std::move(*chain));
    return out;
}

} // namespace

Skin build_skin(const ResolvedPiece& piece) {
    require_walls(piece);
    Skin skin;
    add_chain(skin, piece, piece.chain(Where::outer), false, false);
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        if (piece.zones[i].web) sink_web(skin, piece, i);
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        if (piece.zones[i].lobe() && piece.zones[i].lobe()->spec.disc) sink_track(skin, piece, i);
    const double whole = in_mm(piece.length());
    for (const std::vector<std::size_t>& indices : bores_of(piece)) {
        const double first = in_mm(piece.zones[indices.front()].start),
                     last = in_mm(piece.zones[indices.back()].end());
        const bool open_near = first < 1e-9;
        const bool open_far = last > whole - 1e-9;
        Skin bore;
        const Chain ends = add_chain(bore, piece, indices, open_near, open_far);
        reflect(bore);
        for (Face& f : bore.faces)
            f.bore = piece.zones[static_cast<std::size_t>(f.zone)].where == Where::near_bore ? 1 : 2;
        const Offset offset = append(skin, std::move(bore));
        if (open_near) open_mouth(skin, ends.near, offset, 0, false);
        if (open_far) open_mouth(skin, ends.far, offset, whole, true);
    }
    std::optional<double> towards;
    if (piece.bent()) {
        skin.way = piece.centreline();
        for (const BentPart& part : skin.way.parts())
            if (!part.straight()) {
                towards = part.towards;
                break;
            }
    }
    if (!cut_around(skin, towards, keep_clear_of(piece)))
        throw CannotMake(
            "The cross holes of this piece leave no place around it for the seams of its faces; turn "
            "them into fewer directions, or make them narrower.",
            0);
    if (piece.bent()) {
        mark_bends(skin);
        // As far as trying other orders shows, a receiver that cuts a solid tells the outside of each half by a line from
        // the first face it comes to, and loses a half where that line goes on through helicoids: elbows of 30° and 45°
        // in planes that leave the bend sideways. With a bore's steps first none is lost.
        std::stable_partition(skin.faces.begin(), skin.faces.end(), [](const Face& f) {
            return f.kind == FaceKind::flat && f.bore > 0 && f.role != FaceRole::end;
        });
    }
    drill_cross_holes(skin, piece);
    return skin;
}

Length shortest_for_ends(const ResolvedZone& zone) {
    if (zone.simplified()) return shortest_for_ends(plain_instead(zone));
    if (zone.silhouette()) return mm(0);
    double need = in_mm(zone.near_end.dome_height + zone.far_end.dome_height);
    if (zone.swept()) return mm(need + thread_zone_need(zone));
    for (const auto& [end, d] :
         {std::pair{&zone.near_end, zone.diameter}, std::pair{&zone.far_end, zone.far_diameter}}) {
        if (end->kind != EndKind::chamfer) continue;
        double r = in_mm(d) / 2;
        if (zone.outline() != Outline::round) {
            if (!zone.in_bore())
                r /= std::cos(std::numbers::pi / (zone.outline() == Outline::square ? 4 : 6));
        }
        const double beyond =
            zone.in_bore() ? std::abs(r - in_mm(end->diameter) / 2) : r - in_mm(end->diameter) / 2;
        need += std::max(0.0, beyond / std::tan(in_rad(end->angle)));
    }
    return mm(need);
}

} // namespace whorl::solid
