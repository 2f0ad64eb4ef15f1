// Parallel pipe threads: ISO 228-1.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"
#include "standard/thread_series.hpp"

namespace whorl {
namespace {

FamilyProfile profile(const ThreadSpec& s, const StandardStatus& status) {
    FamilyProfile out = pipe_form(s, "ISO 228-1");
    const bool external = s.side == Side::external;
    if (external ? s.tolerance_class != "A" && s.tolerance_class != "B" : !s.tolerance_class.empty())
        throw InputError(
            in_quotes(s.tolerance_class) +
                " is not a class of ISO 228-1: A or B for external threads, none for internal ones.",
            0, s.tolerance_class.size());
    out.allowance = 0;
    out.allowance_source = "ISO 228-1: the upper limit is basic";
    const standard::PipeSize* size = nullptr;
    for (const auto& p : standard::pipe_sizes("G"))
        if (status.listed && std::abs(in_mm(p.listed.diameter - s.diameter)) < 1e-6) size = &p;
    if (!size) return out;
    const std::string source = size->listed.source;
    const double k = s.tolerance_class == "B" ? 2 : 1, t2 = k * in_mm(*size->pitch_tolerance);
    if (external) {
        out.major = {out.basic_major - in_mm(*size->major_tolerance), out.basic_major, source};
        out.pitch = {out.basic_pitch - t2, out.basic_pitch, source + ", class " + s.tolerance_class};
    } else {
        out.major = {out.basic_major, {}, source + "; no upper limit is set"};
        out.pitch = {out.basic_pitch, out.basic_pitch + t2, source};
        out.minor = {out.basic_minor, out.basic_minor + in_mm(*size->minor_tolerance), source};
    }
    return out;
}

const std::vector<standard::ListedThread>& listed() {
    return standard::thread_series("G");
}

std::optional<Side> side(const std::string& text) {
    if (text != "A" && text != "B" && !text.empty())
        throw InputError(in_quotes(text) +
                             " is not a class of ISO 228-1: A or B for external threads, none for "
                             "internal ones.",
                         0, text.size());
    return text.empty() ? Side::internal : Side::external;
}

std::size_t claims(std::string_view text) {
    return letters_before_number(text, {"G"});
}

Designation read(Reader& r, std::string_view letters, std::span<const OwnSection>) {
    ThreadSpec t;
    t.family = ThreadFamily::pipe_g;
    t.tolerance_class = "";
    read_pipe_size(r, letters, listed(), "G", t);
    r.skip_blanks();
    r.take("-");
    for (const char* c : {"A", "B"})
        if (r.take_word_ignoring_case(c)) {
            t.tolerance_class = c;
            break;
        }
    t.side = *side(t.tolerance_class);
    return with_tail(r, t);
}

std::string write(const ThreadSpec& t) {
    return "G" + pipe_size_name(t, listed()) + (t.tolerance_class.empty() ? "" : " " + t.tolerance_class);
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    std::vector<Usual> out;
    for (const auto& t : listed())
        out.push_back({"G{" + t.size + "} {A}", number_text(threads_per_inch(t.pitch), 3) + " per inch"});
    return out;
}

} // namespace

const FamilyPage pipe_g_page{
    .word = "G pipe",
    .key = "pipe_g",
    .card = {"Pipe thread G", "Parallel pipe thread of ISO 228-1; a seal makes the joint tight.",
             "G1/4 A x 17"},
    .example = "G1/2",
    .use = ThreadUse::pipe,
    .per_inch = true,
    .claims = claims,
    .read = read,
    .write = write,
    .writes_class = true,
    .usual = usual,
    .listed = listed,
    .side = side,
    .external_classes = {"A", "B"},
    .internal_classes = {""},
    .profile = profile,
};

} // namespace whorl
