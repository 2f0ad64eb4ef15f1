// A form's line is its name and then words, in any order, each once: `knurl crossed pitch 1 on 20 x 15 sunk`. Each form
// has a table of its words; what is alike in all of them stands here: the unit, which is said last and holds for all
// lengths, numbers with fractions and with arithmetic in brackets (`on (2*12.5)`), and the sentence for a word that is
// said twice or not understood.
#pragma once

#include "form/reader.hpp"

#include <initializer_list>
#include <map>
#include <span>

namespace whorl {

class SpecReader : public Reader {
public:
    explicit SpecReader(std::string_view text); // with ` in` or ` mm` at its end, or neither

    LengthUnit unit() const { return unit_; }
    // The next number, or a sentence with the example. Lengths are above zero but for any_length().
    Length length(const char* what, const char* example);
    Length any_length(const char* what, const char* example);
    double number(const char* what, const char* example); // above zero
    double any_number(const std::string& expected);       // of either sign
    double angle(const std::string& expected);            // rad, of either sign; ° may follow
    // Where the word that is read began, and the number before it, as in `8 flutes`.
    std::size_t word_at() const { return word_at_; }
    double said() const { return said_; }
    int said_whole(int least, int most, const char* sentence) const;
    // What stands before that place is usual, and may be said otherwise behind it.
    void usual_to(std::size_t place) { usual_to_ = place; }
    // Throws InputError about what was read since `from` if `what` was said before.
    void once(std::string_view what, std::size_t from);
    bool given(std::string_view what) const { return given_.contains(what); }

    // --- for read_words() ---
    bool begins_number() const;           // one stands here
    bool take_key(std::string_view word); // a word, or a letter with its number joined to it
    bool take_number_before();            // of a word behind it
    void begin_word() { word_at_ = at(); }

private:
    SpecReader(std::string_view body, LengthUnit unit) : Reader(body), unit_(unit) {}
    std::optional<double> take_value(bool fractions);          // or arithmetic in brackets
    double value(const std::string& expected, bool fractions); // of either sign

    LengthUnit unit_;
    double said_ = 0;
    std::size_t word_at_ = 0;
    std::map<std::string_view, std::size_t> given_; // and where
    std::size_t usual_to_ = 0;
};

template<class Out>
struct SpecWord {
    std::string_view word; // empty: a number alone
    const char* what;      // that is said once, whichever of its words says it; none: as often as one likes
    void (*read)(SpecReader&, Out&);
    bool behind = false; // the number stands before it: `8 flutes`
};

template<class Out>
using SpecWords = std::span<const SpecWord<Out>>;

// Reads all that stands there. `unknown`: what is understood, for what isn't; `bare`: for a number without its word.
template<class Out>
void read_words(SpecReader& r, Out& out, std::initializer_list<SpecWords<Out>> tables,
                const std::string& unknown, const std::string& bare) {
    const auto take = [&](bool behind) {
        for (const SpecWords<Out> words : tables)
            for (const SpecWord<Out>& w : words) {
                if (w.behind != behind || !(w.word.empty() || r.take_key(w.word))) continue;
                if (w.what) r.once(w.what, r.word_at());
                w.read(r, out);
                return true;
            }
        return false;
    };
    for (r.skip_blanks(); !r.done(); r.skip_blanks()) {
        r.begin_word();
        if (r.take(",") || r.take(";") || take(false)) continue;
        if (!r.take_number_before()) r.refuse(unknown);
        if (!take(true)) r.refuse_from(r.word_at(), bare);
    }
}

// `bore 16 key`, of a form whose working state has a `body`.
template<class Out>
constexpr SpecWord<Out> bore_words[]{{"bore", "The bore", [](SpecReader& r, Out& out) {
                                          out.body.bore = r.length("diameter of the bore", "bore 16");
                                          const std::size_t behind = r.at();
                                          r.skip_blanks();
                                          out.body.key = r.take_word_ignoring_case("key");
                                          if (!out.body.key) r.move_to(behind);
                                      }}};

} // namespace whorl
