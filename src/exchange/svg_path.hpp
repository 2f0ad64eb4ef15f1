// The data of an SVG path as straight pieces and arcs: SVG 2, chapter 9 and, for arcs, appendix B.2.4.
#pragma once

#include "exchange/outline_files.hpp"

namespace whorl {

// x' = a·x + c·y + e, y' = b·x + d·y + f, as SVG's matrix(a b c d e f) has it.
struct SvgTransform {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;
    bool keeps_circles() const; // a turn, a mirror, one scale in both directions
    double scale() const;       // of lengths, where it does; below zero where it mirrors
    OutlinePoint operator()(const OutlinePoint& p) const {
        return {a * p.x + c * p.y + e, b * p.x + d * p.y + f, 0};
    }
};
SvgTransform operator*(const SvgTransform& outer, const SvgTransform& inner);
// matrix, translate, scale, rotate, skewX, skewY one after another; throws InputError for what isn't one.
SvgTransform svg_transform(std::string_view text);

// With y downwards, as drawn; `bow` is already that of y upwards. Bézier curves become 64 pieces, ellipses too, arcs of
// circles stay where `placed` keeps them. A closed path ends where it began. Throws InputError for a path of several parts,
// a closed one unless it may be, and more pieces than `most`.
std::vector<OutlinePoint> outline_from_path(std::string_view data, const SvgTransform& placed,
                                            std::size_t most, bool may_close);

} // namespace whorl
