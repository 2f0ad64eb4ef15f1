#include "solid/skin/slice_loop.hpp"

#include <algorithm>
#include <map>

namespace whorl::solid {

std::vector<LoopSlice> slice_loop(const std::vector<EdgeUse>& loop, const std::vector<long>& strip,
                                  bool rising, const std::function<double(std::size_t)>& along,
                                  const std::function<int(long, std::size_t, std::size_t)>& cut) {
    // the loop's uses, then those of the cuts; `next` links them to the parts' boundaries
    const std::size_t n = loop.size();
    std::vector<EdgeUse> uses = loop;
    std::vector<long> in = strip;
    std::vector<std::size_t> next(n);
    std::map<long, std::vector<std::size_t>> crossing; // by line: the uses behind which it is crossed
    for (std::size_t i = 0; i < n; ++i) {
        next[i] = (i + 1) % n;
        const long from = strip[i], to = strip[next[i]];
        if (std::abs(from - to) > 1) throw std::logic_error("slice: a boundary leaps over a strip");
        if (from != to) crossing[std::max(from, to)].push_back(i);
    }
    const auto link = [&](std::size_t from, EdgeUse use, std::size_t to) {
        next[from] = uses.size();
        next.push_back(to);
        uses.push_back(use);
        in.push_back(in[from]);
    };
    for (auto& [line, at] : crossing) {
        std::sort(at.begin(), at.end(), [&](std::size_t a, std::size_t b) { return along(a) < along(b); });
        if (at.size() % 2 != 0)
            throw std::logic_error("slice: a boundary crosses a line an odd number of times");
        for (std::size_t k = 0; k < at.size(); k += 2) {
            const std::size_t low = at[k], high = at[k + 1], after_low = (low + 1) % n,
                              after_high = (high + 1) % n;
            if ((strip[low] < strip[after_low]) != rising || (strip[high] > strip[after_high]) != rising)
                throw std::logic_error("slice: a boundary crosses a line the wrong way");
            const int made = cut(line, low, high);
            link(low, {made, true, 0}, after_high);
            link(high, {made, false, 0}, after_low);
        }
    }
    std::vector<LoopSlice> out;
    std::vector<bool> done(uses.size());
    for (std::size_t i = 0; i < uses.size(); ++i) {
        if (done[i]) continue;
        out.push_back({in[i], {}});
        for (std::size_t at = i; !done[at]; at = next[at]) {
            done[at] = true;
            out.back().loop.push_back(uses[at]);
        }
    }
    return out;
}

} // namespace whorl::solid
