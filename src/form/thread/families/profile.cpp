#include "form/thread/families/profile.hpp"

#include "standard/thread_series.hpp"

namespace whorl {

const double height_per_pitch = std::sqrt(3.0) / 2;

double rounded_to_micrometre(double v) {
    return std::round(v * 1000) / 1000;
}

double degrees(double d) {
    return in_rad(deg(d));
}

FamilyProfile sixty_degrees(const ThreadSpec& s, const char* standard) {
    FamilyProfile out;
    out.standard = standard;
    out.lower_angle = out.upper_angle = degrees(30);
    out.pitch_line_groove = in_mm(s.pitch) / 2;
    out.round_root = s.rounded_root && s.side == Side::external;
    return out;
}

FamilyProfile plain_profile(const ThreadSpec& s, const char* standard, double half_angle, double major,
                            double pitch_diameter, double minor) {
    FamilyProfile out;
    out.standard = standard;
    out.lower_angle = out.upper_angle = half_angle;
    out.pitch_line_groove = in_mm(s.pitch) / 2;
    out.basic_major = major;
    out.basic_pitch = pitch_diameter;
    out.basic_minor = minor;
    out.basic_root = s.side == Side::external ? minor : major;
    out.basic_source = std::string(standard) + ", basic dimension";
    return out;
}

FamilyProfile whitworth_form(const ThreadSpec& s, const char* standard) {
    const double d = in_mm(s.diameter), h = 0.640327 * in_mm(s.pitch);
    FamilyProfile out = plain_profile(s, standard, degrees(27.5), d, d - h, d - 2 * h);
    out.round_crest = out.round_root = true;
    return out;
}

FamilyProfile pipe_form(const ThreadSpec& s, const char* standard) {
    FamilyProfile out = whitworth_form(s, standard);
    const double h = rounded_to_micrometre(0.640327 * in_mm(s.pitch));
    out.basic_pitch = rounded_to_micrometre(out.basic_major - h);
    out.basic_minor = rounded_to_micrometre(out.basic_major - 2 * h);
    out.basic_root = s.side == Side::external ? out.basic_minor : out.basic_major;
    return out;
}

AmericanPipe american_pipe(const ThreadSpec& s) {
    const double D = in_inch(s.diameter), p = in_inch(s.pitch);
    AmericanPipe out;
    out.l1 = 4.5 * p;
    for (const auto& size : standard::pipe_sizes("NPT"))
        if (std::abs(in_mm(size.listed.diameter - s.diameter)) < 1e-6) {
            out.l1 = in_inch(*size.hand_tight);
            out.listed = true;
        }
    out.e0 = D - (0.05 * D + 1.1) * p;
    out.e1 = out.e0 + out.l1 / 16;
    out.l2 = (0.8 * D + 6.8) * p;
    return out;
}

} // namespace whorl
