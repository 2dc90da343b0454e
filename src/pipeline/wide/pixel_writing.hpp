// pixel_writing: lit colours, component by component, written as pixels. Part of attributes.cpp; see
// vertices.hpp for how it is compiled.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/operations.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

inline void write_row(const color_lanes& lit, float alpha, std::size_t count, float* rgba) {
    std::size_t i = 0;
    for (; i + cell_pixels <= count; i += cell_pixels) {
        put_cell({lit[0] + i, lit[1] + i, lit[2] + i}, alpha, rgba + 4 * i, std::size_t{4} * cell);
    }
    for (; i + cell <= count; i += cell) {
        put_four(lit, alpha, i, rgba + 4 * i);
    }
    for (; i < count; ++i) {
        plain::put_one(lit, alpha, i, rgba + 4 * i);
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
    if constexpr (cell_at_once) {
        for (std::size_t c = 0; c < cells_abreast; ++c) {
            const std::size_t first = c * cell_pixels;
            put_cell({lit[0] + first, lit[1] + first, lit[2] + first}, alpha, rgba + first, pitch);
        }
    } else {
        for (std::size_t row = 0; row < cell; ++row) {
            for (std::size_t c = 0; c < cells_abreast; ++c) {
                put_four(lit, alpha, c * cell_pixels + row * cell, rgba + row * pitch + c * cell_pixels);
            }
        }
    }
}

inline void write_square(const color_lanes& lit, float* rgba, std::size_t pitch, float alpha) {
    for (std::size_t first = 0; first < square_pixels; first += cells_abreast * cell_pixels) {
        write_cells({lit[0] + first, lit[1] + first, lit[2] + first}, alpha, rgba, pitch);
        rgba += cell * pitch;
    }
}

// One colour: four pixels at a time, a line, as long as there are as many.
inline void fill(const std::array<float, 4>& color, float* rgba, std::size_t count) {
    uninitialized<std::array<float, std::size_t{4} * cell>> line;
    for (std::size_t i = 0; i < line.size(); ++i) {
        line[i] = color[i % color.size()];
    }
    for (; count >= cell; count -= cell) {
        rgba = std::copy(line.begin(), line.end(), rgba);
    }
    std::copy_n(line.begin(), count * color.size(), rgba);
}

} // namespace yurvo::inline v0_1::pipeline::wide
