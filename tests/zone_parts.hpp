// What a test changes in a zone it has just made: the form it is known to wear.
#pragma once

#include "model/job.hpp"

namespace whorl {

inline PlainForm& plain_of(Zone& z) {
    return std::get<PlainForm>(z.form);
}
inline ThreadForm& thread_of(Zone& z) {
    return std::get<ThreadForm>(z.form);
}
inline const ThreadForm& thread_of(const Zone& z) {
    return std::get<ThreadForm>(z.form);
}
// Of a plain, threaded or knurled zone; of a lobe its base radius.
inline Number& diameter_of(Zone& z) {
    if (auto* lobe = z.as<LobeForm>()) return lobe->base_radius;
    if (auto* drum = z.as<DrumForm>()) return drum->diameter;
    if (auto* knurl = z.as<KnurlForm>()) return knurl->diameter;
    return z.as<ThreadForm>() ? thread_of(z).diameter : plain_of(z).diameter;
}
inline const Number& diameter_of(const Zone& z) {
    return diameter_of(const_cast<Zone&>(z));
}

} // namespace whorl
