// batch_avx512: sixteen floats side by side, where AVX-512 does better than batch.hpp, which brings this.
#pragma once

#include <array>
#include <cfloat>

#include <immintrin.h>

#include "yurvo/numeric/batch.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

namespace detail {

/// Sixteen numbers that a batch picks from by the last four bits of each lane's index.
using sixteen = std::array<float, 16>;
inline __m512 pick(const sixteen& from, const __m512i& index) {
    return _mm512_permutexvar_ps(index, _mm512_load_ps(from.data()));
}
inline __m512 every(float number) { return _mm512_set1_ps(number); }

/// cosine_power for sixteen floats by small tables (Tang 1989): log2(1 − versine), its product with the
/// exponent, and 2 to that.
inline __m512 cosine_power_by_tables(const __m512& versine, const __m512& exponent) {
    // By a number's first four bits after the point, those from 1.4375 on halved: its inverse in eight bits,
    // and minus the logarithm of that. Around 1 they are 1 and 0, so that small logarithms keep their digits.
    alignas(64) static constexpr sixteen inverse{
        1.0F,       0.9140625F,  0.86328125F, 0.8203125F, 0.78125F,    0.74609375F, 0.7109375F,  1.36328125F,
        1.3046875F, 1.25390625F, 1.20703125F, 1.1640625F, 1.12109375F, 1.0859375F,  1.05078125F, 1.0F};
    alignas(64) static constexpr sixteen logarithm{0.0F,
                                                   0x1.097e38p-3F,
                                                   0x1.b26024p-3F,
                                                   0x1.249cd2p-2F,
                                                   0x1.6cb0f6p-2F,
                                                   0x1.b0b680p-2F,
                                                   0x1.f804aep-2F,
                                                   -0x1.c9d030p-2F,
                                                   -0x1.88e9c8p-2F,
                                                   -0x1.4e4388p-2F,
                                                   -0x1.15fa68p-2F,
                                                   -0x1.c0db6cp-3F,
                                                   -0x1.51babap-3F,
                                                   -0x1.e72ec2p-4F,
                                                   -0x1.24b5b8p-4F,
                                                   0.0F};
    alignas(64) static constexpr sixteen root{// 2^(j / 16)
                                              0x1.000000p+0F, 0x1.0b5586p+0F, 0x1.172b84p+0F, 0x1.2387a6p+0F,
                                              0x1.306fe0p+0F, 0x1.3dea64p+0F, 0x1.4bfdaep+0F, 0x1.5ab07ep+0F,
                                              0x1.6a09e6p+0F, 0x1.7a1148p+0F, 0x1.8ace54p+0F, 0x1.9c4918p+0F,
                                              0x1.ae89fap+0F, 0x1.c199bep+0F, 0x1.d5818ep+0F, 0x1.ea4afap+0F};
    constexpr int bits_of_halves = 0x3f380000; // of 0.71875
    constexpr int exponent_bits = -0x800000;
    const __m512 one = every(1);
    // cosine = 2^k · m with m in [0.71875, 1.4375), and k ≥ −24. Both `scale` and scale − 1 are exact, so
    // scale · cosine − 1 is rounded once, although the cosine itself has lost digits.
    const __m512i bits = _mm512_castps_si512(_mm512_sub_ps(one, versine));
    const __m512i k_shifted = _mm512_and_si512(_mm512_sub_epi32(bits, _mm512_set1_epi32(bits_of_halves)),
                                               _mm512_set1_epi32(exponent_bits));
    const __m512i index = _mm512_srli_epi32(bits, 19);
    const __m512 back = _mm512_castsi512_ps(_mm512_sub_epi32(_mm512_castps_si512(one), k_shifted)); // 2^−k
    const __m512 scale = _mm512_mul_ps(pick(inverse, index), back);
    const __m512 rest = _mm512_fnmadd_ps(versine, scale, _mm512_sub_ps(scale, one)); // −1/32 to 1/16
    const __m512 whole_part =
        _mm512_fmadd_ps(_mm512_cvtepi32_ps(k_shifted), every(0x1p-23F), pick(logarithm, index));
    // log2(1 + rest) = rest · log2 e + rest² · q(rest), q by interpolation at Chebyshev's points: 0.4u off.
    const __m512 squared = _mm512_mul_ps(rest, rest);
    const __m512 q_low = _mm512_fmadd_ps(rest, every(0x1.ec73cep-2F), every(-0x1.715476p-1F));
    const __m512 q_high = _mm512_fmadd_ps(rest, every(0x1.19013ap-2F), every(-0x1.71830ap-2F));
    const __m512 q = _mm512_fmadd_ps(squared, q_high, q_low);
    const __m512 log2_of_cosine =
        _mm512_fmadd_ps(rest, every(0x1.715476p+0F), _mm512_fmadd_ps(squared, q, whole_part));

    // The product to the nearest 16th: what is added leaves no room for further bits.
    const __m512 no_room = every(0x1.8p19F);
    const __m512 sixteenths = _mm512_fmadd_ps(exponent, log2_of_cosine, no_room);
    const __m512 turns = _mm512_sub_ps(sixteenths, no_room);
    const __m512 r = _mm512_fmsub_ps(exponent, log2_of_cosine, turns);
    // 2^r = 1 + r · w(r), as q.
    const __m512 w = _mm512_fmadd_ps(r, _mm512_fmadd_ps(r, every(0x1.c6b29ap-5F), every(0x1.ebff92p-3F)),
                                     every(0x1.62e430p-1F));
    const __m512 of_sixteenth = pick(root, _mm512_castps_si512(sixteenths));
    const __m512 power = _mm512_fmadd_ps(_mm512_mul_ps(of_sixteenth, r), w, of_sixteenth);
    // Zero from a right angle on, and below the normal numbers.
    const __mmask16 ahead = _mm512_cmp_ps_mask(versine, one, _CMP_LT_OQ);
    const __mmask16 kept = _mm512_mask_cmp_ps_mask(ahead, sixteenths, every(0x1.8p19F - 126), _CMP_GT_OQ);
    return _mm512_maskz_scalef_ps(kept, power, turns);
}

/// One step of Newton on the processor's 14 bits.
inline __m512 refined_inverse_sqrt(const __m512& x, const __m512& guess) {
    const __m512 rest = _mm512_fnmadd_ps(_mm512_mul_ps(x, guess), guess, every(1));
    return _mm512_fmadd_ps(guess, _mm512_mul_ps(rest, every(0.5F)), guess);
}

} // namespace detail

template <class Arch>
requires(xsimd::batch<float, Arch>::size == 16) struct real_functions<xsimd::batch<float, Arch>> {
    using real = xsimd::batch<float, Arch>;

    /// 14 bits from the processor, doubled by one step of Newton. What lies outside the normal numbers is
    /// taken for the nearest of them, so that the step never meets 0 · infinity.
    static real reciprocal(const real& x) {
        const __m512 kept = _mm512_max_ps(_mm512_min_ps(x, detail::every(FLT_MAX)), detail::every(FLT_MIN));
        const __m512 guess = _mm512_rcp14_ps(kept);
        const __m512 rest = _mm512_fnmadd_ps(kept, guess, detail::every(1));
        return _mm512_fmadd_ps(guess, rest, guess);
    }

    static real inverse_sqrt(const real& x) {
        const __m512 kept = _mm512_min_ps(x, detail::every(FLT_MAX));
        return detail::refined_inverse_sqrt(kept, _mm512_rsqrt14_ps(kept));
    }

    /// 1 / √x, and 0 where x is 0.
    static real inverse_sqrt_or_zero(const real& x) {
        const __m512 kept = _mm512_min_ps(x, detail::every(FLT_MAX));
        const __mmask16 positive = _mm512_cmp_ps_mask(x, _mm512_setzero_ps(), _CMP_GT_OQ);
        return detail::refined_inverse_sqrt(kept, _mm512_maskz_rsqrt14_ps(positive, kept));
    }

    static auto any(const real& x, const real& y, const real& z) {
        const auto bits = [](const real& of) { return _mm512_castps_si512(of); };
        constexpr int any_of_three = 0xFE; // the truth table of a | b | c
        const __m512i either = _mm512_ternarylogic_epi32(bits(x), bits(y), bits(z), any_of_three);
        // But for the sign: 0 and −0 are both nothing.
        return typename real::batch_bool_type(_mm512_test_epi32_mask(either, _mm512_set1_epi32(0x7fffffff)));
    }

    static real cosine_power(const real& versine, const real& exponent) {
        return detail::cosine_power_by_tables(versine, exponent);
    }
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
