#include "app/maker.hpp"

#include <utility>

namespace whorl::app {

Maker::Maker(QObject* parent) : QObject(parent) {
    worker_ = std::jthread([this](const std::stop_token& stop) { work(stop); });
}

Maker::~Maker() {
    worker_.request_stop();
    current_.request_stop();
    wake_.notify_all();
    worker_.join();
}

void Maker::order(Order order) {
    {
        const std::lock_guard lock(mutex_);
        next_ = std::move(order);
        ++serial_;
        current_.request_stop();
        current_ = std::stop_source();
    }
    busy_ = true;
    wake_.notify_one();
}

void Maker::forget() {
    {
        const std::lock_guard lock(mutex_);
        next_.reset();
        ++serial_;
        current_.request_stop();
    }
    busy_ = false;
    preview_.reset();
    retire_solid();
}

void Maker::forget_counterpart() {
    if (!counterpart_preview_) return;
    counterpart_preview_.reset();
    emit counterpart_previewed();
}

// Taken apart by the worker before its next order.
void Maker::retire_solid() {
    if (!solid_) return;
    const std::lock_guard lock(mutex_);
    retired_.push_back(std::exchange(solid_, nullptr));
}

void Maker::tell(long serial, std::function<void()> what) {
    QMetaObject::invokeMethod(this, [this, serial, what = std::move(what)] {
        if (serial == serial_) what();
    });
}

void Maker::work(const std::stop_token& stop) {
    for (;;) {
        Order now;
        std::stop_token cancelled;
        long serial = 0;
        std::vector<std::shared_ptr<const VerifiedSolid>> done_with;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [&] { return next_.has_value(); })) return;
            now = std::move(*next_);
            next_.reset();
            serial = serial_;
            cancelled = current_.get_token();
            done_with.swap(retired_);
        }
        done_with.clear();
        make(now, serial, cancelled);
    }
}

void Maker::make(const Order& now, long serial, const std::stop_token& cancelled) {
    const auto preview_of = [&](const Piece& piece, std::size_t index) -> std::shared_ptr<const Preview> {
        try {
            return cache_.get(piece, index, now.names, now.unit);
        } catch (const std::exception&) {
            return nullptr; // a job in the session always resolves; nothing to show otherwise
        }
    };
    const auto preview = preview_of(now.piece, now.index);
    if (!preview) return tell(serial, [this] { busy_ = false; });
    tell(serial, [this, preview] {
        preview_ = preview;
        retire_solid();
        if (!preview->made()) busy_ = false;
        emit previewed();
    });
    if (now.counterpart && !cancelled.stop_requested())
        tell(serial, [this, counterpart = preview_of(*now.counterpart, now.counterpart_index)] {
            if (counterpart == counterpart_preview_) return;
            counterpart_preview_ = counterpart;
            emit counterpart_previewed();
        });
    if (!preview->made() || cancelled.stop_requested()) return;
    std::shared_ptr<const VerifiedSolid> made;
    try {
        made = make_verified_solid(*preview, cancelled);
    } catch (const std::exception&) {
        made = std::make_shared<VerifiedSolid>(); // not valid: shown as such
    }
    if (!made) return;
    tell(serial, [this, made] {
        retire_solid();
        solid_ = made;
        busy_ = false;
        emit verified();
    });
}

} // namespace whorl::app
