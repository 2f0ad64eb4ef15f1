// The words that disc and drum cams have in common in their designations. Internal to the cams.
//
//   at 90    clockwise    120 rpm    mass 200 spring 0.8 preload 5        (g, N/mm, N)
#pragma once

#include "form/cam/forces.hpp"
#include "form/reader.hpp"

namespace whorl {

struct CamTurning {
    bool& clockwise;
    double &at, &rpm; // rad
    FollowerLoad& load;
};
template<class Spec>
CamTurning turning(Spec& s) {
    return {s.clockwise, s.at, s.rpm, s.load};
}

class CamWords {
public:
    CamWords(Reader& reader, CamTurning of) : r_(reader), of_(of) {}
    // Whether there was one; throws InputError for one that is said twice or isn't finished.
    bool take();

private:
    void once(bool& given, std::size_t from, const char* what);
    double signed_number(const char* what, const char* shown);

    Reader& r_;
    CamTurning of_;
    bool turned_ = false, speed_ = false, mass_ = false, spring_ = false, preload_ = false;
};

// " at 90 clockwise; mass 200 spring 0.8 preload 5; 120 rpm": what is not as usual.
std::string cam_words(bool clockwise, double at, double rpm, const FollowerLoad& load);

} // namespace whorl
