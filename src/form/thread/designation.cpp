#include "form/thread/designation.hpp"

#include "form/thread/tolerance_class.hpp"
#include "quantity/expression.hpp"
#include "standard/iso_metric.hpp"
#include "standard/thread_series.hpp"
#include "standard/unified.hpp"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>

namespace whorl {
namespace {

constexpr std::size_t longest_designation = 200;
constexpr const char* examples = "Write for example M10x1.5-6g x 40, 1/4-20 UNC-2A x 1.5, G1/2 A, Tr20x4-7e "
                                 "x 100, 1/2-14 NPT or round 12 x 30.";

// Reads a text from left to right and remembers where it is, for exact error positions.
class Reader {
public:
    explicit Reader(std::string_view text) : text_(text) {}

    bool done() const { return at_ >= text_.size(); }
    std::size_t at() const { return at_; }
    char peek(std::size_t ahead = 0) const { return at_ + ahead < text_.size() ? text_[at_ + ahead] : '\0'; }
    void skip_blanks() {
        while (peek() == ' ' || peek() == '\t')
            ++at_;
    }
    bool take(std::string_view word) { // case-sensitive
        if (text_.substr(at_, word.size()) != word) return false;
        at_ += word.size();
        return true;
    }
    bool take_word_ignoring_case(std::string_view word) {
        if (text_.size() - at_ < word.size()) return false;
        for (std::size_t i = 0; i < word.size(); ++i)
            if (std::tolower(static_cast<unsigned char>(text_[at_ + i])) !=
                std::tolower(static_cast<unsigned char>(word[i])))
                return false;
        if (std::isalnum(static_cast<unsigned char>(peek(word.size())))) return false;
        at_ += word.size();
        return true;
    }
    bool take_times() { // x X ×
        if (peek() == 'x' || peek() == 'X' || peek() == '*') return ++at_, true;
        return take("\xC3\x97");
    }
    std::optional<double> take_decimal() {
        double v = 0;
        const auto* begin = text_.data() + at_;
        if (!(std::isdigit(static_cast<unsigned char>(peek())) || peek() == '.')) return {};
        const auto [end, error] =
            std::from_chars(begin, text_.data() + text_.size(), v, std::chars_format::fixed);
        if (error != std::errc()) return {};
        at_ += static_cast<std::size_t>(end - begin);
        return v;
    }
    std::optional<int> take_whole() {
        if (!std::isdigit(static_cast<unsigned char>(peek()))) return {};
        int v = 0;
        const auto* begin = text_.data() + at_;
        const auto [end, error] = std::from_chars(begin, text_.data() + text_.size(), v);
        if (error != std::errc()) return {};
        at_ += static_cast<std::size_t>(end - begin);
        return v;
    }
    std::string take_alnum() {
        std::string out;
        while (std::isalnum(static_cast<unsigned char>(peek())))
            out.push_back(text_[at_++]);
        return out;
    }
    std::string_view rest() const { return text_.substr(at_); }
    void move_to(std::size_t place) { at_ = place; }

    [[noreturn]] void refuse(const std::string& sentence) const {
        throw InputError(sentence, at_, at_ < text_.size() ? 1 : 0);
    }

private:
    std::string_view text_;
    std::size_t at_ = 0;
};

void require_positive(const Reader& r, std::size_t start, double v, const char* what) {
    if (!(v > 0) || v > 1e5)
        throw InputError(std::string("The ") + what + " must be more than zero and below 100000.", start,
                         r.at() - start);
}

std::string class_at(Reader& r, ThreadFamily family) {
    const std::size_t start = r.at();
    const std::string text = r.take_alnum();
    try {
        side_of_class(family, text);
    } catch (const InputError& e) {
        throw InputError(e.what(), start, std::max<std::size_t>(1, text.size()));
    }
    return text;
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
                 (thread ? "After the thread may come a class (-6g), LH and a length (x 40)." : examples));
}

Designation read_metric(Reader& r) {
    Designation out;
    ThreadSpec t;
    const std::size_t start = r.at();
    const auto d = r.take_decimal();
    if (!d) r.refuse("A diameter is expected after M, for example M10.");
    require_positive(r, start, *d, "diameter");
    t.diameter = mm(*d);
    bool pitch_given = false;
    // `x1.5` is a pitch; ` x 40` (with a blank before it) is the length
    if (r.peek() != ' ' && r.take_times()) {
        const std::size_t pitch_start = r.at();
        if (r.take("Ph") || r.take("PH") || r.take("ph")) {
            const auto lead = r.take_decimal();
            if (!lead) r.refuse("A lead is expected after Ph, for example M16xPh4P2.");
            if (!(r.take("P") || r.take("p")))
                r.refuse("P and the pitch are expected after the lead: M16xPh4P2.");
            const auto pitch = r.take_decimal();
            if (!pitch) r.refuse("A pitch is expected after P, for example M16xPh4P2.");
            require_positive(r, pitch_start, *pitch, "pitch");
            require_positive(r, pitch_start, *lead, "lead");
            const double starts = *lead / *pitch;
            if (std::abs(starts - std::round(starts)) > 1e-6 || starts < 0.5 || starts > 8.5)
                throw InputError("The lead must be 1 to 8 times the pitch; Ph" + number_text(*lead, 4) + "P" +
                                     number_text(*pitch, 4) + " is " + number_text(starts, 3) + " times.",
                                 pitch_start, r.at() - pitch_start);
            t.pitch = mm(*pitch);
            t.starts = static_cast<int>(std::lround(starts));
        } else {
            const auto pitch = r.take_decimal();
            if (!pitch) r.refuse("A pitch is expected after the x, for example M10x1.5.");
            require_positive(r, pitch_start, *pitch, "pitch");
            t.pitch = mm(*pitch);
        }
        pitch_given = true;
    }
    if (!pitch_given) {
        const auto* coarse = standard::iso_coarse(t.diameter);
        if (!coarse)
            throw InputError("M" + number_text(*d, 4) +
                                 " has no coarse pitch in ISO 261; write the pitch, as in M" +
                                 number_text(*d, 4) + "x1.",
                             start, r.at() - start);
        t.pitch = coarse->pitch;
    }
    if (r.peek() == '-' && !(std::toupper(static_cast<unsigned char>(r.peek(1))) == 'L' ||
                             std::toupper(static_cast<unsigned char>(r.peek(1))) == 'R')) {
        r.take("-");
        t.tolerance_class = class_at(r, ThreadFamily::iso_metric);
    }
    t.side = *side_of_class(t.family, t.tolerance_class);
    out.what = t;
    read_tail(r, out);
    return out;
}

// A whole number, a decimal, a fraction or a mixed number, in inch; or #n. Nothing is consumed if it is none.
std::optional<double> read_inch_size(Reader& r) {
    const std::size_t start = r.at();
    if (r.take("#")) {
        const auto n = r.take_whole();
        if (!n || *n < 0 || *n > 12)
            throw InputError("Numbered sizes run from #0 to #12.", start,
                             std::max<std::size_t>(1, r.at() - start));
        return 0.060 + 0.013 * *n; // ASME B1.1: numbered diameters
    }
    auto first = r.take_decimal();
    if (!first) return {};
    if (r.peek() == '/') {
        r.take("/");
        const auto den = r.take_whole();
        if (!den || *den == 0) r.refuse("A whole number above zero is expected under the fraction bar.");
        return *first / *den;
    }
    const std::size_t after_first = r.at();
    if (r.peek() == ' ' || r.peek() == '-') { // 1 3/8 or 1-3/8
        r.move_to(after_first + 1);
        const auto num = r.take_whole();
        if (num && r.take("/")) {
            const auto den = r.take_whole();
            if (den && *den > 0) return *first + static_cast<double>(*num) / *den;
        }
        r.move_to(after_first);
    }
    return first;
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

Designation read_unified(Reader& r) {
    Designation out;
    out.unit = LengthUnit::inch;
    ThreadSpec t;
    t.family = ThreadFamily::unified;
    t.tolerance_class = "2A";
    const std::size_t start = r.at();
    const auto d = read_inch_size(r);
    if (!d) r.refuse(std::string("This is no designation that is known here. ") + examples);
    require_positive(r, start, *d, "diameter");
    t.diameter = inch(*d);
    if (!r.take("-")) r.refuse("Threads per inch are expected after the size, for example 1/4-20 UNC.");
    const std::size_t tpi_start = r.at();
    const auto tpi = r.take_decimal();
    if (!tpi) r.refuse("Threads per inch are expected here, for example 1/4-20 UNC.");
    require_positive(r, tpi_start, *tpi, "number of threads per inch");
    t.pitch = inch(1 / *tpi);
    r.skip_blanks();
    const std::size_t series_start = r.at();
    std::string series;
    using F = ThreadFamily;
    for (const auto& [text, family] : {std::pair{"BSW", F::whitworth},
                                       {"BSF", F::whitworth},
                                       {"Whit", F::whitworth},
                                       {"NPTF", F::npt},
                                       {"NPT", F::npt},
                                       {"NPSM", F::npsm},
                                       {"ACME", F::acme},
                                       {"STUB ACME", F::stub_acme},
                                       {"STUB", F::stub_acme}}) {
        if (!r.take_word_ignoring_case(text)) continue;
        if (std::string_view(text) == "NPTF")
            throw InputError("Dryseal NPTF is not known here; NPT is.", series_start, 4);
        t.family = family;
        if (family == F::npt || family == F::npsm) {
            // the size is the pipe's name, not its diameter
            const standard::ListedThread* listed = nullptr;
            for (const auto& l : standard::thread_series(text)) {
                Reader printed(l.size);
                if (std::abs(*read_inch_size(printed) - *d) < 1e-9) listed = &l;
            }
            if (!listed)
                throw InputError(std::string(text) + " has no pipe size " + number_text(*d, 4) +
                                     "; there are 1/16, 1/8, 1/4, 3/8, 1/2, 3/4, 1 … 6.",
                                 start, tpi_start - start);
            if (std::abs(in_inch(listed->pitch) * *tpi - 1) > 1e-6)
                throw InputError(std::string(text) + " " + listed->size + " has " +
                                     number_text(threads_per_inch(listed->pitch), 3) +
                                     " threads per inch, not " + number_text(*tpi, 3) + ".",
                                 tpi_start, series_start - tpi_start);
            t.diameter = listed->diameter;
        }
        if (std::string_view(text) == "BSW" || std::string_view(text) == "BSF") {
            const auto& sizes = standard::thread_series(text);
            const auto* in_series = standard::find_listed(sizes, t.diameter, t.pitch);
            if (!in_series)
                throw InputError(std::string("The ") + text + " series has no " + number_text(*d, 5) + "-" +
                                     number_text(*tpi, 3) + "; write Whit for a special one.",
                                 start, series_start + 3 - start);
        }
        read_class(r, t);
        out.what = t;
        read_tail(r, out);
        return out;
    }
    // UNR and its kin: the same threads with a rounded root, external only (ASME B1.1, clause 4)
    for (const auto& [text, plain] :
         {std::pair{"UNREF", "UNEF"}, std::pair{"UNRC", "UNC"}, std::pair{"UNRF", "UNF"},
          std::pair{"UNRS", "UNS"}, std::pair{"UNR", "UN"}, std::pair{"UNEF", "UNEF"},
          std::pair{"UNC", "UNC"}, std::pair{"UNF", "UNF"}, std::pair{"UNS", "UNS"}, std::pair{"UN", "UN"}})
        if (r.take_word_ignoring_case(text)) {
            series = plain;
            t.rounded_root = std::string_view(text) != plain;
            break;
        }
    if (series.empty())
        r.refuse("The series is expected here: UNC, UNF, UNEF, UN, UNS (UNRC … with a rounded root), BSW, "
                 "BSF, NPT, NPSM, ACME or STUB "
                 "ACME, for "
                 "example 1/4-20 UNC-2A.");
    if (series == "UNC" || series == "UNF" || series == "UNEF") {
        const standard::ListedThread* in_series = nullptr;
        for (const auto& l : standard::unified_series())
            if (l.series == series && std::abs(in_inch(l.diameter) - *d) < 1e-6) in_series = &l;
        if (!in_series)
            throw InputError("The " + series + " series has no size " + number_text(*d, 5) +
                                 " in; write UN or UNS for a special one.",
                             series_start, series.size());
        if (std::abs(in_inch(in_series->pitch) * *tpi - 1) > 1e-6)
            throw InputError("In the " + series + " series " + in_series->size + " has " +
                                 number_text(1 / in_inch(in_series->pitch), 3) + " threads per inch, not " +
                                 number_text(*tpi, 3) + "; write UNS for a special one.",
                             tpi_start, series_start + series.size() - tpi_start);
    }
    if (r.peek() == '-' && std::isdigit(static_cast<unsigned char>(r.peek(1)))) {
        r.take("-");
        t.tolerance_class = class_at(r, ThreadFamily::unified);
    }
    t.side = *side_of_class(t.family, t.tolerance_class);
    if (t.rounded_root && t.side == Side::internal)
        throw InputError("Only external threads are UNR, with a rounded root; a nut for one is " + series +
                             "-" + t.tolerance_class + ".",
                         series_start, 3);
    out.what = t;
    read_tail(r, out);
    return out;
}

std::string listed_sizes_sentence(const std::string& series, const std::string& sizes) {
    return "There is no such size; " + series + " has " + sizes + ".";
}

// Diameter x pitch in millimetres, after the family's letters: Tr40x7, S40x7, SQ20x4. Tr12x6(P3) is lead 6.
Designation read_millimetre_pair(Reader& r, ThreadFamily family, const std::string& letters) {
    Designation out;
    ThreadSpec t;
    t.family = family;
    const std::size_t start = r.at();
    const auto d = r.take_decimal();
    if (!d) r.refuse("A diameter is expected after " + letters + ", for example " + letters + "20x4.");
    require_positive(r, start, *d, "diameter");
    t.diameter = mm(*d);
    if (r.peek() == ' ' || !r.take_times())
        r.refuse("The pitch is expected after an x, for example " + letters + "20x4.");
    const std::size_t pitch_start = r.at();
    const auto first = r.take_decimal();
    if (!first) r.refuse("A pitch is expected after the x, for example " + letters + "20x4.");
    require_positive(r, pitch_start, *first, "pitch");
    t.pitch = mm(*first);
    if (r.take("(P")) {
        const auto pitch = r.take_decimal();
        if (!pitch || !r.take(")")) r.refuse("The pitch and a closing bracket are expected: Tr12x6(P3).");
        require_positive(r, pitch_start, *pitch, "pitch");
        const double starts = *first / *pitch;
        if (std::abs(starts - std::round(starts)) > 1e-6 || starts < 0.5 || starts > 8.5)
            throw InputError("The lead must be 1 to 8 times the pitch; " + number_text(*first, 4) + " is " +
                                 number_text(starts, 3) + " times " + number_text(*pitch, 4) + ".",
                             pitch_start, r.at() - pitch_start);
        t.pitch = mm(*pitch);
        t.starts = static_cast<int>(std::lround(starts));
    }
    read_class(r, t);
    out.what = t;
    read_tail(r, out);
    return out;
}

// G1/2 A, R1/2, Rc1/2, Rp1/2: sizes as the standard lists them.
Designation read_pipe(Reader& r, ThreadFamily family, const std::string& letters) {
    Designation out;
    ThreadSpec t;
    t.family = family;
    r.skip_blanks();
    const std::size_t start = r.at();
    const auto size = read_inch_size(r);
    if (!size) r.refuse("A size is expected after " + letters + ", for example " + letters + "1/2.");
    const std::string series = family == ThreadFamily::pipe_g ? "G" : "R";
    const standard::ListedThread* listed = nullptr;
    for (const auto& l : standard::thread_series(series)) {
        Reader printed(l.size);
        if (std::abs(*read_inch_size(printed) - *size) < 1e-9) listed = &l;
    }
    if (!listed) {
        std::string sizes;
        for (const auto& l : standard::thread_series(series))
            sizes += (sizes.empty() ? "" : ", ") + l.size;
        throw InputError(listed_sizes_sentence(series, sizes), start,
                         std::max<std::size_t>(1, r.at() - start));
    }
    t.diameter = listed->diameter;
    t.pitch = listed->pitch;
    if (family == ThreadFamily::pipe_r) {
        t.tolerance_class = letters;
    } else {
        t.tolerance_class = "";
        r.skip_blanks();
        r.take("-");
        if (r.take_word_ignoring_case("A"))
            t.tolerance_class = "A";
        else if (r.take_word_ignoring_case("B"))
            t.tolerance_class = "B";
    }
    t.side = *side_of_class(family, t.tolerance_class);
    out.what = t;
    read_tail(r, out);
    return out;
}

// Rd40x1/6: diameter in mm, pitch as a fraction of an inch.
Designation read_knuckle(Reader& r) {
    Designation out;
    ThreadSpec t;
    t.family = ThreadFamily::knuckle;
    const std::size_t start = r.at();
    const auto d = r.take_decimal();
    if (!d) r.refuse("A diameter is expected after Rd, for example Rd40x1/6.");
    require_positive(r, start, *d, "diameter");
    t.diameter = mm(*d);
    if (r.peek() == ' ' || !r.take_times())
        r.refuse("The pitch in inch is expected after an x, for example Rd40x1/6.");
    const std::size_t pitch_start = r.at();
    const auto pitch = read_inch_size(r);
    if (!pitch) r.refuse("The pitch in inch is expected after the x, for example Rd40x1/6.");
    require_positive(r, pitch_start, *pitch, "pitch");
    t.pitch = inch(*pitch);
    t.tolerance_class = "";
    out.what = t;
    read_tail(r, out);
    return out;
}

// V60 20x2 (mm) or V60 1-18 (inch, threads per inch): a sharp triangle of that angle.
Designation read_v(Reader& r) {
    Designation out;
    ThreadSpec t;
    t.family = ThreadFamily::sharp_v;
    t.tolerance_class = "";
    const std::size_t start = r.at();
    const auto angle = r.take_decimal();
    if (!angle) r.refuse("The flank angle is expected after V, for example V60 20x2 or V60 1-18.");
    if (!(*angle > 4 && *angle < 160))
        throw InputError("The flank angle of a V thread must be between 4° and 160°.", start, r.at() - start);
    if (*angle != 60) t.flank_angle = deg(*angle);
    r.skip_blanks();
    const std::size_t size_start = r.at();
    const auto first = read_inch_size(r);
    if (!first)
        r.refuse("A size is expected here: 20x2 in millimetres or 1-18 in inch and threads per inch.");
    require_positive(r, size_start, *first, "diameter");
    const std::size_t pitch_start = r.at() + 1;
    if (r.take("-")) {
        const auto tpi = r.take_decimal();
        if (!tpi) r.refuse("Threads per inch are expected here, for example V60 1-18.");
        require_positive(r, pitch_start, *tpi, "number of threads per inch");
        out.unit = LengthUnit::inch;
        t.diameter = inch(*first);
        t.pitch = inch(1 / *tpi);
    } else if (r.peek() != ' ' && r.take_times()) {
        const auto pitch = r.take_decimal();
        if (!pitch) r.refuse("A pitch is expected after the x, for example V60 20x2.");
        require_positive(r, pitch_start, *pitch, "pitch");
        t.diameter = mm(*first);
        t.pitch = mm(*pitch);
    } else {
        r.refuse("The pitch is expected here: x2 in millimetres or -18 threads per inch.");
    }
    out.what = t;
    read_tail(r, out);
    return out;
}

// section rope 20x4: a section of one's own, diameter and pitch in millimetres.
Designation read_own(Reader& r, std::span<const OwnSection> known) {
    Designation out;
    ThreadSpec t;
    t.family = ThreadFamily::own;
    t.tolerance_class = "";
    r.skip_blanks();
    const std::size_t name_at = r.at();
    std::string name = r.take_alnum();
    while (r.peek() == '-' || r.peek() == '_') {
        name += r.peek();
        r.move_to(r.at() + 1);
        name += r.take_alnum();
    }
    std::string names;
    for (const OwnSection& s : known) {
        names += (names.empty() ? "" : ", ") + s.name;
        if (s.name == name) t.own_section = s;
    }
    if (t.own_section.points.empty()) {
        const std::string there = names.empty()
                                      ? "There is none in this job or in your library yet; import one, "
                                        "or draw it in the section view."
                                      : "There are: " + names + ".";
        throw InputError(name.empty()
                             ? "The name of a section is expected here, as in section rope 20x4. " + there
                             : "There is no section named '" + name + "'. " + there,
                         name_at, std::max<std::size_t>(1, name.size()));
    }
    r.skip_blanks();
    const std::size_t start = r.at();
    const auto d = r.take_decimal();
    if (!d) r.refuse("A diameter is expected after the name, as in section " + name + " 20x4.");
    require_positive(r, start, *d, "diameter");
    t.diameter = mm(*d);
    if (r.peek() == ' ' || !r.take_times())
        r.refuse("The pitch is expected after an x, as in section " + name + " 20x4.");
    const std::size_t pitch_start = r.at();
    const auto pitch = r.take_decimal();
    if (!pitch) r.refuse("The pitch is expected after the x, as in section " + name + " 20x4.");
    require_positive(r, pitch_start, *pitch, "pitch");
    t.pitch = mm(*pitch);
    out.what = t;
    read_tail(r, out);
    return out;
}

Designation read_plain(Reader& r, Outline outline) {
    Designation out;
    r.skip_blanks();
    const std::size_t start = r.at();
    const auto d = r.take_decimal();
    if (!d) r.refuse("A size across the flats is expected here, for example hex 17 x 8.");
    require_positive(r, start, *d, "size");
    r.skip_blanks();
    const bool inches = r.take_word_ignoring_case("in");
    if (inches)
        out.unit = LengthUnit::inch;
    else
        r.take_word_ignoring_case("mm");
    out.what = PlainBar{inches ? inch(*d) : mm(*d), outline};
    read_tail(r, out);
    return out;
}

Designation read_round(Reader& r) {
    Designation out;
    r.skip_blanks();
    const std::size_t start = r.at();
    const auto d = r.take_decimal();
    if (!d) r.refuse("A diameter is expected here, for example round 12 x 30.");
    require_positive(r, start, *d, "diameter");
    r.skip_blanks();
    if (r.take_word_ignoring_case("in")) {
        out.unit = LengthUnit::inch;
        out.what = PlainBar{inch(*d)};
    } else {
        r.take_word_ignoring_case("mm");
        out.what = PlainBar{mm(*d)};
    }
    read_tail(r, out);
    return out;
}

std::string tail(const ThreadSpec& t, std::optional<Length> length, LengthUnit unit) {
    std::string s;
    if (t.hand == Hand::left) s += " LH";
    if (t.taper) s += " taper " + taper_text(*t.taper);
    if (length) s += " x " + length_text(*length, unit);
    return s;
}

std::string inch_size(Length diameter) {
    for (const auto& l : standard::unified_series())
        if (std::abs(in_inch(l.diameter - diameter)) < 1e-7) return l.size;
    return number_text(in_inch(diameter), 7);
}

std::string unified_series_word(const ThreadSpec& t) {
    if (const auto* l = standard::find_listed(standard::unified_series(), t.diameter, t.pitch))
        return l->series;
    const double tpi = threads_per_inch(t.pitch);
    for (double constant : {4.0, 6.0, 8.0, 12.0, 16.0, 20.0, 28.0, 32.0}) // ASME B1.1 constant-pitch series
        if (std::abs(tpi - constant) < 1e-9) return "UN";
    return "UNS";
}

} // namespace

Designation parse_designation(std::string_view text, std::span<const OwnSection> known) {
    if (text.size() > longest_designation)
        throw InputError("This is longer than 200 characters and can't be a designation.",
                         longest_designation);
    Reader r(text);
    r.skip_blanks();
    if (r.done()) throw InputError(std::string("Nothing is written. ") + examples);
    for (std::size_t i = 0; i < text.size(); ++i)
        if (static_cast<unsigned char>(text[i]) < 32 && text[i] != '\t')
            throw InputError(std::string("There is an unprintable character. ") + examples, i, 1);
    if (is_gear(text)) {
        const GearDesignation g = parse_gear(text);
        return {g.spec, g.width, g.unit, g.body};
    }
    if (is_rack(text)) {
        const RackDesignation g = parse_rack_bar(text);
        return {g.spec, {}, g.unit};
    }
    if (is_spring(text)) {
        const CoilDesignation c = parse_spring(text);
        return {c.spec, {}, c.unit};
    }
    if (r.take_word_ignoring_case("hex")) return read_plain(r, Outline::hexagon);
    if (r.take_word_ignoring_case("section")) return read_own(r, known);
    if (r.take_word_ignoring_case("square")) return read_plain(r, Outline::square);
    const auto letters = [&](std::string_view text_) { // followed by a number
        const std::size_t place = r.at();
        if (r.take(text_)) {
            const char next = r.peek() == ' ' ? r.peek(1) : r.peek();
            if (std::isdigit(static_cast<unsigned char>(next)) || next == '.' || next == '\0') return true;
        }
        r.move_to(place);
        return false;
    };
    if (letters("Tr")) return read_millimetre_pair(r, ThreadFamily::trapezoidal, "Tr");
    if (letters("SQ")) return read_millimetre_pair(r, ThreadFamily::square, "SQ");
    if (letters("S")) return read_millimetre_pair(r, ThreadFamily::buttress, "S");
    if (letters("Rd")) return read_knuckle(r);
    for (const char* symbol_ : {"Rc", "Rp", "R"})
        if (letters(symbol_)) return read_pipe(r, ThreadFamily::pipe_r, symbol_);
    if (letters("G")) return read_pipe(r, ThreadFamily::pipe_g, "G");
    if (letters("V")) return read_v(r);
    if (r.take_word_ignoring_case("round") || r.take("\xC3\x98") || r.take("\xE2\x8C\x80"))
        return read_round(r);
    if ((r.peek() == 'M' || r.peek() == 'm') &&
        (!std::isalpha(static_cast<unsigned char>(r.peek(1))) || r.peek(1) == 'x')) {
        r.move_to(r.at() + 1);
        return read_metric(r);
    }
    return read_unified(r);
}

namespace {

// After the size: class, starts, side, hand, length.
std::string ending(const ThreadSpec& t, std::optional<Length> length, bool starts_said = false,
                   bool inches = false) {
    std::string s;
    if (!t.tolerance_class.empty() && t.family != ThreadFamily::pipe_g && t.family != ThreadFamily::pipe_r)
        s += "-" + t.tolerance_class;
    if (t.starts > 1 && !starts_said) s += " (" + std::to_string(t.starts) + " starts)";
    if (t.side == Side::internal && !side_of_class(t.family, t.tolerance_class)) s += " internal";
    return s + tail(t, length, inches || is_inch(t.family) ? LengthUnit::inch : LengthUnit::millimetre);
}

std::string pipe_size_name(const ThreadSpec& t) {
    const auto* listed = standard::find_listed(listed_threads(t.family), t.diameter, t.pitch);
    return listed ? listed->size : "(" + number_text(in_mm(t.diameter), 4) + " mm)";
}

std::string write_other(const ThreadSpec& t, std::optional<Length> length) {
    const std::string tpi = number_text(threads_per_inch(t.pitch), 6), d = number_text(in_mm(t.diameter), 6),
                      pitch = number_text(in_mm(t.pitch), 6);
    switch (t.family) {
    case ThreadFamily::whitworth: {
        const auto* listed = standard::find_listed(listed_threads(t.family), t.diameter, t.pitch);
        return (listed ? listed->size : number_text(in_inch(t.diameter), 7)) + "-" + tpi + " " +
               (listed ? listed->series : "Whit") + ending(t, length);
    }
    case ThreadFamily::pipe_g:
        return "G" + pipe_size_name(t) + (t.tolerance_class.empty() ? "" : " " + t.tolerance_class) +
               ending(t, length);
    case ThreadFamily::pipe_r:
        return t.tolerance_class + pipe_size_name(t) + ending(t, length);
    case ThreadFamily::npt:
    case ThreadFamily::npsm:
        return pipe_size_name(t) + "-" + tpi + " " + word(t.family) + ending(t, length);
    case ThreadFamily::trapezoidal:
        return "Tr" + d + "x" +
               (t.starts > 1 ? number_text(in_mm(t.pitch) * t.starts, 6) + "(P" + pitch + ")" : pitch) +
               ending(t, length, true);
    case ThreadFamily::acme:
    case ThreadFamily::stub_acme: {
        const auto* listed = standard::find_listed(listed_threads(t.family), t.diameter, t.pitch);
        return (listed ? listed->size : number_text(in_inch(t.diameter), 7)) + "-" + tpi +
               (t.family == ThreadFamily::acme ? " ACME" : " STUB ACME") + ending(t, length);
    }
    case ThreadFamily::own:
        return "section " + t.own_section.name + " " + d + "x" + pitch + ending(t, length);
    case ThreadFamily::buttress:
        return "S" + d + "x" + pitch + ending(t, length);
    case ThreadFamily::square:
        return "SQ" + d + "x" + pitch + ending(t, length);
    case ThreadFamily::knuckle: {
        const double inverse = threads_per_inch(t.pitch);
        const bool whole = std::abs(inverse - std::round(inverse)) < 1e-6;
        return "Rd" + d + "x" + (whole ? "1/" + number_text(inverse, 6) : number_text(in_inch(t.pitch), 7)) +
               ending(t, length);
    }
    default: {
        const std::string angle = number_text(t.flank_angle ? in_deg(*t.flank_angle) : 60, 4);
        const double inverse = threads_per_inch(t.pitch);
        const bool inches = std::abs(inverse - std::round(inverse * 2) / 2) < 1e-9 &&
                            std::abs(in_mm(t.pitch) * 1000 - std::round(in_mm(t.pitch) * 1000)) > 1e-6;
        return "V" + angle + " " +
               (inches ? number_text(in_inch(t.diameter), 7) + "-" + tpi : d + "x" + pitch) +
               ending(t, length, false, inches);
    }
    }
}

} // namespace

std::string write_designation(const ThreadSpec& t, std::optional<Length> length) {
    if (t.family != ThreadFamily::unified && t.family != ThreadFamily::iso_metric)
        return write_other(t, length);
    if (t.family == ThreadFamily::unified) {
        const std::string tpi = number_text(threads_per_inch(t.pitch), 6);
        std::string series = unified_series_word(t);
        if (t.rounded_root && t.side == Side::external) series.insert(2, "R");
        return inch_size(t.diameter) + "-" + tpi + " " + series + "-" + t.tolerance_class +
               (t.starts > 1 ? " (" + std::to_string(t.starts) + " starts)" : "") +
               tail(t, length, LengthUnit::inch);
    }
    const std::string pitch = number_text(in_mm(t.pitch), 6);
    std::string s = "M" + number_text(in_mm(t.diameter), 6) + "x";
    s += t.starts > 1 ? "Ph" + number_text(in_mm(t.pitch) * t.starts, 6) + "P" + pitch : pitch;
    return s + "-" + t.tolerance_class + tail(t, length, LengthUnit::millimetre);
}

std::string write_designation(const PlainBar& round, std::optional<Length> length, LengthUnit unit) {
    const char* what = round.outline == Outline::hexagon  ? "hex "
                       : round.outline == Outline::square ? "square "
                                                          : "round ";
    return what + number_text(in_unit(round.diameter, unit), 6) + (unit == LengthUnit::inch ? " in" : "") +
           tail(ThreadSpec{}, length, unit);
}

std::vector<std::string> complete_designation(std::string_view text, std::size_t limit,
                                              std::span<const OwnSection> known) {
    std::vector<std::string> out;
    while (!text.empty() && text.front() == ' ')
        text.remove_prefix(1);
    if (text.empty()) return out;
    const auto offer = [&](const std::string& s) {
        if (out.size() < limit && s.size() > text.size() && s.starts_with(text) &&
            std::find(out.begin(), out.end(), s) == out.end())
            out.push_back(s);
    };
    if (text.front() == 'M') {
        for (const char* series : {"coarse", "fine"})
            for (const auto& t : standard::iso_metric_series())
                if (t.series == series) offer("M" + t.size + "x" + number_text(in_mm(t.pitch), 4) + "-6g");
        for (const auto& t : standard::iso_metric_series())
            for (const char* cls : {"-4h", "-6e", "-6h", "-5g6g", "-6H"})
                offer("M" + t.size + "x" + number_text(in_mm(t.pitch), 4) + cls);
    } else {
        for (const auto& t : standard::unified_series())
            offer(t.size + "-" + number_text(1 / in_inch(t.pitch), 3) + " " + t.series + "-2A");
        for (const char* series : {"BSW", "BSF"})
            for (const auto& t : standard::thread_series(series))
                offer(t.size + "-" + number_text(1 / in_inch(t.pitch), 3) + " " + series + "-medium");
        for (const char* series : {"NPT", "NPSM", "ACME", "STUB ACME"})
            for (const auto& t : standard::thread_series(series))
                offer(t.size + "-" + number_text(1 / in_inch(t.pitch), 3) + " " + series +
                      (series[0] == 'N' ? "" : "-2G"));
        for (const auto& t : standard::thread_series("Tr"))
            offer("Tr" + t.size + "x" + number_text(in_mm(t.pitch), 4) + "-7e");
        for (const auto& t : standard::thread_series("G"))
            offer("G" + t.size + " A");
        for (const char* symbol_ : {"R", "Rc", "Rp"})
            for (const auto& t : standard::thread_series("R"))
                offer(symbol_ + t.size);
        for (const auto& t : standard::thread_series("Rd"))
            offer("Rd" + t.size + "x1/" + number_text(1 / in_inch(t.pitch), 3));
        for (const OwnSection& s : known)
            offer("section " + s.name + " 20x4");
        for (const char* word_ : {"round ", "hex ", "square "})
            offer(word_);
    }
    return out;
}

} // namespace whorl
