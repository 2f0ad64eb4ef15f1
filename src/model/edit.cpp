#include "model/edit.hpp"

#include "model/forms/common_rows.hpp"
#include "model/forms/forms.hpp"
#include "model/free_place.hpp"
#include "model/pair_edit.hpp"
#include "model/pair_model.hpp"
#include "model/starter.hpp"
#include "quantity/trimmed.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <sstream>

namespace whorl {
namespace {

// Of the pair of gears that a zone is in.
void set_centre(Job& job, const Edit& e, const Typed& typed) {
    const auto pair = gear_pair_of(job, {e.piece, e.zone}, e.pair);
    if (!pair) throw InputError("This zone is in no pair of gears.");
    if (const double l = typed.text.empty() ? 1 : in_mm(resolve_length(typed.number(), typed.names));
        !(l > 0 && l < 1e5))
        typed.refuse("A centre distance is more than 0 and less than 100000 mm.");
    job.pairs[*pair].centre = typed.number();
}

// Said of the second of a pair, it goes its own way from now on.
void free_pairs(Job& job, ZoneRef second) {
    for (Pair& pair : job.pairs)
        if (pair.second == second) pair.follows = false;
}

// "3", "3 times gap 5", "1-2 3 times gap 5".
Repeat repeat_asked(const Typed& typed, std::size_t zone) {
    Repeat out{zone, zone, 0, {}};
    std::istringstream words(typed.lowered());
    std::string word;
    const auto refuse = [&] {
        typed.refuse("Write how many times in all, and the gap if there is one: 3, or 3 gap 5; for several "
                     "zones their numbers first: 1-2 3 gap 5.");
    };
    const auto number = [&](const std::string& s) {
        if (s.empty() || s.size() > 3 || s.find_first_not_of("0123456789") != s.npos) refuse();
        return std::stoi(s);
    };
    while (words >> word) {
        if (word == "times" || word == "x" || word == "zones" || word == "zone") continue;
        if (word == "gap") {
            std::string rest;
            std::getline(words, rest);
            out.gap = {std::string(trimmed(rest)), typed.unit};
            if (out.gap.text.empty()) refuse();
            (void)resolve_length(out.gap, typed.names);
        } else if (const std::size_t dash = word.find('-'); dash != word.npos) {
            const int first = number(word.substr(0, dash)), last = number(word.substr(dash + 1));
            if (first < 1 || last < first) refuse();
            out.first = static_cast<std::size_t>(first) - 1;
            out.last = static_cast<std::size_t>(last) - 1;
        } else {
            if (out.times) refuse();
            out.times = number(word);
        }
    }
    if (!out.times) refuse();
    return out;
}

Job changed(const Job& before, const Edit& e) {
    Job job = before;
    Piece& piece = job.pieces.at(e.piece);
    const Names names = resolve_names(job);
    const Typed typed{std::string(trimmed(e.text)), e.unit, names};
    if (e.field == field::piece_name) {
        if (typed.text.empty() || typed.text.size() > 80)
            throw InputError("A piece's name has 1 to 80 characters.");
        piece.name = typed.text;
        return job;
    }
    if (e.field == field::piece_finish) {
        piece.finish = finish_asked(typed, finish_of(piece).name);
        return job;
    }
    if (e.field == field::centre_distance) {
        set_centre(job, e, typed);
        return checked(std::move(job), before);
    }
    if (e.field == field::repeat) {
        const Zone& asked = piece.zones.at(e.zone);
        if (!row_of(asked, e.field)) throw no_such_field(asked, e.field, typed.text.size());
        return repeat_zones(before, e.piece, repeat_asked(typed, e.zone));
    }
    Zone& z = piece.zones.at(e.zone);
    const Row* row = row_of(z, e.field);
    if (!row) throw no_such_field(z, e.field, typed.text.size());
    // a bore that goes through has the length of what it goes through, for as long as its turns are typed
    const bool through = e.field == field::turns && z.in_bore() && z.length.text.empty();
    if (through) {
        const Length length = resolve_piece(before.pieces[e.piece], names).zones.at(e.zone).length;
        z.length = {exact_number(length, LengthUnit::millimetre), LengthUnit::millimetre};
    }
    const Number whole = z.length;
    set(*row, z, typed);
    if (through && z.length == whole) z.length = {};
    if (e.field != field::follows) z.follows = {}; // it goes its own way from now on
    if (row->frees_pair) free_pairs(job, {e.piece, e.zone});
    return checked(std::move(job), before);
}

// Along the centreline, mm; none where it can't be told.
std::optional<double> length_of(const Piece& piece, const Names& names) {
    try {
        return in_mm(resolve_piece(piece, names).length());
    } catch (const InputError&) {
        return {};
    }
}

// A piece that goes by the line it was started from, such as `ISO 4762 M10 x 25`, whose length has changed: that line
// with the length it has now. None where the name is one's own, or no such line makes a piece of this length.
std::optional<std::string> line_with_length(const Piece& old, const Piece& now, const Names& names) {
    const std::size_t at = old.name.rfind(" x ");
    if (at == std::string::npos || !is_starter(old.name)) return {};
    const auto was = length_of(old, names), is = length_of(now, names);
    if (!was || !is || std::abs(*was - *is) < 1e-9) return {};
    try {
        const std::string head = old.name.substr(0, at + 3), said = old.name.substr(at + 3);
        const auto made = length_of(piece_of(old.name), {});
        if (!made || std::abs(*made - *was) > 1e-6) return {};
        for (const LengthUnit unit : {LengthUnit::millimetre, LengthUnit::inch}) {
            const Length length = evaluate_length(said, unit) + mm(*is - *was);
            std::string line = head + length_text(length, unit);
            if (const auto makes = length_of(piece_of(line), {}); makes && std::abs(*makes - *is) < 1e-3)
                return line;
        }
    } catch (const InputError&) {
        // a name that only looks like a line
    }
    return {};
}

// Pieces that go by a zone's designation, or by the line they were started from, go on doing so, those that follow an
// edit too.
// What a new piece of this form is called, where that isn't its designation.
std::optional<std::string> called(const Zone& zone, const Job& job) {
    return with_model(zone, [&]<class Model>(Model) -> std::optional<std::string> {
        if constexpr (requires { Model::called(zone, resolve_names(job)); })
            return Model::called(zone, resolve_names(job));
        else
            return {};
    });
}

Job renamed(const Job& before, Job after) {
    for (std::size_t p = 0; p < before.pieces.size(); ++p) {
        const Piece& old = before.pieces[p];
        Piece& now = after.pieces[p];
        if (now == old || now.name != old.name) continue;
        for (std::size_t z = 0; z < old.zones.size(); ++z)
            if (const auto name = called(old.zones[z], before); name && old.name == *name) {
                now.name = called(now.zones.at(z), after).value_or(old.name);
                break;
            } else if (old.name == zone_designation(old.zones[z], before).substr(0, 80)) {
                now.name = zone_designation(now.zones.at(z), after).substr(0, 80);
                break;
            }
        if (now.name == old.name && now.zones != old.zones)
            if (const auto line = line_with_length(old, now, resolve_names(after))) now.name = *line;
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
    if (field == field::piece_name) return p.name;
    if (field == field::piece_finish) return p.finish;
    const Zone& z = p.zones.at(zone);
    const Names names = resolve_names(job);
    if (field == field::centre_distance) {
        const auto pair = gear_pair_of(job, {piece, zone}, asked);
        return pair ? typed_as(job.pairs[*pair].centre, unit, names) : std::string();
    }
    const Row* row = row_of(z, field);
    return row ? text_of(*row, z, {unit, names}) : std::string();
}

Zone zone_of(const Designation& d) {
    return std::visit([&](const auto& what) { return zone_asked(what, d); }, d.what);
}

Job respec_zone(const Job& before, std::size_t piece, std::size_t zone, const Designation& d) {
    Job job = before;
    Zone& old = job.pieces.at(piece).zones.at(zone);
    // what is said of a silhouette's wall makes or changes its hollow
    if (const auto* s = std::get_if<SilhouetteSpec>(&d.what); s && s->wall && !old.in_bore()) {
        if (s->points.empty())
            return renamed(before, checked(with_hollow(before, piece, *s, d.unit), before));
        Designation outside = d;
        std::get<SilhouetteSpec>(outside.what).wall = {};
        return renamed(
            before,
            checked(with_hollow(respec_zone(before, piece, zone, outside), piece, *s, d.unit), before));
    }
    Zone z = zone_of(d);
    if (z.as<SilhouetteForm>() && old.in_bore() != z.in_bore())
        throw InputError(old.in_bore()
                             ? "In a bore write silhouette in and its points, or hollow and its wall."
                             : "A silhouette in a bore needs one: select a bore zone, or start a new piece "
                               "with Shift+Enter.");
    if (z.as<ThreadForm>() && old.in_bore() != z.in_bore())
        throw InputError(
            old.in_bore()
                ? "This is an external thread; the zone is a bore and takes an internal one, such as M10-6H."
                : "This is an internal thread; the zone is an outer one. Make it a bore: insert a bore zone "
                  "and write the thread there.");
    if (z.as<GearForm>() && old.in_bore() != z.in_bore())
        throw InputError(
            old.in_bore()
                ? "A bore takes an internal gear: write internal gear and its numbers."
                : "An internal gear has its teeth in a bore: select a bore zone, or start a new piece with "
                  "Shift+Enter.");
    if (z.as<SplineForm>() && old.in_bore() != z.in_bore())
        throw InputError(old.in_bore()
                             ? "A bore takes a hub: write spline N (DIN 5480) or spline INT (ISO 4156)."
                             : "A hub has its teeth in a bore: select a bore zone, or start a new piece with "
                               "Shift+Enter. A shaft is spline W or spline EXT.");
    if (z.as<GrooveForm>() && old.in_bore() != z.in_bore())
        throw InputError(old.in_bore()
                             ? "This groove is cut into the outside; in a bore write in and its diameter."
                             : "This groove is cut into a bore: select a bore zone, or start a new piece "
                               "with Shift+Enter. Outside, write on and its diameter.");
    if (d.body.any())
        throw InputError("What has its bore or web in its line is a whole piece: start it as a new piece "
                         "with Shift+Enter, or "
                         "leave these words out.");
    const auto alone = [](const Zone& one) {
        return with_model(one, []<class Model>(Model) { return Model::stands == Stands::alone; });
    };
    if (alone(z) && job.pieces[piece].zones.size() > 1)
        throw InputError("This is a piece of its own; start it as a new piece with Shift+Enter.");
    if (!d.length && !alone(z) && !alone(old)) z.length = old.length;
    z.where = old.where;
    if (z.form.index() != old.form.index()) { // newly of this form: treated ends only where the piece ends
        if (zone > 0) z.near_end = {};
        if (zone + 1 < job.pieces[piece].zones.size()) z.far_end = {};
    }
    with_model(z, [&]<class Model>(Model) { Model::keep(z, old); });
    old = std::move(z);
    free_pairs(job, {piece, zone});
    return renamed(before, checked(std::move(job), before));
}

Job place_pair(const Job& before, std::size_t pair, const Number& stands) {
    Job job = before;
    job.pairs.at(pair).stands = stands;
    (void)stands_of(job, job.pairs[pair], resolve_names(job)); // with its position
    return checked(std::move(job), before);
}

Job place_piece(const Job& before, std::size_t piece, const Number& stands) {
    Job job = before;
    job.pieces.at(piece).stands = stands;
    (void)free_place(stands, resolve_names(job));
    return checked(std::move(job), before);
}

Job set_own_section(const Job& before, std::size_t piece, std::size_t zone, const OwnSection& section) {
    Job job = before;
    auto* worn = job.pieces.at(piece).zones.at(zone).as<ThreadForm>();
    if (!worn) throw InputError("This zone is plain; write a thread in the designation line first.");
    ThreadForm& t = *worn;
    require_usable(section);
    if (t.family != ThreadFamily::own) {
        t.family = ThreadFamily::own;
        t.tolerance_class.clear();
        t.modelled_at = ModelledAt::basic;
        t.depth = t.root_flat = t.flank_angle = {};
        t.rounded_root = false;
    }
    if (t.own_section.name != section.name) {
        free_pairs(job, {piece, zone});
    } else {
        for (Piece& p : job.pieces)
            for (Zone& z : p.zones)
                if (auto* f = z.as<ThreadForm>();
                    f && f->family == ThreadFamily::own && f->own_section.name == section.name)
                    f->own_section = section;
    }
    t.own_section = section;
    job.pieces[piece].zones[zone].follows = {};
    return checked(std::move(job), before);
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
    return checked(std::move(job), before);
}

Job remove_value(const Job& before, const std::string& name) {
    Job job = before;
    std::erase_if(job.values, [&](const auto& v) { return v.name == name; });
    try {
        return checked(std::move(job), before);
    } catch (const InputError&) {
        throw InputError("'" + name + "' is still used by other values or zones; change those first.");
    }
}

std::string zone_designation(const Zone& z, const Job& job) {
    return with_model(z, [&]<class Model>(Model) { return Model::designation(z, job, resolve_names(job)); });
}

} // namespace whorl
