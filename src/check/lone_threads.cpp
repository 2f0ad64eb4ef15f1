#include "check/lone_threads.hpp"

#include "quantity/expression.hpp"

#include <charconv>
#include <cmath>

namespace whorl {
namespace {

struct Lone {
    ZoneRef at;
    const ThreadForm* form = nullptr;
    bool internal = false;
    double diameter = 0, pitch = 0; // mm
};

// Without the parser where the text is a plain number, as nearly all are.
double millimetres(const Number& n, const Names& names) {
    double v = 0;
    const char* end = n.text.data() + n.text.size();
    if (const auto [stopped, error] = std::from_chars(n.text.data(), end, v);
        error == std::errc() && stopped == end)
        return n.unit == LengthUnit::inch ? 25.4 * v : v;
    return in_mm(resolve_length(n, names));
}

std::vector<Lone> threads_of(const Job& job, const Names& names) {
    std::vector<Lone> out;
    for (std::size_t p = 0; p < job.pieces.size(); ++p)
        for (std::size_t z = 0; z < job.pieces[p].zones.size(); ++z) {
            const Zone& zone = job.pieces[p].zones[z];
            const ThreadForm* form = zone.as<ThreadForm>();
            if (!form || form->pitch.text.empty()) continue;
            try {
                out.push_back({{p, z},
                               form,
                               zone.in_bore(),
                               millimetres(form->diameter, names),
                               millimetres(form->pitch, names)});
            } catch (const InputError&) {
                // a pitch that is no length, such as a family's count an inch: it is compared with none
            }
        }
    return out;
}

bool in_a_pair(const Job& job, ZoneRef zone) {
    for (const Pair& pair : job.pairs)
        if (pair.first == zone || pair.second == zone) return true;
    return false;
}

bool near(double a, double b) {
    return std::abs(a - b) < 1e-6;
}

bool go_together(const Lone& a, const Lone& b) {
    return a.internal != b.internal && near(a.diameter, b.diameter) && near(a.pitch, b.pitch) &&
           a.form->family == b.form->family && a.form->hand == b.form->hand &&
           a.form->starts == b.form->starts;
}

std::string difference(const Lone& nut, const Lone& screw, const Looking& look) {
    if (nut.form->family != screw.form->family) return "another form of thread";
    if (!near(nut.pitch, screw.pitch))
        return "a pitch of " + look.shown(nut.pitch) + " instead of " + look.shown(screw.pitch);
    if (nut.form->hand != screw.form->hand)
        return nut.form->hand == Hand::left ? "a left-hand thread instead of a right-hand one"
                                            : "a right-hand thread instead of a left-hand one";
    return std::to_string(nut.form->starts) + (nut.form->starts == 1 ? " start" : " starts") +
           " instead of " + std::to_string(screw.form->starts);
}

std::optional<Remedy> as_the_screw(const Lone& nut, const Lone& screw, const std::string& name) {
    if (nut.form->family != screw.form->family) return {};
    Remedy out{"Thread it as '" + name + "'", {}};
    const auto edit = [&](Field field, std::string text, LengthUnit unit) {
        out.edits.push_back({nut.at.piece, nut.at.zone, field, std::move(text), unit, {}});
    };
    if (nut.form->starts != screw.form->starts)
        edit(field::starts, std::to_string(screw.form->starts), LengthUnit::millimetre);
    if (!near(nut.pitch, screw.pitch)) edit(field::pitch, screw.form->pitch.text, screw.form->pitch.unit);
    if (nut.form->hand != screw.form->hand)
        edit(field::hand, screw.form->hand == Hand::left ? "left" : "right", LengthUnit::millimetre);
    return out;
}

} // namespace

void check_lone_threads(std::vector<Finding>& out, const Job& job, std::size_t piece) {
    const bool all = piece >= job.pieces.size();
    if (job.pieces.size() < 2) return;
    if (!all && std::none_of(job.pieces[piece].zones.begin(), job.pieces[piece].zones.end(),
                             [](const Zone& z) { return z.as<ThreadForm>() != nullptr; }))
        return;
    const Names names = resolve_names(job);
    const std::vector<Lone> threads = threads_of(job, names);
    std::vector<Lone> lonely; // in no pair, and none that they fit
    for (const Lone& one : threads)
        if (!in_a_pair(job, one.at) && std::none_of(threads.begin(), threads.end(), [&](const Lone& other) {
                return other.at.piece != one.at.piece && go_together(one, other);
            }))
            lonely.push_back(one);
    for (const Lone& nut : lonely) {
        if (!nut.internal) continue;
        for (const Lone& screw : lonely) {
            if (screw.internal || screw.at.piece == nut.at.piece || !near(screw.diameter, nut.diameter))
                continue;
            if (!all && nut.at.piece != piece && screw.at.piece != piece) continue;
            const ZoneRef at = all || nut.at.piece == piece ? nut.at : screw.at;
            const Looking look{out, at.piece, at.zone, job.unit};
            look.advise(
                "threads_do_not_meet",
                "'" + job.pieces[nut.at.piece].name + "' and '" + job.pieces[screw.at.piece].name +
                    "' have threads of the same diameter, " + look.shown(nut.diameter) +
                    ", but don't go together: the inner one has " + difference(nut, screw, look) +
                    ". If they are meant for each other give it that of the outer one; if not, leave it.",
                nut.pitch, screw.pitch, as_the_screw(nut, screw, job.pieces[screw.at.piece].name));
            break;
        }
    }
}

} // namespace whorl
