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

// Those the spline through which keeps nearest to all: ever the one that it misses most.
std::vector<CurvePoint> fewest(const std::vector<CurvePoint>& all, double& off) {
    std::vector<std::size_t> kept{0, all.size() - 1};
    for (;;) {
        std::vector<CurvePoint> out;
        out.reserve(kept.size());
        for (const std::size_t i : kept)
            out.push_back(all[i]);
        const RadiusCurve curve(out, Course::spline);
        std::size_t most = 0;
        off = 0;
        for (std::size_t i = 0; i < all.size(); ++i)
            if (const double miss = std::abs(curve(all[i].at) - all[i].value); miss > off)
                off = miss, most = i;
        if (off < 1e-4 || kept.size() == most_kept) return out;
        kept.insert(std::upper_bound(kept.begin(), kept.end(), most), most);
    }
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
    all.reserve(outline.size());
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
    out.points = fewest(all, out.off);
    return out;
}

std::string import_words(const ImportedSilhouette& s) {
    std::string out = std::to_string(s.read) + " points";
    if (s.points.size() < s.read) out += ", " + std::to_string(s.points.size()) + " of them kept";
    return out + ", " + number_text(s.points.back().at, 3) + " mm high";
}

} // namespace whorl
