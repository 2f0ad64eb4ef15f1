#include "form/knurl/knurl.hpp"

#include "form/reader.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

constexpr double slant = 30 * pi / 180; // DIN 82
constexpr double right_angle = pi / 2;

constexpr std::string_view kind_words[]{"axial", "ring", "left", "right", "crossed", "axial-ring"};

void require(bool holds, const std::string& sentence) {
    if (!holds) throw InputError(sentence);
}
void require_between(double v, double least, double most, const char* what) {
    require(v >= least && v <= most, std::string("The ") + what + " of a knurl is " +
                                         outside_text(v, least, most) + " mm; it must be between " +
                                         number_text(least, 3) + " and " + number_text(most, 3) + " mm.");
}

// What DIN 82 calls it.
std::string name_of(const KnurlSpec& s) {
    switch (s.kind) {
    case KnurlKind::axial:
        return "RAA";
    case KnurlKind::left:
        return "RBL";
    case KnurlKind::right:
        return "RBR";
    case KnurlKind::crossed:
        return s.sunk ? "RGV" : "RGE";
    case KnurlKind::crossed_ring:
        return s.sunk ? "RKV" : "RKE";
    case KnurlKind::ring:
        break;
    }
    return {};
}

// The mean of the wave over the pattern, and of its square: w alone is spread evenly over 0 to 1, the larger
// of two with density 2w.
struct Mean {
    double depth, square; // as parts of h and h²
};
Mean mean_of(const KnurlSpec& s) {
    if (!is_crossed(s.kind)) return {1.0 / 2, 1.0 / 3};
    return s.sunk ? Mean{1.0 / 3, 1.0 / 6} : Mean{2.0 / 3, 1.0 / 2};
}

// What DIN 82 takes off the diameter for the blank, in pitches; none where it says nothing of the profile.
std::optional<double> blank_factor(const KnurlSpec& s) {
    if (s.depth || s.profile_angle > 0 || s.kind == KnurlKind::ring) return {};
    return !is_crossed(s.kind) ? 0.5 : s.sunk ? 0.33 : 0.67;
}

double wave(double u) {
    return std::abs(2 * (u - std::floor(u)) - 1);
}

void add_values(ResolvedKnurl& k, double nominal, double profile) {
    const KnurlSpec& s = k.spec;
    const auto add = [&](const char* key, const char* label, ValueKind kind, double value,
                         const std::string& source) {
        k.values.push_back({.key = key, .label = label, .kind = kind, .value = value, .source = source});
    };
    const auto worded = [&](const char* key, const char* label, const std::string& said,
                            const std::string& source) {
        k.values.push_back(
            {.key = key, .label = label, .kind = ValueKind::text, .text = said, .source = source});
    };
    if (const std::string name = name_of(s); !name.empty()) worded("standard_name", "Form", name, "DIN 82");
    if (k.teeth > 0) {
        add("teeth", "Teeth around", ValueKind::number, k.teeth,
            s.teeth ? "as asked" : "the whole number nearest to π·Ø·cos β / pitch");
        add("pitch", "Pitch", ValueKind::length, k.pitch,
            "π·Ø·cos β / teeth, square to the grooves" +
                (s.teeth ? std::string()
                         : "; asked " + number_text(nominal, 4) +
                               (std::abs(k.pitch - nominal) < 1e-9 ? "" : ", this is what closes")));
    }
    if (k.ring_pitch > 0)
        add(k.teeth > 0 ? "ring_pitch" : "pitch", k.teeth > 0 ? "Pitch of the rings" : "Pitch",
            ValueKind::length, k.ring_pitch, k.teeth > 0 ? "that of the axial grooves" : "as asked");
    add("outside_diameter", "Outside Ø", ValueKind::length, 2 * k.radius, "as asked, over the ridges");
    add("root_diameter", "Root Ø", ValueKind::length, 2 * k.root(), "outside Ø − 2 × depth");
    add("depth", "Depth", ValueKind::length, k.depth,
        s.depth ? "as asked" : "pitch / (2·tan of half the profile angle)");
    add("profile_angle", "Profile angle", ValueKind::angle, profile,
        s.depth               ? "2·atan(pitch / (2·depth))"
        : s.profile_angle > 0 ? "as asked"
                              : "DIN 82");
    if (k.helix != 0 || s.kind == KnurlKind::crossed)
        add("helix_angle", "Slant of the grooves", ValueKind::angle, slant, "DIN 82, to the axis");
    const std::optional<double> factor = blank_factor(s);
    add("blank_diameter", "Blank Ø", ValueKind::length, k.blank_diameter,
        factor ? "DIN 82: Ø − " + number_text(*factor, 2) + " × pitch" : "the blank has the knurl's volume");
}

} // namespace

std::string_view word(KnurlKind kind) {
    return kind_words[static_cast<int>(kind)];
}

const std::vector<double>& preferred_knurl_pitches() {
    static const std::vector<double> all{0.5, 0.6, 0.8, 1.0, 1.2, 1.6};
    return all;
}

ResolvedKnurl resolve_knurl(const KnurlSpec& spec) {
    ResolvedKnurl k;
    k.spec = spec;
    const double d = in_mm(spec.diameter), nominal = in_mm(spec.pitch);
    require_between(d, 1, 1000, "diameter");
    if (!spec.teeth || spec.kind == KnurlKind::ring) require_between(nominal, 0.1, 10, "pitch");
    require(!spec.sunk || is_crossed(spec.kind), "Only crossed knurls have points to be sunk in.");
    require(!spec.depth || spec.profile_angle == 0,
            "A knurl's depth and its profile angle follow from each other; write one of them.");
    k.radius = d / 2;
    const bool slanted =
        spec.kind == KnurlKind::left || spec.kind == KnurlKind::right || spec.kind == KnurlKind::crossed;
    const double cosine = slanted ? std::cos(slant) : 1;
    if (spec.kind != KnurlKind::ring) {
        const double fitting = spec.teeth ? *spec.teeth : std::round(pi * d * cosine / nominal);
        require(fitting >= 8 && fitting <= most_knurl_teeth,
                "A knurl has 8 to " + std::to_string(most_knurl_teeth) +
                    " teeth around; here it would have " + number_text(fitting, 0) +
                    (spec.teeth ? "." : ". Choose another pitch or diameter."));
        k.teeth = static_cast<int>(fitting);
        k.pitch = pi * d * cosine / k.teeth;
    } else {
        require(!spec.teeth, "A ring knurl has no teeth around; write its pitch.");
    }
    if (slanted) k.twist = std::tan(slant) / k.radius * (spec.kind == KnurlKind::left ? -1 : 1);
    if (slanted && spec.kind != KnurlKind::crossed) k.helix = spec.kind == KnurlKind::left ? -slant : slant;
    if (spec.kind == KnurlKind::ring) k.ring_pitch = nominal;
    if (spec.kind == KnurlKind::crossed_ring) k.ring_pitch = k.pitch;
    const double pitch = k.teeth > 0 ? k.pitch : k.ring_pitch;
    double profile = spec.profile_angle > 0 ? spec.profile_angle : right_angle;
    if (spec.depth) {
        k.depth = in_mm(*spec.depth);
        require_between(k.depth, 0.02, 0.4 * k.radius, "depth");
        profile = 2 * std::atan(pitch / (2 * k.depth));
    } else {
        k.depth = pitch / (2 * std::tan(profile / 2));
    }
    require(profile >= 40 * pi / 180 - 1e-9 && profile <= 150 * pi / 180 + 1e-9,
            "The profile angle is " + number_text(profile * 180 / pi, 2) +
                "°; it must be between 40° and 150°, which at this pitch is a depth of " +
                number_text(pitch / (2 * std::tan(75 * pi / 180)), 3) + " to " +
                number_text(pitch / (2 * std::tan(20 * pi / 180)), 3) + " mm.");
    require(k.depth <= 0.4 * k.radius, "These grooves are " + number_text(k.depth, 3) +
                                           " mm deep, too much for Ø " + number_text(d, 3) +
                                           " mm; choose a smaller pitch.");
    const Mean mean = mean_of(spec);
    const std::optional<double> factor = blank_factor(spec);
    k.blank_diameter = factor ? d - *factor * k.pitch
                              : 2 * std::sqrt(k.radius * k.radius - 2 * mean.depth * k.radius * k.depth +
                                              mean.square * k.depth * k.depth);
    add_values(k, nominal, profile);
    return k;
}

double knurl_radius(const ResolvedKnurl& k, double theta, double z) {
    const double around = k.teeth / (2 * pi);
    double w = k.teeth > 0 ? wave(around * (theta - k.twist * z)) : wave(z / k.ring_pitch);
    if (k.spec.kind == KnurlKind::crossed) w = std::max(w, wave(around * (theta + k.twist * z)));
    if (k.spec.kind == KnurlKind::crossed_ring) w = std::max(w, wave(z / k.ring_pitch));
    return k.radius - k.depth * (k.spec.sunk ? 1 - w : w);
}

double facet_count(const ResolvedKnurl& k, double length) {
    if (k.spec.kind == KnurlKind::ring) return 8 * length / k.ring_pitch; // in quarters
    if (k.spec.kind == KnurlKind::crossed_ring) return 4 * k.teeth * length / k.ring_pitch;
    if (k.spec.kind != KnurlKind::crossed)
        return 2 * k.teeth * std::max(1.0, std::ceil(std::abs(k.twist) * length / (pi / 2)));
    return 4 * k.teeth * length * k.teeth * k.twist / pi; // a row of cells every π/(n·τ)
}

} // namespace whorl
