// Fields are rows: each form has one list of them, in the order in which a sheet shows them, and everything
// that asks, says, keeps or changes a field reads that list: edits, the file, the spec sheet, the command
// line's --set, the random walks of the tests.
//
// A row works on a whole zone, since some fields reach beyond their form (turns set the zone's length, a
// rack's length hands its teeth back).
#pragma once

#include "model/field.hpp"
#include "model/resolve.hpp"

#include <nlohmann/json_fwd.hpp>
#include <span>

namespace whorl {

enum class RowKind { length, angle, number, count, choice, text };

// What was typed: blanks taken off both ends.
struct Typed {
    std::string text;
    LengthUnit unit; // of plain numbers in it
    const Names& names;

    Number number() const { return text.empty() ? Number{} : Number{text, unit}; }
    std::string lowered() const;
    // The words typed for a choice; throws InputError with `sentence` for others.
    [[noreturn]] void refuse(const std::string& sentence) const;
};

// In which unit a text is given back.
struct Reading {
    LengthUnit unit;
    const Names& names;
};

// How a value stands in a sheet. `unit` is what is written behind it, or empty.
struct Shown {
    std::string text;
    std::string unit = {};
};

using Words = std::vector<std::string>;

// Where a number is kept as it was typed.
struct NumberPlace {
    Number& (*in)(Zone&) = nullptr;
    const Number& (*of)(const Zone&) = nullptr;
};

// A word of a choice, what may be typed instead of it, with "|" between, and how a file has it where that differs.
struct ChoiceWord {
    const char* text;
    const char* also = "";
    const char* in_file = nullptr;
    const char* saved() const { return in_file ? in_file : text; }
};
// Where one of a few words is kept, by its place among them.
struct ChoicePlace {
    std::span<const ChoiceWord> words = {};
    std::size_t (*of)(const Zone&) = nullptr;
    void (*put)(Zone&, std::size_t) = nullptr;
};

// How a row stands in a job file: under this key of the zone, or of its form's object.
struct InFile {
    const char* key = nullptr; // none: the row is kept by another one, or follows from others
    enum { in_form, in_zone } where = in_form;
    bool always = false; // written even when empty, of a choice when it is the first
    bool flag = false;   // of a choice of two: true where it is the second
    // instead of `number` and `choice`, for what is neither
    void (*save)(const Zone&, nlohmann::ordered_json&) = nullptr;
    void (*load)(Zone&, const nlohmann::json&) = nullptr;
};

struct Row {
    Field field;
    const char* label;
    const char* tip;
    const char* of; // what has it, for the sentence that refuses it elsewhere: "a thread"
    RowKind kind;
    NumberPlace number = {};
    ChoicePlace choice = {};
    // As it can be typed back, and what typing does; with a `number` or a `choice` they need not be given.
    std::string (*get)(const Zone&, const Reading&) = nullptr;
    void (*set)(Zone&, const Typed&) = nullptr;
    Shown (*shown)(const Zone&, const ResolvedZone&, const Reading&) = nullptr;
    const char* usual = nullptr;                     // shown while nothing is asked
    Words (*choices)(const ResolvedZone&) = nullptr; // none: those of `choice`, if it has one
    bool (*applies)(const Zone&) = nullptr;          // none: to every zone of its form
    bool order = false; // an order instead of a value: carried out once it is written, not while it is typed
    bool frees_pair = false; // said of the second of a pair, it no longer follows
    // Not among what a sheet asks: it tells nothing now, or is seen among what follows. None: never.
    bool (*hidden)(const ResolvedZone&) = nullptr;
    const char* key = nullptr; // of what the drawings call it; none: the field's own
    InFile kept = {};

    const char* shown_key() const { return key ? key : field.key.data(); }
};

// The rows of what a zone wears, and those of them that mean something as it is now.
std::span<const Row> rows_of(const Zone& zone);
const Row* row_of(const Zone& zone, Field field); // none if the field means nothing to the zone
// Every row there is, form by form.
std::span<const std::span<const Row>> all_rows();
// Every field there is, once.
const std::vector<Field>& all_fields();
// The sentence that refuses a field to a zone: what has it, and what this zone is.
InputError no_such_field(const Zone& zone, Field field, std::size_t length_of_text);

std::string text_of(const Row& row, const Zone& zone, const Reading& as);
void set(const Row& row, Zone& zone, const Typed& typed);
Shown shown_of(const Row& row, const Zone& zone, const ResolvedZone& resolved, const Reading& as);
Words choices_of(const Row& row, const ResolvedZone& resolved);
// The place of what was typed among the words; throws InputError with what there is.
std::size_t choose(const Typed& typed, std::span<const ChoiceWord> words);

// --- for the lists of rows ---

// A member of a form that is a number.
template<auto Member>
struct MemberOf;
template<class F, Number F::*Member>
struct MemberOf<Member> {
    static Number& in(Zone& z) { return std::get<F>(z.form).*Member; }
    static const Number& of(const Zone& z) { return std::get<F>(z.form).*Member; }
};
template<auto Member>
constexpr NumberPlace member{&MemberOf<Member>::in, &MemberOf<Member>::of};

// A member of a form that is an enumeration in the order of the words, or says whether the second of two holds.
template<class F, class T>
F form_of(T F::*);
template<auto Member, const auto& words>
constexpr ChoicePlace choice_of{words,
                                [](const Zone& z) {
                                    return static_cast<std::size_t>(
                                        std::get<decltype(form_of(Member))>(z.form).*Member);
                                },
                                [](Zone& z, std::size_t at) {
                                    auto& kept = std::get<decltype(form_of(Member))>(z.form).*Member;
                                    kept = static_cast<std::remove_reference_t<decltype(kept)>>(at);
                                }};

std::string shown_length(double millimetres, LengthUnit unit); // 3 places, in inch 4
Shown length_shown(double millimetres, LengthUnit unit);       // with its unit

} // namespace whorl
