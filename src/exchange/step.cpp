#include "exchange/export.hpp"
#include "exchange/gear_compare.hpp"

#include "model/edit.hpp"
#include "solid/kernel_shape.hpp"

#include <APIHeaderSection_MakeHeader.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Tool.hxx>
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
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>

#include <atomic>
#include <fstream>
#include <mutex>
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

Handle(TDocStd_Document) new_document() {
    Handle(TDocStd_Document) doc;
    XCAFApp_Application::GetApplication()->NewDocument("MDTV-XCAF", doc);
    return doc;
}

} // namespace

void write_step(const VerifiedSolid& solid, const Piece& piece, const std::string& note, LengthUnit unit,
                const std::filesystem::path& path) {
    // where the writer can't write, say so before the work
    static std::atomic<int> serial{0};
    const std::filesystem::path temporary =
        path.string() + ".part-" + std::to_string(::getpid()) + "-" + std::to_string(++serial);
    write_file_atomically(temporary, "");
    std::string content;
    try {
        const std::lock_guard lock(step_mutex());
        quiet();
        STEPCAFControl_Controller::Init();
        Interface_Static::SetCVal("write.step.schema", "AP214IS");
        Interface_Static::SetIVal("write.surfacecurve.mode", getenv("PC") ? atoi(getenv("PC")) : 0);
        Interface_Static::SetCVal("write.step.unit", unit == LengthUnit::inch ? "INCH" : "MM");
        Interface_Static::SetCVal("write.step.product.name", piece.name.c_str());
        Handle(TDocStd_Document) doc = new_document();
        const auto shapes = XCAFDoc_DocumentTool::ShapeTool(doc->Main());
        const auto colours = XCAFDoc_DocumentTool::ColorTool(doc->Main());
        const TDF_Label label = shapes->AddShape(solid.solid.shape().solid, false);
        TDataStd_Name::Set(label, TCollection_ExtendedString(piece.name.c_str(), true));
        const Finish& f = finish_of(piece);
        colours->SetColor(label, Quantity_Color(f.red, f.green, f.blue, Quantity_TOC_sRGB),
                          XCAFDoc_ColorSurf);
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
        const bool done = transferred && writer.Write(temporary.c_str()) == IFSelect_RetDone;
        XCAFApp_Application::GetApplication()->Close(doc);
        if (!done) throw FileError("'" + path.string() + "' can't be written: the STEP writer failed.");
        content = read_file(temporary, 1u << 30);
    } catch (const Standard_Failure& e) {
        ::unlink(temporary.c_str());
        throw FileError("'" + path.string() + "' can't be written: " + e.GetMessageString());
    } catch (...) {
        ::unlink(temporary.c_str());
        throw;
    }
    ::unlink(temporary.c_str());
    if (content.find("END-ISO-10303-21;") == std::string::npos)
        throw FileError("'" + path.string() +
                        "' can't be written: the STEP file came out incomplete; is the disk full?");
    write_file_atomically(path, content);
}

std::vector<CutTriangle> triangles_of_step(const std::filesystem::path& path) {
    const std::lock_guard lock(step_mutex());
    quiet();
    STEPControl_Reader reader;
    if (reader.ReadFile(path.c_str()) != IFSelect_RetDone || reader.TransferRoots() == 0)
        throw FileError("'" + path.string() + "' can't be read as STEP.");
    const TopoDS_Shape shape = reader.OneShape();
    BRepMesh_IncrementalMesh(shape, 5e-4, false, 0.5, true);
    std::vector<CutTriangle> out;
    for (TopExp_Explorer e(shape, TopAbs_FACE); e.More(); e.Next()) {
        TopLoc_Location where;
        const auto mesh = BRep_Tool::Triangulation(TopoDS::Face(e.Current()), where);
        if (mesh.IsNull()) continue;
        for (int i = 1; i <= mesh->NbTriangles(); ++i) {
            CutTriangle t{};
            int id[3];
            mesh->Triangle(i).Get(id[0], id[1], id[2]);
            for (int k = 0; k < 3; ++k) {
                const gp_Pnt p = mesh->Node(id[k]).Transformed(where);
                t.corner[k][0] = p.X(), t.corner[k][1] = p.Y(), t.corner[k][2] = p.Z();
            }
            out.push_back(t);
        }
    }
    if (out.empty()) throw InputError("There is no solid in '" + path.string() + "'.");
    return out;
}

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
        Handle(TDataStd_Name) name;
        if (label.FindAttribute(TDataStd_Name::GetID(), name)) {
            std::string text(static_cast<std::size_t>(name->Get().LengthOfCString()) + 1, '\0');
            char* begin = text.data();
            name->Get().ToUTF8CString(begin);
            out.name = text.c_str();
        }
    }
    XCAFApp_Application::GetApplication()->Close(doc);
    return out;
}

std::string model_note(const Piece& piece, const ResolvedPiece& resolved) {
    std::string note = piece.name;
    for (const auto& z : resolved.zones)
        if (z.thread) {
            const ThreadSpec& s = z.thread->spec;
            note += "; " + write_designation(s, z.length) +
                    (z.simplified ? " simplified, plain at the crest, " : " real thread at ") +
                    modelled_text(s);
            if (in_mm(s.allowance) != 0)
                note +=
                    ", " + length_text(s.allowance, LengthUnit::millimetre) + " mm taken off for printing";
        }
    for (const auto& z : resolved.zones)
        if (z.teeth)
            note += "; " + write_gear(z.teeth->spec, z.length) + " real teeth";
        else if (z.rack)
            note += "; " + write_rack(z.rack->spec) + " real teeth";
    return note;
}

std::string file_stem(const std::string& name) {
    std::string out;
    for (const char c : name) {
        if (std::isalnum(static_cast<unsigned char>(c)) || c == '-' || c == '_')
            out += c;
        else if (!out.empty() && out.back() != '-')
            out += '-';
    }
    while (!out.empty() && out.back() == '-')
        out.pop_back();
    return out.empty() ? "piece" : out;
}

} // namespace whorl
