// Another source's gear or rack laid over the selected one: read once, compared anew in the background
// whenever the selected teeth change.
#pragma once

#include "app/session.hpp"
#include "exchange/rack_compare.hpp"

#include <QThreadPool>
#include <atomic>

namespace whorl::app {

class Comparison : public QObject {
    Q_OBJECT
public:
    explicit Comparison(Session& session, QObject* parent = nullptr);

    // Reads in the background; finished() follows with nothing, or with the sentence why not.
    void load(const QString& path);
    void clear();
    bool loaded() const { return !pieces_.empty(); }
    const QString& name() const { return name_; }
    // Of the selected gear, or rack; none while they are not comparable, see why().
    const std::optional<GearComparison>& result() const { return result_; }
    const std::optional<RackComparison>& rack_result() const { return rack_result_; }
    const QString& why() const { return why_; }

signals:
    void finished(const QString& why);
    void updated();

private:
    void compare();
    void forget();

    Session& session_;
    QThreadPool pool_; // waits for what is being read when the window goes
    std::vector<OutlinePiece> pieces_;
    QString name_, why_;
    std::optional<GearComparison> result_;
    std::optional<RackComparison> rack_result_;
    std::optional<GearSpec> compared_; // what result_ is about
    std::optional<RackSpec> compared_rack_;
    std::atomic<long> serial_ = 0; // of the newest order; older ones in the queue are passed over
};

} // namespace whorl::app
