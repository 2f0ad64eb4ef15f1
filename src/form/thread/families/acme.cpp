// Acme and stub Acme threads: ASME B1.5 and B1.8.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"
#include "standard/thread_series.hpp"

namespace whorl {
namespace {

// 29°. Acme: depth p/2 and clearance 0.01 in (0.005 in above 10 threads per inch); stub Acme: depth 0.3·p.
FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
    const bool stub = s.family == ThreadFamily::stub_acme, external = s.side == Side::external;
    const char* standard = stub ? "ASME B1.8" : "ASME B1.5";
    const double D = in_inch(s.diameter), p = in_inch(s.pitch), depth = (stub ? 0.3 : 0.5) * p;
    const double gap = 1 / p > 10.0001 ? 0.010 : 0.020; // on the diameter
    const auto to_mm = [](double in) { return in_mm(inch(in)); };
    FamilyProfile out =
        plain_profile(s, standard, degrees(14.5), to_mm(D), to_mm(D - depth), to_mm(D - 2 * depth));
    if (external) {
        out.basic_root = out.basic_minor = to_mm(D - 2 * depth - gap);
        out.basic_source = std::string(standard) + ": minor Ø D − 2·h − clearance";
    } else {
        out.basic_root = out.basic_major = to_mm(D + gap);
        out.basic_source = std::string(standard) + ": major Ø D + clearance";
    }
    const std::string& c = s.tolerance_class;
    if (c != "2G" && c != "3G" && c != "4G")
        throw InputError(in_quotes(c) + " is not a class of " + std::string(standard) + ": 2G, 3G or 4G.", 0,
                         c.size());
    const double root_d = std::sqrt(D), root_p = std::sqrt(p);
    const double allowance = (c == "2G" ? 0.008 : c == "3G" ? 0.006 : 0.004) * root_d;
    const double t2 = c == "2G"   ? 0.030 * root_p + 0.006 * root_d
                      : c == "3G" ? 0.014 * root_p + 0.0028 * root_d
                                  : 0.010 * root_p + 0.0020 * root_d;
    const std::string rule = std::string(standard) + ", class " + c;
    out.allowance = external ? to_mm(allowance) : 0;
    out.allowance_source = rule + ": k·√D";
    if (external) {
        out.major = {to_mm(D - std::max(0.05 * p, 0.005)), to_mm(D), rule + ": 0.05·p, at least 0.005 in"};
        out.pitch = {out.basic_pitch - to_mm(allowance + t2), out.basic_pitch - to_mm(allowance),
                     rule + ": a·√p + b·√D"};
        out.minor = {out.basic_root - to_mm(1.5 * t2), out.basic_root,
                     rule + ": 1.5 × pitch diameter tolerance"};
    } else {
        const double more = 1 / p > 10.0001 ? 0.010 : 0.020; // D + 0.020 in, D + 0.040 in from 10 per inch on
        out.major = {
            out.basic_major, out.basic_major + to_mm(more),
            rule + (more > 0.015 ? ": clearance 0.020 in + 0.020 in" : ": clearance 0.010 in + 0.010 in")};
        out.pitch = {out.basic_pitch, out.basic_pitch + to_mm(t2), rule + ": a·√p + b·√D"};
        out.minor = {out.basic_minor, out.basic_minor + to_mm(std::max(0.05 * p, 0.005)),
                     rule + ": 0.05·p, at least 0.005 in"};
    }
    return out;
}

const std::vector<standard::ListedThread>& listed() {
    return standard::thread_series("ACME");
}
const std::vector<standard::ListedThread>& stub_listed() {
    return standard::thread_series("STUB ACME");
}

void read_series(Reader& r, const InchStart&, std::string_view, ThreadSpec& t) {
    read_class(r, t);
}

std::string write(const ThreadSpec& t) {
    const auto* found = standard::find_listed(listed_threads(t.family), t.diameter, t.pitch);
    return (found ? found->size : number_text(in_inch(t.diameter), 7)) + "-" +
           number_text(threads_per_inch(t.pitch), 6) +
           (t.family == ThreadFamily::acme ? " ACME" : " STUB ACME");
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    return usual_inch(listed(), "ACME");
}
std::vector<Usual> stub_usual(std::span<const OwnSection>) {
    return usual_inch(stub_listed(), "STUB ACME");
}

std::string counterpart_class(const ThreadSpec& t, Side) {
    return t.tolerance_class;
}

} // namespace

const FamilyPage acme_page{
    .word = "Acme",
    .key = "acme",
    .card = {"Acme thread", "The inch motion thread of ASME B1.5, 29°.", "1-5 ACME-2G x 1.3"},
    .example = "1-5",
    .use = ThreadUse::motion,
    .inch = true,
    .per_inch = true,
    .series = {"ACME"},
    .read_series = read_series,
    .write = write,
    .usual = usual,
    .listed = listed,
    .external_classes = {"2G", "3G", "4G"},
    .internal_classes = {"2G", "3G", "4G"},
    .counterpart_class = counterpart_class,
    .profile = profile,
};

const FamilyPage stub_acme_page{
    .word = "stub Acme",
    .key = "stub_acme",
    .card = {"Stub Acme thread", "Acme of 0.3 pitches' depth, ASME B1.8: where the wall is thin.",
             "1-5 STUB ACME-2G x 1.3"},
    .example = "1-5",
    .use = ThreadUse::motion,
    .inch = true,
    .per_inch = true,
    .series = {"STUB ACME", "STUB"},
    .read_series = read_series,
    .write = write,
    .usual = stub_usual,
    .listed = stub_listed,
    .external_classes = {"2G", "3G", "4G"},
    .internal_classes = {"2G", "3G", "4G"},
    .counterpart_class = counterpart_class,
    .profile = profile,
};

} // namespace whorl
