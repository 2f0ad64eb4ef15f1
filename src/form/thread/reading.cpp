#include "form/thread/reading.hpp"

#include "form/thread/family.hpp"
#include "quantity/expression.hpp"
#include "standard/unified.hpp"

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

namespace {

// The words behind a thread, in any order, each once.
class TailReader {
public:
    TailReader(Reader& r, Designation& out) : r_(r), out_(out), thread_(std::get_if<ThreadSpec>(&out.what)) {
        // whether its class was written: what was read ends in it
        if (thread_ && !thread_->tolerance_class.empty())
            class_said_ = r.before().ends_with(thread_->tolerance_class);
    }

    void read() {
        for (r_.skip_blanks(); !r_.done(); r_.skip_blanks()) {
            const std::size_t start = r_.at();
            if (thread_ && (starts(start) || side(start) || hand(start) || tolerance(start) || taper(start)))
                continue;
            if (length(start)) continue;
            r_.refuse(
                "This was not understood: " + in_quotes(r_.rest(), 40) + ". " +
                (thread_
                     ? "After the thread may come a class (-6g), internal, LH, a taper and a length (x 40)."
                     : designation_examples()));
        }
    }

private:
    void once(bool& said, std::size_t start) {
        if (said) r_.refuse_from(start, "This is said a second time; write it once.");
        said = true;
    }
    bool starts(std::size_t) {
        if (!r_.take("(")) return false;
        const std::size_t inside = r_.at();
        const auto n = r_.take_whole();
        r_.skip_blanks();
        if (!n || *n < 1 || *n > 8 ||
            !(r_.take_word_ignoring_case("starts") || r_.take_word_ignoring_case("start")) || !r_.take(")"))
            throw InputError("The number of starts, 1 to 8, is expected in the brackets, as in (2 starts).",
                             inside, std::max<std::size_t>(1, r_.at() - inside));
        once(starts_said_, inside);
        thread_->starts = *n;
        return true;
    }
    bool side(std::size_t start) {
        const bool internal = r_.take_word_ignoring_case("internal");
        if (!internal && !r_.take_word_ignoring_case("external")) return false;
        once(side_said_, start);
        const Side asked = internal ? Side::internal : Side::external;
        if (const auto by_class = side_of_class(thread_->family, thread_->tolerance_class);
            by_class && *by_class != asked) {
            if (class_said_)
                r_.refuse_from(start, "The class " + thread_->tolerance_class + " is that of an " +
                                          (internal ? "external" : "internal") + " thread; an " +
                                          (internal ? "internal" : "external") + " one has for example " +
                                          usual_class(thread_->family, asked) + ".");
            thread_->tolerance_class = usual_class(thread_->family, asked);
        }
        thread_->side = asked;
        return true;
    }
    bool hand(std::size_t start) {
        const bool dash = r_.take("-");
        const bool left = r_.take_word_ignoring_case("LH");
        if (!left && !r_.take_word_ignoring_case("RH")) {
            if (dash) r_.move_to(start);
            return false;
        }
        once(hand_said_, start);
        thread_->hand = left ? Hand::left : Hand::right;
        return true;
    }
    // a class behind the hand or the starts: M12 LH-6g
    bool tolerance(std::size_t start) {
        if (class_said_ || r_.peek() != '-') return false;
        const Side before = thread_->side;
        read_class(r_, *thread_);
        if (side_said_ && thread_->side != before)
            r_.refuse_from(start, "The class " + thread_->tolerance_class + " is that of an " +
                                      (before == Side::internal ? "external" : "internal") +
                                      " thread; leave out one of the two.");
        class_said_ = true;
        return true;
    }
    bool taper(std::size_t start) {
        if (!r_.take_word_ignoring_case("taper")) return false;
        once(taper_said_, start);
        r_.skip_blanks();
        const auto rise = r_.take_decimal();
        const bool colon = rise && r_.take(":");
        const auto run = colon ? r_.take_decimal() : std::nullopt;
        if (!run || !(*rise > 0) || !(*run >= 3 * *rise))
            throw InputError("A taper is written as 1:16, at most 1:3, on the diameter.", start,
                             std::max<std::size_t>(5, r_.at() - start));
        if (has_own_taper(*thread_))
            throw InputError("This thread has its taper by its standard, 1:16; leave it out.", start,
                             r_.at() - start);
        thread_->taper = *rise / *run / 2;
        return true;
    }

    // Up to the next word of these, or the end.
    std::string_view length_text() const {
        const std::string_view rest = r_.rest();
        for (std::size_t i = 1; thread_ && i < rest.size(); ++i) {
            if (rest[i - 1] != ' ') continue;
            Reader here(rest.substr(i));
            if (here.take("x ") || here.take("X ")) return rest.substr(0, i); // a second length
            for (const char* word : {"LH", "RH", "internal", "external", "taper"})
                if (here.take_word_ignoring_case(word)) return rest.substr(0, i);
            if (here.take("-LH") || here.take("-RH")) return rest.substr(0, i);
            if (const auto close = rest.find("start", i); rest[i] == '(' && close != rest.npos)
                return rest.substr(0, i);
        }
        return rest;
    }
    bool length(std::size_t begin) {
        if (!r_.take_times()) return false;
        once(length_said_, begin);
        r_.skip_blanks();
        const std::size_t start = r_.at();
        std::string_view text = length_text();
        while (!text.empty() && text.back() == ' ')
            text.remove_suffix(1);
        if (text.empty()) r_.refuse("A length is missing after the x, for example x 40.");
        try {
            out_.length = evaluate_length(text, out_.unit);
        } catch (const InputError& e) {
            throw InputError(e.what(), start + e.position, e.extent);
        }
        r_.move_to(start + text.size());
        if (!(in_mm(*out_.length) > 0) || in_mm(*out_.length) > 1e4)
            throw InputError("The length is " + outside_text(in_mm(*out_.length), 0, 1e4) +
                                 " mm; it must be more than zero and at most 10000 mm.",
                             start, text.size());
        if (thread_) require_reasonable(*out_.length, thread_->diameter, text, out_.unit, start);
        return true;
    }

    Reader& r_;
    Designation& out_;
    ThreadSpec* thread_;
    bool class_said_ = false, starts_said_ = false, side_said_ = false, hand_said_ = false,
         taper_said_ = false, length_said_ = false;
};

} // namespace

void require_reasonable(Length length, Length diameter, std::string_view text, LengthUnit unit,
                        std::size_t at) {
    const bool unit_said = text.find_first_of("mi\"") != text.npos || text.find("\xE2\x80\xB3") != text.npos;
    if (unit != LengthUnit::inch || unit_said || length <= diameter * 150) return;
    const std::string said(text);
    throw InputError(said + " is in inch here, " + number_text(length / diameter, 0) +
                         " times the thread's diameter; write " + said + " in if that is meant, or " + said +
                         " mm.",
                     at, text.size());
}

void read_tail(Reader& r, Designation& out) {
    TailReader(r, out).read();
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

namespace {

constexpr const char* series_wanted =
    "The series is expected here: UNC, UNF, UNEF, UN, UNS (UNRC … with a rounded root), BSW, BSF, NPT, "
    "NPSM, ACME or STUB ACME, for example 1/4-20 UNC-2A.";

// The series' listed threads per inch for a diameter in inch; none: it has no such size, or leaves the pitch open.
std::optional<double> listed_per_inch(const FamilyPage& page, std::string_view series, double diameter) {
    if (!page.listed) return {};
    std::string word(series);
    if (word.starts_with("UNR")) word.erase(2, 1); // of a rounded root
    if (word == "NPTF") word = "NPT";
    if (word == "STUB") word = "STUB ACME";
    if (word == "UN" || word == "UNS") return {};
    for (const standard::ListedThread& l : page.listed()) {
        Reader printed(l.size);
        const auto named = printed.take_inch_size(); // of a pipe its size, not its diameter
        if (l.series == word && named && std::abs(*named - diameter) < 1e-6) return threads_per_inch(l.pitch);
    }
    return {};
}

} // namespace

Designation read_inch_thread(Reader& r) {
    InchStart from;
    from.start = r.at();
    const auto d = r.take_inch_size();
    if (!d)
        r.refuse("This is no designation that is known here. Write a thread (M10x1.5-6g x 40, 1/4-20 UNC-2A "
                 "x 1.5, G1/2 A, "
                 "Tr20x4 x 100), gear m2 z24 b20, rack, spring d2 D20 L50 n7, cam r20: …, drum cam, knurl, "
                 "groove, "
                 "silhouette, bend, round 12 x 30, hex, or a piece such as ISO 4762 M6 x 25, nut M10, elbow "
                 "G3/8 90; the "
                 "catalogue (whorl list) has them all.");
    require_positive(r, from.start, *d, "diameter");
    from.diameter = *d;
    const std::size_t behind_size = r.at();
    const bool dash = r.take("-");
    if (dash) {
        from.per_inch_at = r.at();
        from.per_inch = r.positive("number of threads per inch",
                                   "Threads per inch are expected here, for example 1/4-20 UNC.");
    }
    r.skip_blanks();
    from.series_at = r.at();
    for (int f = 0; f < family_count; ++f) {
        const FamilyPage& page = page_of(static_cast<ThreadFamily>(f));
        for (const std::string_view series : page.series) {
            if (!r.take_word_ignoring_case(series)) continue;
            if (!dash) { // 3/4 UNC, 1/2 NPT: as the series lists it
                const auto per_inch = listed_per_inch(page, series, from.diameter);
                if (!per_inch) {
                    r.move_to(behind_size);
                    r.refuse("The " + std::string(series) +
                             " series lists no such size; write its threads per inch, as in " +
                             std::string(page.example) + ".");
                }
                from.per_inch = *per_inch;
                from.per_inch_at = behind_size;
            }
            ThreadSpec t;
            t.family = static_cast<ThreadFamily>(f);
            t.diameter = inch(from.diameter);
            t.pitch = inch(1 / from.per_inch);
            page.read_series(r, from, series, t);
            return with_tail(r, t, LengthUnit::inch);
        }
    }
    if (!dash) {
        r.move_to(behind_size);
        r.refuse(
            "Threads per inch or a series are expected after the size, for example 1/4-20 UNC or 1/4 UNC.");
    }
    // 3/4-10: the Unified series that has it
    for (const standard::ListedThread& l : standard::unified_series())
        if (std::abs(in_inch(l.diameter) - from.diameter) < 1e-6 &&
            std::abs(threads_per_inch(l.pitch) - from.per_inch) < 1e-6) {
            const FamilyPage& page = page_of(ThreadFamily::unified);
            ThreadSpec t;
            t.family = ThreadFamily::unified;
            t.diameter = inch(from.diameter);
            t.pitch = inch(1 / from.per_inch);
            page.read_series(r, from, l.series, t);
            return with_tail(r, t, LengthUnit::inch);
        }
    r.refuse(series_wanted);
}

} // namespace whorl
