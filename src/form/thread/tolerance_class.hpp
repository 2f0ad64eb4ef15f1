// Reading a tolerance class, shared by the thread families.
#pragma once

#include "form/thread/thread.hpp"

namespace whorl {

// ISO 965-1: a class for the pitch diameter and one for the crest (major external, minor internal) diameter.
struct MetricClass {
    int pitch_grade;
    char pitch_position;
    int crest_grade;
    char crest_position;
};
MetricClass metric_class(const std::string& text); // throws InputError

struct UnifiedClass {
    int grade; // 1 2 3
    bool external;
};
UnifiedClass unified_class(const std::string& text); // throws InputError

} // namespace whorl
