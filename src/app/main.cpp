#include "app/main_window.hpp"
#include "app/theme.hpp"

#include <QApplication>
#include <QCommandLineParser>
#include <QIcon>
#include <QSettings>
#include <QSurfaceFormat>

int main(int argc, char** argv) {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setStencilBufferSize(8);
    format.setSamples(4);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication app(argc, argv);
    QCoreApplication::setOrganizationName("regular-whorl");
    QCoreApplication::setApplicationName("regular-whorl");
    QCoreApplication::setApplicationVersion("0.1.0");
    QCommandLineParser parser;
    parser.setApplicationDescription("Regular Whorl: threads from standard specifications to correct solids.");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("job", "a .whorl file to open", "[job]");
    QCommandLineOption dark("dark", "start in the dark theme");
    parser.addOption(dark);
    parser.process(app);

    whorl::app::load_fonts();
    whorl::app::set_theme(parser.isSet(dark) || QSettings().value("dark", false).toBool());
    QApplication::setWindowIcon(QIcon(":/regular-whorl.svg"));
    whorl::app::Session session;
    whorl::app::MainWindow window(session);
    if (!parser.positionalArguments().isEmpty()) window.open(parser.positionalArguments().first());
    window.show();
    return app.exec();
}
