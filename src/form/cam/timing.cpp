#include "form/cam/timing.hpp"

#include "form/cam/walk.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double same_angle = 1e-9; // rad
constexpr double same_turn = 1e-6;

constexpr std::string_view kind_words[]{"rise", "return", "dwell", "spline"};

// --- reading ---

// A stretch of the text and where it stands, for the places of errors.
struct Part {
    std::string_view text;
    std::size_t at = 0;

    void trim() {
        while (!text.empty() && text.front() == ' ') {
            text.remove_prefix(1);
            ++at;
        }
        while (!text.empty() && text.back() == ' ')
            text.remove_suffix(1);
    }
};

std::string lowered(std::string_view s) {
    std::string out(s);
    for (char& c : out)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

// At commas that no bracket encloses.
std::vector<Part> items_of(std::string_view text) {
    std::vector<Part> out;
    int depth = 0;
    std::size_t from = 0;
    for (std::size_t i = 0; i <= text.size(); ++i) {
        if (i < text.size() && text[i] == '(') ++depth;
        if (i < text.size() && text[i] == ')') --depth;
        if (i < text.size() && (text[i] != ',' || depth > 0)) continue;
        Part p{text.substr(from, i - from), from};
        p.trim();
        out.push_back(p);
        from = i + 1;
    }
    return out;
}

// Where the last whole word of this spelling begins, if there is one.
std::optional<std::size_t> last_word(std::string_view text, std::string_view word) {
    const std::string low = lowered(text);
    const auto letter = [&](std::size_t i) {
        return i < low.size() && (std::isalnum(static_cast<unsigned char>(low[i])) || low[i] == '_');
    };
    for (std::size_t i = low.rfind(word); i != std::string::npos;
         i = i > 0 ? low.rfind(word, i - 1) : std::string::npos)
        if ((i == 0 || !letter(i - 1)) && !letter(i + word.size())) return i;
    return {};
}

struct LawWord {
    std::string_view text;
    Law law;
};
constexpr LawWord law_words[]{{"constant velocity", Law::constant},
                              {"constant", Law::constant},
                              {"parabolic", Law::parabolic},
                              {"simple harmonic", Law::harmonic},
                              {"harmonic", Law::harmonic},
                              {"cycloidal", Law::cycloidal},
                              {"3-4-5", Law::poly345},
                              {"4-5-6-7", Law::poly4567},
                              {"modified sine", Law::modified_sine},
                              {"modified-sine", Law::modified_sine},
                              {"modified trapezoid", Law::modified_trapezoid},
                              {"modified-trapezoid", Law::modified_trapezoid}};

// Taken off the end of an item, longest first.
std::optional<Law> take_law(Part& p) {
    const LawWord* best = nullptr;
    const std::string low = lowered(p.text);
    for (const LawWord& w : law_words)
        if (low.size() > w.text.size() && low.ends_with(w.text) &&
            low[low.size() - w.text.size() - 1] == ' ' && (!best || w.text.size() > best->text.size()))
            best = &w;
    if (!best) return {};
    p.text.remove_suffix(best->text.size());
    p.trim();
    return best->law;
}

class TimingReader {
public:
    TimingReader(LengthUnit unit, const Names& names) : unit_(unit), names_(names) {}

    CamStretch stretch(Part item) {
        const std::size_t end = std::min(item.text.find(' '), item.text.size());
        std::string first = lowered(item.text.substr(0, end));
        if (first == "fall") first = "return"; // the trade says both
        const auto* kind = std::find(std::begin(kind_words), std::end(kind_words), first);
        if (kind == std::end(kind_words))
            refuse(
                {item.text.substr(0, end), item.at},
                "A timing is made of rise, dwell, return and spline, for example rise 10 in 120 cycloidal.");
        Part rest{item.text.substr(end), item.at + end};
        rest.trim();
        CamStretch s;
        s.kind = static_cast<CamStretch::Kind>(kind - std::begin(kind_words));
        switch (s.kind) {
        case CamStretch::dwell:
            if (!rest.text.empty()) s.angle = angle(rest, "dwell 60");
            break;
        case CamStretch::rise:
        case CamStretch::back:
            lift_and_angle(s, rest);
            break;
        case CamStretch::spline:
            spline(s, rest);
            break;
        }
        return s;
    }

private:
    [[noreturn]] static void refuse(const Part& where, const std::string& sentence) {
        throw InputError(sentence, where.at, std::max<std::size_t>(1, where.text.size()));
    }

    template<class Work>
    static auto placed(const Part& where, Work work) {
        try {
            return work();
        } catch (const InputError& e) {
            throw InputError(e.what(), where.at + e.position, e.extent);
        }
    }

    double angle(Part p, const char* example) const {
        p.trim();
        if (p.text.empty())
            refuse(p, std::string("An angle in degrees is expected here, for example ") + example + ".");
        const double a = placed(p, [&] { return in_rad(evaluate_angle(p.text, names_)); });
        if (!(a > 1e-4 && a <= 40 * full_turn))
            refuse(p, "An angle of a timing is more than 0 and at most 14400 degrees.");
        return a;
    }
    double lift(Part p, bool may_be_negative) const {
        p.trim();
        if (p.text.empty()) refuse(p, "A lift is expected here, for example rise 10 in 120.");
        const double l = placed(p, [&] { return in_mm(evaluate_length(p.text, unit_, names_)); });
        if (!(std::abs(l) <= 2000) || (!may_be_negative && !(l > 0)))
            refuse(p, may_be_negative ? "A lift lies between -2000 and 2000 mm."
                                      : "A lift is more than 0 and at most 2000 mm.");
        return l;
    }

    void lift_and_angle(CamStretch& s, Part rest) {
        const char* example =
            s.kind == CamStretch::rise ? "rise 10 in 120 cycloidal" : "return in 120 cycloidal";
        if (const auto law = take_law(rest)) s.law = *law;
        const auto in = last_word(rest.text, "in");
        if (!in) refuse(rest, std::string("Say over which angle, for example ") + example + ".");
        Part before{rest.text.substr(0, *in), rest.at}, after{rest.text.substr(*in + 2), rest.at + *in + 2};
        before.trim();
        after.trim();
        s.angle = placed(after, [&] {
            try {
                return angle({after.text, 0}, example);
            } catch (const InputError& e) {
                // a word that is no law is the likeliest mistake
                if (after.text.find(' ') == std::string_view::npos) throw;
                throw InputError(std::string(e.what()) +
                                     " Laws are constant, parabolic, harmonic, cycloidal, 3-4-5, "
                                     "4-5-6-7, modified sine and modified trapezoid.",
                                 e.position, e.extent);
            }
        });
        if (!before.text.empty() || s.kind == CamStretch::rise) s.lift = lift(before, false);
    }

    // [to LIFT] in ANGLE through A/H A/H/S …
    void spline(CamStretch& s, Part rest) {
        const auto through = last_word(rest.text, "through");
        Part head{rest.text.substr(0, through.value_or(rest.text.size())), rest.at};
        const auto in = last_word(head.text, "in");
        if (!in) refuse(rest, "Say over which angle, for example spline to 10 in 120 through 30/2.5 60/7.");
        s.angle = angle({head.text.substr(*in + 2), head.at + *in + 2}, "spline to 10 in 120");
        Part to{head.text.substr(0, *in), head.at};
        to.trim();
        if (const auto word = last_word(to.text, "to"); word && *word == 0) {
            s.lift = lift({to.text.substr(2), to.at + 2}, true);
        } else if (!to.text.empty()) {
            refuse(to, "Write where the spline goes to, for example spline to 10 in 120.");
        } else {
            s.lift = 0;
        }
        if (!through) return;
        Part list{rest.text.substr(*through + 7), rest.at + *through + 7};
        for (list.trim(); !list.text.empty(); list.trim()) {
            const std::size_t n = std::min(list.text.find(' '), list.text.size());
            s.through.push_back(point({list.text.substr(0, n), list.at}));
            if (s.through.size() > 1 && s.through.back().angle < s.through[s.through.size() - 2].angle + 1e-4)
                refuse({list.text.substr(0, n), list.at},
                       "The points of a spline follow each other in rising angle.");
            if (s.through.back().angle > *s.angle - 1e-4)
                refuse(
                    {list.text.substr(0, n), list.at},
                    "This point lies beyond the end of its spline; its own end is not written as a point.");
            list = {list.text.substr(n), list.at + n};
        }
        if (s.through.size() > 2000) refuse(list, "A spline goes through at most 2000 points.");
    }

    TimedPoint point(Part p) const {
        std::vector<Part> parts;
        std::size_t from = 0;
        for (std::size_t i = 0; i <= p.text.size(); ++i)
            if (i == p.text.size() || p.text[i] == '/') {
                parts.push_back({p.text.substr(from, i - from), p.at + from});
                from = i + 1;
            }
        if (parts.size() < 2 || parts.size() > 3)
            refuse(p, "A point is written angle/lift or angle/lift/slope, for example 30/2.5 or 60/7/0.08.");
        TimedPoint out;
        out.angle = angle(parts[0], "30/2.5");
        out.lift = lift(parts[1], true);
        if (parts.size() == 3) out.slope = lift(parts[2], true) * 180 / pi; // typed per degree
        return out;
    }

    LengthUnit unit_;
    const Names& names_;
};

// --- making ---

// A cubic spline through knots, with slopes where they are given and a continuous second derivative
// elsewhere: the slopes m satisfy, at each free knot, m[i−1]/h0 + 2·m[i]·(1/h0 + 1/h1) + m[i+1]/h1 = 3·(d0/h0
// + d1/h1), d the chords' slopes. Solved by elimination; around a whole turn the system is closed. (de Boor,
// A Practical Guide to Splines, chapter IV.)
std::vector<double> spline_slopes(const std::vector<TimedPoint>& k, bool closed) {
    const std::size_t n = closed ? k.size() - 1 : k.size();
    std::vector<double> low(n), diag(n), up(n), right(n);
    const auto h = [&](std::size_t i) { return k[i + 1].angle - k[i].angle; };
    const auto d = [&](std::size_t i) { return (k[i + 1].lift - k[i].lift) / h(i); };
    for (std::size_t i = 0; i < n; ++i) {
        if (k[i].slope) {
            diag[i] = 1;
            right[i] = *k[i].slope;
            continue;
        }
        const std::size_t before = i > 0 ? i - 1 : k.size() - 2;
        low[i] = 1 / h(before);
        up[i] = 1 / h(i);
        diag[i] = 2 * (low[i] + up[i]);
        right[i] = 3 * (d(before) * low[i] + d(i) * up[i]);
    }
    // tridiagonal; the corners of a closed one by the Sherman–Morrison formula
    const auto solve = [&](std::vector<double> dg, std::vector<double> r) {
        for (std::size_t i = 1; i < n; ++i) {
            const double f = low[i] / dg[i - 1];
            dg[i] -= f * up[i - 1];
            r[i] -= f * r[i - 1];
        }
        for (std::size_t i = n; i-- > 0;)
            r[i] = (r[i] - (i + 1 < n ? up[i] * r[i + 1] : 0)) / dg[i];
        return r;
    };
    std::vector<double> m;
    if (closed && n > 2 && (low[0] != 0 || up[n - 1] != 0)) {
        const double gamma = -diag[0];
        std::vector<double> dg = diag, u(n, 0.0);
        dg[0] -= gamma;
        dg[n - 1] -= up[n - 1] * low[0] / gamma;
        u[0] = gamma;
        u[n - 1] = up[n - 1];
        const std::vector<double> y = solve(dg, right), q = solve(dg, u);
        const double f = (y[0] + low[0] / gamma * y[n - 1]) / (1 + q[0] + low[0] / gamma * q[n - 1]);
        m.resize(n);
        for (std::size_t i = 0; i < n; ++i)
            m[i] = y[i] - f * q[i];
    } else {
        m = solve(diag, right);
    }
    if (closed) m.push_back(m.front());
    return m;
}

void add_spline(Motion& out, const CamStretch& s, std::size_t index, double from, double span, double low,
                bool closed) {
    std::vector<TimedPoint> knots{{0, low, closed ? std::optional<double>{} : 0.0}};
    knots.insert(knots.end(), s.through.begin(), s.through.end());
    knots.push_back({span, s.lift.value_or(0), closed ? std::optional<double>{} : 0.0});
    const std::vector<double> m = spline_slopes(knots, closed);
    for (std::size_t i = 0; i + 1 < knots.size(); ++i) {
        MotionPart p;
        p.from = from + knots[i].angle;
        p.to = from + knots[i + 1].angle;
        p.stretch = index;
        const double h = p.to - p.from, rise = (knots[i + 1].lift - knots[i].lift) / h;
        p.powers = {knots[i].lift, m[i], (3 * rise - 2 * m[i] - m[i + 1]) / h,
                    (m[i] + m[i + 1] - 2 * rise) / (h * h)};
        out.parts.push_back(p);
    }
}

} // namespace

Timing parse_timing(std::string_view text, LengthUnit unit, const Names& names) {
    Timing out;
    TimingReader reader(unit, names);
    for (const Part& item : items_of(text)) {
        if (item.text.empty())
            throw InputError(
                "A timing is expected here, for example rise 10 in 120 cycloidal, dwell 60, return in 120, "
                "dwell 60.",
                item.at);
        out.stretches.push_back(reader.stretch(item));
        if (out.stretches.size() > 200) throw InputError("A timing has at most 200 stretches.", item.at);
    }
    if (std::count_if(out.stretches.begin(), out.stretches.end(),
                      [](const CamStretch& s) { return !s.angle; }) > 1)
        throw InputError("Only one dwell can take the rest of the turn; say the angle of the others.", 0,
                         text.size());
    return out;
}

std::vector<std::string> timing_items(std::string_view text) {
    std::vector<std::string> out;
    for (const Part& p : items_of(text))
        out.emplace_back(p.text);
    return out;
}

std::string with_timing_item(std::string_view text, std::size_t item, std::string_view replaced) {
    std::vector<std::string> items = timing_items(text);
    if (item >= items.size())
        items.emplace_back(replaced);
    else
        items[item] = replaced;
    std::string out;
    for (const std::string& s : items)
        if (!s.empty()) out += (out.empty() ? "" : ", ") + s;
    return out;
}

std::string write_timing(const Timing& t, LengthUnit unit) {
    const auto degrees = [](double a) { return number_text(a * 180 / pi, 6); };
    const auto length = [&](double l) { return number_text(in_unit(mm(l), unit), 6); };
    std::string out;
    for (const CamStretch& s : t.stretches) {
        if (!out.empty()) out += ", ";
        out += kind_words[s.kind];
        if (s.kind == CamStretch::spline) {
            if (s.lift.value_or(0) != 0) out += " to " + length(*s.lift);
        } else if (s.lift) {
            out += " " + length(*s.lift);
        }
        if (s.angle) out += (s.kind == CamStretch::dwell ? " " : " in ") + degrees(*s.angle);
        if (s.kind == CamStretch::rise || s.kind == CamStretch::back) out += " " + std::string(word(s.law));
        if (!s.through.empty()) out += " through";
        for (const TimedPoint& p : s.through) {
            out += " " + degrees(p.angle) + "/" + length(p.lift);
            if (p.slope) out += "/" + number_text(in_unit(mm(*p.slope * pi / 180), unit), 8);
        }
    }
    return out;
}

Motion motion_of(const Timing& t) {
    Motion out;
    out.whole = t.turns * full_turn;
    double asked = 0;
    for (const CamStretch& s : t.stretches)
        asked += s.angle.value_or(0);
    const double rest = std::max(0.0, out.whole - asked);
    // angles with six places of a degree may miss the turn by their rounding: the last takes it up
    const double missed = std::abs(out.whole - asked) < same_turn ? out.whole - asked : 0;
    double at = 0, level = 0;
    for (std::size_t i = 0; i < t.stretches.size(); ++i) {
        const CamStretch& s = t.stretches[i];
        const double span = s.angle.value_or(rest) + (i + 1 == t.stretches.size() ? missed : 0);
        if (span < same_angle) continue;
        if (s.kind == CamStretch::spline) {
            const bool whole = t.stretches.size() == 1 && s.through.size() > 1 && s.lift.value_or(0) == 0 &&
                               std::abs(span - out.whole) < same_angle;
            add_spline(out, s, i, at, span, level, whole);
            level = s.lift.value_or(0);
        } else if (s.kind == CamStretch::dwell) {
            MotionPart p;
            p.from = at;
            p.to = at + span;
            p.stretch = i;
            p.powers[0] = level;
            out.parts.push_back(p);
        } else {
            const double height = s.kind == CamStretch::rise ? *s.lift : -s.lift.value_or(level);
            const std::span<const double> breaks = law_breaks(s.law);
            double from = 0;
            for (std::size_t piece = 0; piece <= breaks.size(); ++piece) {
                const double to = piece < breaks.size() ? breaks[piece] : 1;
                MotionPart p;
                p.from = at + from * span;
                p.to = at + to * span;
                p.stretch = i;
                p.law = true;
                p.by = s.law;
                p.piece = piece;
                p.begin = at;
                p.span = span;
                p.low = level;
                p.height = height;
                out.parts.push_back(p);
                from = to;
            }
            level += height;
        }
        at += span;
    }
    out.turn = at;
    out.last = level;
    if (out.parts.empty()) return out;
    if (std::abs(at - out.whole) < same_angle) { // written in degrees: the turn is a turn
        out.turn = out.whole;
        out.parts.back().to = out.whole;
    }
    look_over(out);
    return out;
}

void look_over(Motion& m) {
    m.highest = peak_of(m, [&](double theta, std::size_t part) { return m.at(theta, part)[0]; }).value;
    m.lowest = -peak_of(m, [&](double theta, std::size_t part) { return -m.at(theta, part)[0]; }).value;
    m.jumps.clear();
    for (std::size_t i = 0; i < m.parts.size(); ++i) {
        const std::size_t before = i > 0 ? i - 1 : m.parts.size() - 1;
        const Derivatives a = m.at(m.parts[before].to, before), b = m.at(m.parts[i].from, i);
        const CamJump j{m.parts[i].from, i, b[0] - a[0], b[1] - a[1], b[2] - a[2], b[3] - a[3]};
        const double tiny = 1e-9 * std::max(1.0, std::abs(m.highest));
        if (std::abs(j.lift) > tiny || std::abs(j.velocity) > 10 * tiny ||
            std::abs(j.acceleration) > 100 * tiny || std::abs(j.jerk) > 1000 * tiny)
            m.jumps.push_back(j);
    }
}

double Motion::angle_left() const {
    return whole - turn;
}

double Motion::wrapped(double theta) const {
    return theta - std::floor(theta / whole) * whole;
}

std::size_t Motion::part_at(double theta) const {
    theta = wrapped(theta);
    const auto it = std::upper_bound(parts.begin(), parts.end(), theta,
                                     [](double t, const MotionPart& p) { return t < p.to; });
    return it == parts.end() ? parts.size() - 1 : static_cast<std::size_t>(it - parts.begin());
}

Derivatives Motion::at(double theta) const {
    if (parts.empty()) return {};
    return at(wrapped(theta), part_at(theta));
}

Derivatives Motion::at(double theta, std::size_t part) const {
    return motion_at(parts[part], theta);
}

Derivatives motion_at(const MotionPart& p, double theta) {
    if (!p.law) {
        // Horner's scheme with its derivatives, each over its factorial
        const double u = theta - p.from;
        Derivatives y{};
        for (std::size_t i = p.powers.size(); i-- > 0;) {
            for (std::size_t k = y.size() - 1; k > 0; --k)
                y[k] = y[k] * u + y[k - 1];
            y[0] = y[0] * u + p.powers[i];
        }
        y[2] *= 2;
        y[3] *= 6;
        y[4] *= 24;
        return y;
    }
    Derivatives y = law_at(p.by, (theta - p.begin) / p.span, p.piece);
    double scale = p.height;
    for (double& d : y) {
        d *= scale;
        scale /= p.span;
    }
    y[0] += p.low;
    return y;
}

} // namespace whorl
