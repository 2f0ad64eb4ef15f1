// Pipe threads that seal in themselves: ISO 7-1.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"
#include "form/thread/value_rows.hpp"
#include "standard/thread_series.hpp"

namespace whorl {
namespace {

FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
    FamilyProfile out = pipe_form(s, "ISO 7-1");
    const std::string& c = s.tolerance_class;
    if (s.side == Side::external ? c != "R" : c != "Rc" && c != "Rp")
        throw InputError(in_quotes(c) +
                             " is not a thread of ISO 7-1: R outside, Rc (tapered) or Rp (parallel) inside.",
                         0, c.size());
    out.basic_source = "ISO 7-1, in the gauge plane";
    if (c == "Rp") return out;
    out.taper = 1.0 / 32;
    if (s.side == Side::external) {
        out.gauge_distance = in_mm(s.pitch) * 4; // about, where the size is not listed
        for (const auto& p : standard::pipe_sizes("R"))
            if (std::abs(in_mm(p.listed.diameter - s.diameter)) < 1e-6)
                out.gauge_distance = in_mm(*p.gauge_length);
    }
    return out;
}

const std::vector<standard::ListedThread>& listed() {
    return standard::thread_series("R");
}

std::optional<Side> side(const std::string& text) {
    if (text != "R" && text != "Rc" && text != "Rp")
        throw InputError(in_quotes(text) + " is not a thread of ISO 7-1: R, Rc or Rp.", 0, text.size());
    return text == "R" ? Side::external : Side::internal;
}

std::size_t claims(std::string_view text) {
    return letters_before_number(text, {"Rc", "Rp", "R"});
}

Designation read(Reader& r, std::string_view letters, std::span<const OwnSection>) {
    ThreadSpec t;
    t.family = ThreadFamily::pipe_r;
    read_pipe_size(r, letters, listed(), "R", t);
    t.tolerance_class = letters;
    t.side = *side(t.tolerance_class);
    return with_tail(r, t);
}

std::string write(const ThreadSpec& t) {
    return t.tolerance_class + pipe_size_name(t, listed());
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    std::vector<Usual> out;
    for (const auto& [letters, says] :
         {std::pair{"R", "tapered, outside"}, {"Rc", "tapered, inside"}, {"Rp", "parallel, inside"}})
        for (const auto& t : listed())
            out.push_back({letters + ("{" + t.size + "}"), says});
    return out;
}

// How a tapered pipe thread is put together: hand-tight engagement, useful length, pitch diameters at both.
void taper_values(std::vector<ResolvedValue>& v, const ThreadSpec& spec, const FamilyProfile& d) {
    const auto length = [&](const char* key, const char* label, double value, std::string source) {
        v.push_back(length_value(key, label, value, std::move(source)));
    };
    const standard::PipeSize* size = nullptr;
    for (const auto& p : standard::pipe_sizes("R"))
        if (std::abs(in_mm(p.listed.diameter - spec.diameter)) < 1e-6) size = &p;
    const double hand_tight = size ? in_mm(*size->gauge_length) : 4 * in_mm(spec.pitch);
    length("hand_tight_engagement", "Hand-tight length", hand_tight,
           size ? size->listed.source + ": gauge length" : "about, 4·P: the size is not listed");
    if (size)
        length("useful_length", "Useful length", in_mm(*size->useful_length),
               size->listed.source + ": least, with the basic gauge length");
    length("pitch_diameter_small_end", "Small-end pitch Ø", d.basic_pitch - hand_tight / 16,
           "ISO 7-1: gauge plane Ø − gauge length / 16");
    if (spec.side == Side::internal)
        length("tap_drill", "Tap drill", d.basic_minor - hand_tight / 32,
               "rule of thumb: minor Ø half-way along the hand-tight engagement");
}

bool own_taper(const ThreadSpec& s) {
    return s.tolerance_class != "Rp";
}

} // namespace

const FamilyPage pipe_r_page{
    .word = "R pipe",
    .key = "pipe_r",
    .card = {"Pipe thread R",
             "Pipe thread of ISO 7-1 that seals in itself: R tapered outside, Rc or Rp inside.", "R1/4 x 17"},
    .example = "R1/2",
    .use = ThreadUse::pipe,
    .per_inch = true,
    .claims = claims,
    .read = read,
    .write = write,
    .writes_class = true,
    .usual = usual,
    .listed = listed,
    .side = side,
    .external_classes = {"R"},
    .internal_classes = {"Rc", "Rp"},
    .own_taper = own_taper,
    .taper_values = taper_values,
    .profile = profile,
};

} // namespace whorl
