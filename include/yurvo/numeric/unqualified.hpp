// max, min, clamp and select for plain numbers, found from anywhere.
//
// A model of one's own calls them unqualified, so that a batch brings its own; a float or a double, which
// belongs to no namespace, finds these. They are less specialised than the ones in std and in yurvo, and give
// way to them.
#pragma once

#include "yurvo/numeric/functions.hpp"

template <class A, class B>
requires(std::floating_point<A>&& std::same_as<A, B>) constexpr A max(const A& a, const B& b) {
    return yurvo::max(a, b);
}
template <class A, class B>
requires(std::floating_point<A>&& std::same_as<A, B>) constexpr A min(const A& a, const B& b) {
    return yurvo::min(a, b);
}
template <class A, class B, class C>
requires(std::floating_point<A>&& std::same_as<A, B>&& std::same_as<A, C>) constexpr A
    clamp(const A& x, const B& low, const C& high) {
    return yurvo::clamp(x, low, high);
}
template <class A, class B>
requires(std::floating_point<A>&& std::same_as<A, B>) constexpr A
    select(bool condition, const A& if_true, const B& if_false) {
    return yurvo::select(condition, if_true, if_false);
}
