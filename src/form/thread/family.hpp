// A thread family on one page: its words, sizes, classes and what its standard says about one thread. Each
// stands in its own file under families/; nothing else asks which family a thread is of, but by what its page
// says. Internal to the form floor and to those who list families; resolve_thread() makes the section and the
// sheet's values of a profile.
#pragma once

#include "form/designation.hpp"
#include "form/reader.hpp"
#include "form/thread/thread.hpp"

namespace whorl {

struct Limits {
    std::optional<double> min, max; // mm
    std::string source;
};

struct FamilyProfile {
    // Empty limits: the standard sets none, or none is kept here; the sheet then shows the basic size only.
    Limits major, pitch, minor;
    double basic_major = 0, basic_pitch = 0, basic_minor = 0; // mm
    double basic_root = 0;                                    // of the modelled root at basic size, mm (Ø)
    // Ø of the root when not at basic size: follows `minor` (external) if that has limits, else basic_root.
    std::string basic_source;
    std::optional<double> allowance; // mm
    std::string allowance_source;
    std::string standard;                         // of the basic profile
    double lower_angle = 0, upper_angle = 0;      // flanks to the plane square to the axis, rad
    bool round_crest = false, round_root = false; // rounded as far as it goes
    double crest_rounding = 0, root_rounding = 0; // else radii of their corners, mm
    double pitch_line_groove = 0;                 // width of the groove at the pitch line at basic size, mm
    double taper = 0, gauge_distance = 0;         // dr/dz, mm
    bool sharp = false;                           // no root flat but the least there is
    // Else the mean of pitch and minor diameter, and the middle of the minor diameter's limits.
    std::optional<double> stress_diameter, tap_drill; // mm
    std::string stress_source, tap_drill_source;
};

// The start of an inch designation, as in 1/2-13 UNC: all such families share it, their series' word tells
// them apart.
struct InchStart {
    double diameter = 0, per_inch = 0;                     // in, 1/in
    std::size_t start = 0, per_inch_at = 0, series_at = 0; // places in the text
};

struct FamilyPage {
    const char* word;         // "ISO metric", "trapezoidal", … within a sentence
    const char* key;          // "iso_metric", … as in files
    Card card;                // how the catalogue shows it
    const char* example = ""; // how the size that stands for it there begins
    ThreadUse use = ThreadUse::other;
    bool inch = false;      // written, listed and shown in inch
    bool per_inch = false;  // its pitch is known by the threads per inch
    bool classless = false; // no class is known here

    // How many characters of the text are the family's letters; 0: it does not begin with them.
    std::size_t (*claims)(std::string_view text) = nullptr;
    // After the letters. `known`: sections of one's own.
    Designation (*read)(Reader& r, std::string_view letters, std::span<const OwnSection> known) = nullptr;
    // Or the words that say the series behind a size in inch, longer ones first, and what they mean.
    std::vector<std::string_view> series = {};
    void (*read_series)(Reader& r, const InchStart& start, std::string_view series, ThreadSpec& t) = nullptr;
    // The size as the family writes it, with its class; what all families share is added by the caller.
    std::string (*write)(const ThreadSpec& t) = nullptr;
    // The class is part of `write`, and so are several starts.
    bool writes_class = false, writes_starts = false;
    bool (*writes_in_inches)(const ThreadSpec& t) = nullptr; // where some of the family are, some not
    // Usual designations without class, side and length, with {the words to change}.
    std::vector<Usual> (*usual)(std::span<const OwnSection> known) = nullptr;

    const std::vector<standard::ListedThread>& (*listed)() = nullptr; // none: there is no series
    // The side a class belongs to; throws InputError for one the family does not have. None: serves both.
    std::optional<Side> (*side)(const std::string& tolerance_class) = nullptr;
    std::vector<std::string> external_classes = {}, internal_classes = {};      // the usual one first
    std::string (*counterpart_class)(const ThreadSpec& t, Side side) = nullptr; // none: the usual one
    bool (*own_taper)(const ThreadSpec& t) = nullptr; // 1:16 by its standard; none: never
    void (*taper_values)(std::vector<ResolvedValue>& rows, const ThreadSpec& t,
                         const FamilyProfile& p) = nullptr;
    // Throws InputError for a class the family does not have.
    FamilyProfile (*profile)(const ThreadSpec& t, const StandardStatus& status) = nullptr;
    std::string class_source = {}; // of the row "Class"; empty: the profile's standard
};

extern const FamilyPage iso_metric_page, unified_page, whitworth_page, pipe_g_page, pipe_r_page, npt_page,
    npsm_page, trapezoidal_page, acme_page, stub_acme_page, buttress_page, knuckle_page, square_page,
    sharp_v_page, own_page;
const FamilyPage& page_of(ThreadFamily family);

} // namespace whorl
