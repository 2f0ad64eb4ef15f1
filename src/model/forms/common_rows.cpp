#include "model/forms/common_rows.hpp"
#include "model/number_json.hpp"
#include "quantity/trimmed.hpp"

#include <algorithm>
#include <cctype>
#include <sstream>

namespace whorl {
namespace {

std::string lowered(std::string s) {
    for (char& c : s)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return s;
}

// The words, of which a last one `both` is meant for both ends.
EndTreatment parse_end(const Typed& typed, bool& both) {
    EndTreatment e;
    std::string text = typed.text;
    for (const char* filler : {"\xC3\x98", "\xE2\x8C\x80", "\xC2\xB0", ",", "turns", "turn"})
        for (auto at = text.find(filler); at != std::string::npos; at = text.find(filler))
            text.replace(at, std::string_view(filler).size(), " ");
    for (auto at = text.find("\xC3\x97"); at != std::string::npos; at = text.find("\xC3\x97"))
        text.replace(at, 2, " x ");
    text = trimmed(text);
    both = text.size() > 5 && lowered(text.substr(text.size() - 5)) == " both";
    if (both) text = trimmed(text.substr(0, text.size() - 5));
    std::istringstream words(text);
    std::string kind, first, second;
    words >> kind >> first;
    std::getline(words, second);
    second = trimmed(second);
    kind = lowered(kind);
    if (kind == "flat") {
        if (!first.empty())
            throw InputError("A flat end has no number; write only flat.", 4, typed.text.size() - 4);
        return e;
    }
    if (kind == "chamfer") {
        e.kind = EndKind::chamfer;
        if (lowered(second.substr(0, 1)) == "x") { // its length by its angle
            e.distance = {first, typed.unit};
            if (const std::string angle(trimmed(second.substr(1))); !angle.empty()) e.angle = {angle, {}};
            return e;
        }
        if (!first.empty()) e.angle = {first, {}};
        if (!second.empty()) e.diameter = {second, typed.unit};
        return e;
    }
    if (kind == "radius" || kind == "fillet") {
        e.kind = kind == "fillet" ? EndKind::fillet : EndKind::edge;
        if (first == "r" || first == "R") first.swap(second), second.clear();
        if (first.empty() || !second.empty())
            throw InputError("A rounded edge and a fillet have one number, their radius: " + kind + " 0.5.");
        e.radius = {first, typed.unit};
        return e;
    }
    if (kind == "point") {
        e.kind = EndKind::point;
        if (!first.empty()) e.angle = {first, {}};
        if (!second.empty()) throw InputError("A point has one number, its angle to the axis: point 59.");
        return e;
    }
    if (kind == "rounded") {
        e.kind = EndKind::rounded;
        if (first == "r" || first == "R") first.swap(second), second.clear();
        if (!first.empty()) e.radius = {first, typed.unit};
        if (!second.empty()) throw InputError("A rounded end has one number, its radius: rounded 14.");
        return e;
    }
    if (kind == "milled") {
        e.kind = EndKind::milled;
        if (!first.empty())
            throw InputError("A milled end has no number: its round is the tool's, as wide as the groove.");
        return e;
    }
    if (kind == "run-out" || kind == "runout") {
        e.kind = EndKind::run_out;
        if (!first.empty()) e.turns = {first, {}};
        if (!second.empty()) throw InputError("A run-out has one number, its turns: run-out 0.5.");
        return e;
    }
    throw InputError(
        "An end is flat, chamfer, radius, fillet, rounded, run-out, milled or point; write for example "
        "chamfer 45 "
        "8.1 "
        "(angle, end diameter), chamfer 1 x 45 (length, angle), radius 0.5 (its edge rounded), fillet 0.5 "
        "(the corner at a shoulder filled), rounded 14 (a dome), run-out 0.5 (turns), milled (a groove's, in "
        "its tool's round) or point 59 (angle to "
        "the axis).",
        0, kind.size());
}

std::string end_text(const EndTreatment& e, const Reading& as) {
    switch (e.kind) {
    case EndKind::flat:
        return "flat";
    case EndKind::run_out:
        return "run-out " + e.turns.text;
    case EndKind::milled:
        return "milled";
    case EndKind::point:
        return "point " + e.angle.text;
    case EndKind::rounded:
        return e.radius.text.empty() ? "rounded" : "rounded " + typed_as(e.radius, as.unit, as.names);
    case EndKind::edge:
        return "radius " + typed_as(e.radius, as.unit, as.names);
    case EndKind::fillet:
        return "fillet " + typed_as(e.radius, as.unit, as.names);
    case EndKind::chamfer: {
        if (!e.distance.text.empty())
            return "chamfer " + typed_as(e.distance, as.unit, as.names) + " x " + e.angle.text;
        std::string s = "chamfer " + e.angle.text;
        if (!e.diameter.text.empty())
            s += " " + (e.diameter.unit == as.unit
                            ? e.diameter.text
                            : length_text(resolve_length(e.diameter, as.names), as.unit));
        return s;
    }
    }
    return {};
}

Shown end_shown(const ResolvedEnd& e, LengthUnit unit) {
    if (e.is_edge())
        return {(e.kind == EndKind::fillet ? "fillet " : "radius ") +
                shown_length(in_mm(e.dome_radius), unit)};
    if (e.is_dome()) return {"rounded, r " + shown_length(in_mm(e.dome_radius), unit)};
    switch (e.kind) {
    case EndKind::flat:
        return {"flat"};
    case EndKind::chamfer:
        return {"chamfer " + number_text(in_deg(e.angle), 2) + "°, Ø " +
                shown_length(in_mm(e.diameter), unit)};
    case EndKind::run_out:
        return {"run-out, " + number_text(e.turns, 3) + (e.turns == 1 ? " turn" : " turns")};
    case EndKind::milled:
        return {"milled, in the tool's round"};
    case EndKind::point:
    case EndKind::rounded:
    case EndKind::edge:
    case EndKind::fillet:
        break; // resolved to a chamfer, or to an arc
    }
    return {};
}

Words end_choices(const ResolvedZone& z) {
    if (z.outline() == Outline::flat) return {"flat"};
    if (z.knurl()) return {"flat", "chamfer 45", "chamfer 30"};
    if (z.groove()) return {"flat", "chamfer 45", "chamfer 30", "milled", "run-out 0.25", "run-out 0.5"};
    const bool prism = z.outline() != Outline::round, bore = z.in_bore();
    Words ends{"flat", "chamfer 45", bore || prism ? "chamfer 60" : "chamfer 30"};
    if (!prism && !(bore && z.thread())) ends.push_back(bore ? "point 59" : "point 45");
    if (z.as<ResolvedPlain>() && !prism && !z.keyway()) ends.insert(ends.end(), {"radius 0.5", "fillet 0.5"});
    if (!bore) ends.push_back("rounded");
    if (z.thread()) ends.insert(ends.end(), {"run-out 0.5", "run-out 1"});
    return ends;
}

constexpr const char* end_tip = "flat, chamfer ANGLE [Ø] or LENGTH x ANGLE, radius R (its edge), fillet R "
                                "(at a shoulder), rounded [R] (a "
                                "dome), run-out TURNS, milled (a groove's, in its tool's round), or point "
                                "ANGLE; both behind it: at both ends";

void set_end(Zone& z, const Typed& t, EndTreatment Zone::*end) {
    bool both = false;
    z.*end = parse_end(t, both);
    if (both) z.near_end = z.far_end = z.*end;
}

// Several lengths in one field, as a web's thickness and diameters.
std::string words_as(const Number& n, const Reading& as) {
    if (n.text.empty()) return "none";
    if (n.unit == as.unit || n.text == "standard") return n.text;
    std::string out, word;
    std::istringstream words(n.text);
    while (words >> word)
        out += (out.empty() ? "" : " ") + typed_as({word, n.unit}, as.unit, as.names);
    return out;
}

} // namespace

std::string exact_number(Length l, LengthUnit unit) {
    return number_text(in_unit(l, unit), 9);
}

void set_angle(Number& kept, const Typed& typed) {
    if (!typed.text.empty()) (void)evaluate_angle(typed.text, typed.names);
    kept = typed.number();
}

void set_length(Number& kept, const Typed& typed) {
    if (!typed.text.empty()) (void)resolve_length(typed.number(), typed.names);
    kept = typed.number();
}

Row follows_row() {
    return {
        .field = field::follows,
        .label = "Follows zone",
        .tip =
            "Another zone of this piece that it is like until it is edited, by its number: 1, or 1 mirrored",
        .of = "a plain, threaded or knurled zone or a bend",
        .kind = RowKind::text,
        .get =
            [](const Zone& z, const Reading&) {
                if (!z.follows) return std::string();
                return std::to_string(z.follows->zone + 1) + (z.follows->mirrored ? " mirrored" : "");
            },
        .set =
            [](Zone& z, const Typed& t) {
                std::istringstream words(t.lowered());
                std::string word;
                Following f;
                bool number = false;
                while (words >> word) {
                    if (word == "none" && !number) {
                        z.follows = {};
                        return;
                    }
                    if (word == "zone") continue;
                    if (word == "mirrored" && number) {
                        f.mirrored = true;
                        continue;
                    }
                    const bool digits = word.size() < 4 && std::all_of(word.begin(), word.end(), [](char c) {
                                            return c >= '0' && c <= '9';
                                        });
                    if (number || !digits || word == "0")
                        t.refuse("Write the number of a zone, from 1, and mirrored if it is turned round, or "
                                 "none.");
                    f.zone = static_cast<std::size_t>(std::stoi(word)) - 1;
                    number = true;
                }
                if (number)
                    z.follows = f;
                else
                    z.follows = {};
            },
        .shown =
            [](const Zone& z, const ResolvedZone&, const Reading&) {
                if (!z.follows) return Shown{"none"};
                return Shown{std::to_string(z.follows->zone + 1) + (z.follows->mirrored ? " mirrored" : "")};
            }};
}

std::string finish_asked(const Typed& typed, std::string material) {
    std::string name = typed.lowered(), colour, known;
    if (const std::size_t sign = name.find('#'); sign != std::string::npos) {
        colour = name.substr(sign);
        name = trimmed(name.substr(0, sign));
        if (colour.size() != 7 || colour.find_first_not_of("0123456789abcdef", 1) != std::string::npos)
            typed.refuse(
                "A colour of one's own is # and six digits of 0-9 and A-F, two each for red, green and "
                "blue: #7A5AA8.");
        for (char& c : colour)
            c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
        if (name.empty()) name = lowered(std::move(material));
        if (name.empty()) return colour;
    }
    for (const auto& f : finishes()) {
        if (name == lowered(f.name)) return f.name + (colour.empty() ? "" : " " + colour);
        known += (known.empty() ? "" : ", ") + std::string(f.name);
    }
    typed.refuse("There is no finish '" + typed.text + "'; there are " + known +
                 ", and a colour of one's own such as steel #7A5AA8.");
}

Row zone_finish_row() {
    return {.field = field::zone_finish,
            .label = "Zone's finish",
            .tip = "Its colour alone, as a finish or #RRGGBB; clear it for the piece's",
            .of = "a zone of a piece of several",
            .kind = RowKind::text,
            .get = [](const Zone& z, const Reading&) { return z.finish; },
            .set =
                [](Zone& z, const Typed& t) {
                    z.finish = t.text.empty() || t.lowered() == "none" ? "" : finish_asked(t, {});
                },
            .shown = [](const Zone& z, const ResolvedZone&,
                        const Reading&) { return Shown{z.finish.empty() ? "the piece's" : z.finish}; },
            .kept = {.key = "finish",
                     .where = InFile::in_zone,
                     .save = [](const Zone& z, nlohmann::ordered_json& to) { finish_to_json(z.finish, to); },
                     .load = [](Zone& z, const nlohmann::json& from) { z.finish = finish_from_json(from); }}};
}

Row repeat_row() {
    return {.field = field::repeat,
            .label = "Repeat",
            .tip = "How many times in all along the axis, and the gap between: 3, or 3 gap 5; with the zones "
                   "beside it by their numbers: 1-2 3 gap 5. The copies follow",
            .of = "a plain, threaded or knurled zone or a bend",
            .kind = RowKind::text,
            .get = [](const Zone&, const Reading&) { return std::string(); },
            .set = [](Zone&, const Typed& t) { t.refuse("Zones are repeated in their piece."); },
            .shown = [](const Zone&, const ResolvedZone&, const Reading&) { return Shown{"\xE2\x80\xA6"}; },
            .order = true};
}

Row length_row(const char* label, const char* tip, const char* of) {
    return {.field = field::length,
            .label = label,
            .tip = tip,
            .of = of,
            .kind = RowKind::length,
            .number = {[](Zone& z) -> Number& { return z.length; },
                       [](const Zone& z) -> const Number& { return z.length; }},
            .shown = [](const Zone& z, const ResolvedZone& r, const Reading& as) {
                const bool through = z.in_bore() && z.length.text.empty();
                return Shown{(through ? "through, " : "") + shown_length(in_mm(r.length), as.unit),
                             symbol(as.unit)};
            }};
}

Row diameter_row(NumberPlace number, const char* tip, const char* label) {
    return {.field = field::diameter,
            .label = label,
            .tip = tip,
            .of = "a plain, threaded, knurled or grooved zone, a bend or a drum cam",
            .kind = RowKind::length,
            .number = number,
            .kept = {.key = "diameter", .always = true}};
}

Row far_diameter_row(NumberPlace number, const char* tip) {
    return {.field = field::far_diameter,
            .label = "Far diameter",
            .tip = tip,
            .of = "a plain round or a grooved zone (a thread has a taper instead)",
            .kind = RowKind::length,
            .number = number,
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading& as) {
                    return r.far_diameter == r.diameter ? Shown{"the same"}
                                                        : length_shown(in_mm(r.far_diameter), as.unit);
                },
            .kept = {.key = "far_diameter"}};
}

Row start_angle_row(NumberPlace number) {
    return {.field = field::start_angle,
            .label = "Start angle",
            .tip = "Turns the groove about the axis",
            .of = "a thread or a groove",
            .kind = RowKind::angle,
            .number = number,
            .usual = "0°",
            .kept = {.key = "start_angle"}};
}

Row lead_row(std::string (*get)(const Zone&, const Reading&), void (*set)(Zone&, const Typed&),
             Shown (*shown)(const Zone&, const ResolvedZone&, const Reading&)) {
    return {.field = field::lead,
            .label = "Lead",
            .tip = "What a turn goes on by; typing it sets the pitch to lead / starts",
            .of = "a thread or a groove",
            .kind = RowKind::length,
            .get = get,
            .set = set,
            .shown = shown,
            .hidden = [](const ResolvedZone&) { return true; }};
}

Row near_end_row() {
    return {.field = field::near_end,
            .label = "Near end",
            .tip = end_tip,
            .of = "a plain, threaded or knurled zone",
            .kind = RowKind::text,
            .get = [](const Zone& z, const Reading& as) { return end_text(z.near_end, as); },
            .set = [](Zone& z, const Typed& t) { set_end(z, t, &Zone::near_end); },
            .shown = [](const Zone&, const ResolvedZone& r,
                        const Reading& as) { return end_shown(r.near_end, as.unit); },
            .choices = end_choices};
}

Row far_end_row() {
    return {.field = field::far_end,
            .label = "Far end",
            .tip = end_tip,
            .of = "a plain, threaded or knurled zone",
            .kind = RowKind::text,
            .get = [](const Zone& z, const Reading& as) { return end_text(z.far_end, as); },
            .set = [](Zone& z, const Typed& t) { set_end(z, t, &Zone::far_end); },
            .shown = [](const Zone&, const ResolvedZone& r,
                        const Reading& as) { return end_shown(r.far_end, as.unit); },
            .choices = end_choices};
}

Row web_row() {
    return {.field = field::web,
            .label = "Web",
            .tip = "standard (0.3 of the width), its thickness, or thickness, the rim's inner and the hub's "
                   "diameter",
            .of = "a gear or a plain round disc",
            .kind = RowKind::text,
            .get = [](const Zone& z, const Reading& as) { return words_as(z.web, as); },
            .set =
                [](Zone& z, const Typed& t) {
                    const std::string w = t.lowered();
                    z.web = w == "none" ? Number{} : w == "standard" ? Number{"standard", {}} : t.number();
                },
            .shown =
                [](const Zone&, const ResolvedZone& r, const Reading& as) {
                    if (!r.web) return Shown{"none"};
                    return Shown{shown_length(r.web->thickness, as.unit) + ", Ø " +
                                     shown_length(2 * r.web->rim, as.unit) + " to " +
                                     shown_length(2 * r.web->hub, as.unit),
                                 symbol(as.unit)};
                },
            .choices =
                [](const ResolvedZone&) {
                    return Words{"standard", "none"};
                },
            .applies =
                [](const Zone& z) {
                    const auto* plain = z.as<PlainForm>();
                    return !z.in_bore() && (!plain || plain->outline == Outline::round);
                }};
}

} // namespace whorl
