#include "form/designation.hpp"

#include "form/kinds.hpp"
#include "form/thread/family.hpp"
#include "form/thread/reading.hpp"

#include <algorithm>

namespace whorl {
namespace {

constexpr std::size_t longest_designation = 200, longest_list = 20000; // of timings and points

// All but the threads, which stand on their families' pages.
const std::vector<DesignationKind>& form_kinds() {
    static const std::vector<DesignationKind> all = [] {
        std::vector<DesignationKind> out{gear_kind(),
                                         internal_gear_kind(),
                                         rack_kind(),
                                         spline_kind(),
                                         spring_kind(),
                                         extension_spring_kind(),
                                         torsion_spring_kind(),
                                         cam_kind(),
                                         drum_kind(),
                                         knurl_kind(),
                                         groove_kind(),
                                         silhouette_kind(),
                                         bend_kind()};
        for (DesignationKind& k : plain_kinds())
            out.push_back(std::move(k));
        return out;
    }();
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
    Reader r(text);
    r.skip_blanks();
    const auto claimed = std::ranges::find_if(
        form_kinds(), [&](const DesignationKind& k) { return k.claims && k.claims(r.rest()); });
    const DesignationKind* kind = claimed == form_kinds().end() ? nullptr : &*claimed;
    const std::size_t longest = kind && kind->list ? longest_list : longest_designation;
    if (text.size() > longest)
        throw InputError("This is longer than " + std::to_string(longest) +
                             " characters and can't be a designation.",
                         longest);
    if (r.done()) throw InputError("Nothing is written. " + designation_examples());
    for (std::size_t i = 0; i < text.size(); ++i)
        if (static_cast<unsigned char>(text[i]) < 32 && text[i] != '\t')
            throw InputError("There is an unprintable character. " + designation_examples(), i, 1);
    const std::size_t start = r.at();
    if (kind) try {
            return kind->read(r.rest());
        } catch (const InputError& e) {
            throw InputError(e.what(), start + e.position, e.extent);
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
