// square_spreading: what all pixels of a square are handed, cell by cell. Part of attributes.cpp; see
// vertices.hpp for how it is compiled.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/extras_spreading.hpp"
#include "pipeline/wide/operations.hpp"
#include "pipeline/wide/square_planes.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

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

// Those pixels of the cell at (x, y) that are a part of it, in doubles.
[[gnu::always_inline]] inline void place_in_doubles(const attribute_planes& planes, int x, int y,
                                                    std::size_t part, points_in_doubles& points) {
    constexpr std::size_t step = lanes_of<wide_real>;
    for (std::size_t i = 0; i < points.dx.size(); ++i) {
        const std::size_t lane = part * lanes_of<real> + i * step;
        points.dx[i] =
            load_lanes<wide_real>(places.column.data() + lane) + wide_real(x) - wide_real(planes.x);
        points.dy[i] = load_lanes<wide_real>(places.row.data() + lane) + wide_real(y) - wide_real(planes.y);
    }
    points.set_depth(planes);
}

// The first numbers there in doubles, number by number as spread_run() has them.
template <bool Normals>
[[gnu::noinline]] inline void in_doubles(const std::array<vec3<double>, 3>& rays,
                                         const attribute_planes& planes, int x, int y, std::size_t part,
                                         point_reals<Normals>& into) {
    uninitialized<points_in_doubles> points;
    place_in_doubles(planes, x, y, part, points);
    for_each_number<first_attributes>([&](auto a) __attribute__((always_inline)) {
        into[a] = rounded(points.values(planes.plane(a + 1)));
    });
    if constexpr (Normals) {
        const auto& [corner, right, down] = rays;
        uninitialized<points_in_doubles> from_corner; // where rays are measured from
        constexpr std::size_t step = lanes_of<wide_real>;
        for (std::size_t i = 0; i < points.dx.size(); ++i) {
            const std::size_t lane = part * lanes_of<real> + i * step;
            from_corner.dx[i] = load_lanes<wide_real>(places.column.data() + lane) + wide_real(x);
            from_corner.dy[i] = load_lanes<wide_real>(places.row.data() + lane) + wide_real(y);
        }
        from_corner.depth = points.depth;
        into[3] = rounded(from_corner.values({corner.x, right.x, down.x}));
        into[4] = rounded(from_corner.values({corner.y, right.y, down.y}));
        into[5] = rounded(from_corner.values({corner.z, right.z, down.z}));
    }
}

// Each part of each cell of a triangle's pieces: by part_of(pixels, cell, part).
template <class PartOf>
[[gnu::always_inline]] inline void each_part_of(const shown_piece* pieces, const shown_triangle& triangle,
                                                PartOf&& part_of) {
    for (std::size_t p = triangle.first; p != no_piece; p = pieces[p].next) {
        const shown_piece piece = pieces[p];
        for (std::size_t c = piece.cell; c <= static_cast<std::size_t>(piece.cell + piece.more); ++c) {
            for (std::size_t part = 0; part < parts; ++part) {
                part_of(piece.pixels, c, part);
            }
        }
    }
}

// The first pixel of a square's cell.
inline int x_of(const square_request& in, std::size_t cell_number) {
    return in.x + static_cast<int>(cell_number % cells_abreast) * cell;
}
inline int y_of(const square_request& in, std::size_t cell_number) {
    return in.y + static_cast<int>(cell_number / cells_abreast) * cell;
}

template <bool Normals> inline void spread_first(const square_request& request) {
    const square_request wanted = request; // what is stored must not be taken for it
    const std::int32_t here = square_of(wanted.x, wanted.y);
    const square_rays rays(*wanted.rays, wanted.x, wanted.y);
    // Planes that are new here, one after the other, which leaves the processor several to work on.
    for (std::size_t t = 0; t < wanted.triangle_count; ++t) {
        const std::uint16_t slot = wanted.triangles[t].slot;
        std::int32_t& of_slot = wanted.square[slot];
        if (of_slot != always_doubles && (of_slot & which_square) != here) {
            of_slot = set_all_of_square<Normals>(wanted, slot, rays, here);
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
        // values(cell, part): the first numbers.
        const auto each_part = [&](auto&& values) __attribute__((always_inline)) {
            each_part_of(
                wanted.pieces, triangle,
                [&](std::uint32_t pixels, std::size_t c, std::size_t part) __attribute__((always_inline)) {
                    if (part == 0) {
                        fetch();
                    }
                    const point_reals<Normals> result = values(c, part);
                    for_each_number<(Normals ? 6 : 3)>([&](auto i) __attribute__((always_inline)) {
                        store_where(pixels, part, result[i], wanted.into[i] + c * cell_pixels);
                    });
                });
        };
        if ((wanted.square[triangle.slot] & ~extras_in_doubles) == here) {
            const square_planes_of_lanes<Normals> planes(wanted.in_square[triangle.slot]);
            each_part([&](std::size_t c, std::size_t part) __attribute__((always_inline)) {
                const std::size_t lane = part * lanes_of<real>;
                return planes.values(load_lanes<real>(places.x[c % cells_abreast].data() + lane),
                                     load_lanes<real>(places.y[c / cells_abreast].data() + lane));
            });
        } else {
            const attribute_planes& planes = wanted.planes[triangle.slot];
            each_part([&](std::size_t c, std::size_t part) __attribute__((always_inline)) {
                uninitialized<point_reals<Normals>> result;
                in_doubles<Normals>(*wanted.rays, planes, x_of(wanted, c), y_of(wanted, c), part, result);
                return result;
            });
        }
    }
}

// After the first numbers, so that each loop's planes stay in registers.
inline void spread_extras(const square_request& request) {
    const square_request wanted = request; // as above
    const std::int32_t here = square_of(wanted.x, wanted.y);
    for (std::size_t t = 0; t < wanted.triangle_count; ++t) {
        const shown_triangle triangle = wanted.triangles[t];
        const attribute_planes& planes = wanted.planes[triangle.slot];
        // each(cell, part, put, put_texel): as put_extras() has them.
        const auto each_part = [&](auto&& each) __attribute__((always_inline)) {
            each_part_of(
                wanted.pieces, triangle,
                [&](std::uint32_t pixels, std::size_t c, std::size_t part) __attribute__((always_inline)) {
                    const std::size_t first = c * cell_pixels;
                    each(
                        c, part,
                        [&](std::size_t component, const real& values) __attribute__((always_inline)) {
                            store_where(pixels, part, values, wanted.more[component] + first);
                        },
                        [&](std::size_t coordinate, const whole& texel, const real& left)
                            __attribute__((always_inline)) {
                                const texel_places& into = wanted.texels;
                                store_where(pixels, part, left,
                                            (coordinate == 0 ? into.across : into.up) + first);
                                store_where(pixels, part, texel,
                                            (coordinate == 0 ? into.column : into.row) + first);
                            });
                });
        };
        if ((wanted.square[triangle.slot] & ~first_in_doubles) == here) {
            const square_extras_of_lanes extras(wanted.in_square[triangle.slot],
                                                wanted.extras_in_square[triangle.slot], wanted.layout);
            each_part([&](std::size_t c, std::size_t part, auto&& put,
                          auto&& put_texel) __attribute__((always_inline)) {
                const std::size_t lane = part * lanes_of<real>;
                extras.put_all(load_lanes<real>(places.x[c % cells_abreast].data() + lane),
                               load_lanes<real>(places.y[c / cells_abreast].data() + lane), put, put_texel);
            });
        } else {
            each_part([&](std::size_t c, std::size_t part, auto&& put, auto&& put_texel)
                          __attribute__((always_inline)) {
                              uninitialized<points_in_doubles> points;
                              place_in_doubles(planes, x_of(wanted, c), y_of(wanted, c), part, points);
                              put_extras(
                                  planes, wanted.layout, points,
                                  [&](std::size_t component, const wide_reals& values)
                                      __attribute__((always_inline)) { put(component, rounded(values)); },
                                  put_texel);
                          });
        }
    }
}

inline void spread_square(const square_request& request) {
    (request.layout.normals ? spread_first<true> : spread_first<false>)(request);
    if (request.layout.extras()) {
        spread_extras(request);
    }
}

inline void flat_square(const flat_request& request) {
    const flat_request wanted = request; // as above
    for (std::size_t t = 0; t < wanted.triangle_count; ++t) {
        const shown_triangle triangle = wanted.triangles[t];
        const std::array<float, 3>& color = wanted.colors[triangle.slot];
        const std::array<real, 3> values{real(color[0]), real(color[1]), real(color[2])};
        each_part_of(
            wanted.pieces, triangle,
            [&](std::uint32_t pixels, std::size_t c, std::size_t part) __attribute__((always_inline)) {
                for_each_number<3>([&](auto k) __attribute__((always_inline)) {
                    store_where(pixels, part, values[k], wanted.into[k] + c * cell_pixels);
                });
            });
    }
}

} // namespace yurvo::inline v0_1::pipeline::wide
