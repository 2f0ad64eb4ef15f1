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

Number plain_number(double value, int decimals, double usual) {
    return value == usual ? Number{} : Number{number_text(value, decimals), {}};
}

} // namespace

bool is_tooth_field(Field f) {
    return f >= Field::module && f <= Field::thinning;
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
        break;
    }
}

std::string tooth_field_text(const ToothForm& t, Field field) {
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
               : t.tip_edge == TipEdge::chamfered ? "chamfer " + t.tip_size.text
                                                  : "round " + t.tip_size.text;
    case Field::thinning:
        return t.thinning.text;
    default:
        return {};
    }
}

ToothForm tooth_form(const GearSpec& s, LengthUnit unit) {
    ToothForm t;
    const double dp = 25.4 / in_mm(s.module);
    t.module = unit == LengthUnit::inch ? Number{"1/" + number_text(dp, 9), LengthUnit::inch}
                                        : Number{number_text(in_mm(s.module), 9), {}};
    t.teeth = {std::to_string(s.teeth), {}};
    t.pressure_angle = plain_number(in_deg(s.pressure_angle), 9, 20);
    t.helix_angle = plain_number(in_deg(s.helix_angle), 9, 0);
    t.hand = s.hand;
    t.profile_shift = plain_number(s.profile_shift, 9, 0);
    t.rack = s.rack.type.empty() ? number_text(s.rack.addendum, 9) + "/" + number_text(s.rack.dedendum, 9) +
                                       "/" + number_text(s.rack.root_radius, 9)
                                 : s.rack.type;
    t.tip_shortening = plain_number(s.tip_shortening, 9, 0);
    t.tip_edge = s.tip_edge;
    if (s.tip_edge != TipEdge::sharp) t.tip_size = {number_text(in_unit(s.tip_size, unit), 9), unit};
    if (in_mm(s.thinning) > 0) t.thinning = {number_text(in_unit(s.thinning, unit), 9), unit};
    return t;
}

GearSpec gear_spec(const ToothForm& t, bool internal, const std::string& place, const Names& names) {
    const auto at = [&](const char* field, auto work) {
        try {
            return work();
        } catch (const InputError& e) {
            throw JobError(e, place + field);
        }
    };
    const auto number = [&](const char* field, const Number& n, double usual) {
        return at(field, [&] { return n.text.empty() ? usual : evaluate_number(n.text, names); });
    };
    const auto angle = [&](const char* field, const Number& n, double usual) {
        return at(field, [&] { return n.text.empty() ? deg(usual) : evaluate_angle(n.text, names); });
    };
    const auto length = [&](const char* field, const Number& n) {
        return at(field, [&] { return n.text.empty() ? mm(0) : resolve_length(n, names); });
    };
    GearSpec s;
    s.internal = internal;
    s.module = length("module", t.module);
    const double teeth = number("teeth", t.teeth, 0);
    at("teeth", [&] {
        if (teeth != std::floor(teeth) || teeth < 5 || teeth > 1000)
            throw InputError("A gear has 5 to 1000 teeth, a whole number; this is " + number_text(teeth, 4) +
                                 ".",
                             0, t.teeth.text.size());
        return 0;
    });
    s.teeth = static_cast<int>(teeth);
    s.pressure_angle = angle("pressure_angle", t.pressure_angle, 20);
    s.helix_angle = angle("helix_angle", t.helix_angle, 0);
    s.hand = t.hand;
    if (in_rad(s.helix_angle) < 0) { // a minus sign turns it round
        s.helix_angle = -s.helix_angle;
        s.hand = t.hand == Hand::left ? Hand::right : Hand::left;
    }
    s.profile_shift = number("profile_shift", t.profile_shift, 0);
    s.rack = at("basic_rack", [&] { return parse_rack(t.rack); });
    s.tip_shortening = number("tip_shortening", t.tip_shortening, 0);
    s.tip_edge = t.tip_edge;
    if (t.tip_edge != TipEdge::sharp) s.tip_size = length("tip_edge", t.tip_size);
    s.thinning = length("thinning", t.thinning);
    return s;
}

} // namespace whorl
