#include "form/coil/coil_designation.hpp"

#include "form/coil/stations.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <set>

namespace whorl {
namespace {

struct Word {
    std::string text;
    std::size_t at;
};

std::vector<Word> words_of(std::string_view text) {
    std::vector<Word> out;
    const auto blank = [](char c) { return std::isspace(static_cast<unsigned char>(c)) || c == ','; };
    for (std::size_t i = 0; i < text.size();) {
        if (blank(text[i])) {
            ++i;
            continue;
        }
        Word w{{}, i};
        while (i < text.size() && !blank(text[i]))
            w.text += text[i++];
        out.push_back(std::move(w));
    }
    return out;
}

std::string lowered(std::string s) {
    for (char& c : s)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return s;
}

class SpringReader {
public:
    explicit SpringReader(std::string_view text) : words_(words_of(text)), end_(text.size()) {}

    CoilDesignation read() {
        if (words_.size() > 1 && lowered(words_.back().text) == "in") {
            out_.unit = LengthUnit::inch;
            words_.pop_back();
        }
        join_mixed_numbers();
        at_ = 1; // `spring`
        while (at_ < words_.size())
            word();
        if (!said_.contains("d")) throw InputError("A spring needs its wire, such as d2.", end_);
        if (!said_.contains("diameter"))
            throw InputError("A spring needs a diameter: D (mean), De (outside) or Di (inside), such as D20.",
                             end_);
        CoilSpec& s = out_.spec;
        if (s.ground && !said_.contains("ends")) s.ends = CoilEnds::closed;
        try {
            (void)resolve_coil(s); // out of range, too little or too much is said here
        } catch (const InputError& e) {
            throw InputError(e.what(), end_);
        }
        return out_;
    }

private:
    void word() {
        const Word w = words_[at_];
        const std::string low = lowered(w.text);
        CoilSpec& s = out_.spec;
        const auto flag = [&](const char* key) {
            once(key, w);
            ++at_;
        };
        if (low == "open" || low == "closed") {
            flag("ends");
            s.ends = low == "open" ? CoilEnds::open : CoilEnds::closed;
        } else if (low == "ground") {
            flag("ground");
            s.ground = true;
        } else if (low == "rh" || low == "right" || low == "lh" || low == "left") {
            flag("hand");
            s.hand = low[0] == 'l' ? Hand::left : Hand::right;
        } else if (low == "wire") {
            once("material", w);
            ++at_;
            s.material = wire(w);
        } else if (takes("dead")) {
            s.dead = number("dead", "2");
        } else if (takes("tip")) {
            s.tip = length("tip", "0.5", "thickness of the wire's end");
        } else if (takes("De")) {
            diameters("De", CoilDiameter::outside);
        } else if (takes("Di")) {
            diameters("Di", CoilDiameter::inside);
        } else if (takes("D")) {
            diameters("D", CoilDiameter::mean);
        } else if (takes("d")) {
            s.wire = length("d", "2", "wire");
        } else if (takes("L") || takes("l")) {
            s.free_length = length("L", "50", "free length");
        } else if (takes("p")) {
            s.pitch = length("p", "6", "pitch");
        } else if (takes("nt")) {
            s.total = number("nt", "9");
        } else if (takes("n")) {
            s.active = number("n", "7");
        } else {
            throw InputError(
                in_quotes(w.text) +
                    " is not understood in a spring; write d (wire), D, De or Di (mean, outside or "
                    "inside diameter), L (free length), p (pitch), n or nt (active turns or all), "
                    "dead, open or closed, ground, tip, wire (its standard), LH or RH.",
                w.at, w.text.size());
        }
    }

    // `1 1/2` is one number, alone or behind its letters: D1 1/2
    void join_mixed_numbers() {
        const auto whole_behind_letters = [](const std::string& s) {
            const auto digit = std::find_if(s.begin(), s.end(), is_digit);
            return digit != s.end() && std::all_of(s.begin(), digit, is_letter) &&
                   std::all_of(digit, s.end(), is_digit);
        };
        const auto fraction = [](const std::string& s) {
            const auto stroke = std::find(s.begin(), s.end(), '/');
            return stroke != s.begin() && stroke != s.end() && stroke + 1 != s.end() &&
                   std::all_of(s.begin(), stroke, is_digit) && std::all_of(stroke + 1, s.end(), is_digit);
        };
        for (std::size_t i = 2; i < words_.size(); ++i) // never the first word, `spring`
            if (fraction(words_[i].text) && whole_behind_letters(words_[i - 1].text)) {
                words_[i - 1].text += " " + words_[i].text;
                words_.erase(words_.begin() + static_cast<long>(i));
            }
    }
    static bool is_digit(char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; }
    static bool is_letter(char c) { return std::isalpha(static_cast<unsigned char>(c)) != 0; }

    // `EN 10270-3 1.4310` and so on, as many words of it as tell it from the others
    std::string wire(const Word& after) {
        const auto plain = [](std::string t) {
            std::erase_if(t, [](char c) { return c == ' '; });
            t = lowered(std::move(t));
            return t.starts_with("en") ? t.substr(2) : t;
        };
        std::string said, known;
        const SpringWire* found = nullptr;
        std::size_t end = at_;
        for (std::size_t i = at_; i < std::min(words_.size(), at_ + 3); ++i) {
            said += words_[i].text;
            for (const SpringWire& w : spring_wires())
                if (plain(w.name).starts_with(plain(said)) && plain(said).size() >= 7)
                    found = &w, end = i + 1;
        }
        if (found) {
            at_ = end;
            return found->name;
        }
        for (const SpringWire& w : spring_wires())
            known += (known.empty() ? "" : ", ") + std::string(w.name);
        const Word& at = at_ < words_.size() ? words_[at_] : after;
        throw InputError("After wire its standard is wanted: " + known + ".", at.at, at.text.size());
    }

    void once(const std::string& key, const Word& w) {
        if (!said_.insert(key).second)
            throw InputError(in_quotes(w.text) + " is said a second time; write it once.", w.at,
                             w.text.size());
    }
    // Whether the next word is this key, alone or with its value joined to it.
    bool takes(std::string_view key) const {
        const std::string& w = words_[at_].text;
        if (!w.starts_with(key)) return false;
        if (w.size() == key.size()) return true;
        const char c = w[key.size()];
        return std::isdigit(static_cast<unsigned char>(c)) || c == '.' || c == '-' || c == '+' || c == '(';
    }
    Word value(const std::string& key, const char* example) {
        const Word w = words_[at_++];
        once(key[0] == 'D' ? "diameter" : key, w);
        if (w.text.size() > key.size()) return {w.text.substr(key.size()), w.at + key.size()};
        if (at_ >= words_.size())
            throw InputError("After " + key + " a number is wanted, such as " + key + example + ".", w.at,
                             w.text.size());
        return words_[at_++];
    }
    template<class Work>
    auto located(const Word& w, Work work) const {
        try {
            return work();
        } catch (const InputError& e) {
            throw InputError(e.what(), w.at + e.position, e.extent);
        }
    }
    double number(const char* key, const char* example) {
        const Word w = value(key, example);
        return located(w, [&] { return evaluate_number(w.text); });
    }
    Length length(const char* key, const char* example, const char* what) {
        const Word w = value(key, example);
        return located(w, [&] {
            require_one_number(w.text, what);
            return evaluate_length(w.text, out_.unit);
        });
    }
    void diameters(const char* key, CoilDiameter measured) {
        out_.spec.measured = measured;
        out_.spec.diameters.clear();
        const Word w = value(key, "20");
        located(w, [&] {
            for (const Station& one : stations_in(w.text, out_.unit))
                try {
                    out_.spec.diameters.push_back(evaluate_length(one.text, out_.unit));
                } catch (const InputError& e) {
                    throw InputError(e.what(), one.at + e.position, e.extent);
                }
            return 0;
        });
    }

    std::vector<Word> words_;
    std::size_t end_, at_ = 0;
    std::set<std::string> said_;
    CoilDesignation out_;
};

} // namespace

bool is_spring(std::string_view text) {
    const auto words = words_of(text.substr(0, 40));
    return !words.empty() && lowered(words[0].text) == "spring";
}

CoilDesignation parse_spring(std::string_view text) {
    return SpringReader(text).read();
}

std::string write_spring(const CoilSpec& s, LengthUnit unit) {
    const auto length = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    std::string text = "spring d" + length(s.wire);
    text += s.measured == CoilDiameter::outside ? " De" : s.measured == CoilDiameter::inside ? " Di" : " D";
    for (std::size_t i = 0; i < s.diameters.size(); ++i)
        text += (i ? ".." : "") + length(s.diameters[i]);
    if (s.free_length) text += " L" + length(*s.free_length);
    if (s.pitch) text += " p" + length(*s.pitch);
    if (s.active) text += " n" + number_text(*s.active, 6);
    if (s.total) text += " nt" + number_text(*s.total, 6);
    if (s.dead) text += " dead " + number_text(*s.dead, 6);
    text += s.ends == CoilEnds::closed ? " closed" : " open";
    if (s.ground) text += " ground";
    if (s.tip) text += " tip " + length(*s.tip);
    text += s.hand == Hand::left ? " LH" : " RH";
    if (s.material != CoilSpec{}.material) text += " wire " + s.material;
    if (unit == LengthUnit::inch) text += " in";
    return text;
}

} // namespace whorl
