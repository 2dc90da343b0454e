// pixel_writing: lit colours, component by component, written as pixels. Part of attributes.cpp; see
// vertices.hpp for how it is compiled.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>

#include "attributes.hpp"
#include "batches.hpp"

namespace yurvo::pipeline::wide {

// Infinities may meet zeros on the way when lights are beyond all measure; a picture holds no NaN.
inline void write_one(const color_lanes& lit, float alpha, std::size_t i, float* rgba) {
    for (std::size_t k = 0; k < 3; ++k) {
        const float value = lit[k][i];
        rgba[4 * i + k] = value == value ? value : 0.0F;
    }
    rgba[4 * i + 3] = alpha;
}

#if defined(__AVX512F__)
// Four pixels of sixteen, from pixel `First` on: every fourth number one component's.
template <int First>
inline __m512 four_pixels(const __m512& r, const __m512& g, const __m512& b, const __m512& alphas) {
    const __m512i from =
        _mm512_setr_epi32(First, First, First, 0, First + 1, First + 1, First + 1, 0, First + 2, First + 2,
                          First + 2, 0, First + 3, First + 3, First + 3, 0);
    __m512 line = _mm512_mask_permutexvar_ps(alphas, 0x1111, from, r);
    line = _mm512_mask_permutexvar_ps(line, 0x2222, from, g);
    return _mm512_mask_permutexvar_ps(line, 0x4444, from, b);
}

inline __m512 sixteen(const float* component) {
    const __m512 value = _mm512_loadu_ps(component);
    return _mm512_maskz_mov_ps(_mm512_cmp_ps_mask(value, value, _CMP_ORD_Q), value);
}
#endif

#if defined(__SSE2__)
// Four pixels, from the i-th on.
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
#endif

inline void write_row(const color_lanes& lit, float alpha, std::size_t count, float* rgba) {
    std::size_t i = 0;
#if defined(__AVX512F__)
    const __m512 alphas = _mm512_set1_ps(alpha);
    for (; i + 16 <= count; i += 16) {
        const __m512 r = sixteen(lit[0] + i);
        const __m512 g = sixteen(lit[1] + i);
        const __m512 b = sixteen(lit[2] + i);
        float* const to = rgba + 4 * i;
        _mm512_storeu_ps(to, four_pixels<0>(r, g, b, alphas));
        _mm512_storeu_ps(to + 16, four_pixels<4>(r, g, b, alphas));
        _mm512_storeu_ps(to + 32, four_pixels<8>(r, g, b, alphas));
        _mm512_storeu_ps(to + 48, four_pixels<12>(r, g, b, alphas));
    }
#endif
#if defined(__SSE2__)
    for (; i + 4 <= count; i += 4) {
        put_four(lit, alpha, i, rgba + 4 * i);
    }
#endif
    for (; i < count; ++i) {
        write_one(lit, alpha, i, rgba);
    }
}

inline void write(const color_lanes& lit, const pixel_rows& to, float alpha) {
    color_lanes row = lit;
    float* rgba = to.rgba;
    for (std::size_t y = 0; y < to.rows; ++y) {
        write_row(row, alpha, to.count, rgba);
        for (const float*& component : row) {
            component += to.count;
        }
        rgba += to.pitch;
    }
}

// The pixels of cells that lie side by side, a square's width of them: a line for four of a row.
inline void write_cells(const color_lanes& lit, float alpha, float* rgba, std::size_t pitch) {
#if defined(__AVX512F__)
    const __m512 alphas = _mm512_set1_ps(alpha);
    std::array<std::array<__m512, 3>, cells_abreast> of; // NOLINT: written at once
    for (std::size_t c = 0; c < cells_abreast; ++c) {
        for (std::size_t k = 0; k < 3; ++k) {
            of[c][k] = sixteen(lit[k] + c * cell_pixels);
        }
    }
    const auto write_row = [&]<int Row>() {
        for (std::size_t c = 0; c < cells_abreast; ++c) {
            _mm512_storeu_ps(rgba + Row * pitch + c * cell_pixels,
                             four_pixels<Row * cell>(of[c][0], of[c][1], of[c][2], alphas));
        }
    };
    write_row.template operator()<0>();
    write_row.template operator()<1>();
    write_row.template operator()<2>();
    write_row.template operator()<3>();
#else
    for (std::size_t row = 0; row < cell; ++row) {
        for (std::size_t c = 0; c < cells_abreast; ++c) {
            const std::size_t first = c * cell_pixels + row * cell;
            float* const to = rgba + row * pitch + c * cell_pixels;
#if defined(__SSE2__)
            put_four(lit, alpha, first, to);
#else
            for (std::size_t i = 0; i < cell; ++i) {
                write_one({lit[0] + first, lit[1] + first, lit[2] + first}, alpha, i, to);
            }
#endif
        }
    }
#endif
}

inline void write_square(const color_lanes& lit, float* rgba, std::size_t pitch, float alpha) {
    for (std::size_t first = 0; first < square * square; first += cells_abreast * cell_pixels) {
        write_cells({lit[0] + first, lit[1] + first, lit[2] + first}, alpha, rgba, pitch);
        rgba += cell * pitch;
    }
}

// One colour: four pixels at a time, a line, as long as there are as many.
inline void fill(const std::array<float, 4>& color, float* rgba, std::size_t count) {
    std::array<float, 4 * cell> line; // NOLINT: written at once
    for (std::size_t i = 0; i < line.size(); ++i) {
        line[i] = color[i % color.size()];
    }
    for (; count >= cell; count -= cell) {
        rgba = std::copy(line.begin(), line.end(), rgba);
    }
    std::copy_n(line.begin(), count * color.size(), rgba);
}

} // namespace yurvo::pipeline::wide
