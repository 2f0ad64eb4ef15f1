// whorl bench: the speed to hold, measured on this machine. Medians of several runs; the textbook way once.
#include "cli/cli.hpp"
#include "cli/table.hpp"

#include "build/build.hpp"
#include "exchange/export.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"
#include "solid/build_skin.hpp"
#include "standard/iso_metric.hpp"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <functional>
#include <ostream>
#include <sstream>
#include <unistd.h>

namespace whorl {
namespace {

double milliseconds(const std::function<void()>& work, int runs = 9) {
    std::vector<double> t;
    for (int i = 0; i < runs; ++i) {
        const auto start = std::chrono::steady_clock::now();
        work();
        t.push_back(
            std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count());
    }
    std::nth_element(t.begin(), t.begin() + static_cast<long>(t.size() / 2), t.end());
    return t[t.size() / 2];
}

class Table {
public:
    explicit Table(std::ostream& out) : out_(out) {}
    void row(const std::string& what, double value, const char* unit, double goal, bool at_least = false) {
        const bool ok = goal <= 0 || (at_least ? value >= goal : value <= goal);
        missed_ = missed_ || !ok;
        char line[200];
        if (goal > 0)
            std::snprintf(line, sizeof line, "%-58s %12.2f %-3s %s %8.0f  %s\n", what.c_str(), value, unit,
                          at_least ? "goal >=" : "goal <=", goal, ok ? "held" : "MISSED");
        else
            std::snprintf(line, sizeof line, "%-58s %12.2f %-3s\n", what.c_str(), value, unit);
        out_ << line << std::flush;
    }
    bool missed() const { return missed_; }

private:
    std::ostream& out_;
    bool missed_ = false;
};

// So many pieces of several kinds, each of its own length.
Job job_of_many(std::size_t count) {
    const char* const kinds[]{"M10x1.5-6g x ", "Tr20x4-7e x ", "round 12 x ", "gear m2 z24 a20 b",
                              "G1/2 A x "};
    Job job;
    while (job.pieces.size() < count)
        job.pieces.push_back(piece_of(kinds[job.pieces.size() % 5] + std::to_string(20 + job.pieces.size())));
    return job;
}

} // namespace

int run_bench(std::ostream& out, bool with_textbook, int textbook_turns) {
    Table table(out);
    const auto piece = [](const std::string& d) { return add_piece({}, parse_designation(d)).pieces[0]; };
    const Piece stud = piece("M8x1-6g x 20");
    table.row("preview after an edit, 20-turn stud (M8x1, two chamfers)",
              milliseconds([&] { make_preview(stud, 0, {}, LengthUnit::millimetre); }), "ms", 16);
    const Preview p20 = make_preview(stud, 0, {}, LengthUnit::millimetre);
    const double solid20 = milliseconds([&] { solid::make_solid(solid::build_skin(p20.piece)); });
    table.row("solid of the 20-turn stud, construction alone", solid20, "ms", 0);
    bool valid = true;
    const double checked20 = milliseconds([&] { valid = valid && make_verified_solid(p20)->valid; });
    table.row("valid solid of the 20-turn stud, with every check", checked20, "ms", 40);
    double per_turn_20 = 0;
    for (const int turns : {20, 50, 100, 200}) {
        const Preview p =
            make_preview(piece("M8x1-6g x " + std::to_string(turns)), 0, {}, LengthUnit::millimetre);
        const double t = milliseconds([&] { valid = valid && make_verified_solid(p)->valid; }, 5);
        if (turns == 20) per_turn_20 = t / turns;
        table.row("valid solid with every check, " + std::to_string(turns) + " turns", t, "ms",
                  turns == 100 ? 200 : 0);
        if (turns == 200)
            table.row("cost per turn at 200 turns relative to 20 turns", t / turns / per_turn_20, "x", 2);
    }
    table.row("preview after an edit, 100 turns",
              milliseconds([&] { make_preview(piece("M8x1-6g x 100"), 0, {}, LengthUnit::millimetre); }),
              "ms", 16);
    // per-turn cost, flat to 500 turns
    {
        const Preview p = make_preview(piece("M8x1-6g x 500"), 0, {}, LengthUnit::millimetre);
        const double t = milliseconds([&] { valid = valid && make_verified_solid(p)->valid; }, 3);
        table.row("cost per turn at 500 turns relative to 20 turns", t / 500 / per_turn_20, "x", 2);
    }
    for (const auto& [text, goal] :
         {std::pair{"ISO 4014 M12 x 60", 120.0}, std::pair{"ISO 4032 M12", 80.0},
          std::pair{"ISO 4762 M6 x 25", 0.0}, std::pair{"Tr20x4-7e x 60", 0.0},
          std::pair{"nipple R1/2 x 60", 0.0}, std::pair{"nut Rd40x1/6 x 30", 0.0}}) {
        const Piece whole = piece_of(text);
        table.row(std::string("preview after an edit, ") + text,
                  milliseconds([&] { make_preview(whole, 0, {}, LengthUnit::millimetre); }), "ms", 16);
        const Preview p = make_preview(whole, 0, {}, LengthUnit::millimetre);
        table.row(std::string("valid solid with every check, ") + text,
                  milliseconds([&] { valid = valid && make_verified_solid(p)->valid; }, 5), "ms", goal);
    }
    {
        const Piece spring = piece_of("spring d2 D20 L50 n8 closed ground"); // ten coils
        table.row("preview after an edit, spring of 10 coils, ground",
                  milliseconds([&] { make_preview(spring, 0, {}, LengthUnit::millimetre); }), "ms", 8);
        const Preview p = make_preview(spring, 0, {}, LengthUnit::millimetre);
        table.row("valid solid with every check, spring of 10 coils, ground",
                  milliseconds([&] { valid = valid && make_verified_solid(p)->valid; }, 5), "ms", 100);
    }
    {
        // what the interface thread computes for a keystroke: the change, what the piece says, its checks and
        // remedies
        const Job large = job_of_many(400);
        int times = 0; // another length each time: nothing is remembered
        table.row("keystroke in a job of 400 pieces, without drawing", milliseconds([&] {
                      const std::string length = "30." + std::to_string(1000 + ++times);
                      const Job changed = apply(large, {5, 0, field::length, length, LengthUnit::millimetre});
                      resolve_piece(changed.pieces[5], resolve_names(changed));
                      findings_of(changed, 5);
                  }),
                  "ms", 8);
    }
    for (const auto& [text, goal] :
         {std::pair{"gear m1.25 z19 b12", 0.0}, std::pair{"gear m2 z47 b12", 30.0},
          std::pair{"gear m1 z127 helix 20 b20", 150.0}, std::pair{"gear m1 z200 b10", 0.0},
          std::pair{"internal gear m2 z73 b12", 0.0}}) {
        const Piece whole = piece_of(text);
        table.row(std::string("preview after an edit, ") + text,
                  milliseconds([&] { make_preview(whole, 0, {}, LengthUnit::millimetre); }), "ms", 16);
        const Preview p = make_preview(whole, 0, {}, LengthUnit::millimetre);
        table.row(std::string("solid, construction alone, ") + text,
                  milliseconds([&] { solid::make_solid(solid::build_skin(p.piece)); }), "ms", 0);
        table.row(std::string("valid solid with every check, ") + text,
                  milliseconds([&] { valid = valid && make_verified_solid(p)->valid; }, 3), "ms", goal);
    }
    {
        const auto folder =
            std::filesystem::temp_directory_path() / ("whorl-bench-table-" + std::to_string(::getpid()));
        std::filesystem::create_directories(folder);
        std::string csv = "designation\n";
        int rows = 0;
        for (int round = 0; rows < 200; ++round)
            for (const auto& l : standard::iso_metric_series())
                if (rows < 200 && in_mm(l.diameter) <= 36) {
                    ++rows;
                    csv += "M" + number_text(in_mm(l.diameter), 3) + "x" + number_text(in_mm(l.pitch), 3) +
                           "-6g x " + number_text(in_mm(l.pitch) * (20 + round), 3) + "\n";
                }
        write_file_atomically(folder / "sizes.csv", csv);
        std::ostringstream said, wrong;
        const double t = milliseconds(
            [&] {
                make_table({(folder / "sizes.csv").string(), folder.string(), {"step"}, 2, 0.01, true}, said,
                           wrong);
            },
            1);
        table.row("200 designations of 20 turns from a table to STEP, 2 jobs", t / 1000, "s", 30);
        std::filesystem::remove_all(folder);
    }
    const auto file =
        std::filesystem::temp_directory_path() / ("whorl-bench-" + std::to_string(::getpid()) + ".step");
    const auto verified = make_verified_solid(p20);
    const double step =
        milliseconds([&] { write_step(*verified, stud, "bench", LengthUnit::millimetre, file); }, 5);
    table.row("STEP of the 20-turn stud", step, "ms", 150);
    table.row("STEP file size", static_cast<double>(std::filesystem::file_size(file)) / 1000, "kB", 500);
    std::filesystem::remove(file);
    // the window beside this program, if there is one and a display
    const auto window = std::filesystem::read_symlink("/proc/self/exe").parent_path() / "regular-whorl";
    const auto demo =
        window.parent_path().parent_path().parent_path().parent_path() / "demo/saltmarsh-tide-gauge.whorl";
    if (std::filesystem::exists(window) && std::filesystem::exists(demo) &&
        (std::getenv("DISPLAY") || std::getenv("WAYLAND_DISPLAY"))) {
        long peak = 0;
        const double up = milliseconds(
            [&] {
                FILE* pipe =
                    ::popen((window.string() + " --measure " + demo.string() + " 2>/dev/null").c_str(), "r");
                char line[100];
                while (pipe && std::fgets(line, sizeof line, pipe))
                    std::sscanf(line, "up peak_kb %ld", &peak);
                if (pipe) ::pclose(pipe);
            },
            3);
        double frames = 0;
        if (FILE* pipe = ::popen(
                (window.string() + " --measure-running " + demo.string() + " 2>/dev/null").c_str(), "r")) {
            char line[100];
            while (std::fgets(line, sizeof line, pipe))
                std::sscanf(line, "running frames_a_second %lf", &frames);
            ::pclose(pipe);
        }
        if (peak > 0) {
            if (frames > 0)
                table.row("a pair of gears running, section and chart painted", frames, "/s", 30, true);
            table.row("window with the demo job: start to drawn solid and exit", up, "ms", 1500);
            table.row("window with the demo job: peak memory", static_cast<double>(peak) / 1000, "MB", 400);
        } else {
            out << "The window could not be started here.\n";
        }
    } else {
        out << "No display: the window was not measured.\n";
    }
    if (with_textbook) {
        const auto& s = p20.piece.zones[0].thread()->section;
        solid::TextbookResult r;
        const double t = milliseconds(
            [&] {
                r = solid::textbook_thread(s.crest_radius, s.root_radius, s.pitch, s.root_flat,
                                           textbook_turns);
            },
            1);
        const std::string turns = std::to_string(textbook_turns);
        table.row("textbook sweep and cut, " + turns + " turns, no chamfers" + (r.valid ? "" : " (INVALID)"),
                  t, "ms", 0);
        const Preview same = make_preview(piece("M8x1-6g x " + turns), 0, {}, LengthUnit::millimetre);
        const double ours = milliseconds([&] { solid::make_solid(solid::build_skin(same.piece)); });
        table.row("direct solid, the same " + turns + " turns, with two chamfers", ours, "ms", 0);
        table.row("times faster at " + turns + " turns", t / ours, "x", 1000, true);
    }
    if (with_textbook) {
        const ResolvedGear gear = *make_preview(piece_of("gear m1.25 z19 b12"), 0, {}, LengthUnit::millimetre)
                                       .piece.zones[0]
                                       .gear();
        solid::TextbookResult r;
        const double t = milliseconds([&] { r = solid::textbook_gear(gear, 12); }, 1);
        table.row(std::string("textbook gear, 19 spaces cut one by one") + (r.valid ? "" : " (INVALID)"), t,
                  "ms", 0);
        const ResolvedPiece same = resolve_piece(piece_of("gear m1.25 z19 b12"), {});
        const double ours = milliseconds([&] { solid::make_solid(solid::build_skin(same)); });
        table.row("direct solid of the same 19 teeth", ours, "ms", 0);
        table.row("times faster", t / ours, "x", 0);
    }
    if (with_textbook) {
        solid::TextbookResult r;
        const double t = milliseconds([&] { r = solid::textbook_spring(2, 20, 5, 10); }, 1);
        table.row(std::string("textbook spring, swept, both ends cut, 10 coils") +
                      (r.valid ? "" : " (INVALID)"),
                  t, "ms", 0);
        const Preview p =
            make_preview(piece_of("spring d2 D20 L50 n10 open ground"), 0, {}, LengthUnit::millimetre);
        const double ours = milliseconds([&] { p.body.solid(p.mesh); });
        table.row("direct solid of the same 10 coils", ours, "ms", 0);
        table.row("times faster", t / ours, "x", 0);
    }
    if (!valid) out << "A solid came out invalid.\n";
    return valid && !table.missed() ? 0 : 1;
}

} // namespace whorl
