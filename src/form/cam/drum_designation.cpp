#include "form/cam/cam_words.hpp"
#include "form/kinds.hpp"

namespace whorl {
namespace {

constexpr const char* example =
    "drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150, dwell; groove 8 wide 6 deep";

bool take_drum_cam(Reader& r) {
    if (!r.take_word_ignoring_case("drum")) return false;
    r.skip_blanks();
    r.take_word_ignoring_case("cam");
    return true;
}

// d72 b50, in either order, up to the colon.
void take_drum(SpecReader& r, DrumDesignation& out) {
    bool diameter = false;
    for (r.skip_blanks(); !r.take(":"); r.skip_blanks()) {
        if (!diameter && r.take_key("d")) {
            out.spec.diameter = r.length("diameter", "d72");
            diameter = true;
        } else if (!out.length && r.take_key("b")) {
            out.length = r.length("length", "b50");
        } else {
            r.refuse(std::string(diameter && out.length
                                     ? "The timing follows a colon, for example "
                                     : "A drum cam begins with its diameter and its length, for example ") +
                     example + ".");
        }
    }
    if (!diameter || !out.length)
        r.refuse(std::string("A drum cam begins with its diameter and its length, for example ") + example +
                 ".");
}

// `8 wide 6 deep`, of a groove or a rib.
void take_track(SpecReader& r, DrumSpec& s, TrackKind kind) {
    s.track = kind;
    for (int k = 0; k < 2; ++k) {
        const Length v = r.length(k == 0 ? "width" : "depth", "groove 8 wide 6 deep");
        r.skip_blanks();
        const std::size_t from = r.at();
        if (r.take_word_ignoring_case("wide")) {
            r.once("The track's width", from);
            s.width = v;
        } else if (r.take_word_ignoring_case("deep") || r.take_word_ignoring_case("high")) {
            r.once("The track's depth", from);
            s.depth = v;
        } else {
            r.refuse(std::string("Say what this is: ") +
                     (kind == TrackKind::groove ? "groove 8 wide 6 deep." : "rib 5 wide 4 high."));
        }
    }
}

void take_corners(SpecReader& r, DrumDesignation& out) {
    DrumSpec& s = out.spec;
    r.skip_blanks();
    if (r.take_word_ignoring_case("sharp")) {
        s.corners = CornerKind::sharp;
        return;
    }
    if (!r.take_word_ignoring_case("blended")) {
        s.corner = r.length("radius, sharp or blended", "corners 6");
        r.skip_blanks();
        if (!r.take_word_ignoring_case("blended")) return;
    }
    s.corners = CornerKind::blended;
}

constexpr auto turns = [](SpecReader& r, DrumDesignation& out) {
    static const std::string sentence =
        "A track has a whole number of turns, from 1 to " + std::to_string(most_turns) + ".";
    out.spec.timing.turns = r.said_whole(1, most_turns, sentence.c_str());
};
constexpr SpecWord<DrumDesignation> words[]{
    {"line", "The track", [](SpecReader&, DrumDesignation& out) { out.spec.track = TrackKind::line; }},
    {"groove", "The track",
     [](SpecReader& r, DrumDesignation& out) { take_track(r, out.spec, TrackKind::groove); }},
    {"rib", "The track",
     [](SpecReader& r, DrumDesignation& out) { take_track(r, out.spec, TrackKind::rib); }},
    {"straight", "straight walls",
     [](SpecReader& r, DrumDesignation& out) {
         r.skip_blanks();
         r.take_word_ignoring_case("walls");
         out.spec.walls = WallKind::straight;
     }},
    {"swing", "swing",
     [](SpecReader& r, DrumDesignation& out) { out.spec.arm = r.length("length of the arm", "swing 60"); }},
    {"corners", "corners", take_corners},
    {"from", "from",
     [](SpecReader& r, DrumDesignation& out) {
         out.spec.from = r.length("distance from the near end", "from 12");
     }},
    {"turns", "The number of turns", turns, true},
    {"turn", "The number of turns", turns, true},
};

} // namespace

bool is_drum(std::string_view text) {
    Reader r(text);
    return take_drum_cam(r);
}

DrumDesignation parse_drum(std::string_view text) {
    SpecReader r(text);
    take_drum_cam(r);
    DrumDesignation out;
    out.unit = r.unit();
    take_drum(r, out);
    out.spec.timing = take_timing(r);
    read_words<DrumDesignation>(
        r, out, {words, turning_words<DrumDesignation>, bore_words<DrumDesignation>},
        "This is not understood in a drum cam; write groove or rib with its width and depth, line, "
        "corners and their radius, sharp or blended, turns, straight walls, swing, from, at, "
        "clockwise, mass, preload, bore or rpm, for example " +
            std::string(example) + ".",
        "What is this number? Write what it is before it, or turns or rpm after it, for example 4 turns.");
    if (out.spec.load.rate != 0)
        throw InputError(
            "A drum cam holds its roller on both sides and needs no spring; write preload for a force "
            "that is there all the way.",
            text.size());
    try {
        (void)resolve_drum(out.spec, *out.length);
    } catch (const InputError& e) {
        throw InputError(e.what(), text.size());
    }
    return out;
}

std::string write_drum(const DrumSpec& s, std::optional<Length> length, LengthUnit unit) {
    const auto number = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    std::string text = "drum cam d" + number(s.diameter) + (length ? " b" + number(*length) : "") + ": " +
                       write_timing(s.timing, unit) + "; " + std::string(word(s.track));
    if (s.track != TrackKind::line)
        text += " " + number(s.width) + " wide " + number(s.depth) +
                (s.track == TrackKind::rib ? " high" : " deep");
    if (s.arm) text += " swing " + number(*s.arm);
    if (s.corner || s.corners != CornerKind::rounded) text += " corners";
    if (s.corner) text += " " + number(*s.corner);
    if (s.corners != CornerKind::rounded) text += " " + std::string(word(s.corners));
    if (s.timing.turns > 1) text += "; " + std::to_string(s.timing.turns) + " turns";
    if (s.walls == WallKind::straight) text += "; straight walls";
    if (s.from) text += " from " + number(*s.from);
    text += cam_words(s.clockwise, s.at, s.rpm, s.load);
    return text + (unit == LengthUnit::inch ? "; in" : "");
}

namespace {
std::vector<Usual> usual_drums(std::span<const OwnSection>) {
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
} // namespace

DesignationKind drum_kind() {
    return {"drum_cam",
            "Cams",
            {"Drum cam", "A track around a drum moves a roller along the axis; closes by construction."},
            "drum cam d72",
            usual_drums,
            is_drum,
            read_as<parse_drum>,
            true};
}

} // namespace whorl
