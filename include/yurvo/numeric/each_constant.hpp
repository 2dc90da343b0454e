// each_constant: a value of an enumeration as a constant of the program.
#pragma once

#include <cstddef>
#include <type_traits>
#include <utility>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::detail {

template <class Enum, Enum Value> using constant = std::integral_constant<Enum, Value>;

template <class Enum, class Use, std::size_t... Index>
constexpr void with_constant(Enum value, Use&& use, std::index_sequence<Index...>) {
    const auto call = [&](auto each) {
        const bool is = value == each();
        if (is) {
            use(each);
        }
        return is;
    };
    (void)(call(constant<Enum, static_cast<Enum>(Index)>{}) || ...);
}

/// Calls use(constant<Enum, value>{}) for the value that it has when the program runs: 0 to Count − 1.
template <std::size_t Count, class Enum, class Use> constexpr void with_constant(Enum value, Use&& use) {
    with_constant(value, use, std::make_index_sequence<Count>{});
}

} // namespace yurvo::inline v0_1::detail
#pragma GCC visibility pop
