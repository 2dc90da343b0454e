// square_spreading: normals and positions of all pixels of a square, cell by cell. Part of attributes.cpp;
// see vertices.hpp for how it is compiled.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/operations.hpp"
#include "pipeline/wide/square_planes.hpp"

namespace yurvo::pipeline::wide {

// Where a cell's pixels are, from the middle of its first: in a square, whose cells lie in four columns and
// rows, from the square's middle.
inline constexpr std::size_t parts = cell_pixels / lanes_of<real>; // batches in a cell
template <class Number> using cell_of_numbers = std::array<Number, cell_pixels>;
struct cell_places {
    alignas(64) std::array<cell_of_numbers<float>, cells_abreast> x, y; // by column, by row
    alignas(64) cell_of_numbers<double> column, row;
};
inline constexpr cell_places places = [] {
    cell_places result{};
    for (int i = 0; i < cell_pixels; ++i) {
        const int column = i % cell;
        const int row = i / cell;
        const auto at = static_cast<std::size_t>(i);
        for (int c = 0; c < square / cell; ++c) {
            const auto first = static_cast<float>(c * cell - half_square) + 0.5F;
            result.x[static_cast<std::size_t>(c)][at] = first + static_cast<float>(column);
            result.y[static_cast<std::size_t>(c)][at] = first + static_cast<float>(row);
        }
        result.column[at] = column + 0.5;
        result.row[at] = row + 0.5;
    }
    return result;
}();

// Normals and positions in doubles of those pixels of the cell at (x, y) that are part `part` of it: number
// by number as spread_run() has them.
[[gnu::noinline]] inline void in_doubles(const square_request& request, const attribute_planes& planes, int x,
                                         int y, std::size_t part, point_reals& into) {
    uninitialized<std::array<wide_reals, 6>> result;
    const auto& [corner, right, down] = *request.rays;
    constexpr std::size_t step = lanes_of<wide_real>;
    for (std::size_t i = 0; i < lanes_of<real> / step; ++i) {
        const std::size_t lane = part * lanes_of<real> + i * step;
        const wide_real at_x = load_lanes<wide_real>(places.column.data() + lane) + wide_real(x);
        const wide_real at_y = load_lanes<wide_real>(places.row.data() + lane) + wide_real(y);
        const wide_real dx = at_x - wide_real(planes.x);
        const wide_real dy = at_y - wide_real(planes.y);
        const auto value = [](const plane_over_pixels& plane, const wide_real& across,
                              const wide_real& below) {
            return multiply_add(wide_real(plane.across), across,
                                multiply_add(wide_real(plane.down), below, wide_real(plane.at)));
        };
        const wide_real depth = inverse(
            min(max(value(planes.plane(0), dx, dy), wide_real(planes.least)), wide_real(planes.most)));
        for (std::size_t a = 0; a < 3; ++a) {
            result[a][i] = value(planes.plane(a + 1), dx, dy) * depth;
        }
        result[3][i] = value({corner.x, right.x, down.x}, at_x, at_y) * depth;
        result[4][i] = value({corner.y, right.y, down.y}, at_x, at_y) * depth;
        result[5][i] = value({corner.z, right.z, down.z}, at_x, at_y) * depth;
    }
    for (std::size_t a = 0; a < result.size(); ++a) {
        into[a] = rounded(result[a]);
    }
}

inline void spread_square(const square_request& request) {
    const square_request wanted = request; // what is stored must not be taken for it
    const std::int32_t here = square_of(wanted.x, wanted.y);
    const square_rays rays(*wanted.rays, wanted.x, wanted.y);
    // Planes that are new here, one after the other, which leaves the processor several to work on.
    for (std::size_t t = 0; t < wanted.triangle_count; ++t) {
        const std::uint16_t slot = wanted.triangles[t].slot;
        std::int32_t& of_slot = wanted.square[slot];
        if (of_slot != always_doubles && (of_slot & ~1) != here) {
            of_slot = here | (set_square(wanted.planes[slot], rays, wanted.in_square[slot]) ? 0 : 1);
        }
    }
    // With each piece's cell, as long as there are others, where one cell's pixels will be written is
    // fetched. Into the second cache, as the first is full of what the pixels are made of.
    std::size_t fetched = 0;
    const auto fetch = [&]() __attribute__((always_inline)) {
        if (fetched < cells_in_square) {
            const float* const to = wanted.rgba + fetched / cells_abreast * cell * wanted.pitch +
                                    fetched % cells_abreast * cell_pixels;
            for (std::size_t row = 0; row < cell; ++row) {
                __builtin_prefetch(to + row * wanted.pitch, 0, 2);
            }
            ++fetched;
        }
    };
    for (std::size_t t = 0; t < wanted.triangle_count; ++t) {
        const shown_triangle triangle = wanted.triangles[t];
        const auto each_part = [&](auto&& values) __attribute__((always_inline)) {
            for (std::size_t p = triangle.first; p != no_piece; p = wanted.pieces[p].next) {
                const shown_piece piece = wanted.pieces[p];
                for (std::size_t c = piece.cell; c <= piece.cell + piece.more; ++c) {
                    fetch();
                    for (std::size_t part = 0; part < parts; ++part) {
                        const point_reals result = values(c, part);
                        for_each_number<6>([&](auto i) __attribute__((always_inline)) {
                            store_where(piece.pixels, part, result[i], wanted.into[i] + c * cell_pixels);
                        });
                    }
                }
            }
        };
        if (wanted.square[triangle.slot] == here) {
            const square_planes_of_lanes planes(wanted.in_square[triangle.slot]);
            each_part([&](std::size_t cell_number, std::size_t part) __attribute__((always_inline)) {
                const std::size_t lane = part * lanes_of<real>;
                return planes.values(load_lanes<real>(places.x[cell_number % cells_abreast].data() + lane),
                                     load_lanes<real>(places.y[cell_number / cells_abreast].data() + lane));
            });
        } else {
            const attribute_planes& planes = wanted.planes[triangle.slot];
            each_part([&](std::size_t cell_number, std::size_t part) __attribute__((always_inline)) {
                constexpr auto in_row = static_cast<int>(cells_abreast);
                const auto number = static_cast<int>(cell_number);
                uninitialized<point_reals> result;
                in_doubles(wanted, planes, wanted.x + number % in_row * cell,
                           wanted.y + number / in_row * cell, part, result);
                return result;
            });
        }
    }
}

} // namespace yurvo::pipeline::wide
