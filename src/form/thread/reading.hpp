// What the readers and writers of several thread families share.
#pragma once

#include "form/designation.hpp"
#include "form/reader.hpp"

#include <initializer_list>

namespace whorl {

// The length of the first of these letters that the text begins with and that a number, or nothing, follows.
std::size_t letters_before_number(std::string_view text, std::initializer_list<std::string_view> letters);

// -class, if there is one; else the family's usual one for the thread's side.
void read_class(Reader& r, ThreadSpec& t);
// The class that stands here. Throws InputError for one the family does not have.
std::string class_at(Reader& r, ThreadFamily family);

// [(2 starts)] [internal] [LH] [taper 1:16] [x length [unit]] in any order, each once, and then nothing more.
void read_tail(Reader& r, Designation& out);
// Throws InputError for a length in inch, its unit not written, that is more than 150 times the diameter: it was meant
// in millimetres.
void require_reasonable(Length length, Length diameter, std::string_view text, LengthUnit unit,
                        std::size_t at);
Designation with_tail(Reader& r, const ThreadSpec& t, LengthUnit unit = LengthUnit::millimetre);

// Diameter x pitch in millimetres, after the family's letters: S40x7, SQ20x4. Gives the place of the pitch.
std::size_t read_millimetre_pair(Reader& r, const std::string& letters, ThreadSpec& t);
// Families that are no more than that: S40x7, SQ20x4.
Designation read_pair_family(Reader& r, const std::string& letters, ThreadFamily family);
std::string write_pair(const std::string& letters, const ThreadSpec& t);
// The listed ones with their words to change: Tr{20}x{4}, {1}-{5} ACME.
std::vector<Usual> usual_pairs(const std::string& letters, const std::vector<standard::ListedThread>& listed);
std::vector<Usual> usual_inch(const std::vector<standard::ListedThread>& listed, const std::string& series);
// Starts and pitch from a lead that must be 1 to 8 times the pitch; else "… `subject` 2.5 `object`".
void set_starts(const Reader& r, std::size_t from, double lead, double pitch, const std::string& subject,
                const std::string& object, ThreadSpec& t);

// Diameter and pitch of a pipe size as the standard lists it.
void read_pipe_size(Reader& r, std::string_view letters, const std::vector<standard::ListedThread>& listed,
                    const std::string& series, ThreadSpec& t);
std::string pipe_size_name(const ThreadSpec& t, const std::vector<standard::ListedThread>& listed);

// 1/4-20 UNC and its like: the word behind tells the family.
Designation read_inch_thread(Reader& r);

} // namespace whorl
