#include "form/tooth/gear_designation.hpp"

#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <cctype>
#include <cmath>
#include <set>
#include <vector>

namespace whorl {
namespace {

struct Word {
    std::string text; // in lower case
    std::size_t at;
};

std::vector<Word> words_of(std::string_view text) {
    std::vector<Word> out;
    for (std::size_t i = 0; i < text.size();) {
        const auto blank = [&](char c) { return std::isspace(static_cast<unsigned char>(c)) || c == ','; };
        if (blank(text[i])) {
            ++i;
            continue;
        }
        Word w{{}, i};
        while (i < text.size() && !blank(text[i]))
            w.text += static_cast<char>(std::tolower(static_cast<unsigned char>(text[i++])));
        out.push_back(std::move(w));
    }
    return out;
}

class Parser {
public:
    explicit Parser(std::string_view text) : words_(words_of(text)), end_(text.size()) {}

    GearDesignation parse() {
        if (next_is("internal")) out_.spec.internal = true;
        if (!next_is("gear"))
            throw InputError("A gear begins with gear or internal gear, for example gear m2 z24 b12.", 0, 4);
        const Said said = read_words();
        if (!said.teeth) throw InputError("A gear needs its number of teeth, such as z24.", end_);
        if (said.width) out_.width = positive(*said.width, "face width");
        if (said.bore) out_.body.bore = positive(*said.bore, "bore");
        if (out_.body.key && !out_.body.bore)
            throw InputError("A keyway needs a bore: write for example bore 16 key.", end_);
        if (out_.spec.internal && out_.body.any())
            throw InputError("An internal gear has its teeth in the bore; it takes neither bore nor web.",
                             end_);
        (void)resolve_gear(out_.spec); // out of range is said here
        return out_;
    }

    RackDesignation parse_bar() {
        bar_ = true;
        if (!next_is("rack"))
            throw InputError("A rack begins with rack, for example rack m2 z20 b20 h20.", 0, 4);
        const Said said = read_words();
        if (said.teeth && said.length)
            throw InputError("A rack has either its teeth (z) or its length (l); the other follows.",
                             said.length->at, said.length->text.size());
        if (!said.teeth && !said.length)
            throw InputError("A rack needs its number of teeth, such as z20, or its length, such as l300.",
                             end_);
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
        return {r, out_.unit};
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
        const auto later = [&](std::string_view key, const char* example) {
            const std::size_t at = words_[at_].at;
            return Word{value(key, example), at};
        };
        while (at_ < words_.size()) {
            const Word w = words_[at_];
            GearSpec& s = out_.spec;
            if (w.text == "lh" || w.text == "left") {
                s.hand = Hand::left, ++at_;
            } else if (w.text == "rh" || w.text == "right") {
                s.hand = Hand::right, ++at_;
            } else if (w.text == (bar_ ? "profile" : "rack")) {
                ++at_;
                rack();
            } else if (w.text == "tip") {
                ++at_;
                tip();
            } else if (takes("helix")) {
                s.helix_angle = rad(in_rad(evaluate_angle(value("helix", "15"))));
            } else if (takes("thin")) {
                s.thinning = length(value("thin", "0.05"));
            } else if (takes("dp")) {
                const double dp = number(value("dp", "12"));
                if (!(dp >= 0.25 && dp <= 500))
                    throw InputError("A diametral pitch is between 0.25 and 500 per inch.", w.at,
                                     w.text.size());
                s.module = inch(1 / dp);
                out_.unit = LengthUnit::inch;
                module = true;
            } else if (takes("m")) {
                s.module = mm(number(value("m", "2")));
                module = true;
            } else if (takes("z")) {
                const double z = number(value("z", "24"));
                const double least = bar_ ? 1 : 5, most = bar_ ? 2000 : 1000;
                if (z != std::floor(z) || z < least || z > most)
                    throw InputError(bar_ ? "A rack has 1 to 2000 teeth, a whole number."
                                          : "A gear has 5 to 1000 teeth, a whole number.",
                                     w.at, w.text.size());
                s.teeth = static_cast<int>(z);
                said.teeth = true;
            } else if (takes("a")) {
                s.pressure_angle = evaluate_angle(value("a", "20"));
            } else if (!bar_ && takes("x")) {
                s.profile_shift = number(value("x", "0.1"));
            } else if (takes("k")) {
                s.tip_shortening = number(value("k", "0.05"));
            } else if (!bar_ && takes("bore")) {
                said.bore = later("bore", "16");
            } else if (!bar_ && w.text == "key") {
                out_.body.key = true, ++at_;
            } else if (!bar_ && w.text == "web") {
                out_.body.web = true, ++at_;
            } else if (takes("b")) {
                said.width = later("b", "12");
            } else if (bar_ && takes("h")) {
                said.height = later("h", "20");
            } else if (bar_ && takes("l")) {
                said.length = later("l", "300");
            } else if (bar_ && takes("plain")) {
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
                             end_);
        return said;
    }

    bool next_is(const char* word) {
        if (at_ >= words_.size() || words_[at_].text != word) return false;
        ++at_;
        return true;
    }
    // Whether the next word is this key, alone or with its value joined to it.
    bool takes(std::string_view key) const {
        const std::string& w = words_[at_].text;
        if (!w.starts_with(key)) return false;
        if (w.size() == key.size()) return true;
        const char c = w[key.size()];
        return std::isdigit(static_cast<unsigned char>(c)) || c == '.' || c == '-' || c == '+' || c == '(';
    }
    std::string value(std::string_view key, const char* example) {
        const Word w = words_[at_++];
        if (!said_.insert(std::string(key)).second)
            throw InputError(in_quotes(w.text) + " says " + std::string(key) +
                                 " a second time; write it once, such as " + std::string(key) + example + ".",
                             w.at, w.text.size());
        if (w.text.size() > key.size()) return w.text.substr(key.size());
        if (at_ >= words_.size())
            throw InputError("After " + std::string(key) + " a number is wanted, such as " +
                                 std::string(key) + example + ".",
                             w.at, w.text.size());
        return words_[at_++].text;
    }
    template<class Work>
    auto located(Work work) const {
        try {
            return work();
        } catch (const InputError& e) {
            const Word& w = words_[at_ - 1];
            throw InputError(e.what(), w.at, w.text.size());
        }
    }
    double number(const std::string& text) const {
        return located([&] { return evaluate_number(text); });
    }
    Length length(const std::string& text) const {
        return located([&] { return evaluate_length(text, out_.unit); });
    }
    void rack() {
        if (at_ >= words_.size())
            throw InputError(
                std::string("After ") + (bar_ ? "profile" : "rack") +
                    " stands its type of ISO 53, A to D, or addendum/dedendum/root radius such as "
                    "1/1.25/0.38.",
                end_);
        const Word w = words_[at_++];
        out_.spec.rack = located([&] { return parse_rack(w.text); });
    }

    void tip() {
        const std::size_t at = at_ < words_.size() ? words_[at_].at : end_;
        if (next_is("chamfer"))
            out_.spec.tip_edge = TipEdge::chamfered;
        else if (next_is("round") || next_is("rounded"))
            out_.spec.tip_edge = TipEdge::rounded;
        else
            throw InputError("After tip stands chamfer or round with its size, such as tip chamfer 0.2.", at);
        if (at_ >= words_.size())
            throw InputError("The tip's edge needs its size, such as tip chamfer 0.2.", end_);
        ++at_;
        out_.spec.tip_size = length(words_[at_ - 1].text);
    }

    std::vector<Word> words_;
    std::size_t at_ = 0, end_;
    bool bar_ = false;           // a rack is read
    std::set<std::string> said_; // keys that have had their value
    GearDesignation out_;
};

} // namespace

bool is_gear(std::string_view text) {
    const auto words = words_of(text);
    return !words.empty() && (words[0].text == "gear" ||
                              (words[0].text == "internal" && words.size() > 1 && words[1].text == "gear"));
}

bool is_rack(std::string_view text) {
    const auto words = words_of(text);
    return !words.empty() && words[0].text == "rack";
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
    return Parser(text).parse();
}

RackDesignation parse_rack_bar(std::string_view text) {
    return Parser(text).parse_bar();
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

} // namespace whorl
