#include "form/word_reader.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cctype>

namespace whorl {

WordReader::WordReader(std::string_view text) : end_(text.size()) {
    const auto blank = [](char c) { return std::isspace(static_cast<unsigned char>(c)) || c == ','; };
    for (std::size_t i = 0; i < text.size();) {
        if (blank(text[i])) {
            ++i;
            continue;
        }
        Word w{{}, i};
        while (i < text.size() && !blank(text[i]))
            w.text += text[i++];
        words_.push_back(std::move(w));
    }
}

bool WordReader::take(std::string_view word) {
    if (done() || here().text != word) return false;
    ++at_;
    return true;
}

bool WordReader::at_key(std::string_view key) const {
    const std::string& w = here().text;
    if (!w.starts_with(key)) return false;
    if (w.size() == key.size()) return true;
    const char c = w[key.size()];
    return std::isdigit(static_cast<unsigned char>(c)) || c == '.' || c == '-' || c == '+' || c == '(';
}

WordReader::Word WordReader::value(const std::string& key, const char* example, const char* as) {
    const Word w = take();
    const std::string what = as ? as : key;
    if (given(what))
        throw InputError(in_quotes(w.text) + " says " + what + " a second time; write it once, such as " +
                             key + example + ".",
                         w.at, w.text.size());
    once(what, w);
    if (w.text.size() > key.size()) return {w.text.substr(key.size()), w.at + key.size()};
    if (done())
        throw InputError("After " + key + " a number is wanted, such as " + key + example + ".", w.at,
                         w.text.size());
    return take();
}

void WordReader::once(const std::string& what, const Word& word) {
    if (!said_.insert(what).second)
        throw InputError(in_quotes(word.text) + " is said a second time; write it once.", word.at,
                         word.text.size());
}

std::optional<LengthUnit> WordReader::take_unit() {
    if (words_.size() < 2) return {};
    const std::string last = lowered_line(words_.back().text);
    if (last != "in" && last != "mm") return {};
    words_.pop_back();
    return last == "in" ? LengthUnit::inch : LengthUnit::millimetre;
}

double WordReader::number(const Word& w) const {
    return located(w, [&] { return evaluate_number(w.text); });
}

Length WordReader::length(const Word& w, LengthUnit unit) const {
    return located(w, [&] { return evaluate_length(w.text, unit); });
}

std::string lowered_line(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

} // namespace whorl
