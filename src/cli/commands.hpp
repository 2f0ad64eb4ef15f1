// The commands of `whorl`. Each has a page: its options, what it does with them and the exit code it gives. A
// new one has its line here and in cli.cpp.
#pragma once

#include "model/job.hpp"

#include <CLI/App.hpp>
#include <functional>
#include <iosfwd>
#include <memory>

namespace whorl {

struct Commands {
    CLI::App& app;
    std::ostream &out, &err;
    std::function<int()> chosen = {};       // of the command that was given
    std::function<std::string()> text = {}; // what its errors point into; none: nothing
};

// Registers a command: `define` names its options, `run` does it, `text` is the option its errors point into.
template<class Options, class Define, class Run>
void add_command(CLI::App& to, Commands& commands, const char* name, const char* about, Define define,
                 Run run, std::string Options::*text = nullptr) {
    const auto options = std::make_shared<Options>();
    CLI::App* command = to.add_subcommand(name, about);
    define(*command, *options);
    command->callback([&commands, options, run, text] {
        commands.chosen = [&commands, options, run] { return run(*options, commands); };
        if (text) commands.text = [options, text] { return (*options).*text; };
    });
}
template<class Options, class Define, class Run>
void add_command(Commands& commands, const char* name, const char* about, Define define, Run run,
                 std::string Options::*text = nullptr) {
    add_command<Options>(commands.app, commands, name, about, define, run, text);
}

// As the parser's own range, which lets "nan" through.
CLI::Validator between(double low, double high);
// The words of a list with commas; `usual` where it is empty. Throws InputError if there is none in it.
std::vector<std::string> listed_formats(const std::string& list, const std::string& usual);

// The sections of the personal library, read only if the text names one.
std::vector<OwnSection> known_in(const std::string& text);

// A one-piece job from a designation or a starter.
Job job_of(const std::string& text);
// The zone that says what a piece is: its first one that is not plain, else its first.
std::size_t telling_zone(const Piece& piece);
// A piece by its name, or else by its number from 1; none where there is no such piece. Throws InputError for a name that
// several have.
std::optional<std::size_t> piece_called(const Job& job, const std::string& text);
// The job with a field of that zone of its first piece, or the piece's finish, as `key=value`. Throws InputError with the
// fields there are.
Job with_field(const Job& job, const std::string& assignment);

void add_show(Commands& commands);    // what a designation means
void add_list(Commands& commands);    // a family's standard series
void add_make(Commands& commands);    // one piece, or a table of them, to files
void add_draw(Commands& commands);    // one piece or a job as drawings
void add_motion(Commands& commands);  // a cam's timing as a table
void add_pair(Commands& commands);    // how two go together
void add_find(Commands& commands);    // springs from loads and room
void add_ratio(Commands& commands);   // tooth counts for a ratio
void add_compare(Commands& commands); // another outline laid over teeth
void add_job(Commands& commands);     // check, train, export: of a job file
void add_arrange(Commands& commands); // what is paired and where it stands
void add_section(Commands& commands); // the library of sections
void add_bench(Commands& commands);   // the speed to hold

} // namespace whorl
