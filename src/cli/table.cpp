#include "cli/table.hpp"

#include "cli/commands.hpp"

#include "build/build.hpp"
#include "exchange/export.hpp"
#include "model/forms/common_rows.hpp"
#include "model/job_file.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <atomic>
#include <charconv>
#include <chrono>
#include <cstdint>
#include <filesystem>
#include <map>
#include <mutex>
#include <ostream>
#include <sstream>
#include <thread>

namespace whorl {
namespace {

struct TableRow {
    std::size_t line = 0;
    std::string designation, name, stem;
    std::vector<std::string> fields = {};   // as `--set` takes them: length=40
    std::string state, detail, fingerprint; // filled when done
};

std::string csv_cell(const std::string& cell) {
    if (cell.find_first_of(",\"\n") == std::string::npos) return cell;
    std::string out = "\"";
    for (const char c : cell)
        out += c == '"' ? "\"\"" : std::string(1, c);
    return out + "\"";
}

// FNV-1a, 64 bit (Fowler, Noll, Vo): what a file was made from and what it holds.
std::string fingerprint(std::string_view text) {
    std::uint64_t hash = 14695981039346656037u;
    for (const char c : text)
        hash = (hash ^ static_cast<unsigned char>(c)) * 1099511628211u;
    char digits[17];
    const auto end = std::to_chars(digits, digits + 16, hash, 16);
    return {digits, end.ptr};
}

// Of all files of a row as they lie there now; empty if one is missing or can't be read.
std::string fingerprint_of(const TableRow& row, const BatchOptions& options) {
    std::string all = row.designation + "\n" + row.name + "\n" + number_text(options.chord, 9) + "\n";
    for (const std::string& field : row.fields)
        all += field + "\n";
    for (const auto& format : options.formats) {
        const auto path = std::filesystem::path(options.directory) / (row.stem + "." + format);
        try {
            all += format + "\n" + read_file(path, 1u << 30);
        } catch (const FileError&) {
            return {};
        }
    }
    return fingerprint(all);
}

constexpr const char* report_header = "line,name,designation,state,detail,fingerprint\n";

// What an earlier run's report says of each name; nothing without a report.
std::map<std::string, std::string> earlier_fingerprints(const std::filesystem::path& report) {
    std::map<std::string, std::string> out;
    try {
        std::istringstream text(read_file(report, 64u << 20));
        std::string line;
        while (std::getline(text, line))
            if (const auto cells = csv_cells(line); cells.size() == 6 && !cells[5].empty())
                out[cells[1]] = cells[5];
    } catch (const FileError&) {
    }
    return out;
}

void write_report(const std::vector<TableRow>& rows, const BatchOptions& options) {
    std::string report = report_header;
    for (const TableRow& row : rows)
        if (!row.state.empty())
            report += std::to_string(row.line) + "," + csv_cell(row.stem) + "," + csv_cell(row.designation) +
                      "," + row.state + "," + csv_cell(row.detail) + "," + row.fingerprint + "\n";
    write_file_atomically(std::filesystem::path(options.directory) / "report.csv", report);
}

bool is_field(const std::string& column) {
    const auto& all = all_fields();
    return column == field::piece_finish.key ||
           std::any_of(all.begin(), all.end(), [&](const Field& f) { return f.key == column; });
}

std::vector<TableRow> read_rows(const std::string& path) {
    std::istringstream text(with_plain_line_ends(read_file(path, 64u << 20)));
    std::string line;
    std::size_t number = 0;
    std::vector<std::string> header;
    std::vector<TableRow> rows;
    while (std::getline(text, line)) {
        ++number;
        if (line.find_first_not_of(" ,\t") == std::string::npos) continue;
        const auto cells = csv_cells(line);
        if (header.empty()) {
            header = cells;
            if (!header[0].empty() && header[0].starts_with("\xEF\xBB\xBF")) header[0].erase(0, 3);
            if (std::find(header.begin(), header.end(), "designation") == header.end())
                throw InputError(
                    "The table's first line must name its columns, one of them 'designation'; '" +
                    line.substr(0, 60) + "' does not.");
            for (const std::string& column : header)
                if (!column.empty() && column != "designation" && column != "name" && !is_field(column))
                    throw InputError(
                        "The table has a column " + in_quotes(column, 40) +
                        ", which is not known; there are designation, name and the fields that --set takes, "
                        "such as length or pitch.");
            continue;
        }
        TableRow row;
        row.line = number;
        for (std::size_t i = 0; i < header.size() && i < cells.size(); ++i) {
            if (header[i] == "designation")
                row.designation = cells[i];
            else if (header[i] == "name")
                row.name = cells[i];
            else if (!header[i].empty() && !cells[i].empty())
                row.fields.push_back(header[i] + "=" + cells[i]);
        }
        rows.push_back(std::move(row));
    }
    if (header.empty()) throw InputError("The table is empty; its first line must name its columns.");
    return rows;
}

void make_row(TableRow& row, const BatchOptions& options, const std::string& earlier) {
    try {
        Job job = job_of(row.designation);
        for (const std::string& field : row.fields)
            job = with_field(job, field);
        Piece piece = job.pieces[0];
        if (!row.name.empty()) piece.name = row.name.substr(0, 80);
        const LengthUnit unit = job.unit;
        const std::filesystem::path base = std::filesystem::path(options.directory) / row.stem;
        const auto file = [&](const std::string& format) { return base.string() + "." + format; };
        if (!options.again && !earlier.empty() && fingerprint_of(row, options) == earlier) {
            row.state = "kept";
            row.detail = "there from an earlier run";
            row.fingerprint = earlier;
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
        row.fingerprint = fingerprint_of(row, options);
        row.detail = number_text(p.volume(), 3) + " mm3";
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
    std::vector<TableRow> rows = read_rows(options.table);
    std::error_code error;
    std::filesystem::create_directories(options.directory, error);
    if (error) throw FileError("'" + options.directory + "' can't be made: " + error.message() + ".");
    std::vector<std::string> asked;
    asked.reserve(rows.size());
    for (const TableRow& row : rows)
        asked.push_back(row.name.empty() ? row.designation : row.name);
    const std::vector<std::string> stems = file_stems(asked);
    for (std::size_t i = 0; i < rows.size(); ++i)
        rows[i].stem = stems[i];
    const auto earlier = earlier_fingerprints(std::filesystem::path(options.directory) / "report.csv");
    std::atomic<std::size_t> next{0}, done{0};
    std::mutex console; // and the rows
    auto reported = std::chrono::steady_clock::now();
    {
        std::vector<std::jthread> workers;
        const int count = std::clamp(options.jobs, 1, 64);
        workers.reserve(static_cast<std::size_t>(count));
        for (int w = 0; w < count; ++w)
            workers.emplace_back([&] {
                for (std::size_t i = next++; i < rows.size(); i = next++) {
                    TableRow row = rows[i];
                    const auto known = earlier.find(row.stem);
                    make_row(row, options, known == earlier.end() ? std::string() : known->second);
                    const std::size_t so_far = ++done;
                    const std::lock_guard lock(console);
                    rows[i] = std::move(row);
                    // a run that is ended can be taken up: at most a second's work is made again
                    if (const auto now = std::chrono::steady_clock::now();
                        now - reported > std::chrono::seconds(1)) {
                        write_report(rows, options);
                        reported = now;
                    }
                    const bool good = rows[i].state == "made" || rows[i].state == "kept";
                    (good ? out : err)
                        << so_far << "/" << rows.size() << " " << rows[i].state << " " << rows[i].designation
                        << (good ? "" : ": line " + std::to_string(rows[i].line) + ": " + rows[i].detail)
                        << "\n";
                }
            });
    }
    write_report(rows, options);
    const auto bad = std::count_if(rows.begin(), rows.end(), [](const TableRow& row) {
        return row.state != "made" && row.state != "kept";
    });
    out << rows.size() << " rows, " << bad << " not made; see " << options.directory << "/report.csv\n";
    return bad > 0 ? 1 : 0;
}

} // namespace whorl
