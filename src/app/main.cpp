#include "app/main_window.hpp"
#include "app/solid_view.hpp"
#include "app/theme.hpp"

#include <QApplication>
#include <QCommandLineParser>
#include <QIcon>
#include <QSettings>
#include <QSurfaceFormat>
#include <QTimer>
#include <cstdio>
#include <sys/resource.h>

int main(int argc, char** argv) {
    QSurfaceFormat::setDefaultFormat(whorl::app::SolidView::format_needed());
    QApplication app(argc, argv);
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
    parser.addOption(measure);
    parser.process(app);

    whorl::app::load_fonts();
    whorl::app::set_theme(parser.isSet(dark) || QSettings().value("dark", false).toBool());
    QApplication::setWindowIcon(QIcon(":/regular-whorl.svg"));
    whorl::app::Session session;
    whorl::app::MainWindow window(session);
    if (!parser.positionalArguments().isEmpty()) window.open(parser.positionalArguments().first());
    window.show();
    if (parser.isSet(measure)) {
        auto* timer = new QTimer(&app);
        QObject::connect(timer, &QTimer::timeout, &app, [&] {
            if (session.building() || window.solid()->frames() < 2) return;
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
