#include "model/job_file.hpp"

#include "model/drawing_json.hpp"
#include "model/ends/ends.hpp"
#include "model/forms/forms.hpp"
#include "model/number_json.hpp"
#include "model/pair_edit.hpp"
#include "model/pair_model.hpp"
#include "model/schema_sentence.hpp"

#include <nlohmann/json.hpp>
#include <set>

// valijson is not written for our warning level
#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#pragma GCC diagnostic ignored "-Wpedantic"
#pragma GCC diagnostic ignored "-Wshadow"
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validator.hpp>
#pragma GCC diagnostic pop

namespace whorl {

namespace model {
extern const std::string_view job_schema_json_text; // schema/job.schema.json
}

namespace {

using nlohmann::json;
using ordered = nlohmann::ordered_json; // written in a reader's order

constexpr int deepest = 32;

constexpr const char* where_words[]{"outer", "near_bore", "far_bore"};

template<class Enum, std::size_t N>
Enum enum_from(const json& j, const char* const (&words)[N]) {
    for (std::size_t i = 0; i < N; ++i)
        if (j == words[i]) return static_cast<Enum>(i);
    throw InputError("Unknown word " + in_quotes(j.dump()) + ".");
}

ordered to_json(const EndTreatment& e) {
    const EndModel& model = model_of(e.kind);
    ordered j{{"kind", model.word.saved()}};
    for (const EndNumber& n : model.numbers)
        if (!(e.*n.in).text.empty()) j[n.key] = number_to_json(e.*n.in);
    return j;
}

EndTreatment end_from(const json& j) {
    EndTreatment e;
    for (int k = 0; k < end_kind_count; ++k)
        if (j.at("kind") == model_of(static_cast<EndKind>(k)).word.saved()) e.kind = static_cast<EndKind>(k);
    for (const EndNumber& n : model_of(e.kind).numbers)
        if (j.contains(n.key)) e.*n.in = number_from_json(j[n.key]);
    return e;
}

void save(const Row& row, const Zone& z, ordered& to) {
    if (row.kept.save) return row.kept.save(z, to);
    if (row.choice.of) {
        const std::size_t at = row.choice.of(z);
        if (row.kept.flag && at > 0)
            to[row.kept.key] = true;
        else if (row.kept.always || at > 0)
            to[row.kept.key] = row.choice.words[at].saved();
        return;
    }
    const Number& n = row.number.of(z);
    if (row.kept.always || !n.text.empty()) to[row.kept.key] = number_to_json(n);
}

void load(const Row& row, Zone& z, const json& from, const std::string& place) {
    if (row.kept.load) return row.kept.load(z, from);
    if (row.kept.flag) return row.choice.put(z, from.value(row.kept.key, false) ? 1 : 0);
    if (row.choice.put) {
        const auto& words = row.choice.words;
        const std::string said = from.value(row.kept.key, words.front().saved());
        const auto at = std::ranges::find(words, said, &ChoiceWord::saved);
        return row.choice.put(z, at == words.end() ? 0 : static_cast<std::size_t>(at - words.begin()));
    }
    if (from.contains(row.kept.key))
        row.number.in(z) = number_from_json(from[row.kept.key]);
    else if (row.kept.always)
        throw InputError(place + "." + row.kept.key + " is missing.");
}

// A form's rows stand in an object of its own under the form's key, or with an empty key in the zone's.
ordered to_json(const Zone& z) {
    ordered j;
    if (z.where != Where::outer) j["where"] = where_words[static_cast<int>(z.where)];
    j["length"] = number_to_json(z.length);
    with_model(z, [&]<class Model>(Model) {
        ordered form = ordered::object();
        const bool apart = *Model::key != 0;
        Model::save(z, apart ? form : j);
        for (const Row& row : Model::rows())
            if (row.kept.key) save(row, z, apart && row.kept.where == InFile::in_form ? form : j);
        if (apart) j[Model::key] = form;
    });
    if (!z.web.text.empty()) j["web"] = number_to_json(z.web);
    if (!z.keyway.text.empty()) j["keyway"] = number_to_json(z.keyway);
    if (z.follows) {
        j["follows"] = ordered{{"zone", z.follows->zone}};
        if (z.follows->mirrored) j["follows"]["mirrored"] = true;
    }
    j["near_end"] = to_json(z.near_end);
    j["far_end"] = to_json(z.far_end);
    return j;
}

// Which form it is, with nothing in it yet. Racks and gears both have teeth, racks have their bar there too.
Form form_in(const json& zone, const std::string& place) {
    const bool thread = zone.contains("thread"), teeth = zone.contains("teeth");
    if ((thread && teeth) || ((thread || teeth) && zone.value("outline", "round") != "round"))
        throw InputError(place + (teeth ? ": Teeth need a round zone without a thread."
                                        : ": A thread needs a round zone; this one is a hexagon or square."));
    if ((thread || teeth) && zone.contains("far_diameter"))
        throw InputError(place + ": Only a plain round zone can be conical.");
    Form found = PlainForm{};
    for_each_model([&]<class F>(FormModel<F>) {
        using Model = FormModel<F>;
        if constexpr (requires { Model::found(zone); }) {
            if (Model::found(zone)) found = F{};
        } else if (*Model::key && zone.contains(Model::key)) {
            found = F{};
        }
    });
    return found;
}

// Throws InputError for a key of the zone that its form does not know: it would be lost without a word.
void require_all_read(const json& j, const Zone& z, const std::string& place) {
    std::set<std::string, std::less<>> known{"where",    "length",  "web",    "keyway", "follows",
                                             "near_end", "far_end", "finish", "colour"};
    std::string form;
    with_model(z, [&]<class Model>(Model) {
        form = Model::what(z);
        const bool apart = *Model::key != 0;
        if (apart) known.insert(Model::key);
        for (const Row& row : Model::rows())
            if (row.kept.key && (!apart || row.kept.where == InFile::in_zone)) known.insert(row.kept.key);
        if constexpr (requires { Model::found(j); }) known.insert("rack"); // what tells racks from gears
    });
    for_each_model([&]<class F>(FormModel<F>) {
        const std::string key = FormModel<F>::key;
        if (!key.empty() && j.contains(key) && !known.contains(key))
            throw InputError(place + ": A zone wears one form; this one has " + form + " and a " +
                             in_quotes(key) + " too. Keep one of them, or make them two zones.");
    });
    for (const auto& [key, value] : j.items())
        if (!known.contains(key) && !(key == "outline" && value == "round"))
            throw InputError(place + ": " + in_quotes(key) + " means nothing to " + form +
                             "; take it out, or give it to the zone it belongs to.");
}

// Throws InputError for a number that was read and would not be written again: a form knows it, but not as the
// rest of the zone stands (a flat end's angle). Words are left out of a file where they are the usual ones.
void require_all_kept(const json& said, const ordered& kept, const Zone& z, const std::string& place) {
    // left out where they are the usual ones, or written under another key
    static const std::set<std::string, std::less<>> said_otherwise{"where", "outline", "finish", "colour"};
    for (const auto& [key, value] : said.items()) {
        const auto is_word = [&key = key](const Row& row) {
            return row.kept.key && row.kept.key == key && row.kind == RowKind::choice;
        };
        if (kept.contains(key)) {
            if (value.is_object() && kept[key].is_object())
                require_all_kept(value, kept[key], z, place + "." + key);
        } else if ((value.is_object() || (value.is_string() && value != "")) &&
                   !said_otherwise.contains(key) && std::ranges::none_of(rows_of(z), is_word)) {
            throw InputError(place + ": " + in_quotes(key) +
                             " means nothing here as the rest stands, and would be lost; take it out, or say "
                             "what it belongs to.");
        }
    }
}

Zone zone_from(const json& j, const std::string& place) {
    Zone z;
    if (j.contains("where")) z.where = enum_from<Where>(j["where"], where_words);
    if (j.contains("web")) z.web = number_from_json(j["web"]);
    if (j.contains("keyway")) z.keyway = number_from_json(j["keyway"]);
    if (j.contains("follows"))
        z.follows = Following{j["follows"].at("zone"), j["follows"].value("mirrored", false)};
    z.length = number_from_json(j.at("length"));
    z.form = form_in(j, place);
    require_all_read(j, z, place);
    with_model(z, [&]<class Model>(Model) {
        const json& form = *Model::key != 0 ? j.at(Model::key) : j;
        Model::load(z, form);
        for (const Row& row : Model::rows())
            if (row.kept.key) load(row, z, row.kept.where == InFile::in_form ? form : j, place);
    });
    if (j.contains("near_end")) z.near_end = end_from(j["near_end"]);
    if (j.contains("far_end")) z.far_end = end_from(j["far_end"]);
    require_all_kept(j, to_json(z), z, place);
    return z;
}

// What older files say in words of their own, as it is said now. Anything else is left as it is, for the schema.
void bring_up_to_date(json& j) {
    const int version =
        j.contains("version") && j["version"].is_number_integer() ? j["version"].get<int>() : 1;
    if (version >= 4 || !j.contains("pieces") || !j["pieces"].is_array()) return;
    for (json& piece : j["pieces"]) {
        if (!piece.is_object() || !piece.contains("zones") || !piece["zones"].is_array()) continue;
        for (json& zone : piece["zones"]) {
            if (!zone.is_object()) continue;
            if (version < 3 && zone.contains("teeth"))
                zone.erase("diameter"); // that of the zone before it was a gear
            if (!zone.contains("coil") || !zone["coil"].is_object()) continue;
            json& coil = zone["coil"];
            if (!coil.contains("diameters")) continue;
            json& said = coil["diameters"].is_object() && coil["diameters"].contains("text")
                             ? coil["diameters"]["text"]
                             : coil["diameters"];
            if (!said.is_string()) continue;
            std::string text; // strokes were stations, never fractions
            for (const char c : said.get<std::string>())
                text += c == '/' ? std::string("..") : std::string(1, c);
            said = text;
        }
    }
}

json parse_limited(std::string_view text) {
    std::vector<std::set<std::string>> keys; // of the objects that are open
    try {
        return json::parse(text, [&](int depth, json::parse_event_t event, json& parsed) {
            if (depth > deepest)
                throw InputError("The brackets are nested deeper than " + std::to_string(deepest) +
                                 " levels, which no job needs.");
            if (event == json::parse_event_t::object_start) keys.emplace_back();
            if (event == json::parse_event_t::object_end) keys.pop_back();
            if (event == json::parse_event_t::key && !keys.back().insert(parsed.get<std::string>()).second)
                throw InputError("The key " + in_quotes(parsed.get<std::string>(), 40) +
                                 " stands twice in one object; only one of them can be meant.");
            return true;
        });
    } catch (const json::parse_error& e) {
        const std::size_t byte = std::min(e.byte == 0 ? 0 : e.byte - 1, text.size());
        std::size_t line = 1, column = 1;
        for (std::size_t i = 0; i < byte; ++i)
            if (text[i] == '\n')
                ++line, column = 1;
            else
                ++column;
        throw InputError("This is not valid JSON at line " + std::to_string(line) + ", column " +
                             std::to_string(column) + "; the file may be cut short or damaged.",
                         byte);
    } catch (const json::out_of_range&) {
        throw InputError(
            "The file has a number that is larger than any that can be read; the numbers of a job "
            "are texts, and none needs more than 300 digits.");
    }
}

void require_schema(const json& document) {
    static const json schema_document = json::parse(model::job_schema_json_text);
    static const auto schema = [] {
        auto s = std::make_unique<valijson::Schema>();
        valijson::SchemaParser parser;
        valijson::adapters::NlohmannJsonAdapter adapter(schema_document);
        parser.populateSchema(adapter, *s);
        return s;
    }();
    valijson::Validator validator;
    valijson::adapters::NlohmannJsonAdapter target(document);
    if (validator.validate(*schema, target, nullptr)) return;
    throw InputError("This is no job that can be read: " +
                     schema_sentence(document, schema_document).value_or("it does not follow the schema."));
}

} // namespace

std::string_view key_word(Where where) {
    return where_words[static_cast<int>(where)];
}

std::string_view job_schema() {
    return model::job_schema_json_text;
}

std::string job_to_json(const Job& job) {
    ordered j;
    j["format"] = "regular-whorl job";
    j["version"] = job_file_version;
    j["name"] = job.name;
    j["unit"] = symbol(job.unit);
    j["values"] = ordered::array();
    for (const auto& v : job.values)
        j["values"].push_back(ordered{{"name", v.name}, {"number", number_to_json(v.number)}});
    j["pieces"] = ordered::array();
    for (const auto& p : job.pieces) {
        ordered piece;
        piece["name"] = p.name;
        piece["reason"] = p.reason;
        finish_to_json(p.finish, piece);
        piece["centreline"] = ordered{{"kind", "straight"}};
        piece["zones"] = ordered::array();
        for (const auto& z : p.zones)
            piece["zones"].push_back(to_json(z));
        if (!p.stands.text.empty()) piece["stands"] = number_to_json(p.stands);
        drawing_to_json(p.drawing, piece);
        j["pieces"].push_back(piece);
    }
    if (!job.pairs.empty()) {
        j["pairs"] = ordered::array();
        const auto ref = [](const ZoneRef& at) { return ordered{{"piece", at.piece}, {"zone", at.zone}}; };
        for (const auto& p : job.pairs) {
            ordered pair{{"first", ref(p.first)}, {"second", ref(p.second)}, {"follows", p.follows}};
            if (!p.centre.text.empty()) pair["centre"] = number_to_json(p.centre);
            if (!p.stands.text.empty()) pair["stands"] = number_to_json(p.stands);
            j["pairs"].push_back(std::move(pair));
        }
    }
    drawing_to_json(job.drawing, j);
    return j.dump(2, ' ', false, ordered::error_handler_t::replace) + "\n";
}

Job job_from_json(std::string_view text) {
    json j = parse_limited(text);
    if (!j.is_object() || !j.contains("format") || j["format"] != "regular-whorl job")
        throw InputError(
            "This is JSON but not a Regular Whorl job: \"format\": \"regular-whorl job\" is missing.");
    if (j.contains("version") && j["version"].is_number_integer() && j["version"] > job_file_version)
        throw InputError("The job was written by a newer Regular Whorl (file version " + j["version"].dump() +
                         "); this one reads version " + std::to_string(job_file_version) + ".");
    bring_up_to_date(j);
    require_schema(j);
    Job job;
    job.name = j.value("name", "Untitled");
    job.unit = j.value("unit", "mm") == "in" ? LengthUnit::inch : LengthUnit::millimetre;
    if (j.contains("values"))
        for (const auto& v : j["values"])
            job.values.push_back({v.at("name"), number_from_json(v.at("number"))});
    for (const auto& p : j.at("pieces")) {
        Piece piece;
        piece.name = p.at("name");
        piece.reason = p.value("reason", "");
        piece.finish = finish_from_json(p);
        if (piece.finish.empty() || piece.finish.front() == '#')
            piece.finish = "brass" + (piece.finish.empty() ? "" : " " + piece.finish);
        for (const auto& z : p.at("zones"))
            piece.zones.push_back(zone_from(z, "This is no job that can be read: pieces[" +
                                                   std::to_string(job.pieces.size()) + "].zones[" +
                                                   std::to_string(piece.zones.size()) + "]"));
        try {
            follow_zones(
                piece); // length, form and ends of a zone that follows are those of the one it follows
        } catch (const InputError& e) {
            throw InputError("This is no job that can be read: pieces[" + std::to_string(job.pieces.size()) +
                             "]: " + e.what());
        }
        if (p.contains("stands")) piece.stands = number_from_json(p["stands"]);
        piece.drawing = piece_drawing_from(p);
        job.pieces.push_back(std::move(piece));
    }
    job.drawing = job_drawing_from(j);
    if (j.contains("pairs"))
        for (const auto& p : j["pairs"]) {
            const auto ref = [&](const char* key) {
                const ZoneRef at{p.at(key).at("piece"), p.at(key).at("zone")};
                if (at.piece >= job.pieces.size() || at.zone >= job.pieces[at.piece].zones.size())
                    throw InputError("A pair names piece " + std::to_string(at.piece) + ", zone " +
                                     std::to_string(at.zone) + ", where there is none.");
                return at;
            };
            if (!pairable(job, ref("first"), ref("second")))
                throw InputError("A pair names piece " + std::to_string(ref("first").piece) + " and piece " +
                                 std::to_string(ref("second").piece) +
                                 ", whose zones don't go together; a pair is made of " + what_pairs() + ".");
            job.pairs.push_back({ref("first"), ref("second"), p.value("follows", false),
                                 p.contains("centre") ? number_from_json(p["centre"]) : Number{},
                                 p.contains("stands") ? number_from_json(p["stands"]) : Number{}});
        }
    require_resolvable(job);
    return job;
}

Job load_job(const std::filesystem::path& path) {
    const std::string text = read_file(path, largest_job_file);
    try {
        return job_from_json(text);
    } catch (const InputError& e) {
        throw FileError("'" + path.string() + "' was not opened. " + e.what());
    }
}

void save_job(const Job& job, const std::filesystem::path& path) {
    write_file_atomically(path, job_to_json(job));
}

} // namespace whorl
