#include "app/recovery.hpp"

#include "model/job_file.hpp"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QStandardPaths>

namespace whorl::app {

Recovery::Recovery(std::function<const Job*()> work, QObject* parent)
    : QObject(parent), work_(std::move(work)) {
    timer_.setSingleShot(true);
    timer_.setInterval(1500);
    connect(&timer_, &QTimer::timeout, this, &Recovery::keep);
}

QString Recovery::path() {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovery.whorl";
}

bool Recovery::exists() const {
    return QFile::exists(path());
}

void Recovery::changed() {
    timer_.start();
}

void Recovery::keep() {
    const Job* job = work_();
    if (!job) return;
    QDir().mkpath(QFileInfo(path()).path());
    try {
        save_job(*job, path().toStdString());
    } catch (const FileError&) {
        // the next change tries again; the job itself is untouched
    }
}

void Recovery::discard() {
    QFile::remove(path());
}

} // namespace whorl::app
