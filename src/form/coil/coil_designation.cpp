#include "form/coil/coil_designation.hpp"

#include "form/coil/coil_load.hpp"
#include "form/coil/stations.hpp"
#include "form/kinds.hpp"
#include "form/word_reader.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

using Word = WordReader::Word;

class SpringReader : WordReader {
public:
    explicit SpringReader(std::string_view text) : WordReader(text) {}

    CoilDesignation read() {
        out_.unit = take_unit().value_or(LengthUnit::millimetre);
        join_mixed_numbers();
        CoilSpec& kind_of = out_.spec;
        for (const SpringKind k : {SpringKind::extension, SpringKind::torsion, SpringKind::compression})
            if (take_lowered(whorl::word(k))) kind_of.kind = k;
        take(); // `spring`
        if (kind_of.kind == SpringKind::extension) kind_of.near.kind = kind_of.far.kind = WireEndKind::full;
        if (kind_of.kind != SpringKind::compression) kind_of.ends = CoilEnds::open;
        while (!done())
            word();
        if (!given("d")) throw InputError("A spring needs its wire, such as d2.", end());
        if (!given("diameter"))
            throw InputError("A spring needs a diameter: D (mean), De (outside) or Di (inside), such as D20.",
                             end());
        CoilSpec& s = out_.spec;
        if (s.near.is_turns() && s.far.is_turns()) { // nothing is said for both
            s.ends = CoilEnds::closed;
            s.ground = false;
            s.tip.reset();
        }
        try {
            (void)resolve_coil(s); // out of range, too little or too much is said here
        } catch (const InputError& e) {
            throw InputError(e.what(), end());
        }
        return out_;
    }

private:
    void word() {
        const Word w = here();
        const std::string low = lowered_line(w.text);
        CoilSpec& s = out_.spec;
        if (low == "open" || low == "closed") {
            once("ends", take());
            s.ends = low == "open" ? CoilEnds::open : CoilEnds::closed;
        } else if (low == "ground") {
            once("ground", take());
            s.ground = true;
        } else if (low == "rh" || low == "right" || low == "lh" || low == "left") {
            once("hand", take());
            s.hand = low[0] == 'l' ? Hand::left : Hand::right;
        } else if (low == "wire") {
            take();
            if (const auto& classes = wire_classes();
                !done() && std::ranges::find(classes, upper(here().text)) != classes.end()) {
                once("class", here());
                s.wire_class = upper(take().text);
            } else {
                once("material", w);
                s.material = wire(w);
            }
        } else if (low == "hooks" || low == "near" || low == "far" || low == "end" || low == "ends") {
            take();
            const WireEnd e = wire_end(low.starts_with("end"));
            if (low != "far") once("near end", w), s.near = e;
            if (low != "near") once("far end", w), s.far = e;
        } else if (low == "legs") {
            take();
            once("near end", w), once("far end", w);
            legs();
        } else if (low == "over") {
            take();
            length_over();
        } else if (at_key("grade")) {
            const Word v = value("grade", "1");
            if (v.text != "1" && v.text != "2" && v.text != "3")
                throw InputError("The grades of EN 15800 are 1, 2 and 3.", v.at, v.text.size());
            s.grade = v.text[0] - '0';
        } else if (low == "works") {
            const Word v = value("works", "32..24");
            s.works = located(v, [&] { return read_states(v.text, s.kind, out_.unit); });
        } else if (low == "fatigue") {
            const Word v = value("fatigue", "650..900");
            s.fatigue = located(v, [&] { return read_fatigue(v.text); });
        } else if (low == "at") {
            const Word v = value("at", "32");
            const auto states = located(v, [&] { return read_states(v.text, s.kind, out_.unit); });
            if (states.size() > 1)
                throw InputError("A spring is made in one state, such as 32 or 40N.", v.at, v.text.size());
            s.made_at = states.front();
        } else if (at_key("start")) {
            const Word v = value("start", "90");
            s.start = located(v, [&] { return in_rad(evaluate_angle(v.text)); });
        } else if (at_key("F0") || at_key("f0")) {
            s.initial_tension = number(value(w.text.substr(0, 2), "12", "initial tension"));
        } else if (at_key("dead")) {
            s.dead = number(value("dead", "2"));
        } else if (at_key("tip")) {
            s.tip = size("tip", "0.5", "thickness of the wire's end");
        } else if (at_key("De")) {
            diameters("De", CoilDiameter::outside);
        } else if (at_key("Di")) {
            diameters("Di", CoilDiameter::inside);
        } else if (at_key("D")) {
            diameters("D", CoilDiameter::mean);
        } else if (at_key("d")) {
            wire_size();
        } else if (at_key("L") || at_key("l")) {
            s.free_length = size("L", "50", "free length");
        } else if (at_key("p")) {
            const Word v = value("p", "6", "pitch");
            s.pitch = located(v, [&] { return read_stations(v.text, out_.unit); });
        } else if (at_key("nt")) {
            s.total = number(value("nt", "9"));
        } else if (at_key("n")) {
            s.active = number(value("n", "7"));
        } else {
            throw InputError(
                in_quotes(w.text) +
                    " is not understood in a spring; write d (wire, round d2 or d3x2: across, along the "
                    "axis), D, De or Di (mean, outside or "
                    "inside diameter), L (free length), p (pitch), n or nt (active turns or all), "
                    "dead, open or closed, ground, tip, wire (its standard or class), LH or RH, of an "
                    "extension spring "
                    "hooks, near, far, F0 (initial tension), of a torsion spring legs, near, far; near, far, "
                    "ends "
                    "(closed 1.5 ground pitch 2.4, open), over (faces, wire, centreline: what L is of), "
                    "start, grade (of EN 15800), works, fatigue, at.",
                w.at, w.text.size());
        }
    }

    bool take_lowered(std::string_view w) {
        if (done() || lowered_line(here().text) != w) return false;
        take();
        return true;
    }
    static std::string upper(std::string t) {
        for (char& c : t)
            c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
        return t;
    }
    // The words that belong to one end: until one that an end hasn't.
    std::string end_words() {
        std::string out;
        for (; !done(); take()) {
            const std::string low = lowered_line(here().text);
            const bool number = is_digit(low[0]) || low[0] == '.' || low[0] == '(' ||
                                (low[0] == 'r' && low.size() > 1 && (is_digit(low[1]) || low[1] == '.'));
            if (!number && !is_wire_end_word(low)) break;
            if (!out.empty() && (low == "closed" || low == "open")) break; // of the other end
            out += (out.empty() ? "" : " ") + here().text;
        }
        return out;
    }
    // `ends pitch 2.4`: closed ones.
    WireEnd wire_end(bool of_turns) {
        const std::size_t at = done() ? end() : here().at;
        std::string text = end_words();
        const bool said = lowered_line(text).starts_with("closed") || lowered_line(text).starts_with("open");
        const std::size_t before = of_turns && !said ? 7 : 0; // characters
        if (before) text = "closed " + text;
        try {
            return parse_wire_end(text, out_.unit);
        } catch (const InputError& e) {
            throw InputError(e.what(), at + (e.position < before ? 0 : e.position - before), e.extent);
        }
    }
    void length_over() {
        constexpr std::string_view words[]{"faces", "wire", "centreline"};
        for (std::size_t i = 0; i < 3 && !done(); ++i)
            if (lowered_line(here().text) == words[i]) {
                once("over", take());
                out_.spec.length_over = static_cast<LengthOver>(i);
                return;
            }
        throw InputError(
            "Behind over stands what the free length is of: faces (the ends as they are), wire (before "
            "they are ground) or centreline.",
            done() ? end() : here().at, done() ? 0 : here().text.size());
    }
    // 30, 30/20, 30 axial
    void legs() {
        const std::size_t at = done() ? end() : here().at;
        const std::string text = end_words();
        const auto stroke = text.find('/'), blank = text.find(' ');
        const bool two = stroke != text.npos && (blank == text.npos || stroke < blank);
        const std::string rest = two && blank != text.npos ? text.substr(blank) : "";
        try {
            out_.spec.near = parse_wire_end("leg " + (two ? text.substr(0, stroke) + rest : text), out_.unit);
            out_.spec.far =
                two ? parse_wire_end("leg " + text.substr(stroke + 1), out_.unit) : out_.spec.near;
        } catch (const InputError& e) {
            throw InputError(e.what(), at, text.size());
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
        for (std::size_t i = 2; i < words().size(); ++i) // never the first word, `spring`
            if (fraction(words()[i].text) && whole_behind_letters(words()[i - 1].text)) {
                words()[i - 1].text += " " + words()[i].text;
                words().erase(words().begin() + static_cast<long>(i));
            }
    }
    static bool is_digit(char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; }
    static bool is_letter(char c) { return std::isalpha(static_cast<unsigned char>(c)) != 0; }

    // `EN 10270-3 1.4310` and so on, as many words of it as tell it from the others
    std::string wire(const Word& after) {
        const auto plain = [](std::string t) {
            std::erase_if(t, [](char c) { return c == ' '; });
            t = lowered_line(t);
            return t.starts_with("en") ? t.substr(2) : t;
        };
        std::string said, known;
        const SpringWire* found = nullptr;
        std::size_t used = 0;
        const auto first = static_cast<std::size_t>(done() ? 0 : &here() - words().data());
        for (std::size_t i = 0; !done() && i < std::min<std::size_t>(words().size() - first, 3); ++i) {
            said += words()[first + i].text;
            for (const SpringWire& w : spring_wires())
                if (plain(w.name).starts_with(plain(said)) && plain(said).size() >= 7)
                    found = &w, used = i + 1;
        }
        if (found) {
            for (; used > 0; --used)
                take();
            return found->name;
        }
        for (const SpringWire& w : spring_wires())
            known += (known.empty() ? "" : ", ") + std::string(w.name);
        const Word& at = done() ? after : here();
        throw InputError("After wire its standard is wanted: " + known + ".", at.at, at.text.size());
    }

    Length size(const char* key, const char* example, const char* what) {
        const Word w = value(key, example);
        return located(w, [&] {
            require_one_number(w.text, what);
            return evaluate_length(w.text, out_.unit);
        });
    }
    // d2, or d3x2, d 3 x 2
    void wire_size() {
        Word w = value("d", "2");
        const auto cross = [&](std::string_view t) { return t == "x" || t == "X"; };
        if (!done() && cross(here().text)) {
            w.text += " " + take().text;
            if (done())
                throw InputError("Behind the x the wire's side along the axis is wanted, such as d3x2.",
                                 end());
            w.text += " " + take().text;
        }
        const WireSize size = located(w, [&] {
            if (axial_part(w.text) == w.text) require_one_number(w.text, "wire");
            return read_wire(w.text, out_.unit);
        });
        out_.spec.wire = size.across;
        out_.spec.axial = size.axial;
    }
    void diameters(const char* key, CoilDiameter measured) {
        out_.spec.measured = measured;
        const Word w = value(key, "20", "diameter");
        out_.spec.diameters = located(w, [&] { return read_stations(w.text, out_.unit); });
    }

    CoilDesignation out_;
};

} // namespace

bool is_spring(std::string_view text) {
    WordReader words(lowered_line(text.substr(0, 40)));
    for (int k = 0; k < spring_kind_count; ++k)
        if (words.take(word(static_cast<SpringKind>(k)))) break;
    return !words.done() && words.take("spring");
}

CoilDesignation parse_spring(std::string_view text) {
    return SpringReader(text).read();
}

std::string write_spring(const CoilSpec& s, LengthUnit unit) {
    const auto length = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    const bool compression = s.kind == SpringKind::compression;
    std::string text = (compression ? std::string() : std::string(word(s.kind)) + " ") + "spring d" +
                       write_wire({s.wire, s.axial}, unit);
    text += s.measured == CoilDiameter::outside ? " De" : s.measured == CoilDiameter::inside ? " Di" : " D";
    text += write_stations(s.diameters, unit);
    if (s.free_length) text += " L" + length(*s.free_length);
    if (s.length_over != LengthOver::faces)
        text += s.length_over == LengthOver::wire ? " over wire" : " over centreline";
    if (!s.pitch.empty()) text += " p" + write_stations(s.pitch, unit);
    if (s.active) text += " n" + number_text(*s.active, 6);
    if (s.total) text += " nt" + number_text(*s.total, 6);
    if (s.dead) text += " dead " + number_text(*s.dead, 6);
    const bool own_ends = compression && s.near.is_turns() && s.far.is_turns();
    if (compression && !own_ends) text += s.ends == CoilEnds::closed ? " closed" : " open";
    if (!compression) {
        if (s.near == s.far && s.near.kind == WireEndKind::leg)
            text += " legs " + write_wire_end(s.near, unit).substr(4); // behind `leg `
        else if (s.near == s.far && s.kind == SpringKind::extension)
            text += " hooks " + write_wire_end(s.near, unit);
        else
            for (const auto& [word, e] : {std::pair{" near ", &s.near}, std::pair{" far ", &s.far}})
                if (e->kind != WireEndKind::plain || s.kind == SpringKind::extension)
                    text += word + write_wire_end(*e, unit);
    }
    if (s.initial_tension) text += " F0 " + number_text(*s.initial_tension, 6);
    if (s.ground && !own_ends) text += " ground";
    if (s.tip && !own_ends) text += " tip " + length(*s.tip);
    if (compression) { // what an end says of itself
        if (own_ends && s.near == s.far)
            text += " ends " + write_wire_end(s.near, unit);
        else
            for (const auto& [word, e] : {std::pair{" near ", &s.near}, std::pair{" far ", &s.far}})
                if (e->is_turns()) text += word + write_wire_end(*e, unit);
    }
    text += s.hand == Hand::left ? " LH" : " RH";
    if (s.start != 0) text += " start " + number_text(s.start * 180 / pi, 9);
    if (s.grade != 2) text += " grade " + std::to_string(s.grade);
    if (!s.works.empty()) text += " works " + write_states(s.works, s.kind, unit);
    if (s.fatigue) text += " fatigue " + write_fatigue(*s.fatigue);
    if (s.made_at) text += " at " + write_states({*s.made_at}, s.kind, unit);
    if (s.material != CoilSpec{}.material) text += " wire " + s.material;
    if (s.wire_class != CoilSpec{}.wire_class) text += " wire " + s.wire_class;
    if (unit == LengthUnit::inch) text += " in";
    return text;
}

namespace {
std::vector<Usual> usual_springs(std::span<const OwnSection>) {
    return {
        {"spring d{2} D{20} L{50} n{7} {closed ground}", "closed, ends ground flat"},
        {"spring d{1} D{10} L{30} n{8} {closed ground}", "small"},
        {"spring d{0.5} D{5} L{15} n{8} {closed}", "fine wire, ends not ground"},
        {"spring d{4} D{32} L{90} n{6} {closed ground}", "strong"},
        {"spring d{2} D{20} p{6} n{7} {open}", "open ends, by its pitch"},
        {"spring d{4} D{36} L{85} nt{7.5} {open}", "as counted on a sample"},
        {"spring d{1.6} D{20} p{4.6..2.1..4.6} n{7} {closed}", "closer in the middle, stiffer as it closes"},
        {"spring d{2.5} D{52..30..52} L{44} nt{5} {open}", "narrower in the middle"},
        {"spring d{2.5} D{20/40} L{50} nt{6} {open}", "a cone"},
        {"spring d{4x2.5} D{32} L{60} n{8} {closed ground}",
         "rectangular wire: more load in the same length"}};
}
std::vector<Usual> usual_extensions(std::span<const OwnSection>) {
    return {{"extension spring d{1.6} D{12} n{20} hooks {full}", "full hooks over the axis"},
            {"extension spring d{1} D{8} n{24.5} hooks {half}", "half hooks"},
            {"extension spring d{2} D{16} n{18} hooks {side}", "full hooks at the side"},
            {"extension spring d{1.25} D{10} n{20} near {eye 4} far {extended 30}",
             "a small eye and a long hook"},
            {"extension spring d{1.8} D{14} n{30} hooks {plain} F0 {15}",
             "for threaded plugs, its initial tension asked"}};
}
std::vector<Usual> usual_torsions(std::span<const OwnSection>) {
    return {
        {"torsion spring d{2} D{16} n{6} legs {30}", "legs straight on"},
        {"torsion spring d{1.5} D{12} n{4.25} legs {25/15}", "of unlike length, a quarter of a turn apart"},
        {"torsion spring d{2} D{18} n{5.5} legs {20 axial}", "legs along the axis"},
        {"torsion spring d{1} D{8} n{8} near {leg 20} far {leg 12 bent 90 r 2 6}", "one of them bent"}};
}
} // namespace

DesignationKind extension_spring_kind() {
    return {"extension_spring",
            "Springs",
            {"Extension spring",
             "Wound tight, with hooks or eyes of its own at either end; initial tension and rate follow."},
            "extension spring",
            usual_extensions};
}
DesignationKind torsion_spring_kind() {
    return {"torsion_spring",
            "Springs",
            {"Torsion spring", "With legs, straight or bent; moment, angle and the mandrel follow."},
            "torsion spring",
            usual_torsions};
}

DesignationKind spring_kind() {
    return {
        "spring",
        "Springs",
        {"Compression spring", "Cylindrical, or of any diameters along its turns; rate and stress follow."},
        "spring",
        usual_springs,
        is_spring,
        read_as<parse_spring>};
}

} // namespace whorl
