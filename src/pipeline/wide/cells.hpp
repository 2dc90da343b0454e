// cells: the pixels of cells of 4x4, one number each: where they are, how near a triangle is there, and the
// nearest kept. Part of coverage.cpp; see vertices.hpp for how it is compiled.
#pragma once

#include <algorithm>
#include <array>
#include <bit>
#include <cstddef>
#include <cstdint>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/coverage.hpp"
#include "pipeline/wide/operations.hpp"
#include "pipeline/wide/ready_triangles.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

using lane_numbers = std::array<std::int32_t, lanes>;

// Bit l is set where holds(l) is, of as many numbers from l on as a batch has.
template <class Holds> std::uint32_t bits_where(Holds&& holds) {
    std::uint32_t bits = 0;
    for (std::size_t l = 0; l < lanes; l += lanes_of<whole>) {
        bits |= bits_of(holds(l)) << l;
    }
    return bits;
}

// Column and row of each of a cell's pixels.
alignas(64) inline constexpr std::array<std::int32_t, cell_pixels> columns_in_cell{0, 1, 2, 3, 0, 1, 2, 3,
                                                                                   0, 1, 2, 3, 0, 1, 2, 3};
alignas(64) inline constexpr std::array<std::int32_t, cell_pixels> rows_in_cell{0, 0, 0, 0, 1, 1, 1, 1,
                                                                                2, 2, 2, 2, 3, 3, 3, 3};

// A cell's pixels: one whole number each.
inline constexpr std::size_t parts = cell_pixels / lanes_of<whole>;
using cell_numbers = std::array<whole, parts>;
[[gnu::always_inline]] inline cell_numbers numbers_in_cell(const std::int32_t* from) {
    uninitialized<cell_numbers> result;
    for (std::size_t p = 0; p < parts; ++p) {
        result[p] = load_lanes<whole>(from + p * lanes_of<whole>);
    }
    return result;
}

// A triangle's inverse_depth over the pixels of cells: what the columns add, four numbers again and again,
// and where the rows begin.
inline constexpr std::size_t real_step = lanes_of<wide_real>;
inline constexpr std::size_t column_batches = real_step < cell ? cell / real_step : 1;
using column_reals = std::array<wide_real, column_batches>;
using cell_reals = std::array<wide_real, cell_pixels / real_step>;

[[gnu::always_inline]] inline column_reals centres_from(int x) {
    alignas(64) constexpr std::array<double, 8> columns{0, 1, 2, 3, 0, 1, 2, 3};
    uninitialized<column_reals> result;
    for (std::size_t i = 0; i < result.size(); ++i) {
        result[i] = load_lanes<wide_real>(columns.data() + i * real_step) + wide_real(x + 0.5);
    }
    return result;
}
// Halves: exact.
[[gnu::always_inline]] inline void to_next_cell(column_reals& centres) {
    for (wide_real& centre : centres) {
        centre += wide_real(cell);
    }
}
[[gnu::always_inline]] inline column_reals along_columns(const inverse_depth_plane& plane,
                                                         const column_reals& centres) {
    uninitialized<column_reals> result;
    for (std::size_t i = 0; i < result.size(); ++i) {
        result[i] = wide_real(plane.across) * (centres[i] - wide_real(plane.x0));
    }
    return result;
}
[[gnu::always_inline]] inline cell_reals in_rows(const inverse_depth_plane& plane, int y) {
    alignas(64) constexpr std::array<double, cell_pixels> rows{0, 0, 0, 0, 1, 1, 1, 1,
                                                               2, 2, 2, 2, 3, 3, 3, 3};
    uninitialized<cell_reals> result;
    for (std::size_t i = 0; i < result.size(); ++i) {
        const wide_real centre = load_lanes<wide_real>(rows.data() + i * real_step) + wide_real(y + 0.5);
        result[i] = wide_real(plane.at) + wide_real(plane.down) * (centre - wide_real(plane.y0));
    }
    return result;
}

// Of a cell's pixels, the part of them that is a batch, those that are inside: the nearest stays, of equals
// the first drawn. Nearness is never negative, and such floats are ordered as their bits are. Inlined, so
// that what a triangle's pixels share is made once.
template <class Mask>
[[gnu::always_inline]] inline void keep_nearest(const tile_view& tile, std::ptrdiff_t place, std::size_t part,
                                                const cell_reals& rows, const column_reals& columns,
                                                const inverse_depth_plane& plane, std::int32_t triangle,
                                                const Mask& inside) {
    uninitialized<wide_reals> unclamped;
    for (std::size_t i = 0; i < unclamped.size(); ++i) {
        unclamped[i] = rows[part * unclamped.size() + i] + columns[i % column_batches];
    }
    const real clamped = min(max(rounded(unclamped), real(plane.least)), real(plane.most));
    const whole here = same_bits<whole>(clamped);
    const std::ptrdiff_t from = place + static_cast<std::ptrdiff_t>(part * lanes_of<whole>);
    float* const inverse_depth = tile.inverse_depth + from;
    std::int32_t* const seen = tile.seen + from;
    const whole there = same_bits<whole>(load_lanes<real>(inverse_depth));
    const whole other = load_lanes<whole>(seen);
    const whole mine(triangle);
    const auto wins = inside & (here <= whole(std::bit_cast<std::int32_t>(tile.nearest))) &
                      ((here > there) | ((here == there) & (mine < other)));
    store_lanes(inverse_depth, same_bits<real>(choose(wins, here, there)));
    store_lanes(seen, choose(wins, mine, other));
}

// Runs of pixels that a triangle covers, row by row from above, put together to rows of cells.
class cells_of_rows {
    const tile_view& tile_;
    const inverse_depth_plane& plane_;
    std::int32_t triangle_;
    int top_ = 0; // of the row of cells
    bool any_ = false;
    alignas(64) std::array<std::int32_t, cell_pixels> begin_{}, end_{}; // pixel by pixel, those of its row

  public:
    cells_of_rows(const tile_view& tile, const inverse_depth_plane& plane, std::int32_t triangle)
        : tile_(tile), plane_(plane), triangle_(triangle) {}

    void put(int y, int begin, int end) {
        const int row = (y - tile_.top) & in_cell;
        if (any_ && y - row != top_) {
            cover();
        }
        any_ = true;
        top_ = y - row;
        std::fill_n(begin_.begin() + std::ptrdiff_t{row} * cell, cell, begin);
        std::fill_n(end_.begin() + std::ptrdiff_t{row} * cell, cell, end);
    }

    void cover() {
        if (!any_) {
            return;
        }
        int left = tile_.left + tile_.width;
        int right = tile_.left;
        for (std::size_t row = 0; row < cell_pixels; row += cell) {
            if (begin_[row] < end_[row]) {
                left = std::min(left, begin_[row]);
                right = std::max(right, end_[row]);
            }
        }
        left -= (left - tile_.left) & in_cell;
        const cell_numbers columns = numbers_in_cell(columns_in_cell.data());
        const cell_numbers begin = numbers_in_cell(begin_.data());
        const cell_numbers end = numbers_in_cell(end_.data());
        const cell_reals rows = in_rows(plane_, top_);
        std::ptrdiff_t place = tile_.place(left, top_);
        column_reals centres = centres_from(left);
        for (int x = left; x < right; x += cell, place += cell_pixels) {
            const column_reals along = along_columns(plane_, centres);
            for (std::size_t p = 0; p < parts; ++p) {
                const whole at = columns[p] + whole(x);
                keep_nearest(tile_, place, p, rows, along, plane_, triangle_,
                             (at >= begin[p]) & (at < end[p]));
            }
            to_next_cell(centres);
        }
        any_ = false;
        end_ = begin_; // the next rows of cells may not have them all
    }
};

} // namespace yurvo::inline v0_1::pipeline::wide
