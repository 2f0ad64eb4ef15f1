// Rows that disc and drum cams have. Internal to the model floor's forms.
#pragma once

#include "model/forms/common_rows.hpp"

namespace whorl {

namespace field {
constexpr Field timing{"timing"};               // "rise 10 in 120 cycloidal, dwell 60, …"
constexpr Field sense{"sense"};                 // "counter-clockwise", "clockwise"
constexpr Field lobe_angle{"lobe_angle"};       // degrees; empty: 0
constexpr Field speed{"speed"};                 // rpm; empty: 60
constexpr Field follower_mass{"follower_mass"}; // g; empty: 0
constexpr Field spring_rate{"spring_rate"};     // N/mm; empty: 0
constexpr Field preload{"preload"};             // N at lift 0; empty: 0
} // namespace field

// The timing where plain numbers are in another unit than they were typed in.
std::string timing_text(const Number& n, LengthUnit unit, const Names& names);
// Throws InputError for a timing that can't be read.
void set_timing(Number& kept, const Typed& typed);

template<auto Timing>
Row timing_row() {
    using F = decltype(form_of(Timing));
    return {
        .field = field::timing,
        .label = "Timing",
        .tip = "What the follower does in one turn: rise 10 in 120 cycloidal, dwell 60, return in 120 "
               "harmonic, dwell; "
               "laws are constant, parabolic, harmonic, cycloidal, 3-4-5, 4-5-6-7, modified-sine, "
               "modified-trapezoid; spline to 10 in 120 through 30/2.5 60/7",
        .of = "a cam",
        .kind = RowKind::text,
        .number = member<Timing>,
        .get = [](const Zone& z,
                  const Reading& as) { return timing_text(std::get<F>(z.form).*Timing, as.unit, as.names); },
        .set = [](Zone& z, const Typed& t) { set_timing(std::get<F>(z.form).*Timing, t); },
        .shown =
            [](const Zone& z, const ResolvedZone&, const Reading& as) {
                return Shown{timing_text(std::get<F>(z.form).*Timing, as.unit, as.names)};
            },
        .hidden = [](const ResolvedZone&) { return true; }, // a sheet has a row for each stretch
        .kept = {.key = "timing", .always = true}};
}

// Kept as true where it is clockwise.
constexpr ChoiceWord sense_words[]{{"counter-clockwise", "ccw"}, {"clockwise", "cw"}};
template<auto Clockwise>
Row sense_row() {
    return {.field = field::sense,
            .label = "Turns",
            .tip = "Seen from the far end",
            .of = "a cam",
            .kind = RowKind::choice,
            .choice = choice_of<Clockwise, sense_words>,
            .kept = {.key = "clockwise", .flag = true}};
}

template<auto At>
Row stands_at_row() {
    return {.field = field::lobe_angle,
            .label = "Stands at",
            .tip = "Where on its shaft the timing begins; the lobes of a camshaft differ by it",
            .of = "a cam",
            .kind = RowKind::angle,
            .number = member<At>,
            .usual = "0°",
            .kept = {.key = "at"}};
}

template<auto Speed>
Row speed_row() {
    return {.field = field::speed,
            .label = "Speed, rpm",
            .tip = "Turns a minute, for speeds and accelerations",
            .of = "a cam",
            .kind = RowKind::number,
            .number = member<Speed>,
            .usual = "60",
            .kept = {.key = "speed"}};
}

// What the follower weighs and what presses it on: plain numbers, in units of their own.
template<auto Part>
Row load_row(Field field, const char* label, const char* tip, const char* key, bool frees_pair = false) {
    return {.field = field,
            .label = label,
            .tip = tip,
            .of = "a cam",
            .kind = RowKind::number,
            .number = member<Part>,
            .usual = "0",
            .frees_pair = frees_pair,
            .kept = {.key = key}};
}

// The number, 0 where it is empty; throws JobError with the place. And back.
double load_number(const Number& n, const Names& names, const std::string& place);
Number load_text(double value);

} // namespace whorl
