#include "build/all_cores.hpp"

#include <algorithm>
#include <atomic>
#include <exception>
#include <mutex>
#include <thread>
#include <vector>

namespace whorl {

void on_all_cores(std::size_t count, const std::function<void(std::size_t)>& work,
                  const std::stop_token& stop) {
    std::atomic<std::size_t> next = 0;
    std::mutex mutex;
    std::exception_ptr thrown;
    std::size_t thrown_by = count;
    const auto go = [&] {
        for (std::size_t i = next++; i < count && !stop.stop_requested(); i = next++)
            try {
                work(i);
            } catch (...) {
                const std::lock_guard lock(mutex);
                if (i < thrown_by) thrown = std::current_exception(), thrown_by = i;
                next = count;
            }
    };
    {
        std::vector<std::jthread> others;
        const std::size_t cores = std::max(1u, std::thread::hardware_concurrency());
        for (std::size_t i = 1; i < std::min(cores, count); ++i)
            others.emplace_back(go);
        go();
    }
    if (thrown) std::rethrow_exception(thrown);
}

} // namespace whorl
