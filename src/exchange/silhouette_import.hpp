// A silhouette's points from a file.
//
//   .csv .txt    height, radius on each line; columns that follow are left out
//   .dxf .svg    half an outline, joined end to end: along one of the drawing's axes goes the height, the other one
//                is the radius
//
// The height is what rises or falls all along; where both do, x. It counts from its least. Arcs and free curves are
// taken as points on them, and no more than 40 of all are kept: those with which a spline comes nearest to the rest.
#pragma once

#include "form/silhouette/radius_curve.hpp"

#include <filesystem>
#include <vector>

namespace whorl {

struct ImportedSilhouette {
    std::vector<CurvePoint> points;
    std::size_t read = 0; // points that were there
    double off = 0;       // the farthest of those left out from a spline through those kept, mm
};

// Throws InputError with what is wrong and what would be accepted, or FileError.
ImportedSilhouette import_silhouette(const std::filesystem::path& path);
std::string import_words(const ImportedSilhouette& silhouette); // "57 points, 40 of them kept"

} // namespace whorl
