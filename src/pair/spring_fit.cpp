#include "pair/spring_fit.hpp"

#include "form/coil/coil_load.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

double inside(const ResolvedCoil& c) {
    return c.smallest_mean - c.wire;
}
double outside(const ResolvedCoil& c) {
    return c.largest_mean + c.wire;
}

// Of the outside when solid; 0 where it isn't known.
double growth(const ResolvedCoil& c) {
    const ResolvedValue* v = find_value(c.values, "growth");
    return v && v->value ? *v->value : 0;
}

// How far a torsion spring is wound, degrees; 0 where neither what it works at nor what it bears is known.
double wound_by(const ResolvedCoil& c) {
    double most = 0;
    for (const SprungState& s : c.spec.works)
        most = std::max(most, at_state(c, s).travel);
    return most > 0 || c.permissible_moment <= 0 ? most : c.curve.points().back().travel;
}

class Report {
public:
    void length(const char* key, const char* label, double value, std::string source) {
        put(key, label, ValueKind::length, value, std::move(source));
    }
    void number(const char* key, const char* label, double value, std::string source) {
        put(key, label, ValueKind::number, value, std::move(source));
    }
    // The clearance there; the least of them is the fit's.
    void clearance(const char* key, const char* label, double value, std::string source) {
        length(key, label, value, std::move(source));
        out.clearance = any_ ? std::min(out.clearance, value) : value;
        any_ = true;
    }
    void wrong(const char* id, std::string sentence, double value, double limit, bool stops = true) {
        out.mistakes.push_back({id, std::move(sentence), value, limit, stops});
    }
    SpringFit out;

private:
    void put(const char* key, const char* label, ValueKind kind, double value, std::string source) {
        ResolvedValue v;
        v.key = key;
        v.label = label;
        v.kind = kind;
        v.value = value;
        v.source = std::move(source);
        out.values.push_back(std::move(v));
    }
    bool any_ = false;
};

std::string size(double v) {
    return number_text(v, 3) + " mm";
}

// A length at which both stand, and what they bear there.
double load_at(const ResolvedCoil& c, double length) {
    return c.free_length > length ? c.curve.at_travel(c.free_length - length).load : 0;
}

} // namespace

bool SpringFit::goes_together() const {
    return std::ranges::none_of(mistakes, &PairMistake::stops);
}

SpringFit spring_over_rod(const ResolvedCoil& c, double rod) {
    Report r;
    double least = inside(c);
    r.clearance("rod_clearance", "Clearance on the rod", least - rod, "Di − rod, across");
    if (const double angle = c.spec.kind == SpringKind::torsion ? wound_by(c) : 0; angle > 0) {
        least = c.smallest_mean * c.total / (c.total + angle / 360) - c.wire;
        r.length("wound_inside", "Inside when wound", least,
                 "D·n/(n + α/360°) − d, wound by " + number_text(angle, 1) + "°");
        r.clearance("rod_clearance_wound", "Clearance then", least - rod, "across");
    }
    if (c.spec.kind == SpringKind::extension)
        for (const WireEnd* e : {&c.spec.near, &c.spec.far})
            if (e->is_hook() && e->kind != WireEndKind::side) {
                r.wrong(
                    "hooks",
                    "A hook of the kind " + std::string(word(e->kind)) +
                        " stands across the spring's axis, where the rod is; write side for one beside it.",
                    0, 0);
                break;
            }
    if (least <= rod)
        r.wrong("rod",
                c.spec.kind == SpringKind::torsion
                    ? "The spring binds on the rod of Ø " + size(rod) + ": wound, it is " + size(least) +
                          " inside."
                    : "The rod of Ø " + size(rod) + " does not go into the spring: it is " + size(least) +
                          " inside.",
                rod, least);
    return std::move(r.out);
}

SpringFit spring_in_bore(const ResolvedCoil& c, double bore) {
    Report r;
    const double wide = outside(c), grown = wide + growth(c);
    r.clearance("bore_clearance", "Clearance in the bore", bore - wide, "bore − De, across");
    if (grown > wide)
        r.clearance("bore_clearance_solid", "Clearance when solid", bore - grown,
                    "De grown by 0.1·(p² − 0.8·p·d − 0.2·d²)/D, EN 13906-1");
    if (bore <= wide)
        r.wrong("bore",
                "The spring does not go into the bore of Ø " + size(bore) + ": it is " + size(wide) +
                    " outside.",
                bore, wide);
    else if (bore <= grown)
        r.wrong("bore",
                "The spring grows to " + size(grown) + " before it is solid and jams in the bore of Ø " +
                    size(bore) + ".",
                bore, grown);
    return std::move(r.out);
}

SpringFit nested_springs(const ResolvedCoil& one, const ResolvedCoil& other) {
    const bool first_outer = one.largest_mean >= other.largest_mean;
    const ResolvedCoil &out = first_outer ? one : other, &in = first_outer ? other : one;
    Report r;
    const double room = inside(out), grown = outside(in) + growth(in);
    r.clearance("nest_clearance", "Clearance between", room - outside(in),
                "Di of the outer less De of the inner spring, across");
    if (growth(in) > 0)
        r.clearance(
            "nest_clearance_solid", "When the inner is solid", room - grown,
            "De grown by 0.1·(p² − 0.8·p·d − 0.2·d²)/D, EN 13906-1; the outer one's own growth left out");
    if (room <= grown)
        r.wrong("nest",
                (room <= outside(in) ? "The inner spring is " + size(outside(in)) + " outside"
                                     : "The inner spring grows to " + size(grown) + " before it is solid") +
                    "; the outer one is " + size(room) +
                    " inside. Make the inner one narrower, or of thinner wire.",
                outside(in), room);
    if (one.spec.hand == other.spec.hand)
        r.wrong("hands",
                "Both springs are wound the same way: their coils catch in each other if one tilts. Wind one "
                "of them the other way.",
                0, 0, false);
    if (one.spec.kind != SpringKind::compression || other.spec.kind != SpringKind::compression)
        return std::move(r.out);
    r.number("nested_rate", "Rate together, N/mm", one.rate + other.rate, "the sum, where both are pressed");
    if (const double apart = std::abs(one.free_length - other.free_length); apart > 1e-9)
        r.length("free_lengths_apart", "Free lengths apart by", apart,
                 std::string(out.free_length > in.free_length ? "the outer" : "the inner") +
                     " one bears alone so far");
    const double shortest = std::max(one.solid_length, other.solid_length);
    r.length("nested_solid", "Shortest length", shortest,
             std::string(out.solid_length >= in.solid_length ? "the outer" : "the inner") +
                 " spring is solid then");
    const double all = load_at(out, shortest) + load_at(in, shortest);
    r.number("nested_load", "Load there, N", all, "the sum of both at that length");
    if (all > 0)
        r.number("inner_share", "Of it the inner, %", 100 * load_at(in, shortest) / all, "at that length");
    return std::move(r.out);
}

SpringFit spring_fit(const ResolvedCoil& spring, const ResolvedZone& other) {
    return other.coil()      ? nested_springs(spring, *other.coil())
           : other.in_bore() ? spring_in_bore(spring, 2 * in_mm(other.smallest_radius()))
                             : spring_over_rod(spring, 2 * in_mm(other.largest_radius()));
}

} // namespace whorl
