// What a form shows of itself: a table for each, in its own file of this folder. A form that lacks one does
// not link, one that lacks an entry does not compile.
#pragma once

#include "app/forms/side.hpp"
#include "app/sheet/sheet.hpp"

#include <QPainter>

namespace whorl::app {

class SectionView;
class DevelopedView;

struct FormViews {
    // The sheet: what it is about, rows that only this form asks, and groups of what follows.
    QString (*title)(const ResolvedZone& z, std::size_t number);
    QString (*detail)(const ResolvedZone& z, const Piece& piece);
    void (*asks)(SheetBuilder& sheet, const ResolvedZone& z);
    void (*follows)(SheetBuilder& sheet, const ResolvedZone& z);
    // The drawings.
    void (*section)(SectionView& view, QPainter& p, const ResolvedZone& z);
    void (*developed)(DevelopedView& view, QPainter& p, const ResolvedZone& z);
    SideView side = {.outline = turned_outline};
};

const FormViews& views(const ResolvedPlain&);
const FormViews& views(const ResolvedScrew&);
const FormViews& views(const ResolvedWheel&);
const FormViews& views(const ResolvedBar&);
const FormViews& views(const ResolvedSpring&);
const FormViews& views(const ResolvedKnurling&);
const FormViews& views(const ResolvedLobe&);
const FormViews& views(const ResolvedTrack&);
const FormViews& views(const ResolvedElbow&);
const FormViews& views(const ResolvedGrooving&);
const FormViews& views(const ResolvedShape&);
const FormViews& views(const ResolvedSplining&);

inline const FormViews& views_of(const ResolvedZone& z) {
    return std::visit([](const auto& form) -> const FormViews& { return views(form); }, z.form);
}

inline void asks_nothing_more(SheetBuilder&, const ResolvedZone&) {}

} // namespace whorl::app
