// operations_avx512: see operations.hpp.
#pragma once

#include "pipeline/wide/operations_sse2.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

template <class Mask> std::uint32_t bits_of(const Mask& mask) { return static_cast<__mmask16>(mask); }

// xsimd 8 rounds its product here.
template <several Batch> Batch multiply_add(const Batch& a, const Batch& b, const Batch& c) {
    if constexpr (std::is_same_v<Batch, real>) {
        return _mm512_fmadd_ps(a, b, c);
    } else {
        return _mm512_fmadd_pd(a, b, c);
    }
}
inline void multiply_add_eight(const float* a, float factor, const float* c, float* to) {
    _mm256_store_ps(to, _mm256_fmadd_ps(_mm256_load_ps(a), _mm256_set1_ps(factor), _mm256_load_ps(c)));
}

// To the last bit but one: eight at a time the processor divides for as long as all else here takes.
inline wide_real inverse(const wide_real& number) {
    const __m512d one = _mm512_set1_pd(1);
    __m512d guess = _mm512_rcp14_pd(number); // 14 bits, doubled twice by steps of Newton
    for (int doubled = 0; doubled < 2; ++doubled) {
        guess = _mm512_fmadd_pd(guess, _mm512_fnmadd_pd(number, guess, one), guess);
    }
    return guess;
}
// The number is neither zero nor beyond all measure.
inline real inverse(const real& number) {
    const __m512 guess = _mm512_rcp14_ps(number); // 14 bits, doubled by a step of Newton
    return _mm512_fmadd_ps(guess, _mm512_fnmadd_ps(number, guess, _mm512_set1_ps(1)), guess);
}

inline void store_rounded(float* to, const wide_real& numbers) {
    _mm256_storeu_ps(to, _mm512_cvtpd_ps(numbers));
}
inline wide_real widened(const float* from) { return _mm512_cvtps_pd(_mm256_loadu_ps(from)); }
inline void store_whole(std::int32_t* to, const wide_real& numbers) {
    _mm256_storeu_si256(reinterpret_cast<__m256i*>(to), _mm512_cvttpd_epi32(numbers)); // NOLINT
}
inline whole whole_of(const wide_reals& numbers) {
    return _mm512_inserti64x4(_mm512_castsi256_si512(_mm512_cvttpd_epi32(numbers[0])),
                              _mm512_cvttpd_epi32(numbers[1]), 1);
}
inline real rounded(const wide_reals& numbers) {
    return _mm512_insertf32x8(_mm512_castps256_ps512(_mm512_cvtpd_ps(numbers[0])),
                              _mm512_cvtpd_ps(numbers[1]), 1);
}
inline eight_reals both(const double* a, const double* b) {
    return {_mm512_insertf64x4(_mm512_castpd256_pd512(_mm256_loadu_pd(a)), _mm256_loadu_pd(b), 1)};
}
[[gnu::always_inline]] inline void store_where(std::uint32_t pixels, std::size_t part, const real& numbers,
                                               float* cell_of) {
    _mm512_mask_store_ps(cell_of + part * lanes_of<real>, static_cast<__mmask16>(pixels), numbers);
}
[[gnu::always_inline]] inline void store_where(std::uint32_t pixels, std::size_t part, const whole& numbers,
                                               std::int32_t* cell_of) {
    _mm512_mask_store_epi32(cell_of + part * lanes_of<whole>, static_cast<__mmask16>(pixels), numbers);
}

// Columns or rows brought back into a texture that is repeated, as long as a float holds them.
inline __m512i repeated(const __m512i& texels, int size) {
    const __m512i all = _mm512_set1_epi32(size);
    // Times the texture is passed; rounding makes it one off at the most.
    const __m512i times = _mm512_cvttps_epi32(
        _mm512_mul_ps(_mm512_cvtepi32_ps(texels), _mm512_set1_ps(1.0F / static_cast<float>(size))));
    const __m512i left = _mm512_sub_epi32(texels, _mm512_mullo_epi32(times, all));
    const __m512i not_below =
        _mm512_mask_add_epi32(left, _mm512_cmplt_epi32_mask(left, _mm512_setzero_si512()), left, all);
    return _mm512_mask_sub_epi32(not_below, _mm512_cmpge_epi32_mask(not_below, all), not_below, all);
}

// Sixteen points whose left texels lie in nine columns of the texture, none of them in its last column or
// row, rows of the texture one after the other: two loads hold all that points want of a row, and each takes
// what it wants from there. False, and nothing of use put, where they do not, or where a load would reach
// beyond the texture.
inline bool blend_close_texels(const close_texels& at, std::array<real, 3>& into) {
    constexpr int columns_in_two_loads = 9;
    const auto each = [](std::int32_t number) { return _mm512_set1_epi32(number); };
    __m512i columns = _mm512_loadu_si512(at.column);
    __m512i rows = _mm512_loadu_si512(at.row);
    // As numbers without a sign those below zero are beyond all others.
    const auto inside = [&]() __attribute__((always_inline)) {
        const __mmask16 good = _mm512_cmple_epu32_mask(columns, each(at.width - 2));
        return _mm512_mask_cmple_epu32_mask(good, _mm512_sub_epi32(rows, each(1)), each(at.height - 3)) ==
               0xFFFF;
    };
    if (!inside()) {
        const __m512i far = each(1 << 24);
        if (_mm512_cmpgt_epi32_mask(_mm512_abs_epi32(columns), far) != 0 ||
            _mm512_cmpgt_epi32_mask(_mm512_abs_epi32(rows), far) != 0) {
            return false;
        }
        columns = repeated(columns, at.width);
        rows = repeated(rows, at.height);
        if (!inside()) {
            return false;
        }
    }
    const std::int32_t first_column = (_mm_cvtsi128_si32(_mm512_castsi512_si128(columns)) +
                                       _mm_extract_epi32(_mm512_extracti32x4_epi32(columns, 3), 3)) /
                                          2 -
                                      columns_in_two_loads / 2;
    const __m512i column = _mm512_sub_epi32(columns, each(first_column));
    if (_mm512_cmple_epu32_mask(column, each(columns_in_two_loads - 1)) != 0xFFFF) {
        return false;
    }
    const std::int32_t row_numbers = 3 * at.width;
    const __m512i in_row = _mm512_add_epi32(_mm512_add_epi32(column, column), column);
    const __m512i begins = _mm512_add_epi32( // where in the texture the nine columns of each one's row are
        _mm512_mullo_epi32(_mm512_sub_epi32(each(at.height - 1), rows), each(row_numbers)),
        each(3 * first_column));
    // The left texel's numbers in its row, then the right one's.
    struct six_batches {
        std::array<__m512, 6> each;
    };
    struct six_places {
        std::array<__m512i, 6> each;
    };
    uninitialized<six_places> number;
    uninitialized<six_batches> low;
    uninitialized<six_batches> high;
    for_each_number<6>([&](auto k) __attribute__((always_inline)) {
        number.each[k] = _mm512_add_epi32(in_row, _mm512_set1_epi32(static_cast<int>(k)));
        low.each[k] = high.each[k] = _mm512_setzero_ps();
    });
    __mmask16 left = 0xFFFF;
    do {
        const std::int32_t row =
            _mm_cvtsi128_si32(_mm512_castsi512_si128(_mm512_maskz_compress_epi32(left, begins)));
        const std::int32_t next = row - row_numbers;
        if (next < 0 || row > at.height * row_numbers - 32) {
            return false;
        }
        const __mmask16 here = _mm512_cmpeq_epi32_mask(begins, _mm512_set1_epi32(row));
        const auto put = [&](const float* from, six_batches& to) __attribute__((always_inline)) {
            const __m512 one = _mm512_loadu_ps(from);
            const __m512 other = _mm512_loadu_ps(from + 16);
            for_each_number<6>([&](auto k) __attribute__((always_inline)) {
                to.each[k] =
                    _mm512_mask_mov_ps(to.each[k], here, _mm512_permutex2var_ps(one, number.each[k], other));
            });
        };
        put(at.texels + row, low);
        put(at.texels + next, high);
        left = static_cast<__mmask16>(left & ~here);
    } while (left != 0);
    const __m512 up = _mm512_loadu_ps(at.up);
    const __m512 across = _mm512_loadu_ps(at.across);
    for_each_number<3>([&](auto k) __attribute__((always_inline)) {
        const auto upwards = [&](auto i) __attribute__((always_inline)) {
            return _mm512_fmadd_ps(_mm512_sub_ps(high.each[i], low.each[i]), up, low.each[i]);
        };
        const __m512 on_left = upwards(k);
        const __m512 on_right = upwards(std::integral_constant<std::size_t, k + 3>());
        into[k] = _mm512_fmadd_ps(_mm512_sub_ps(on_right, on_left), across, on_left);
    });
    return true;
}

// Sixteen pixels: in pairs of numbers first, then whole, four to a line.
inline std::array<__m512, 4> sixteen_pixels(const color_lanes& lit, const __m512& alphas) {
    // A table of what becomes of NaN, quiet or not (0), and of all else (itself).
    const __m512i no_nan = _mm512_set1_epi32(0x88);
    const auto component = [&](const float* from) {
        const __m512 value = _mm512_loadu_ps(from);
        return _mm512_fixupimm_ps(value, value, no_nan, 0);
    };
    const __m512i low = _mm512_setr_epi32(0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
    const __m512i high = _mm512_setr_epi32(8, 24, 9, 25, 10, 26, 11, 27, 12, 28, 13, 29, 14, 30, 15, 31);
    const __m512i first = _mm512_setr_epi64(0, 8, 1, 9, 2, 10, 3, 11);
    const __m512i second = _mm512_setr_epi64(4, 12, 5, 13, 6, 14, 7, 15);
    const __m512 r = component(lit[0]);
    const __m512 g = component(lit[1]);
    const __m512 b = component(lit[2]);
    const auto pairs = [](const __m512& one, const __m512i& which, const __m512& other) {
        return _mm512_castps_pd(_mm512_permutex2var_ps(one, which, other));
    };
    const auto line = [](const __m512d& rg, const __m512i& which, const __m512d& ba) {
        return _mm512_castpd_ps(_mm512_permutex2var_pd(rg, which, ba));
    };
    const __m512d rg_low = pairs(r, low, g);
    const __m512d ba_low = pairs(b, low, alphas);
    const __m512d rg_high = pairs(r, high, g);
    const __m512d ba_high = pairs(b, high, alphas);
    return {line(rg_low, first, ba_low), line(rg_low, second, ba_low), line(rg_high, first, ba_high),
            line(rg_high, second, ba_high)};
}

inline void put_cell(const color_lanes& lit, float alpha, float* to, std::size_t pitch) {
    for (const __m512& line : sixteen_pixels(lit, _mm512_set1_ps(alpha))) {
        _mm512_storeu_ps(to, line);
        to += pitch;
    }
}

} // namespace yurvo::inline v0_1::pipeline::wide
