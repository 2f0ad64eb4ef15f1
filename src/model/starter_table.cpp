#include "model/starter_table.hpp"

#include "model/edit.hpp"
#include "model/ready_zone.hpp"
#include "quantity/expression.hpp"
#include "standard/fastener.hpp"
#include "standard/iso_metric.hpp"
#include "standard/screw_hole.hpp"
#include "standard/thread_series.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <functional>

namespace whorl {
namespace {

// The zone of a thread, with flat ends.
Zone threaded(const ThreadSpec& spec, LengthUnit unit, Length length) {
    Designation d;
    d.what = spec;
    d.unit = unit;
    Zone z = zone_of(d);
    z.near_end = z.far_end = {};
    z.length = millimetres(length);
    return z;
}

ThreadSpec sided(ThreadSpec s, Side side) {
    if (s.side == side) return s;
    s.side = side;
    s.tolerance_class = usual_class(s.family, side);
    return s;
}

const standard::FastenerSize& size_of(const char* kind, const ThreadSpec& t, const std::string& standard_name,
                                      std::size_t place) {
    if (t.family == ThreadFamily::iso_metric)
        if (const auto* s = standard::fastener_size(kind, t.diameter)) return *s;
    std::string sizes;
    for (const auto& s : standard::fastener_sizes(kind))
        sizes += (sizes.empty() ? "M" : ", M") + number_text(in_mm(s.thread), 2);
    throw InputError(standard_name + " is kept here for " + sizes + ".", place);
}

// Makes a piece of a thread and perhaps a length; a member function for each starter.
class PieceMaker {
public:
    PieceMaker(const Starter& starter, std::string_view text, std::size_t rest,
               std::span<const OwnSection> known)
        : rest_(rest), name_(starter.words) {
        for (char& c : name_)
            c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
        if (name_.substr(0, 3) != "ISO") {
            for (char& c : name_)
                c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
            name_[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(name_[0])));
        }
        const std::string_view thread = text.substr(rest_);
        if (thread.empty())
            throw InputError("A thread is expected after '" + name_ + "', for example " + starter.example +
                                 ".",
                             text.size());
        Designation d;
        try {
            d = parse_designation(thread, known);
        } catch (const InputError& e) {
            throw InputError(e.what(), rest_ + e.position, e.extent);
        }
        const auto* t = std::get_if<ThreadSpec>(&d.what);
        if (!t)
            throw InputError("A thread is expected here, for example " + std::string(starter.example) + ".",
                             rest_, thread.size());
        t_ = *t;
        unit_ = d.unit;
        length_ = d.length;
    }

    Piece piece(void (PieceMaker::*make)()) {
        piece_.finish = "steel";
        (this->*make)();
        piece_.name = name_ + " " + write_short();
        if (piece_.name.size() > 80) piece_.name.resize(80);
        return piece_;
    }

    // Screws and nuts by their standards.
    void hexagon_screw() {
        screw_with_hexagon([](Length length) { return length; });
    }
    void hexagon_bolt() {
        screw_with_hexagon([this](Length length) { return thread_length(length, mm(6)); });
    }
    void socket_screw() {
        const auto& size = size_of("socket_head", t_, name_, rest_);
        const Length length = asked_length();
        Zone head = plain(size.head_diameter, size.height);
        head.near_end = chamfer(45, size.head_diameter - t_.diameter * 0.12);
        piece_.zones.push_back(head);
        shank_and_thread(length, t_.diameter * 2 + mm(12));
        socket(size);
    }
    void set_flat() {
        set_screw([](const standard::FastenerSize& size) { return chamfer(45, size.point); });
    }
    void set_dog() {
        set_screw([](const standard::FastenerSize&) { return dog_point(); });
    }
    void set_cone() {
        set_screw([](const standard::FastenerSize&) { return point(45); });
    }
    // A knurled head four diameters wide, a collar and a hole in its top that a finger finds.
    void thumb_screw() {
        const Length d = t_.diameter;
        if (!(d >= mm(2) && d <= mm(24)))
            throw InputError("Thumb screws are made here from M2 to M24, or of inch threads between.", rest_);
        const Length length = asked_length(), wide = even(d * (d > mm(6) ? 3.7 : 4), 1);
        const double pitch = wide < mm(14) ? 0.6 : wide < mm(18) ? 0.8 : wide < mm(32) ? 1 : 1.2; // DIN 82
        Zone top = plain(even(wide - mm(2.4 * pitch)), even(d * 0.2, 0.1));
        top.near_end = rounded_edge(even(d * 0.1, 0.1));
        KnurlForm k;
        k.diameter = millimetres(wide);
        k.pitch = millimetres(mm(pitch));
        Zone knurled;
        knurled.form = k;
        knurled.length = millimetres(even(d * 0.7, 0.1));
        knurled.near_end = knurled.far_end = chamfer(45);
        Zone recess = plain(even(d * 1.5), even(d * 0.3, 0.1));
        recess.where = Where::near_bore;
        recess.near_end = rounded_edge(even(d * 0.05, 0.05));
        piece_.zones = {top, knurled, plain(even(d * 2), even(d * 0.7, 0.1))};
        external(length, run_out(0.5), chamfer(45));
        piece_.zones.push_back(recess);
    }
    void hexagon_nut() {
        const auto& size = size_of("hexagon_nut", t_, name_, rest_);
        nut(size.across_flats, length_.value_or(size.height), Outline::hexagon);
    }
    void any_nut() {
        const auto* size = t_.family == ThreadFamily::iso_metric
                               ? standard::fastener_size("hexagon_nut", t_.diameter)
                               : nullptr;
        nut(size ? size->across_flats : even(t_.diameter * 1.5, 1),
            length_.value_or(size ? size->height : even(t_.diameter)), Outline::hexagon);
    }
    void ring() {
        nut(even(t_.diameter * 1.5, 1), length_.value_or(even(t_.diameter * 0.6)), Outline::round);
    }
    void plate() { nut(even(t_.diameter * 2.5, 1), length_.value_or(even(t_.diameter)), Outline::square); }
    void rod() { external(length_.value_or(t_.diameter * 10), chamfer(45), chamfer(45)); }
    void blind() {
        const Length depth = length_.value_or(t_.diameter * 2), drill_more = t_.pitch * 3;
        const ThreadSpec inside = sided(t_, Side::internal);
        const ResolvedThread thread = resolve_thread(inside);
        const ResolvedValue* drill = find_value(thread.values, "tap_drill");
        const Length drill_d =
                         mm(drill && drill->value ? std::round(*drill->value * 100) / 100
                                                  : std::floor(200 * thread.section.crest_radius) / 100),
                     tip = drill_d / 2 / std::tan(in_rad(deg(59)));
        piece_.zones.push_back(plain(even(t_.diameter * 2.5, 1),
                                     even(depth + drill_more + tip + t_.diameter * 0.5, 1), Outline::square));
        Zone bore = threaded(inside, unit_, depth);
        bore.where = Where::near_bore;
        bore.near_end = chamfer(60);
        bore.far_end = run_out(1);
        piece_.zones.push_back(bore);
        Zone bottom = plain(drill_d, drill_more + tip);
        bottom.where = Where::near_bore;
        bottom.far_end = point(59);
        piece_.zones.push_back(bottom);
    }
    void stud() {
        const Length length = length_.value_or(t_.diameter * 8);
        const Length end = std::min(thread_length(length, mm(6)), length * 0.4);
        external(end, chamfer(45), run_out(0.5));
        piece_.zones.push_back(plain(t_.diameter, length - end * 2));
        external(end, run_out(0.5), chamfer(45));
    }
    void lead_screw() {
        const Length length = length_.value_or(t_.diameter * 12);
        const double root = 2 * resolve_thread(sided(t_, Side::external)).section.root_radius;
        const Length journal = mm(std::floor(root * 2 - 0.2) / 2),
                     journal_length = even(t_.diameter * 1.25, 1);
        Zone near = plain(journal, journal_length), far = near;
        near.near_end = chamfer(45, journal - t_.diameter * 0.08);
        far.far_end = near.near_end;
        piece_.zones.push_back(near);
        external(length, chamfer(45), chamfer(45));
        piece_.zones.push_back(far);
    }
    void nipple() {
        const ThreadSpec outside = sided(t_, Side::external);
        const ResolvedThread r = resolve_thread(outside);
        // two threads of about the useful length, the pipe's own diameter between them
        const Length end = even(t_.pitch * 8), length = length_.value_or(even(end * 3.5, 1));
        if (length < end * 2 + mm(2))
            throw InputError("A nipple with this thread needs at least " +
                                 number_text(in_mm(end * 2 + mm(2)), 1) + " mm.",
                             rest_);
        external(end, chamfer(45), run_out(1));
        piece_.zones.push_back(
            plain(mm(std::ceil(20 * in_mm(r.spec.diameter)) / 20 + 0.4), length - end * 2));
        external(end, run_out(1), chamfer(45));
        Zone bore = plain(even(t_.diameter * 0.76), length);
        bore.where = Where::near_bore;
        bore.length = {"", LengthUnit::millimetre};
        piece_.zones.push_back(bore);
    }

private:
    // A round number in the thread's unit.
    Length even(Length l, double step = 0.5) const { return rounded(l, step, unit_); }

    // The thread without its class, and the length, as a person would say it.
    std::string write_short() const {
        std::string s = write_designation(t_);
        if (const auto dash = s.rfind("-" + t_.tolerance_class);
            !t_.tolerance_class.empty() && dash != std::string::npos)
            s.erase(dash, t_.tolerance_class.size() + 1);
        if (t_.family == ThreadFamily::iso_metric && t_.starts == 1)
            if (const auto* coarse = standard::iso_coarse(t_.diameter);
                coarse && std::abs(in_mm(coarse->pitch - t_.pitch)) < 1e-9)
                s.erase(s.find('x'), number_text(in_mm(t_.pitch), 6).size() + 1);
        return length_ ? s + " x " + length_text(*length_, unit_) : s;
    }

    void external(Length length, EndTreatment near, EndTreatment far) {
        Zone z = threaded(sided(t_, Side::external), unit_, length);
        z.near_end = std::move(near);
        z.far_end = std::move(far);
        piece_.zones.push_back(z);
    }
    Length asked_length() const {
        if (!length_) throw InputError("A length is expected, for example " + std::string("x 30."), rest_);
        return *length_;
    }

    void screw_with_hexagon(const std::function<Length(Length)>& threaded_of) {
        const auto& size = size_of("hexagon_head", t_, name_, rest_);
        const Length length = asked_length();
        Zone head = plain(size.across_flats, size.height, Outline::hexagon);
        head.near_end = chamfer(60);
        piece_.zones.push_back(head);
        shank_and_thread(length, threaded_of(length));
    }
    // A hexagon socket: the key's depth, then the cone the drill left.
    void socket(const standard::FastenerSize& size) {
        Zone key = plain(size.key, size.key_depth, Outline::hexagon);
        key.where = Where::near_bore;
        piece_.zones.push_back(key);
        Zone drill = plain(size.key * 0.98, size.key * 0.98 / 2 / std::tan(in_rad(deg(60))) + mm(0.05));
        drill.where = Where::near_bore;
        drill.far_end = point(60);
        piece_.zones.push_back(drill);
    }
    // ISO 888: b = 2d + 6 up to 125 mm, 2d + 12 up to 200 mm, 2d + 25 beyond
    Length thread_length(Length length, Length base) const {
        return t_.diameter * 2 + (length > mm(200) ? mm(25) : length > mm(125) ? mm(12) : base);
    }
    void shank_and_thread(Length length, Length threaded_length) {
        const bool full = threaded_length >= length - t_.pitch * 3;
        if (!full) {
            piece_.zones.push_back(plain(t_.diameter, length - threaded_length));
            external(threaded_length, run_out(0.5), chamfer(45));
        } else {
            external(length, run_out(1), chamfer(45));
        }
    }
    void set_screw(const std::function<EndTreatment(const standard::FastenerSize&)>& tip) {
        const auto& size = size_of("set_screw", t_, name_, rest_);
        external(asked_length(), chamfer(45), tip(size));
        socket(size);
    }
    void nut(Length across, Length height, Outline outline) {
        Zone body = plain(across, height, outline);
        if (outline == Outline::hexagon) body.near_end = body.far_end = chamfer(60);
        if (outline == Outline::round) body.near_end = body.far_end = chamfer(45, across - t_.diameter * 0.1);
        piece_.zones.push_back(body);
        Zone bore = threaded(sided(t_, Side::internal), unit_, height);
        bore.where = Where::near_bore;
        bore.length = {"", LengthUnit::millimetre};
        bore.near_end = bore.far_end = chamfer(60);
        piece_.zones.push_back(bore);
    }

    std::size_t rest_;
    std::string name_;
    ThreadSpec t_;
    LengthUnit unit_ = LengthUnit::millimetre;
    std::optional<Length> length_;
    Piece piece_;
};

template<void (PieceMaker::*make)()>
Piece made(const Starter& starter, std::string_view text, std::size_t rest,
           std::span<const OwnSection> known) {
    return PieceMaker(starter, text, rest, known).piece(make);
}

// A line for every size of a fastener, with a length of about `diameters` rounded to the usual steps; 0:
// without.
template<int diameters>
std::vector<Usual> fasteners(const char* kind, const std::string& words) {
    std::vector<Usual> out;
    for (const auto& s : standard::fastener_sizes(kind)) {
        const double d = in_mm(s.thread), about = d * diameters, step = about < 40 ? 2 : 5;
        std::string text = words + " M{" + number_text(d, 2) + "}";
        if (diameters > 0) text += " x {" + number_text(std::ceil(about / step) * step, 1) + "}";
        out.push_back({text, ""});
    }
    return out;
}

// A line for every coarse metric size, with a length of so many tenths of the diameter; 0: without.
std::vector<Usual> coarse_sizes(const std::string& words, int tenths) {
    std::vector<Usual> out;
    for (const auto& t : standard::iso_metric_series()) {
        if (t.series != "coarse" || t.size.find('.') != std::string::npos || in_mm(t.diameter) < 3) continue;
        std::string text = words + " M{" + t.size + "}";
        if (tenths > 0) text += " x {" + number_text(std::ceil(in_mm(t.diameter) * tenths / 10), 1) + "}";
        out.push_back({text, ""});
    }
    return out;
}

std::vector<Usual> trapezoidal_sizes(const std::string& words, int diameters) {
    std::vector<Usual> out;
    for (const auto& t : standard::thread_series("Tr")) {
        std::string text = words + " Tr{" + t.size + "}x{" + number_text(in_mm(t.pitch), 4) + "}";
        if (diameters > 0)
            text += " x {" + number_text(std::round(in_mm(t.diameter) * diameters / 10) * 10, 1) + "}";
        out.push_back({text, ""});
    }
    return out;
}

std::vector<Usual> nuts() {
    auto out = coarse_sizes("nut", 0);
    for (Usual& u : trapezoidal_sizes("nut", 0))
        out.push_back(std::move(u));
    return out;
}

std::vector<Usual> nipples() {
    std::vector<Usual> out;
    for (const auto& t : standard::thread_series("R"))
        out.push_back(
            {"nipple R{" + t.size + "} x {" + number_text(std::round(in_mm(t.diameter) * 2 + 20), 1) + "}",
             ""});
    return out;
}

// A line for every screw, twice as thick as it.
std::vector<Usual> screw_holes(const std::string& words, bool (*has)(const standard::ScrewHole&)) {
    std::vector<Usual> out;
    for (const auto& h : standard::screw_holes())
        if (has(h)) {
            const std::string d = number_text(in_mm(h.thread), 1);
            out.push_back({words + " M{" + d + "} x {" + number_text(2 * in_mm(h.thread), 1) + "}", ""});
        }
    return out;
}

constexpr const char *screws = "Screws and nuts", *pieces = "Threaded pieces", *bent_pieces = "Bent pieces",
                     *vessels = "Vessels";

} // namespace

const std::vector<Starter>& starters() {
    using M = PieceMaker;
    static const std::vector<Starter> all{
        {"iso 4017",
         "ISO 4017 M8 x 30",
         screws,
         {"Hexagon head screw", "ISO 4017, threaded up to its head."},
         made<&M::hexagon_screw>,
         [] { return fasteners<4>("hexagon_head", "ISO 4017"); }},
        {"iso 4014",
         "ISO 4014 M8 x 60",
         screws,
         {"Hexagon head bolt", "ISO 4014, with a plain shank.", "ISO 4014 M10 x 45"},
         made<&M::hexagon_bolt>,
         [] { return fasteners<8>("hexagon_head", "ISO 4014"); }},
        {"iso 4762",
         "ISO 4762 M6 x 25",
         screws,
         {"Socket head screw", "ISO 4762, cylinder head with a hexagon socket."},
         made<&M::socket_screw>,
         [] { return fasteners<4>("socket_head", "ISO 4762"); }},
        {"iso 4032",
         "ISO 4032 M10",
         screws,
         {"Hexagon nut", "ISO 4032, the usual height."},
         made<&M::hexagon_nut>,
         [] { return fasteners<0>("hexagon_nut", "ISO 4032"); }},
        {"iso 4026",
         "ISO 4026 M6 x 12",
         screws,
         {"Set screw, flat point", "ISO 4026, hexagon socket."},
         made<&M::set_flat>,
         [] { return fasteners<2>("set_screw", "ISO 4026"); }},
        {"iso 4027",
         "ISO 4027 M6 x 12",
         screws,
         {"Set screw, cone point", "ISO 4027, hexagon socket."},
         made<&M::set_cone>,
         [] { return fasteners<2>("set_screw", "ISO 4027"); }},
        {"iso 4028",
         "ISO 4028 M6 x 16",
         screws,
         {"Set screw, dog point", "ISO 4028, hexagon socket; the dog of ISO 4753."},
         made<&M::set_dog>,
         [] { return fasteners<2>("set_screw", "ISO 4028"); }},
        {"thumb screw",
         "thumb screw M5 x 16",
         screws,
         {"Thumb screw", "A stepped, knurled head with rounded edges and a hole in its top.",
          "thumb screw M5 x 16"},
         made<&M::thumb_screw>,
         [] {
             std::vector<Usual> out;
             for (const auto& [d, l] : {std::pair{5, 16}, {3, 10}, {4, 12}, {6, 20}, {8, 25}, {10, 30}})
                 out.push_back(
                     {"thumb screw M{" + std::to_string(d) + "} x {" + std::to_string(l) + "}", ""});
             return out;
         }},
        {"nut",
         "nut Tr20x4",
         screws,
         {"Nut of any thread", "A hexagon nut for whatever thread you write."},
         made<&M::any_nut>,
         nuts},
        {"ring",
         "ring M30x1.5 x 12",
         pieces,
         {"Tapped ring", "A round ring with a thread inside."},
         made<&M::ring>,
         [] { return coarse_sizes("ring", 6); }},
        {"plate",
         "plate M10 x 12",
         pieces,
         {"Tapped plate", "A square plate with a thread through it."},
         made<&M::plate>,
         [] { return coarse_sizes("plate", 10); }},
        {"blind",
         "blind M8 x 20",
         pieces,
         {"Tapped blind hole", "Drilled with a point of 118°, tapped part of the way."},
         made<&M::blind>,
         [] { return coarse_sizes("blind", 20); }},
        {"clearance",
         "clearance M6 x 10",
         pieces,
         {"Clearance hole", "For a screw to go through, ISO 273: fine, medium or coarse.",
          "clearance M10 x 34"},
         clearance_hole,
         [] { return screw_holes("clearance", [](const standard::ScrewHole&) { return true; }); }},
        {"counterbore",
         "counterbore M6 x 12",
         pieces,
         {"Counterbored hole", "For a socket head of ISO 4762 to stand in, and its screw.",
          "counterbore M8 x 20"},
         counterbored_hole,
         [] {
             return screw_holes("counterbore",
                                [](const standard::ScrewHole& h) { return h.counterbore.has_value(); });
         }},
        {"countersink",
         "countersink M6 x 12",
         pieces,
         {"Countersunk hole", "For a flat head of ISO 10642, 90°, and its screw.", "countersink M8 x 34"},
         countersunk_hole,
         [] {
             return screw_holes("countersink",
                                [](const standard::ScrewHole& h) { return h.countersink.has_value(); });
         }},
        {"strap",
         "strap M8 at 48",
         pieces,
         {"Strap", "A flat bar with two clearance holes of ISO 273: across a clamp's legs."},
         strap,
         [] {
             return std::vector<Usual>{{"strap M{8} at {48}", ""},
                                       {"strap M{6} at {66} x {5}", ""},
                                       {"strap M{5} fine at {30}", ""},
                                       {"strap M{10} at {124} x {10}", ""}};
         }},
        {"rod",
         "rod M10 x 200",
         pieces,
         {"Threaded rod", "Threaded from end to end.", "rod M10 x 32"},
         made<&M::rod>,
         [] { return coarse_sizes("rod", 150); }},
        {"stud",
         "stud M10 x 80",
         pieces,
         {"Stud", "Threaded at both ends, plain between.", "stud M10 x 44"},
         made<&M::stud>,
         [] { return coarse_sizes("stud", 80); }},
        {"lead screw",
         "lead screw Tr16x4 x 200",
         pieces,
         {"Lead screw", "A motion thread with a journal at each end.", "lead screw Tr16x4 x 40"},
         made<&M::lead_screw>,
         [] { return trapezoidal_sizes("lead screw", 12); }},
        {"nipple",
         "nipple R1/2 x 60",
         pieces,
         {"Pipe nipple", "Pipe threaded at both ends.", "nipple R1/2 x 48"},
         made<&M::nipple>,
         nipples},
        {"u-clamp",
         "u-clamp M6 for 60 x 80",
         bent_pieces,
         {"U-clamp", "A bar bent to a U, both legs threaded: the width inside, the length of a leg.",
          "u-clamp M8 for 40 x 50"},
         u_clamp,
         [] {
             return std::vector<Usual>{{"u-clamp M{6} for {60} x {80}", ""},
                                       {"u-clamp M{8} for {40} x {60}", ""},
                                       {"u-clamp M{8} for {89} x {95}", ""},
                                       {"u-clamp M{10} for {114} x {120}", ""},
                                       {"u-clamp M{5} for {25} x {40}", ""}};
         }},
        {"elbow",
         "elbow G3/8 90",
         bent_pieces,
         {"Elbow", "A bend of pipe with internal threads in both mouths.", "elbow G3/8 90"},
         elbow,
         [] {
             std::vector<Usual> out;
             for (const char* size : {"1/8", "1/4", "3/8", "1/2", "3/4", "1"})
                 for (const char* angle : {"90", "45"})
                     out.push_back({"elbow G{" + std::string(size) + "} {" + angle + "}", ""});
             return out;
         }},
        {"hook",
         "hook M6 for 20 x 50",
         bent_pieces,
         {"Hook", "A threaded shank and half a turn: the width inside, the length of the shank.",
          "hook M6 for 16 x 30"},
         screw_hook,
         [] {
             return std::vector<Usual>{{"hook M{5} for {16} x {40}", ""},
                                       {"hook M{6} for {20} x {50}", ""},
                                       {"hook M{8} for {25} x {60}", ""}};
         }},
        {"eye",
         "eye M6 for 16 x 50",
         bent_pieces,
         {"Eye", "A threaded shank and three quarters of a turn.", "eye M6 for 16 x 30"},
         screw_eye,
         [] {
             return std::vector<Usual>{{"eye M{5} for {14} x {40}", ""},
                                       {"eye M{6} for {16} x {50}", ""},
                                       {"eye M{8} for {22} x {60}", ""}};
         }},
        {"cup",
         "cup 80 x 95",
         vessels,
         {"Cup", "Fluted and hollow; write only the numbers that matter.", "cup 80 x 95"},
         cup,
         [] {
             return std::vector<Usual>{
                 {"cup {80} x {95}", "eight flutes, 2 mm of wall"},
                 {"cup {60} x {70}, {12} flutes, twist {90} LH, wall {1.5}", "winding to the left"},
                 {"cup {90} x {60}, twist {0}, ridges {1}", "flutes straight, ridges rounded"}};
         }},
        {"bottle",
         "bottle 70 x 180",
         vessels,
         {"Bottle", "A fluted body and a plain neck, one wall throughout.", "bottle 70 x 180"},
         bottle,
         [] {
             return std::vector<Usual>{
                 {"bottle {70} x {180}", "eight flutes, 1.5 mm of wall"},
                 {"bottle {50} x {120}, {6} flutes {2} deep, twist {120}", "a small one"},
                 {"bottle {90} x {240}, wall {2} bottom {4}", "a large one"}};
         }}};
    return all;
}

std::optional<FoundStarter> find_starter(std::string_view text) {
    std::size_t begin = 0;
    while (begin < text.size() && text[begin] == ' ')
        ++begin;
    for (const Starter& s : starters()) {
        const std::string_view words = s.words;
        std::size_t at = begin, w = 0;
        while (w < words.size()) {
            if (words[w] == ' ') { // any number of blanks, or none: ISO4017
                while (at < text.size() && text[at] == ' ')
                    ++at;
                ++w;
                continue;
            }
            if (at >= text.size() || std::tolower(static_cast<unsigned char>(text[at])) != words[w]) break;
            ++at;
            ++w;
        }
        if (w < words.size()) continue;
        if (at < text.size() && text[at] != ' ') continue;
        while (at < text.size() && text[at] == ' ')
            ++at;
        return FoundStarter{&s, at};
    }
    return {};
}

} // namespace whorl
