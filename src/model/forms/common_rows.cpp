#include "model/forms/common_rows.hpp"

#include "model/ends/ends.hpp"
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

// Every kind of end as it is typed.
std::string ends_written() {
    std::string all;
    for (int k = 0; k < end_kind_count; ++k)
        all += (k == 0                   ? ""
                : k + 1 < end_kind_count ? ", "
                                         : " or ") +
               std::string(model_of(static_cast<EndKind>(k)).written);
    return all;
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
    std::string kind;
    EndWords behind{.first = {}, .rest = {}, .unit = typed.unit};
    words >> kind >> behind.first;
    std::getline(words, behind.rest);
    behind.rest = trimmed(behind.rest);
    kind = lowered(kind);
    for (int k = 0; k < end_kind_count; ++k) {
        const EndModel& model = model_of(static_cast<EndKind>(k));
        if (kind != model.word.text && (kind.empty() || kind != model.word.also)) continue;
        e.kind = static_cast<EndKind>(k);
        model.read(e, behind);
        return e;
    }
    throw InputError("An end is written " + ends_written() + ".", 0, kind.size());
}

std::string end_text(const EndTreatment& e, const Reading& as) {
    return model_of(e.kind).text(e, as);
}

Words end_choices(const ResolvedZone& z) {
    if (z.outline() == Outline::flat) return {"flat"};
    Words all;
    for (int k = 0; k < end_kind_count; ++k)
        for (std::string& w : model_of(static_cast<EndKind>(k)).offered(z))
            all.push_back(std::move(w));
    return all;
}

const char* end_tip() {
    static const std::string tip = ends_written() + "; with both behind it: at both ends";
    return tip.c_str();
}

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

Radii swept_radii_at(const ResolvedZone& zone, double z) {
    const ThreadSection& s = *zone.swept();
    const double gain = zone.taper() * (z - in_mm(zone.taper_from()));
    return {std::min(s.crest_radius, s.root_radius) + gain, std::max(s.crest_radius, s.root_radius) + gain};
}

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
            .tip = end_tip(),
            .of = "a plain, threaded or knurled zone",
            .kind = RowKind::text,
            .get = [](const Zone& z, const Reading& as) { return end_text(z.near_end, as); },
            .set = [](Zone& z, const Typed& t) { set_end(z, t, &Zone::near_end); },
            .shown = [](const Zone&, const ResolvedZone& r,
                        const Reading& as) { return Shown{end_shown(r.near_end, as.unit)}; },
            .choices = end_choices};
}

Row far_end_row() {
    return {.field = field::far_end,
            .label = "Far end",
            .tip = end_tip(),
            .of = "a plain, threaded or knurled zone",
            .kind = RowKind::text,
            .get = [](const Zone& z, const Reading& as) { return end_text(z.far_end, as); },
            .set = [](Zone& z, const Typed& t) { set_end(z, t, &Zone::far_end); },
            .shown = [](const Zone&, const ResolvedZone& r,
                        const Reading& as) { return Shown{end_shown(r.far_end, as.unit)}; },
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
