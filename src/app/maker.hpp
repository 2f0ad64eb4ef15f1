// Makes the geometry of the newest order in a thread of its own: a preview at once, the counterpart's after
// it, then the kernel solid with its proofs, as long as nothing newer has been asked meanwhile.
#pragma once

#include "build/build.hpp"

#include <QObject>
#include <condition_variable>
#include <thread>

namespace whorl::app {

class Maker final : public QObject {
    Q_OBJECT
public:
    struct Order {
        Piece piece;
        std::size_t index;
        std::optional<Piece> counterpart;
        std::size_t counterpart_index;
        Names names;
        LengthUnit unit;
    };

    explicit Maker(QObject* parent = nullptr);
    ~Maker() override;

    void order(Order order);
    bool busy() const { return busy_; }
    void forget(); // there is no piece any more
    void forget_counterpart();

    std::shared_ptr<const Preview> preview() const { return preview_; }
    std::shared_ptr<const Preview> counterpart_preview() const { return counterpart_preview_; }
    std::shared_ptr<const VerifiedSolid> solid() const { return solid_; }

signals:
    void previewed();
    void counterpart_previewed();
    void verified();

private:
    void work(const std::stop_token& stop);
    void make(const Order& order, long serial, const std::stop_token& cancelled);
    // On the interface thread, unless something newer was asked for.
    void tell(long serial, std::function<void()> what);
    void retire_solid();

    std::shared_ptr<const Preview> preview_, counterpart_preview_;
    std::shared_ptr<const VerifiedSolid> solid_;
    bool busy_ = false;

    PreviewCache cache_;
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Order> next_;
    long serial_ = 0;
    std::vector<std::shared_ptr<const VerifiedSolid>> retired_; // taking one apart takes milliseconds
    std::stop_source current_;                                  // cancels the solid being made
    std::jthread worker_;
};

} // namespace whorl::app
