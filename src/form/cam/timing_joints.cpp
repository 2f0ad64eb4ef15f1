#include "form/cam/timing.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

constexpr double least_angle = std::numbers::pi / 180; // of a stretch

struct Span {
    double from = 0, to = 0, begin = 0, end = 0; // rad, mm
    bool there = false;
};

// Where each stretch lies in the turn and what lifts it leads from and to.
std::vector<Span> spans_of(const Timing& timing) {
    const Motion motion = motion_of(timing);
    std::vector<Span> out(timing.stretches.size());
    for (std::size_t i = 0; i < motion.parts.size(); ++i) {
        const MotionPart& part = motion.parts[i];
        if (part.stretch >= out.size()) continue;
        Span& s = out[part.stretch];
        if (!s.there) {
            s.from = part.from;
            s.begin = motion_at(part, part.from)[0];
            s.there = true;
        }
        s.to = part.to;
        s.end = motion_at(part, part.to)[0];
    }
    return out;
}

bool moves(const CamStretch& s) {
    return s.kind != CamStretch::dwell;
}

// Lets a stretch end `by` higher (mm), where its lift is said.
void raise_end(CamStretch& s, double by) {
    if (!s.lift) return;
    *s.lift += s.kind == CamStretch::back ? -by : by;
}

// A lift that would go the other way makes a rise a return.
void keep_way(CamStretch& s) {
    if (s.kind != CamStretch::rise && s.kind != CamStretch::back) return;
    if (!s.lift || *s.lift >= 0) return;
    s.kind = s.kind == CamStretch::rise ? CamStretch::back : CamStretch::rise;
    s.lift = -*s.lift;
}

// The words of a stretch with another law at their end.
std::string with_law(std::string item, Law law) {
    const std::size_t gap = item.find_last_of(' ');
    for (int k = 0; k < law_count && gap != std::string::npos; ++k)
        if (item.substr(gap + 1) == word(static_cast<Law>(k))) {
            item.resize(gap);
            break;
        }
    return item + " " + std::string(word(law));
}

} // namespace

std::string with_changes(std::string_view text, const Timing& was, const Timing& now, LengthUnit unit) {
    std::string out(text);
    const std::vector<std::string> items = timing_items(text);
    const std::size_t n = std::max(was.stretches.size(), now.stretches.size());
    for (std::size_t i = n; i-- > 0;) { // from the end: what is taken out renumbers what follows
        if (i >= now.stretches.size()) {
            out = with_timing_item(out, i, "");
            continue;
        }
        const CamStretch& stretch = now.stretches[i];
        if (i < was.stretches.size() && stretch == was.stretches[i]) continue;
        if (i >= was.stretches.size()) continue; // added below, in order
        CamStretch other_law = was.stretches[i];
        other_law.law = stretch.law;
        out = with_timing_item(out, i,
                               other_law == stretch && i < items.size() ? with_law(items[i], stretch.law)
                                                                        : write_timing({{stretch}}, unit));
    }
    for (std::size_t i = was.stretches.size(); i < now.stretches.size(); ++i)
        out = with_timing_item(out, i, write_timing({{now.stretches[i]}}, unit));
    return out;
}

std::vector<PlacedJoint> joints_of(const Timing& timing) {
    std::vector<PlacedJoint> out;
    const std::vector<Span> spans = spans_of(timing);
    for (std::size_t i = 0; i < spans.size(); ++i) {
        if (!spans[i].there) continue;
        const auto& through = timing.stretches[i].through;
        for (std::size_t k = 0; k < through.size(); ++k)
            out.push_back({i, k, spans[i].from + through[k].angle, through[k].lift});
        if (i + 1 < spans.size()) out.push_back({i, {}, spans[i].to, spans[i].end});
    }
    return out;
}

Timing with_joint(const Timing& timing, const PlacedJoint& joint, double angle, double lift) {
    Timing out = timing;
    const std::vector<Span> spans = spans_of(timing);
    const std::size_t i = joint.stretch;
    if (i >= spans.size() || !spans[i].there) return out;
    CamStretch& here = out.stretches[i];
    if (joint.point) {
        const auto& was = timing.stretches[i].through;
        const double before = *joint.point > 0 ? was[*joint.point - 1].angle : 0,
                     after = *joint.point + 1 < was.size() ? was[*joint.point + 1].angle
                                                           : spans[i].to - spans[i].from;
        TimedPoint& p = here.through[*joint.point];
        const double room = std::min(least_angle, (after - before) / 4);
        p.angle = std::clamp(angle - spans[i].from, before + room, after - room);
        p.lift = lift;
        return out;
    }
    if (i + 1 >= spans.size()) return out;
    CamStretch& next = out.stretches[i + 1];
    const double low = spans[i].from + least_angle, high = spans[i + 1].to - least_angle;
    if (low < high && here.through.empty() && next.through.empty()) {
        const double at = std::clamp(angle, low, high);
        if (at != joint.angle) {
            if (here.angle) here.angle = at - spans[i].from;
            if (next.angle) next.angle = spans[i + 1].to - at;
        }
    }
    // the stretch that leads to this level, and the one that leaves it
    std::size_t to = i, off = i + 1;
    while (to > 0 && !moves(out.stretches[to]))
        --to;
    while (off < out.stretches.size() && !moves(out.stretches[off]))
        ++off;
    const double by = lift - joint.lift;
    if (by == 0 || !moves(out.stretches[to]) || !out.stretches[to].lift || off == out.stretches.size())
        return out;
    raise_end(out.stretches[to], by);
    keep_way(out.stretches[to]);
    if (out.stretches[off].kind == CamStretch::spline) return out; // says where it ends
    raise_end(out.stretches[off], -by);
    keep_way(out.stretches[off]);
    return out;
}

} // namespace whorl
