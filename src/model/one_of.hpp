// One of several types, as std::variant has them, but copied, moved, compared and ended by functions that are compiled in one
// file only (one_of.cpp). What a zone wears is copied with every job; written out anew in each of two hundred files, these few
// functions were a third of the time it took to compile them.
//
//   using Form = OneOf<PlainForm, ThreadForm, …>;   std::get_if<ThreadForm>(&form), std::visit(work, form) as ever
#pragma once

#include <concepts>
#include <type_traits>
#include <utility>
#include <variant>

namespace whorl {

template<class... T>
class OneOf : public std::variant<T...> {
public:
    OneOf();
    OneOf(const OneOf&);
    OneOf(OneOf&&) noexcept;
    OneOf& operator=(const OneOf&);
    OneOf& operator=(OneOf&&) noexcept;
    ~OneOf();
    template<class U>
    requires(std::same_as<std::remove_cvref_t<U>, T> || ...) // so that copies are not made by it
        // NOLINTNEXTLINE(bugprone-forwarding-reference-overload,google-explicit-constructor,hicpp-explicit-conversions)
        OneOf(U&& one)
        : std::variant<T...>(std::forward<U>(one)) {}
};

template<class>
constexpr std::size_t count_of = 0;
template<class... T>
constexpr std::size_t count_of<OneOf<T...>> = sizeof...(T);
template<std::size_t I, class V>
struct AlternativeOf;
template<std::size_t I, class... T>
struct AlternativeOf<I, OneOf<T...>> : std::variant_alternative<I, std::variant<T...>> {};
template<std::size_t I, class V>
using alternative_of = typename AlternativeOf<I, V>::type;

} // namespace whorl
