#include "drawing/limits.hpp"

#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/trimmed.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace whorl::drawing {
namespace {

[[noreturn]] void refuse(std::string_view typed) {
    throw InputError(
        "'" + std::string(typed) +
        "' is no tolerance; write a class such as h7 or H8, ±0.05, or deviations such as +0.1/-0.2.");
}

void replace_all(std::string& in, std::string_view was, std::string_view now) {
    for (std::size_t at = 0; (at = in.find(was, at)) != std::string::npos; at += now.size())
        in.replace(at, was.size(), now);
}

std::optional<double> number(std::string_view text) {
    if (!text.empty() && text.front() == '+') text.remove_prefix(1);
    double v = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), v);
    if (error != std::errc() || end != text.data() + text.size() || !std::isfinite(v)) return {};
    return v;
}

// One or two letters of a tolerance position and the grade: 01, 0, 1 to 18.
bool is_class(std::string_view text) {
    std::size_t letters = 0;
    while (letters < text.size() && std::isalpha(static_cast<unsigned char>(text[letters])))
        ++letters;
    const std::string_view grade = text.substr(letters);
    if (letters < 1 || letters > 2 || grade.empty() || grade.size() > 2) return false;
    if (!std::all_of(grade.begin(), grade.end(), [](unsigned char c) { return std::isdigit(c); }))
        return false;
    return grade == "01" || (grade.front() != '0' && std::stoi(std::string(grade)) <= 18) || grade == "0";
}

std::string deviation(double v) {
    if (v == 0) return "0";
    return (v > 0 ? "+" : "−") + number_text(std::abs(v), 4);
}

} // namespace

std::string limits_of(std::string_view typed) {
    const std::string_view said = trimmed(typed);
    if (said.empty()) return {};
    if (is_class(said)) return std::string(said);
    std::string text = with_decimal_points(said);
    replace_all(text, "−", "-");
    for (const std::string_view sign : {"+/-", "+-", "±"})
        if (text.starts_with(sign)) {
            const auto v = number(trimmed(std::string_view(text).substr(sign.size())));
            if (!v || *v <= 0) refuse(said);
            return "±" + number_text(*v, 4);
        }
    std::replace(text.begin(), text.end(), '/', ' ');
    const std::size_t blank = text.find(' ');
    if (blank == std::string::npos) refuse(said);
    const auto a = number(std::string_view(text).substr(0, blank)),
               b = number(trimmed(std::string_view(text).substr(blank)));
    if (!a || !b || *a == *b) refuse(said);
    return deviation(std::max(*a, *b)) + "/" + deviation(std::min(*a, *b));
}

void say_limits(std::vector<Dimension>& dimensions, const PieceDrawing& drawing) {
    for (Dimension& d : dimensions)
        if (const MovedItem* item = moved_item(drawing, d.link)) {
            if (!item->limits.empty()) d.words += " " + item->limits;
            if (item->reference && !d.reference) d.words = "(" + d.words + ")";
        }
}

} // namespace whorl::drawing
