#include "form/kinds.hpp"
#include "form/reader.hpp"
#include "form/tooth/spline.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

constexpr const char* examples =
    "Write for example spline W 30x2x14 x 25 (DIN 5480: reference diameter, module, teeth; "
    "N for the hub) or spline EXT 24z x 2.5m x 30P x 40 (ISO 4156; INT for the hub).";

class SplineReader : Reader {
public:
    explicit SplineReader(std::string_view text) : Reader(text) {}

    SplineDesignation parse() {
        skip_blanks();
        word("spline");
        if (word("DIN")) require_word("5480");
        if (word("ISO")) require_word("4156");
        SplineDesignation out;
        if (letter('W') || letter('N')) {
            out.spec.hub = std::toupper(static_cast<unsigned char>(last_)) == 'N';
            out.spec.reference_diameter = mm(number("reference diameter"));
            times("module");
            out.spec.module = mm(number("module"));
            times("number of teeth");
            out.spec.teeth = teeth();
        } else if (word("EXT") || word("INT")) {
            out.spec.hub = std::toupper(static_cast<unsigned char>(last_)) == 'I';
            out.spec.teeth = teeth();
            unit('z', "teeth, such as 24z");
            times("module");
            out.spec.module = mm(number("module"));
            unit('m', "module, such as 2.5m");
            times("pressure angle");
            angle(out.spec);
        } else {
            refuse(examples);
        }
        tail(out);
        const Length length = out.length.value_or(mm(10));
        try {
            (void)resolve_spline(out.spec, length);
        } catch (const InputError& e) {
            throw InputError(e.what(), 0, before().size());
        }
        return out;
    }

private:
    bool word(std::string_view w) {
        skip_blanks();
        const char first = peek();
        if (take_word_ignoring_case(w)) return last_ = first, true;
        return false;
    }
    bool letter(char c) { // a number may follow at once
        skip_blanks();
        const auto next = static_cast<unsigned char>(peek(1));
        if (std::toupper(static_cast<unsigned char>(peek())) != c || std::isalpha(next)) return false;
        last_ = c;
        move_to(at() + 1);
        return true;
    }
    void require_word(std::string_view w) {
        if (!word(w)) refuse(examples);
    }
    void times(const char* what) {
        skip_blanks();
        if (!take_times()) refuse(std::string("An x and the ") + what + " are expected here. " + examples);
        skip_blanks();
    }
    double number(const char* what) {
        skip_blanks();
        return positive(what, std::string("The ") + what + " is expected here. " + examples);
    }
    int teeth() {
        const std::size_t from = at();
        const double z = number("number of teeth");
        if (z != std::floor(z) || z < 6 || z > 200)
            refuse_from(from, "A spline has 6 to 200 teeth, a whole number.");
        return static_cast<int>(z);
    }
    void unit(char letter, const char* what) {
        const char c = peek();
        if (std::tolower(static_cast<unsigned char>(c)) != letter)
            refuse(std::string("The ") + what + ", is expected here. " + examples);
        move_to(at() + 1);
    }
    // 30P, 30R, 37.5, 45
    void angle(SplineSpec& s) {
        s.pressure_angle = deg(number("pressure angle"));
        const int letter = std::toupper(static_cast<unsigned char>(peek()));
        if (letter != 'P' && letter != 'R') return;
        move_to(at() + 1);
        const bool steep = in_deg(s.pressure_angle) > 31;
        if (letter == 'R' && !steep) s.root = SplineRoot::fillet;
        if (letter == 'P' && steep) s.root = SplineRoot::flat; // is refused with its reason
    }
    // x CLASS, x LENGTH and how the root is, in any order, each once
    void tail(SplineDesignation& out) {
        for (skip_blanks(); !done(); skip_blanks()) {
            const std::size_t from = at();
            const bool behind_times = take_times();
            skip_blanks();
            if (!behind_times && root(out.spec)) continue;
            if (!behind_times && take_word_ignoring_case("thin")) {
                if (in_mm(out.spec.thinning) > 0) refuse_from(from, "The thinning is said twice.");
                out.spec.thinning = mm(number("thinning"));
                continue;
            }
            if (!behind_times && take_word_ignoring_case("mm")) continue;
            if (!behind_times) refuse("This is not understood in a spline. " + std::string(examples));
            if (const std::string c = take_class(); !c.empty()) {
                if (!out.spec.tolerance_class.empty()) refuse_from(from, "The class is said twice.");
                out.spec.tolerance_class = c;
                continue;
            }
            if (out.length) refuse_from(from, "The length is said twice.");
            out.length = mm(number("length"));
        }
    }
    bool root(SplineSpec& s) {
        const std::size_t from = at();
        for (int i = 0; i < spline_root_count; ++i) {
            const auto r = static_cast<SplineRoot>(i);
            if (!take_word_ignoring_case(whorl::word(r))) continue;
            if (s.root) refuse_from(from, "The root is said twice.");
            s.root = r;
            return true;
        }
        return false;
    }
    std::string take_class() {
        std::size_t n = 0;
        while (std::isdigit(static_cast<unsigned char>(peek(n))))
            ++n;
        if (n == 0 || n > 2 || !std::isalpha(static_cast<unsigned char>(peek(n))) || peek(n) == 'x' ||
            peek(n) == 'X' || std::isalnum(static_cast<unsigned char>(peek(n + 1))))
            return {};
        std::string text(rest().substr(0, n + 1));
        move_to(at() + n + 1);
        return text;
    }

    char last_ = 0;
};

} // namespace

bool is_spline(std::string_view text) {
    Reader r(text);
    r.skip_blanks();
    const auto named = [&](const char* norm, const char* number) {
        Reader n(r.rest());
        if (!n.take_word_ignoring_case(norm)) return false;
        n.skip_blanks();
        return n.take_word_ignoring_case(number);
    };
    return r.take_word_ignoring_case("spline") || named("DIN", "5480") || named("ISO", "4156") ||
           r.take_word_ignoring_case("EXT") || r.take_word_ignoring_case("INT");
}

SplineDesignation parse_spline(std::string_view text) {
    return SplineReader(text).parse();
}

std::string write_spline(const SplineSpec& s, std::optional<Length> length) {
    const auto number = [](Length l) { return number_text(in_mm(l), 9); };
    std::string t = "spline ";
    if (s.reference_diameter) {
        t += (s.hub ? "N " : "W ") + number(*s.reference_diameter) + "x" + number(s.module) + "x" +
             std::to_string(s.teeth);
    } else {
        t += (s.hub ? "INT " : "EXT ") + std::to_string(s.teeth) + "z x " + number(s.module) + "m x " +
             number_text(in_deg(s.pressure_angle), 2);
        if (in_deg(s.pressure_angle) < 31) t += s.root == SplineRoot::fillet ? "R" : "P";
    }
    if (!s.tolerance_class.empty()) t += " x " + s.tolerance_class;
    if (length) t += " x " + number(*length);
    if (in_mm(s.thinning) > 0) t += " thin " + number(s.thinning);
    if (s.reference_diameter && s.root) t += " " + std::string(word(*s.root));
    return t;
}

namespace {

std::vector<Usual> usual_splines(std::span<const OwnSection>) {
    std::vector<Usual> out;
    const auto text = [](double v) { return number_text(v, 3); };
    for (const auto& [d, m] : std::initializer_list<std::pair<double, double>>{{30, 2},
                                                                               {15, 1.25},
                                                                               {20, 1.25},
                                                                               {22, 1.25},
                                                                               {25, 1.25},
                                                                               {27, 1.25},
                                                                               {32, 2},
                                                                               {35, 2},
                                                                               {40, 2},
                                                                               {45, 2},
                                                                               {50, 2},
                                                                               {55, 2},
                                                                               {60, 2},
                                                                               {70, 3},
                                                                               {80, 3},
                                                                               {90, 3},
                                                                               {100, 3},
                                                                               {120, 3}}) {
        const auto z = usual_spline_teeth(mm(d), mm(m));
        if (!z) continue;
        const std::string sizes = "{" + text(d) + "}x{" + text(m) + "}x{" + std::to_string(*z) + "} x {" +
                                  text(std::round(0.8 * d)) + "}";
        out.push_back({"spline W " + sizes, "a shaft, DIN 5480"});
        out.push_back({"spline N " + sizes, "its hub"});
    }
    for (const char* angle : {"30P", "30R", "37.5", "45"}) {
        out.push_back(
            {std::string("spline EXT {24}z x {2.5}m x {") + angle + "} x {5f} x {40}", "a shaft, ISO 4156"});
        out.push_back({std::string("spline INT {24}z x {2.5}m x {") + angle + "} x {5H} x {40}", "its hub"});
    }
    return out;
}

} // namespace

DesignationKind spline_kind() {
    return {"spline",
            "Gears and racks",
            {"Involute spline", "Teeth that hold a shaft in its hub, by DIN 5480 or ISO 4156."},
            "spline W 30x2",
            usual_splines,
            is_spline,
            read_as<parse_spline>};
}

} // namespace whorl
