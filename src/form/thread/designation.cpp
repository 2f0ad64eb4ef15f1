#include "form/thread/designation.hpp"

#include "form/thread/tolerance_class.hpp"
#include "quantity/expression.hpp"
#include "standard/iso_metric.hpp"
#include "standard/unified.hpp"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>

namespace whorl {
namespace {

constexpr std::size_t longest_designation = 200;
constexpr const char* examples = "Write for example M10x1.5-6g x 40, 1/4-20 UNC-2A x 1.5 or round 12 x 30.";

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

    [[noreturn]] void refuse(const std::string& sentence) const { throw InputError(sentence, at_, 1); }

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

// [LH] [x length [unit]] and then nothing more.
void read_tail(Reader& r, Designation& out) {
    auto* thread = std::get_if<ThreadSpec>(&out.what);
    r.skip_blanks();
    if (thread && thread->family == ThreadFamily::unified && r.take("(")) {
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
        if (!(in_mm(*out.length) > 0) || in_mm(*out.length) > 1e5)
            throw InputError("The length must be more than zero and below 100 m.", start, rest.size());
    }
    r.skip_blanks();
    if (!r.done())
        r.refuse("This was not understood: '" + std::string(r.rest().substr(0, 40)) + "'. " +
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
    for (const char* s : {"UNEF", "UNC", "UNF", "UNS", "UN"})
        if (r.take_word_ignoring_case(s)) {
            series = s;
            break;
        }
    if (series.empty())
        r.refuse("The series is expected here: UNC, UNF, UNEF, UN or UNS, for example 1/4-20 UNC-2A.");
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
    out.what = t;
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
        out.what = PlainRound{inch(*d)};
    } else {
        r.take_word_ignoring_case("mm");
        out.what = PlainRound{mm(*d)};
    }
    read_tail(r, out);
    return out;
}

std::string tail(Hand hand, std::optional<Length> length, LengthUnit unit) {
    std::string s;
    if (hand == Hand::left) s += " LH";
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

Designation parse_designation(std::string_view text) {
    if (text.size() > longest_designation)
        throw InputError("This is longer than 200 characters and can't be a designation.",
                         longest_designation);
    Reader r(text);
    r.skip_blanks();
    if (r.done()) throw InputError(std::string("Nothing is written. ") + examples);
    for (std::size_t i = 0; i < text.size(); ++i)
        if (static_cast<unsigned char>(text[i]) < 32 && text[i] != '\t')
            throw InputError(std::string("There is an unprintable character. ") + examples, i, 1);
    if (r.take_word_ignoring_case("round") || r.take("\xC3\x98") || r.take("\xE2\x8C\x80"))
        return read_round(r);
    if ((r.peek() == 'M' || r.peek() == 'm') &&
        (!std::isalpha(static_cast<unsigned char>(r.peek(1))) || r.peek(1) == 'x')) {
        r.move_to(r.at() + 1);
        return read_metric(r);
    }
    return read_unified(r);
}

std::string write_designation(const ThreadSpec& t, std::optional<Length> length) {
    if (t.family == ThreadFamily::unified) {
        const std::string tpi = number_text(threads_per_inch(t.pitch), 6);
        return inch_size(t.diameter) + "-" + tpi + " " + unified_series_word(t) + "-" + t.tolerance_class +
               (t.starts > 1 ? " (" + std::to_string(t.starts) + " starts)" : "") +
               tail(t.hand, length, LengthUnit::inch);
    }
    const std::string pitch = number_text(in_mm(t.pitch), 6);
    std::string s = "M" + number_text(in_mm(t.diameter), 6) + "x";
    s += t.starts > 1 ? "Ph" + number_text(in_mm(t.pitch) * t.starts, 6) + "P" + pitch : pitch;
    return s + "-" + t.tolerance_class + tail(t.hand, length, LengthUnit::millimetre);
}

std::string write_designation(const PlainRound& round, std::optional<Length> length, LengthUnit unit) {
    return "round " + number_text(in_unit(round.diameter, unit), 6) +
           (unit == LengthUnit::inch ? " in" : "") + tail(Hand::right, length, unit);
}

std::vector<std::string> complete_designation(std::string_view text, std::size_t limit) {
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
        offer("round ");
    }
    return out;
}

} // namespace whorl
