#include "form/spec_reader.hpp"

#include "quantity/numeric.hpp"
#include "quantity/trimmed.hpp"

#include <cctype>
#include <cmath>

namespace whorl {
namespace {

bool is_number_start(char c) {
    return std::isdigit(static_cast<unsigned char>(c)) || c == '.' || c == '(';
}

struct Body {
    std::string_view text;
    LengthUnit unit;
};
Body without_unit(std::string_view text) {
    text = trimmed(text);
    for (const auto& [word, unit] : {std::pair{std::string_view("in"), LengthUnit::inch},
                                     std::pair{std::string_view("mm"), LengthUnit::millimetre}}) {
        if (!text.ends_with(word) || text.size() < 4) continue;
        const char before = text[text.size() - 3];
        if (before != ' ' && before != ';') continue;
        text = trimmed(text.substr(0, text.size() - 2));
        if (text.ends_with(';') || text.ends_with(',')) text.remove_suffix(1);
        return {trimmed(text), unit};
    }
    return {text, LengthUnit::millimetre};
}

} // namespace

SpecReader::SpecReader(std::string_view text)
    : SpecReader(without_unit(text).text, without_unit(text).unit) {}

Length SpecReader::length(const char* what, const char* example) {
    return of_unit(number(what, example), unit_);
}

Length SpecReader::any_length(const char* what, const char* example) {
    return of_unit(any_number(expected_here(what, example)), unit_);
}

double SpecReader::number(const char* what, const char* example) {
    skip_blanks();
    return size(what, expected_here(what, example));
}

double SpecReader::any_number(const std::string& expected) {
    return value(expected, true);
}

double SpecReader::angle(const std::string& expected) {
    const double degrees = value(expected, false); // `vee 60 1/2`: an angle and a depth
    take("°");
    return degrees * pi / 180;
}

double SpecReader::value(const std::string& expected, bool fractions) {
    skip_blanks();
    const bool minus = take("-") || take("−");
    skip_blanks();
    const auto v = take_value(fractions);
    if (!v) refuse(expected);
    return minus ? -*v : *v;
}

std::optional<double> SpecReader::take_value(bool fractions) {
    if (!is_number_start(peek())) return {};
    if (peek() == '(') return take_arithmetic();
    return fractions ? take_inch_size() : take_decimal();
}

bool SpecReader::begins_number() const {
    return is_number_start(peek());
}

int SpecReader::said_whole(int least, int most, const char* sentence) const {
    if (said_ != std::floor(said_) || said_ < least || said_ > most) refuse_from(word_at_, sentence);
    return static_cast<int>(said_);
}

void SpecReader::once(std::string_view what, std::size_t from) {
    const auto [before, first] = given_.try_emplace(what, from);
    if (first) return;
    const bool usual = before->second < usual_to_ && from >= usual_to_;
    before->second = from;
    if (!usual) refuse_from(from, std::string(what) + " is said a second time; write it once.");
}

bool SpecReader::take_key(std::string_view word) {
    if (word == "x") return take_times();
    if (take_word_ignoring_case(word)) return true;
    // a letter: its number may be joined to it
    const bool letter = word.size() == 1 || static_cast<unsigned char>(word[0]) > 127;
    if (!letter || !is_number_start(peek(word.size()))) return false;
    const char upper = static_cast<char>(std::toupper(static_cast<unsigned char>(word[0])));
    return take(word) || (word.size() == 1 && take(std::string_view(&upper, 1)));
}

bool SpecReader::take_number_before() {
    const auto v = take_value(true);
    if (!v) return false;
    said_ = *v;
    skip_blanks();
    return true;
}

} // namespace whorl
