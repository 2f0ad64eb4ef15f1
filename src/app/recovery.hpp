// Unsaved work kept in a file of the user's, a moment after each change, until it is saved or given up.
#pragma once

#include "model/job.hpp"

#include <QObject>
#include <QString>
#include <QTimer>
#include <functional>

namespace whorl::app {

class Recovery final : public QObject {
    Q_OBJECT
public:
    // `work`: the job as it is to be kept; nullptr: nothing is unsaved.
    explicit Recovery(std::function<const Job*()> work, QObject* parent = nullptr);

    static QString path();
    bool exists() const;
    void changed(); // keeps the work in a moment
    void keep();    // now
    void discard();

private:
    std::function<const Job*()> work_;
    QTimer timer_;
};

} // namespace whorl::app
