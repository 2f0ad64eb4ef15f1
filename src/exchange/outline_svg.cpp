#include "exchange/outline_files.hpp"
#include "exchange/svg_path.hpp"
#include "quantity/input_error.hpp"

#include <algorithm>
#include <array>
#include <pugixml.hpp>

namespace whorl {
namespace {

std::string_view name_of(const pugi::xml_node& node) { // without its namespace's prefix
    const std::string_view name = node.name();
    const auto colon = name.find(':');
    return colon == name.npos ? name : name.substr(colon + 1);
}

bool is_drawn(const pugi::xml_node& node) {
    constexpr std::array<std::string_view, 7> unseen{"defs",   "clipPath", "mask",    "symbol",
                                                     "marker", "pattern",  "metadata"};
    const std::string_view style = node.attribute("style").value();
    return node.type() == pugi::node_element && std::ranges::find(unseen, name_of(node)) == unseen.end() &&
           std::string_view(node.attribute("display").value()) != "none" &&
           style.find("display:none") == style.npos;
}

// A path, or what is as good as one: its data, and how its groups place it.
struct Drawn {
    std::string data;
    SvgTransform placed;
};

std::optional<Drawn> first_drawn(const pugi::xml_node& node, const SvgTransform& outer) {
    if (!is_drawn(node)) return {};
    const SvgTransform placed = outer * svg_transform(node.attribute("transform").value());
    const std::string_view name = name_of(node);
    const auto text = [&](const char* key) { return std::string(node.attribute(key).value()); };
    if (name == "path") {
        if (text("d").empty()) throw InputError("The <path> of this SVG drawing has no d=\"…\".");
        return Drawn{text("d"), placed};
    }
    if (name == "polyline" || name == "polygon")
        return Drawn{"M" + text("points") + (name == "polygon" ? "Z" : ""), placed};
    if (name == "line")
        return Drawn{"M" + text("x1") + " " + text("y1") + "L" + text("x2") + " " + text("y2"), placed};
    for (const pugi::xml_node& child : node.children())
        if (auto found = first_drawn(child, placed)) return found;
    return {};
}

std::vector<OutlinePoint> outline_in(std::string_view text, bool may_close) {
    pugi::xml_document document;
    const pugi::xml_parse_result read = document.load_buffer(text.data(), text.size());
    if (!read)
        throw InputError(std::string("This is not an SVG drawing: ") + read.description() + ".",
                         static_cast<std::size_t>(read.offset));
    const auto drawn = first_drawn(document.document_element(), {});
    if (!drawn)
        throw InputError(
            "There is no <path> in this SVG drawing, nor a polyline or a polygon; draw the outline as one.");
    auto out = outline_from_path(drawn->data, drawn->placed,
                                 may_close ? most_pieces_compared : most_pieces_in_drawing, may_close);
    for (OutlinePoint& p : out)
        p.y = -p.y;
    return out;
}

} // namespace

std::vector<OutlinePoint> outline_from_svg(std::string_view text) {
    return outline_in(text, false);
}
std::vector<OutlinePoint> closed_outline_from_svg(std::string_view text) {
    return outline_in(text, true);
}

} // namespace whorl
