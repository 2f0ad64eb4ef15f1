#include "form/kinds.hpp"
#include "form/thread/reading.hpp"

namespace whorl {
namespace {

using Known = std::span<const OwnSection>;

std::size_t word_at_start(std::string_view text, std::string_view word) {
    Reader r(text);
    return r.take_word_ignoring_case(word) ? word.size() : 0;
}

// `bore 16`, `bore 16 key`: whether it stands here.
bool take_bore(Reader& r, WheelBody& body, LengthUnit unit) {
    const std::size_t from = r.at();
    if (!r.take_word_ignoring_case("bore")) return false;
    if (body.bore) r.refuse_from(from, "The bore is said a second time; write it once.");
    r.skip_blanks();
    body.bore =
        of_unit(r.size("diameter", "The bore's diameter is expected here, for example bore 16."), unit);
    const std::size_t behind = r.at();
    r.skip_blanks();
    body.key = r.take_word_ignoring_case("key");
    if (!body.key) r.move_to(behind);
    return true;
}

// round 12 x 30, hex 17 x 8; the word, then the size.
Designation read_plain(std::string_view text, std::size_t word, Outline outline, const char* expected) {
    Reader r(text);
    r.move_to(word);
    r.skip_blanks();
    const double d = r.size(outline == Outline::round ? "diameter" : "size", expected);
    r.skip_blanks();
    double thickness = 0;
    if (outline == Outline::flat) {
        if (!r.take_times()) throw InputError(expected, r.at(), 1);
        r.skip_blanks();
        thickness = r.size("thickness", expected);
        r.skip_blanks();
    }
    Designation out;
    if (r.take_word_ignoring_case("in") ||
        (!r.take_word_ignoring_case("mm") && text.ends_with(" in"))) // behind it, or last for all of them
        out.unit = LengthUnit::inch;
    const auto length = [&](double value) { return out.unit == LengthUnit::inch ? inch(value) : mm(value); };
    if (outline == Outline::flat && !(thickness < d))
        throw InputError("A flat bar is written width x thickness x length and is thinner than it is wide, "
                         "for example flat 30 x 6 x 90.");
    out.what = PlainBar{length(d), outline, length(thickness)};
    if (outline == Outline::flat) {
        read_tail(r, out);
        return out;
    }
    // the length and the bore, in either order
    const auto bored = [&] {
        r.skip_blanks();
        return take_bore(r, out.body, out.unit);
    };
    const bool first = bored();
    const std::size_t bore_at = r.rest().find(" bore");
    if (!first && bore_at != std::string_view::npos) {
        Reader front(text.substr(0, r.at() + bore_at));
        front.move_to(r.at());
        read_tail(front, out);
        r.move_to(front.at());
        bored();
    }
    read_tail(r, out);
    return out;
}

std::size_t round_word(std::string_view text) {
    for (const std::string_view sign : {"\xC3\x98", "\xE2\x8C\x80"}) // Ø ⌀
        if (text.starts_with(sign)) return sign.size();
    return word_at_start(text, "round");
}
bool claims_round(std::string_view text) {
    return round_word(text) > 0;
}
bool claims_hexagon(std::string_view text) {
    return word_at_start(text, "hex") > 0;
}
bool claims_square(std::string_view text) {
    return word_at_start(text, "square") > 0;
}
bool claims_flat(std::string_view text) {
    return word_at_start(text, "flat") > 0;
}
Designation read_flat(std::string_view text) {
    return read_plain(text, word_at_start(text, "flat"), Outline::flat,
                      "A width and a thickness are expected here, for example flat 30 x 6 x 90.");
}
Designation read_round(std::string_view text) {
    return read_plain(text, round_word(text), Outline::round,
                      "A diameter is expected here, for example round 12 x 30.");
}
Designation read_hexagon(std::string_view text) {
    return read_plain(text, word_at_start(text, "hex"), Outline::hexagon,
                      "A size across the flats is expected here, for example hex 17 x 8.");
}
Designation read_square(std::string_view text) {
    return read_plain(text, word_at_start(text, "square"), Outline::square,
                      "A size across the flats is expected here, for example hex 17 x 8.");
}

std::vector<Usual> sized(const char* word, std::initializer_list<int> sizes) {
    std::vector<Usual> out;
    for (const int s : sizes)
        out.push_back({word + (" {" + std::to_string(s) + "} x {" + std::to_string(2 * s) + "}"), ""});
    return out;
}

} // namespace

std::vector<DesignationKind> plain_kinds() {
    return {{"round_bar",
             "Plain bars",
             {"Round bar", "A plain zone; bore it, or add others to it."},
             "round 20",
             [](Known) {
                 return sized("round", {6, 8, 10, 12, 16, 20, 25, 30, 40, 50});
             },
             claims_round,
             read_round},
            {"hexagon_bar",
             "Plain bars",
             {"Hexagon bar", "Measured across its flats."},
             "hex 16",
             [](Known) {
                 return sized("hex", {7, 8, 10, 13, 16, 18, 24, 30, 36});
             },
             claims_hexagon,
             read_hexagon},
            {"square_bar",
             "Plain bars",
             {"Square bar", "Measured across its flats."},
             "square 16",
             [](Known) {
                 return sized("square", {6, 8, 10, 12, 16, 20, 25});
             },
             claims_square,
             read_square},
            {"flat_bar",
             "Plain bars",
             {"Flat bar", "A plate or strap: width, thickness, length; drill it across for one."},
             "flat 30",
             [](Known) {
                 std::vector<Usual> out;
                 for (const auto& [width, thickness] :
                      {std::pair{20, 5}, {25, 5}, {30, 6}, {40, 8}, {50, 10}, {12, 3}, {16, 4}})
                     out.push_back({"flat {" + std::to_string(width) + "} x {" + std::to_string(thickness) +
                                        "} x {" + std::to_string(3 * width) + "}",
                                    ""});
                 return out;
             },
             claims_flat,
             read_flat}};
}

std::string write_designation(const PlainBar& round, std::optional<Length> length, LengthUnit unit) {
    const char* what = round.outline == Outline::hexagon  ? "hex "
                       : round.outline == Outline::square ? "square "
                       : round.outline == Outline::flat   ? "flat "
                                                          : "round ";
    return what + number_text(in_unit(round.diameter, unit), 6) +
           (round.outline == Outline::flat ? " x " + number_text(in_unit(round.thickness, unit), 6) : "") +
           (unit == LengthUnit::inch ? " in" : "") + (length ? " x " + length_text(*length, unit) : "");
}

} // namespace whorl
