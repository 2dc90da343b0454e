// ready_triangles: triangles made ready to be covered, up to 64 at a time: their corners on the picture,
// their inverse_depth as a plane over it, their boxes and edges. Part of coverage.cpp; see vertices.hpp for
// how it is compiled.
#pragma once

#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <limits>

#include "pipeline/triangle_coverage.hpp"
#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/coverage.hpp"
#include "pipeline/wide/lanes.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

inline constexpr int lanes = 16;
inline constexpr auto pixel = static_cast<std::int32_t>(steps_per_pixel);
// Up to 64 pixels every product fits 31 bits, three pixels around the box included.
inline constexpr std::int32_t small = 64 * pixel;

// Nearness over the picture: value = at + across · x + down · y from (x0, y0), in this order everywhere: a
// pixel's digits are its own, whatever is worked out together with it.
struct inverse_depth_plane {
    double x0, y0, at, across, down;
    float least, most;

    [[nodiscard]] double row(int y) const { return at + down * (y + 0.5 - y0); }
};

inline constexpr std::size_t at_once = 64;
template <class Value> using some = std::array<Value, at_once>;
template <class Value> using by_corner = std::array<some<Value>, 3>;

// Triangles of one object ready to be covered. Corners run clockwise on screen. A box without pixels: nothing
// is to be done.
struct alignas(64) ready_triangles {
    some<std::int32_t> left, top, right, bottom;
    some<std::int32_t> extent; // the longer side, in steps
    some<std::int32_t> what;
    by_corner<std::int32_t> x, y;
    some<double> x0, y0, at, across, down;
    some<float> least, most;
    // Inside where value + across · columns + down · rows > 0 for all three edges, from the box's first pixel
    // on; only of those that are small.
    by_corner<std::int32_t> edge, edge_across, edge_down;

    [[nodiscard]] inverse_depth_plane plane(std::size_t t) const {
        return {x0[t], y0[t], at[t], across[t], down[t], least[t], most[t]};
    }
    [[nodiscard]] bool empty(std::size_t t) const { return right[t] < left[t]; }
};

// Corners on the picture: where, unsnapped and in steps, and how near.
inline void project_corners(const object_view& object, by_corner<double>& x, by_corner<double>& y,
                            by_corner<double>& z, std::size_t count, ready_triangles& into) {
    for (std::size_t k = 0; k < 3; ++k) {
        alignas(64) uninitialized<some<double>> astray;
        for (std::size_t t = 0; t < count; ++t) {
            const vec3<double> p = homogeneous_corner(object.to_pixels, {x[k][t], y[k][t], z[k][t]});
            const bool good = can_be_projected(p, object.near);
            const vec3<double> at = on_picture({p.x, p.y, good ? p.z : 1});
            x[k][t] = at.x;
            y[k][t] = at.y;
            z[k][t] = at.z;
            astray[t] = good ? 0 : 1;
        }
        for (std::size_t t = 0; t < count; ++t) {
            const bool good = astray[t] == 0;
            const std::int32_t steps_x = to_steps(good ? x[k][t] : 0);
            const std::int32_t steps_y = to_steps(good ? y[k][t] : 0);
            into.x[k][t] = good ? steps_x : not_projected;
            into.y[k][t] = good ? steps_y : not_projected;
        }
    }
}

inline void set_inverse_depth(const by_corner<double>& x, const by_corner<double>& y,
                              const by_corner<double>& z, std::size_t count, ready_triangles& into) {
    for (std::size_t t = 0; t < count; ++t) {
        const double ux = x[1][t] - x[0][t];
        const double uy = y[1][t] - y[0][t];
        const double vx = x[2][t] - x[0][t];
        const double vy = y[2][t] - y[0][t];
        const double value = 1 / (ux * vy - uy * vx);
        const double un = z[1][t] - z[0][t];
        const double vn = z[2][t] - z[0][t];
        into.x0[t] = x[0][t];
        into.y0[t] = y[0][t];
        into.at[t] = z[0][t];
        into.across[t] = (un * vy - vn * uy) * value;
        into.down[t] = (vn * ux - un * vx) * value;
        into.least[t] = static_cast<float>(lesser(z[0][t], lesser(z[1][t], z[2][t])));
        into.most[t] = static_cast<float>(greater(z[0][t], greater(z[1][t], z[2][t])));
    }
}

// Facing, boxes and edges, in whole numbers.
inline void set_boxes(const object_view& object, const tile_view& tile, std::size_t count,
                      ready_triangles& into) {
    const std::int32_t first_x = tile.left;
    const std::int32_t first_y = tile.top;
    const std::int32_t last_x = tile.left + tile.width - 1;
    const std::int32_t last_y = tile.top + tile.height - 1;
    constexpr float infinite = std::numeric_limits<float>::infinity();
    constexpr auto front = static_cast<std::int32_t>(fate::front);
    constexpr auto back = static_cast<std::int32_t>(fate::back);
    constexpr auto to_cut = static_cast<std::int32_t>(fate::cut);
    // Exact, as where triangles are sorted; a float keeps the sign, and whether a plane is finite.
    alignas(64) uninitialized<some<float>> clockwise;
    alignas(64) uninitialized<some<float>> finite;
    for (std::size_t t = 0; t < count; ++t) {
        const double ux = into.x[1][t] - into.x[0][t];
        const double uy = into.y[1][t] - into.y[0][t];
        const double vx = into.x[2][t] - into.x[0][t];
        const double vy = into.y[2][t] - into.y[0][t];
        clockwise[t] = static_cast<float>(ux * vy - uy * vx);
        finite[t] = static_cast<float>((std::abs(into.across[t]) + std::abs(into.down[t])) * 0x1p-900);
    }
    const float front_sign = object.mirrored ? 1 : -1;
    for (std::size_t t = 0; t < count; ++t) {
        const std::int32_t ax = into.x[0][t];
        const std::int32_t ay = into.y[0][t];
        const std::int32_t x1 = into.x[1][t];
        const std::int32_t y1 = into.y[1][t];
        const std::int32_t x2 = into.x[2][t];
        const std::int32_t y2 = into.y[2][t];
        const float area = clockwise[t];
        const std::int32_t bx = area < 0 ? x2 : x1;
        const std::int32_t by = area < 0 ? y2 : y1;
        const std::int32_t cx = area < 0 ? x1 : x2;
        const std::int32_t cy = area < 0 ? y1 : y2;
        const std::int32_t least_x = lesser(ax, lesser(bx, cx));
        const std::int32_t least_y = lesser(ay, lesser(by, cy));
        const std::int32_t most_x = greater(ax, greater(bx, cx));
        const std::int32_t most_y = greater(ay, greater(by, cy));
        const std::int32_t left = greater(first_x, first_after(least_x));
        const std::int32_t top = greater(first_y, first_after(least_y));
        const std::int32_t bottom = lesser(last_y, last_before(most_y));
        // A plane that is not finite: edge-on but for the snap.
        std::int32_t right = lesser(last_x, last_before(most_x));
        right = top > bottom ? left - 1 : right;
        right = area == 0 ? left - 1 : right;
        right = finite[t] < infinite ? right : left - 1;
        const std::int32_t facing = area * front_sign > 0 ? front : back;
        into.what[t] = most_x == not_projected ? to_cut : facing;
        into.left[t] = left;
        into.top[t] = top;
        into.right[t] = most_x == not_projected ? left : right;
        into.bottom[t] = bottom;
        // One beside the tile may be so far from it that its edges' values there do not fit.
        const std::int32_t extent = greater(most_x - least_x, most_y - least_y);
        into.extent[t] = right < left ? INT32_MAX : extent;
        into.x[1][t] = bx;
        into.y[1][t] = by;
        into.x[2][t] = cx;
        into.y[2][t] = cy;
    }
    for (std::size_t k = 0; k < 3; ++k) {
        const some<std::int32_t>& from_x = into.x[k];
        const some<std::int32_t>& from_y = into.y[k];
        const some<std::int32_t>& to_x = into.x[(k + 1) % 3];
        const some<std::int32_t>& to_y = into.y[(k + 1) % 3];
        for (std::size_t t = 0; t < count; ++t) {
            const std::int32_t kept = into.extent[t] <= small ? -1 : 0; // all bits, or none
            const std::int32_t dx = (to_x[t] - from_x[t]) & kept;
            const std::int32_t dy = (to_y[t] - from_y[t]) & kept;
            const std::int32_t x = (into.left[t] * pixel + centre_in_steps - from_x[t]) & kept;
            const std::int32_t y = (into.top[t] * pixel + centre_in_steps - from_y[t]) & kept;
            // The bias of a top or left edge lets its own points in.
            const std::int32_t bias_of_level = dx > 0 ? 1 : 0;
            const std::int32_t bias_of_left = dy < 0 ? 1 : 0;
            into.edge[k][t] = dx * y - dy * x + (dy == 0 ? bias_of_level : bias_of_left);
            into.edge_across[k][t] = -dy * pixel;
            into.edge_down[k][t] = dx * pixel;
        }
    }
}

// Ids of one object's triangles.
inline void make_ready(const object_view& object, const tile_view& tile, const std::uint32_t* ids,
                       std::size_t count, ready_triangles& into) {
    alignas(64) uninitialized<by_corner<double>> x;
    alignas(64) uninitialized<by_corner<double>> y;
    alignas(64) uninitialized<by_corner<double>> z;
    // Those beyond the last are the last once more, up to whole batches.
    const std::size_t padded = (count + lanes - 1) / lanes * lanes;
    for (std::size_t t = 0; t < padded; ++t) {
        const std::uint32_t id = ids[std::min(t, count - 1)];
        const triangle& corners = object.triangles[static_cast<std::int32_t>(id) - object.first];
        for (std::size_t k = 0; k < 3; ++k) {
            const vec3<double>& position = object.positions[corners[k]];
            x[k][t] = position.x;
            y[k][t] = position.y;
            z[k][t] = position.z;
        }
    }
    project_corners(object, x, y, z, padded, into);
    set_inverse_depth(x, y, z, padded, into);
    set_boxes(object, tile, padded, into);
}

} // namespace yurvo::inline v0_1::pipeline::wide
