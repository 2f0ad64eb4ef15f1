// The words that disc and drum cams have in common in their designations. Internal to the cams.
//
//   at 90    clockwise    120 rpm    mass 200 spring 0.8 preload 5        (g, N/mm, N)
#pragma once

#include "form/cam/forces.hpp"
#include "form/cam/timing.hpp"
#include "form/spec_reader.hpp"

namespace whorl {

// The timing up to the next semicolon, behind the colon.
Timing take_timing(SpecReader& r);
// What is said of the number that must stand here.
double load_at(SpecReader& r, const char* what, const char* example);
// Whether this unit, or the other, stands here; both are taken.
bool takes_unit(SpecReader& r, std::string_view unit, std::string_view other);

template<class Out>
constexpr SpecWord<Out> turning_words[]{
    {"clockwise", "The sense", [](SpecReader&, Out& out) { out.spec.clockwise = true; }},
    {"cw", "The sense", [](SpecReader&, Out& out) { out.spec.clockwise = true; }},
    {"counter-clockwise", "The sense", [](SpecReader&, Out& out) { out.spec.clockwise = false; }},
    {"counterclockwise", "The sense", [](SpecReader&, Out& out) { out.spec.clockwise = false; }},
    {"anticlockwise", "The sense", [](SpecReader&, Out& out) { out.spec.clockwise = false; }},
    {"ccw", "The sense", [](SpecReader&, Out& out) { out.spec.clockwise = false; }},
    {"at", "at",
     [](SpecReader& r, Out& out) {
         out.spec.at = r.angle("An angle in degrees is expected here, for example at 90.");
     }},
    {"mass", "mass",
     [](SpecReader& r, Out& out) {
         out.spec.load.mass = load_at(r, "The follower's mass in g", "mass 200");
         if (takes_unit(r, "kg", "g")) out.spec.load.mass *= 1000;
     }},
    {"spring", "spring",
     [](SpecReader& r, Out& out) {
         out.spec.load.rate = load_at(r, "The spring's rate in N/mm", "spring 0.8");
         takes_unit(r, "N/mm", "N/mm");
     }},
    {"preload", "preload",
     [](SpecReader& r, Out& out) {
         out.spec.load.force = load_at(r, "The force at lift 0 in N", "preload 5");
         takes_unit(r, "N", "N");
     }},
    {"rpm", "The speed", [](SpecReader& r, Out& out) { out.spec.rpm = r.said(); }, true},
};

// " at 90 clockwise; mass 200 spring 0.8 preload 5; 120 rpm": what is not as usual.
std::string cam_words(bool clockwise, double at, double rpm, const FollowerLoad& load);

} // namespace whorl
