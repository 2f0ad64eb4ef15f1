// American pipe threads, tapered and parallel: ASME B1.20.1.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"
#include "form/thread/value_rows.hpp"
#include "standard/thread_series.hpp"
#include "standard/unified.hpp"

namespace whorl {
namespace {

void refuse_pipe_class(const ThreadSpec& s) {
    if (!s.tolerance_class.empty())
        throw InputError("A thread of ASME B1.20.1 has no class; leave " + in_quotes(s.tolerance_class) +
                             " away.",
                         0, s.tolerance_class.size());
}

// E0 = D − (0.05·D + 1.1)·p, E1 = E0 + L1/16; depth 0.8·p; flats from truncating the sharp triangle.
FamilyProfile taper_profile(const ThreadSpec& s, const StandardStatus&) {
    refuse_pipe_class(s);
    const AmericanPipe pipe = american_pipe(s);
    // held at the small end outside, at the mouth (hand-tight plane) inside
    const double e = s.side == Side::external ? pipe.e0 : pipe.e1, h = 0.8 * in_inch(s.pitch);
    FamilyProfile out =
        plain_profile(s, "ASME B1.20.1", degrees(30), in_mm(inch(e + h)), in_mm(inch(e)), in_mm(inch(e - h)));
    out.basic_source = s.side == Side::external ? "ASME B1.20.1: E0 = D − (0.05·D + 1.1)·p, at the small end"
                                                : "ASME B1.20.1: E1 = E0 + L1/16, at the mouth";
    out.taper = 1.0 / 32;
    return out;
}

// Free-fitting parallel threads: the Unified form on the pitch diameter E1. Sizes whose limits are not kept
// here have them by the rules of classes 2A and 2B.
FamilyProfile parallel_profile(const ThreadSpec& s, const StandardStatus& status) {
    using namespace standard;
    refuse_pipe_class(s);
    const Length pitch_diameter = rounded_to_ten_thousandth_inch(inch(american_pipe(s).e1));
    const double H = height_per_pitch * in_mm(s.pitch), e = in_mm(pitch_diameter);
    FamilyProfile out = sixty_degrees(s, "ASME B1.20.1");
    out.basic_pitch = e;
    out.basic_major = e + 0.75 * H;
    out.basic_minor = e - 0.5 * H;
    out.basic_source = "ASME B1.20.1: E1 = E0 + L1/16, with the Unified heights";
    const PipeSize* size = nullptr;
    for (const auto& p : pipe_sizes("NPSM"))
        if (status.listed && p.allowance && std::abs(in_mm(p.listed.diameter - s.diameter)) < 1e-6) size = &p;
    const Length td2 = unified_pitch_tolerance_2a(s.diameter, s.pitch * 9, s.pitch);
    const std::string source = size ? size->listed.source
                                    : "rule of classes 2A and 2B of ASME B1.1 with 9·p of engagement; the "
                                      "printed limits of this size are not kept here";
    const auto thousandth = [](double l) { return in_mm(rounded_to_thousandth_inch(mm(l))); };
    if (s.side == Side::external) {
        out.allowance = in_mm(size ? *size->allowance : unified_allowance(2, td2));
        out.allowance_source = source;
        out.pitch.max = e - *out.allowance;
        out.pitch.min =
            *out.pitch.max - in_mm(size ? *size->pitch_tolerance : unified_pitch_tolerance(2, true, td2));
        out.major.max = thousandth(*out.pitch.max + 0.75 * H);
        out.major.min =
            *out.major.max - in_mm(size ? *size->major_tolerance
                                        : rounded_to_thousandth_inch(unified_major_tolerance(2, s.pitch)));
        out.pitch.source = out.major.source = source;
        out.basic_root = e - 0.625 * H;
    } else {
        out.allowance = 0;
        out.allowance_source = "ASME B1.20.1: internal threads have no allowance";
        out.pitch = {e, e + in_mm(size ? *size->nut_tolerance : unified_pitch_tolerance(2, false, td2)),
                     source};
        out.minor.min = thousandth(out.basic_minor);
        if (size) out.minor.max = *out.minor.min + in_mm(*size->minor_tolerance);
        out.minor.source = size ? source : source + "; no upper limit";
        out.major = {out.basic_major, {}, "ASME B1.20.1: basic; no upper limit is set"};
        out.basic_root = out.basic_major;
    }
    return out;
}

const std::vector<standard::ListedThread>& taper_listed() {
    return standard::thread_series("NPT");
}
const std::vector<standard::ListedThread>& parallel_listed() {
    return standard::thread_series("NPSM");
}

// The size is the pipe's name, not its diameter.
void read_series(Reader& r, const InchStart& from, std::string_view series, ThreadSpec& t) {
    const std::string name(series);
    if (name == "NPTF") throw InputError("Dryseal NPTF is not known here; NPT is.", from.series_at, 4);
    const standard::ListedThread* found = nullptr;
    for (const auto& l : standard::thread_series(name)) {
        Reader printed(l.size);
        if (std::abs(*printed.take_inch_size() - from.diameter) < 1e-9) found = &l;
    }
    if (!found)
        throw InputError(name + " has no pipe size " + number_text(from.diameter, 4) +
                             "; there are 1/16, 1/8, 1/4, 3/8, 1/2, 3/4, 1 … 6.",
                         from.start, from.per_inch_at - from.start);
    if (std::abs(in_inch(found->pitch) * from.per_inch - 1) > 1e-6)
        throw InputError(name + " " + found->size + " has " + number_text(threads_per_inch(found->pitch), 3) +
                             " threads per inch, not " + number_text(from.per_inch, 3) + ".",
                         from.per_inch_at, from.series_at - from.per_inch_at);
    t.diameter = found->diameter;
    read_class(r, t);
}

std::string write(const ThreadSpec& t) {
    return pipe_size_name(t, listed_threads(t.family)) + "-" + number_text(threads_per_inch(t.pitch), 6) +
           " " + word(t.family);
}

std::vector<Usual> usual_of(const char* series) {
    std::vector<Usual> out;
    for (const auto& t : standard::thread_series(series))
        out.push_back({"{" + t.size + "}-{" + number_text(threads_per_inch(t.pitch), 3) + "} " + series,
                       "Ø " + number_text(in_mm(t.diameter), 1) + " mm outside"});
    return out;
}
std::vector<Usual> taper_usual(std::span<const OwnSection>) {
    return usual_of("NPT");
}
std::vector<Usual> parallel_usual(std::span<const OwnSection>) {
    return usual_of("NPSM");
}

// How a tapered pipe thread is put together: hand-tight engagement, useful length, pitch diameters at both.
void taper_values(std::vector<ResolvedValue>& v, const ThreadSpec& spec, const FamilyProfile& d) {
    const auto length = [&](const char* key, const char* label, double value, std::string source) {
        v.push_back(length_value(key, label, value, std::move(source)));
    };
    const AmericanPipe pipe = american_pipe(spec);
    const auto to_mm = [](double inches) { return in_mm(inch(inches)); };
    const double hand_tight = to_mm(pipe.l1);
    length("hand_tight_engagement", "Hand-tight length", hand_tight,
           pipe.listed ? "ASME B1.20.1 table 2: L1" : "about, 4.5·p: the size is not listed");
    length("useful_length", "Effective length", to_mm(pipe.l2), "ASME B1.20.1: L2 = (0.80·D + 6.8)·p");
    length("pitch_diameter_small_end", "Small-end pitch Ø", to_mm(pipe.e0),
           "ASME B1.20.1: E0 = D − (0.05·D + 1.1)·p");
    length("pitch_diameter_hand_tight", "Hand-tight pitch Ø", to_mm(pipe.e1),
           "ASME B1.20.1: E1 = E0 + L1/16");
    if (spec.side == Side::internal)
        length("tap_drill", "Tap drill", d.basic_minor - hand_tight / 32,
               "rule of thumb: minor Ø half-way along the hand-tight engagement");
}

bool own_taper(const ThreadSpec&) {
    return true;
}

} // namespace

const FamilyPage npt_page{
    .word = "NPT",
    .key = "npt",
    .card = {"Pipe thread NPT", "Tapered inch pipe thread of ASME B1.20.1 that seals with a compound.",
             "1/4-18 NPT x 0.7"},
    .example = "1/2-14",
    .use = ThreadUse::pipe,
    .inch = true,
    .per_inch = true,
    .series = {"NPTF", "NPT"},
    .read_series = read_series,
    .write = write,
    .usual = taper_usual,
    .listed = taper_listed,
    .own_taper = own_taper,
    .taper_values = taper_values,
    .profile = taper_profile,
};

const FamilyPage npsm_page{
    .word = "NPSM",
    .key = "npsm",
    .card = {"Pipe thread NPSM", "Parallel, free-fitting inch pipe thread of ASME B1.20.1.",
             "1/4-18 NPSM x 0.7"},
    .example = "1/2-14",
    .use = ThreadUse::pipe,
    .inch = true,
    .per_inch = true,
    .series = {"NPSM"},
    .read_series = read_series,
    .write = write,
    .usual = parallel_usual,
    .listed = parallel_listed,
    .profile = parallel_profile,
};

} // namespace whorl
