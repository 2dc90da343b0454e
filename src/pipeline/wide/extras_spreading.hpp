// extras_spreading: what comes after the first numbers that triangles hand to their pixels: places in a
// texture, and colours beside others. Part of attributes.cpp; see vertices.hpp for how it is compiled.
//
// In doubles, where floats from the middle of a square (square_planes.hpp) do not hold enough of it: of
// places in a texture of 4,096 texels a float would leave no more than 12 bits between two of them.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/lanes.hpp"
#include "pipeline/wide/operations.hpp"
#include "pipeline/wide/square_planes.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// Some points of one triangle: from where its planes are measured, and their depth.
struct points_in_doubles {
    wide_reals dx, dy, depth;

    // The attribute's values, in the order in which spread_run() works them out.
    [[gnu::always_inline]] wide_reals values(const plane_over_pixels& plane) const {
        uninitialized<wide_reals> result;
        for (std::size_t b = 0; b < result.size(); ++b) {
            result[b] = multiply_add(wide_real(plane.across), dx[b],
                                     multiply_add(wide_real(plane.down), dy[b], wide_real(plane.at))) *
                        depth[b];
        }
        return result;
    }
    [[gnu::always_inline]] void set_depth(const attribute_planes& planes) {
        const plane_over_pixels plane = planes.plane(0);
        for (std::size_t b = 0; b < depth.size(); ++b) {
            const wide_real nearness =
                multiply_add(wide_real(plane.across), dx[b],
                             multiply_add(wide_real(plane.down), dy[b], wide_real(plane.at)));
            depth[b] = inverse(min(max(nearness, wide_real(planes.least)), wide_real(planes.most)));
        }
    }
};

// Colours by put(component, values), places in the texture by put_texel(0 or 1, texel, how far to the next).
template <class Put, class PutTexel>
[[gnu::always_inline]] inline void put_extras(const attribute_planes& planes, const attribute_layout& layout,
                                              const points_in_doubles& points, Put&& put,
                                              PutTexel&& put_texel) {
    if (layout.more) {
        for_each_number<more_attributes>([&](auto k) __attribute__((always_inline)) {
            put(k, points.values(planes.plane(1 + more_at + k)));
        });
    }
    if (!layout.textured) {
        return;
    }
    for_each_number<texel_attributes>([&](auto i) __attribute__((always_inline)) {
        const wide_reals place = points.values(planes.plane(1 + layout.texels_at() + i));
        uninitialized<wide_reals> texel;
        uninitialized<wide_reals> left;
        for (std::size_t b = 0; b < place.size(); ++b) {
            texel[b] = floor_of(place[b]);
            left[b] = place[b] - texel[b];
        }
        put_texel(i, whole_of(texel), rounded(left));
    });
}

inline void put(const wide_real& numbers, double* to) { store_to(to, numbers); }
inline void put(const wide_real& numbers, float* to) { store_rounded(to, numbers); }

// Those of one run. Sixteen more points than there are may be written.
template <class Scalar>
void spread_extras_of_run(const spread_request<Scalar>& wanted, const pixel_run& run, std::size_t first) {
    constexpr std::size_t step = lanes_of<wide_real>;
    const attribute_planes& planes = wanted.planes[run.slot];
    const auto count = static_cast<std::size_t>(run.count);
    for (std::size_t l = 0; l < count; l += lanes_of<real>) {
        uninitialized<points_in_doubles> points;
        for (std::size_t b = 0; b < points.dx.size(); ++b) {
            points.dx[b] = load_from<wide_real>(lane_number.data() + l + b * step) + wide_real(run.x + 0.5) -
                           wide_real(planes.x);
            points.dy[b] = wide_real(run.y + 0.5) - wide_real(planes.y);
        }
        points.set_depth(planes);
        const std::size_t there = first + l;
        put_extras(
            planes, wanted.layout, points,
            [&](std::size_t component, const wide_reals& values) {
                for (std::size_t b = 0; b < values.size(); ++b) {
                    put(values[b], wanted.more[component] + there + b * step);
                }
            },
            [&](std::size_t coordinate, const whole& texel, const real& left) {
                const texel_places& into = wanted.texels;
                store_to((coordinate == 0 ? into.across : into.up) + there, left);
                store_to((coordinate == 0 ? into.column : into.row) + there, texel);
            });
    }
}

template <class Scalar> void spread_extras(const spread_request<Scalar>& wanted) {
    std::size_t first = 0;
    for (std::size_t r = 0; r < wanted.run_count; ++r) {
        spread_extras_of_run(wanted, wanted.runs[r], first);
        first += static_cast<std::size_t>(wanted.runs[r].count);
    }
}

} // namespace yurvo::inline v0_1::pipeline::wide
