// A table with an entry for every value of an enumeration from 0 on: a value without one does not compile or link.
#pragma once

#include <array>
#include <utility>

namespace whorl {

// `entry` is a lambda with the value as its template argument: []<Kind k>() { return &model<k>(); }
template<class Enum, int count, class F>
constexpr auto each_of(F entry) {
    return [&]<int... I>(std::integer_sequence<int, I...>) {
        return std::array{entry.template operator()<static_cast<Enum>(I)>()...};
    }(std::make_integer_sequence<int, count>());
}

} // namespace whorl
