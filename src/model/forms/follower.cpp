#include "model/forms/follower.hpp"

#include "model/forms/common_rows.hpp"
#include "model/ready_zone.hpp"
#include "model/resolve_zone.hpp"

#include <cmath>
#include <numbers>

namespace whorl {
namespace {

Length up_to(double millimetres, double step = 0.5) {
    return mm(std::ceil(millimetres / step - 1e-9) * step);
}

// A roller runs on a pin of less than half its diameter.
void add_pin_bore(Piece& p, Length roller) {
    const double bore = std::max(0.1 * in_mm(roller), std::floor(0.4 * in_mm(roller) * 2) / 2);
    Zone z = plain(mm(bore), mm(1));
    z.where = Where::near_bore;
    z.length = {"", {}}; // through
    p.zones.push_back(z);
}

// What a flat face must be across, so that the touching point stays on it, and on the whole width of the
// lobe.
Length face_across(const ResolvedCam& cam, double width) {
    return up_to(std::hypot(2 * cam.face_reach + 2, width));
}
Length mushroom_across(const ResolvedCam& cam, double width) {
    const double radius = in_mm(cam.spec.size),
                 leaning = radius * std::sin(std::min(1.5, cam.max_pressure_angle));
    return mm(std::min(1.9 * radius, std::ceil(std::hypot(2 * leaning + 2, width))));
}

Number in_the_unit(Length l, LengthUnit unit) {
    return {exact_number(l, unit), unit};
}

} // namespace

Piece follower_piece(const ResolvedZone& cam, LengthUnit unit) {
    Piece p;
    p.finish = "steel";
    if (const ResolvedDrum* d = cam.drum()) {
        if (d->trouble != DrumTrouble::none)
            throw InputError("Nothing follows a drum cam that can't be made; the checks say why.");
        if (d->is_line())
            throw InputError("Nothing runs on a line that is only scored; a groove has a roller.");
        if (d->is_rib())
            throw InputError(
                "A rib runs between two rollers, whose size it does not say; only a groove's roller "
                "follows from it.");
        Zone roller = plain(d->spec.width, up_to(in_mm(d->spec.depth) + in_mm(d->spec.width) / 2));
        roller.form.emplace<PlainForm>().diameter = in_the_unit(d->spec.width, unit);
        p.name = "Roller";
        p.zones = {roller};
        add_pin_bore(p, d->spec.width);
        return p;
    }
    const ResolvedCam& c = *cam.lobe();
    if (c.outline.empty()) throw InputError("Nothing follows a cam that can't be made; the checks say why.");
    const double width = in_mm(cam.length), stem = std::max(1.0, std::round(0.3 * in_mm(c.spec.base_radius)));
    const Length long_enough = up_to(1.5 * (c.motion.highest - c.motion.lowest) + 2 * stem, 1);
    switch (c.spec.follower) {
    case FollowerKind::roller: {
        // in a groove it stands out of the disc's face
        Zone roller =
            plain(c.spec.size,
                  c.spec.disc ? up_to(in_mm(c.spec.groove_depth) + in_mm(c.spec.size) / 2) : cam.length);
        roller.form.emplace<PlainForm>().diameter = in_the_unit(c.spec.size, unit);
        p.name = "Roller";
        p.zones = {roller};
        add_pin_bore(p, c.spec.size);
        return p;
    }
    case FollowerKind::knife: {
        Zone pin = plain(mm(stem), long_enough);
        pin.near_end = point(30);
        p.name = "Pointed pin";
        p.zones = {pin};
        return p;
    }
    case FollowerKind::flat:
        p.name = "Flat tappet";
        p.zones = {plain(face_across(c, width), mm(std::max(1.0, stem / 2))), plain(mm(stem), long_enough)};
        return p;
    case FollowerKind::mushroom: {
        const Length across = mushroom_across(c, width);
        const double r = in_mm(c.spec.size), dome = r - std::sqrt(r * r - in_mm(across) * in_mm(across) / 4);
        Zone head = plain(across, up_to(dome + std::max(1.0, stem / 2)));
        head.near_end.kind = EndKind::rounded;
        head.near_end.radius = in_the_unit(c.spec.size, unit);
        p.name = "Mushroom tappet";
        p.zones = {head};
        if (stem < in_mm(across)) p.zones.push_back(plain(mm(stem), long_enough));
        return p;
    }
    }
    return p;
}

bool can_follow_cam(const Zone& zone) {
    const PlainForm* plain = zone.as<PlainForm>();
    return plain && plain->outline == Outline::round && !zone.in_bore();
}

void follow_cam(Zone& follower, const Zone& cam, const Job& job) {
    PlainForm& to = *follower.as<PlainForm>();
    if (const DrumForm* d = cam.as<DrumForm>()) {
        to.diameter = d->width;
        return;
    }
    const LobeForm& l = *cam.as<LobeForm>();
    if (!l.conjugate.text.empty()) return; // of a second lobe nothing is said but by the first
    if (l.follower == FollowerKind::roller) {
        to.diameter = l.roller;
        if (l.disc.text.empty()) follower.length = cam.length;
        return;
    }
    if (l.follower == FollowerKind::mushroom && follower.near_end.kind == EndKind::rounded)
        follower.near_end.radius = l.face_radius;
    if (l.follower != FollowerKind::flat) return;
    try { // the lobe alone says how wide the face must be
        Piece alone;
        alone.zones = {cam};
        const ResolvedPiece r = resolve_piece(alone, resolve_names(job));
        if (const ResolvedCam* c = r.zones[0].lobe(); c && !c->outline.empty())
            to.diameter = in_the_unit(face_across(*c, in_mm(r.zones[0].length)), LengthUnit::millimetre);
    } catch (const InputError&) {
        // what does not resolve is refused with its own sentence
    }
}

Job add_follower(const Job& before, ZoneRef ref) {
    Job job = before;
    const Piece& cam = job.pieces.at(ref.piece);
    const ResolvedPiece resolved = resolve_piece(cam, resolve_names(job));
    Piece made = follower_piece(resolved.zones.at(ref.zone), job.unit);
    made.name = (made.name + " for " + cam.name).substr(0, 80);
    job.pieces.push_back(std::move(made));
    job.pairs.push_back({ref, {job.pieces.size() - 1, 0}, true, {}});
    return job;
}

Standing follower_standing(const ResolvedZone& cam, double theta) {
    const double start = in_mm(cam.start);
    if (const ResolvedDrum* d = cam.drum()) {
        const double at = d->spec.at, co = std::cos(at), si = std::sin(at);
        const double turn = d->motion.wrapped(theta);
        const TrackPath p = path_at(*d, d->motion.part_at(turn), (d->spec.clockwise ? 1 : -1) * turn);
        // on the groove's bottom; beside the axis by y where it swings
        const double y = p.y.c[0], h = std::sqrt(d->other_radius * d->other_radius - y * y);
        return {{-si, co, 0}, {0, 0, 1}, {co, si, 0}, {h * co - y * si, h * si + y * co, start + p.z.c[0]}};
    }
    const ResolvedCam& c = *cam.lobe();
    const FollowerPlace f = follower_at(c.spec, c.motion, theta);
    const double at = c.spec.at, co = std::cos(at), si = std::sin(at);
    const auto turned = [&](double x, double y) { return std::array{x * co - y * si, x * si + y * co}; };
    if (c.spec.follower == FollowerKind::roller) {
        const auto [x, y] = turned(f.centre.x, f.centre.y);
        // in a groove it begins on the bottom and stands out of the near face
        if (c.spec.disc)
            return {{1, 0, 0}, {0, -1, 0}, {0, 0, -1}, {x, y, start + in_mm(c.spec.groove_depth)}};
        return {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {x, y, start}};
    }
    // outwards along its way; it begins at its face or its point
    const double normal = std::atan2(f.normal.y, f.normal.x),
                 way = normal - f.pressure_angle * (c.spec.clockwise ? -1 : 1);
    const double back = roller_radius(c.spec); // of a dome, whose middle is the reference
    const auto [wx, wy] = turned(std::cos(way), std::sin(way));
    const auto [x, y] = turned(f.centre.x - back * std::cos(way), f.centre.y - back * std::sin(way));
    return {{0, 0, 1}, {wy, -wx, 0}, {wx, wy, 0}, {x, y, start + in_mm(cam.length) / 2}};
}

} // namespace whorl
