// pixel_writing: lit colours, component by component, written as pixels. Part of attributes.cpp; see
// vertices.hpp for how it is compiled.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/batches.hpp"

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
        float* to = rgba + 4 * i;
        for (const __m512& line : sixteen_pixels({lit[0] + i, lit[1] + i, lit[2] + i}, alphas)) {
            _mm512_storeu_ps(to, line);
            to += 16;
        }
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
    for (std::size_t c = 0; c < cells_abreast; ++c) {
        const std::size_t first = c * cell_pixels;
        float* to = rgba + first;
        for (const __m512& line : sixteen_pixels({lit[0] + first, lit[1] + first, lit[2] + first}, alphas)) {
            _mm512_storeu_ps(to, line);
            to += pitch;
        }
    }
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
    uninitialized<std::array<float, 4 * cell>> line;
    for (std::size_t i = 0; i < line.size(); ++i) {
        line[i] = color[i % color.size()];
    }
    for (; count >= cell; count -= cell) {
        rgba = std::copy(line.begin(), line.end(), rgba);
    }
    std::copy_n(line.begin(), count * color.size(), rgba);
}

} // namespace yurvo::pipeline::wide
