// The one piece that a command is asked for, from its line and the fields set on it.
#include "cli/commands.hpp"

#include "model/edit.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"

#include <algorithm>
#include <charconv>

namespace whorl {

Job job_of(const std::string& text) {
    Job job;
    const auto known = known_in(text);
    const Piece piece = piece_of(text, known);
    const bool inches = is_starter(text) && std::ranges::any_of(piece.zones, [](const Zone& z) {
                            const auto* thread = z.as<ThreadForm>();
                            return thread && is_inch(thread->family);
                        });
    job.unit = inches             ? LengthUnit::inch
               : is_starter(text) ? LengthUnit::millimetre
                                  : parse_designation(text, known).unit;
    return add_piece(job, piece);
}

// The zone that says what a piece is: its first one that is not plain, else its first.
std::size_t telling_zone(const Piece& piece) {
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        if (!piece.zones[i].as<PlainForm>()) return i;
    return 0;
}

// A field of that zone, or the piece's finish, as `key=value`.
Job with_field(const Job& job, const std::string& assignment) {
    const auto equals = assignment.find('=');
    const std::size_t zone = telling_zone(job.pieces[0]);
    const Zone& z = job.pieces[0].zones[zone];
    std::string known;
    for (const Row& row : rows_of(z)) {
        if (row.applies && !row.applies(z)) continue;
        if (equals != std::string::npos && assignment.substr(0, equals) == row.field.key)
            return apply(job, {0, zone, row.field, assignment.substr(equals + 1), job.unit});
        known += (known.empty() ? "" : ", ") + std::string(row.field.key);
    }
    if (equals != std::string::npos && assignment.substr(0, equals) == field::piece_finish.key)
        return apply(job, {0, zone, field::piece_finish, assignment.substr(equals + 1), job.unit});
    known += ", " + std::string(field::piece_finish.key);
    if (equals != std::string::npos)
        for (const Field& f : all_fields())
            if (assignment.substr(0, equals) == f.key)
                throw InputError(std::string(no_such_field(z, f, 0).what()) + " The fields here are " +
                                 known + ".");
    throw InputError("--set takes a field and its value, such as length=30, not " +
                     in_quotes(assignment, 40) + "; the fields here are " + known + ".");
}

namespace {

std::optional<std::size_t> whole(const std::string& text) {
    std::size_t v = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), v);
    if (text.empty() || error != std::errc() || end != text.data() + text.size()) return {};
    return v;
}

} // namespace

std::optional<std::size_t> piece_called(const Job& job, const std::string& text) {
    const auto named = [&](const Piece& p) { return p.name == text; };
    const auto count = std::count_if(job.pieces.begin(), job.pieces.end(), named);
    if (count > 1)
        throw InputError("There are " + std::to_string(count) + " pieces '" + text +
                         "'; name it by its number, as this command lists them.");
    if (count == 1)
        return std::size_t(std::find_if(job.pieces.begin(), job.pieces.end(), named) - job.pieces.begin());
    if (const auto n = whole(text); n && *n >= 1 && *n <= job.pieces.size()) return *n - 1;
    return {};
}

} // namespace whorl
