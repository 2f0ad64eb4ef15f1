#include "app/locale.hpp"
#include "app/main_window.hpp"
#include "app/section_view.hpp"
#include "app/solid_view.hpp"
#include "app/theme.hpp"
#include "model/file.hpp"

#include <QApplication>
#include <QCommandLineParser>
#include <QElapsedTimer>
#include <QIcon>
#include <QSettings>
#include <QTimer>
#include <cstdio>
#include <sys/resource.h>

namespace {

// Counts what a widget paints.
class PaintCount : public QObject {
public:
    int count = 0;
    bool eventFilter(QObject*, QEvent* event) override {
        if (event->type() == QEvent::Paint) ++count;
        return false;
    }
};

// The first pair of gears is turned step by step, each painted in the section and the chart; 0 without one.
double running_frames_a_second(whorl::app::Session& session, whorl::app::MainWindow& window) {
    const auto& pairs = session.job().pairs;
    for (std::size_t i = 0; i < pairs.size() && !session.mesh(); ++i)
        session.select_pair(i, pairs[i].first);
    auto* section = window.findChild<whorl::app::SectionView*>();
    if (!session.mesh() || !section) return 0;
    QApplication::processEvents();
    PaintCount paints;
    section->installEventFilter(&paints);
    QElapsedTimer time;
    time.start();
    for (int k = 0; k < 300; ++k) {
        session.set_roll(0.01 * k);
        QApplication::processEvents();
    }
    return 1000.0 * paints.count / static_cast<double>(time.elapsed());
}

} // namespace

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    whorl::app::use_plain_numbers();
    whorl::survive_full_disks();
    QCoreApplication::setOrganizationName("regular-whorl");
    QCoreApplication::setApplicationName("regular-whorl");
    QCoreApplication::setApplicationVersion("0.1.0");
    QCommandLineParser parser;
    parser.setApplicationDescription(
        "Regular Whorl: threads from standard specifications to correct solids.");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("job", "a .whorl file to open", "[job]");
    QCommandLineOption dark("dark", "start in the dark theme");
    parser.addOption(dark);
    QCommandLineOption measure("measure",
                               "say when the solid of the first piece is drawn, with peak memory, and quit");
    QCommandLineOption measure_running("measure-running",
                                       "say how many frames a second a pair of gears runs at, and quit");
    parser.addOption(measure_running);
    parser.addOption(measure);
    parser.process(app);

    whorl::app::load_fonts();
    whorl::app::set_theme(parser.isSet(dark) || QSettings().value("dark", false).toBool());
    QApplication::setWindowIcon(QIcon(":/regular-whorl.svg"));
    whorl::app::Session session;
    whorl::app::MainWindow window(session);
    if (!parser.positionalArguments().isEmpty()) window.open(parser.positionalArguments().first());
    window.show();
    if (parser.isSet(measure) || parser.isSet(measure_running)) {
        auto* timer = new QTimer(&app);
        QObject::connect(timer, &QTimer::timeout, &app, [&, timer] {
            if (session.building() || window.solid()->frames() < 1) return;
            if (parser.isSet(measure_running)) {
                timer->stop();
                std::printf("running frames_a_second %.1f\n", running_frames_a_second(session, window));
            }
            rusage usage{};
            getrusage(RUSAGE_SELF, &usage);
            std::printf("up peak_kb %ld\n", usage.ru_maxrss);
            std::fflush(stdout);
            QApplication::exit(0);
        });
        timer->start(5);
    }
    return app.exec();
}
