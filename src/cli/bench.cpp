// whorl bench: the speed to hold, measured on this machine. Medians of several runs; the textbook way once.
#include "cli/commands.hpp"
#include "cli/table.hpp"

#include "build/build.hpp"
#include "drawing/job_drawings.hpp"
#include "drawing/write_sheet.hpp"
#include "exchange/export.hpp"
#include "form/coil/find_spring.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"
#include "standard/iso_metric.hpp"

#include <CLI/CLI.hpp>
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

constexpr const char* disc_cam =
    "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 modified-sine, dwell; roller 8; b10";
constexpr const char* fluted_cup =
    "silhouette 0:28 33:34 95:40, 8 flutes 4 deep, twist 45, from 9, to 86, wall 2 bottom 4";
constexpr const char* grooved_disc = "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 "
                                     "modified-sine, dwell; roller 8; b10; groove 5 deep in "
                                     "d84";
constexpr const char* drum_cam = "drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150 "
                                 "cycloidal, dwell; groove 8 wide 6 deep";
constexpr const char* reversing_screw =
    "drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; groove 4 wide 3 deep; 4 turns";

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

// What a program beside this one says, line by line.
std::filesystem::path beside(const char* program) {
    return std::filesystem::read_symlink("/proc/self/exe").parent_path() / program;
}
std::vector<std::string> said_by(const std::string& command) {
    std::vector<std::string> lines;
    FILE* pipe = ::popen((command + " 2>/dev/null").c_str(), "r");
    char line[200];
    while (pipe && std::fgets(line, sizeof line, pipe))
        lines.emplace_back(line);
    if (pipe) ::pclose(pipe);
    return lines;
}

struct TemporaryFolder {
    std::filesystem::path path =
        std::filesystem::temp_directory_path() / ("whorl-bench-" + std::to_string(::getpid()));
    TemporaryFolder() { std::filesystem::create_directories(path); }
    ~TemporaryFolder() {
        std::error_code ignored;
        std::filesystem::remove_all(path, ignored);
    }
    TemporaryFolder(const TemporaryFolder&) = delete;
    TemporaryFolder& operator=(const TemporaryFolder&) = delete;
};

class Bench {
public:
    explicit Bench(std::ostream& out) : table_(out), out_(out) {}

    void threads() {
        const Piece stud = piece_of("M8x1-6g x 20");
        preview("20-turn stud (M8x1, two chamfers)", stud);
        const Preview p = preview_of(stud);
        table_.row("solid of the 20-turn stud, construction alone", construction(p.piece), "ms", 0);
        verified("the 20-turn stud", p, 40, 9);
        double per_turn_20 = 0;
        for (const int turns : {20, 50, 100, 200}) {
            const double t =
                verified(std::to_string(turns) + " turns",
                         preview_of(piece_of("M8x1-6g x " + std::to_string(turns))), turns == 100 ? 200 : 0);
            if (turns == 20) per_turn_20 = t / turns;
            if (turns == 200)
                table_.row("cost per turn at 200 turns relative to 20 turns", t / turns / per_turn_20, "x",
                           2);
        }
        preview("100 turns", piece_of("M8x1-6g x 100"));
        const double t = verified("500 turns", preview_of(piece_of("M8x1-6g x 500")), 0, 3);
        table_.row("cost per turn at 500 turns relative to 20 turns", t / 500 / per_turn_20, "x", 2);
        for (const auto& [text, goal] :
             {std::pair{"ISO 4014 M12 x 60", 120.0}, std::pair{"ISO 4032 M12", 80.0},
              std::pair{"ISO 4762 M6 x 25", 0.0}, std::pair{"Tr20x4-7e x 60", 0.0},
              std::pair{"nipple R1/2 x 60", 0.0}, std::pair{"nut Rd40x1/6 x 30", 0.0}}) {
            preview(text, piece_of(text));
            verified(text, preview_of(piece_of(text)), goal);
        }
    }

    void springs() {
        const Piece spring = piece_of("spring d2 D20 L50 n8 closed ground"); // ten coils
        preview("spring of 10 coils, ground", spring, 8);
        verified("spring of 10 coils, ground", preview_of(spring), 100);
        const Piece hooked = piece_of("extension spring d1.6 D12 n20 hooks full");
        preview("extension spring of 20 coils, hooks", hooked, 8);
        verified("extension spring of 20 coils, hooks", preview_of(hooked), 150);
        preview("spring of 10 coils, pressed", piece_of("spring d2 D20 L50 n8 closed ground at 32"), 8);
        preview("cone pressed turn by turn", piece_of("spring d1.6 D30..18 p6.4 nt7 open at 30"), 8);
        table_.row("springs found for two loads and a room", milliseconds([] {
                       (void)find_springs(parse_spring_search("find spring 40@32 65@24 outside 24"));
                   }),
                   "ms", 200);
    }

    void gears() {
        for (const auto& [text, goal] :
             {std::pair{"gear m1.25 z19 b12", 0.0}, std::pair{"gear m2 z47 b12", 30.0},
              std::pair{"gear m1 z127 helix 20 b20", 150.0}, std::pair{"gear m1 z200 b10", 0.0},
              std::pair{"internal gear m2 z73 b12", 0.0}}) {
            preview(text, piece_of(text));
            const Preview p = preview_of(piece_of(text));
            table_.row(std::string("solid, construction alone, ") + text, construction(p.piece), "ms", 0);
            verified(text, p, goal, 3);
        }
    }

    void cams() {
        const std::pair<const char*, const char*> all[]{{"disc cam", disc_cam},
                                                        {"disc with a groove", grooved_disc},
                                                        {"drum cam", drum_cam},
                                                        {"reversing screw of 4 turns", reversing_screw}};
        for (const auto& [what, text] : all) {
            const Piece piece = piece_of(text);
            preview(what, piece, 16);
            verified(what, preview_of(piece), 150, 5);
        }
    }

    void bends() {
        const Piece clamp = piece_of("u-clamp M6 for 60 x 80"), elbow = piece_of("elbow G3/8 90");
        preview("U-clamp M6, two threads of 40 turns", clamp, 8);
        verified("U-clamp M6, two threads of 40 turns", preview_of(clamp), 150, 5);
        preview("elbow G3/8", elbow, 8);
        verified("elbow G3/8", preview_of(elbow), 150, 5);
    }

    void grooves() {
        const Piece drum = piece_of("groove round 4.2 pitch 4.5 on 60 x 90"); // 20 turns
        preview("rope drum of 20 turns", drum, 16);
        verified("rope drum of 20 turns", preview_of(drum), 150, 3);
        const Piece tube = piece_of("groove rect 2 pitch 25 in 30 across 33 x 300");
        preview("tube grooved inside, 12 turns", tube, 16);
        verified("tube grooved inside, 12 turns", preview_of(tube), 150, 3);
    }

    void vessels() {
        const Piece knob = piece_of("silhouette 0:12 8:16 22:10 40:14:0"), vessel = piece_of(fluted_cup);
        preview("silhouette of four points", knob, 16);
        verified("silhouette of four points", preview_of(knob), 150);
        preview("hollow vessel of 8 flutes", vessel, 40);
        verified("hollow vessel of 8 flutes", preview_of(vessel), 1000, 3);
    }

    void knurls() {
        const Piece crossed = piece_of("knurl crossed pitch 1 on 20 x 11"); // 594 points
        preview("crossed knurl of 594 points", crossed, 40);
        verified("crossed knurl of 594 points", preview_of(crossed), 1000, 3);
    }

    // What the interface thread computes for a keystroke: the change, what the piece says, its checks and
    // remedies.
    void keystroke() {
        const Job large = job_of_many(400);
        int times = 0; // another length each time: nothing is remembered
        table_.row(
            "keystroke in a job of 400 pieces, without drawing", milliseconds([&] {
                const std::string length = "30." + std::to_string(1000 + ++times);
                const Job changed = apply(large, {5, 0, field::length, length, LengthUnit::millimetre});
                resolve_piece(changed.pieces[5], resolve_names(changed));
                findings_of(changed, 5);
            }),
            "ms", 8);
    }

    // 200 named values, each a formula over the one before: a length that uses one is typed, one of them is changed,
    // and what is painted of a dimension is looked up.
    void named_values() {
        Job job = job_of_many(1);
        job.values.push_back({"v0", {"1.5 mm", LengthUnit::millimetre}});
        for (int i = 1; i < 200; ++i)
            job.values.push_back({"v" + std::to_string(i),
                                  {"v" + std::to_string(i - 1) + " + 0.01 mm", LengthUnit::millimetre}});
        int times = 0;
        const auto more = [&] { return std::to_string(1000 + ++times); };
        const auto look = [](const Job& j) {
            resolve_piece(j.pieces[0], resolve_names(j));
            findings_of(j, 0);
        };
        table_.row("an edit where there are 200 named values", milliseconds([&] {
                       look(apply(job, {0, 0, field::length, "30." + more() + " mm + v199",
                                        LengthUnit::millimetre}));
                   }),
                   "ms", 2);
        table_.row("one of 200 named values changed, all others over it", milliseconds([&] {
                       look(set_value(job, "v0", {"1.5" + more() + " mm", LengthUnit::millimetre}));
                   }),
                   "ms", 8);
        const Job named = apply(job, {0, 0, field::length, "30 mm + v199", LengthUnit::millimetre});
        table_.row("a dimension's text looked up, 200 named values",
                   1000 * milliseconds([&] { field_text(named, 0, 0, field::length, LengthUnit::inch); }),
                   "µs", 100);
    }

    void table_to_files() {
        const TemporaryFolder folder;
        std::string csv = "designation\n";
        int rows = 0;
        for (int round = 0; rows < 200; ++round)
            for (const auto& l : standard::iso_metric_series())
                if (rows < 200 && in_mm(l.diameter) <= 36) {
                    ++rows;
                    csv += "M" + number_text(in_mm(l.diameter), 3) + "x" + number_text(in_mm(l.pitch), 3) +
                           "-6g x " + number_text(in_mm(l.pitch) * (20 + round), 3) + "\n";
                }
        write_file_atomically(folder.path / "sizes.csv", csv);
        std::ostringstream said, wrong;
        const double t = milliseconds(
            [&] {
                make_table(
                    {(folder.path / "sizes.csv").string(), folder.path.string(), {"step"}, 2, 0.01, true},
                    said, wrong);
            },
            1);
        table_.row("200 designations of 20 turns from a table to STEP, 2 jobs", t / 1000, "s", 30);
    }

    static std::filesystem::path demo_job() {
        return beside("regular-whorl").parent_path().parent_path().parent_path().parent_path() /
               "demo/saltmarsh-tide-gauge.whorl";
    }
    void drawings() {
        const Piece screw = piece_of("ISO 4762 M6 x 25");
        const Preview made = make_preview(screw, 0, {}, LengthUnit::millimetre);
        table_.row("drawing sheet of a cap screw",
                   milliseconds([&] { (void)drawing::draw_sheet(made, screw, 0, {}); }), "ms", 100);
        if (!std::filesystem::exists(demo_job())) {
            out_ << "The demo job is not beside the program: its drawings were not measured.\n";
            return;
        }
        const Job job = load_job(demo_job());
        const Names names = resolve_names(job);
        double usual = 0, real = 0;
        std::string usual_name, real_name;
        for (std::size_t i = 0; i < job.pieces.size(); ++i) {
            const Preview p = make_preview(job.pieces[i], i, names, job.unit);
            for (const bool true_form : {false, true}) {
                drawing::SheetSettings s = drawing::settings_of(job, i);
                s.true_form = true_form;
                const double t = milliseconds([&] { (void)drawing::draw_sheet(p, job.pieces[i], i, s); }, 3);
                if (double& worst = true_form ? real : usual; t > worst) {
                    worst = t;
                    (true_form ? real_name : usual_name) = job.pieces[i].name;
                }
            }
        }
        table_.row("slowest sheet of the demo job: " + usual_name, usual, "ms", 200);
        table_.row("slowest sheet with true forms: " + real_name, real, "ms", 1000);
        table_.row("the demo job's drawings as one PDF",
                   milliseconds(
                       [&] {
                           (void)drawing::pdf_of(
                               drawing::draw_job(job, [](std::size_t) { return true; }).pages);
                       },
                       1) /
                       1000,
                   "s", 5);
    }
    void step_file() {
        const TemporaryFolder folder;
        const Piece stud = piece_of("M8x1-6g x 20");
        const auto verified = make_verified_solid(preview_of(stud));
        const auto file = folder.path / "stud.step";
        const double step =
            milliseconds([&] { write_step(*verified, stud, "bench", LengthUnit::millimetre, file); }, 5);
        table_.row("STEP of the 20-turn stud", step, "ms", 150);
        table_.row("STEP file size", static_cast<double>(std::filesystem::file_size(file)) / 1000, "kB", 500);
    }

    // The window beside this program, if there is one and a display.
    void window() {
        const auto program = beside("regular-whorl"), demo = demo_job();
        if (!std::filesystem::exists(program) || !std::filesystem::exists(demo) ||
            !(std::getenv("DISPLAY") || std::getenv("WAYLAND_DISPLAY"))) {
            out_ << "No display: the window was not measured.\n";
            return;
        }
        long peak = 0;
        const double up = milliseconds(
            [&] {
                for (const std::string& line : said_by(program.string() + " --measure " + demo.string()))
                    std::sscanf(line.c_str(), "up peak_kb %ld", &peak);
            },
            3);
        double frames = 0;
        for (const std::string& line : said_by(program.string() + " --measure-running " + demo.string()))
            std::sscanf(line.c_str(), "running frames_a_second %lf", &frames);
        if (peak == 0) {
            out_ << "The window could not be started here.\n";
            return;
        }
        if (frames > 0)
            table_.row("a pair of gears running, section and chart painted", frames, "/s", 30, true);
        table_.row("window with the demo job: start to drawn solid and exit", up, "ms", 1500);
        table_.row("window with the demo job: peak memory", static_cast<double>(peak) / 1000, "MB", 400);
    }

    // The program that goes the textbook way, beside this one.
    void textbook(int turns) {
        if (!std::filesystem::exists(beside("whorl-textbook"))) {
            out_ << "whorl-textbook is not beside this program: nothing to compare with.\n";
            return;
        }
        const ThreadSection s = preview_of(piece_of("M8x1-6g x 20")).piece.zones[0].thread()->section;
        char words[200];
        std::snprintf(words, sizeof words, "thread %.9g %.9g %.9g %.9g %d", s.crest_radius, s.root_radius,
                      s.pitch, s.root_flat, turns);
        const std::string count = std::to_string(turns) + " turns";
        compare("sweep and cut, " + count + ", no chamfers", words, "the same " + count + ", two chamfers",
                preview_of(piece_of("M8x1-6g x " + std::to_string(turns))), 1000);
        compare("gear, 19 spaces cut one by one", "gear 'gear m1.25 z19 b12' 12", "the same 19 teeth",
                preview_of(piece_of("gear m1.25 z19 b12")));
        compare("spring, swept, both ends cut, 10 coils", "spring 2 20 5 10", "the same 10 coils",
                preview_of(piece_of("spring d2 D20 L50 n10 open ground")));
        compare("disc cam, a spline through 360 points", std::string("cam '") + disc_cam + "'",
                "the same cam", preview_of(piece_of(disc_cam)));
        const ThreadSection leg =
            preview_of(piece_of("u-clamp M6 for 60 x 80")).piece.zones[0].thread()->section;
        std::snprintf(words, sizeof words, "clamp %.9g %.9g %.9g %.9g 3 40 33", leg.crest_radius,
                      leg.root_radius, leg.pitch, leg.root_flat);
        compare("U-clamp, swept, two threads of 3 turns cut and joined", words,
                "the same clamp, 40 turns a leg", preview_of(piece_of("u-clamp M6 for 60 x 80")));
        compare("vessel, lofted through 24 outlines and hollowed by another",
                std::string("vessel '") + fluted_cup + "' 24", "the same vessel",
                preview_of(piece_of(fluted_cup)));
        compare("drum cam, its roller cut out every 10°", std::string("drum '") + drum_cam + "' 10",
                "the same groove, everywhere", preview_of(piece_of(drum_cam)));
    }

    int verdict() const {
        if (!valid_) out_ << "A solid came out invalid.\n";
        return valid_ && !table_.missed() ? 0 : 1;
    }

private:
    static Preview preview_of(const Piece& piece) {
        return make_preview(piece, 0, {}, LengthUnit::millimetre);
    }
    static double construction(const ResolvedPiece& piece) {
        return milliseconds([&] { solid::make_solid(solid::build_skin(piece)); });
    }
    void preview(const std::string& what, const Piece& piece, double goal = 16) {
        table_.row("preview after an edit, " + what, milliseconds([&] { preview_of(piece); }), "ms", goal);
    }
    double verified(const std::string& what, const Preview& p, double goal, int runs = 5) {
        const double t = milliseconds([&] { valid_ = make_verified_solid(p)->valid && valid_; }, runs);
        table_.row("valid solid with every check, " + what, t, "ms", goal);
        return t;
    }
    void compare(const std::string& theirs, const std::string& words, const std::string& ours,
                 const Preview& same, double goal = 0) {
        double t = 0, volume = 0;
        int valid = 0;
        for (const std::string& line : said_by(beside("whorl-textbook").string() + " " + words))
            std::sscanf(line.c_str(), "%lf %lf %d", &t, &volume, &valid);
        table_.row("textbook " + theirs + (valid ? "" : " (INVALID)"), t, "ms", 0);
        const double direct = milliseconds([&] { same.body.solid(same.mesh); });
        table_.row("direct solid of " + ours + ", with its mesh", direct, "ms", 0);
        table_.row("times faster", t / direct, "x", goal, true);
    }

    Table table_;
    std::ostream& out_;
    bool valid_ = true;
};

struct Options {
    bool no_textbook = false;
    int textbook_turns = 3;
};

int run(const Options& o, std::ostream& out) {
    Bench bench(out);
    bench.threads();
    bench.springs();
    bench.bends();
    bench.knurls();
    bench.grooves();
    bench.vessels();
    bench.cams();
    bench.keystroke();
    bench.named_values();
    bench.gears();
    bench.table_to_files();
    bench.step_file();
    bench.drawings();
    bench.window();
    if (!o.no_textbook) bench.textbook(o.textbook_turns);
    return bench.verdict();
}

} // namespace

void add_bench(Commands& commands) {
    add_command<Options>(
        commands, "bench", "Measure the speed goals, with the textbook way in the same run",
        [](CLI::App& c, Options& o) {
            c.add_flag("--no-textbook", o.no_textbook, "leave out the slow comparison");
            c.add_option("--textbook-turns", o.textbook_turns, "turns of the comparison")
                ->check(CLI::Range(1, 20));
        },
        [](const Options& o, Commands& to) { return run(o, to.out); });
}

} // namespace whorl
