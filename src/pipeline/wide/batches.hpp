// batches: numbers side by side, as wide as the instruction set this file is compiled for, and what geometry
// needs of them beyond numeric/batch.hpp. Plain numbers where there is no such set.
#pragma once

#include <array>
#include <bit>
#include <cstddef>
#include <cstdint>

#if defined(__SSE2__)
#include <immintrin.h>
#endif

#include "pipeline/uninitialized.hpp"
#include "yurvo/numeric/batch.hpp"

namespace yurvo::pipeline::wide {

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

// A bit for each lane of a comparison of whole numbers.
template <class Mask> std::uint32_t bits_of(const Mask& mask) {
    if constexpr (std::is_same_v<Mask, bool>) {
        return mask ? 1 : 0;
    } else {
#if defined(__AVX512F__)
        return static_cast<__mmask16>(mask);
#elif defined(__AVX2__)
        return static_cast<std::uint32_t>(_mm256_movemask_ps(_mm256_castsi256_ps(mask)));
#elif defined(__SSE2__)
        return static_cast<std::uint32_t>(_mm_movemask_ps(_mm_castsi128_ps(mask)));
#else
        std::array<bool, lanes_of<whole>> each{};
        mask.store_unaligned(each.data());
        std::uint32_t bits = 0;
        for (std::size_t l = 0; l < each.size(); ++l) {
            bits |= static_cast<std::uint32_t>(each[l]) << l;
        }
        return bits;
#endif
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
template <several Batch> Batch multiply_add(const Batch& a, const Batch& b, const Batch& c) {
#if defined(__AVX512F__) // xsimd 8 rounds its product here
    if constexpr (std::is_same_v<Batch, real>) {
        return _mm512_fmadd_ps(a, b, c);
    } else {
        return _mm512_fmadd_pd(a, b, c);
    }
#else
    return xsimd::fma(a, b, c);
#endif
}

// Rounded to floats, anywhere in memory.
inline void store_rounded(float* to, const wide_real& numbers) {
#if defined(__AVX512F__)
    _mm256_storeu_ps(to, _mm512_cvtpd_ps(numbers));
#elif defined(__AVX2__)
    _mm_storeu_ps(to, _mm256_cvtpd_ps(numbers));
#elif defined(__SSE2__)
    _mm_storel_pi(reinterpret_cast<__m64*>(to), _mm_cvtpd_ps(numbers)); // NOLINT
#else
    alignas(64) uninitialized<std::array<double, lanes_of<wide_real>>> all;
    store_lanes(all.data(), numbers);
    for (const double number : all) {
        *to++ = static_cast<float>(number);
    }
#endif
}
// As many floats as doubles have lanes.
inline wide_real widened(const float* from) {
#if defined(__AVX512F__)
    return _mm512_cvtps_pd(_mm256_loadu_ps(from));
#elif defined(__AVX2__)
    return _mm256_cvtps_pd(_mm_loadu_ps(from));
#else
    alignas(64) uninitialized<std::array<double, lanes_of<wide_real>>> all;
    for (double& number : all) {
        number = *from++;
    }
    return load_lanes<wide_real>(all.data());
#endif
}
inline real rounded(const wide_reals& numbers) {
#if defined(__AVX512F__)
    return _mm512_insertf32x8(_mm512_castps256_ps512(_mm512_cvtpd_ps(numbers[0])),
                              _mm512_cvtpd_ps(numbers[1]), 1);
#elif defined(__AVX2__)
    return _mm256_set_m128(_mm256_cvtpd_ps(numbers[1]), _mm256_cvtpd_ps(numbers[0]));
#elif defined(__SSE2__)
    return _mm_movelh_ps(_mm_cvtpd_ps(numbers[0]), _mm_cvtpd_ps(numbers[1]));
#else
    alignas(64) uninitialized<std::array<float, lanes_of<real>>> narrow;
    for (std::size_t i = 0; i < numbers.size(); ++i) {
        store_rounded(narrow.data() + i * lanes_of<wide_real>, numbers[i]);
    }
    return load_lanes<real>(narrow.data());
#endif
}

} // namespace yurvo::pipeline::wide
