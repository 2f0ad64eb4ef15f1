#include "form/tooth/gear_designation.hpp"

#include "form/kinds.hpp"
#include "form/word_reader.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <cctype>
#include <cmath>

namespace whorl {
namespace {

using Word = WordReader::Word;

class GearReader : WordReader {
public:
    explicit GearReader(std::string_view text) : WordReader(lowered_line(text)) {
        out_.unit = take_unit().value_or(LengthUnit::millimetre);
    }

    GearDesignation parse() {
        if (take("internal")) out_.spec.internal = true;
        if (!take("gear"))
            throw InputError("A gear begins with gear or internal gear, for example gear m2 z24 b12.", 0, 4);
        const Said said = read_words();
        if (!said.teeth) throw InputError("A gear needs its number of teeth, such as z24.", end());
        if (said.width) out_.length = positive(*said.width, "face width");
        if (said.bore) out_.body.bore = positive(*said.bore, "bore");
        if (out_.body.key && !out_.body.bore)
            throw InputError("A keyway needs a bore: write for example bore 16 key.", end());
        if (out_.spec.internal && out_.body.any())
            throw InputError("An internal gear has its teeth in the bore; it takes neither bore nor web.",
                             end());
        (void)resolve_gear(out_.spec); // out of range is said here
        return out_;
    }

    RackDesignation parse_bar() {
        bar_ = true;
        if (!take("rack"))
            throw InputError("A rack begins with rack, for example rack m2 z20 b20 h20.", 0, 4);
        const Said said = read_words();
        if (said.teeth && said.length)
            throw InputError("A rack has either its teeth (z) or its length (l); the other follows.",
                             said.length->at, said.length->text.size());
        if (!said.teeth && !said.length)
            throw InputError("A rack needs its number of teeth, such as z20, or its length, such as l300.",
                             end());
        RackSpec r;
        const GearSpec& s = out_.spec;
        r.module = s.module;
        r.pressure_angle = s.pressure_angle;
        r.helix_angle = s.helix_angle;
        r.hand = s.hand;
        r.rack = s.rack;
        r.tip_shortening = s.tip_shortening;
        r.tip_edge = s.tip_edge;
        r.tip_size = s.tip_size;
        r.thinning = s.thinning;
        if (said.teeth) r.teeth = s.teeth;
        if (said.length) r.length = positive(*said.length, "length");
        r.width = said.width ? positive(*said.width, "face width") : s.module * 10;
        r.height = said.height ? positive(*said.height, "height") : s.module * 10;
        if (said.plain) {
            const std::string& both = said.plain->text;
            const auto slash = both.find('/');
            const auto one = [&](const std::string& text) {
                return positive({text, said.plain->at}, "plain end", true);
            };
            r.near_plain = one(both.substr(0, slash));
            r.far_plain = slash == std::string::npos ? r.near_plain : one(both.substr(slash + 1));
        }
        (void)resolve_rack(r);
        return {r, {}, out_.unit};
    }

private:
    // What is worked out when all words are read, since the unit may come last.
    struct Said {
        bool teeth = false;
        std::optional<Word> width, height, length, plain, bore;
    };

    Length positive(const Word& w, const char* what, bool zero = false) const {
        try {
            const Length l = evaluate_length(w.text, out_.unit);
            if (in_mm(l) > 0 || (zero && in_mm(l) == 0)) return l;
        } catch (const InputError& e) {
            throw InputError(e.what(), w.at, w.text.size());
        }
        throw InputError(std::string("The ") + what + " must be more than zero.", w.at, w.text.size());
    }

    Said read_words() {
        bool module = false;
        Said said;
        const auto later = [&](const char* key,
                               const char* example) { // its complaint is about the whole word
            const std::size_t at = here().at;
            return Word{value(key, example).text, at};
        };
        while (!done()) {
            const Word w = here();
            GearSpec& s = out_.spec;
            if (w.text == "lh" || w.text == "left") {
                once("hand", take()), s.hand = Hand::left;
            } else if (w.text == "rh" || w.text == "right") {
                once("hand", take()), s.hand = Hand::right;
            } else if (w.text == (bar_ ? "profile" : "rack")) {
                once("rack", take());
                rack();
            } else if (w.text == "tip") {
                once("tip", take());
                tip();
            } else if (at_key("helix")) {
                s.helix_angle = angle(value("helix", "15"));
            } else if (at_key("thin")) {
                s.thinning = length(value("thin", "0.05"), out_.unit);
            } else if (at_key("dp")) {
                const double dp = number(value("dp", "12"));
                if (!(dp >= 0.25 && dp <= 500))
                    throw InputError("A diametral pitch is between 0.25 and 500 per inch.", w.at,
                                     w.text.size());
                s.module = inch(1 / dp);
                out_.unit = LengthUnit::inch;
                module = true;
            } else if (at_key("m")) {
                s.module = mm(number(value("m", "2")));
                module = true;
            } else if (at_key("z")) {
                const double z = number(value("z", "24"));
                const double least = bar_ ? 1 : 5, most = bar_ ? 2000 : 1000;
                if (z != std::floor(z) || z < least || z > most)
                    throw InputError(bar_ ? "A rack has 1 to 2000 teeth, a whole number."
                                          : "A gear has 5 to 1000 teeth, a whole number.",
                                     w.at, w.text.size());
                s.teeth = static_cast<int>(z);
                said.teeth = true;
            } else if (at_key("a")) {
                s.pressure_angle = angle(value("a", "20"));
            } else if (!bar_ && at_key("x")) {
                s.profile_shift = number(value("x", "0.1"));
            } else if (at_key("k")) {
                s.tip_shortening = number(value("k", "0.05"));
            } else if (!bar_ && at_key("bore")) {
                said.bore = later("bore", "16");
            } else if (!bar_ && w.text == "key") {
                once("key", take()), out_.body.key = true;
            } else if (!bar_ && w.text == "web") {
                once("web", take()), out_.body.web = true;
            } else if (at_key("b")) {
                said.width = later("b", "12");
            } else if (bar_ && at_key("h")) {
                said.height = later("h", "20");
            } else if (bar_ && at_key("l")) {
                said.length = later("l", "300");
            } else if (bar_ && at_key("plain")) {
                said.plain = later("plain", "12");
            } else {
                throw InputError(
                    in_quotes(w.text) +
                        (bar_ ? " is not understood in a rack; write m (module), z (teeth) or l (length), a "
                                "(pressure angle), b (face width), h (height), helix, LH or RH, profile, "
                                "plain, "
                                "k, tip, thin or dp. A rack has no profile shift: its gear has."
                              : " is not understood in a gear; write m (module), z (teeth), a (pressure "
                                "angle), b (face width), x (profile shift), helix, LH or RH, rack, k, tip, "
                                "thin, dp, bore, key or web."),
                    w.at, w.text.size());
            }
        }
        if (!module)
            throw InputError(std::string(bar_ ? "A rack" : "A gear") +
                                 " needs its module, such as m2 (or its diametral pitch, dp12).",
                             end());
        return said;
    }

    Angle angle(const Word& w) const {
        return located(w, [&] { return evaluate_angle(w.text); });
    }
    void rack() {
        if (done())
            throw InputError(
                std::string("After ") + (bar_ ? "profile" : "rack") +
                    " stands its type of ISO 53, A to D, or addendum/dedendum/root radius such as "
                    "1/1.25/0.38.",
                end());
        const Word w = take();
        out_.spec.rack = located(w, [&] { return parse_rack(w.text); });
    }

    void tip() {
        const std::size_t at = done() ? end() : here().at;
        if (take("chamfer"))
            out_.spec.tip_edge = TipEdge::chamfered;
        else if (take("round") || take("rounded"))
            out_.spec.tip_edge = TipEdge::rounded;
        else
            throw InputError("After tip stands chamfer or round with its size, such as tip chamfer 0.2.", at);
        if (done()) throw InputError("The tip's edge needs its size, such as tip chamfer 0.2.", end());
        out_.spec.tip_size = length(take(), out_.unit);
    }

    bool bar_ = false; // a rack is read
    GearDesignation out_;
};

} // namespace

bool is_gear(std::string_view text) {
    WordReader words(lowered_line(text.substr(0, 40)));
    words.take("internal");
    return words.take("gear");
}

bool is_rack(std::string_view text) {
    return WordReader(lowered_line(text.substr(0, 40))).take("rack");
}

standard::BasicRack parse_rack(const std::string& text) {
    std::string type = text;
    for (char& c : type)
        c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    if (const auto* known = standard::basic_rack(type)) return *known;
    const auto first = text.find('/'), second = text.find('/', first + 1);
    if (first == std::string::npos || second == std::string::npos)
        throw InputError(
            "There is no basic rack '" + text +
                "'; it is A, B, C or D of ISO 53, or addendum/dedendum/root radius in modules, such as "
                "1/1.25/0.38.",
            0, text.size());
    return {"", evaluate_number(text.substr(0, first)),
            evaluate_number(text.substr(first + 1, second - first - 1)),
            evaluate_number(text.substr(second + 1))};
}

GearDesignation parse_gear(std::string_view text) {
    return GearReader(text).parse();
}

RackDesignation parse_rack_bar(std::string_view text) {
    return GearReader(text).parse_bar();
}

namespace {

// An inch gear is one whose diametral pitch is whole while its module is no round number.
struct Writer {
    explicit Writer(Length module)
        : dp(std::round(25.4 / in_mm(module) * 4) / 4),
          inches(std::abs(25.4 / in_mm(module) - dp) < 1e-9 &&
                 std::abs(std::round(in_mm(module) * 1e4) / 1e4 - in_mm(module)) > 1e-9) {}
    std::string length(Length l) const {
        return number_text(in_unit(l, inches ? LengthUnit::inch : LengthUnit::millimetre), 9);
    }
    std::string module(Length m) const {
        return inches ? "dp" + number_text(dp, 2) : "m" + number_text(in_mm(m), 9);
    }
    double dp;
    bool inches;
};

template<class Spec>
std::string write_angles(const Spec& s) {
    std::string t = " a" + number_text(in_deg(s.pressure_angle), 6);
    if (in_rad(s.helix_angle) != 0)
        t += " helix " + number_text(in_deg(s.helix_angle), 6) + (s.hand == Hand::left ? " LH" : " RH");
    return t;
}

template<class Spec>
std::string write_profile(const Spec& s, const char* word, const Writer& w) {
    std::string t;
    if (s.rack.type.empty())
        t += std::string(" ") + word + " " + number_text(s.rack.addendum, 6) + "/" +
             number_text(s.rack.dedendum, 6) + "/" + number_text(s.rack.root_radius, 6);
    else if (s.rack.type != "A")
        t += std::string(" ") + word + " " + s.rack.type;
    if (s.tip_shortening != 0) t += " k" + number_text(s.tip_shortening, 9);
    if (s.tip_edge != TipEdge::sharp)
        t += std::string(" tip ") + (s.tip_edge == TipEdge::chamfered ? "chamfer " : "round ") +
             w.length(s.tip_size);
    if (in_mm(s.thinning) > 0) t += " thin " + w.length(s.thinning);
    return t;
}

} // namespace

std::string write_gear(const GearSpec& s, std::optional<Length> width) {
    const Writer w(s.module);
    std::string t = (s.internal ? "internal gear " : "gear ") + w.module(s.module) + " z" +
                    std::to_string(s.teeth) + write_angles(s);
    if (s.profile_shift != 0) t += " x" + number_text(s.profile_shift, 9);
    t += write_profile(s, "rack", w);
    if (width) t += " b" + w.length(*width);
    return t;
}

std::string write_rack(const RackSpec& s) {
    const Writer w(s.module);
    std::string t = "rack " + w.module(s.module);
    t += s.teeth ? " z" + std::to_string(*s.teeth) : " l" + w.length(s.length.value_or(mm(0)));
    t += write_angles(s) + write_profile(s, "profile", w);
    if (in_mm(s.near_plain) > 0 || in_mm(s.far_plain) > 0) {
        t += " plain " + w.length(s.near_plain);
        if (s.far_plain != s.near_plain) t += "/" + w.length(s.far_plain);
    }
    return t + " b" + w.length(s.width) + " h" + w.length(s.height);
}

namespace {

// A line for every module of series I; # stands for it, $ for a width of ten modules.
std::vector<Usual> by_module(std::string_view pattern, const char* says, Length least = mm(0),
                             Length most = mm(1000)) {
    std::vector<Usual> out;
    for (const auto& m : standard::preferred_modules()) {
        if (m.series != 1 || m.module < least || m.module > most) continue;
        std::string text;
        for (const char c : pattern)
            text += c == '#'   ? number_text(in_mm(m.module), 3)
                    : c == '$' ? number_text(10 * in_mm(m.module), 3)
                               : std::string(1, c);
        out.push_back({text, says});
    }
    return out;
}
std::vector<Usual> usual_gears(std::span<const OwnSection>) {
    auto out = by_module("gear m{#} z{24} a{20} b{$}", "spur");
    const auto more = [&](std::vector<Usual> lines) { out.insert(out.end(), lines.begin(), lines.end()); };
    more(by_module("gear m{#} z{24} helix {15} {LH} b{$}", "helical"));
    more(by_module("gear m{#} z{48} b{$} bore {$} key web", "a whole wheel: bore, keyway and web", mm(1),
                   mm(20)));
    more({{"gear dp{12} z{30} b{3/4}", "by diametral pitch, in inch"}});
    return out;
}
std::vector<Usual> usual_rings(std::span<const OwnSection>) {
    return by_module("internal gear m{#} z{73} b{$}", "teeth inside a ring");
}
std::vector<Usual> usual_racks(std::span<const OwnSection>) {
    auto out = by_module("rack m{#} z{20} b{$} h{$}", "by its teeth");
    for (Usual& u : by_module("rack m{#} l{300} b{$} h{$}", "by its length"))
        out.push_back(std::move(u));
    return out;
}

} // namespace

DesignationKind gear_kind() {
    return {"gear",
            "Gears and racks",
            {"Gear", "Spur or helical, outside teeth; with bore, keyway and web where you ask for them."},
            "gear m2 ",
            usual_gears,
            is_gear,
            read_as<parse_gear>};
}

DesignationKind internal_gear_kind() {
    return {"internal_gear",
            "Gears and racks",
            {"Internal gear", "A ring with its teeth inside, for a pinion that runs in it.",
             "internal gear m2 z40 b20"},
            "internal gear m2 ",
            usual_rings};
}

DesignationKind rack_kind() {
    return {"rack",
            "Gears and racks",
            {"Rack", "A straight bar of teeth: turning becomes a stroke.", "rack m2 z9 b20 h14"},
            "rack m2 ",
            usual_racks,
            is_rack,
            read_as<parse_rack_bar>};
}

} // namespace whorl
