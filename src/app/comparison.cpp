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
                forget();
                compare();
                emit updated(); // the views say that it is being compared
            }
            emit finished(why);
        });
    });
}

void Comparison::clear() {
    pieces_.clear();
    forget();
    ++serial_;
    emit updated();
}

void Comparison::forget() {
    result_.reset();
    rack_result_.reset();
    compared_.reset();
    compared_rack_.reset();
    why_.clear();
}

void Comparison::compare() {
    const auto* z = session_.resolved_zone();
    if (pieces_.empty() || !z || (!z->gear() && !z->rack())) return;
    if (z->gear() ? compared_ == z->gear()->spec : compared_rack_ == z->rack()->spec) return;
    // the last result of its kind stays until the new one is there
    if (z->gear()) {
        compared_ = z->gear()->spec;
        compared_rack_.reset();
        rack_result_.reset();
    } else {
        compared_rack_ = z->rack()->spec;
        compared_.reset();
        result_.reset();
    }
    pool_.start([this, gear = z->gear(), rack = z->rack(), pieces = pieces_, serial = ++serial_] {
        if (serial != serial_) return;
        std::optional<GearComparison> of_gear;
        std::optional<RackComparison> of_rack;
        QString why;
        try {
            if (gear)
                of_gear = compare_outline(*gear, pieces);
            else
                of_rack = compare_outline(*rack, pieces);
        } catch (const std::exception& e) {
            why = QString::fromStdString(e.what());
        }
        QMetaObject::invokeMethod(this, [this, of_gear, of_rack, why, serial] {
            if (serial != serial_) return;
            result_ = of_gear;
            rack_result_ = of_rack;
            why_ = why;
            emit updated();
        });
    });
}

} // namespace whorl::app
