#include "picture/wide_encoding.hpp"

#if defined(__x86_64__)

#include <array>
#include <cmath>

#include <immintrin.h>

namespace yurvo::inline v0_1 {

namespace {

// 255 · 1.055 · x^(1 / 2.4) for x = 2^e · m: a quadratic in m for each sixteenth of [1, 2), through the three
// Chebyshev nodes, times 2^(e / 2.4) for each e from −15 to 0, which its last four bits tell apart (below −9
// the curve is a straight line, and this is not asked). The quadratic is off by 5e-7 at the most (the third
// derivative is at most 0.39 there, over 24 · 32³), by 1.3e-4 of a code; with the roundings of floats a code
// is off by less than 2e-4 of its width.
struct power_tables {
    static constexpr std::size_t entries = 16;
    static constexpr double exponent = 1 / 2.4;
    alignas(64) std::array<float, entries> constant{}, linear{}, square{};
    alignas(64) std::array<float, entries> scale{};

    power_tables() {
        constexpr double half_width = 1.0 / 32;
        for (std::size_t i = 0; i < entries; ++i) {
            const double middle = 1 + (2 * static_cast<double>(i) + 1) * half_width;
            const double node = half_width * std::sqrt(0.75); // and the middle itself
            const double low = std::pow(middle - node, exponent);
            const double at = std::pow(middle, exponent);
            const double high = std::pow(middle + node, exponent);
            const double slope = (high - low) / (2 * node);
            const double bend = (high - 2 * at + low) / (2 * node * node);
            constant[i] = static_cast<float>(at - slope * middle + bend * middle * middle);
            linear[i] = static_cast<float>(slope - 2 * bend * middle);
            square[i] = static_cast<float>(bend);
        }
        for (int e = -15; e <= 0; ++e) {
            constexpr int bias = 127;
            scale[static_cast<std::size_t>(e + bias) % entries] =
                static_cast<float>(255 * 1.055 * std::exp2(e * exponent));
        }
    }
};

const power_tables& tables() {
    static const power_tables made;
    return made;
}

// Borders are this near, in codes, where floats do not decide: more than twice what they may be off.
constexpr float near_border = 5e-4F;

[[gnu::target("avx512f,avx512bw,avx512dq,avx512vl")]] std::size_t
encode_sixteen(const float* values, std::size_t count, bool opaque, std::uint8_t* to,
               void (*exactly)(const float*, std::uint8_t*)) {
    constexpr __mmask16 alphas = 0x8888;
    const power_tables& made = tables();
    const __m512 constant = _mm512_load_ps(made.constant.data());
    const __m512 linear = _mm512_load_ps(made.linear.data());
    const __m512 square = _mm512_load_ps(made.square.data());
    const __m512 scale = _mm512_load_ps(made.scale.data());
    const __m512 one = _mm512_set1_ps(1);
    const __m512 half = _mm512_set1_ps(0.5F);
    const __m512 most = _mm512_set1_ps(255);
    const __m512 opaque_alpha = _mm512_set1_ps(255.5F);
    const __m512 offset = _mm512_set1_ps(0.5F - 0.055F * 255);
    const __m512 steep = _mm512_set1_ps(12.92F * 255);
    const __m512 border = _mm512_set1_ps(0.0031308F);
    const __m512i mantissa = _mm512_set1_epi32(0x007FFFFF);
    const __m512i exponent_of_one = _mm512_set1_epi32(0x3F800000);
    std::size_t done = 0;
    for (; done + encoded_at_once <= count; done += encoded_at_once) {
        __m512 places[2]; // NOLINT: an array of such would lose their alignment
        __m512 off[2];    // NOLINT
        for (std::size_t i = 0; i < 2; ++i) {
            // NaN is 0.
            const __m512 given = _mm512_loadu_ps(values + 4 * done + 16 * i);
            const __m512 x = _mm512_min_ps(_mm512_max_ps(given, _mm512_setzero_ps()), one);
            const __m512i bits = _mm512_castps_si512(x);
            constexpr int a_and_b_or_c = 0xEA;
            const __m512 m =
                _mm512_castsi512_ps(_mm512_ternarylogic_epi32(bits, mantissa, exponent_of_one, a_and_b_or_c));
            const __m512i part = _mm512_srli_epi32(bits, 19);
            const __m512i exponent = _mm512_srli_epi32(bits, 23);
            const __m512 power = _mm512_fmadd_ps(
                _mm512_fmadd_ps(_mm512_permutexvar_ps(part, square), m, _mm512_permutexvar_ps(part, linear)),
                m, _mm512_permutexvar_ps(part, constant));
            const __m512 curved = _mm512_fmadd_ps(power, _mm512_permutexvar_ps(exponent, scale), offset);
            const __m512 straight = _mm512_fmadd_ps(x, steep, half);
            const __m512 place =
                _mm512_mask_mov_ps(curved, _mm512_cmp_ps_mask(x, border, _CMP_LE_OQ), straight);
            // As rounded() has it, two roundings of floats; never near a border that counts.
            const __m512 alpha = opaque ? opaque_alpha : _mm512_add_ps(_mm512_mul_ps(x, most), half);
            places[i] = _mm512_mask_mov_ps(place, alphas, alpha);
            off[i] = _mm512_mask_mov_ps(_mm512_abs_ps(_mm512_reduce_ps(place, _MM_FROUND_TO_NEAREST_INT)),
                                        alphas, one);
        }
        const __mmask16 undecided =
            _mm512_cmp_ps_mask(_mm512_min_ps(off[0], off[1]), _mm512_set1_ps(near_border), _CMP_LT_OQ);
        if (undecided != 0) [[unlikely]] {
            exactly(values + 4 * done, to + 4 * done);
            continue;
        }
        for (std::size_t i = 0; i < 2; ++i) {
            _mm_storeu_si128(reinterpret_cast<__m128i*>(to + 4 * done + 16 * i), // NOLINT
                             _mm512_cvtepi32_epi8(_mm512_cvttps_epi32(places[i])));
        }
    }
    return done;
}

} // namespace

std::size_t encode_wide(const float* values, std::size_t count, bool opaque, std::uint8_t* to,
                        void (*exactly)(const float*, std::uint8_t*)) {
    static const bool can =
        __builtin_cpu_supports("avx512f") != 0 && __builtin_cpu_supports("avx512bw") != 0 &&
        __builtin_cpu_supports("avx512dq") != 0 && __builtin_cpu_supports("avx512vl") != 0;
    return can ? encode_sixteen(values, count, opaque, to, exactly) : 0;
}

} // namespace yurvo::inline v0_1

#else

namespace yurvo::inline v0_1 {

std::size_t encode_wide(const float*, std::size_t, bool, std::uint8_t*,
                        void (*)(const float*, std::uint8_t*)) {
    return 0;
}

} // namespace yurvo::inline v0_1

#endif
