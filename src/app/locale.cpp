#include "app/locale.hpp"

#include "quantity/expression.hpp"

#include <QLocale>
#include <clocale>

namespace whorl::app {

void use_plain_numbers() {
    std::setlocale(LC_NUMERIC, "C");
}

QString with_points(const QString& typed) {
    if (QLocale().decimalPoint() != ",") return typed;
    return QString::fromStdString(with_decimal_points(typed.toStdString()));
}

} // namespace whorl::app
