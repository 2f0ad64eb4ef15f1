#include "exchange/assembly.hpp"
#include "exchange/export.hpp"
#include "exchange/form_file.hpp"
#include "exchange/gear_compare.hpp"
#include "exchange/step_text.hpp"

#include "model/edit.hpp"
#include "quantity/numeric.hpp"
#include "quantity/utf8.hpp"
#include "solid/kernel/kernel_shape.hpp"

#include <APIHeaderSection_MakeHeader.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Message_PrinterOStream.hxx>
#include <Poly_Triangulation.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Controller.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <STEPControl_Reader.hxx>
#include <Standard_Failure.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <TopLoc_Location.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>

#include <gp_Ax3.hxx>
#include <gp_Trsf.hxx>

#include <cstring>
#include <functional>
#include <memory>
#include <mutex>
#include <set>
#include <sys/mman.h>
#include <unistd.h>

namespace whorl {
namespace {

// The kernel keeps its STEP settings in global variables.
std::mutex& step_mutex() {
    static std::mutex m;
    return m;
}

void quiet() {
    static const bool once = [] {
        Message::DefaultMessenger()->RemovePrinters(STANDARD_TYPE(Message_PrinterOStream));
        return true;
    }();
    (void)once;
}

// ISO 10303-21, 6.4.3.3: what is not ASCII stands between \X2\ and \X0\ with four hexadecimal digits a
// character of the basic plane, between \X4\ and \X0\ with eight of the others.
std::string part21_text(const std::string& utf8) {
    std::string out;
    out.reserve(utf8.size());
    for (std::size_t i = 0; i < utf8.size();) {
        const auto lead = static_cast<unsigned char>(utf8[i]);
        const std::size_t length = character_size(utf8, i);
        if (length == 1) {
            out += utf8[i++];
            continue;
        }
        unsigned code = lead & (0xFFu >> (length + 1));
        for (std::size_t k = 1; k < length && i + k < utf8.size(); ++k)
            code = code << 6 | (static_cast<unsigned char>(utf8[i + k]) & 0x3F);
        char digits[32];
        std::snprintf(digits, sizeof digits, length < 4 ? "\\X2\\%04X\\X0\\" : "\\X4\\%08X\\X0\\", code);
        out += digits;
        i += length;
    }
    return out;
}

Handle(TDocStd_Document) new_document() {
    Handle(TDocStd_Document) doc;
    XCAFApp_Application::GetApplication()->NewDocument("MDTV-XCAF", doc);
    return doc;
}

// The same solid with faces of very many edges last: for each edge that no face before has brought along, the writer
// goes round the whole outline of its face (OCCT 7.6, TopoDSToStep_MakeStepEdge), and each of a knurl's or a gear's
// end belongs to another face, too.
TopoDS_Solid many_edged_last(const TopoDS_Solid& solid) {
    constexpr int many = 100;
    const BRep_Builder brep;
    TopoDS_Solid out;
    brep.MakeSolid(out);
    for (TopoDS_Iterator s(solid); s.More(); s.Next()) {
        TopoDS_Shell shell;
        brep.MakeShell(shell);
        std::vector<TopoDS_Shape> last;
        for (TopoDS_Iterator face(s.Value()); face.More(); face.Next()) {
            int edges = 0;
            for (TopExp_Explorer e(face.Value(), TopAbs_EDGE); e.More() && edges < many; e.Next())
                ++edges;
            if (edges < many)
                brep.Add(shell, face.Value());
            else
                last.push_back(face.Value());
        }
        for (const TopoDS_Shape& face : last)
            brep.Add(shell, face);
        shell.Closed(s.Value().Closed());
        brep.Add(out, shell);
    }
    return out;
}

} // namespace

namespace {

// A document's text, as a file of ISO 10303-21. `fill` puts the shapes in; called with the kernel's settings made.
// Throws FileError with the path, which nothing is written to.
std::string step_text(const char* schema, LengthUnit unit, const std::string& product,
                      const std::string& note, const std::filesystem::path& path,
                      const std::function<void(XCAFDoc_ShapeTool&, XCAFDoc_ColorTool&)>& fill) {
    // The writer wants a file's name; one in memory leaves nothing behind, however this ends.
    const int memory = ::memfd_create("step", MFD_CLOEXEC);
    if (memory < 0)
        throw FileError("'" + path.string() + "' can't be written: " + std::strerror(errno) + ".");
    const std::unique_ptr<const int, void (*)(const int*)> closed(&memory,
                                                                  [](const int* fd) { ::close(*fd); });
    const std::string own = "/proc/self/fd/" + std::to_string(memory);
    std::string content;
    try {
        const std::lock_guard lock(step_mutex());
        quiet();
        STEPCAFControl_Controller::Init();
        Interface_Static::SetCVal("write.step.schema", schema);
        Interface_Static::SetIVal("write.surfacecurve.mode", 0); // receivers project as fast; half the size
        Interface_Static::SetCVal("write.step.unit", unit == LengthUnit::inch ? "INCH" : "MM");
        Interface_Static::SetCVal("write.step.product.name", product.c_str());
        Handle(TDocStd_Document) doc = new_document();
        fill(*XCAFDoc_DocumentTool::ShapeTool(doc->Main()), *XCAFDoc_DocumentTool::ColorTool(doc->Main()));
        STEPCAFControl_Writer writer;
        writer.SetColorMode(true);
        writer.SetNameMode(true);
        const bool transferred = writer.Transfer(doc, STEPControl_AsIs);
        APIHeaderSection_MakeHeader header(writer.ChangeWriter().Model());
        const auto text = [](const std::string& s) { return new TCollection_HAsciiString(s.c_str()); };
        header.SetName(text(path.filename().string()));
        header.SetOriginatingSystem(text("Regular Whorl"));
        header.SetPreprocessorVersion(text("Regular Whorl"));
        header.SetAuthorValue(1, text(""));
        header.SetOrganizationValue(1, text(""));
        header.SetDescriptionValue(1, text(note));
        const bool done = transferred && writer.Write(own.c_str()) == IFSelect_RetDone;
        XCAFApp_Application::GetApplication()->Close(doc);
        if (done) content = read_file(own, 1u << 30);
    } catch (const Standard_Failure& e) {
        throw FileError("'" + path.string() + "' can't be written: the kernel stopped at it (" +
                        e.GetMessageString() + "). Please report the piece.");
    }
    if (content.find("END-ISO-10303-21;") == std::string::npos)
        throw FileError(
            "'" + path.string() +
            "' can't be written: its content came out incomplete; is there no room left, or a limit "
            "on the size of files?");
    return part21_text(smaller_step(content, unit == LengthUnit::inch ? 10 : 9));
}

void name(const TDF_Label& label, const std::string& text) {
    TDataStd_Name::Set(label, TCollection_ExtendedString(text.c_str(), true));
}

// A piece with its name and its colours.
TDF_Label add_piece(XCAFDoc_ShapeTool& shapes, XCAFDoc_ColorTool& colours, const VerifiedSolid& solid,
                    const Piece& piece) {
    const TDF_Label label = shapes.AddShape(many_edged_last(solid.solid.shape().solid), false);
    name(label, piece.name);
    const Finish& f = finish_of(piece);
    colours.SetColor(label, Quantity_Color(f.red, f.green, f.blue, Quantity_TOC_sRGB), XCAFDoc_ColorSurf);
    std::size_t face = 0;
    for (TopExp_Explorer at(solid.solid.shape().solid, TopAbs_FACE);
         at.More() && face < solid.zone_of_face.size(); at.Next(), ++face) {
        const std::size_t zone = solid.zone_of_face[face];
        if (zone >= piece.zones.size() || piece.zones[zone].finish.empty()) continue;
        const Finish& colour = finish_of(piece, zone);
        colours.SetColor(shapes.AddSubShape(label, at.Current()),
                         Quantity_Color(colour.red, colour.green, colour.blue, Quantity_TOC_sRGB),
                         XCAFDoc_ColorSurf);
    }
    return label;
}

gp_Trsf transform(const Standing& s) {
    gp_Trsf out;
    out.SetTransformation(
        gp_Ax3({s.origin[0], s.origin[1], s.origin[2]}, {s.z[0], s.z[1], s.z[2]}, {s.x[0], s.x[1], s.x[2]}),
        gp_Ax3());
    return out;
}

} // namespace

void write_step(const VerifiedSolid& solid, const Piece& piece, const std::string& note, LengthUnit unit,
                const std::filesystem::path& path) {
    write_file_atomically(path, step_text("AP214IS", unit, piece.name, note, path,
                                          [&](XCAFDoc_ShapeTool& shapes, XCAFDoc_ColorTool& colours) {
                                              add_piece(shapes, colours, solid, piece);
                                          }));
}

std::string step_of(const Assembly& all, const std::vector<std::shared_ptr<const VerifiedSolid>>& solids,
                    const std::filesystem::path& path) {
    return step_text(
        "AP242DIS", all.unit, all.name, all.name + ", " + std::to_string(all.parts.size()) + " pieces", path,
        [&](XCAFDoc_ShapeTool& shapes, XCAFDoc_ColorTool& colours) {
            const TDF_Label top = shapes.NewShape();
            name(top, all.name);
            for (std::size_t i = 0; i < all.parts.size(); ++i) {
                const Part& part = all.parts[i];
                const TDF_Label own = add_piece(shapes, colours, *solids.at(i), part.piece);
                name(shapes.AddComponent(top, own, TopLoc_Location(transform(part.at))), part.piece.name);
            }
            shapes.UpdateAssemblies();
        });
}

// A coarse mesh only says where the surfaces pass half the height; the points there are the surfaces' own.
std::vector<OutlinePiece> outline_of_step(const std::filesystem::path& path) {
    const std::lock_guard lock(step_mutex());
    quiet();
    STEPControl_Reader reader;
    if (reader.ReadFile(path.c_str()) != IFSelect_RetDone || reader.TransferRoots() == 0)
        throw FileError("'" + path.string() + "' can't be read as STEP.");
    const TopoDS_Shape shape = reader.OneShape();
    Bnd_Box whole;
    BRepBndLib::AddClose(shape, whole);
    if (whole.IsVoid()) throw InputError("There is no solid in '" + path.string() + "'.");
    const double low = whole.CornerMin().Z(), high = whole.CornerMax().Z();
    const double z = low + (high - low) * 0.49731; // not where a layer of corners may lie
    std::vector<OutlinePiece> out;
    for (TopExp_Explorer e(shape, TopAbs_FACE); e.More(); e.Next()) {
        const TopoDS_Face face = TopoDS::Face(e.Current());
        Bnd_Box box;
        BRepBndLib::AddClose(face, box);
        if (box.IsVoid() || box.CornerMin().Z() > z || box.CornerMax().Z() < z) continue;
        const BRepMesh_IncrementalMesh meshed(face, 0.02, false, 0.3);
        TopLoc_Location where;
        const auto mesh = BRep_Tool::Triangulation(face, where);
        if (mesh.IsNull() || !mesh->HasUVNodes()) continue;
        const BRepAdaptor_Surface surface(face);
        const auto at = [&](const gp_Pnt2d& a, const gp_Pnt2d& b, double t) {
            return surface.Value(a.X() + t * (b.X() - a.X()), a.Y() + t * (b.Y() - a.Y()));
        };
        for (int i = 1; i <= mesh->NbTriangles(); ++i) {
            int id[3];
            mesh->Triangle(i).Get(id[0], id[1], id[2]);
            std::vector<gp_Pnt2d> cut;
            for (int k = 0; k < 3; ++k) {
                const gp_Pnt2d a = mesh->UVNode(id[k]), b = mesh->UVNode(id[(k + 1) % 3]);
                const auto above = [&](double t) { return at(a, b, t).Z() > z; };
                const bool begin = above(0);
                if (begin == above(1)) continue;
                // the plane's crossing, to 1e-9 of the side
                const double t = halved(
                                     0, 1, [&](double at_t) { return above(at_t) == begin; }, 1e-9)
                                     .middle();
                cut.emplace_back(a.X() + t * (b.X() - a.X()), a.Y() + t * (b.Y() - a.Y()));
            }
            if (cut.size() != 2) continue;
            constexpr int parts = 8;
            const auto point = [&](int k) {
                const gp_Pnt p = at(cut[0], cut[1], static_cast<double>(k) / parts);
                return OutlinePoint{p.X(), p.Y(), 0};
            };
            for (int k = 0; k < parts; ++k)
                out.push_back({point(k), point(k + 1)});
        }
    }
    if (out.empty()) throw InputError("There is no solid in '" + path.string() + "'.");
    return out;
}

namespace {

std::string name_of(const TDF_Label& label) {
    Handle(TDataStd_Name) name;
    if (!label.FindAttribute(TDataStd_Name::GetID(), name)) return {};
    std::string text(static_cast<std::size_t>(name->Get().LengthOfCString()) + 1, '\0');
    char* begin = text.data();
    name->Get().ToUTF8CString(begin);
    return text.c_str();
}

} // namespace

StepContent read_step(const std::filesystem::path& path) {
    const std::lock_guard lock(step_mutex());
    quiet();
    StepContent out;
    Handle(TDocStd_Document) doc = new_document();
    STEPCAFControl_Reader reader;
    reader.SetNameMode(true);
    if (reader.ReadFile(path.c_str()) != IFSelect_RetDone || !reader.Transfer(doc))
        throw FileError("'" + path.string() + "' can't be read as STEP.");
    const auto shapes = XCAFDoc_DocumentTool::ShapeTool(doc->Main());
    TDF_LabelSequence labels;
    shapes->GetFreeShapes(labels);
    out.valid = labels.Length() > 0;
    for (const TDF_Label& label : labels) {
        const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(label);
        for (TopExp_Explorer e(shape, TopAbs_SOLID); e.More(); e.Next())
            ++out.solids;
        out.valid = out.valid && BRepCheck_Analyzer(shape).IsValid();
        GProp_GProps g;
        BRepGProp::VolumeProperties(shape, g, 1e-8, true);
        out.volume += g.Mass();
        if (const auto said = name_of(label); !said.empty()) out.name = said;
    }
    XCAFApp_Application::GetApplication()->Close(doc);
    return out;
}

std::vector<ReadInstance> read_step_instances(const std::filesystem::path& path) {
    const std::lock_guard lock(step_mutex());
    quiet();
    std::vector<ReadInstance> out;
    Handle(TDocStd_Document) doc = new_document();
    STEPCAFControl_Reader reader;
    reader.SetNameMode(true);
    reader.SetColorMode(true);
    if (reader.ReadFile(path.c_str()) != IFSelect_RetDone || !reader.Transfer(doc))
        throw FileError("'" + path.string() + "' can't be read as STEP.");
    const auto shapes = XCAFDoc_DocumentTool::ShapeTool(doc->Main());
    const auto colours = XCAFDoc_DocumentTool::ColorTool(doc->Main());
    TDF_LabelSequence tops, parts;
    shapes->GetFreeShapes(tops);
    for (const TDF_Label& top : tops)
        XCAFDoc_ShapeTool::GetComponents(top, parts);
    for (const TDF_Label& part : parts) {
        TDF_Label own;
        XCAFDoc_ShapeTool::GetReferredShape(part, own);
        ReadInstance one;
        one.name = name_of(own);
        const gp_Trsf t = XCAFDoc_ShapeTool::GetLocation(part).Transformation();
        for (int k = 0; k < 3; ++k) {
            const auto i = static_cast<std::size_t>(k);
            one.at.x[i] = t.Value(k + 1, 1);
            one.at.y[i] = t.Value(k + 1, 2);
            one.at.z[i] = t.Value(k + 1, 3);
            one.at.origin[i] = t.Value(k + 1, 4);
        }
        GProp_GProps g;
        BRepGProp::VolumeProperties(XCAFDoc_ShapeTool::GetShape(own), g);
        one.volume = g.Mass();
        Quantity_Color colour;
        const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(own);
        one.coloured = colours->GetColor(shape, XCAFDoc_ColorSurf, colour) ||
                       colours->GetColor(shape, XCAFDoc_ColorGen, colour);
        out.push_back(std::move(one));
    }
    XCAFApp_Application::GetApplication()->Close(doc);
    return out;
}

std::string model_note(const Piece& piece, const ResolvedPiece& resolved) {
    std::string note = piece.name;
    for (const ResolvedZone& z : resolved.zones)
        if (const FormFile& f = file_of(z); f.note) note += "; " + f.note(z);
    return note;
}

std::string file_stem(const std::string& name) {
    constexpr std::size_t longest = 200; // bytes; file systems bear 255
    std::string out;
    for (std::size_t i = 0; i < name.size();) {
        const auto lead = static_cast<unsigned char>(name[i]);
        const std::size_t length = character_size(name, i);
        const std::string letter = name.substr(i, length);
        i += length;
        // blanks, controls and punctuation of the Latin-1 and general punctuation blocks part words
        const bool parts = length == 1 ? !std::isalnum(lead) && lead != '-' && lead != '_'
                                       : (letter.starts_with("\xC2") && letter != "\xC2\xAA" &&
                                          letter != "\xC2\xB5" && letter != "\xC2\xBA") ||
                                             letter.starts_with("\xE2\x80") ||
                                             letter.starts_with("\xE2\x81") || letter == "\xE3\x80\x80";
        if (out.size() + letter.size() > longest) break;
        if (!parts)
            out += letter;
        else if (!out.empty() && out.back() != '-')
            out += '-';
    }
    while (!out.empty() && out.back() == '-')
        out.pop_back();
    return out.empty() ? "piece" : out;
}

std::vector<std::string> file_stems(const std::vector<std::string>& names) {
    std::vector<std::string> out;
    std::set<std::string> asked, used;
    for (const std::string& name : names) {
        out.push_back(file_stem(name));
        asked.insert(out.back());
    }
    for (std::string& stem : out) {
        std::string own = stem;
        // a made-up name is none that another piece has asked for
        for (int n = 2; used.contains(own) || (own != stem && asked.contains(own)); ++n)
            own = stem + "-" + std::to_string(n);
        used.insert(own);
        stem = own;
    }
    return out;
}

} // namespace whorl
