// The same work for each of many, on all cores.
#pragma once

#include <cstddef>
#include <functional>
#include <stop_token>

namespace whorl {

// Calls work(0) … work(count − 1), each once, in about this order, and comes back when all are done; stopped, none is begun any
// more. What the first of them threw is thrown again, when those under way are done.
void on_all_cores(std::size_t count, const std::function<void(std::size_t)>& work,
                  const std::stop_token& stop = {});

} // namespace whorl
