// Reads a text from left to right and remembers where it is, for exact error positions.
#pragma once

#include "quantity/input_error.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <string>
#include <string_view>

namespace whorl {

class Reader {
public:
    explicit Reader(std::string_view text) : text_(text) {}

    bool done() const { return at_ >= text_.size(); }
    std::size_t at() const { return at_; }
    char peek(std::size_t ahead = 0) const { return at_ + ahead < text_.size() ? text_[at_ + ahead] : '\0'; }
    std::string_view rest() const { return text_.substr(at_); }
    std::string_view before() const { return text_.substr(0, at_); } // what was read
    void move_to(std::size_t place) { at_ = place; }
    void skip_blanks();

    // Each takes what stands here, or nothing.
    bool take(std::string_view word);                    // case-sensitive
    bool take_word_ignoring_case(std::string_view word); // a whole word: no letter or digit follows it
    bool take_times();                                   // x X * ×
    std::optional<double> take_decimal();
    std::optional<int> take_whole();
    std::string take_alnum();
    // A whole number, a decimal, a fraction or a mixed number, in inch; or #n (ASME B1.1). Throws InputError
    // for a fraction without a denominator and a numbered size above #12.
    std::optional<double> take_inch_size();

    // (12 + 3/8), arithmetic in brackets. Throws InputError with the place where it can't be worked out.
    std::optional<double> take_arithmetic();

    // A number above zero and below 100000, or arithmetic; else a sentence that says what is expected. `what`: "pitch", …
    double positive(const char* what, const std::string& expected);

    // The same, and fractions: 3/8, 1 1/2.
    double size(const char* what, const std::string& expected);

    [[noreturn]] void refuse(const std::string& sentence) const; // about what stands here
    [[noreturn]] void refuse_from(std::size_t start,
                                  const std::string& sentence) const; // about what was read

private:
    std::string_view text_;
    std::size_t at_ = 0;
};

// "An angle is expected here, for example angle 90."
std::string expected_here(const std::string& what, const std::string& example);

// Throws InputError about what was read since `start`.
void require_positive(const Reader& r, std::size_t start, double v, const char* what);

} // namespace whorl
