#include "model/starter.hpp"

#include "model/edit.hpp"
#include "quantity/expression.hpp"
#include "standard/fastener.hpp"
#include "standard/iso_metric.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

enum class Kind {
    hexagon_screw,
    hexagon_bolt,
    socket_screw,
    hexagon_nut,
    set_flat,
    set_cone,
    nut,
    ring,
    plate,
    blind,
    rod,
    stud,
    lead_screw,
    nipple
};

struct Starter {
    const char* words; // in lower case
    Kind kind;
    const char* example;
};
constexpr std::array<Starter, 14> starters{{{"iso 4017", Kind::hexagon_screw, "ISO 4017 M8 x 30"},
                                            {"iso 4014", Kind::hexagon_bolt, "ISO 4014 M8 x 60"},
                                            {"iso 4762", Kind::socket_screw, "ISO 4762 M6 x 25"},
                                            {"iso 4032", Kind::hexagon_nut, "ISO 4032 M10"},
                                            {"iso 4026", Kind::set_flat, "ISO 4026 M6 x 12"},
                                            {"iso 4027", Kind::set_cone, "ISO 4027 M6 x 12"},
                                            {"nut", Kind::nut, "nut Tr20x4"},
                                            {"ring", Kind::ring, "ring M30x1.5 x 12"},
                                            {"plate", Kind::plate, "plate M10 x 12"},
                                            {"blind", Kind::blind, "blind M8 x 20"},
                                            {"rod", Kind::rod, "rod M10 x 200"},
                                            {"stud", Kind::stud, "stud M10 x 80"},
                                            {"lead screw", Kind::lead_screw, "lead screw Tr16x4 x 200"},
                                            {"nipple", Kind::nipple, "nipple R1/2 x 60"}}};

struct Found {
    const Starter* starter;
    std::size_t rest; // where the thread begins
};

std::optional<Found> find_starter(std::string_view text) {
    std::size_t begin = 0;
    while (begin < text.size() && text[begin] == ' ')
        ++begin;
    for (const Starter& s : starters) {
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
        return Found{&s, at};
    }
    return {};
}

Number millimetres(Length l) {
    return {number_text(in_mm(l), 6), LengthUnit::millimetre};
}

EndTreatment chamfer(double degrees_to_axis, std::optional<Length> diameter = {}) {
    EndTreatment e;
    e.kind = EndKind::chamfer;
    e.angle = {number_text(degrees_to_axis, 4), {}};
    if (diameter) e.diameter = millimetres(*diameter);
    return e;
}
EndTreatment run_out(double turns) {
    EndTreatment e;
    e.kind = EndKind::run_out;
    e.turns = {number_text(turns, 4), {}};
    return e;
}
EndTreatment point(double degrees_to_axis) {
    EndTreatment e;
    e.kind = EndKind::point;
    e.angle = {number_text(degrees_to_axis, 4), {}};
    return e;
}

Zone plain(Length diameter, Length length, Outline outline = Outline::round) {
    Zone z;
    z.form = PlainForm{outline, millimetres(diameter), {}};
    z.length = millimetres(length);
    return z;
}

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

Length rounded(Length l, double step = 0.5) {
    return mm(std::round(in_mm(l) / step) * step);
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

class PieceMaker {
public:
    PieceMaker(const Found& found, std::string_view text, std::span<const OwnSection> known)
        : kind_(found.starter->kind), rest_(found.rest) {
        name_ = found.starter->words;
        for (char& c : name_)
            c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
        if (name_.substr(0, 3) != "ISO") {
            for (char& c : name_)
                c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
            name_[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(name_[0])));
        }
        const std::string_view thread = text.substr(rest_);
        if (thread.empty())
            throw InputError("A thread is expected after '" + name_ + "', for example " +
                                 found.starter->example + ".",
                             text.size());
        Designation d;
        try {
            d = parse_designation(thread, known);
        } catch (const InputError& e) {
            throw InputError(e.what(), rest_ + e.position, e.extent);
        }
        const auto* t = std::get_if<ThreadSpec>(&d.what);
        if (!t)
            throw InputError("A thread is expected here, for example " + std::string(found.starter->example) +
                                 ".",
                             rest_, thread.size());
        t_ = *t;
        unit_ = d.unit;
        length_ = d.length;
    }

    Piece piece() {
        piece_.finish = "steel";
        switch (kind_) {
        case Kind::hexagon_screw:
        case Kind::hexagon_bolt:
            screw_with_hexagon();
            break;
        case Kind::socket_screw:
            screw_with_socket();
            break;
        case Kind::set_flat:
        case Kind::set_cone:
            set_screw();
            break;
        case Kind::hexagon_nut: {
            const auto& size = size_of("hexagon_nut", t_, name_, rest_);
            nut(size.across_flats, length_.value_or(size.height), Outline::hexagon);
            break;
        }
        case Kind::nut: {
            const auto* size = t_.family == ThreadFamily::iso_metric
                                   ? standard::fastener_size("hexagon_nut", t_.diameter)
                                   : nullptr;
            nut(size ? size->across_flats : rounded(t_.diameter * 1.5, 1),
                length_.value_or(size ? size->height : rounded(t_.diameter)), Outline::hexagon);
            break;
        }
        case Kind::ring:
            nut(rounded(t_.diameter * 1.5, 1), length_.value_or(rounded(t_.diameter * 0.6)), Outline::round);
            break;
        case Kind::plate:
            nut(rounded(t_.diameter * 2.5, 1), length_.value_or(rounded(t_.diameter)), Outline::square);
            break;
        case Kind::blind:
            blind();
            break;
        case Kind::rod:
            external(length_.value_or(t_.diameter * 10), chamfer(45), chamfer(45));
            break;
        case Kind::stud:
            stud();
            break;
        case Kind::lead_screw:
            lead_screw();
            break;
        case Kind::nipple:
            nipple();
            break;
        }
        piece_.name = name_ + " " + write_short();
        if (piece_.name.size() > 80) piece_.name.resize(80);
        return piece_;
    }

private:
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

    void screw_with_hexagon() {
        const auto& size = size_of("hexagon_head", t_, name_, rest_);
        const Length length = asked_length();
        Zone head = plain(size.across_flats, size.height, Outline::hexagon);
        head.near_end = chamfer(60);
        piece_.zones.push_back(head);
        shank_and_thread(length, kind_ == Kind::hexagon_bolt ? thread_length(length, mm(6)) : length);
    }
    void screw_with_socket() {
        const auto& size = size_of("socket_head", t_, name_, rest_);
        const Length length = asked_length();
        Zone head = plain(size.head_diameter, size.height);
        head.near_end = chamfer(45, size.head_diameter - t_.diameter * 0.12);
        piece_.zones.push_back(head);
        shank_and_thread(length, t_.diameter * 2 + mm(12));
        socket(size);
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
    void set_screw() {
        const auto& size = size_of("set_screw", t_, name_, rest_);
        external(asked_length(), chamfer(45), kind_ == Kind::set_cone ? point(45) : chamfer(45, size.point));
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
    void blind() {
        const Length depth = length_.value_or(t_.diameter * 2), drill_more = t_.pitch * 3;
        const ThreadSpec inside = sided(t_, Side::internal);
        const double drill = 2 * resolve_thread(inside).section.crest_radius;
        const Length drill_d = mm(std::floor(drill * 100) / 100),
                     tip = drill_d / 2 / std::tan(in_rad(deg(59)));
        piece_.zones.push_back(plain(rounded(t_.diameter * 2.5, 1),
                                     rounded(depth + drill_more + tip + t_.diameter * 0.5, 1),
                                     Outline::square));
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
                     journal_length = rounded(t_.diameter * 1.25, 1);
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
        const Length end = rounded(t_.pitch * 8), length = length_.value_or(rounded(end * 3.5, 1));
        if (length < end * 2 + mm(2))
            throw InputError("A nipple with this thread needs at least " +
                                 number_text(in_mm(end * 2 + mm(2)), 1) + " mm.",
                             rest_);
        external(end, chamfer(45), run_out(1));
        piece_.zones.push_back(
            plain(mm(std::ceil(20 * in_mm(r.spec.diameter)) / 20 + 0.4), length - end * 2));
        external(end, run_out(1), chamfer(45));
        Zone bore = plain(rounded(t_.diameter * 0.76), length);
        bore.where = Where::near_bore;
        bore.length = {"", LengthUnit::millimetre};
        piece_.zones.push_back(bore);
    }

    Kind kind_;
    std::size_t rest_;
    std::string name_;
    ThreadSpec t_;
    LengthUnit unit_ = LengthUnit::millimetre;
    std::optional<Length> length_;
    Piece piece_;
};

} // namespace

namespace {
// A gear is one zone; an internal one the bore of a ring that leaves three modules under its roots.
Piece gear_piece(const GearSpec& g, const Designation& d) {
    Piece p;
    p.name = write_gear(g, d.length).substr(0, 80);
    Zone z = zone_of(d);
    if (g.internal) {
        const double outside = 2 * resolve_gear(g).root_radius + 6 * in_mm(g.module);
        Zone body = plain(mm(std::ceil(outside)), d.length.value_or(g.module * 10));
        z.length = {"", d.unit};
        p.zones = {body, z};
        return p;
    }
    if (d.body.web) z.web = {"standard", {}};
    p.zones = {z};
    if (d.body.bore) {
        Zone bore = plain(*d.body.bore, mm(1));
        bore.where = Where::near_bore;
        bore.length = {"", d.unit}; // through
        if (d.body.key) bore.keyway = {"standard", {}};
        p.zones.push_back(bore);
    }
    return p;
}
} // namespace

bool is_starter(std::string_view text) {
    return find_starter(text).has_value();
}

Piece piece_of(std::string_view text, std::span<const OwnSection> known) {
    if (const auto found = find_starter(text)) return PieceMaker(*found, text, known).piece();
    const Designation d = parse_designation(text, known);
    Piece p;
    if (const auto* g = std::get_if<GearSpec>(&d.what)) return gear_piece(*g, d);
    if (const auto* r = std::get_if<RackSpec>(&d.what)) {
        p.name = write_rack(*r).substr(0, 80);
        p.zones = {zone_of(d)};
        return p;
    }
    if (const auto* c = std::get_if<CoilSpec>(&d.what)) {
        p.name = write_spring(*c, d.unit).substr(0, 80);
        p.finish = "steel";
        p.zones = {zone_of(d)};
        return p;
    }
    const auto* t = std::get_if<ThreadSpec>(&d.what);
    p.name =
        t ? write_designation(*t, d.length) : write_designation(std::get<PlainBar>(d.what), d.length, d.unit);
    if (p.name.size() > 80) p.name.resize(80);
    Zone z = zone_of(d);
    if (z.where == Where::outer) {
        p.zones.push_back(std::move(z));
        return p;
    }
    Zone body;
    body.form = PlainForm{.diameter = millimetres(rounded(t->diameter * 1.5, 1))};
    body.length = z.length;
    if (!d.length) body.length = millimetres(rounded(t->diameter));
    z.length = {"", d.unit};
    z.near_end = z.far_end = chamfer(60);
    p.zones = {body, z};
    return p;
}

std::vector<std::string> complete_piece(std::string_view text, std::size_t limit,
                                        std::span<const OwnSection> known) {
    while (!text.empty() && text.front() == ' ')
        text.remove_prefix(1);
    std::vector<std::string> out;
    if (text.empty()) return out;
    if (const auto found = find_starter(text)) {
        const std::string head(text.substr(0, found->rest));
        for (const std::string& s : complete_designation(text.substr(found->rest), limit, known)) {
            // the starter chooses the class
            const auto dash = s.rfind('-');
            const bool metric = s.front() == 'M' && dash != std::string::npos;
            const std::string whole = head + (metric ? s.substr(0, dash) : s);
            if (std::find(out.begin(), out.end(), whole) == out.end()) out.push_back(whole);
        }
        return out;
    }
    for (const Starter& s : starters) {
        const std::string_view example = s.example;
        bool fits = example.size() > text.size();
        for (std::size_t i = 0; fits && i < text.size(); ++i)
            fits = std::tolower(static_cast<unsigned char>(text[i])) ==
                   std::tolower(static_cast<unsigned char>(example[i]));
        if (fits && out.size() < limit)
            out.push_back(std::string(text) + std::string(example.substr(text.size())));
    }
    for (const char* example :
         {"gear m2 z24 a20 b12", "gear m1.25 z19 a20 helix 15 LH b10", "internal gear m2 z73 a20 b12",
          "spring d2 D20 L50 n7 closed ground", "spring d2.5 D52/30/52 L44 nt5 open"}) {
        const std::string_view gear = example;
        if (gear.size() > text.size() && gear.starts_with(text) && out.size() < limit) out.push_back(example);
    }
    for (std::string& s : complete_designation(text, limit, known))
        if (out.size() < limit) out.push_back(std::move(s));
    return out;
}

} // namespace whorl
