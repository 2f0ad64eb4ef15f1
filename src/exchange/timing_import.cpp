#include "exchange/timing_import.hpp"

#include "exchange/outline_points.hpp"
#include "model/file.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <sstream>

namespace whorl {
namespace {

constexpr std::size_t largest_file = 20'000'000;
constexpr std::size_t most_corners = 12, most_points = 400;

std::string shown(double v) {
    return number_text(v, 3);
}

Timing polygon_of(const std::vector<OutlinePoint>& p) {
    Timing t;
    for (std::size_t i = 0; i + 1 < p.size(); ++i) {
        const double angle = p[i + 1].x - p[i].x, rise = p[i + 1].y - p[i].y;
        if (std::abs(rise) < 1e-9)
            t.stretches.push_back({CamStretch::dwell, angle, {}, Law::cycloidal});
        else
            t.stretches.push_back(
                {rise > 0 ? CamStretch::rise : CamStretch::back, angle, std::abs(rise), Law::constant});
    }
    return t;
}

Timing spline_of(const std::vector<OutlinePoint>& p) {
    CamStretch s;
    s.kind = CamStretch::spline;
    s.angle = full_turn;
    s.lift = 0;
    const std::size_t every = (p.size() + most_points - 1) / most_points;
    for (std::size_t i = every; i + 1 < p.size(); i += every)
        if (p[i].x < full_turn - 1e-3) s.through.push_back({p[i].x, p[i].y});
    return {{s}};
}

} // namespace

ImportedTiming import_timing(const std::filesystem::path& path, std::optional<double> around,
                             OtherLength other) {
    std::string ending = path.extension().string();
    for (char& c : ending)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    const bool table = ending == ".csv" || ending == ".txt";
    if (!table && ending != ".dxf" && ending != ".svg")
        throw InputError(in_quotes(ending) +
                         " is not an ending of a timing that can be read: .csv, .dxf or .svg.");
    const std::string text = read_file(path, largest_file);
    std::vector<OutlinePoint> p = table              ? outline_from_csv(two_columns(text))
                                  : ending == ".dxf" ? outline_from_dxf(text)
                                                     : outline_from_svg(text);
    if (p.back().x < p.front().x) {
        std::reverse(p.begin(), p.end());
        for (std::size_t i = 0; i + 1 < p.size(); ++i)
            p[i].bow = -p[i + 1].bow;
    }
    ImportedTiming out;
    bool bent = false;
    out.points = p.size();
    p = with_middles(p, bent);
    for (std::size_t i = 0; i + 1 < p.size(); ++i)
        if (!(p[i + 1].x > p[i].x))
            throw InputError("The profile goes back on itself at " + shown(p[i].x) +
                             ": over each angle there is one lift.");
    out.length = p.back().x - p.front().x;
    out.gap = p.back().y - p.front().y;
    if (std::abs(out.gap) > 5e-4)
        throw InputError("The profile ends " + number_text(std::abs(out.gap), 4) + " mm " +
                         (out.gap > 0 ? "above" : "below") + " where it began; a turn must bring it back.");
    const double turn = std::abs(out.length - 360) < 1e-6 ? 360 : around.value_or(360);
    out.scaled = std::abs(out.length - turn) > 1e-3;
    if (out.scaled && other == OtherLength::refuse)
        throw InputError("The profile is " + shown(out.length) + " long; once around is " +
                         (around ? shown(*around) + " mm (π·d)" : std::string("360 degrees")) +
                         ", so it is " + shown(std::abs(out.length - turn)) +
                         (out.length > turn ? " too long" : " too short") +
                         ". It can be scaled to fit instead.");
    const double x0 = p.front().x, y0 = p.front().y, scale = full_turn / out.length;
    for (OutlinePoint& q : p)
        q = {(q.x - x0) * scale, q.y - y0, 0};
    p.back() = {full_turn, 0, 0}; // closed to the last bit
    out.polygon = !bent && p.size() <= most_corners + 1;
    out.timing = out.polygon ? polygon_of(p) : spline_of(p);
    return out;
}

std::string import_words(const ImportedTiming& t, std::optional<double> around) {
    return std::to_string(t.points) + " points, " + shown(t.length) + " long" +
           (t.scaled ? ", scaled to " + (around ? shown(*around) + " mm" : std::string("360°"))
                     : std::string()) +
           "; closure gap " + number_text(std::abs(t.gap), 4) + " mm; " +
           (t.polygon ? "a polygon of constant velocities" : "a spline through them");
}

} // namespace whorl
