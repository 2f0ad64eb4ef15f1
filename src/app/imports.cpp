// What the window brings in from a file (Ctrl+I): it depends on the selected zone.
#include "app/main_window.hpp"

#include "app/checks_line.hpp"
#include "exchange/section_import.hpp"
#include "exchange/silhouette_import.hpp"
#include "exchange/timing_import.hpp"
#include "form/groove/section_points.hpp"
#include "model/edit.hpp"
#include "model/forms/forms.hpp"

#include <QFileDialog>
#include <numbers>

namespace whorl::app {

// Of a cam that is selected the file is its timing.
bool MainWindow::import_cam_timing(const QString& path) {
    const auto* z = session_.resolved_zone();
    if (!z || !z->motion()) return false;
    std::optional<double> around;
    if (z->drum()) around = 2 * std::numbers::pi * z->drum()->radius;
    try {
        const ImportedTiming t = import_timing(path.toStdString(), around, OtherLength::scale);
        const std::string text = write_timing(t.timing, session_.unit());
        const QString why = session_.edit(field::timing, QString::fromStdString(text));
        checks_->say(
            why.isEmpty() ? QString::fromStdString(import_words(t, around)) + ". Ctrl+Z takes it back." : why,
            !why.isEmpty());
    } catch (const std::exception& e) {
        checks_->say(QString::fromStdString(e.what()), true);
    }
    return true;
}

// Of a silhouette it is its points.
bool MainWindow::import_silhouette_points(const QString& path) {
    const auto* z = session_.resolved_zone();
    if (!z || !z->silhouette() || z->is_hollow()) return false;
    try {
        const ImportedSilhouette s = import_silhouette(path.toStdString());
        const QString why =
            session_.edit(field::points, QString::fromStdString(write_points(s.points, session_.unit())));
        checks_->say(why.isEmpty() ? QString::fromStdString(import_words(s)) + ". Ctrl+Z takes it back."
                                   : why,
                     !why.isEmpty());
    } catch (const std::exception& e) {
        checks_->say(QString::fromStdString(e.what()), true);
    }
    return true;
}

// Of a groove it is its section, at its own size.
bool MainWindow::import_groove_section(const QString& path) {
    const auto* z = session_.resolved_zone();
    if (!z || !z->groove()) return false;
    try {
        const std::vector<OwnPoint> points = import_groove(path.toStdString());
        const std::size_t piece = session_.piece(), zone = session_.zone();
        const QString why = session_.change([&](const Job& j) {
            const Job own = apply(j, {piece, zone, field::groove, "own", LengthUnit::millimetre});
            return apply(own, {piece, zone, field::points,
                               write_section_points(points, LengthUnit::millimetre), LengthUnit::millimetre});
        });
        checks_->say(why.isEmpty()
                         ? QString("A section through %1 points. Ctrl+Z takes it back.").arg(points.size())
                         : why,
                     !why.isEmpty());
    } catch (const std::exception& e) {
        checks_->say(QString::fromStdString(e.what()), true);
    }
    return true;
}

void MainWindow::import_outline(const QString& path) {
    if (import_cam_timing(path) || import_silhouette_points(path) || import_groove_section(path)) return;
    try {
        const OwnSection section = import_section(path.toStdString());
        wear(section, QString("Section %1 with %2 points. Ctrl+Shift+K keeps it in your library.")
                          .arg(QString::fromStdString(section.name))
                          .arg(section.points.size()));
    } catch (const std::exception& e) {
        checks_->say(QString::fromUtf8(e.what()), true);
    }
}

void MainWindow::ask_section() {
    const auto* z = session_.resolved_zone();
    const bool cam = z && z->motion(), shape = z && z->silhouette() && !z->is_hollow();
    const QString path = QFileDialog::getOpenFileName(
        this,
        cam     ? "Import a timing: angle and lift on each line, or a flat profile once around"
        : shape ? "Import a silhouette: height and radius on each line, or half its outline"
                : "Import a section: the outline of one groove, from crest to crest",
        {},
        cam || shape ? "Points and outlines (*.csv *.txt *.dxf *.svg)"
                     : "Outlines (*.dxf *.svg *.csv *.txt *.json)");
    if (!path.isEmpty()) import_outline(path);
}

} // namespace whorl::app
