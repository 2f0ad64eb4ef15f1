#include "form/reader.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cctype>
#include <charconv>

namespace whorl {

namespace {
bool is_digit(char c) {
    return std::isdigit(static_cast<unsigned char>(c)) != 0;
}
bool is_alnum(char c) {
    return std::isalnum(static_cast<unsigned char>(c)) != 0;
}
} // namespace

void Reader::skip_blanks() {
    while (peek() == ' ' || peek() == '\t')
        ++at_;
}

bool Reader::take(std::string_view word) {
    if (text_.substr(at_, word.size()) != word) return false;
    at_ += word.size();
    return true;
}

bool Reader::take_word_ignoring_case(std::string_view word) {
    if (text_.size() - at_ < word.size() || is_alnum(peek(word.size()))) return false;
    for (std::size_t i = 0; i < word.size(); ++i)
        if (std::tolower(static_cast<unsigned char>(text_[at_ + i])) !=
            std::tolower(static_cast<unsigned char>(word[i])))
            return false;
    at_ += word.size();
    return true;
}

bool Reader::take_times() {
    if (peek() == 'x' || peek() == 'X' || peek() == '*') return ++at_, true;
    return take("\xC3\x97");
}

std::optional<double> Reader::take_decimal() {
    if (!is_digit(peek()) && peek() != '.') return {};
    double v = 0;
    const auto* begin = text_.data() + at_;
    const auto [end, error] =
        std::from_chars(begin, text_.data() + text_.size(), v, std::chars_format::fixed);
    if (error != std::errc()) return {};
    at_ += static_cast<std::size_t>(end - begin);
    return v;
}

std::optional<int> Reader::take_whole() {
    if (!is_digit(peek())) return {};
    int v = 0;
    const auto* begin = text_.data() + at_;
    const auto [end, error] = std::from_chars(begin, text_.data() + text_.size(), v);
    if (error != std::errc()) return {};
    at_ += static_cast<std::size_t>(end - begin);
    return v;
}

std::string Reader::take_alnum() {
    std::string out;
    while (is_alnum(peek()))
        out.push_back(text_[at_++]);
    return out;
}

std::optional<double> Reader::take_inch_size() {
    const std::size_t start = at_;
    if (take("#")) {
        const auto n = take_whole();
        if (!n || *n < 0 || *n > 12) refuse_from(start, "Numbered sizes run from #0 to #12.");
        return 0.060 + 0.013 * *n; // ASME B1.1: numbered diameters
    }
    auto first = take_decimal();
    if (!first) return {};
    if (take("/")) {
        const auto den = take_whole();
        if (!den || *den == 0) refuse("A whole number above zero is expected under the fraction bar.");
        return *first / *den;
    }
    const std::size_t after_first = at_;
    if (peek() == ' ' || peek() == '-') { // 1 3/8 or 1-3/8
        move_to(after_first + 1);
        const auto num = take_whole();
        if (num && take("/")) {
            const auto den = take_whole();
            if (den && *den > 0) return *first + static_cast<double>(*num) / *den;
        }
        move_to(after_first);
    }
    return first;
}

std::optional<double> Reader::take_arithmetic() {
    if (peek() != '(') return {};
    const std::string_view here = rest();
    std::size_t end = 0;
    for (int open = 0; end < here.size(); ++end) {
        open += here[end] == '(' ? 1 : here[end] == ')' ? -1 : 0;
        if (open == 0) break;
    }
    if (end == here.size()) refuse("This bracket is not closed.");
    try {
        const double v = evaluate_number(here.substr(0, end + 1));
        at_ += end + 1;
        return v;
    } catch (const InputError& e) {
        throw InputError(e.what(), at_ + e.position, e.extent);
    }
}

double Reader::positive(const char* what, const std::string& expected) {
    const std::size_t start = at_;
    const auto v = peek() == '(' ? take_arithmetic() : take_decimal();
    if (!v) refuse(expected);
    require_positive(*this, start, *v, what);
    return *v;
}

double Reader::size(const char* what, const std::string& expected) {
    const std::size_t start = at_;
    if (!is_digit(peek()) && peek() != '.' && peek() != '(') refuse(expected);
    const auto v = peek() == '(' ? take_arithmetic() : take_inch_size();
    if (!v) refuse(expected);
    require_positive(*this, start, *v, what);
    return *v;
}

void Reader::refuse(const std::string& sentence) const {
    throw InputError(sentence, at_, at_ < text_.size() ? 1 : 0);
}

void Reader::refuse_from(std::size_t start, const std::string& sentence) const {
    throw InputError(sentence, start, std::max<std::size_t>(1, at_ - start));
}

std::string expected_here(const std::string& what, const std::string& example) {
    const bool vowel =
        !what.empty() && std::string_view("aeiouAEIOU").find(what[0]) != std::string_view::npos;
    return (vowel ? "An " : "A ") + what + " is expected here, for example " + example + ".";
}

void require_positive(const Reader& r, std::size_t start, double v, const char* what) {
    if (!(v > 0) || v > 1e5)
        throw InputError(std::string("The ") + what + " must be more than zero and below 100000.", start,
                         r.at() - start);
}

} // namespace whorl
