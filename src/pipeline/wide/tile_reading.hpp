// tile_reading: what is seen in a tile, when all is covered: how far it is, and which pixels show which
// triangle. Part of coverage.cpp; see vertices.hpp for how it is compiled.
#pragma once

#include <algorithm>
#include <array>
#include <bit>
#include <cstddef>
#include <cstdint>
#include <limits>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/batches.hpp"
#include "pipeline/wide/cells.hpp"
#include "pipeline/wide/coverage.hpp"
#include "pipeline/wide/lanes.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

inline float farthest(const tile_view& tile) {
    uninitialized<std::array<real, 4>> least;
    least.fill(real(std::numeric_limits<float>::infinity()));
    static_assert(square_pixels % (4 * lanes_of<real>) == 0);
    const std::size_t count = tile.pixels();
    for (std::size_t i = 0; i < count; i += 4 * lanes_of<real>) {
        for (std::size_t k = 0; k < 4; ++k) {
            least[k] = min(least[k], load_lanes<real>(tile.inverse_depth + i + k * lanes_of<real>));
        }
    }
    alignas(64) uninitialized<std::array<float, lanes_of<real>>> all;
    store_lanes(all.data(), min(min(least[0], least[1]), min(least[2], least[3])));
    return *std::min_element(all.begin(), all.end());
}

inline void coarsen(const tile_view& tile, float* coarse) {
    for (int y = 0; y < tile.cells_down; y += 2) {
        for (int x = 0; x < tile.cells_across; x += 2) {
            const float* const above =
                tile.inverse_depth + static_cast<std::ptrdiff_t>(y * tile.cells_across + x) * cell_pixels;
            const float* const below = above + static_cast<std::ptrdiff_t>(tile.cells_across) * cell_pixels;
            alignas(64) uninitialized<lane_numbers> least; // as in keep_nearest, bits
            for (std::size_t l = 0; l < lanes; ++l) {
                const auto bits = [&](const float* from) { return std::bit_cast<std::int32_t>(from[l]); };
                least[l] = lesser(lesser(bits(above), bits(above + cell_pixels)),
                                  lesser(bits(below), bits(below + cell_pixels)));
            }
            for (std::size_t width = lanes / 2; width > 0; width /= 2) {
                for (std::size_t l = 0; l < width; ++l) {
                    least[l] = lesser(least[l], least[l + width]);
                }
            }
            *coarse++ = std::bit_cast<float>(least[0]);
        }
    }
}

static_assert(square == lanes);
inline void split(const tile_view& tile, int left, int top, seen_run* runs, found_runs& found) {
    auto least = static_cast<std::uint32_t>(found.least);
    std::int32_t all_bits = 0; // the sign's is set if any has it
    seen_run* next = runs + found.count;
    // The square's triangles row by row, and one more, which is read but makes no difference.
    alignas(64) uninitialized<std::array<std::int32_t, square_pixels + 1>> rows;
    rows[square_pixels] = -1;
    for (int y = 0; y < square; ++y) {
        const std::int32_t* const from = tile.seen + tile.place(left, top + y);
        for (int x = 0; x < square; x += cell) {
            std::copy_n(from + std::ptrdiff_t{x / cell} * cell_pixels, cell,
                        rows.data() + std::ptrdiff_t{y} * square + x);
        }
    }
    const std::uint32_t last = 1U << (std::min(square, tile.left + tile.width - left) - 1);
    for (int y = 0; y < std::min(square, tile.top + tile.height - top); ++y) {
        const std::int32_t* const ids = rows.data() + std::ptrdiff_t{y} * square;
        const std::uint32_t differs = bits_where(
            [&](std::size_t l) { return load_lanes<whole>(ids + l) != load_from<whole>(ids + l + 1); });
        std::uint32_t ends = (differs & (last - 1)) | last;
        int begin = 0;
        for (; ends != 0; ends &= ends - 1) {
            const int end = std::countr_zero(ends) + 1;
            const std::int32_t id = ids[begin];
            // As numbers without a sign, nothing is greater than every triangle.
            least = lesser(least, static_cast<std::uint32_t>(id));
            found.most = greater(found.most, id);
            all_bits |= id;
            *next++ = {static_cast<std::int16_t>(left + begin), static_cast<std::int16_t>(top + y),
                       static_cast<std::int16_t>(end - begin), id};
            begin = end;
        }
    }
    found.count = static_cast<std::size_t>(next - runs);
    found.least = static_cast<std::int32_t>(least);
    found.any_nothing = found.any_nothing || all_bits < 0;
}

// Whether a row of cells of a square shows one triangle only.
inline bool shows_one(const std::int32_t* ids) {
    const whole value(*ids);
    auto same = load_lanes<whole>(ids) == value;
    for (std::size_t i = lanes_of<whole>; i < cells_abreast * cell_pixels; i += lanes_of<whole>) {
        same = same & (load_lanes<whole>(ids + i) == value);
    }
    return all_of(same);
}

inline bool take_apart(const tile_view& tile, int left, int top, square_pieces& into) {
    constexpr std::uint32_t every_pixel = (1U << static_cast<unsigned>(cell_pixels)) - 1;
    cell_piece* next = into.all.data();
    std::int32_t least = INT32_MAX;
    std::int32_t most = -1;
    const auto put = [&](std::int32_t id, std::uint32_t pixels, std::size_t first, std::size_t more) {
        *next++ = {id, static_cast<std::uint16_t>(pixels), static_cast<std::uint8_t>(first),
                   static_cast<std::uint8_t>(more)};
        least = lesser(least, id);
        most = greater(most, id);
    };
    const std::int32_t* ids = tile.seen + tile.place(left, top);
    for (std::size_t row = 0; row < cells_in_square; row += cells_abreast) {
        if (shows_one(ids)) {
            put(*ids, every_pixel, row, cells_abreast - 1);
        } else {
            for (std::size_t c = 0; c < cells_abreast; ++c) {
                const std::int32_t* const cell_ids = ids + c * cell_pixels;
                for (std::uint32_t remaining = every_pixel; remaining != 0;) {
                    const std::int32_t id = cell_ids[std::countr_zero(remaining)];
                    const whole same(id);
                    const std::uint32_t pixels =
                        bits_where([&](std::size_t l) { return load_lanes<whole>(cell_ids + l) == same; });
                    put(id, pixels, row + c, 0);
                    remaining &= ~pixels;
                }
            }
        }
        if (least < 0 || next > into.all.data() + most_pieces) {
            return false;
        }
        ids += static_cast<std::ptrdiff_t>(tile.cells_across) * cell_pixels;
    }
    into.count = static_cast<std::size_t>(next - into.all.data());
    into.least = least;
    into.most = most;
    return true;
}

} // namespace yurvo::inline v0_1::pipeline::wide
