// operations_sse2: see operations.hpp.
#pragma once

#include <immintrin.h>

#include "pipeline/wide/operations_plain.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// Wider sets put single lines so as well.
inline void put_four(const color_lanes& lit, float alpha, std::size_t i, float* to) {
    const __m128 alphas = _mm_set1_ps(alpha);
    const auto four = [&](std::size_t k) {
        const __m128 value = _mm_loadu_ps(lit[k] + i);
        return _mm_and_ps(value, _mm_cmpord_ps(value, value));
    };
    const __m128 r = four(0);
    const __m128 g = four(1);
    const __m128 b = four(2);
    const __m128 rg_low = _mm_unpacklo_ps(r, g);
    const __m128 rg_high = _mm_unpackhi_ps(r, g);
    const __m128 ba_low = _mm_unpacklo_ps(b, alphas);
    const __m128 ba_high = _mm_unpackhi_ps(b, alphas);
    _mm_storeu_ps(to, _mm_movelh_ps(rg_low, ba_low));
    _mm_storeu_ps(to + 4, _mm_movehl_ps(ba_low, rg_low));
    _mm_storeu_ps(to + 8, _mm_movelh_ps(rg_high, ba_high));
    _mm_storeu_ps(to + 12, _mm_movehl_ps(ba_high, rg_high));
}

inline std::array<four_reals, 3> take_four(const float* from) {
    const __m128 a = _mm_load_ps(from);
    const __m128 b = _mm_load_ps(from + 4);
    const __m128 c = _mm_load_ps(from + 8);
    const __m128 d = _mm_load_ps(from + 12);
    const __m128 rg_low = _mm_unpacklo_ps(a, b);
    const __m128 rg_high = _mm_unpacklo_ps(c, d);
    return {_mm_movelh_ps(rg_low, rg_high), _mm_movehl_ps(rg_high, rg_low),
            _mm_movelh_ps(_mm_unpackhi_ps(a, b), _mm_unpackhi_ps(c, d))};
}

inline void blend_texels(const float* below, const float* above, float across, float up, float* to) {
#if defined(__FMA__)
    const __m256 low = _mm256_loadu_ps(below);
    const __m256 column =
        _mm256_fmadd_ps(_mm256_sub_ps(_mm256_loadu_ps(above), low), _mm256_set1_ps(up), low);
    const __m128 left = _mm256_castps256_ps128(column);
    const __m128 right =
        _mm256_castps256_ps128(_mm256_permutevar8x32_ps(column, _mm256_setr_epi32(3, 4, 5, 6, 3, 4, 5, 6)));
    _mm_store_ps(to, _mm_fmadd_ps(_mm_sub_ps(right, left), _mm_set1_ps(across), left));
#else
    const __m128 ups = _mm_set1_ps(up);
    const auto column = [&](std::size_t k) {
        const __m128 low = _mm_loadu_ps(below + k);
        return _mm_add_ps(_mm_mul_ps(_mm_sub_ps(_mm_loadu_ps(above + k), low), ups), low);
    };
    const __m128 left = column(0);
    _mm_store_ps(to, _mm_add_ps(_mm_mul_ps(_mm_sub_ps(column(3), left), _mm_set1_ps(across)), left));
#endif
}

#if !defined(__AVX2__)

using plain::both;
using plain::inverse;
using plain::multiply_add;
using plain::multiply_add_eight;
using plain::store_where;
using plain::store_whole;

template <class Mask> std::uint32_t bits_of(const Mask& mask) {
    return static_cast<std::uint32_t>(_mm_movemask_ps(_mm_castsi128_ps(mask)));
}
inline void store_rounded(float* to, const wide_real& numbers) {
    _mm_storel_pi(reinterpret_cast<__m64*>(to), _mm_cvtpd_ps(numbers)); // NOLINT: as the instruction wants it
}
inline wide_real widened(const float* from) { return plain::widened(from); }
inline whole whole_of(const wide_reals& numbers) { return plain::whole_of(numbers); }
inline real rounded(const wide_reals& numbers) {
    return _mm_movelh_ps(_mm_cvtpd_ps(numbers[0]), _mm_cvtpd_ps(numbers[1]));
}

#endif

} // namespace yurvo::inline v0_1::pipeline::wide
