// What a form is in a drawing: a table for each, in its own file of this folder. A form that lacks one does not link.
#pragma once

#include "drawing/dimension.hpp"

namespace whorl::drawing {

// A data block.
struct DataTable {
    std::string title;
    std::vector<std::vector<std::string>> rows = {}; // as many cells each
};

struct FormDrawing {
    // Turns a zone into what stands for it in a conventional drawing (ISO 6410-1, ISO 2203, ISO 6413, DIN 82), whose body
    // is then drawn as it is; none: it is drawn as it is. `core`: less what isn't hatched, such as teeth.
    void (*simplify)(ResolvedZone& zone, bool core) = nullptr;
    // Lines that go with that: in the side view, on both sides of the axis, and from the end.
    void (*side)(const ZoneDrawn& z, std::vector<Mark>& to) = nullptr;
    void (*end)(const ZoneDrawn& z, std::vector<Mark>& to) = nullptr;
    // Its own dimensions; its length and ends are said by what draws the piece.
    void (*dimensions)(const ZoneDrawn& z, std::vector<Dimension>& to) = nullptr;
    std::vector<DataTable> (*tables)(const ZoneDrawn& z) = nullptr;
    // Whether the view from the end says what no other does.
    bool (*from_end)(const ResolvedZone& z) = nullptr;
    // Whether its section is drawn enlarged, unasked.
    bool (*enlarged)(const ResolvedZone& z) = nullptr;
    // What the drawing simplifies of it, as a sentence for its notes.
    std::string (*simplified)(const ResolvedZone& z) = nullptr;
};

const FormDrawing& drawing_of(const ResolvedPlain&);
const FormDrawing& drawing_of(const ResolvedScrew&);
const FormDrawing& drawing_of(const ResolvedWheel&);
const FormDrawing& drawing_of(const ResolvedBar&);
const FormDrawing& drawing_of(const ResolvedSpring&);
const FormDrawing& drawing_of(const ResolvedKnurling&);
const FormDrawing& drawing_of(const ResolvedLobe&);
const FormDrawing& drawing_of(const ResolvedTrack&);
const FormDrawing& drawing_of(const ResolvedElbow&);
const FormDrawing& drawing_of(const ResolvedGrooving&);
const FormDrawing& drawing_of(const ResolvedShape&);
const FormDrawing& drawing_of(const ResolvedSplining&);

inline const FormDrawing& drawing_of(const ResolvedZone& z) {
    return std::visit([](const auto& form) -> const FormDrawing& { return drawing_of(form); }, z.form);
}

// --- for the tables ---

// A cylinder or cone instead, its ends those it had as far as a plain zone can have them.
void make_plain(ResolvedZone& zone, double near_radius, double far_radius);
// Lines at a radius on both sides of the axis, from one place to another.
void lines_at(std::vector<Mark>& to, LineKind kind, double radius, double from, double to_z,
              double beyond = 0);
// Rows of resolved values, those there are, in this order.
DataTable data_of(const char* title, const std::vector<ResolvedValue>& values,
                  std::initializer_list<const char*> keys, LengthUnit unit);
// The block a form has for its maker.
DataTable table_of(const char* title, const std::vector<std::pair<std::string, std::string>>& rows);
// All of them but those.
DataTable data_but(const char* title, const std::vector<ResolvedValue>& values,
                   std::initializer_list<const char*> but, LengthUnit unit);
// A diameter along the whole zone.
Dimension diameter_of(const ZoneDrawn& z, const char* key, Field field, double diameter, std::string words);

} // namespace whorl::drawing
