#include "model/drawing_json.hpp"

#include <nlohmann/json.hpp>

namespace whorl {
namespace {

using nlohmann::json;
using ordered = nlohmann::ordered_json;

struct Text {
    const char* key;
    std::string TitleBlock::*in;
};
constexpr Text title_texts[]{{"owner", &TitleBlock::owner},           {"number", &TitleBlock::number},
                             {"revision", &TitleBlock::revision},     {"drawn_by", &TitleBlock::drawn_by},
                             {"checked_by", &TitleBlock::checked_by}, {"date", &TitleBlock::date},
                             {"tolerance", &TitleBlock::tolerance}};

void put(ordered& to, const char* key, const std::string& text) {
    if (!text.empty()) to[key] = text;
}

} // namespace

void drawing_to_json(const JobDrawing& d, ordered& to) {
    ordered j = ordered::object();
    for (const Text& t : title_texts)
        put(j, t.key, d.title.*t.in);
    if (d.third_angle) j["third_angle"] = true;
    if (d.true_form) j["true_form"] = true;
    put(j, "sheet", d.sheet);
    if (!j.empty()) to["drawing"] = std::move(j);
}

void drawing_to_json(const PieceDrawing& d, ordered& to) {
    ordered j = ordered::object();
    put(j, "sheet", d.sheet);
    put(j, "scale", d.scale);
    put(j, "number", d.number);
    put(j, "revision", d.revision);
    if (d.true_form) j["true_form"] = *d.true_form;
    put(j, "section", d.section);
    put(j, "details", d.details);
    for (const MovedItem& m : d.items) {
        ordered item;
        if (m.zone) item["zone"] = *m.zone;
        item["key"] = m.key;
        if (m.x != 0 || m.y != 0) item["moved"] = {m.x, m.y};
        if (m.left_out) item["left_out"] = true;
        put(item, "limits", m.limits);
        if (m.reference) item["reference"] = true;
        j["items"].push_back(std::move(item));
    }
    for (const FreeNote& n : d.notes)
        j["notes"].push_back(
            ordered{{"words", n.words}, {"at", {n.tip_x, n.tip_y}}, {"from_there", {n.x, n.y}}});
    if (!j.empty()) to["drawing"] = std::move(j);
}

JobDrawing job_drawing_from(const json& job) {
    JobDrawing d;
    if (!job.contains("drawing")) return d;
    const json& j = job["drawing"];
    for (const Text& t : title_texts)
        d.title.*t.in = j.value(t.key, "");
    d.third_angle = j.value("third_angle", false);
    d.true_form = j.value("true_form", false);
    d.sheet = j.value("sheet", "");
    return d;
}

PieceDrawing piece_drawing_from(const json& piece) {
    PieceDrawing d;
    if (!piece.contains("drawing")) return d;
    const json& j = piece["drawing"];
    d.sheet = j.value("sheet", "");
    d.scale = j.value("scale", "");
    d.number = j.value("number", "");
    d.revision = j.value("revision", "");
    if (j.contains("true_form")) d.true_form = j["true_form"].get<bool>();
    d.section = j.value("section", "");
    d.details = j.value("details", "");
    if (j.contains("items"))
        for (const json& item : j["items"]) {
            MovedItem m;
            if (item.contains("zone")) m.zone = item["zone"].get<std::size_t>();
            m.key = item.at("key");
            if (item.contains("moved")) {
                m.x = item["moved"][0];
                m.y = item["moved"][1];
            }
            m.left_out = item.value("left_out", false);
            m.limits = item.value("limits", "");
            m.reference = item.value("reference", false);
            d.items.push_back(std::move(m));
        }
    if (j.contains("notes"))
        for (const json& n : j["notes"])
            d.notes.push_back(
                {n.at("words"), n.at("at")[0], n.at("at")[1], n.at("from_there")[0], n.at("from_there")[1]});
    return d;
}

} // namespace whorl
