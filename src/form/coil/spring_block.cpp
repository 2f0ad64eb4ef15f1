#include "form/coil/spring_block.hpp"

#include "form/coil/coil_load.hpp"
#include "quantity/expression.hpp"

#include <array>
#include <cmath>

namespace whorl {

std::optional<SpringTolerance> spring_tolerance(const ResolvedCoil& c) {
    const double d = c.wire, D = c.largest_mean, w = D / d, n = c.active;
    if (c.spec.kind != SpringKind::compression || !c.round || !c.is_cylinder() || !c.of_one_pitch() ||
        d > 16 || D > 200 || w < 4 || w > 20 || n < 2 || !(c.rate > 0))
        return {};
    constexpr std::array qualities{0.63, 1.0, 1.6};
    const double t = w / 10;
    SpringTolerance out;
    out.quality = qualities.at(static_cast<std::size_t>(c.spec.grade - 1));
    out.of_coils = 65.92 * std::pow(d, 3.3) / std::pow(D, 1.6) *
                   (-0.84 * t * t * t + 3.781 * t * t - 4.244 * t + 2.274) *
                   (-1 / (3 * n * n) + 8 / (5 * n) + 0.803) * out.quality;
    out.length = out.of_coils / c.rate;
    return out;
}

std::vector<std::pair<std::string, std::string>> data_block(const ResolvedCoil& c) {
    const CoilSpec& s = c.spec;
    std::vector<std::pair<std::string, std::string>> out;
    const auto put = [&](const char* name, std::string value) { out.emplace_back(name, std::move(value)); };
    const auto mm_text = [](double v) { return number_text(v, 3) + " mm"; };
    const auto range = [&](double low, double high) {
        return low == high ? mm_text(low) : number_text(low, 3) + " to " + mm_text(high);
    };
    const bool torsion = s.kind == SpringKind::torsion, compression = s.kind == SpringKind::compression;
    put("Kind", std::string(word(s.kind)) + " spring");
    if (c.round)
        put("Wire diameter d", mm_text(c.wire));
    else
        put("Wire, across x along the axis", number_text(c.wire, 3) + " x " + mm_text(c.axial));
    put("Wire", s.material + (s.material == "EN 10270-1" ? " " + s.wire_class : ""));
    put("Mean coil diameter D", range(c.smallest_mean, c.largest_mean));
    put("Outside diameter De", range(c.smallest_mean + c.wire, c.largest_mean + c.wire));
    put("Inside diameter Di", range(c.smallest_mean - c.wire, c.largest_mean - c.wire));
    put("Active coils n", number_text(c.active, 4));
    put("Total coils nt", number_text(c.total, 4));
    put("Direction of coiling", s.hand == Hand::left ? "left" : "right");
    const auto tolerance = spring_tolerance(c);
    if (compression) {
        for (const bool far : {false, true}) {
            const EndTurns& e = c.turns_at(far);
            put(far ? "Far end" : "Near end",
                std::string(e.closed ? "closed" : "open") + (e.ground ? ", ground" : ", not ground"));
        }
        put("Free length L0",
            number_text(c.free_length, 3) + (tolerance ? " ± " + mm_text(tolerance->length) : " mm"));
        put("Pitch p", range(c.smallest_pitch, c.largest_pitch));
        put("Solid length Lc", mm_text(c.solid_length));
    } else {
        put("Body length LK", mm_text(c.body_length));
        put(torsion ? "Near leg" : "Near hook", write_wire_end(s.near, LengthUnit::millimetre));
        put(torsion ? "Far leg" : "Far hook", write_wire_end(s.far, LengthUnit::millimetre));
        if (!torsion) {
            put("Free length L0", mm_text(c.free_length));
            put("Initial tension F0", number_text(c.initial_tension, 2) + " N");
        }
    }
    put("Spring rate",
        torsion ? number_text(c.torsion_rate, 3) + " N·mm/°" : number_text(c.rate, 4) + " N/mm");
    for (std::size_t i = 0; i < s.works.size(); ++i) {
        const LoadCurve::Point p = at_state(c, s.works[i]);
        const std::string number = std::to_string(i + 1);
        if (torsion)
            out.emplace_back("Torque M" + number,
                             number_text(p.load, 1) + " N·mm at " + number_text(p.travel, 2) + "°");
        else
            out.emplace_back(
                "Load F" + number,
                number_text(p.load, 2) +
                    (tolerance ? " ± " + number_text(tolerance->load(p.load), 2) : std::string()) + " N at " +
                    mm_text(standing(c, p.travel)));
    }
    if (tolerance) put("Tolerances", "EN 15800, grade " + std::to_string(s.grade));
    if (const ResolvedValue* wire = find_value(c.values, "wire_length"); wire && wire->value)
        put("Developed length of wire", mm_text(*wire->value));
    if (const ResolvedValue* mass = find_value(c.values, "mass"); mass && mass->value)
        put("Mass", number_text(*mass->value, 2) + " g");
    return out;
}

} // namespace whorl
