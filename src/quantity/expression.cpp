#include "quantity/expression.hpp"

#include "quantity/utf8.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>
#include <cmath>
#include <cstring>
#include <muParser.h>
#include <optional>
#include <set>
#include <vector>

namespace whorl {
namespace {

constexpr std::size_t longest_text = 400;

struct UnitName {
    std::string_view text;
    std::string_view variable; // what stands for it in the arithmetic
};
// Longest first, so that `inch` is not read as `in`.
constexpr std::array<UnitName, 9> unit_names{{{"inch", "u_in"},
                                              {"deg", "u_deg"},
                                              {"rad", "u_rad"},
                                              {"mm", "u_mm"},
                                              {"cm", "u_cm"},
                                              {"in", "u_in"},
                                              {"\"", "u_in"},
                                              {"\xC2\xB0", "u_deg"},      // °
                                              {"\xE2\x80\xB3", "u_in"}}}; // ″

bool letter(char c) {
    return std::isalpha(static_cast<unsigned char>(c)) || c == '_';
}
bool digit(char c) {
    return std::isdigit(static_cast<unsigned char>(c));
}

struct Rewritten {
    std::string text;
    std::vector<std::size_t> origin; // for every byte of `text`, its place in what was typed
    void add(std::string_view s, std::size_t from) {
        for (char c : s) {
            text.push_back(c);
            origin.push_back(from);
        }
    }
};

// Puts `*u_in` for `in` and so on; reads mixed numbers (`1 3/8`) as sums. Names are left alone.
Rewritten rewrite(std::string_view typed) {
    Rewritten out;
    std::size_t i = 0;
    while (i < typed.size()) {
        const auto rest = typed.substr(i);
        const auto unit = std::find_if(unit_names.begin(), unit_names.end(), [&](const UnitName& u) {
            if (!rest.starts_with(u.text)) return false;
            const bool word = letter(u.text.front());
            const char after = u.text.size() < rest.size() ? rest[u.text.size()] : ' ';
            return !word || !(letter(after) || digit(after));
        });
        if (unit != unit_names.end()) {
            out.add("*", i);
            out.add(unit->variable, i);
            i += unit->text.size();
        } else if (letter(typed[i])) {
            while (i < typed.size() && (letter(typed[i]) || digit(typed[i]))) {
                out.add(typed.substr(i, 1), i);
                ++i;
            }
        } else if (digit(typed[i]) || typed[i] == '.') {
            std::size_t end = i;
            while (end < typed.size() && (digit(typed[end]) || typed[end] == '.'))
                ++end;
            // an exponent is part of the number only if digits follow it
            if (end < typed.size() && (typed[end] == 'e' || typed[end] == 'E')) {
                std::size_t e = end + 1;
                if (e < typed.size() && (typed[e] == '+' || typed[e] == '-')) ++e;
                if (e < typed.size() && digit(typed[e])) {
                    while (e < typed.size() && digit(typed[e]))
                        ++e;
                    end = e;
                }
            }
            // a mixed number: whole, blank(s), numerator/denominator
            std::size_t num = end;
            while (num < typed.size() && typed[num] == ' ')
                ++num;
            std::size_t slash = num;
            while (slash < typed.size() && digit(typed[slash]))
                ++slash;
            std::size_t den = slash + 1;
            while (den < typed.size() && digit(typed[den]))
                ++den;
            const bool whole = std::all_of(typed.begin() + static_cast<long>(i),
                                           typed.begin() + static_cast<long>(end), digit);
            if (whole && num > end && slash > num && slash < typed.size() && typed[slash] == '/' &&
                den > slash + 1) {
                out.add("(", i);
                out.add(typed.substr(i, end - i), i);
                out.add("+", num);
                out.add(typed.substr(num, den - num), num);
                out.add(")", den - 1);
                i = den;
            } else {
                for (; i < end; ++i)
                    out.add(typed.substr(i, 1), i);
            }
        } else {
            out.add(typed.substr(i, 1), i);
            ++i;
        }
    }
    return out;
}

const std::set<std::string, std::less<>>& reserved() {
    static const std::set<std::string, std::less<>> words{
        "pi",    "mm",    "cm",    "in",    "inch",  "deg",  "rad",   "u_mm", "u_cm",  "u_in",
        "u_deg", "u_rad", "sin",   "cos",   "tan",   "asin", "acos",  "atan", "atan2", "sinh",
        "cosh",  "tanh",  "asinh", "acosh", "atanh", "log2", "log10", "log",  "ln",    "exp",
        "sqrt",  "sign",  "rint",  "abs",   "min",   "max",  "sum",   "avg"};
    return words;
}

// How InchNumbers are taken.
enum class Inches { plain, lengths };

double scaled(const Value& v, double length_scale, double angle_scale, Inches inches) {
    if (const auto* l = std::get_if<Length>(&v)) return in_mm(*l) * length_scale;
    if (const auto* n = std::get_if<InchNumber>(&v))
        return inches == Inches::plain ? n->value : in_mm(inch(n->value)) * length_scale;
    if (const auto* a = std::get_if<Angle>(&v)) return in_rad(*a) * angle_scale;
    return std::get<double>(v);
}

// plain + mm·(length scale) + rad·(angle scale): the parts of a result by kind.
struct Parts {
    double plain = 0, length_mm = 0, angle_rad = 0;
};

// Calls `take` with every word of a rewritten text that may be a name.
template<class Take>
void for_each_name(std::string_view text, const Take& take) {
    for (std::size_t i = 0; i < text.size();) {
        if (digit(text[i]) || text[i] == '.') { // a number, its exponent too
            while (i < text.size() && (digit(text[i]) || letter(text[i]) || text[i] == '.'))
                ++i;
        } else if (letter(text[i])) {
            const std::size_t from = i;
            while (i < text.size() && (letter(text[i]) || digit(text[i])))
                ++i;
            take(text.substr(from, i - from));
        } else {
            ++i;
        }
    }
}

class Arithmetic {
public:
    Arithmetic(std::string_view typed, const Names& names, Inches inches)
        : typed_(typed), names_(names), inches_(inches) {
        if (typed.size() > longest_text)
            throw InputError("This text is longer than " + std::to_string(longest_text) +
                                 " characters; a number or a short formula is expected.",
                             longest_text);
        if (std::all_of(typed.begin(), typed.end(), [](char c) { return c == ' '; }))
            throw InputError("Nothing is written here; a number or a formula such as 2*pitch is expected.");
        for (std::size_t i = 0; i < typed.size(); ++i)
            if (static_cast<unsigned char>(typed[i]) < 32)
                throw InputError("There is an unprintable character here; a number or a formula is expected.",
                                 i, 1);
        if (const auto c = typed.find(','); c != std::string_view::npos && typed.find('(') > c)
            throw InputError("A comma can't be used in a number here; write the decimal point as a dot.", c,
                             1);
        for (std::size_t i = 0; i < typed.size();) {
            const std::size_t size = character_size(typed, i);
            const auto is_unit = [&](const UnitName& u) { return typed.substr(i, size) == u.text; };
            if (!letter(typed[i]) && !digit(typed[i]) &&
                std::string_view("+-*/^(),.<>! ").find(typed[i]) == std::string_view::npos &&
                std::none_of(unit_names.begin(), unit_names.end(), is_unit))
                throw InputError(in_quotes(typed.substr(i, size)) +
                                     " has no meaning here; use + - * / ^ and brackets.",
                                 i, size);
            i += size;
        }
        rewritten_ = rewrite(typed);
        for_each_name(rewritten_.text, [&](std::string_view word) {
            if (const Value* v = names.find(word)) used_.try_emplace(std::string(word), Used{v, 0});
        });
    }

    Parts parts() {
        try {
            return by_kind(read());
        } catch (const mu::Parser::exception_type& e) {
            throw translated(e);
        }
    }

private:
    Parts by_kind(mu::Parser& p) {
        const double base = at(p, 1, 1);
        const double l2 = at(p, 2, 1), l3 = at(p, 3, 1), a2 = at(p, 1, 2), a3 = at(p, 1, 3);
        const double length = l2 - base, angle = a2 - base;
        const double size = std::max({1e-12, std::abs(base), std::abs(l3), std::abs(a3)});
        if (std::abs(l3 - base - 2 * length) > 1e-9 * size || std::abs(a3 - base - 2 * angle) > 1e-9 * size)
            throw InputError("The units of this formula don't come out as a length, an angle or a number; "
                             "check what is multiplied or divided.",
                             0, typed_.size());
        Parts out;
        out.length_mm = std::abs(length) <= 1e-13 * size ? 0 : length;
        out.angle_rad = std::abs(angle) <= 1e-13 * size ? 0 : angle;
        out.plain = base - out.length_mm - out.angle_rad;
        if (std::abs(out.plain) <= 1e-12 * size && (out.length_mm != 0 || out.angle_rad != 0)) out.plain = 0;
        return out;
    }

    // The text is read once, with the units and the names it uses as variables.
    mu::Parser& read() {
        thread_local mu::Parser p;
        p.ClearVar();
        p.ClearConst();
        p.DefineConst("pi", std::numbers::pi);
        p.DefineVar("u_mm", &u_mm_);
        p.DefineVar("u_cm", &u_cm_);
        p.DefineVar("u_in", &u_in_);
        p.DefineVar("u_deg", &u_deg_);
        p.DefineVar("u_rad", &u_rad_);
        for (auto& [name, used] : used_)
            p.DefineVar(name, &used.now);
        p.SetExpr(rewritten_.text);
        return p;
    }

    double at(mu::Parser& p, double length_scale, double angle_scale) {
        u_mm_ = length_scale;
        u_cm_ = 10 * length_scale;
        u_in_ = 25.4 * length_scale;
        u_deg_ = std::numbers::pi / 180 * angle_scale;
        u_rad_ = angle_scale;
        for (auto& [name, used] : used_)
            used.now = scaled(*used.value, length_scale, angle_scale, inches_);
        const double r = p.Eval();
        if (!std::isfinite(r))
            throw InputError("This comes to no finite number; is something divided by zero?", 0,
                             typed_.size());
        return r;
    }

    InputError translated(const mu::Parser::exception_type& e) const {
        const auto pos = static_cast<std::size_t>(std::max(0, static_cast<int>(e.GetPos())));
        const std::size_t typed_at = pos < rewritten_.origin.size() ? rewritten_.origin[pos] : typed_.size();
        std::string token = e.GetToken();
        while (!token.empty() && token.back() == ' ')
            token.pop_back();
        switch (e.GetCode()) {
        case mu::ecUNASSIGNABLE_TOKEN: {
            // muParser reports where the token ends or starts; look the token up to be exact
            std::size_t start = typed_.find(token, typed_at >= token.size() ? typed_at - token.size() : 0);
            if (token.empty() || start == std::string_view::npos) { // a unit, which has another name inside
                start = std::min(typed_at, typed_.size() - 1);
                token = typed_.substr(start, character_size(typed_, start));
            }
            std::string known;
            for (const auto& [name, v] : names_)
                known += (known.empty() ? "" : ", ") + name;
            return InputError(in_quotes(token, 40) + " is not known here" +
                                  (known.empty() ? std::string("; no named values are defined yet.")
                                                 : "; named values are: " + known + "."),
                              start, token.size());
        }
        case mu::ecUNEXPECTED_EOF:
        case mu::ecMISSING_PARENS:
            return InputError("The formula ends too early; a number, a name or a closing bracket is missing.",
                              typed_.size());
        default:
            return InputError("This can't be read as a number or a formula from here on.", typed_at,
                              typed_at < typed_.size()
                                  ? std::max<std::size_t>(1, std::min(token.size(), typed_.size() - typed_at))
                                  : 0);
        }
    }

    std::string_view typed_;
    const Names& names_;
    Inches inches_;
    Rewritten rewritten_;
    struct Used {
        const Value* value;
        double now; // at the scales at hand
    };
    std::map<std::string, Used, std::less<>> used_;
    double u_mm_ = 1, u_cm_ = 1, u_in_ = 1, u_deg_ = 1, u_rad_ = 1;
};

// The everyday case, a bare number with or without a unit, without starting the formula machinery.
std::optional<Parts> bare_number(std::string_view text) {
    while (!text.empty() && text.front() == ' ')
        text.remove_prefix(1);
    while (!text.empty() && text.back() == ' ')
        text.remove_suffix(1);
    double v = 0;
    const auto [end, error] =
        std::from_chars(text.data(), text.data() + text.size(), v, std::chars_format::fixed);
    if (error != std::errc() || !std::isfinite(v) || text.size() > 40) return {};
    std::string_view unit(end, static_cast<std::size_t>(text.data() + text.size() - end));
    while (!unit.empty() && unit.front() == ' ')
        unit.remove_prefix(1);
    if (unit.empty()) return Parts{v, 0, 0};
    if (unit == "mm") return Parts{0, v, 0};
    if (unit == "in") return Parts{0, v * LengthKind::millimetres_per_inch, 0};
    return {};
}

Parts parts_of(std::string_view text, const Names& names) {
    if (const auto simple = bare_number(text)) return *simple;
    return Arithmetic(text, names, Inches::plain).parts();
}

// With InchNumbers as lengths; none where there are none in the text or no length comes out.
std::optional<Parts> length_in_inches(std::string_view text, const Names& names) {
    if (bare_number(text)) return {};
    bool any = false;
    for_each_name(rewrite(text).text, [&](std::string_view word) {
        const Value* v = names.find(word);
        any = any || (v && std::holds_alternative<InchNumber>(*v));
    });
    if (!any) return {};
    try {
        const Parts p = Arithmetic(text, names, Inches::lengths).parts();
        if (p.length_mm != 0 && p.angle_rad == 0) return p;
    } catch (const InputError&) {
        // two of them multiplied, or one that counts: plain numbers then
    }
    return {};
}

} // namespace

void require_usable_name(std::string_view name) {
    if (name.empty() || !std::isalpha(static_cast<unsigned char>(name.front())))
        throw InputError("A name starts with a letter, for example drum_d.");
    for (std::size_t i = 0; i < name.size(); ++i)
        if (!(letter(name[i]) || digit(name[i])))
            throw InputError("A name has only letters, digits and underscores, for example drum_d.", i, 1);
    if (name.size() > 40) throw InputError("A name has at most 40 characters.", 40);
    if (reserved().contains(name))
        throw InputError("'" + std::string(name) +
                             "' is a unit, a constant or a function; choose another name.",
                         0, name.size());
}

Length evaluate_length(std::string_view text, LengthUnit field_unit, const Names& names) {
    const auto inches = length_in_inches(text, names);
    const Parts p = inches ? *inches : parts_of(text, names);
    if (p.angle_rad != 0)
        throw InputError("This is an angle; a length such as 12.5 or 1/2 in is expected.", 0, text.size());
    return mm(p.length_mm) + of_unit(p.plain, field_unit);
}

Angle evaluate_angle(std::string_view text, const Names& names) {
    const Parts p = parts_of(text, names);
    if (p.length_mm != 0)
        throw InputError("This is a length; an angle such as 45 or 0.8 rad is expected.", 0, text.size());
    return rad(p.angle_rad) + deg(p.plain);
}

double evaluate_number(std::string_view text, const Names& names) {
    const Parts p = parts_of(text, names);
    if (p.length_mm != 0 || p.angle_rad != 0)
        throw InputError("This has a unit; a plain number is expected.", 0, text.size());
    return p.plain;
}

Value evaluate(std::string_view text, const Names& names) {
    const Parts p = parts_of(text, names);
    if (p.length_mm != 0 && p.angle_rad == 0) {
        if (p.plain != 0)
            throw InputError("A length and a plain number are added here; give the number a unit.", 0,
                             text.size());
        return mm(p.length_mm);
    }
    if (p.angle_rad != 0 && p.length_mm == 0 && p.plain == 0) return rad(p.angle_rad);
    if (p.angle_rad != 0)
        throw InputError("An angle is added to something that is not an angle.", 0, text.size());
    if (const auto inches = length_in_inches(text, names); inches && inches->plain == 0)
        return InchNumber{p.plain};
    return p.plain;
}

std::string with_decimal_points(std::string_view typed) {
    std::string out(typed);
    std::vector<bool> lists; // of each open bracket: whether a function's
    for (std::size_t i = 0; i < typed.size(); ++i) {
        if (typed[i] == '(') {
            std::size_t word = i;
            while (word > 0 && (letter(typed[word - 1]) || digit(typed[word - 1])))
                --word;
            lists.push_back(reserved().contains(typed.substr(word, i - word)));
        } else if (typed[i] == ')' && !lists.empty()) {
            lists.pop_back();
        } else if (typed[i] == ',' && i > 0 && digit(typed[i - 1]) && i + 1 < typed.size() &&
                   digit(typed[i + 1]) && std::find(lists.begin(), lists.end(), true) == lists.end()) {
            out[i] = '.';
        }
    }
    return out;
}

std::string number_text(double value, int decimals) {
    std::array<char, 400> buffer{};
    const auto end = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value,
                                   std::chars_format::fixed, decimals);
    std::string s(buffer.data(), end.ptr);
    if (s.find('.') != std::string::npos) {
        s.erase(s.find_last_not_of('0') + 1);
        if (s.back() == '.') s.pop_back();
    }
    return s == "-0" ? "0" : s;
}

std::string outside_text(double value, double least, double most) {
    if (const double size = std::abs(value); size != 0 && !(size >= 1e-6 && size < 1e9)) {
        std::array<char, 40> buffer{};
        const auto end = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value,
                                       std::chars_format::scientific, 2);
        std::string s(buffer.data(), end.ptr);
        for (const char* zeros : {"00e", "0e", ".e"})
            if (const auto at = s.find(zeros); at != std::string::npos) s.erase(at, std::strlen(zeros) - 1);
        return s;
    }
    for (int decimals = 4;; ++decimals)
        if (std::string s = number_text(value, decimals);
            decimals == 15 || (s != number_text(least, decimals) && s != number_text(most, decimals)))
            return s;
}

std::string length_text(Length value, LengthUnit unit) {
    return number_text(in_unit(value, unit), unit == LengthUnit::inch ? 5 : 4);
}

} // namespace whorl
