#include "form/thread/reading.hpp"

#include "form/thread/family.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace whorl {

std::size_t letters_before_number(std::string_view text, std::initializer_list<std::string_view> letters) {
    for (const std::string_view l : letters) {
        if (!text.starts_with(l)) continue;
        const auto rest = text.substr(l.size());
        const char next = rest.empty() ? '\0' : rest[0] == ' ' && rest.size() > 1 ? rest[1] : rest[0];
        if (next == '\0' || next == '.' || std::isdigit(static_cast<unsigned char>(next))) return l.size();
    }
    return 0;
}

std::string class_at(Reader& r, ThreadFamily family) {
    const std::size_t start = r.at();
    std::string text = r.take_alnum();
    try {
        side_of_class(family, text);
    } catch (const InputError& e) {
        throw InputError(e.what(), start, std::max<std::size_t>(1, text.size()));
    }
    return text;
}

// -class, if there is one; else the usual class.
void read_class(Reader& r, ThreadSpec& t) {
    t.tolerance_class = usual_class(t.family, t.side);
    const char next = r.peek(1);
    const bool hand = (next == 'L' || next == 'l' || next == 'R' || next == 'r') &&
                      std::toupper(static_cast<unsigned char>(r.peek(2))) == 'H';
    if (r.peek() != '-' || hand) return;
    r.take("-");
    const std::size_t start = r.at();
    t.tolerance_class = class_at(r, t.family);
    if (const auto side = side_of_class(t.family, t.tolerance_class)) t.side = *side;
    // what the class alone does not say, its family's rule does
    try {
        (void)resolve_thread(t);
    } catch (const InputError& e) {
        throw InputError(e.what(), start, std::max<std::size_t>(1, r.at() - start));
    }
}

// [LH] [taper 1:16] [x length [unit]] and then nothing more.
void read_tail(Reader& r, Designation& out) {
    auto* thread = std::get_if<ThreadSpec>(&out.what);
    r.skip_blanks();
    if (thread && r.take("(")) {
        const std::size_t start = r.at();
        const auto n = r.take_whole();
        r.skip_blanks();
        if (!n || *n < 1 || *n > 8 ||
            !(r.take_word_ignoring_case("starts") || r.take_word_ignoring_case("start")) || !r.take(")"))
            throw InputError("The number of starts, 1 to 8, is expected in the brackets, as in (2 starts).",
                             start, std::max<std::size_t>(1, r.at() - start));
        thread->starts = *n;
        r.skip_blanks();
    }
    if (thread && !side_of_class(thread->family, thread->tolerance_class)) {
        if (r.take_word_ignoring_case("internal"))
            thread->side = Side::internal;
        else
            r.take_word_ignoring_case("external");
        r.skip_blanks();
    }
    const std::size_t before_dash = r.at();
    if (thread) {
        const bool dash = r.take("-");
        if (r.take_word_ignoring_case("LH"))
            thread->hand = Hand::left;
        else if (r.take_word_ignoring_case("RH"))
            thread->hand = Hand::right;
        else if (dash)
            r.move_to(before_dash);
    }
    r.skip_blanks();
    if (const std::size_t start = r.at(); thread && r.take_word_ignoring_case("taper")) {
        r.skip_blanks();
        const auto rise = r.take_decimal();
        const bool colon = rise && r.take(":");
        const auto run = colon ? r.take_decimal() : std::nullopt;
        if (!run || !(*rise > 0) || !(*run >= 3 * *rise))
            throw InputError("A taper is written as 1:16, at most 1:3, on the diameter.", start,
                             std::max<std::size_t>(5, r.at() - start));
        if (has_own_taper(*thread))
            throw InputError("This thread has its taper by its standard, 1:16; leave it out.", start,
                             r.at() - start);
        thread->taper = *rise / *run / 2;
    }
    r.skip_blanks();
    if (r.take_times()) {
        r.skip_blanks();
        const std::size_t start = r.at();
        const std::string_view rest = r.rest();
        if (rest.empty()) r.refuse("A length is missing after the x, for example x 40.");
        try {
            out.length = evaluate_length(rest, out.unit);
        } catch (const InputError& e) {
            throw InputError(e.what(), start + e.position, e.extent);
        }
        r.move_to(start + rest.size());
        if (!(in_mm(*out.length) > 0) || in_mm(*out.length) > 1e4)
            throw InputError("The length is " + outside_text(in_mm(*out.length), 0, 1e4) +
                                 " mm; it must be more than zero and at most 10000 mm.",
                             start, rest.size());
    }
    r.skip_blanks();
    if (!r.done())
        r.refuse("This was not understood: " + in_quotes(r.rest(), 40) + ". " +
                 (thread ? "After the thread may come a class (-6g), LH and a length (x 40)."
                         : designation_examples()));
}

Designation with_tail(Reader& r, const ThreadSpec& t, LengthUnit unit) {
    Designation out;
    out.what = t;
    out.unit = unit;
    read_tail(r, out);
    return out;
}

std::size_t read_millimetre_pair(Reader& r, const std::string& letters, ThreadSpec& t) {
    const std::string example = ", for example " + letters + "20x4.";
    t.diameter = mm(r.positive("diameter", "A diameter is expected after " + letters + example));
    if (r.peek() == ' ' || !r.take_times()) r.refuse("The pitch is expected after an x" + example);
    const std::size_t pitch_at = r.at();
    t.pitch = mm(r.positive("pitch", "A pitch is expected after the x" + example));
    return pitch_at;
}

Designation read_pair_family(Reader& r, const std::string& letters, ThreadFamily family) {
    ThreadSpec t;
    t.family = family;
    read_millimetre_pair(r, letters, t);
    read_class(r, t);
    return with_tail(r, t);
}

std::string write_pair(const std::string& letters, const ThreadSpec& t) {
    return letters + number_text(in_mm(t.diameter), 6) + "x" + number_text(in_mm(t.pitch), 6);
}

std::vector<Usual> usual_pairs(const std::string& letters,
                               const std::vector<standard::ListedThread>& listed) {
    std::vector<Usual> out;
    out.reserve(listed.size());
    for (const auto& l : listed)
        out.push_back(
            {letters + "{" + number_text(in_mm(l.diameter), 4) + "}x{" + number_text(in_mm(l.pitch), 4) + "}",
             ""});
    return out;
}

std::vector<Usual> usual_inch(const std::vector<standard::ListedThread>& listed, const std::string& series) {
    std::vector<Usual> out;
    out.reserve(listed.size());
    for (const auto& l : listed)
        out.push_back({"{" + l.size + "}-{" + number_text(threads_per_inch(l.pitch), 3) + "} " + series, ""});
    return out;
}

void set_starts(const Reader& r, std::size_t from, double lead, double pitch, const std::string& subject,
                const std::string& object, ThreadSpec& t) {
    const double starts = lead / pitch;
    if (std::abs(starts - std::round(starts)) > 1e-6 || starts < 0.5 || starts > 8.5)
        throw InputError("The lead must be 1 to 8 times the pitch; " + subject + number_text(starts, 3) +
                             object,
                         from, r.at() - from);
    t.pitch = mm(pitch);
    t.starts = static_cast<int>(std::lround(starts));
}

void read_pipe_size(Reader& r, std::string_view letters, const std::vector<standard::ListedThread>& all,
                    const std::string& series, ThreadSpec& t) {
    r.skip_blanks();
    const std::size_t start = r.at();
    const auto size = r.take_inch_size();
    const std::string l(letters);
    if (!size) r.refuse("A size is expected after " + l + ", for example " + l + "1/2.");
    std::string sizes;
    for (const auto& listed : all) {
        Reader printed(listed.size);
        if (std::abs(*printed.take_inch_size() - *size) < 1e-9) {
            t.diameter = listed.diameter;
            t.pitch = listed.pitch;
            return;
        }
        sizes += (sizes.empty() ? "" : ", ") + listed.size;
    }
    r.refuse_from(start, "There is no such size; " + series + " has " + sizes + ".");
}

std::string pipe_size_name(const ThreadSpec& t, const std::vector<standard::ListedThread>& all) {
    const auto* listed = standard::find_listed(all, t.diameter, t.pitch);
    return listed ? listed->size : "(" + number_text(in_mm(t.diameter), 4) + " mm)";
}

Designation read_inch_thread(Reader& r) {
    InchStart from;
    from.start = r.at();
    const auto d = r.take_inch_size();
    if (!d) r.refuse("This is no designation that is known here. " + designation_examples());
    require_positive(r, from.start, *d, "diameter");
    from.diameter = *d;
    if (!r.take("-")) r.refuse("Threads per inch are expected after the size, for example 1/4-20 UNC.");
    from.per_inch_at = r.at();
    from.per_inch = r.positive("number of threads per inch",
                               "Threads per inch are expected here, for example 1/4-20 UNC.");
    r.skip_blanks();
    from.series_at = r.at();
    for (int f = 0; f < family_count; ++f) {
        const FamilyPage& page = page_of(static_cast<ThreadFamily>(f));
        for (const std::string_view series : page.series) {
            if (!r.take_word_ignoring_case(series)) continue;
            ThreadSpec t;
            t.family = static_cast<ThreadFamily>(f);
            t.diameter = inch(from.diameter);
            t.pitch = inch(1 / from.per_inch);
            page.read_series(r, from, series, t);
            return with_tail(r, t, LengthUnit::inch);
        }
    }
    r.refuse(
        "The series is expected here: UNC, UNF, UNEF, UN, UNS (UNRC … with a rounded root), BSW, BSF, NPT, "
        "NPSM, ACME or STUB ACME, for example 1/4-20 UNC-2A.");
}

} // namespace whorl
