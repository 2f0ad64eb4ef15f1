// Sections of one's own.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"

#include <algorithm>

namespace whorl {
namespace {

FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
    if (s.own_section.points.empty())
        throw InputError("No section named '" + s.own_section.name +
                         "' is in this job or in your library. Import one, or draw it in the section view.");
    require_usable(s.own_section);
    if (s.depth || s.root_flat)
        throw InputError(
            "A section of your own has its depth and root in its outline; move its points instead.");
    const OwnShape shape = shape_of(s.own_section);
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    FamilyProfile out;
    out.standard = "section " + s.own_section.name;
    out.basic_major = d;
    out.basic_pitch = d + 2 * shape.pitch_line * p;
    out.basic_minor = d - 2 * shape.depth * p;
    out.basic_root = s.side == Side::external ? out.basic_minor : d;
    out.basic_source = "section " + s.own_section.name + " at this pitch";
    out.lower_angle = shape.lower_angle;
    out.upper_angle = shape.upper_angle;
    return out;
}

std::size_t claims(std::string_view text) {
    Reader r(text);
    return r.take_word_ignoring_case("section") ? r.at() : 0;
}

// section rope 20x4: a section of one's own, diameter and pitch in millimetres.
Designation read(Reader& r, std::string_view, std::span<const OwnSection> known) {
    ThreadSpec t;
    t.family = ThreadFamily::own;
    t.tolerance_class = "";
    r.skip_blanks();
    const std::size_t name_at = r.at();
    std::string name = r.take_alnum();
    while (r.peek() == '-' || r.peek() == '_') {
        name += r.peek();
        r.move_to(r.at() + 1);
        name += r.take_alnum();
    }
    std::string names;
    for (const OwnSection& s : known) {
        names += (names.empty() ? "" : ", ") + s.name;
        if (s.name == name) t.own_section = s;
    }
    if (t.own_section.points.empty()) {
        const std::string there = names.empty()
                                      ? "There is none in this job or in your library yet; import one, "
                                        "or draw it in the section view."
                                      : "There are: " + names + ".";
        throw InputError(name.empty()
                             ? "The name of a section is expected here, as in section rope 20x4. " + there
                             : "There is no section named '" + name + "'. " + there,
                         name_at, std::max<std::size_t>(1, name.size()));
    }
    r.skip_blanks();
    const std::size_t start = r.at();
    const auto d = r.take_decimal();
    if (!d) r.refuse("A diameter is expected after the name, as in section " + name + " 20x4.");
    require_positive(r, start, *d, "diameter");
    t.diameter = mm(*d);
    if (r.peek() == ' ' || !r.take_times())
        r.refuse("The pitch is expected after an x, as in section " + name + " 20x4.");
    const std::size_t pitch_start = r.at();
    const auto pitch = r.take_decimal();
    if (!pitch) r.refuse("The pitch is expected after the x, as in section " + name + " 20x4.");
    require_positive(r, pitch_start, *pitch, "pitch");
    t.pitch = mm(*pitch);
    return with_tail(r, t);
}

std::string write(const ThreadSpec& t) {
    return "section " + t.own_section.name + " " + number_text(in_mm(t.diameter), 6) + "x" +
           number_text(in_mm(t.pitch), 6);
}

std::vector<Usual> usual(std::span<const OwnSection> known) {
    std::vector<Usual> out;
    for (const OwnSection& s : known)
        out.push_back({"section {" + s.name + "} {20}x{4}", "from this job or your library"});
    return out;
}

} // namespace

const FamilyPage own_page{
    .word = "own section",
    .key = "own",
    .card = {"Section of your own", "A groove you drew or imported (Piece menu), wound round a bar."},
    .classless = true,
    .claims = claims,
    .read = read,
    .write = write,
    .usual = usual,
    .profile = profile,
};

} // namespace whorl
