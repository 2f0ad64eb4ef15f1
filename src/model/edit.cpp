#include "model/edit.hpp"

#include "model/pair_edit.hpp"
#include "model/resolve.hpp"
#include "model/starter.hpp"
#include "model/tooth_edit.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <sstream>

namespace whorl {
namespace {

std::string trimmed(std::string_view s) {
    while (!s.empty() && std::isspace(static_cast<unsigned char>(s.front())))
        s.remove_prefix(1);
    while (!s.empty() && std::isspace(static_cast<unsigned char>(s.back())))
        s.remove_suffix(1);
    return std::string(s);
}

std::string lowered(std::string s) {
    for (char& c : s)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return s;
}

EndTreatment parse_end(const std::string& typed, LengthUnit unit) {
    EndTreatment e;
    std::string text = typed;
    for (const char* filler : {"\xC3\x98", "\xE2\x8C\x80", "\xC2\xB0", ",", "turns", "turn"})
        for (auto at = text.find(filler); at != std::string::npos; at = text.find(filler))
            text.replace(at, std::string_view(filler).size(), " ");
    std::istringstream words(text);
    std::string kind, first, second;
    words >> kind >> first;
    std::getline(words, second);
    second = trimmed(second);
    kind = lowered(kind);
    if (kind == "flat") {
        if (!first.empty())
            throw InputError("A flat end has no number; write only flat.", 4, typed.size() - 4);
        return e;
    }
    if (kind == "chamfer") {
        e.kind = EndKind::chamfer;
        if (!first.empty()) e.angle = {first, {}};
        if (!second.empty()) e.diameter = {second, unit};
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
        if (!first.empty()) e.radius = {first, unit};
        if (!second.empty()) throw InputError("A rounded end has one number, its radius: rounded 14.");
        return e;
    }
    if (kind == "run-out" || kind == "runout") {
        e.kind = EndKind::run_out;
        if (!first.empty()) e.turns = {first, {}};
        if (!second.empty()) throw InputError("A run-out has one number, its turns: run-out 0.5.");
        return e;
    }
    throw InputError(
        "An end is flat, chamfer, rounded, run-out or point; write for example chamfer 45 8.1 (angle, end "
        "diameter), rounded 14 (radius), run-out 0.5 (turns) or point 59 (angle to the axis).",
        0, kind.size());
}

std::string end_text(const EndTreatment& e, LengthUnit unit, const Names& names) {
    switch (e.kind) {
    case EndKind::flat:
        return "flat";
    case EndKind::run_out:
        return "run-out " + e.turns.text;
    case EndKind::point:
        return "point " + e.angle.text;
    case EndKind::rounded:
        return e.radius.text.empty() ? "rounded" : "rounded " + typed_as(e.radius, unit, names);
    case EndKind::chamfer: {
        std::string s = "chamfer " + e.angle.text;
        if (!e.diameter.text.empty())
            s += " " + (e.diameter.unit == unit ? e.diameter.text
                                                : length_text(resolve_length(e.diameter, names), unit));
        return s;
    }
    }
    return {};
}

bool not_on_a_rack(Field f) {
    return f == Field::keyway || f == Field::web || f == Field::near_end || f == Field::far_end ||
           f == Field::outline;
}

ThreadForm& thread_of(Zone& z) {
    if (!z.thread) throw InputError("This zone is plain; write a thread in the designation line first.");
    return *z.thread;
}

// Several lengths in one field, as a keyway's width x depth.
std::string words_as(const Number& n, char between, LengthUnit unit, const Names& names) {
    if (n.unit == unit || n.text == "standard") return n.text;
    std::string out, word;
    std::istringstream words(n.text);
    while (std::getline(words, word, between)) {
        word = trimmed(word);
        if (word.empty()) continue;
        if (!out.empty()) out += between == ' ' ? " " : std::string(" ") + between + " ";
        out += typed_as({word, n.unit}, unit, names);
    }
    return out;
}

std::string exact_number(Length l, LengthUnit unit) {
    return number_text(in_unit(l, unit), 9);
}

} // namespace

namespace {

Job changed(const Job& before, const Edit& e) {
    Job job = before;
    Piece& piece = job.pieces.at(e.piece);
    const std::string text = trimmed(e.text);
    if (e.field == Field::piece_name) {
        if (text.empty() || text.size() > 80) throw InputError("A piece's name has 1 to 80 characters.");
        piece.name = text;
        return job;
    }
    if (e.field == Field::piece_finish) {
        for (const auto& f : finishes())
            if (lowered(text) == f.name) {
                piece.finish = f.name;
                return job;
            }
        std::string known;
        for (const auto& f : finishes())
            known += (known.empty() ? "" : ", ") + std::string(f.name);
        throw InputError("There is no finish '" + text + "'; there are " + known + ".", 0, text.size());
    }
    Zone& z = piece.zones.at(e.zone);
    const Number number = text.empty() ? Number{} : Number{text, e.unit};
    if (e.field == Field::module || e.field == Field::pressure_angle || e.field == Field::helix_angle)
        for (Pair& pair : job.pairs)
            if (pair.second == ZoneRef{e.piece, e.zone}) pair.follows = false;
    if (e.field == Field::centre_distance) {
        const auto pair = gear_pair_of(job, {e.piece, e.zone}, e.pair);
        if (!pair) throw InputError("This zone is in no pair of gears.");
        if (const double l = text.empty() ? 1 : in_mm(resolve_length(number, resolve_names(job)));
            !(l > 0 && l < 1e5))
            throw InputError("A centre distance is more than 0 and less than 100000 mm.", 0, text.size());
        job.pairs[*pair].centre = number;
        return checked(std::move(job));
    }
    if (is_tooth_field(e.field)) {
        if (!z.teeth) throw InputError("This zone has no teeth; write a gear in the designation line first.");
        set_tooth_field(*z.teeth, e.field, number);
        if (z.teeth->is_rack() && e.field == Field::teeth) z.length = {}; // the one follows from the other
        return checked(std::move(job));
    }
    if (e.field == Field::diameter || e.field == Field::pitch || e.field == Field::lead ||
        e.field == Field::hand || e.field == Field::starts || e.field == Field::flank_angle ||
        e.field == Field::taper)
        for (Pair& pair : job.pairs)
            if (pair.second == ZoneRef{e.piece, e.zone}) pair.follows = false;
    // evaluated at once, since not every family looks at every number
    const auto a_length = [&] {
        if (!text.empty()) (void)resolve_length(number, resolve_names(job));
        return number;
    };
    const auto an_angle = [&] {
        if (!text.empty()) (void)evaluate_angle(text, resolve_names(job));
        return number;
    };
    if (z.teeth && z.teeth->is_rack() && not_on_a_rack(e.field))
        throw InputError(
            "A rack is a plain bar with teeth along it: it has no outline, chamfers, keyway or web, "
            "and its ends are said by what is left uncut there.",
            0, text.size());
    switch (e.field) {
    case Field::length:
        z.length = a_length();
        if (z.teeth && z.teeth->is_rack()) z.teeth->teeth = {};
        break;
    case Field::diameter:
        if (z.teeth)
            throw InputError(
                "The diameters of teeth follow from module, teeth and profile shift; change those.", 0,
                text.size());
        z.diameter = a_length();
        break;
    case Field::keyway:
    case Field::web: {
        const std::string w = lowered(text);
        (e.field == Field::web ? z.web : z.keyway) = w == "none"       ? Number{}
                                                     : w == "standard" ? Number{"standard", {}}
                                                                       : number;
        break;
    }
    case Field::pitch:
        thread_of(z).pitch = number;
        break;
    case Field::lead: {
        const Length lead = resolve_length(number, resolve_names(job));
        thread_of(z).pitch = {exact_number(lead / thread_of(z).starts, e.unit), e.unit};
        break;
    }
    case Field::tolerance_class:
        thread_of(z).tolerance_class = text;
        break;
    case Field::hand: {
        const std::string w = lowered(text);
        Hand& hand = z.teeth ? z.teeth->hand : thread_of(z).hand;
        const bool left = w == "left" || w == "lh" || w == "l";
        if (!left && w != "right" && w != "rh" && w != "r")
            throw InputError("The hand is right or left.", 0, text.size());
        // a helix angle below zero turns the hand round again
        hand = left != (z.teeth && turned_round(*z.teeth, resolve_names(job))) ? Hand::left : Hand::right;
        break;
    }
    case Field::starts: {
        const double n = evaluate_number(text, resolve_names(job));
        if (n != std::floor(n) || n < 1 || n > 8)
            throw InputError("A thread has 1 to 8 starts, a whole number.", 0, text.size());
        thread_of(z).starts = static_cast<int>(n);
        break;
    }
    case Field::modelled_at: {
        const std::string w = lowered(text);
        bool found = false;
        std::string percent = w;
        if (!percent.empty() && percent.back() == '%')
            percent = trimmed(percent.substr(0, percent.size() - 1));
        if (!percent.empty() && (std::isdigit(static_cast<unsigned char>(percent[0])) || percent[0] == '.')) {
            thread_of(z).modelled_at = ModelledAt::chosen;
            thread_of(z).material = {percent, LengthUnit::millimetre};
            found = true;
        }
        for (const auto at : {ModelledAt::basic, ModelledAt::maximum_material, ModelledAt::middle,
                              ModelledAt::minimum_material})
            if (!w.empty() && std::string(word(at)).starts_with(w)) {
                thread_of(z).modelled_at = at;
                found = true;
                break;
            }
        if (!found)
            throw InputError("The modelled size is basic, maximum material, middle of limits, minimum "
                             "material, or a percentage "
                             "between minimum (0) and maximum material (100), such as 40 %.",
                             0, text.size());
        break;
    }
    case Field::near_end:
        z.near_end = parse_end(text, e.unit);
        break;
    case Field::far_end:
        z.far_end = parse_end(text, e.unit);
        break;
    case Field::depth:
        thread_of(z).depth = a_length();
        break;
    case Field::root_flat:
        thread_of(z).root_flat = a_length();
        break;
    case Field::flank_angle:
        thread_of(z).flank_angle = an_angle();
        break;
    case Field::taper:
        thread_of(z).taper = lowered(trimmed(text)) == "none" ? Number{} : number;
        break;
    case Field::allowance:
        thread_of(z).allowance = a_length();
        break;
    case Field::root_shape: {
        const std::string w = lowered(text);
        if (w != "flat" && w != "rounded") throw InputError("A root is flat or rounded.", 0, text.size());
        thread_of(z).rounded_root = w == "rounded";
        break;
    }
    case Field::far_diameter:
        if (z.thread || z.teeth)
            throw InputError("Only a plain zone has a far diameter; a thread has a taper instead.", 0,
                             text.size());
        z.far_diameter = a_length();
        break;
    case Field::start_angle:
        thread_of(z).start_angle = an_angle();
        break;
    case Field::turns: {
        const Names names = resolve_names(job);
        const double turns = evaluate_number(text, names);
        const Length lead = resolve_length(thread_of(z).pitch, names) * thread_of(z).starts;
        if (!(turns > 0 && turns < 1e5))
            throw InputError("The number of turns must be more than zero.", 0, text.size());
        z.length = {exact_number(lead * turns, e.unit), e.unit};
        break;
    }
    case Field::geometry: {
        const std::string w = lowered(text);
        if (w != "real" && w != "simplified")
            throw InputError("The geometry of a thread is real or simplified.", 0, text.size());
        thread_of(z).simplified = w == "simplified";
        break;
    }
    case Field::outline: {
        const std::string w = lowered(text);
        if (w == "round")
            z.outline = Outline::round;
        else if (w == "hex" || w == "hexagon")
            z.outline = Outline::hexagon;
        else if (w == "square")
            z.outline = Outline::square;
        else
            throw InputError("An outline is round, hex or square.", 0, text.size());
        break;
    }
    default:
        break;
    }
    return checked(std::move(job));
}

// Pieces that go by a zone's designation go on doing so, those that follow an edit too.
Job renamed(const Job& before, Job after) {
    for (std::size_t p = 0; p < before.pieces.size(); ++p) {
        const Piece& old = before.pieces[p];
        Piece& now = after.pieces[p];
        if (now == old || now.name != old.name) continue;
        for (std::size_t z = 0; z < old.zones.size(); ++z)
            if (old.name == zone_designation(old.zones[z], before).substr(0, 80)) {
                now.name = zone_designation(now.zones.at(z), after).substr(0, 80);
                break;
            }
    }
    return after;
}

} // namespace

Job apply(const Job& before, const Edit& e) {
    return renamed(before, changed(before, e));
}

std::string field_text(const Job& job, std::size_t piece, std::size_t zone, Field field, LengthUnit unit,
                       std::optional<std::size_t> asked) {
    const Piece& p = job.pieces.at(piece);
    if (field == Field::piece_name) return p.name;
    if (field == Field::piece_finish) return p.finish;
    const Zone& z = p.zones.at(zone);
    const Names names = resolve_names(job);
    if (z.teeth && z.teeth->is_rack() && not_on_a_rack(field)) return {};
    if (field == Field::centre_distance) {
        const auto pair = gear_pair_of(job, {piece, zone}, asked);
        return pair ? typed_as(job.pairs[*pair].centre, unit, names) : std::string();
    }
    if (z.teeth && is_tooth_field(field)) return tooth_field_text(*z.teeth, field, unit, names);
    if (z.teeth && field == Field::hand)
        return word((z.teeth->hand == Hand::left) != turned_round(*z.teeth, names) ? Hand::left
                                                                                   : Hand::right);
    switch (field) {
    case Field::length:
        return typed_as(z.length, unit, names);
    case Field::diameter:
        return z.teeth ? std::string() : typed_as(z.diameter, unit, names);
    case Field::near_end:
        return end_text(z.near_end, unit, names);
    case Field::far_end:
        return end_text(z.far_end, unit, names);
    case Field::web:
        return z.web.text.empty() ? "none" : words_as(z.web, ' ', unit, names);
    case Field::keyway:
        return z.keyway.text.empty() ? "none" : words_as(z.keyway, 'x', unit, names);
    case Field::far_diameter:
        return z.thread || z.teeth ? std::string() : typed_as(z.far_diameter, unit, names);
    case Field::outline:
        return z.outline == Outline::hexagon ? "hex" : z.outline == Outline::square ? "square" : "round";
    default:
        break;
    }
    if (!z.thread) return {};
    const ThreadForm& t = *z.thread;
    switch (field) {
    case Field::pitch:
        return typed_as(t.pitch, unit, names);
    case Field::lead:
        return length_text(resolve_length(t.pitch, names) * t.starts, unit);
    case Field::tolerance_class:
        return t.tolerance_class;
    case Field::hand:
        return word(t.hand);
    case Field::starts:
        return std::to_string(t.starts);
    case Field::modelled_at:
        return t.modelled_at == ModelledAt::chosen ? t.material.text + " %" : word(t.modelled_at);
    case Field::start_angle:
        return t.start_angle.text;
    case Field::turns: {
        if (z.length.text.empty()) return {};
        const Length lead = resolve_length(t.pitch, names) * t.starts;
        return number_text(in_mm(resolve_length(z.length, names)) / in_mm(lead), 4);
    }
    case Field::geometry:
        return t.simplified ? "simplified" : "real";
    case Field::depth:
        return typed_as(t.depth, unit, names);
    case Field::root_flat:
        return typed_as(t.root_flat, unit, names);
    case Field::flank_angle:
        return t.flank_angle.text;
    case Field::taper:
        return t.taper.text;
    case Field::allowance:
        return typed_as(t.allowance, unit, names);
    case Field::root_shape:
        return t.rounded_root ? "rounded" : "flat";
    default:
        return {};
    }
}

Zone zone_of(const Designation& d) {
    Zone z;
    if (const auto* t = std::get_if<ThreadSpec>(&d.what)) {
        ThreadForm f;
        f.family = t->family;
        // a Unified pitch stays the fraction the designation says
        const bool per_inch = is_inch(t->family) || t->family == ThreadFamily::pipe_g ||
                              t->family == ThreadFamily::pipe_r || t->family == ThreadFamily::knuckle ||
                              (t->family == ThreadFamily::sharp_v && d.unit == LengthUnit::inch);
        f.pitch = per_inch ? Number{"1/" + number_text(threads_per_inch(t->pitch), 6), LengthUnit::inch}
                           : Number{exact_number(t->pitch, d.unit), d.unit};
        f.tolerance_class = t->tolerance_class;
        f.hand = t->hand;
        f.starts = t->starts;
        f.modelled_at = t->modelled_at;
        f.own_section = t->own_section;
        f.rounded_root = t->rounded_root;
        if (t->taper) f.taper = {taper_text(*t->taper), {}};
        if (t->flank_angle) f.flank_angle = {number_text(in_deg(*t->flank_angle), 6), {}};
        if (t->side == Side::internal) z.where = Where::near_bore;
        z.thread = f;
        z.diameter = {exact_number(t->diameter, d.unit), d.unit};
        z.near_end.kind = z.far_end.kind = EndKind::chamfer;
        z.length = {length_text(d.length.value_or(t->diameter * 3), d.unit), d.unit};
    } else if (const auto* g = std::get_if<GearSpec>(&d.what)) {
        z.teeth = tooth_form(*g, d.unit);
        if (g->internal) z.where = Where::near_bore;
        z.diameter = {exact_number(mm(2 * resolve_gear(*g).pitch_radius), d.unit), d.unit};
        z.length = {length_text(d.length.value_or(g->module * 10), d.unit), d.unit};
    } else if (const auto* bar = std::get_if<RackSpec>(&d.what)) {
        z = rack_zone(*bar, d.unit);
    } else {
        const Length diameter = std::get<PlainBar>(d.what).diameter;
        z.outline = std::get<PlainBar>(d.what).outline;
        z.diameter = {exact_number(diameter, d.unit), d.unit};
        z.length = {length_text(d.length.value_or(diameter * 3), d.unit), d.unit};
    }
    return z;
}

Job respec_zone(const Job& before, std::size_t piece, std::size_t zone, const Designation& d) {
    Job job = before;
    Zone& old = job.pieces.at(piece).zones.at(zone);
    Zone z = zone_of(d);
    if (z.thread && old.where != Where::outer && z.where == Where::outer)
        throw InputError(
            "This is an external thread; the zone is a bore and takes an internal one, such as M10-6H.");
    if (z.thread && old.where == Where::outer && z.where != Where::outer)
        throw InputError(
            "This is an internal thread; the zone is an outer one. Make it a bore: insert a bore zone "
            "and write the thread there.");
    if (z.teeth && (z.where == Where::outer) != (old.where == Where::outer))
        throw InputError(
            old.where == Where::outer
                ? "An internal gear has its teeth in a bore: select a bore zone, or start a new piece with "
                  "Shift+Enter."
                : "A bore takes an internal gear: write internal gear and its numbers.");
    z.where = old.where;
    if (d.body.any())
        throw InputError(
            "A gear with its bore or web is a whole piece: start it as a new piece with Shift+Enter, or "
            "leave these words out.");
    const bool rack = z.teeth && z.teeth->is_rack();
    if (rack && job.pieces[piece].zones.size() > 1)
        throw InputError("A rack is a piece of its own; start it as a new piece with Shift+Enter.");
    if (!d.length && !rack && !(old.teeth && old.teeth->is_rack())) z.length = old.length;
    if (!z.thread && z.where == Where::outer && z.outline == Outline::round) z.web = old.web;
    if (z.teeth) {
        z.near_end = z.far_end = {};
    } else if (z.thread.has_value() == old.thread.has_value()) { // same kind: keep how it ends
        z.near_end = old.near_end;
        z.far_end = old.far_end;
    } else if (z.thread) { // newly threaded: chamfer only where the piece ends
        if (zone > 0) z.near_end = {};
        if (zone + 1 < job.pieces[piece].zones.size()) z.far_end = {};
    }
    if (!z.thread && !z.teeth && z.where != Where::outer && z.outline == Outline::round)
        z.keyway = old.keyway;
    if (z.thread && old.thread) {
        z.thread->modelled_at = old.thread->modelled_at;
        z.thread->material = old.thread->material;
        z.thread->start_angle = old.thread->start_angle;
        z.thread->simplified = old.thread->simplified;
        z.thread->allowance = old.thread->allowance;
        // only a Unified designation says how the root is
        if (z.thread->family == ThreadFamily::iso_metric) z.thread->rounded_root = old.thread->rounded_root;
    }
    old = z;
    for (Pair& pair : job.pairs)
        if (pair.second == ZoneRef{piece, zone}) pair.follows = false;
    return renamed(before, checked(std::move(job)));
}

Job set_own_section(const Job& before, std::size_t piece, std::size_t zone, const OwnSection& section) {
    Job job = before;
    ThreadForm& t = thread_of(job.pieces.at(piece).zones.at(zone));
    require_usable(section);
    if (t.family != ThreadFamily::own) {
        t.family = ThreadFamily::own;
        t.tolerance_class.clear();
        t.modelled_at = ModelledAt::basic;
        t.depth = t.root_flat = t.flank_angle = {};
        t.rounded_root = false;
    }
    if (t.own_section.name != section.name) {
        for (Pair& pair : job.pairs)
            if (pair.second == ZoneRef{piece, zone}) pair.follows = false;
    } else {
        for (Piece& p : job.pieces)
            for (Zone& z : p.zones)
                if (z.thread && z.thread->family == ThreadFamily::own &&
                    z.thread->own_section.name == section.name)
                    z.thread->own_section = section;
    }
    t.own_section = section;
    return checked(std::move(job));
}

Job set_value(const Job& before, const std::string& name, const Number& number) {
    Job job = before;
    const auto it =
        std::find_if(job.values.begin(), job.values.end(), [&](const auto& v) { return v.name == name; });
    if (it != job.values.end())
        it->number = number;
    else if (job.values.size() >= most_values)
        throw InputError("A job holds at most 200 named values.");
    else
        job.values.push_back({name, number});
    return checked(std::move(job));
}

Job remove_value(const Job& before, const std::string& name) {
    Job job = before;
    std::erase_if(job.values, [&](const auto& v) { return v.name == name; });
    try {
        return checked(std::move(job));
    } catch (const InputError&) {
        throw InputError("'" + name + "' is still used by other values or zones; change those first.");
    }
}

std::string zone_designation(const Zone& z, const Job& job) {
    const Names names = resolve_names(job);
    const Length d = resolve_length(z.diameter, names);
    std::optional<Length> l; // none: through
    if (!z.length.text.empty()) l = resolve_length(z.length, names);
    if (z.teeth && z.teeth->is_rack()) return write_rack(rack_spec(z, {}, names));
    if (z.teeth) return write_gear(gear_spec(*z.teeth, z.where != Where::outer, {}, names), l);
    if (!z.thread) return write_designation(PlainBar{d, z.outline}, l, job.unit);
    ThreadSpec s;
    s.family = z.thread->family;
    s.diameter = d;
    s.pitch = resolve_length(z.thread->pitch, names);
    s.tolerance_class = z.thread->tolerance_class;
    s.hand = z.thread->hand;
    s.starts = z.thread->starts;
    s.side = z.where == Where::outer ? Side::external : Side::internal;
    s.own_section = z.thread->own_section;
    if (!z.thread->flank_angle.text.empty())
        s.flank_angle = evaluate_angle(z.thread->flank_angle.text, names);
    if (const double lost = resolve_taper(z.thread->taper, d, l.value_or(d), names); lost != 0)
        s.taper = lost / 2;
    return write_designation(s, l);
}

} // namespace whorl
