#include "form/designation.hpp"

#include "form/thread/family.hpp"
#include "form/thread/reading.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr std::size_t longest_designation = 200, longest_list = 20000; // of timings and points

std::size_t word_at_start(std::string_view text, std::string_view word) {
    Reader r(text);
    return r.take_word_ignoring_case(word) ? word.size() : 0;
}

// round 12 x 30, hex 17 x 8; the word, then the size.
Designation read_plain(std::string_view text, std::size_t word, Outline outline, const char* expected) {
    Reader r(text);
    r.move_to(word);
    r.skip_blanks();
    const double d = r.positive(outline == Outline::round ? "diameter" : "size", expected);
    r.skip_blanks();
    double thickness = 0;
    if (outline == Outline::flat) {
        if (!r.take_times()) throw InputError(expected, r.at(), 1);
        r.skip_blanks();
        thickness = r.positive("thickness", expected);
        r.skip_blanks();
    }
    Designation out;
    if (r.take_word_ignoring_case("in"))
        out.unit = LengthUnit::inch;
    else
        r.take_word_ignoring_case("mm");
    const auto length = [&](double value) { return out.unit == LengthUnit::inch ? inch(value) : mm(value); };
    if (outline == Outline::flat && !(thickness < d))
        throw InputError("A flat bar is written width x thickness x length and is thinner than it is wide, "
                         "for example flat 30 x 6 x 90.");
    out.what = PlainBar{length(d), outline, length(thickness)};
    if (outline == Outline::flat) {
        read_tail(r, out);
        return out;
    }
    // the length and the bore, in either order
    const auto bored = [&] {
        r.skip_blanks();
        return take_bore(r, out.body, out.unit);
    };
    const bool first = bored();
    const std::size_t bore_at = r.rest().find(" bore");
    if (!first && bore_at != std::string_view::npos) {
        Reader front(text.substr(0, r.at() + bore_at));
        front.move_to(r.at());
        read_tail(front, out);
        r.move_to(front.at());
        bored();
    }
    read_tail(r, out);
    return out;
}

std::size_t claims_round(std::string_view text) {
    for (const std::string_view sign : {"\xC3\x98", "\xE2\x8C\x80"}) // Ø ⌀
        if (text.starts_with(sign)) return sign.size();
    return word_at_start(text, "round");
}
std::size_t claims_hexagon(std::string_view text) {
    return word_at_start(text, "hex");
}
std::size_t claims_square(std::string_view text) {
    return word_at_start(text, "square");
}
std::size_t claims_flat(std::string_view text) {
    return word_at_start(text, "flat");
}
Designation read_flat(std::string_view text) {
    return read_plain(text, claims_flat(text), Outline::flat,
                      "A width and a thickness are expected here, for example flat 30 x 6 x 90.");
}
Designation read_round(std::string_view text) {
    return read_plain(text, claims_round(text), Outline::round,
                      "A diameter is expected here, for example round 12 x 30.");
}
Designation read_hexagon(std::string_view text) {
    return read_plain(text, claims_hexagon(text), Outline::hexagon,
                      "A size across the flats is expected here, for example hex 17 x 8.");
}
Designation read_square(std::string_view text) {
    return read_plain(text, claims_square(text), Outline::square,
                      "A size across the flats is expected here, for example hex 17 x 8.");
}

using Known = std::span<const OwnSection>;

std::vector<Usual> sized(const char* word, std::initializer_list<int> sizes) {
    std::vector<Usual> out;
    for (const int s : sizes)
        out.push_back({word + (" {" + std::to_string(s) + "} x {" + std::to_string(2 * s) + "}"), ""});
    return out;
}

std::size_t claims_gear(std::string_view text) {
    return is_gear(text) ? 1 : 0;
}
Designation read_gear(std::string_view text) {
    const GearDesignation g = parse_gear(text);
    return {g.spec, g.width, g.unit, g.body};
}
std::size_t claims_rack(std::string_view text) {
    return is_rack(text) ? 1 : 0;
}
Designation read_rack(std::string_view text) {
    const RackDesignation g = parse_rack_bar(text);
    return {g.spec, {}, g.unit};
}
std::size_t claims_spring(std::string_view text) {
    return is_spring(text) ? 1 : 0;
}
Designation read_spring(std::string_view text) {
    const CoilDesignation c = parse_spring(text);
    return {c.spec, {}, c.unit};
}

std::size_t claims_knurl(std::string_view text) {
    return is_knurl(text) ? 1 : 0;
}
Designation read_knurl(std::string_view text) {
    const KnurlDesignation k = parse_knurl(text);
    return {k.spec, k.length, k.unit};
}

std::size_t claims_groove(std::string_view text) {
    return is_groove(text) ? 1 : 0;
}
Designation read_groove(std::string_view text) {
    const GrooveDesignation g = parse_groove(text);
    return {g.spec, g.length, g.unit};
}
std::size_t claims_silhouette(std::string_view text) {
    return is_silhouette(text) ? 1 : 0;
}
Designation read_silhouette(std::string_view text) {
    const SilhouetteDesignation s = parse_silhouette(text);
    Designation out{s.spec, {}, LengthUnit::millimetre};
    if (s.length) out.length = mm(*s.length);
    return out;
}
std::vector<Usual> usual_silhouettes(Known) {
    return {{"silhouette 0:{12} 8:{16} 22:{10} 40:{14:0}", "a knob, a curve through four points"},
            {"silhouette 0:{30} 60:{38} 140:{24} 180:{16:0}", "the tangent's angle said at its end"},
            {"silhouette 0:{8} 10:{20} 30:{20} 40:{8} monotone", "nothing beyond its points"},
            {"silhouette 0:{20} 30:{25} 60:{20} arcs", "arcs that touch each other"},
            {"silhouette 0:{38} 100:{38}, {8} flutes {4} deep, twist {60}, from {8}, wall {2} bottom {3}",
             "fluted and hollow"},
            {"silhouette 0:{12} 60:{10}, {6} flutes {2} deep", "a handle, its flutes straight"}};
}

std::vector<Usual> usual_grooves(Known) {
    return {{"groove round {4.2} pitch {4.5} on {60} x {40}", "a rope drum's, half-round"},
            {"groove rect {2} x {1.5} pitch {25} on {30} x {100}", "a keyway that winds"},
            {"groove rect {2} pitch {25} in {30} across {33} x {60}", "in a tube's bore"},
            {"groove round {3} x {1} pitch {20} in {20} x {30}, {2} starts", "oil grooves in a bush"},
            {"groove vee {60} {1} pitch {6} on {20} x {40}, {3} starts LH", "three sharp ones, left-hand"},
            {"groove trapezium {4} {30} x {1.5} pitch {10} on {40} x {60}", "flanks aslant"},
            {"groove round {6} x {2} pitch {40} on {30} x {60}, {4} starts", "a fluted shank"}};
}

std::size_t claims_cam(std::string_view text) {
    return is_cam(text) ? 1 : 0;
}
Designation read_cam(std::string_view text) {
    const CamDesignation c = parse_cam(text);
    return {c.spec, c.length, c.unit, c.body};
}

std::size_t claims_drum(std::string_view text) {
    return is_drum(text) ? 1 : 0;
}
Designation read_drum(std::string_view text) {
    const DrumDesignation d = parse_drum(text);
    return {d.spec, d.length, d.unit, d.body};
}

std::size_t claims_bend(std::string_view text) {
    return is_bend(text) ? 1 : 0;
}
Designation read_bend(std::string_view text) {
    const BendDesignation d = parse_bend(text);
    return {d.spec, {}, d.unit};
}

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
std::vector<Usual> usual_gears(Known) {
    auto out = by_module("gear m{#} z{24} a{20} b{$}", "spur");
    const auto more = [&](std::vector<Usual> lines) { out.insert(out.end(), lines.begin(), lines.end()); };
    more(by_module("gear m{#} z{24} helix {15} {LH} b{$}", "helical"));
    more(by_module("gear m{#} z{48} b{$} bore {$} key web", "a whole wheel: bore, keyway and web", mm(1),
                   mm(20)));
    more({{"gear dp{12} z{30} b{3/4}", "by diametral pitch, in inch"}});
    return out;
}
std::vector<Usual> usual_rings(Known) {
    return by_module("internal gear m{#} z{73} b{$}", "teeth inside a ring");
}
std::vector<Usual> usual_racks(Known) {
    auto out = by_module("rack m{#} z{20} b{$} h{$}", "by its teeth");
    for (Usual& u : by_module("rack m{#} l{300} b{$} h{$}", "by its length"))
        out.push_back(std::move(u));
    return out;
}
std::vector<Usual> usual_springs(Known) {
    return {{"spring d{2} D{20} L{50} n{7} {closed ground}", "closed, ends ground flat"},
            {"spring d{1} D{10} L{30} n{8} {closed ground}", "small"},
            {"spring d{0.5} D{5} L{15} n{8} {closed}", "fine wire, ends not ground"},
            {"spring d{4} D{32} L{90} n{6} {closed ground}", "strong"},
            {"spring d{2} D{20} p{6} n{7} {open}", "open ends, by its pitch"},
            {"spring d{4} D{36} L{85} nt{7.5} {open}", "as counted on a sample"},
            {"spring d{2.5} D{52..30..52} L{44} nt{5} {open}", "narrower in the middle"},
            {"spring d{2.5} D{20/40} L{50} nt{6} {open}", "a cone"}};
}

std::vector<Usual> usual_knurls(Known) {
    std::vector<double> pitches = preferred_knurl_pitches(); // 1 mm before the others
    std::rotate(pitches.begin(), std::find(pitches.begin(), pitches.end(), 1.0), pitches.end());
    std::vector<Usual> out;
    for (const double pitch : pitches)
        for (const auto& [kind, says] : {std::pair{"axial", "grooves along the axis, DIN 82-RAA"},
                                         std::pair{"crossed", "points raised, DIN 82-RGE"},
                                         std::pair{"crossed sunk", "points sunk in, DIN 82-RGV"},
                                         std::pair{"left", "aslant, left-hand, DIN 82-RBL"},
                                         std::pair{"right", "aslant, right-hand, DIN 82-RBR"},
                                         std::pair{"axial-ring", "square pyramids raised, DIN 82-RKE"},
                                         std::pair{"axial-ring sunk", "square pyramids sunk in, DIN 82-RKV"},
                                         std::pair{"ring", "grooves around, in rings"}}) {
            // about 60 teeth around, so that the pattern reads
            const std::string d = number_text(std::round(20 * pitch), 0);
            out.push_back({"knurl {" + std::string(kind) + "} pitch {" + number_text(pitch, 1) + "} on {" +
                               d + "} x {" + number_text(std::round(12 * pitch), 0) + "}",
                           says});
        }
    return out;
}

std::vector<Usual> usual_cams(Known) {
    std::vector<Usual> out;
    for (const auto& [law, says] :
         {std::pair{"cycloidal", "smooth, for higher speeds"},
          std::pair{"modified-sine", "smooth, with the lowest torque peaks"},
          std::pair{"modified-trapezoid", "smooth, with the lowest acceleration"},
          std::pair{"3-4-5", "smooth, a polynomial"}, std::pair{"4-5-6-7", "smoother yet: no jump in jerk"},
          std::pair{"harmonic", "for slow cams: the acceleration jumps"},
          std::pair{"parabolic", "least peak acceleration, which jumps"}})
        out.push_back({"cam r{20}: rise {10} in {120} {" + std::string(law) +
                           "}, dwell {60}, return in {120} " + law + ", dwell; roller {8}; b{10}",
                       says});
    out.push_back(
        {"cam r{30}: rise {8} in {120} cycloidal, dwell {60}, return in {120} cycloidal, dwell; flat; b{10}",
         "under a flat follower"});
    out.push_back(
        {"cam r{20}: rise {10} in {110} cycloidal, dwell {70}, return in {110} cycloidal, dwell; roller {8}; "
         "b{12}; groove {5} deep in d{80}",
         "a closed track in a disc's face: holds the roller both ways"});
    out.push_back(
        {"cam r{20}: rise {8} in {120} cycloidal, dwell {60}, return in {120} cycloidal, dwell; roller {8}; "
         "b{8}; conjugate {60}",
         "a pair of lobes for a yoke with two rollers: positive drive"});
    out.push_back({"cam r{25}: rise {6} in {90} cycloidal, dwell, return in {90} cycloidal; roller {10} "
                   "offset {4}; b{8}",
                   "a follower set off from the axis"});
    out.push_back({"cam r{25}: rise {8} in {100} cycloidal, dwell, return in {100} cycloidal; roller {10} "
                   "swing {50} {60}; "
                   "b{8}",
                   "a follower that swings on an arm"});
    out.push_back({"cam r{20}: dwell {30}, rise {4} in {75} cycloidal, dwell {15}, rise {5} in {75} "
                   "cycloidal, dwell {15}, "
                   "return in {110} cycloidal, dwell; roller {8}; b{10}",
                   "two steps up, one back"});
    return out;
}

std::vector<Usual> usual_drums(Known) {
    const std::string smooth =
        ": rise {20} in {150} cycloidal, dwell {30}, return in {150} cycloidal, dwell; ";
    return {
        {"drum cam d{72} b{50}" + smooth + "groove {8} wide {6} deep",
         "a groove for a roller of that diameter"},
        {"drum cam d{72} b{50}: rise {20} in {90} constant, dwell {90}, return in {90} constant, dwell; "
         "groove {8} wide "
         "{6} deep corners {6}",
         "a flat polygon, its corners rounded; or write corners sharp"},
        {"drum cam d{72} b{50}: rise {20} in {90} constant, dwell {90}, return in {90} constant, dwell; line",
         "only scored, for marking: corners stay sharp"},
        {"drum cam d{30} b{90}: rise {60} in {720} constant, return in {720} constant; groove {4} wide {3} "
         "deep; "
         "{4} turns",
         "a reversing screw: to and fro while it turns one way"},
        {"drum cam d{60} b{40}" + smooth + "rib {5} wide {4} high", "a rib between two rollers"},
        {"drum cam d{72} b{50}" + smooth + "groove {8} wide {6} deep; straight walls",
         "walls sunk straight in"}};
}

// All but the threads, which stand on their families' pages.
const std::vector<DesignationKind>& form_kinds() {
    static const std::vector<DesignationKind> all{
        {"gear",
         "Gears and racks",
         {"Gear", "Spur or helical, outside teeth; with bore, keyway and web where you ask for them."},
         "gear m2 ",
         usual_gears,
         claims_gear,
         read_gear},
        {"internal_gear",
         "Gears and racks",
         {"Internal gear", "A ring with its teeth inside, for a pinion that runs in it.",
          "internal gear m2 z40 b20"},
         "internal gear m2 ",
         usual_rings},
        {"rack",
         "Gears and racks",
         {"Rack", "A straight bar of teeth: turning becomes a stroke.", "rack m2 z9 b20 h14"},
         "rack m2 ",
         usual_racks,
         claims_rack,
         read_rack},
        {"spring",
         "Springs",
         {"Compression spring", "Cylindrical, or of any diameters along its turns; rate and stress follow."},
         "spring",
         usual_springs,
         claims_spring,
         read_spring},
        {"cam",
         "Cams",
         {"Disc cam", "Lifts a follower by a timing table; profile, pressure angle and speeds follow."},
         "cam r20: rise 10 in 120 cycloidal",
         usual_cams,
         claims_cam,
         read_cam},
        {"drum_cam",
         "Cams",
         {"Drum cam", "A track around a drum moves a roller along the axis; closes by construction."},
         "drum cam d72",
         usual_drums,
         claims_drum,
         read_drum},
        {"knurl",
         "Surfaces",
         {"Knurl", "For the fingers: grooves along, around, aslant or crossed, by DIN 82.",
          "knurl crossed pitch 1.6 on 20 x 14"},
         "knurl axial pitch 1 ",
         usual_knurls,
         claims_knurl,
         read_knurl},
        {"groove",
         "Surfaces",
         {"Helical groove", "Of any pitch, one to sixty starts, outside or in a bore.",
          "groove round 4.2 pitch 4.5 on 40 x 30"},
         "groove round 4.2 ",
         usual_grooves,
         claims_groove,
         read_groove},
        {"silhouette",
         "Surfaces",
         {"Silhouette", "A curve through points, turned; fluted and hollow if you ask.",
          "silhouette 0:20 30:26 70:16 90:18, 8 flutes 3 deep, twist 60, from 8 to 84"},
         "silhouette 0:12 ",
         usual_silhouettes,
         claims_silhouette,
         read_silhouette},
        {"bend",
         "Plain bars",
         {"Bend", "A round bar bent by an angle at a radius; straight zones beside it may carry any form."},
         "bend d8 90 ",
         [](Known) {
             return std::vector<Usual>{
                 {"bend d{8} {90} r{20}", "an elbow"},
                 {"bend d{8} {180} r{20}", "a U"},
                 {"bend d{8} {45} r{30}", "half an elbow"},
                 {"bend d{8} {90} inside {16}", "by its inside radius"},
                 {"bend d{8} {90} r{20} roll {90}", "out of the plane of the bend before"}};
         },
         claims_bend,
         read_bend},
        {"round_bar",
         "Plain bars",
         {"Round bar", "A plain zone; bore it, or add others to it."},
         "round 20",
         [](Known) {
             return sized("round", {6, 8, 10, 12, 16, 20, 25, 30, 40, 50});
         },
         claims_round,
         read_round},
        {"hexagon_bar",
         "Plain bars",
         {"Hexagon bar", "Measured across its flats."},
         "hex 16",
         [](Known) {
             return sized("hex", {7, 8, 10, 13, 16, 18, 24, 30, 36});
         },
         claims_hexagon,
         read_hexagon},
        {"square_bar",
         "Plain bars",
         {"Square bar", "Measured across its flats."},
         "square 16",
         [](Known) {
             return sized("square", {6, 8, 10, 12, 16, 20, 25});
         },
         claims_square,
         read_square},
        {"flat_bar",
         "Plain bars",
         {"Flat bar", "A plate or strap: width, thickness, length; drill it across for one."},
         "flat 30",
         [](Known) {
             std::vector<Usual> out;
             for (const auto& [width, thickness] :
                  {std::pair{20, 5}, {25, 5}, {30, 6}, {40, 8}, {50, 10}, {12, 3}, {16, 4}})
                 out.push_back({"flat {" + std::to_string(width) + "} x {" + std::to_string(thickness) +
                                    "} x {" + std::to_string(3 * width) + "}",
                                ""});
             return out;
         },
         claims_flat,
         read_flat}};
    return all;
}

} // namespace

const std::vector<DesignationKind>& designation_kinds() {
    static const std::vector<DesignationKind> all = [] {
        std::vector<DesignationKind> out = form_kinds();
        for (int f = 0; f < family_count; ++f) {
            const FamilyPage& page = page_of(static_cast<ThreadFamily>(f));
            out.push_back({page.key, "Threads", page.card, page.example, page.usual});
        }
        return out;
    }();
    return all;
}

std::string designation_examples() {
    return "Write for example M10x1.5-6g x 40, 1/4-20 UNC-2A x 1.5, G1/2 A, Tr20x4-7e x 100, 1/2-14 NPT or "
           "round 12 x 30.";
}

Designation parse_designation(std::string_view text, std::span<const OwnSection> known) {
    const std::size_t longest = is_cam(text) || is_drum(text) || is_silhouette(text) || is_groove(text)
                                    ? longest_list
                                    : longest_designation;
    if (text.size() > longest)
        throw InputError("This is longer than " + std::to_string(longest) +
                             " characters and can't be a designation.",
                         longest);
    Reader r(text);
    r.skip_blanks();
    if (r.done()) throw InputError("Nothing is written. " + designation_examples());
    for (std::size_t i = 0; i < text.size(); ++i)
        if (static_cast<unsigned char>(text[i]) < 32 && text[i] != '\t')
            throw InputError("There is an unprintable character. " + designation_examples(), i, 1);
    const std::size_t start = r.at();
    for (const DesignationKind& kind : form_kinds()) {
        if (!kind.claims || kind.claims(r.rest()) == 0) continue;
        try {
            return kind.read(r.rest());
        } catch (const InputError& e) {
            throw InputError(e.what(), start + e.position, e.extent);
        }
    }
    for (int f = 0; f < family_count; ++f) {
        const FamilyPage& page = page_of(static_cast<ThreadFamily>(f));
        const std::size_t letters = page.claims ? page.claims(r.rest()) : 0;
        if (letters == 0) continue;
        const std::string_view said = r.rest().substr(0, letters);
        r.move_to(start + letters);
        r.skip_blanks();
        return page.read(r, said, known);
    }
    return read_inch_thread(r);
}

std::string write_designation(const ThreadSpec& t, std::optional<Length> length) {
    const FamilyPage& page = page_of(t.family);
    std::string s = page.write(t);
    if (!t.tolerance_class.empty() && !page.writes_class) s += "-" + t.tolerance_class;
    if (t.starts > 1 && !page.writes_starts) s += " (" + std::to_string(t.starts) + " starts)";
    if (t.side == Side::internal && !side_of_class(t.family, t.tolerance_class)) s += " internal";
    if (t.hand == Hand::left) s += " LH";
    if (t.taper) s += " taper " + taper_text(*t.taper);
    const bool inches = page.inch || (page.writes_in_inches && page.writes_in_inches(t));
    if (length) s += " x " + length_text(*length, inches ? LengthUnit::inch : LengthUnit::millimetre);
    return s;
}

std::string write_designation(const PlainBar& round, std::optional<Length> length, LengthUnit unit) {
    const char* what = round.outline == Outline::hexagon  ? "hex "
                       : round.outline == Outline::square ? "square "
                       : round.outline == Outline::flat   ? "flat "
                                                          : "round ";
    return what + number_text(in_unit(round.diameter, unit), 6) +
           (round.outline == Outline::flat ? " x " + number_text(in_unit(round.thickness, unit), 6) : "") +
           (unit == LengthUnit::inch ? " in" : "") + (length ? " x " + length_text(*length, unit) : "");
}

std::string without_marks(std::string_view usual) {
    std::string out;
    for (const char c : usual)
        if (c != '{' && c != '}') out += c;
    return out;
}

std::vector<std::string> complete_designation(std::string_view text, std::size_t limit,
                                              std::span<const OwnSection> known) {
    std::vector<std::string> out;
    while (!text.empty() && text.front() == ' ')
        text.remove_prefix(1);
    if (text.empty()) return out;
    const auto offer = [&](const std::string& s) {
        if (out.size() < limit && s.size() > text.size() && s.starts_with(text) &&
            std::find(out.begin(), out.end(), s) == out.end())
            out.push_back(s);
    };
    // the usual classes of every size before the others
    for (const bool usual_class_only : {true, false})
        for (int f = 0; f < family_count; ++f) {
            const FamilyPage& page = page_of(static_cast<ThreadFamily>(f));
            std::vector<std::string> classes;
            if (!page.writes_class)
                for (const auto* side : {&page.external_classes, &page.internal_classes})
                    classes.insert(classes.end(), side->begin(), side->end());
            if (classes.empty()) classes = {""};
            for (const Usual& u : page.usual(known)) {
                const std::string size = without_marks(u.text);
                if (!size.starts_with(text.substr(0, size.size()))) continue;
                for (const std::string& c : classes) {
                    if (usual_class_only == (&c == &classes.front()))
                        offer(c.empty() ? size : std::string(size).append("-").append(c));
                    if (out.size() == limit) return out;
                }
            }
        }
    for (const DesignationKind& kind : form_kinds())
        for (const Usual& u : kind.usual(known))
            offer(without_marks(u.text));
    for (const char* word_ : {"round ", "hex ", "square "})
        offer(word_);
    return out;
}

} // namespace whorl
