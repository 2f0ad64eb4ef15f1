#include "app/comparison.hpp"

#include <QFileInfo>

namespace whorl::app {

Comparison::Comparison(Session& session, QObject* parent) : QObject(parent), session_(session) {
    pool_.setMaxThreadCount(1);
    connect(&session_, &Session::changed, this, &Comparison::compare);
}

void Comparison::load(const QString& path) {
    pool_.start([this, path] {
        std::vector<OutlinePiece> pieces;
        QString why;
        try {
            pieces = outline_pieces(path.toStdString());
        } catch (const std::exception& e) {
            why = QString::fromStdString(e.what());
        }
        QMetaObject::invokeMethod(this, [this, path, pieces, why] {
            if (why.isEmpty()) {
                pieces_ = pieces;
                name_ = QFileInfo(path).fileName();
                compared_.reset();
                result_.reset();
                compare();
                emit updated(); // the views say that it is being compared
            }
            emit finished(why);
        });
    });
}

void Comparison::clear() {
    pieces_.clear();
    result_.reset();
    compared_.reset();
    ++serial_;
    emit updated();
}

void Comparison::compare() {
    const auto* z = session_.resolved_zone();
    if (pieces_.empty() || !z || !z->teeth || compared_ == z->teeth->spec) return;
    compared_ = z->teeth->spec;
    pool_.start([this, gear = *z->teeth, pieces = pieces_, serial = ++serial_] {
        std::optional<GearComparison> made;
        QString why;
        try {
            made = compare_outline(gear, pieces);
        } catch (const std::exception& e) {
            why = QString::fromStdString(e.what());
        }
        QMetaObject::invokeMethod(this, [this, made, why, serial] {
            if (serial != serial_) return;
            result_ = made;
            why_ = why;
            emit updated();
        });
    });
}

} // namespace whorl::app
