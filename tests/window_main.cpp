// The window tests' own main: a home of their own, a locale, a theme.
#define CATCH_CONFIG_RUNNER
#include "app/locale.hpp"
#include "app/theme.hpp"

#include <QApplication>
#include <QLocale>
#include <QTemporaryDir>
#include <catch2/catch.hpp>
#include <cstdio>

using namespace whorl::app;

int main(int argc, char** argv) {
    QTemporaryDir home;
    qputenv("XDG_DATA_HOME", home.path().toUtf8());
    qputenv("XDG_CONFIG_HOME", home.path().toUtf8());
    QApplication app(argc, argv);
    use_plain_numbers();
    if (qEnvironmentVariableIsSet("WHORL_COMMA_LOCALE") && QLocale().decimalPoint() != ",") {
        std::fprintf(stderr, "This run wants a locale with decimal commas; is it generated?\n");
        return 1;
    }
    QCoreApplication::setOrganizationName("regular-whorl");
    QCoreApplication::setApplicationName("regular-whorl-test");
    load_fonts();
    set_theme(false);
    return Catch::Session().run(argc, argv);
}
