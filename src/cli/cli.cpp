#include "cli/cli.hpp"

#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "model/file.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <ostream>

namespace whorl {

CLI::Validator between(double low, double high) {
    const std::string range = number_text(low, 6) + " to " + number_text(high, 6);
    return CLI::Validator(
        [=](std::string& text) {
            double value = 0;
            const bool number = CLI::detail::lexical_cast(text, value);
            return number && value >= low && value <= high
                       ? std::string()
                       : in_quotes(text) + " is not a number from " + range + ".";
        },
        range);
}

std::vector<std::string> listed_formats(const std::string& list, const std::string& usual) {
    std::vector<std::string> all;
    std::string word;
    for (const char c : (list.empty() ? usual : list) + ",") {
        if (c != ',') {
            word += c;
        } else if (!word.empty()) {
            all.push_back(word);
            word.clear();
        }
    }
    if (all.empty())
        throw InputError("No format is named in '" + list + "'; choose among " + usual +
                         ", separated by commas.");
    return all;
}

namespace {

// The command's name if there is none such, else nothing.
std::string unknown_command(const CLI::App& app, int argc, const char* const* argv) {
    if (argc < 2 || argv[1][0] == '-') return {};
    std::string names;
    for (const CLI::App* c : app.get_subcommands([](const CLI::App*) { return true; })) {
        if (c->get_name() == argv[1]) return {};
        names += (names.empty() ? "" : ", ") + c->get_name();
    }
    return std::string("there is no command '") + argv[1] + "'; there are " + names + ".";
}

} // namespace

int run_command_line(int argc, const char* const* argv, std::ostream& out, std::ostream& err) {
    CLI::App app(
        "Regular Whorl: threads, springs, cams and gears from standard specifications to correct solids.",
        "whorl");
    app.require_subcommand(1);
    Commands commands{app, out, err};
    for (const auto add : {add_show, add_make, add_draw, add_motion, add_job, add_arrange, add_pair, add_find,
                           add_ratio, add_compare, add_list, add_section, add_bench})
        add(commands);
    const auto refuse = [&](const std::string& why) {
        err << "whorl: " << why << "\n";
        return refused;
    };
    if (const std::string wrong = unknown_command(app, argc, argv); !wrong.empty()) return refuse(wrong);
    try {
        app.parse(argc, argv);
        return commands.chosen();
    } catch (const CLI::CallForHelp&) {
        out << app.help();
        return done;
    } catch (const CLI::ParseError& e) {
        std::string why = e.what();
        std::replace(why.begin(), why.end(), '\n', ' ');
        return refuse(why + " (whorl --help lists the commands)");
    } catch (const JobError& e) {
        return refuse(e.what());
    } catch (const InputError& e) {
        const std::string text = commands.text ? commands.text() : "";
        const bool within =
            !text.empty() && text.size() < 120 && e.position <= text.size() && e.position + e.extent > 0;
        return refuse(e.what() +
                      (within ? " (at character " + std::to_string(e.position + 1) + ")" : std::string()));
    } catch (const FileError& e) {
        return refuse(e.what());
    } catch (const std::exception& e) {
        return refuse(std::string("something went wrong inside: ") + e.what());
    }
}

} // namespace whorl
