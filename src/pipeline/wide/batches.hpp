// batches: numbers side by side, as wide as the instruction set this file is compiled for, and what geometry
// needs of them beyond numeric/batch.hpp. Plain numbers where there is no such set.
#pragma once

#include <array>
#include <bit>
#include <cstddef>
#include <cstdint>
#include <type_traits>
#include <utility>

#include "pipeline/uninitialized.hpp"
#include "yurvo/numeric/batch.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

#if defined(XSIMD_NO_SUPPORTED_ARCHITECTURE)
using real = float;
using wide_real = double;
using whole = std::int32_t;
#else
using real = xsimd::batch<float, YURVO_BATCH>;
using wide_real = xsimd::batch<double, YURVO_BATCH>;
using whole = xsimd::batch<std::int32_t, YURVO_BATCH>;
#endif
using wide_reals = std::array<wide_real, lanes_of<real> / lanes_of<wide_real>>; // as many as a real has lanes

template <class Batch>
concept several = (lanes_of<Batch> > 1);

// Each number from 0 on, as a constant: a loop over a point's numbers would keep them in memory.
template <std::size_t Count, class Each> [[gnu::always_inline]] inline void for_each_number(Each&& each) {
    [&]<std::size_t... I>(std::index_sequence<I...>) __attribute__((always_inline)) {
        (each(std::integral_constant<std::size_t, I>()), ...);
    }
    (std::make_index_sequence<Count>());
}

// From and to anywhere in memory.
template <class Batch, class Number> Batch load_from(const Number* from) {
    if constexpr (several<Batch>) {
        return Batch::load_unaligned(from);
    } else {
        return *from;
    }
}
template <class Batch, class Number> void store_to(Number* to, const Batch& numbers) {
    if constexpr (several<Batch>) {
        numbers.store_unaligned(to);
    } else {
        *to = numbers;
    }
}

// The same bits read as another kind of number.
template <class To, class From> To same_bits(const From& from) {
    if constexpr (several<From>) {
        return xsimd::bitwise_cast<To>(from);
    } else {
        return std::bit_cast<To>(from);
    }
}

template <class Mask> bool any_of(const Mask& mask) {
    if constexpr (std::is_same_v<Mask, bool>) {
        return mask;
    } else {
        return xsimd::any(mask);
    }
}

template <class Mask> bool all_of(const Mask& mask) {
    if constexpr (std::is_same_v<Mask, bool>) {
        return mask;
    } else {
        return xsimd::all(mask);
    }
}

// Whole numbers have no select() or min() of ours where they are plain.
template <class Mask> whole choose(const Mask& mask, const whole& if_true, const whole& if_false) {
    if constexpr (std::is_same_v<Mask, bool>) {
        return mask ? if_true : if_false;
    } else {
        return xsimd::select(mask, if_true, if_false);
    }
}
template <class Number> Number least_of(const Number& a, const Number& b) {
    if constexpr (several<Number>) {
        return min(a, b);
    } else {
        return a < b ? a : b;
    }
}
template <class Number> Number greatest_of(const Number& a, const Number& b) {
    if constexpr (several<Number>) {
        return max(a, b);
    } else {
        return a > b ? a : b;
    }
}

// a · b + c, rounded once where the instruction set can; the same of numbers and of batches.
inline double multiply_add(double a, double b, double c) {
#if defined(__FMA__)
    return __builtin_fma(a, b, c);
#else
    return a * b + c;
#endif
}
inline float multiply_add(float a, float b, float c) {
#if defined(__FMA__)
    return __builtin_fmaf(a, b, c);
#else
    return a * b + c;
#endif
}
} // namespace yurvo::inline v0_1::pipeline::wide
