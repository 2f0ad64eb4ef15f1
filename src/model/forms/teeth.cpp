#include "model/forms/teeth.hpp"

#include "model/forms/common_rows.hpp"
#include "model/number_json.hpp"
#include "model/pair_model.hpp"
#include "model/resolve_zone.hpp"

#include <algorithm>
#include <cmath>
#include <sstream>

namespace whorl {
namespace {

constexpr const char* edge_words[]{"sharp", "chamfered", "rounded"};

const Teeth& teeth(const Zone& z) {
    return *z.teeth();
}
Teeth& teeth(Zone& z) {
    return *z.teeth();
}

// A number of the teeth, a gear's or a rack's.
template<Number Teeth::*Member>
constexpr NumberPlace of_teeth{[](Zone& z) -> Number& { return teeth(z).*Member; },
                               [](const Zone& z) -> const Number& { return teeth(z).*Member; }};

// What of the resolved teeth a row shows: gears' and racks' specs have the same members.
template<class Read>
auto of_spec(const ResolvedZone& r, Read read) {
    return r.gear() ? read(r.gear()->spec) : read(r.rack()->spec);
}

Shown degrees(Angle a) {
    return {number_text(in_deg(a), 3) + "°"};
}

void set_module(Zone& z, const Typed& t) {
    // 12 dp and dp 12 are modules too
    const std::string w = t.lowered();
    const auto dp = w.find("dp");
    if (dp == std::string::npos) {
        teeth(z).module = t.number();
        return;
    }
    const std::string rest = w.substr(0, dp) + w.substr(dp + 2);
    if (rest.find_first_not_of(' ') == std::string::npos) t.refuse("A diametral pitch is written 12 dp.");
    teeth(z).module = {"1/(" + rest + ")", LengthUnit::inch};
}

void set_tip_edge(Zone& z, const Typed& t) {
    std::istringstream words(t.text);
    std::string kind, size;
    words >> kind;
    std::getline(words >> std::ws, size);
    for (char& c : kind)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    if (kind == "sharp" && size.empty()) {
        teeth(z).tip_edge = TipEdge::sharp;
        teeth(z).tip_size = {};
        return;
    }
    if ((kind != "chamfer" && kind != "round" && kind != "rounded") || size.empty())
        t.refuse(
            "A tip's edge is sharp, chamfer with its size or round with its radius, such as chamfer 0.2.");
    teeth(z).tip_edge = kind == "chamfer" ? TipEdge::chamfered : TipEdge::rounded;
    teeth(z).tip_size = {size, t.unit};
}

} // namespace

const Teeth* Zone::teeth() const {
    if (const auto* g = as<GearForm>()) return &g->teeth;
    const auto* r = as<RackForm>();
    return r ? &r->teeth : nullptr;
}

bool turned_round(const Teeth& t, const Names& names) {
    return !t.helix_angle.text.empty() && in_rad(evaluate_angle(t.helix_angle.text, names)) < 0;
}

Row module_row() {
    return {.field = field::module,
            .label = "Module",
            .tip = "Module, normal, in mm; 12 dp for a diametral pitch",
            .of = "a gear or rack",
            .kind = RowKind::length,
            .number = of_teeth<&Teeth::module>,
            .get =
                [](const Zone& z, const Reading&) {
                    const Number& m = teeth(z).module;
                    const bool says = m.text.find("in") != std::string::npos;
                    return m.text + (m.unit == LengthUnit::inch && !says ? " in" : "");
                },
            .set = set_module,
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading&) {
                    return Shown{number_text(of_spec(r, [](auto& s) { return in_mm(s.module); }), 4), "mm"};
                },
            .choices = [](const ResolvedZone&) { return Words{"1", "1.25", "1.5", "2", "2.5", "3"}; },
            .frees_pair = true,
            .kept = {.key = "module", .always = true}};
}

Row teeth_row(const char* tip) {
    return {.field = field::teeth,
            .label = "Teeth",
            .tip = tip,
            .of = "a gear or rack",
            .kind = RowKind::count,
            .number = of_teeth<&Teeth::count>,
            .get = [](const Zone& z, const Reading&) { return teeth(z).count.text; },
            .set = [](Zone& z, const Typed& t) { teeth(z).count = t.number(); },
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading&) {
                    if (r.gear()) return Shown{std::to_string(r.gear()->spec.teeth)};
                    return Shown{(r.rack()->spec.teeth ? "" : "follow, ") + std::to_string(r.rack()->teeth)};
                },
            .kept = {.key = "teeth", .always = true}};
}

Row pressure_angle_row(const char* tip) {
    return {
        .field = field::pressure_angle,
        .label = "Pressure angle",
        .tip = tip,
        .of = "a gear or rack",
        .kind = RowKind::angle,
        .number = of_teeth<&Teeth::pressure_angle>,
        .get =
            [](const Zone& z, const Reading&) {
                const Number& n = teeth(z).pressure_angle;
                return n.text.empty() ? std::string("20") : n.text;
            },
        .set = [](Zone& z, const Typed& t) { teeth(z).pressure_angle = t.number(); },
        .shown = [](const Zone&, const ResolvedZone& r,
                    const Reading&) { return degrees(of_spec(r, [](auto& s) { return s.pressure_angle; })); },
        .choices =
            [](const ResolvedZone&) {
                return Words{"20", "14.5", "25"};
            },
        .frees_pair = true,
        .kept = {.key = "pressure_angle"}};
}

Row helix_angle_row(const char* tip) {
    return {
        .field = field::helix_angle,
        .label = "Helix angle",
        .tip = tip,
        .of = "a gear or rack",
        .kind = RowKind::angle,
        .number = of_teeth<&Teeth::helix_angle>,
        .get =
            [](const Zone& z, const Reading&) {
                const Number& n = teeth(z).helix_angle;
                return n.text.empty() ? std::string("0") : n.text;
            },
        .set = [](Zone& z, const Typed& t) { teeth(z).helix_angle = t.number(); },
        .shown = [](const Zone&, const ResolvedZone& r,
                    const Reading&) { return degrees(of_spec(r, [](auto& s) { return s.helix_angle; })); },
        .choices =
            [](const ResolvedZone&) {
                return Words{"0", "15", "20", "30"};
            },
        .frees_pair = true,
        .kept = {.key = "helix_angle"}};
}

Row helix_hand_row(const char* tip) {
    // a helix angle below zero turns the hand round again
    return {.field = field::hand,
            .label = "Hand",
            .tip = tip,
            .of = "a thread, a groove, helical teeth, a slanting knurl or a coil",
            .kind = RowKind::choice,
            .choice = {hand_words, [](const Zone& z) { return std::size_t{teeth(z).hand == Hand::left}; },
                       [](Zone& z, std::size_t at) { teeth(z).hand = at == 1 ? Hand::left : Hand::right; }},
            .get =
                [](const Zone& z, const Reading& as) {
                    const bool left = teeth(z).hand == Hand::left;
                    return std::string(
                        word(left != turned_round(teeth(z), as.names) ? Hand::left : Hand::right));
                },
            .set =
                [](Zone& z, const Typed& t) {
                    const bool left = choose(t, hand_words) == 1;
                    teeth(z).hand = left != turned_round(teeth(z), t.names) ? Hand::left : Hand::right;
                },
            .shown = [](const Zone&, const ResolvedZone& r,
                        const Reading&) { return Shown{word(of_spec(r, [](auto& s) { return s.hand; }))}; },
            .frees_pair = true,
            .hidden =
                [](const ResolvedZone& r) {
                    return of_spec(r, [](auto& s) { return in_rad(s.helix_angle) == 0; });
                },
            .kept = {.key = "hand"}};
}

Row profile_shift_row() {
    return {.field = field::profile_shift,
            .label = "Profile shift",
            .tip = "Multiple of the module; positive makes the teeth thicker",
            .of = "a gear",
            .kind = RowKind::number,
            .number = of_teeth<&Teeth::profile_shift>,
            .get =
                [](const Zone& z, const Reading&) {
                    const Number& n = teeth(z).profile_shift;
                    return n.text.empty() ? std::string("0") : n.text;
                },
            .set = [](Zone& z, const Typed& t) { teeth(z).profile_shift = t.number(); },
            .shown = [](const Zone&, const ResolvedZone& r,
                        const Reading&) { return Shown{number_text(r.gear()->spec.profile_shift, 4)}; },
            .kept = {.key = "profile_shift"}};
}

Row basic_rack_row() {
    return {.field = field::basic_rack,
            .label = "Basic rack",
            .tip = "A to D of ISO 53, or addendum/dedendum/root radius in modules, such as 1/1.25/0.38",
            .of = "a gear or rack",
            .kind = RowKind::choice,
            .get = [](const Zone& z, const Reading&) { return teeth(z).basic_rack; },
            .set =
                [](Zone& z, const Typed& t) {
                    // a type is kept by its letter
                    const std::string type = parse_rack(t.text).type;
                    teeth(z).basic_rack = type.empty() ? t.text : type;
                },
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading&) {
                    const auto rack = of_spec(r, [](auto& s) { return s.rack; });
                    if (!rack.type.empty()) return Shown{"ISO 53 " + rack.type};
                    return Shown{number_text(rack.addendum, 3) + " / " + number_text(rack.dedendum, 3) +
                                 " / " + number_text(rack.root_radius, 3)};
                },
            .choices =
                [](const ResolvedZone&) {
                    return Words{"A", "B", "C", "D"};
                },
            .kept = {.key = "basic_rack",
                     .save =
                         [](const Zone& z, nlohmann::ordered_json& to) {
                             if (teeth(z).basic_rack != "A") put_text(to, "basic_rack", teeth(z).basic_rack);
                         },
                     .load =
                         [](Zone& z, const nlohmann::json& from) {
                             teeth(z).basic_rack = text_at(from, "basic_rack", "A");
                         }}};
}

Row tip_shortening_row() {
    return {.field = field::tip_shortening,
            .label = "Tip shortening",
            .tip = "Multiple of the module taken off the tips",
            .of = "a gear or rack",
            .kind = RowKind::number,
            .number = of_teeth<&Teeth::tip_shortening>,
            .get =
                [](const Zone& z, const Reading&) {
                    const Number& n = teeth(z).tip_shortening;
                    return n.text.empty() ? std::string("0") : n.text;
                },
            .set = [](Zone& z, const Typed& t) { teeth(z).tip_shortening = t.number(); },
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading&) {
                    return Shown{number_text(of_spec(r, [](auto& s) { return s.tip_shortening; }), 4)};
                },
            .choices = [](const ResolvedZone&) { return Words{"0"}; },
            .kept = {.key = "tip_shortening"}};
}

Row tip_edge_row() {
    return {.field = field::tip_edge,
            .label = "Tip edge",
            .tip = "sharp, chamfer SIZE (45°) or round RADIUS",
            .of = "a gear or rack",
            .kind = RowKind::text,
            .get =
                [](const Zone& z, const Reading& as) {
                    const Teeth& t = teeth(z);
                    if (t.tip_edge == TipEdge::sharp) return std::string("sharp");
                    return (t.tip_edge == TipEdge::chamfered ? "chamfer " : "round ") +
                           typed_as(t.tip_size, as.unit, as.names);
                },
            .set = set_tip_edge,
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading& as) {
                    const auto [edge, size] =
                        of_spec(r, [](auto& s) { return std::pair(s.tip_edge, in_mm(s.tip_size)); });
                    if (edge == TipEdge::sharp) return Shown{"sharp"};
                    return Shown{(edge == TipEdge::chamfered ? "chamfer " : "round ") +
                                     shown_length(size, as.unit),
                                 symbol(as.unit)};
                },
            .choices =
                [](const ResolvedZone&) {
                    return Words{"sharp", "chamfer 0.2", "round 0.2"};
                },
            .kept = {.key = "tip_edge",
                     .save =
                         [](const Zone& z, nlohmann::ordered_json& to) {
                             if (teeth(z).tip_edge == TipEdge::sharp) return;
                             put_text(to, "tip_edge", edge_words[static_cast<int>(teeth(z).tip_edge)]);
                             put_number(to, "tip_size", teeth(z).tip_size);
                         },
                     .load =
                         [](Zone& z, const nlohmann::json& from) {
                             for (int i = 0; i < 3; ++i)
                                 if (text_at(from, "tip_edge", "sharp") == edge_words[i])
                                     teeth(z).tip_edge = static_cast<TipEdge>(i);
                             if (stands_in(from, "tip_size")) teeth(z).tip_size = number_at(from, "tip_size");
                         }}};
}

Row thinning_row() {
    return {.field = field::thinning,
            .label = "Thinning",
            .tip = "Taken off each tooth's thickness, for backlash; clear it for none",
            .of = "a gear or rack",
            .kind = RowKind::length,
            .number = of_teeth<&Teeth::thinning>,
            .get = [](const Zone& z,
                      const Reading& as) { return typed_as(teeth(z).thinning, as.unit, as.names); },
            .set = [](Zone& z, const Typed& t) { teeth(z).thinning = t.number(); },
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading& as) {
                    const double off = of_spec(r, [](auto& s) { return in_mm(s.thinning); });
                    return off == 0 ? Shown{"none"} : length_shown(off, as.unit);
                },
            .choices =
                [](const ResolvedZone&) {
                    return Words{"0.05", "0.1", ""};
                },
            .kept = {.key = "thinning"}};
}

namespace {

Number plain_number(double value, int decimals, double usual) {
    return value == usual ? Number{} : Number{number_text(value, decimals), {}};
}

template<class Spec>
Teeth common_teeth(const Spec& s, LengthUnit unit) {
    Teeth t;
    const double dp = 25.4 / in_mm(s.module);
    t.module = unit == LengthUnit::inch ? Number{"1/" + number_text(dp, 9), LengthUnit::inch}
                                        : Number{number_text(in_mm(s.module), 9), {}};
    t.pressure_angle = plain_number(in_deg(s.pressure_angle), 9, 20);
    t.helix_angle = plain_number(in_deg(s.helix_angle), 9, 0);
    t.hand = s.hand;
    t.basic_rack = s.rack.type.empty()
                       ? number_text(s.rack.addendum, 9) + "/" + number_text(s.rack.dedendum, 9) + "/" +
                             number_text(s.rack.root_radius, 9)
                       : s.rack.type;
    t.tip_shortening = plain_number(s.tip_shortening, 9, 0);
    t.tip_edge = s.tip_edge;
    if (s.tip_edge != TipEdge::sharp) t.tip_size = {exact_number(s.tip_size, unit), unit};
    if (in_mm(s.thinning) > 0) t.thinning = {exact_number(s.thinning, unit), unit};
    return t;
}

// Works out the numbers of teeth, each error with its field's place.
class TeethReader {
public:
    TeethReader(const std::string& place, const Names& names) : place_(place), names_(names) {}

    template<class Work>
    auto in(const char* key, Work work) const {
        return at(place_ + key, work);
    }
    double number(const char* key, const Number& n, double usual) const {
        return in(key, [&] { return n.text.empty() ? usual : evaluate_number(n.text, names_); });
    }
    Angle angle(const char* key, const Number& n, double usual) const {
        return in(key, [&] { return n.text.empty() ? deg(usual) : evaluate_angle(n.text, names_); });
    }
    Length length(const char* key, const Number& n) const {
        return in(key, [&] { return n.text.empty() ? mm(0) : resolve_length(n, names_); });
    }
    int teeth(const Number& n, const char* what, int least, int most) const {
        const double teeth = number("teeth", n, 0);
        return in("teeth", [&] {
            if (teeth != std::floor(teeth) || teeth < least || teeth > most)
                throw InputError(std::string("A ") + what + " has " + std::to_string(least) + " to " +
                                     std::to_string(most) + " teeth, a whole number; this is " +
                                     number_text(teeth, 4) + ".",
                                 0, n.text.size());
            return static_cast<int>(teeth);
        });
    }
    // What gears and racks have in common.
    template<class Spec>
    void common(Spec& s, const Teeth& t) const {
        s.module = length("module", t.module);
        s.pressure_angle = angle("pressure_angle", t.pressure_angle, 20);
        s.helix_angle = angle("helix_angle", t.helix_angle, 0);
        s.hand = t.hand;
        if (in_rad(s.helix_angle) < 0) {
            s.helix_angle = -s.helix_angle;
            s.hand = t.hand == Hand::left ? Hand::right : Hand::left;
        }
        s.rack = in("basic_rack", [&] { return parse_rack(t.basic_rack); });
        s.tip_shortening = number("tip_shortening", t.tip_shortening, 0);
        s.tip_edge = t.tip_edge;
        if (t.tip_edge != TipEdge::sharp) s.tip_size = length("tip_edge", t.tip_size);
        s.thinning = length("thinning", t.thinning);
    }

private:
    const std::string& place_;
    const Names& names_;
};

} // namespace

Teeth teeth_asked(const GearSpec& s, LengthUnit unit) {
    Teeth t = common_teeth(s, unit);
    t.count = {std::to_string(s.teeth), {}};
    t.profile_shift = plain_number(s.profile_shift, 9, 0);
    return t;
}

Teeth teeth_asked(const RackSpec& s, LengthUnit unit) {
    Teeth t = common_teeth(s, unit);
    t.count = s.teeth ? Number{std::to_string(*s.teeth), {}} : Number{};
    return t;
}

GearSpec gear_spec(const Zone& z, const std::string& place, const Names& names) {
    const TeethReader read(place, names);
    const Teeth& t = teeth(z);
    GearSpec s;
    s.internal = z.in_bore();
    read.common(s, t);
    s.teeth = read.teeth(t.count, "gear", 5, 1000);
    s.profile_shift = read.number("profile_shift", t.profile_shift, 0);
    return s;
}

RackSpec rack_spec(const Zone& z, const std::string& place, const Names& names) {
    const TeethReader read(place, names);
    const auto& f = std::get<RackForm>(z.form);
    RackSpec s;
    read.common(s, f.teeth);
    if (!f.teeth.count.text.empty())
        s.teeth = read.teeth(f.teeth.count, "rack", 1, 2000);
    else
        s.length = read.length("length", z.length);
    s.width = read.length("face_width", f.width);
    s.height = read.length("height", f.height);
    s.near_plain = read.length("near_plain", f.near_plain);
    s.far_plain = read.length("far_plain", f.far_plain);
    return s;
}

namespace {
bool teeth_fit(const Zone& a, const Zone& b) {
    const auto beside = [](const Zone& rack, const Zone& z) { // a rack goes with an external gear
        return !rack.as<RackForm>() || (z.as<GearForm>() && !z.in_bore());
    };
    return a.teeth() && b.teeth() && beside(a, b) && beside(b, a);
}

// A gear rolls along the rack it stands by; what stands by a gear, around it.
Freedom teeth_freedom(const Zone& first, const Zone&) {
    return first.as<RackForm>() ? Freedom::travel : Freedom::about;
}

void follow_teeth(Zone& second, const Zone& first, const Job&) {
    const bool same_hand = first.in_bore() || second.in_bore();
    const Teeth& from = teeth(first);
    Teeth& to = teeth(second);
    to.module = from.module;
    to.pressure_angle = from.pressure_angle;
    to.helix_angle = from.helix_angle;
    to.hand = (from.hand == Hand::left) == same_hand ? Hand::left : Hand::right;
}
} // namespace

template<>
const PairModel& pair_model<PairKind::teeth>() {
    static const PairModel model{.of = "two gears, or an external gear and a rack",
                                 .fits = teeth_fit,
                                 .freedom = teeth_freedom,
                                 .follow = follow_teeth};
    return model;
}

} // namespace whorl
