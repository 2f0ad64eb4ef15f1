#include "model/forms/spline.hpp"

#include "model/edit.hpp"
#include "model/forms/common_rows.hpp"
#include "model/number_json.hpp"
#include "model/pair_model.hpp"
#include "model/ready_zone.hpp"
#include "model/resolve_zone.hpp"

#include <cmath>

namespace whorl {
namespace {

const SplineForm& spline(const Zone& z) {
    return std::get<SplineForm>(z.form);
}
SplineForm& spline(Zone& z) {
    return std::get<SplineForm>(z.form);
}
const ResolvedSpline& spline(const ResolvedZone& z) {
    return *z.spline();
}
bool is_din(const Zone& z) {
    return !spline(z).reference_diameter.text.empty();
}

SplineSpec spline_spec(const Zone& z, const std::string& place, const Names& names) {
    const SplineForm& f = spline(z);
    const auto in = [&](const char* key, auto work) { return at(place + "spline." + key, work); };
    SplineSpec s;
    s.hub = z.in_bore();
    s.module = in("module", [&] { return resolve_length(f.module, names); });
    if (is_din(z))
        s.reference_diameter = in("reference_diameter", [&] {
            return length_in_range(f.reference_diameter, names, "reference diameter", 1);
        });
    s.pressure_angle = in("pressure_angle", [&] {
        return f.pressure_angle.text.empty() ? deg(30) : evaluate_angle(f.pressure_angle.text, names);
    });
    s.teeth = in("teeth", [&] {
        if (f.teeth.text.empty()) {
            if (!s.reference_diameter)
                throw InputError(
                    "A spline of ISO 4156 needs its number of teeth; by DIN 5480 they follow from the "
                    "reference diameter.");
            const auto usual = usual_spline_teeth(*s.reference_diameter, s.module);
            if (!usual)
                throw InputError(
                    "No number of teeth makes this reference diameter with a profile shift of −0.05 to "
                    "0.45; say the teeth, or take another module.");
            return *usual;
        }
        const double n = evaluate_number(f.teeth.text, names);
        if (n != std::floor(n) || n < 6 || n > 200)
            throw InputError("A spline has 6 to 200 teeth, a whole number; this is " + number_text(n, 4) +
                                 ".",
                             0, f.teeth.text.size());
        return static_cast<int>(n);
    });
    if (!f.root.empty())
        s.root = in("root", [&] {
            for (int i = 0; i < spline_root_count; ++i)
                if (f.root == word(static_cast<SplineRoot>(i))) return static_cast<SplineRoot>(i);
            throw InputError(
                "A spline's root is flat or fillet by ISO 4156, broached, hobbed or shaped by DIN 5480.", 0,
                f.root.size());
        });
    s.tolerance_class = f.tolerance_class;
    if (!f.thinning.text.empty())
        s.thinning = in("thinning", [&] { return resolve_length(f.thinning, names); });
    return s;
}

Words roots_of(const ResolvedZone& z) {
    if (spline(z).spec.reference_diameter) return {"broached", "hobbed", "shaped"};
    return in_deg(spline(z).spec.pressure_angle) > 31 ? Words{"fillet"} : Words{"flat", "fillet"};
}

Words classes_of(const ResolvedZone& z) {
    const bool hub = spline(z).spec.hub;
    if (spline(z).spec.reference_diameter)
        return hub ? Words{"7H", "8H", "9H", "11H", ""} : Words{"8f", "9g", "9e", ""};
    return hub ? Words{"4H", "5H", "6H", "7H", ""} : Words{"4h", "5h", "5f", "6f", "6e", "7d", ""};
}

} // namespace

std::span<const Row> FormModel<SplineForm>::rows() {
    static const Row rows[]{
        {.field = field::reference_diameter,
         .label = "Reference Ø",
         .tip = "dB of DIN 5480: the shaft is 0.2 modules narrower. Clear it for ISO 4156",
         .of = "a spline",
         .kind = RowKind::length,
         .number = member<&SplineForm::reference_diameter>,
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading& as) {
                 const auto& d = spline(r).spec.reference_diameter;
                 return d ? length_shown(in_mm(*d), as.unit) : Shown{"none, ISO 4156"};
             },
         .frees_pair = true,
         .kept = {.key = "reference_diameter"}},
        {.field = field::module,
         .label = "Module",
         .tip = "Module, in mm",
         .of = "a gear, a rack or a spline",
         .kind = RowKind::length,
         .number = member<&SplineForm::module>,
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading&) {
                 return Shown{number_text(in_mm(spline(r).spec.module), 4), "mm"};
             },
         .choices =
             [](const ResolvedZone& r) {
                 Words out;
                 for (const double m : spline_modules(spline(r).spec.reference_diameter.has_value()))
                     out.push_back(number_text(m, 3));
                 return out;
             },
         .frees_pair = true,
         .kept = {.key = "module", .always = true}},
        {.field = field::teeth,
         .label = "Teeth",
         .tip = "Number of teeth, 6 to 200; empty: those that DIN 5480 has for the reference diameter",
         .of = "a gear, a rack or a spline",
         .kind = RowKind::count,
         .number = member<&SplineForm::teeth>,
         .shown =
             [](const Zone& z, const ResolvedZone& r, const Reading&) {
                 return Shown{(spline(z).teeth.text.empty() ? "follows, " : "") +
                              std::to_string(spline(r).spec.teeth)};
             },
         .frees_pair = true,
         .kept = {.key = "teeth"}},
        {.field = field::pressure_angle,
         .label = "Pressure angle",
         .tip = "30°, 37.5° or 45° by ISO 4156; by DIN 5480 it is 30°",
         .of = "a gear, a rack or a spline of ISO 4156",
         .kind = RowKind::angle,
         .number = member<&SplineForm::pressure_angle>,
         .usual = "30°",
         .choices =
             [](const ResolvedZone&) {
                 return Words{"30", "37.5", "45"};
             },
         .applies = [](const Zone& z) { return !is_din(z); },
         .frees_pair = true,
         .kept = {.key = "pressure_angle"}},
        {.field = field::spline_root,
         .label = "Root",
         .tip = "Of ISO 4156 flat or a fillet; of DIN 5480 broached (0.55 modules deep), hobbed (0.60) or "
                "shaped (0.65)",
         .of = "a spline",
         .kind = RowKind::choice,
         .get = [](const Zone& z, const Reading&) { return spline(z).root; },
         .set = [](Zone& z, const Typed& t) { spline(z).root = t.lowered(); },
         .shown =
             [](const Zone& z, const ResolvedZone& r, const Reading&) {
                 return Shown{(spline(z).root.empty() ? "usual, " : "") + std::string(word(spline(r).root))};
             },
         .choices = roots_of,
         .kept = {.key = "root",
                  .save =
                      [](const Zone& z, nlohmann::ordered_json& to) {
                          if (!spline(z).root.empty()) put_text(to, "root", spline(z).root);
                      },
                  .load = [](Zone& z,
                             const nlohmann::json& from) { spline(z).root = text_at(from, "root"); }}},
        {.field = field::tolerance_class,
         .label = "Class",
         .tip = "By ISO 4156, such as 5f of a shaft and 5H of a hub: the teeth stand in the middle of their "
                "limits. By "
                "DIN 5480, such as 8f and 9H, it is written only. Empty: the basic size",
         .of = "a thread or a spline with tolerance classes",
         .kind = RowKind::choice,
         .get = [](const Zone& z, const Reading&) { return spline(z).tolerance_class; },
         .set = [](Zone& z, const Typed& t) { spline(z).tolerance_class = t.text; },
         .shown =
             [](const Zone& z, const ResolvedZone&, const Reading&) {
                 return Shown{spline(z).tolerance_class.empty() ? "none, basic size"
                                                                : spline(z).tolerance_class};
             },
         .choices = classes_of,
         .kept = {.key = "tolerance_class",
                  .save =
                      [](const Zone& z, nlohmann::ordered_json& to) {
                          if (!spline(z).tolerance_class.empty())
                              put_text(to, "tolerance_class", spline(z).tolerance_class);
                      },
                  .load =
                      [](Zone& z, const nlohmann::json& from) {
                          spline(z).tolerance_class = text_at(from, "tolerance_class");
                      }}},
        {.field = field::thinning,
         .label = "Thinning",
         .tip = "Taken off each tooth beside its limits: play for printing, or a deviation from a table; "
                "clear it for "
                "none",
         .of = "a gear, a rack or a spline",
         .kind = RowKind::length,
         .number = member<&SplineForm::thinning>,
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading& as) {
                 const double off = in_mm(spline(r).spec.thinning);
                 return off == 0 ? Shown{"none"} : length_shown(off, as.unit);
             },
         .choices =
             [](const ResolvedZone&) {
                 return Words{"0.05", "0.1", ""};
             },
         .kept = {.key = "thinning"}},
        length_row("Length", "Length of the teeth; in a bore, clear it to go through", "a zone")};
    return rows;
}

void FormModel<SplineForm>::save(const Zone&, nlohmann::ordered_json&) {}
void FormModel<SplineForm>::load(Zone&, const nlohmann::json&) {}

std::string FormModel<SplineForm>::what(const Zone& z) {
    return z.in_bore() ? "a splined hub" : "a splined shaft";
}

std::string FormModel<SplineForm>::designation(const Zone& z, const Job&, const Names& names) {
    std::optional<Length> length; // none: through
    if (!z.length.text.empty()) length = resolve_length(z.length, names);
    return write_spline(spline_spec(z, {}, names), length);
}

void FormModel<SplineForm>::resolve(ZoneInPiece& where) {
    require_ends(where, {EndKind::flat},
                 "A splined zone ends flat; put a plain zone with a chamfer beside it.");
    const SplineSpec s = spline_spec(where.zone, where.place, where.names);
    ResolvedSplining out{at(where.place + "spline", [&] { return resolve_spline(s, where.out.length); })};
    where.out.diameter = where.out.far_diameter = mm(2 * out.spline.gear.tip_radius);
    where.out.form = std::move(out);
}

Radii FormModel<SplineForm>::radii(const ResolvedZone& z) {
    const ResolvedGear& g = *z.gear();
    return {std::min(g.tip_radius, g.root_radius), std::max(g.tip_radius, g.root_radius)};
}

void FormModel<SplineForm>::keep(Zone&, const Zone&) {}

template<>
const PairModel& pair_model<PairKind::spline>() {
    static const PairModel model{.of = "a splined shaft and its hub",
                                 .fits =
                                     [](const Zone& first, const Zone& second) {
                                         return first.as<SplineForm>() && second.as<SplineForm>() &&
                                                first.in_bore() != second.in_bore();
                                     },
                                 .freedom = always<Freedom::shift>,
                                 .follow =
                                     [](Zone& second, const Zone& first, const Job&) {
                                         const SplineForm& from = spline(first);
                                         SplineForm& to = spline(second);
                                         if (is_din(first) != is_din(second))
                                             to.root = to.tolerance_class = {};
                                         to.module = from.module;
                                         to.teeth = from.teeth;
                                         to.reference_diameter = from.reference_diameter;
                                         to.pressure_angle = from.pressure_angle;
                                         if (!is_din(first)) to.root = from.root;
                                     }};
    return model;
}

Job FormModel<SplineForm>::counterpart(const Job& before, ZoneRef ref) {
    Job job = before;
    const Piece& piece = job.pieces.at(ref.piece);
    const Names names = resolve_names(job);
    const ResolvedPiece resolved = resolve_piece(piece, names);
    const ResolvedZone& z = resolved.zones.at(ref.zone);
    const SplineSpec other = whorl::counterpart(spline(z).spec);
    Designation d;
    d.what = other;
    // a shaft goes through its hub and as far again as it is wide
    d.length = other.hub ? z.length : rounded(z.length + z.diameter * 0.5, 1);
    Piece made = piece_asked(other, d);
    made.name = ((other.hub ? "Hub for " : "Shaft for ") + piece.name).substr(0, 80);
    made.finish = piece.finish;
    job.pieces.push_back(std::move(made));
    job.pairs.push_back({ref, {job.pieces.size() - 1, std::size_t{other.hub}}, true, {}});
    return job;
}

Zone zone_asked(const SplineSpec& s, const Designation& whole) {
    SplineForm f;
    f.module = millimetres(s.module);
    f.teeth = {std::to_string(s.teeth), {}};
    if (s.reference_diameter) f.reference_diameter = millimetres(*s.reference_diameter);
    if (std::abs(in_deg(s.pressure_angle) - 30) > 1e-9)
        f.pressure_angle = {number_text(in_deg(s.pressure_angle), 9), {}};
    if (s.root) f.root = word(*s.root);
    f.tolerance_class = s.tolerance_class;
    if (in_mm(s.thinning) > 0) f.thinning = millimetres(s.thinning);
    Zone z;
    if (s.hub) z.where = Where::near_bore;
    z.length = millimetres(whole.length.value_or(rounded(s.module * s.teeth * 0.8, 1)));
    z.form = std::move(f);
    return z;
}

// A shaft is one zone; a hub the bore of a boss half as wide again.
Piece piece_asked(const SplineSpec& s, const Designation& d) {
    Piece p;
    p.name = write_spline(s, d.length);
    Zone z = zone_asked(s, d);
    if (s.hub) {
        const double root = 2 * resolve_spline(s, mm(10)).gear.root_radius;
        Zone body = plain(mm(std::ceil(1.5 * root)), resolve_length(z.length, {}));
        body.near_end = body.far_end = chamfer(45);
        z.length = {};
        p.zones.push_back(std::move(body));
    }
    p.zones.push_back(std::move(z));
    return p;
}

} // namespace whorl
