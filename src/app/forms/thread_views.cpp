#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/section_view.hpp"
#include "pair/gauge.hpp"

namespace whorl::app {

namespace {

// The name of a section of one's own: that of another known one makes the thread wear it, a new one renames
// it.
void asks(SheetBuilder& b, const ResolvedZone& z) {
    if (z.thread()->spec.family != ThreadFamily::own) return;
    const OwnSection section = z.thread()->spec.own_section;
    SheetRow& row =
        b.asked("Section", {}, QString::fromStdString(section.name), {}, "own_section",
                "Your own section: type the name of another one to wear it, or a new name for this one");
    row.input.initial = QString::fromStdString(section.name);
    const auto known = b.session().sections();
    for (const OwnSection& k : known)
        row.input.choices << QString::fromStdString(k.name);
    row.input.commit = [&session = b.session(), section, known](const QString& typed) {
        OwnSection next = section;
        next.name = typed.trimmed().toStdString();
        for (const OwnSection& k : known)
            if (k.name == next.name) next = k;
        const std::size_t piece = session.piece(), zone = session.zone();
        return session.change([&](const Job& j) { return set_own_section(j, piece, zone, next); });
    };
}

void gauge(SheetBuilder& b, const char* key, const char* label, const std::string& says,
           const std::string& sentence) {
    b.follows({.key = key, .label = label, .kind = ValueKind::text, .text = says, .source = sentence});
}

void follows(SheetBuilder& b, const ResolvedZone& z) {
    b.follow_all(
        z.thread()->values,
        {"pitch", "starts", "hand", "tolerance_class", "modelled_at", "series", "major_diameter_basic"},
        {"tap_drill", "best_wire", "over_wires"}, true);
    const GaugeTrial trial = try_gauges(*z.thread());
    if (!trial.possible) return;
    gauge(b, "go_gauge", "GO gauge", trial.go_passes ? "passes" : "jams", trial.go);
    gauge(b, "no_go_gauge", "NOT GO gauge", trial.no_go_stops ? "stops" : "goes on", trial.no_go);
}

QString detail(const ResolvedZone& z, const Piece&) {
    const StandardStatus& status = z.thread()->status;
    return QString("%1, %2, %3")
        .arg(z.in_bore() ? "internal" : "external", word(z.thread()->spec.family),
             status.listed    ? QString::fromStdString(status.series) + " series"
             : status.nearest ? "off-standard"
                              : "from the form's rules");
}

} // namespace

const FormViews& views(const ResolvedScrew&) {
    static const FormViews table{
        .title =
            [](const ResolvedZone& z, std::size_t number) {
                return QString(z.in_bore() ? "Thread in bore %1" : "Thread on zone %1").arg(number);
            },
        .detail = detail,
        .asks = asks,
        .follows = follows,
        .section = [](SectionView& view, QPainter& p, const ResolvedZone& z) { view.draw_thread(p, z); },
        .developed = [](DevelopedView& view, QPainter& p,
                        const ResolvedZone& z) { view.draw_unrolled(p, z); },
        .side = {.outline = turned_outline, .marks = thread_marks}};
    return table;
}

} // namespace whorl::app
