#include "exchange/silhouette_import.hpp"

#include "exchange/outline_points.hpp"
#include "model/file.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr std::size_t largest_file = 20'000'000, most_kept = 40;

// +1: rises all along, −1: falls, 0: neither.
int course_of(const std::vector<OutlinePoint>& p, double OutlinePoint::*m) {
    int way = 0;
    for (std::size_t i = 0; i + 1 < p.size(); ++i) {
        const double d = p[i + 1].*m - p[i].*m;
        const int here = d > 0 ? 1 : d < 0 ? -1 : 0;
        if (here == 0 || (way != 0 && here != way)) return 0;
        way = here;
    }
    return way;
}

// The farthest point between two that are kept from the line through them, and how far it is (Ramer, Douglas and
// Peucker).
std::pair<std::size_t, double> farthest(const std::vector<CurvePoint>& p, std::size_t a, std::size_t b) {
    std::pair<std::size_t, double> out{a, 0};
    const double dx = p[b].at - p[a].at, dy = p[b].value - p[a].value, length = std::hypot(dx, dy);
    for (std::size_t i = a + 1; i < b; ++i)
        if (const double off = std::abs((p[i].at - p[a].at) * dy - (p[i].value - p[a].value) * dx) / length;
            off > out.second)
            out = {i, off};
    return out;
}

} // namespace

ImportedSilhouette import_silhouette(const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(),
                   [](unsigned char c) { return std::tolower(c); });
    const std::string text = read_file(path, largest_file);
    std::vector<OutlinePoint> outline;
    if (ending == ".csv" || ending == ".txt")
        outline = outline_from_csv(two_columns(text));
    else if (ending == ".dxf")
        outline = outline_from_dxf(text);
    else if (ending == ".svg")
        outline = outline_from_svg(text);
    else
        throw InputError("'" + path.filename().string() +
                         "' is no file a silhouette is read from; those end in .csv, .txt, .dxf or .svg.");
    bool bent = false;
    outline = with_middles(outline, bent);
    if (outline.size() < 2)
        throw InputError("There are fewer than two points in '" + path.filename().string() + "'.");
    const int by_x = course_of(outline, &OutlinePoint::x),
              by_y = by_x != 0 ? 0 : course_of(outline, &OutlinePoint::y);
    if (by_x == 0 && by_y == 0)
        throw InputError(
            "The outline folds back along both of the drawing's axes; a silhouette has one radius at each "
            "height. Draw half of it, from its foot to its mouth.");
    ImportedSilhouette out;
    out.read = outline.size();
    std::vector<CurvePoint> all;
    for (const OutlinePoint& p : outline)
        all.push_back({by_x != 0 ? p.x : p.y, by_x != 0 ? p.y : p.x, {}});
    if (by_x + by_y < 0) std::reverse(all.begin(), all.end());
    const double foot = all.front().at;
    for (CurvePoint& p : all)
        p.at -= foot;
    // an outline drawn below its axis
    if (std::all_of(all.begin(), all.end(), [](const CurvePoint& p) { return p.value < 0; }))
        for (CurvePoint& p : all)
            p.value = -p.value;
    std::vector<std::size_t> kept{0, all.size() - 1};
    while (kept.size() < most_kept) {
        std::pair<std::size_t, double> most{0, 0};
        for (std::size_t i = 0; i + 1 < kept.size(); ++i)
            if (const auto here = farthest(all, kept[i], kept[i + 1]); here.second > most.second) most = here;
        if (most.second < 1e-4) break;
        kept.insert(std::upper_bound(kept.begin(), kept.end(), most.first), most.first);
    }
    for (std::size_t i = 0; i + 1 < kept.size(); ++i)
        out.off = std::max(out.off, farthest(all, kept[i], kept[i + 1]).second);
    for (const std::size_t i : kept)
        out.points.push_back(all[i]);
    return out;
}

std::string import_words(const ImportedSilhouette& s) {
    std::string out = std::to_string(s.read) + " points";
    if (s.points.size() < s.read) out += ", " + std::to_string(s.points.size()) + " of them kept";
    return out + ", " + number_text(s.points.back().at, 3) + " mm high";
}

} // namespace whorl
