#include "cli/table.hpp"

#include "cli/section.hpp"

#include "build/build.hpp"
#include "exchange/export.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <atomic>
#include <filesystem>
#include <map>
#include <mutex>
#include <ostream>
#include <sstream>
#include <thread>

namespace whorl {
namespace {

struct Row {
    std::size_t line = 0;
    std::string designation, name, stem;
    std::string state, detail; // filled when done
};

std::string quoted(const std::string& cell) {
    if (cell.find_first_of(",\"\n") == std::string::npos) return cell;
    std::string out = "\"";
    for (const char c : cell)
        out += c == '"' ? "\"\"" : std::string(1, c);
    return out + "\"";
}

std::vector<Row> read_rows(const std::string& path) {
    std::istringstream text(read_file(path, 64u << 20));
    std::string line;
    std::size_t number = 0;
    std::vector<std::string> header;
    std::vector<Row> rows;
    while (std::getline(text, line)) {
        ++number;
        if (!line.empty() && line.back() == '\r') line.pop_back();
        if (line.find_first_not_of(" ,\t") == std::string::npos) continue;
        const auto cells = csv_cells(line);
        if (header.empty()) {
            header = cells;
            if (!header[0].empty() && header[0].starts_with("\xEF\xBB\xBF")) header[0].erase(0, 3);
            if (std::find(header.begin(), header.end(), "designation") == header.end())
                throw InputError(
                    "The table's first line must name its columns, one of them 'designation'; '" +
                    line.substr(0, 60) + "' does not.");
            continue;
        }
        Row row;
        row.line = number;
        for (std::size_t i = 0; i < header.size() && i < cells.size(); ++i) {
            if (header[i] == "designation") row.designation = cells[i];
            if (header[i] == "name") row.name = cells[i];
        }
        rows.push_back(std::move(row));
    }
    if (header.empty()) throw InputError("The table is empty; its first line must name its columns.");
    return rows;
}

void make_row(Row& row, const BatchOptions& options) {
    try {
        const auto known = known_in(row.designation);
        Piece piece = piece_of(row.designation, known);
        if (!row.name.empty()) piece.name = row.name.substr(0, 80);
        const LengthUnit unit = is_starter(row.designation) ? LengthUnit::millimetre
                                                            : parse_designation(row.designation, known).unit;
        const std::filesystem::path base = std::filesystem::path(options.directory) / row.stem;
        const auto file = [&](const std::string& format) { return base.string() + "." + format; };
        if (!options.again && std::all_of(options.formats.begin(), options.formats.end(),
                                          [&](const auto& f) { return std::filesystem::exists(file(f)); })) {
            row.state = "kept";
            row.detail = "there from an earlier run";
            return;
        }
        const Preview p = make_preview(piece, 0, {}, unit, options.chord);
        if (!p.made()) {
            row.state = "stopped";
            row.detail = p.findings.empty() ? "nothing could be made" : p.findings.front().sentence;
            return;
        }
        for (const auto& format : options.formats) {
            if (format == "stl") {
                write_stl(p.mesh, model_note(piece, p.piece), file(format));
                continue;
            }
            const auto solid = make_verified_solid(p);
            if (!solid->valid) {
                row.state = "stopped";
                row.detail = "the kernel does not accept the solid as valid";
                return;
            }
            write_step(*solid, piece, model_note(piece, p.piece), unit, file(format));
        }
        row.state = "made";
        row.detail = number_text(p.volume, 3) + " mm3";
        for (const auto& f : p.findings)
            row.detail += "; advice: " + f.sentence;
    } catch (const InputError& e) {
        row.state = "refused";
        row.detail = e.what();
    } catch (const std::exception& e) {
        row.state = "stopped";
        row.detail = e.what();
    }
}

} // namespace

std::vector<std::string> csv_cells(const std::string& line) {
    std::vector<std::string> out(1);
    bool in_quotes = false;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const char c = line[i];
        if (in_quotes) {
            if (c == '"' && i + 1 < line.size() && line[i + 1] == '"') {
                out.back() += '"';
                ++i;
            } else if (c == '"') {
                in_quotes = false;
            } else {
                out.back() += c;
            }
        } else if (c == '"' && out.back().find_first_not_of(' ') == std::string::npos) {
            out.back().clear();
            in_quotes = true;
        } else if (c == ',') {
            out.emplace_back();
        } else {
            out.back() += c;
        }
    }
    for (auto& cell : out) { // blanks around a cell mean nothing
        const auto first = cell.find_first_not_of(" \t"), last = cell.find_last_not_of(" \t");
        cell = first == std::string::npos ? "" : cell.substr(first, last - first + 1);
    }
    return out;
}

int make_table(const BatchOptions& options, std::ostream& out, std::ostream& err) {
    for (const auto& f : options.formats)
        if (f != "step" && f != "stl")
            throw InputError("There is no format '" + f + "' for tables; choose among step and stl.");
    std::vector<Row> rows = read_rows(options.table);
    std::error_code error;
    std::filesystem::create_directories(options.directory, error);
    if (error) throw FileError("'" + options.directory + "' can't be made: " + error.message() + ".");
    std::map<std::string, int> used;
    for (Row& row : rows) {
        row.stem = file_stem(row.name.empty() ? row.designation : row.name);
        if (const int n = ++used[row.stem]; n > 1) row.stem += "-" + std::to_string(n);
    }
    std::atomic<std::size_t> next{0}, done{0};
    std::mutex console;
    {
        std::vector<std::jthread> workers;
        const int count = std::clamp(options.jobs, 1, 64);
        for (int w = 0; w < count; ++w)
            workers.emplace_back([&] {
                for (std::size_t i = next++; i < rows.size(); i = next++) {
                    make_row(rows[i], options);
                    const std::size_t so_far = ++done;
                    const std::lock_guard lock(console);
                    const bool good = rows[i].state == "made" || rows[i].state == "kept";
                    (good ? out : err)
                        << so_far << "/" << rows.size() << " " << rows[i].state << " " << rows[i].designation
                        << (good ? "" : ": line " + std::to_string(rows[i].line) + ": " + rows[i].detail)
                        << "\n";
                }
            });
    }
    std::string report = "line,name,designation,state,detail\n";
    int bad = 0;
    for (const Row& row : rows) {
        report += std::to_string(row.line) + "," + quoted(row.stem) + "," + quoted(row.designation) + "," +
                  row.state + "," + quoted(row.detail) + "\n";
        bad += row.state != "made" && row.state != "kept";
    }
    write_file_atomically(std::filesystem::path(options.directory) / "report.csv", report);
    out << rows.size() << " rows, " << bad << " not made; see " << options.directory << "/report.csv\n";
    return bad > 0 ? 1 : 0;
}

} // namespace whorl
