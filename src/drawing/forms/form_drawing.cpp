#include "drawing/forms/form_drawing.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>

namespace whorl::drawing {

void make_plain(ResolvedZone& zone, double near_radius, double far_radius) {
    zone.form = ResolvedPlain{};
    zone.diameter = mm(2 * near_radius);
    zone.far_diameter = mm(2 * far_radius);
    for (ResolvedEnd* e : {&zone.near_end, &zone.far_end})
        if (e->ends_inside()) *e = {};
}

void lines_at(std::vector<Mark>& to, LineKind kind, double radius, double from, double to_z, double beyond) {
    for (const double side : {1.0, -1.0})
        to.push_back({line(kind, {from, side * radius}, {to_z, side * radius}), beyond});
}

namespace {

std::vector<std::string> row_of(const ResolvedValue& v, LengthUnit unit) {
    const auto shown = [&](double value) {
        switch (v.kind) {
        case ValueKind::length:
            return figure(value, unit);
        case ValueKind::angle:
            return degrees(value);
        case ValueKind::area:
            return number_text(value, 2) + " mm²";
        case ValueKind::volume:
            return number_text(value / 1000, 3) + " cm³";
        case ValueKind::mass:
            return mass_words(value);
        default:
            return number_text(value, 4);
        }
    };
    std::string words = v.text;
    if (v.value) words = shown(*v.value);
    if (v.min && v.max)
        words = shown(*v.min) + " … " + shown(*v.max);
    else if (v.min)
        words = "≥ " + shown(*v.min);
    else if (v.max)
        words = "≤ " + shown(*v.max);
    return {v.label, words};
}

} // namespace

DataTable data_of(const char* title, const std::vector<ResolvedValue>& values,
                  std::initializer_list<const char*> keys, LengthUnit unit) {
    DataTable out{title};
    for (const char* key : keys)
        if (const ResolvedValue* v = find_value(values, key)) out.rows.push_back(row_of(*v, unit));
    return out;
}

DataTable table_of(const char* title, const std::vector<std::pair<std::string, std::string>>& rows) {
    DataTable out{title};
    for (const auto& [label, value] : rows)
        out.rows.push_back({label, value});
    return out;
}

DataTable data_but(const char* title, const std::vector<ResolvedValue>& values,
                   std::initializer_list<const char*> but, LengthUnit unit) {
    DataTable out{title};
    for (const ResolvedValue& v : values)
        if (std::none_of(but.begin(), but.end(), [&](const char* key) { return v.key == key; }))
            out.rows.push_back(row_of(v, unit));
    return out;
}

Dimension diameter_of(const ZoneDrawn& z, const char* key, Field field, double diameter, std::string words) {
    return {.measure = Measure::across,
            .link = z.link(key, field),
            .words = std::move(words),
            .value = diameter,
            .from = in_mm(z.zone.start),
            .to = in_mm(z.zone.end()),
            .radius = diameter / 2,
            .inner = z.zone.in_bore()};
}

} // namespace whorl::drawing
