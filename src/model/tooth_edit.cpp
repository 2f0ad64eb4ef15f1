#include "model/tooth_edit.hpp"

#include "model/resolve.hpp"

#include <algorithm>
#include <cmath>
#include <sstream>

namespace whorl {
namespace {

std::string lowered(std::string s) {
    for (char& c : s)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return s;
}

Number RackBar::*bar_member(Field field) {
    return field == Field::face_width    ? &RackBar::width
           : field == Field::body_height ? &RackBar::height
           : field == Field::near_plain  ? &RackBar::near_plain
           : field == Field::far_plain   ? &RackBar::far_plain
                                         : nullptr;
}

void set_bar_field(ToothForm& t, Field field, const Number& n) {
    Number RackBar::*member = bar_member(field);
    if (!member) return;
    if (!t.bar) throw InputError("Only a rack has this; this zone is a gear.");
    (*t.bar).*member = n;
}

Number plain_number(double value, int decimals, double usual) {
    return value == usual ? Number{} : Number{number_text(value, decimals), {}};
}

} // namespace

bool is_tooth_field(Field f) {
    return f >= Field::module && f <= Field::far_plain;
}

void set_tooth_field(ToothForm& t, Field field, const Number& n) {
    switch (field) {
    case Field::module: {
        // 12 dp and dp 12 are modules too
        const std::string w = lowered(n.text);
        const auto dp = w.find("dp");
        if (dp == std::string::npos) {
            t.module = n;
            break;
        }
        const std::string rest = w.substr(0, dp) + w.substr(dp + 2);
        if (rest.find_first_not_of(' ') == std::string::npos)
            throw InputError("A diametral pitch is written 12 dp.", 0, n.text.size());
        t.module = {"1/(" + rest + ")", LengthUnit::inch};
        break;
    }
    case Field::teeth:
        t.teeth = n;
        break;
    case Field::pressure_angle:
        t.pressure_angle = n;
        break;
    case Field::helix_angle:
        t.helix_angle = n;
        break;
    case Field::profile_shift:
        t.profile_shift = n;
        break;
    case Field::basic_rack:
        // a type is kept by its letter
        if (const std::string type = parse_rack(n.text).type; type.empty())
            t.rack = n.text;
        else
            t.rack = type;
        break;
    case Field::tip_shortening:
        t.tip_shortening = n;
        break;
    case Field::tip_edge: {
        std::istringstream words(n.text);
        std::string kind, size;
        words >> kind;
        std::getline(words, size);
        size.erase(0, size.find_first_not_of(' ') == std::string::npos ? size.size()
                                                                       : size.find_first_not_of(' '));
        kind = lowered(kind);
        if (kind == "sharp" && size.empty()) {
            t.tip_edge = TipEdge::sharp;
            t.tip_size = {};
            break;
        }
        if ((kind != "chamfer" && kind != "round" && kind != "rounded") || size.empty())
            throw InputError(
                "A tip's edge is sharp, chamfer with its size or round with its radius, such as chamfer 0.2.",
                0, n.text.size());
        t.tip_edge = kind == "chamfer" ? TipEdge::chamfered : TipEdge::rounded;
        t.tip_size = {size, n.unit};
        break;
    }
    case Field::thinning:
        t.thinning = n;
        break;
    default:
        set_bar_field(t, field, n);
    }
}

bool turned_round(const ToothForm& t, const Names& names) {
    return !t.helix_angle.text.empty() && in_rad(evaluate_angle(t.helix_angle.text, names)) < 0;
}

std::string tooth_field_text(const ToothForm& t, Field field, LengthUnit unit, const Names& names) {
    if (Number RackBar::*member = bar_member(field))
        return t.bar ? typed_as((*t.bar).*member, unit, names) : std::string();
    switch (field) {
    case Field::module:
        return t.module.text +
               (t.module.unit == LengthUnit::inch && t.module.text.find("in") == std::string::npos ? " in"
                                                                                                   : "");
    case Field::teeth:
        return t.teeth.text;
    case Field::pressure_angle:
        return t.pressure_angle.text.empty() ? "20" : t.pressure_angle.text;
    case Field::helix_angle:
        return t.helix_angle.text.empty() ? "0" : t.helix_angle.text;
    case Field::profile_shift:
        return t.profile_shift.text.empty() ? "0" : t.profile_shift.text;
    case Field::basic_rack:
        return t.rack;
    case Field::tip_shortening:
        return t.tip_shortening.text.empty() ? "0" : t.tip_shortening.text;
    case Field::tip_edge:
        return t.tip_edge == TipEdge::sharp       ? "sharp"
               : t.tip_edge == TipEdge::chamfered ? "chamfer " + typed_as(t.tip_size, unit, names)
                                                  : "round " + typed_as(t.tip_size, unit, names);
    case Field::thinning:
        return typed_as(t.thinning, unit, names);
    default:
        return {};
    }
}

namespace {
template<class Spec>
ToothForm common_form(const Spec& s, LengthUnit unit) {
    ToothForm t;
    const double dp = 25.4 / in_mm(s.module);
    t.module = unit == LengthUnit::inch ? Number{"1/" + number_text(dp, 9), LengthUnit::inch}
                                        : Number{number_text(in_mm(s.module), 9), {}};
    t.pressure_angle = plain_number(in_deg(s.pressure_angle), 9, 20);
    t.helix_angle = plain_number(in_deg(s.helix_angle), 9, 0);
    t.hand = s.hand;
    t.rack = s.rack.type.empty() ? number_text(s.rack.addendum, 9) + "/" + number_text(s.rack.dedendum, 9) +
                                       "/" + number_text(s.rack.root_radius, 9)
                                 : s.rack.type;
    t.tip_shortening = plain_number(s.tip_shortening, 9, 0);
    t.tip_edge = s.tip_edge;
    if (s.tip_edge != TipEdge::sharp) t.tip_size = {number_text(in_unit(s.tip_size, unit), 9), unit};
    if (in_mm(s.thinning) > 0) t.thinning = {number_text(in_unit(s.thinning, unit), 9), unit};
    return t;
}
} // namespace

ToothForm tooth_form(const GearSpec& s, LengthUnit unit) {
    ToothForm t = common_form(s, unit);
    t.teeth = {std::to_string(s.teeth), {}};
    t.profile_shift = plain_number(s.profile_shift, 9, 0);
    return t;
}

Zone rack_zone(const RackSpec& s, LengthUnit unit) {
    const auto length = [&](Length l) { return Number{number_text(in_unit(l, unit), 9), unit}; };
    Zone z;
    z.teeth = common_form(s, unit);
    z.teeth->teeth = s.teeth ? Number{std::to_string(*s.teeth), {}} : Number{};
    z.length = s.teeth ? Number{} : length(*s.length);
    z.diameter = length(s.height);
    z.teeth->bar = RackBar{length(s.width), length(s.height), {}, {}};
    if (in_mm(s.near_plain) > 0) z.teeth->bar->near_plain = length(s.near_plain);
    if (in_mm(s.far_plain) > 0) z.teeth->bar->far_plain = length(s.far_plain);
    return z;
}

namespace {

// Works out the numbers of a tooth form, each error with its field's place.
class FormReader {
public:
    FormReader(const std::string& place, const Names& names) : place_(place), names_(names) {}

    template<class Work>
    auto at(const char* field, Work work) const {
        try {
            return work();
        } catch (const InputError& e) {
            throw JobError(e, place_ + field);
        }
    }
    double number(const char* field, const Number& n, double usual) const {
        return at(field, [&] { return n.text.empty() ? usual : evaluate_number(n.text, names_); });
    }
    Angle angle(const char* field, const Number& n, double usual) const {
        return at(field, [&] { return n.text.empty() ? deg(usual) : evaluate_angle(n.text, names_); });
    }
    Length length(const char* field, const Number& n) const {
        return at(field, [&] { return n.text.empty() ? mm(0) : resolve_length(n, names_); });
    }
    int teeth(const Number& n, const char* what, int least, int most) const {
        const double teeth = number("teeth", n, 0);
        return at("teeth", [&] {
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
    void common(Spec& s, const ToothForm& t) const {
        s.module = length("module", t.module);
        s.pressure_angle = angle("pressure_angle", t.pressure_angle, 20);
        s.helix_angle = angle("helix_angle", t.helix_angle, 0);
        s.hand = t.hand;
        if (in_rad(s.helix_angle) < 0) {
            s.helix_angle = -s.helix_angle;
            s.hand = t.hand == Hand::left ? Hand::right : Hand::left;
        }
        s.rack = at("basic_rack", [&] { return parse_rack(t.rack); });
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

GearSpec gear_spec(const ToothForm& t, bool internal, const std::string& place, const Names& names) {
    const FormReader read(place, names);
    GearSpec s;
    s.internal = internal;
    read.common(s, t);
    s.teeth = read.teeth(t.teeth, "gear", 5, 1000);
    s.profile_shift = read.number("profile_shift", t.profile_shift, 0);
    return s;
}

RackSpec rack_spec(const Zone& z, const std::string& place, const Names& names) {
    const FormReader read(place, names);
    const ToothForm& t = *z.teeth;
    RackSpec s;
    read.common(s, t);
    if (!t.teeth.text.empty())
        s.teeth = read.teeth(t.teeth, "rack", 1, 2000);
    else
        s.length = read.length("length", z.length);
    s.width = read.length("face_width", t.bar->width);
    s.height = read.length("height", t.bar->height);
    s.near_plain = read.length("near_plain", t.bar->near_plain);
    s.far_plain = read.length("far_plain", t.bar->far_plain);
    return s;
}

} // namespace whorl
