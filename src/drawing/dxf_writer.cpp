#include "drawing/write_sheet.hpp"

#include "model/file.hpp"
#include "quantity/numeric.hpp"

#include <cmath>
#include <cstdio>
#include <dxflib/dl_dxf.h>
#include <dxflib/dl_writer_ascii.h>
#include <map>
#include <sstream>
#include <unistd.h>

namespace whorl::drawing {
namespace {

// In code page 1252, as the header says; what that lacks as \\U+2264.
std::string encoded(const std::string& words) {
    static const std::map<unsigned, char> of_1252{{0x20AC, '\x80'}, {0x2026, '\x85'}, {0x2030, '\x89'},
                                                  {0x2018, '\x91'}, {0x2019, '\x92'}, {0x201C, '\x93'},
                                                  {0x201D, '\x94'}, {0x2013, '\x96'}, {0x2014, '\x97'}};
    std::string out;
    for (std::size_t i = 0; i < words.size();) {
        const auto lead = static_cast<unsigned char>(words[i]);
        if (lead < 0x80) {
            if (lead >= 0x20) out += words[i];
            ++i;
            continue;
        }
        const int more = lead >= 0xF0 ? 3 : lead >= 0xE0 ? 2 : 1;
        unsigned code = lead & (0x3Fu >> more);
        for (int k = 0; k < more && i + 1 < words.size(); ++k)
            code = (code << 6) | (static_cast<unsigned char>(words[++i]) & 0x3Fu);
        ++i;
        if (code >= 0xA0 && code <= 0xFF) {
            out += static_cast<char>(code);
        } else if (const auto found = of_1252.find(code); found != of_1252.end()) {
            out += found->second;
        } else {
            char text[16];
            if (code > 0xFFFF) code = '?'; // none in R2000
            std::snprintf(text, sizeof text, "\\U+%04X", code);
            out += text;
        }
    }
    return out;
}

// The library leaves out which dictionary owns an object: said after its handle.
std::string with_owners(const std::string& file) {
    std::vector<std::string> lines;
    std::istringstream in(file);
    for (std::string line; std::getline(in, line);) {
        if (!line.empty() && line.back() == '\r') line.pop_back();
        lines.push_back(line);
    }
    const auto code = [&](std::size_t i) {
        return lines[i].substr(std::min(lines[i].find_first_not_of(' '), lines[i].size()));
    };
    std::size_t begin = 0;
    for (std::size_t i = 0; i + 1 < lines.size(); i += 2)
        if (code(i) == "2" && lines[i + 1] == "OBJECTS") begin = i + 2;
    if (begin == 0) return file;
    std::map<std::string, std::string> owner; // by handle
    std::string handle;
    for (std::size_t i = begin; i + 1 < lines.size(); i += 2) {
        if (code(i) == "0") handle.clear();
        if (code(i) == "5" && handle.empty()) handle = lines[i + 1];
        if ((code(i) == "350" || code(i) == "360") && !handle.empty())
            owner.try_emplace(lines[i + 1], handle);
    }
    std::string out;
    for (std::size_t i = 0; i + 1 < lines.size(); i += 2) {
        if (i > begin && code(i) == "330" && code(i - 2) == "5") continue; // said anew
        out += lines[i] + "\n" + lines[i + 1] + "\n";
        if (i < begin || code(i) != "5") continue;
        const auto found = owner.find(lines[i + 1]);
        out += "330\n" + (found == owner.end() ? std::string("0") : found->second) + "\n";
    }
    return out;
}

DL_Attributes on(LineKind kind) {
    return DL_Attributes(style_of(kind).layer, 256, -1, "BYLAYER", 1.0);
}

void write_spline(DL_Dxf& dxf, DL_WriterA& w, const Stroke& s) {
    // its Bézier pieces as one: each inner knot three times
    const std::vector<At> control = curve_through(s.points);
    const auto n = static_cast<unsigned>(control.size()), pieces = static_cast<unsigned>(s.points.size() - 1);
    dxf.writeSpline(w, DL_SplineData(3, static_cast<int>(n + 4), static_cast<int>(n), 0, 8), on(s.kind));
    const auto knot = [&](double v) { dxf.writeKnot(w, DL_KnotData(v)); };
    knot(0);
    for (unsigned i = 0; i <= pieces; ++i)
        for (int k = 0; k < 3; ++k)
            knot(i);
    knot(pieces);
    for (const At& c : control)
        dxf.writeControlPoint(w, DL_ControlPointData(c.x, c.y, 0, 1));
}

void write_stroke(DL_Dxf& dxf, DL_WriterA& w, const Stroke& s) {
    if (s.is_arc()) {
        if (s.to - s.from > full_turn - 1e-9)
            dxf.writeCircle(w, DL_CircleData(s.centre.x, s.centre.y, 0, s.radius), on(s.kind));
        else
            dxf.writeArc(w,
                         DL_ArcData(s.centre.x, s.centre.y, 0, s.radius, s.from * 180 / pi, s.to * 180 / pi),
                         on(s.kind));
        return;
    }
    if (s.smooth && s.points.size() > 2) return write_spline(dxf, w, s);
    for (std::size_t i = 0; i + 1 < s.points.size() + (s.closed ? 1 : 0); ++i) {
        const At a = s.points[i], b = s.points[(i + 1) % s.points.size()];
        dxf.writeLine(w, DL_LineData(a.x, a.y, 0, b.x, b.y, 0), on(s.kind));
    }
}

void write_tables(DL_Dxf& dxf, DL_WriterA& w) {
    w.sectionTables();
    dxf.writeVPort(w);
    w.tableLinetypes(5);
    for (const char* name : {"BYBLOCK", "BYLAYER", "CONTINUOUS"})
        dxf.writeLinetype(w, DL_LinetypeData(name, name, 0, 0, 0));
    for (const LineKind kind : {LineKind::hidden, LineKind::centre}) {
        const LineStyle& style = style_of(kind);
        std::vector<double> pattern;
        double whole = 0;
        for (std::size_t i = 0; i < style.dashes.size(); ++i) {
            pattern.push_back(i % 2 ? -style.dashes[i] : style.dashes[i]);
            whole += style.dashes[i];
        }
        dxf.writeLinetype(w, DL_LinetypeData(kind == LineKind::hidden ? "DASHED" : "CENTRE",
                                             kind == LineKind::hidden ? "dashed" : "long-dashed dotted", 0,
                                             static_cast<int>(pattern.size()), whole, pattern.data()));
    }
    w.tableEnd();
    w.tableLayers(line_kinds + 2);
    dxf.writeLayer(w, DL_LayerData("0", 0), DL_Attributes("", 7, 25, "CONTINUOUS", 1.0));
    dxf.writeLayer(w, DL_LayerData("text", 0), DL_Attributes("", 7, 25, "CONTINUOUS", 1.0));
    for (int i = 0; i < line_kinds; ++i) {
        const auto kind = static_cast<LineKind>(i);
        const LineStyle& style = style_of(kind);
        const char* dashes = kind == LineKind::hidden                            ? "DASHED"
                             : kind == LineKind::centre || kind == LineKind::cut ? "CENTRE"
                                                                                 : "CONTINUOUS";
        dxf.writeLayer(w, DL_LayerData(style.layer, 0),
                       DL_Attributes("", 7, static_cast<int>(std::lround(style.width * 100)), dashes, 1.0));
    }
    w.tableEnd();
    w.tableStyle(1);
    dxf.writeStyle(w, DL_StyleData("STANDARD", 0, 0, 1, 0, 0, 3.5, "txt", ""));
    w.tableEnd();
    dxf.writeView(w);
    dxf.writeUcs(w);
    w.tableAppid(1);
    dxf.writeAppid(w, "ACAD");
    w.tableEnd();
    dxf.writeDimStyle(w, 3, 2, 0.6, 0.9, 3.5);
    dxf.writeBlockRecord(w);
    w.tableEnd();
    w.sectionEnd();
    w.sectionBlocks();
    for (const char* name : {"*Model_Space", "*Paper_Space", "*Paper_Space0"}) {
        dxf.writeBlock(w, DL_BlockData(name, 0, 0, 0, 0));
        dxf.writeEndBlock(w, name);
    }
    w.sectionEnd();
}

} // namespace

std::string dxf_of(const Paper& paper) {
    // the library writes to a path only
    std::string path = (std::filesystem::temp_directory_path() / "whorl-XXXXXX").string();
    const int file = mkstemp(path.data());
    if (file < 0) throw FileError("'" + path + "' can't be written.");
    close(file);
    std::string out;
    try {
        DL_Dxf dxf;
        const std::unique_ptr<DL_WriterA> w(dxf.out(path.c_str(), DL_Codes::AC1015));
        if (!w) throw FileError("'" + path + "' can't be written.");
        dxf.writeHeader(*w);
        w->dxfString(9, "$DWGCODEPAGE");
        w->dxfString(3, "ANSI_1252");
        w->dxfString(9, "$INSUNITS");
        w->dxfInt(70, 4); // millimetres
        w->sectionEnd();
        write_tables(dxf, *w);
        w->sectionEntities();
        for (const Stroke& s : paper.strokes)
            write_stroke(dxf, *w, s);
        for (const Fill& f : paper.fills)
            if (f.points.size() >= 3) {
                const auto& p = f.points;
                const At last = p.size() > 3 ? p[3] : p[2];
                DL_TraceData solid(p[0].x, p[0].y, 0, p[1].x, p[1].y, 0, p[2].x, p[2].y, 0, last.x, last.y, 0,
                                   0);
                dxf.writeSolid(*w, solid, on(LineKind::thin));
            }
        for (const Text& t : paper.texts) {
            if (t.words.empty()) continue;
            const int across = t.anchor == Anchor::left ? 0 : t.anchor == Anchor::middle ? 1 : 2;
            dxf.writeText(*w,
                          DL_TextData(t.at.x, t.at.y, 0, t.at.x, t.at.y, 0, t.height, 1, 0, across, 0,
                                      encoded(t.words), "STANDARD", t.angle),
                          DL_Attributes("text", 256, -1, "BYLAYER", 1.0));
        }
        w->sectionEnd();
        dxf.writeObjects(*w);
        dxf.writeObjectsEnd(*w);
        w->dxfEOF();
        w->close();
        out = with_owners(read_file(path, std::size_t{1} << 30));
    } catch (...) {
        std::filesystem::remove(path);
        throw;
    }
    std::filesystem::remove(path);
    return out;
}

} // namespace whorl::drawing
