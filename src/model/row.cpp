#include "model/row.hpp"

#include "model/forms/forms.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <stdexcept>

namespace whorl {

std::string Typed::lowered() const {
    std::string s = text;
    for (char& c : s)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return s;
}

void Typed::refuse(const std::string& sentence) const {
    throw InputError(sentence, 0, text.size());
}

std::span<const Row> rows_of(const Zone& zone) {
    return with_model(zone, []<class Model>(Model) { return Model::rows(); });
}

const Row* row_of(const Zone& zone, Field field) {
    for (const Row& row : rows_of(zone))
        if (row.field == field && (!row.applies || row.applies(zone))) return &row;
    return nullptr;
}

std::span<const std::span<const Row>> all_rows() {
    static const auto all = [] {
        std::array<std::span<const Row>, count_of<Form>> rows;
        std::size_t i = 0;
        for_each_model([&]<class Model>(Model) { rows[i++] = Model::rows(); });
        return rows;
    }();
    return all;
}

const std::vector<Field>& all_fields() {
    static const auto all = [] {
        std::vector<Field> fields{field::piece_name, field::piece_finish, field::centre_distance};
        for (const auto& rows : all_rows())
            for (const Row& row : rows)
                if (std::find(fields.begin(), fields.end(), row.field) == fields.end())
                    fields.push_back(row.field);
        return fields;
    }();
    return all;
}

InputError no_such_field(const Zone& zone, Field field, std::size_t length_of_text) {
    const std::string what = with_model(zone, [&]<class Model>(Model) { return Model::what(zone); });
    for (const auto& rows : all_rows())
        for (const Row& row : rows)
            if (row.field == field) {
                std::string label = row.label;
                if (label.size() > 1 && std::islower(static_cast<unsigned char>(label[1])))
                    label[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(label[0])));
                std::string sentence = "This zone is ";
                sentence.append(what).append(", which has no ").append(label);
                sentence.append("; that is of ").append(row.of).append(".");
                return InputError(sentence, 0, length_of_text);
            }
    return InputError("There is no field '" + std::string(field.key) + "'.", 0, length_of_text);
}

std::string text_of(const Row& row, const Zone& zone, const Reading& as) {
    if (row.get) return row.get(zone, as);
    if (row.choice.of) return row.choice.words[row.choice.of(zone)].text;
    if (!row.number.of)
        throw std::logic_error(std::string("the row ") + row.shown_key() + " has neither number nor text");
    const Number& n = row.number.of(zone);
    return row.kind == RowKind::length ? typed_as(n, as.unit, as.names) : n.text;
}

void set(const Row& row, Zone& zone, const Typed& typed) {
    if (row.set) return row.set(zone, typed);
    if (row.choice.put) return row.choice.put(zone, choose(typed, row.choice.words));
    // evaluated at once, since not every zone looks at every number
    if (!typed.text.empty()) {
        if (row.kind == RowKind::length)
            (void)resolve_length(typed.number(), typed.names);
        else if (row.kind == RowKind::angle)
            (void)evaluate_angle(typed.text, typed.names);
        else
            (void)evaluate_number(typed.text, typed.names);
    }
    row.number.in(zone) = typed.number();
}

Shown shown_of(const Row& row, const Zone& zone, const ResolvedZone& resolved, const Reading& as) {
    if (row.shown) return row.shown(zone, resolved, as);
    if (!row.number.of) return {text_of(row, zone, as)};
    const Number& n = row.number.of(zone);
    if (n.text.empty()) return {row.usual ? row.usual : "none"};
    if (row.kind == RowKind::text) return {text_of(row, zone, as)};
    switch (row.kind) {
    case RowKind::length:
        return length_shown(in_mm(resolve_length(n, as.names)), as.unit);
    case RowKind::angle:
        return {number_text(in_deg(evaluate_angle(n.text, as.names)), 3) + "°"};
    default:
        return {number_text(evaluate_number(n.text, as.names), 4)};
    }
}

Words choices_of(const Row& row, const ResolvedZone& resolved) {
    if (row.choices) return row.choices(resolved);
    Words all;
    for (const ChoiceWord& w : row.choice.words)
        all.emplace_back(w.text);
    return all;
}

std::size_t choose(const Typed& typed, std::span<const ChoiceWord> words) {
    const std::string typed_word = typed.lowered();
    std::string known;
    for (std::size_t i = 0; i < words.size(); ++i) {
        const std::string all = std::string("|") + words[i].text + "|" + words[i].also + "|";
        if (!typed_word.empty() && all.find("|" + typed_word + "|") != all.npos) return i;
        known += (i == 0 ? "" : i + 1 < words.size() ? ", " : " or ") + std::string(words[i].text);
    }
    typed.refuse("Choose " + known + ".");
}

std::string shown_length(double millimetres, LengthUnit unit) {
    return number_text(in_unit(mm(millimetres), unit), unit == LengthUnit::inch ? 4 : 3);
}

Shown length_shown(double millimetres, LengthUnit unit) {
    return {shown_length(millimetres, unit), symbol(unit)};
}

} // namespace whorl
