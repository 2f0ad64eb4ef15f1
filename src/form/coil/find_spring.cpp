#include "form/coil/find_spring.hpp"

#include "form/word_reader.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

constexpr double least_index = 4, most_index = 20, off_allowed = 0.02;
constexpr std::size_t most_found = 60;

// What keeps a spring out, in the order in which it is looked at.
enum class Bar { rate, index, outside, inside, gaps, solid, stress, buckling };
constexpr std::array bars{"their rate is off by more than 2 % with a diameter of whole twentieths",
                          "their spring index is not 4 to 20",
                          "they are too wide outside",
                          "they are too narrow inside",
                          "they are too long at the shortest length: solid, or nearly",
                          "they are too long when solid",
                          "they are stressed too much at solid",
                          "they buckle"};

struct Aim {
    double rate = 0;
    double longest = 0, shortest = 0, force = 0; // middle force of the loads
    double middle = 0;                           // of their lengths
};

Aim aim_of(const SpringWanted& w) {
    if (w.loads.empty() || w.loads.size() > 2)
        throw InputError(
            "A spring is found from two loads, such as 40 N at 32 mm and 65 N at 24 mm, or from one and the "
            "rate.");
    for (const LoadAt& l : w.loads)
        if (!(l.force > 0 && l.length > 0 && l.force < 1e6 && l.length < 1e4))
            throw InputError("A load is more than 0 N at a length of more than 0 mm, such as 40@32.");
    Aim a;
    const LoadAt &one = w.loads.front(), &two = w.loads.back();
    a.longest = std::max(one.length, two.length);
    a.shortest = std::min(one.length, two.length);
    a.force = (one.force + two.force) / 2;
    a.middle = (one.length + two.length) / 2;
    if (w.loads.size() == 1) {
        if (!w.rate) throw InputError("With one load the rate is wanted too, in N/mm.");
        a.rate = *w.rate;
    } else {
        if (w.rate) throw InputError("Two loads say the rate; leave one of the three out.");
        if (std::abs(one.length - two.length) < 1e-9)
            throw InputError("Both loads are at the same length; a second length is wanted.");
        a.rate = (two.force - one.force) / (one.length - two.length);
    }
    if (!(a.rate > 0))
        throw InputError("The load must grow as the spring gets shorter: here it is " +
                         number_text(one.force, 3) + " N at " + number_text(one.length, 3) + " mm and " +
                         number_text(two.force, 3) + " N at " + number_text(two.length, 3) + " mm.");
    if (w.outside && w.inside && *w.outside <= *w.inside)
        throw InputError("The room outside must be wider than that inside.");
    return a;
}

class Finder {
public:
    explicit Finder(const SpringWanted& wanted)
        : wanted_(wanted), aim_(aim_of(wanted)), wire_(spring_wires().front()) {
        if (!tensile_strength(wanted.wire_class, 1))
            throw InputError("There is no wire class '" + wanted.wire_class +
                             "'; EN 10270-1 has SL, SM, DM, SH and DH.");
    }

    std::vector<SpringFound> find() {
        for (const double d : preferred_wires())
            for (double n = 2.5; n <= 40; n += 0.5)
                look_at(d, n);
        if (found_.empty()) refuse();
        std::ranges::stable_sort(found_, {}, &SpringFound::mass);
        if (found_.size() > most_found) found_.resize(most_found);
        return std::move(found_);
    }

private:
    void look_at(double d, double n) {
        const double G = wire_.shear_modulus,
                     D = std::round(std::cbrt(G * std::pow(d, 4) / (8 * n * aim_.rate)) / 0.05) * 0.05;
        if (D < 1.2 * d) return; // far from any spring
        const double rate = G * std::pow(d, 4) / (8 * n * std::pow(D, 3)),
                     free = std::round((aim_.middle + aim_.force / rate) / 0.05) * 0.05, total = n + 2,
                     solid = total * d, pitch = (free - 2 * d) / n, w = D / d;
        const auto barred = [&](Bar by) { ++barred_[static_cast<std::size_t>(by)]; };
        if (w < least_index || w > most_index) return barred(Bar::index);
        SpringFound f;
        f.rate = rate;
        for (const LoadAt& l : wanted_.loads) {
            f.forces.push_back(rate * (free - l.length));
            if (std::abs(f.forces.back() / l.force - 1) > off_allowed) return barred(Bar::rate);
        }
        const double growth = std::max(0.0, 0.1 * (pitch * pitch - 0.8 * pitch * d - 0.2 * d * d) / D);
        if (wanted_.outside && D + d + growth > *wanted_.outside + 1e-9) return barred(Bar::outside);
        if (wanted_.inside && D - d < *wanted_.inside - 1e-9) return barred(Bar::inside);
        f.solid_length = solid;
        f.margin = aim_.shortest - solid - n * (0.0015 * D * D / d + 0.1 * d);
        if (f.margin < -1e-9) return barred(Bar::gaps);
        if (wanted_.solid && solid > *wanted_.solid + 1e-9) return barred(Bar::solid);
        f.used = 8 * rate * (free - solid) * D / (pi * d * d * d) /
                 (0.56 * tensile_strength(wanted_.wire_class, d).value());
        if (f.used > 1) return barred(Bar::stress);
        f.buckles_at = buckling_travel(free, D, G, wire_.elastic_modulus);
        if (!wanted_.inside && f.buckles_at && *f.buckles_at < free - aim_.shortest)
            return barred(Bar::buckling);
        f.mass =
            pi * d * d / 4 * total * std::hypot(pi * D, (n * pitch + 2 * d) / total) / 1000 * wire_.density;
        f.spec.wire = mm(d);
        f.spec.diameters = {CoilStation{mm(D)}};
        f.spec.free_length = mm(free);
        f.spec.active = n;
        f.spec.ground = true;
        f.spec.wire_class = wanted_.wire_class;
        f.why = number_text(f.mass, 2) + " g, " + number_text(100 * f.used, 0) +
                " % of the permitted stress at solid, " + number_text(f.margin, 2) +
                " mm left at the shortest length, " +
                (f.buckles_at ? "buckles at " + number_text(*f.buckles_at, 1) + " mm of travel"
                              : "does not buckle");
        f.in_short = number_text(f.mass, 2) + " g, stress " + number_text(100 * f.used, 0) + " %, " +
                     number_text(f.margin, 2) + " mm left" +
                     (f.buckles_at ? ", buckles at " + number_text(*f.buckles_at, 1) + " mm" : "");
        found_.push_back(std::move(f));
    }

    [[noreturn]] void refuse() const {
        std::vector<std::size_t> order;
        for (std::size_t i = 0; i < bars.size(); ++i)
            if (barred_[i] > 0 && i != static_cast<std::size_t>(Bar::index)) order.push_back(i);
        std::ranges::stable_sort(order, std::greater{}, [&](std::size_t i) { return barred_[i]; });
        std::string why;
        for (std::size_t k = 0; k < std::min<std::size_t>(3, order.size()); ++k)
            why += (k ? "; of " : " Of ") + std::to_string(barred_[order[k]]) + " " + bars[order[k]];
        throw InputError("No spring of preferred wire bears that." + why + (why.empty() ? "" : ".") +
                         (why.empty()
                              ? " The rate of " + number_text(aim_.rate, 4) + " N/mm is beyond all of them."
                              : ""));
    }

    const SpringWanted& wanted_;
    Aim aim_;
    const SpringWire& wire_;
    std::array<int, bars.size()> barred_{};
    std::vector<SpringFound> found_;
};

} // namespace

const std::vector<double>& preferred_wires() {
    static const std::vector<double> all{0.2, 0.22, 0.25, 0.28, 0.32, 0.36, 0.4, 0.45, 0.5, 0.56, 0.63, 0.7,
                                         0.8, 0.9,  1,    1.1,  1.25, 1.4,  1.6, 1.8,  2,   2.25, 2.5,  2.8,
                                         3.2, 3.6,  4,    4.5,  5,    5.6,  6.3, 7,    8,   9,    10};
    return all;
}

std::optional<double> buckling_travel(double free_length, double D, double G, double E, double seating) {
    const double part = 1 - G / E, slender = pi * D / (seating * free_length),
                 under = 1 - part / (0.5 + G / E) * slender * slender;
    if (under < 0) return {};
    return free_length * 0.5 / part * (1 - std::sqrt(under));
}

bool is_spring_search(std::string_view text) {
    WordReader words(lowered_line(text.substr(0, 40)));
    return words.take("find") && words.take("spring");
}

namespace {
class SearchReader : WordReader {
public:
    explicit SearchReader(std::string_view text) : WordReader(text) {}
    SpringWanted read() {
        unit_ = take_unit().value_or(LengthUnit::millimetre);
        take(), take(); // `find spring`
        while (!done())
            word();
        if (out_.loads.empty())
            throw InputError("A spring is found from two loads, N at mm, such as find spring 40@32 65@24.",
                             end());
        return out_;
    }

private:
    void word() {
        const Word w = here();
        if (const std::size_t sign = w.text.find('@'); sign != w.text.npos && sign > 0) {
            take();
            const auto number = [&](std::string_view text, std::size_t at, auto read) {
                return located({std::string(text), w.at + at}, [&] { return read(text); });
            };
            const std::string_view text = w.text;
            out_.loads.push_back(
                {number(text.substr(0, sign), 0, [](std::string_view t) { return evaluate_number(t); }),
                 number(text.substr(sign + 1), sign + 1,
                        [&](std::string_view t) { return in_mm(evaluate_length(t, unit_)); })});
        } else if (at_key("rate")) {
            out_.rate = number(value("rate", "3"));
        } else if (at_key("outside")) {
            out_.outside = in_mm(length(value("outside", "24"), unit_));
        } else if (at_key("inside")) {
            out_.inside = in_mm(length(value("inside", "10"), unit_));
        } else if (at_key("solid")) {
            out_.solid = in_mm(length(value("solid", "20"), unit_));
        } else if (at_key("wire")) {
            out_.wire_class = value("wire", "SH").text;
            for (char& c : out_.wire_class)
                c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
        } else {
            throw InputError(in_quotes(w.text) +
                                 " is not understood in a search; write loads such as 40@32 (N at mm), rate, "
                                 "outside and inside (the room), solid (the longest when solid), wire SH.",
                             w.at, w.text.size());
        }
    }
    SpringWanted out_;
    LengthUnit unit_ = LengthUnit::millimetre;
};
} // namespace

SpringWanted parse_spring_search(std::string_view text) {
    return SearchReader(text).read();
}

std::vector<SpringFound> find_springs(const SpringWanted& wanted) {
    return Finder(wanted).find();
}

} // namespace whorl
