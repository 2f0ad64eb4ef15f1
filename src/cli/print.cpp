#include "cli/print.hpp"

#include "quantity/expression.hpp"

#include <charconv>
#include <ostream>

namespace whorl {

double tidy(double v) {
    const std::string text = number_text(v, 6);
    double tidied = v;
    std::from_chars(text.data(), text.data() + text.size(), tidied);
    return tidied;
}

json value_json(const ResolvedValue& v, bool inch_form) {
    json j;
    const auto amounts = [&](auto convert) {
        json a;
        if (v.value) a["value"] = tidy(convert(*v.value));
        if (v.min) a["min"] = tidy(convert(*v.min));
        if (v.max) a["max"] = tidy(convert(*v.max));
        return a;
    };
    switch (v.kind) {
    case ValueKind::text:
        j["value"] = v.text;
        break;
    case ValueKind::length:
        j = amounts([](double x) { return x; }), j["unit"] = "mm";
        break;
    case ValueKind::angle:
        j = amounts([](double x) { return in_deg(rad(x)); }), j["unit"] = "deg";
        break;
    case ValueKind::area:
        j = amounts([](double x) { return x; }), j["unit"] = "mm2";
        break;
    case ValueKind::volume:
        j = amounts([](double x) { return x; }), j["unit"] = "mm3";
        break;
    case ValueKind::mass:
        j = amounts([](double x) { return x; }), j["unit"] = "g";
        break;
    case ValueKind::number:
        j = amounts([](double x) { return x; });
        break;
    }
    if (inch_form && (v.kind == ValueKind::length || v.kind == ValueKind::area)) {
        const bool area = v.kind == ValueKind::area;
        json own = amounts([&](double x) { return area ? in_inch(mm(in_inch(mm(x)))) : in_inch(mm(x)); });
        own["unit"] = area ? "in2" : "in";
        j["own_unit"] = own;
    }
    j["source"] = v.source;
    return j;
}

void print(std::ostream& out, const json& j) {
    out << j.dump(2) << "\n";
}

json finding_json(const Finding& f) {
    json j{{"severity", f.severity == Severity::stop ? "stop" : "advice"},
           {"id", f.id},
           {"sentence", f.sentence},
           {"piece", f.piece},
           {"zone", f.zone},
           {"value", tidy(f.value)},
           {"limit", tidy(f.limit)}};
    if (f.remedy) j["remedy"] = f.remedy->label;
    return j;
}

void print_findings(const std::vector<Finding>& findings, std::ostream& out) {
    for (const auto& f : findings) {
        out << (f.severity == Severity::stop ? "stop    " : "advice  ") << f.sentence;
        if (f.remedy) out << " Remedy: " << f.remedy->label << ".";
        out << "\n";
    }
}

std::string column(std::string s, std::size_t width) {
    // counts characters, not bytes, so that Ø lines up; a blank stays between in any case
    std::size_t length = 0;
    for (const char c : s)
        if ((c & 0xC0) != 0x80) ++length;
    s.append(length < width ? width - length : 1, ' ');
    return s;
}

std::string cell_text(const ResolvedValue& v, const std::optional<double>& x, LengthUnit unit) {
    if (!x) return "";
    switch (v.kind) {
    case ValueKind::length:
        return length_text(mm(*x), unit);
    case ValueKind::angle:
        return number_text(in_deg(rad(*x)), 3) + "°";
    case ValueKind::area:
        return unit == LengthUnit::inch ? number_text(*x / (25.4 * 25.4), 4) + " in²"
                                        : number_text(*x, 2) + " mm²";
    case ValueKind::volume:
        return number_text(*x / 1000, 3) + " cm³";
    case ValueKind::mass:
        return number_text(*x, 2) + " g";
    default:
        return number_text(*x, 4);
    }
}

} // namespace whorl
