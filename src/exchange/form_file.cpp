#include "exchange/form_file.hpp"

#include "exchange/cam_outline.hpp"
#include "exchange/coil_section.hpp"
#include "exchange/export.hpp"
#include "exchange/spring_chart.hpp"
#include "exchange/tooth_outline.hpp"
#include "exchange/track_outline.hpp"
#include "quantity/expression.hpp"

namespace whorl {

const FormFile& file(const ResolvedPlain&) {
    static const FormFile table;
    return table;
}

const FormFile& file(const ResolvedScrew&) {
    static const FormFile table{
        .drawing = "section",
        .drawn = [](const ResolvedZone& z) { return z.thread()->section.sweepable(); },
        .svg = [](const ResolvedZone& z, LengthUnit unit, bool) { return section_svg(*z.thread(), unit); },
        .note =
            [](const ResolvedZone& z) {
                const ThreadSpec& s = z.thread()->spec;
                return write_designation(s, z.length) +
                       (z.simplified() ? " simplified, plain at the crest, " : " real thread at ") +
                       modelled_text(s) +
                       (in_mm(s.allowance) == 0 ? std::string()
                                                : ", " + length_text(s.allowance, LengthUnit::millimetre) +
                                                      " mm taken off for printing");
            }};
    return table;
}

const FormFile& file(const ResolvedWheel&) {
    static const FormFile table{
        .drawing = "outline",
        .drawn = [](const ResolvedZone& z) { return !z.gear()->half_outline.empty(); },
        .svg = [](const ResolvedZone& z, LengthUnit, bool space) { return gear_svg(*z.gear(), !space); },
        .dxf = [](const ResolvedZone& z, bool space) { return gear_dxf(*z.gear(), !space); },
        .note = [](const ResolvedZone& z) { return write_gear(z.gear()->spec, z.length) + " real teeth"; }};
    return table;
}

const FormFile& file(const ResolvedSplining&) {
    static const FormFile table{
        .drawing = "outline",
        .drawn = [](const ResolvedZone& z) { return !z.gear()->half_outline.empty(); },
        .svg = [](const ResolvedZone& z, LengthUnit, bool space) { return gear_svg(*z.gear(), !space); },
        .dxf = [](const ResolvedZone& z, bool space) { return gear_dxf(*z.gear(), !space); },
        .note =
            [](const ResolvedZone& z) { return write_spline(z.spline()->spec, z.length) + " real teeth"; }};
    return table;
}

const FormFile& file(const ResolvedBar&) {
    static const FormFile table{
        .drawing = "outline",
        .drawn = [](const ResolvedZone& z) { return !z.rack()->half_outline.empty(); },
        .svg = [](const ResolvedZone& z, LengthUnit, bool space) { return rack_svg(*z.rack(), !space); },
        .dxf = [](const ResolvedZone& z, bool space) { return rack_dxf(*z.rack(), !space); },
        .note = [](const ResolvedZone& z) { return write_rack(z.rack()->spec) + " real teeth"; }};
    return table;
}

const FormFile& file(const ResolvedKnurling&) {
    static const FormFile table{.note = [](const ResolvedZone& z) {
        return write_knurl(z.knurl()->spec, z.length) +
               (z.simplified() ? " simplified, plain over its ridges" : " real knurl");
    }};
    return table;
}

const FormFile& file(const ResolvedGrooving&) {
    static const FormFile table{.note = [](const ResolvedZone& z) {
        return write_groove(z.groove()->spec, z.length) +
               (z.simplified() ? " simplified, plain at its surface" : "");
    }};
    return table;
}

const FormFile& file(const ResolvedShape&) {
    static const FormFile table{
        .note = [](const ResolvedZone& z) { return write_silhouette(z.silhouette()->spec, z.length); }};
    return table;
}

const FormFile& file(const ResolvedLobe&) {
    static const FormFile table{
        .drawing = "outline",
        .drawn = [](const ResolvedZone& z) { return !z.lobe()->outline.empty(); },
        .svg = [](const ResolvedZone& z, LengthUnit, bool) { return cam_svg(*z.lobe()); },
        .dxf = [](const ResolvedZone& z, bool) { return cam_dxf(*z.lobe()); },
        .csv = [](const ResolvedZone& z, double step,
                  double cutter) { return cam_points_csv(*z.lobe(), step, cutter); },
        .note = [](const ResolvedZone& z) { return write_cam(z.lobe()->spec, z.length) + " real profile"; }};
    return table;
}

const FormFile& file(const ResolvedTrack&) {
    static const FormFile table{
        .drawing = "developed track",
        .drawn = [](const ResolvedZone& z) { return z.drum()->trouble == DrumTrouble::none; },
        .svg = [](const ResolvedZone& z, LengthUnit, bool) { return track_svg(*z.drum()); },
        .dxf = [](const ResolvedZone& z, bool) { return track_dxf(*z.drum()); },
        .csv = [](const ResolvedZone& z, double step, double) { return track_points_csv(*z.drum(), step); },
        .note =
            [](const ResolvedZone& z) {
                const ResolvedDrum& d = *z.drum();
                return write_drum(d.spec, z.length) + (d.is_line() ? ""
                                                       : d.spec.walls == WallKind::straight
                                                           ? " walls sunk straight"
                                                           : " walls as the roller leaves them");
            }};
    return table;
}

const FormFile& file(const ResolvedElbow&) {
    static const FormFile table{.note = [](const ResolvedZone& z) { return write_bend(z.bend()->spec); }};
    return table;
}

const FormFile& file(const ResolvedSpring&) {
    static const FormFile table{
        .drawing = "section",
        .drawn = [](const ResolvedZone&) { return true; },
        .svg = [](const ResolvedZone& z, LengthUnit unit, bool) { return coil_svg(*z.coil(), unit); },
        .csv = [](const ResolvedZone& z, double, double) { return spring_csv(*z.coil()); },
        .table = "load over length",
        .note = [](const ResolvedZone& z) { return write_spring(z.coil()->spec); }};
    return table;
}

} // namespace whorl
