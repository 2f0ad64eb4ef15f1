#include "model/forms/knurl.hpp"

#include "model/number_json.hpp"
#include "model/ready_zone.hpp"

#include "model/forms/common_rows.hpp"
#include "model/resolve_zone.hpp"

#include <cmath>

namespace whorl {
namespace {

const KnurlForm& knurl(const Zone& z) {
    return std::get<KnurlForm>(z.form);
}
KnurlForm& knurl(Zone& z) {
    return std::get<KnurlForm>(z.form);
}
const ResolvedKnurl& knurl(const ResolvedZone& z) {
    return *z.knurl();
}

// What a kind is called, sunk or not.
struct KindWords {
    KnurlKind kind;
    bool sunk;
    std::string text;
};
const std::vector<KindWords>& kinds() {
    static const std::vector<KindWords> all = [] {
        std::vector<KindWords> out;
        for (int i = 0; i < knurl_kind_count; ++i) {
            const auto kind = static_cast<KnurlKind>(i);
            out.push_back({kind, false, std::string(word(kind))});
            if (is_crossed(kind)) out.push_back({kind, true, std::string(word(kind)) + " sunk"});
        }
        return out;
    }();
    return all;
}

Row kind_row() {
    return {.field = field::knurl,
            .label = "Knurl",
            .tip =
                "Along the axis, in rings, aslant to either hand, or crossed with its points raised or sunk",
            .of = "a knurl",
            .kind = RowKind::choice,
            .get =
                [](const Zone& z, const Reading&) {
                    return std::string(word(knurl(z).kind)) + (knurl(z).sunk ? " sunk" : "");
                },
            .set =
                [](Zone& z, const Typed& t) {
                    std::string known;
                    for (const KindWords& k : kinds()) {
                        known += (known.empty() ? "" : ", ") + k.text;
                        if (t.lowered() != k.text) continue;
                        knurl(z).kind = k.kind;
                        knurl(z).sunk = k.sunk;
                        return;
                    }
                    t.refuse("There is no such knurl; there are " + known + ".");
                },
            .choices =
                [](const ResolvedZone&) {
                    Words all;
                    for (const KindWords& k : kinds())
                        all.push_back(k.text);
                    return all;
                },
            .kept = {.key = "kind",
                     .save =
                         [](const Zone& z, nlohmann::ordered_json& to) {
                             put_text(to, "kind", word(knurl(z).kind));
                             if (knurl(z).sunk) put_true(to, "sunk");
                         },
                     .load =
                         [](Zone& z, const nlohmann::json& from) {
                             for (int i = 0; i < knurl_kind_count; ++i)
                                 if (text_at(from, "kind", "axial") == word(static_cast<KnurlKind>(i)))
                                     knurl(z).kind = static_cast<KnurlKind>(i);
                             knurl(z).sunk = true_at(from, "sunk");
                         }}};
}

} // namespace

std::span<const Row> FormModel<KnurlForm>::rows() {
    static const Row rows[]{
        kind_row(),
        diameter_row(member<&KnurlForm::diameter>, "Over the ridges, after knurling"),
        {.field = field::knurl_pitch,
         .label = "Pitch",
         .tip = "Square to the grooves, DIN 82; the count that closes is taken. Typed, the teeth follow",
         .of = "a knurl",
         .kind = RowKind::length,
         .number = member<&KnurlForm::pitch>,
         .set =
             [](Zone& z, const Typed& t) {
                 set_length(knurl(z).pitch, t);
                 if (!t.text.empty()) knurl(z).teeth = {};
             },
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading& as) {
                 const ResolvedKnurl& k = knurl(r);
                 // what closes stands below, among what follows
                 return k.spec.teeth ? Shown{"follows, " + shown_length(k.pitch, as.unit), symbol(as.unit)}
                                     : length_shown(in_mm(k.spec.pitch), as.unit);
             },
         .kept = {.key = "pitch"}},
        {.field = field::knurl_teeth,
         .label = "Teeth",
         .tip = "Around the zone; typed, the pitch follows",
         .of = "a knurl with grooves along it",
         .kind = RowKind::count,
         .number = member<&KnurlForm::teeth>,
         .set =
             [](Zone& z, const Typed& t) {
                 if (!t.text.empty()) (void)evaluate_number(t.text, t.names);
                 knurl(z).teeth = t.number();
                 if (!t.text.empty()) knurl(z).pitch = {};
             },
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading&) {
                 return Shown{(knurl(r).spec.teeth ? "" : "follows, ") + std::to_string(knurl(r).teeth)};
             },
         .applies = [](const Zone& z) { return knurl(z).kind != KnurlKind::ring; },
         .kept = {.key = "teeth"}},
        {.field = field::knurl_depth,
         .label = "Depth",
         .tip = "Of the grooves; the profile angle follows. Clear it for sharp grooves of the profile angle",
         .of = "a knurl",
         .kind = RowKind::length,
         .number = member<&KnurlForm::depth>,
         .set =
             [](Zone& z, const Typed& t) {
                 set_length(knurl(z).depth, t);
                 if (!t.text.empty()) knurl(z).profile_angle = {};
             },
         .usual = "follows from the profile",
         .kept = {.key = "depth"}},
        {.field = field::profile_angle,
         .label = "Profile angle",
         .tip = "Of the grooves, 90° by DIN 82; typed, the depth follows",
         .of = "a knurl",
         .kind = RowKind::angle,
         .number = member<&KnurlForm::profile_angle>,
         .set =
             [](Zone& z, const Typed& t) {
                 set_angle(knurl(z).profile_angle, t);
                 if (!t.text.empty()) knurl(z).depth = {};
             },
         .usual = "90",
         .kept = {.key = "profile_angle"}},
        geometry_row<&KnurlForm::simplified>(
            "The real knurl, or the plain surface over its ridges; exports say which"),
        {.field = field::hand, // the kind says it; Ctrl+H flips it
         .label = "Hand",
         .tip = "Of the slanting grooves",
         .of = "a thread, helical teeth, a slanting knurl or a coil",
         .kind = RowKind::choice,
         .choice = {hand_words, [](const Zone& z) { return std::size_t{knurl(z).kind == KnurlKind::left}; },
                    [](Zone& z, std::size_t at) {
                        knurl(z).kind = at == 1 ? KnurlKind::left : KnurlKind::right;
                    }},
         .applies =
             [](const Zone& z) {
                 return knurl(z).kind == KnurlKind::left || knurl(z).kind == KnurlKind::right;
             },
         .hidden = [](const ResolvedZone&) { return true; }},
        length_row("Length", "Length of the zone, its ends included", "a zone"),
        zone_finish_row(),
        follows_row(),
        repeat_row(),
        near_end_row(),
        far_end_row()};
    return rows;
}

void FormModel<KnurlForm>::save(const Zone&, nlohmann::ordered_json&) {}
void FormModel<KnurlForm>::load(Zone&, const nlohmann::json&) {}

std::string FormModel<KnurlForm>::what(const Zone& z) {
    return std::string("a knurl") + (z.in_bore() ? " in a bore" : "");
}

namespace {
KnurlSpec knurl_spec(const Zone& z, const std::string& place, const Names& names) {
    const KnurlForm& f = knurl(z);
    KnurlSpec s;
    s.kind = f.kind;
    s.sunk = f.sunk;
    s.diameter = at(place + "knurl.diameter", [&] { return length_in_range(f.diameter, names, "diameter"); });
    if (f.pitch.text.empty() && (f.teeth.text.empty() || f.kind == KnurlKind::ring))
        throw JobError(InputError(f.kind == KnurlKind::ring
                                      ? "A ring knurl needs its pitch, such as 1; type that first."
                                      : "A knurl needs its pitch, such as 1, or its teeth, such as 60."),
                       place + "knurl.pitch");
    if (!f.pitch.text.empty())
        s.pitch = at(place + "knurl.pitch", [&] { return resolve_length(f.pitch, names); });
    if (!f.teeth.text.empty() && f.kind != KnurlKind::ring)
        s.teeth = at(place + "knurl.teeth", [&] {
            const double n = evaluate_number(f.teeth.text, names);
            if (!(n >= 1 && n <= most_knurl_teeth) || n != std::round(n))
                throw InputError("The teeth of a knurl are a whole number up to " +
                                     std::to_string(most_knurl_teeth) + ".",
                                 0, f.teeth.text.size());
            return static_cast<int>(n);
        });
    if (!f.depth.text.empty())
        s.depth = at(place + "knurl.depth", [&] { return resolve_length(f.depth, names); });
    if (!f.profile_angle.text.empty())
        s.profile_angle = at(place + "knurl.profile_angle",
                             [&] { return in_rad(evaluate_angle(f.profile_angle.text, names)); });
    return s;
}
} // namespace

std::string FormModel<KnurlForm>::designation(const Zone& z, const Job& job, const Names& names) {
    return write_knurl(knurl_spec(z, {}, names), resolve_length(z.length, names), job.unit);
}

void FormModel<KnurlForm>::resolve(ZoneInPiece& where) {
    if (where.zone.in_bore())
        throw JobError(InputError("A knurl stands on the outside of a piece, not in a bore."),
                       where.place + "knurl");
    require_ends(where, {EndKind::flat, EndKind::chamfer}, "A knurl ends flat or in a chamfer.");
    const KnurlSpec s = knurl_spec(where.zone, where.place, where.names);
    ResolvedKnurling out{at(where.place + "knurl", [&] { return resolve_knurl(s); }),
                         knurl(where.zone).simplified};
    where.out.diameter = where.out.far_diameter = s.diameter;
    where.out.form = std::move(out);
}

Radii FormModel<KnurlForm>::radii(const ResolvedZone& z) {
    return {z.simplified() ? knurl(z).radius : knurl(z).root(), knurl(z).radius};
}

void FormModel<KnurlForm>::keep(Zone& now, const Zone& was) {
    if (const auto* old = was.as<KnurlForm>()) {
        knurl(now).simplified = old->simplified;
        now.near_end = was.near_end;
        now.far_end = was.far_end;
    }
}

Job FormModel<KnurlForm>::counterpart(const Job&, ZoneRef) {
    throw InputError("Only a threaded or toothed zone has a counterpart; this one is knurled.");
}

// With both ends chamfered below the grooves, so that they run out freely.
Zone zone_asked(const KnurlSpec& s, const Designation& whole) {
    const auto length = [&](Length l) { return Number{exact_number(l, whole.unit), whole.unit}; };
    KnurlForm f;
    f.kind = s.kind;
    f.sunk = s.sunk;
    f.diameter = length(s.diameter);
    f.pitch = s.teeth ? Number{} : length(s.pitch);
    if (s.teeth) f.teeth = {std::to_string(*s.teeth), {}};
    if (s.depth) f.depth = length(*s.depth);
    if (s.profile_angle > 0) f.profile_angle = {number_text(in_deg(rad(s.profile_angle)), 9), {}};
    Zone z;
    z.length = length(whole.length.value_or(s.diameter));
    z.near_end = z.far_end = chamfer(45);
    z.form = std::move(f);
    return z;
}

Piece piece_asked(const KnurlSpec& s, const Designation& d) {
    Piece p;
    p.name = write_knurl(s, d.length, d.unit);
    p.zones = {zone_asked(s, d)};
    return p;
}

} // namespace whorl
