// A line of words with blanks or commas between, each a key with its value joined to it or behind it, in which arithmetic
// needs no brackets: `gear m2 z24 b 3/4*2`. Gears, racks and springs are written so.
#pragma once

#include "quantity/input_error.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

namespace whorl {

class WordReader {
public:
    struct Word {
        std::string text;
        std::size_t at = 0; // in the line
    };

    explicit WordReader(std::string_view text);

    bool done() const { return at_ >= words_.size(); }
    std::size_t end() const { return end_; } // of the line
    const Word& here() const { return words_[at_]; }
    const Word& last() const { return words_[at_ - 1]; } // that was taken
    Word take() { return words_[at_++]; }
    bool take(std::string_view word); // if it stands here
    // Whether this key stands here, alone or with its value joined to it.
    bool at_key(std::string_view key) const;
    // The value of the key that stands here; `as` is what is said once, where that is another name. Throws InputError
    // for one that is said twice or isn't there.
    Word value(const std::string& key, const char* example, const char* as = nullptr);
    void once(const std::string& what, const Word& word); // what it says, under the name that is kept
    bool given(const std::string& what) const { return said_.contains(what); }

    // What `work` makes of a word, its complaint at the word's place.
    template<class Work>
    auto located(const Word& w, Work work) const {
        try {
            return work();
        } catch (const InputError& e) {
            throw InputError(e.what(), w.at + e.position, e.extent);
        }
    }
    double number(const Word& w) const;
    Length length(const Word& w, LengthUnit unit) const;

    // Its last word, where that is `in` or `mm`; it is taken off.
    std::optional<LengthUnit> take_unit();

    std::vector<Word>& words() { return words_; }

private:
    std::vector<Word> words_;
    std::size_t end_, at_ = 0;
    std::set<std::string> said_;
};

std::string lowered_line(std::string_view text);

} // namespace whorl
