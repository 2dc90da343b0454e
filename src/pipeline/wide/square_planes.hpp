// square_planes: what a triangle hands to the pixels of one square of 16x16, worked out in floats from a
// value in its middle. Part of attributes.cpp; see vertices.hpp for how it is compiled.
//
// A float holds the difference from the middle as well as a double holds the whole, as long as the difference
// is small: of a position it may be a 32nd, so all that eight roundings of it come to is a third of the one
// rounding that the position takes anyway. Where it is not, doubles serve (attributes.cpp).
#pragma once

#include <array>
#include <cmath>
#include <cstdint>
#include <type_traits>
#include <utility>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/lanes.hpp"
#include "pipeline/wide/operations.hpp"

namespace yurvo::pipeline::wide {

inline constexpr int half_square = square / 2;

inline double floor_of(double number) { return std::floor(number); }
inline float floor_of(float number) { return std::floor(number); }
template <several Batch> Batch floor_of(const Batch& numbers) { return xsimd::floor(numbers); }

// Floats that are whole numbers.
template <class Numbers> whole as_whole(const Numbers& numbers) {
    if constexpr (several<Numbers>) {
        return xsimd::to_int(numbers);
    } else {
        return static_cast<whole>(numbers);
    }
}

// A pixel's centre from the middle of its square, column by column or row by row, and some more beyond its
// end.
alignas(64) static constexpr auto from_middle = [] {
    std::array<float, 2 * square> result{};
    for (int i = 0; i < 2 * square; ++i) {
        result[static_cast<std::size_t>(i)] = static_cast<float>(i - half_square) + 0.5F;
    }
    return result;
}();

// Eight numbers side by side: inverse_depth and the normal, then the position and a place left over.
using four_doubles = std::array<double, 4>;
// What all triangles share in one square: its middle, the rays there and their changes, and how much
// positions may differ from the middle's, times inverse_depth.
struct square_rays {
    double x = 0, y = 0;
    four_doubles middle{}, across{}, down{};
    four_doubles limit{};

    square_rays() = default;
    square_rays(const std::array<vec3<double>, 3>& rays, int in_x, int in_y)
        : x((in_x & ~in_square) + half_square), y((in_y & ~in_square) + half_square) {
        const auto& [corner, right, below] = rays;
        middle = {multiply_add(right.x, x, multiply_add(below.x, y, corner.x)),
                  multiply_add(right.y, x, multiply_add(below.y, y, corner.y)),
                  multiply_add(right.z, x, multiply_add(below.z, y, corner.z)), 0};
        across = {right.x, right.y, right.z, 0};
        down = {below.x, below.y, below.z, 0};
        const double farthest =
            greater(std::abs(middle[0]), greater(std::abs(middle[1]), std::abs(middle[2])));
        limit.fill(farthest * (1.0 / 32));
    }
};

// Over a square a colour may differ so much of its least value at the triangle's corners: that eight
// roundings of it come to four and a half of the value, where lighting it took ten times as many.
inline constexpr double colors_in_floats = 0.5;

// The largest value of a plane over a square, as its magnitude; `left` is the one in the middle.
inline wide_real most_in_square(const wide_real& left, const wide_real& across, const wide_real& down) {
    using std::abs; // of plain numbers; batches bring their own
    return multiply_add(abs(across) + abs(down), wide_real(half_square), abs(left));
}

// Sets a triangle's planes for a square; false where floats do not hold enough of them. With normals first,
// or with colours, whose differences may be as large as the largest of them.
template <bool Normals>
inline bool set_square(const attribute_planes& planes, const square_rays& rays, square_planes& into) {
    constexpr std::size_t step = lanes_of<wide_real>;
    // Of each what is left without its value in the middle; of inverse_depth all. And how much of
    // inverse_depth that may be, over the square.
    alignas(64) static constexpr std::array<double, 8> kept{0, 1, 1, 1, 1, 1, 1, 1};
    alignas(64) static constexpr std::array<double, 8> of_triangle{1, 1, 1, 1, 0, 0, 0, 0};
    constexpr double of_normal = 0.25;
    const auto share_of = [&](std::size_t k) {
        return Normals ? of_normal : colors_in_floats * planes.least_of_first[k];
    };
    alignas(64) const std::array<double, 8> share{1.125, share_of(0), share_of(1), share_of(2), 0, 0, 0, 0};
    constexpr four_doubles none{};
    const attribute_planes::group& group = planes.groups[0];
    const double x = rays.x - planes.x;
    const double y = rays.y - planes.y;
    const double inverse_depth =
        multiply_add(group.across[0], x, multiply_add(group.down[0], y, group.at[0]));
    const wide_real depth(1 / inverse_depth);
    const eight_reals at = both(group.at.data(), Normals ? rays.middle.data() : none.data());
    const eight_reals across = both(group.across.data(), Normals ? rays.across.data() : none.data());
    const eight_reals down = both(group.down.data(), Normals ? rays.down.data() : none.data());
    const eight_reals limit = both(none.data(), Normals ? rays.limit.data() : none.data());
    bool good = true;
    for (std::size_t i = 0; i < at.size(); ++i) {
        const auto constant = [&](const std::array<double, 8>& from) {
            return load_lanes<wide_real>(from.data() + i * step);
        };
        const wide_real own = constant(of_triangle);
        const wide_real middle =
            multiply_add(across[i], own * wide_real(x), multiply_add(down[i], own * wide_real(y), at[i]));
        store_rounded(into.whole.data() + i * step, middle * depth * constant(kept));
        const wide_real whole = widened(into.whole.data() + i * step);
        const wide_real left = middle - whole * wide_real(inverse_depth);
        const wide_real left_across = across[i] - whole * wide_real(group.across[0]);
        const wide_real left_down = down[i] - whole * wide_real(group.down[0]);
        store_rounded(into.at.data() + i * step, left);
        store_rounded(into.across.data() + i * step, left_across);
        store_rounded(into.down.data() + i * step, left_down);
        const wide_real most = most_in_square(left, left_across, left_down);
        // A position is its ray times depth, so inverse_depth leaves that comparison. All of them also say no
        // where something is not a number.
        good = good && all_of(most <= multiply_add(constant(share), wide_real(inverse_depth), limit[i]));
    }
    return good;
}

// The same of the three colours that come after the first numbers.
inline bool set_more(const attribute_planes& planes, const square_rays& rays, square_planes& into) {
    const attribute_planes::group& nearness = planes.groups[0];
    const double x = rays.x - planes.x;
    const double y = rays.y - planes.y;
    const double inverse_depth =
        multiply_add(nearness.across[0], x, multiply_add(nearness.down[0], y, nearness.at[0]));
    const double depth = 1 / inverse_depth;
    bool good = true;
    for (std::size_t k = 0; k < more_attributes; ++k) {
        const plane_over_pixels plane = planes.plane(1 + more_at + k);
        const double middle = multiply_add(plane.across, x, multiply_add(plane.down, y, plane.at));
        const auto whole = static_cast<float>(middle * depth);
        const double left = middle - whole * inverse_depth;
        const double across = plane.across - whole * nearness.across[0];
        const double down = plane.down - whole * nearness.down[0];
        into.at[k] = static_cast<float>(left);
        into.across[k] = static_cast<float>(across);
        into.down[k] = static_cast<float>(down);
        into.whole[k] = whole;
        const double most = (std::abs(across) + std::abs(down)) * half_square + std::abs(left);
        good = good && most <= colors_in_floats * planes.least_of_more[k] * inverse_depth;
    }
    return good;
}

// Both, for one slot.
template <bool Normals, bool Extras, class Request>
[[gnu::always_inline]] inline bool set_slot(const Request& request, const square_rays& rays,
                                            std::size_t slot) {
    bool good = set_square<Normals>(request.planes[slot], rays, request.in_square[slot]);
    if (Extras && request.layout.more) {
        good = set_more(request.planes[slot], rays, request.more_in_square[slot]) && good;
    }
    return good;
}

// A normal and a position, or a colour.
template <bool Normals> using point_reals = std::array<real, Normals ? 6 : 3>;

// A loop over a point's numbers would keep them in memory.
template <std::size_t Count, class Each> [[gnu::always_inline]] inline void for_each_number(Each&& each) {
    [&]<std::size_t... I>(std::index_sequence<I...>) __attribute__((always_inline)) {
        (each(std::integral_constant<std::size_t, I>()), ...);
    }
    (std::make_index_sequence<Count>());
}

// What a point gets: the first numbers, and its depth for those that come after.
template <bool Normals> struct point_values {
    point_reals<Normals> first;
    real depth;
};

// Planes of a square, once for all pixels that they are asked for.
template <bool Normals> struct square_planes_of_lanes {
    static constexpr std::size_t count = Normals ? 6 : 3;
    std::array<real, count + 1> at, across, down;
    point_reals<Normals> whole;

    [[gnu::always_inline]] explicit square_planes_of_lanes(const square_planes& planes) { // NOLINT: all set
        for_each_number<count + 1>([&](auto i) __attribute__((always_inline)) {
            at[i] = real(planes.at[i]);
            across[i] = real(planes.across[i]);
            down[i] = real(planes.down[i]);
        });
        for_each_number<count>([&](auto i)
                                   __attribute__((always_inline)) { whole[i] = real(planes.whole[i + 1]); });
    }

    // dx and dy are from the square's middle.
    [[gnu::always_inline]] point_values<Normals> values(const real& dx, const real& dy) const {
        const auto left = [&](std::size_t i) __attribute__((always_inline)) {
            return multiply_add(across[i], dx, multiply_add(down[i], dy, at[i]));
        };
        uninitialized<point_values<Normals>> result;
        result.depth = inverse(left(0));
        for_each_number<count>([&](auto i) __attribute__((always_inline)) {
            result.first[i] = multiply_add(left(i + 1), result.depth, whole[i]);
        });
        return result;
    }
};

// The colours that come after the first numbers at some points, from a square's planes: by
// into.put(component, value).
template <class Into>
[[gnu::always_inline]] inline void more_in_square(const square_planes& planes, const real& dx, const real& dy,
                                                  const real& depth, const Into& into) {
    for_each_number<more_attributes>([&](auto k) __attribute__((always_inline)) {
        const real in_column = multiply_add(real(planes.down[k]), dy, real(planes.at[k]));
        const real left = multiply_add(real(planes.across[k]), dx, in_column);
        into.put(k, multiply_add(left, depth, real(planes.whole[k])));
    });
}

// Some points in doubles: from where their triangle's planes are measured, and their depth.
struct points_in_doubles {
    wide_reals dx, dy, depth;

    // The attribute's values, plane by plane as spread_run() has them.
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

// A place along a texture of so many texels, taken apart: the texel before it, brought back to within one
// texture of it since it is repeated, and how far it is to the next. Always in doubles: a texture of 4,096
// texels leaves a float no more than 12 bits between two of them.
[[gnu::always_inline]] inline void take_place_apart(const wide_real& place, int size, wide_real& texel,
                                                    wide_real& left) {
    const wide_real below = floor_of(place);
    const wide_real times = floor_of(below * wide_real(1.0 / size)); // rounding may make it one off
    left = place - below;
    texel = least_of(greatest_of(below - times * wide_real(size), wide_real(-1)), wide_real(size));
}

// Places in the texture at some points, by into.put_texel(0 or 1, texel, how far to the next).
template <class Into>
[[gnu::always_inline]] inline void put_places(const attribute_planes& planes, const attribute_layout& layout,
                                              const texel_places& texels, const points_in_doubles& points,
                                              const Into& into) {
    for_each_number<texel_attributes>([&](auto i) __attribute__((always_inline)) {
        const wide_reals place = points.values(planes.plane(1 + layout.texels_at() + i));
        uninitialized<wide_reals> texel;
        uninitialized<wide_reals> left;
        for (std::size_t b = 0; b < place.size(); ++b) {
            take_place_apart(place[b], i == 0 ? texels.width : texels.height, texel[b], left[b]);
        }
        into.put_texel(i, as_whole(rounded(texel)), rounded(left));
    });
}

// Puts what comes after the first numbers at the points of a run; `there` is the first of them.
struct extras_of_run {
    const spread_request<float>& wanted;
    std::size_t there;

    [[gnu::always_inline]] void put(std::size_t component, const real& value) const {
        store_to(wanted.more[component] + there, value);
    }
    [[gnu::always_inline]] void put_texel(std::size_t coordinate, const whole& texel,
                                          const real& left) const {
        const texel_places& into = wanted.texels;
        store_to((coordinate == 0 ? into.across : into.up) + there, left);
        store_to((coordinate == 0 ? into.column : into.row) + there, texel);
    }
};

// All of what the points of a run are handed, from its square's planes.
template <bool Normals, bool Extras>
[[gnu::always_inline]] inline void spread_over_square(const spread_request<float>& wanted,
                                                      const pixel_run& run, std::size_t first) {
    constexpr std::size_t step = lanes_of<real>;
    const square_planes& planes = wanted.in_square[run.slot];
    const std::array<float*, 6> into{wanted.first[0],    wanted.first[1],    wanted.first[2],
                                     wanted.position[0], wanted.position[1], wanted.position[2]};
    const float* const x = from_middle.data() + (run.x & in_square);
    const float y = from_middle[static_cast<std::size_t>(run.y & in_square)];
    alignas(64) uninitialized<std::array<float, 8>> in_row;
    multiply_add_eight(planes.down.data(), y, planes.at.data(), in_row.data());
    const auto count = static_cast<std::size_t>(run.count);
    for (std::size_t l = 0; l < count; l += step) {
        const real dx = load_from<real>(x + l); // halves: exact
        const real depth = inverse(multiply_add(real(planes.across[0]), dx, real(in_row[0])));
        for_each_number<(Normals ? 6 : 3)>([&](auto i) __attribute__((always_inline)) {
            const real left = multiply_add(real(planes.across[i + 1]), dx, real(in_row[i + 1]));
            store_to(into[i] + first + l, multiply_add(left, depth, real(planes.whole[i + 1])));
        });
        const extras_of_run extras{wanted, first + l};
        if (Extras && wanted.layout.more) {
            more_in_square(wanted.more_in_square[run.slot], dx, real(y), depth, extras);
        }
        if (Extras && wanted.layout.textured) {
            const attribute_planes& whole_planes = wanted.planes[run.slot];
            uninitialized<points_in_doubles> points;
            for (std::size_t b = 0; b < points.dx.size(); ++b) {
                points.dx[b] = load_from<wide_real>(lane_number.data() + l + b * lanes_of<wide_real>) +
                               wide_real(run.x + 0.5) - wide_real(whole_planes.x);
                points.dy[b] = wide_real(run.y + 0.5) - wide_real(whole_planes.y);
            }
            points.set_depth(whole_planes);
            put_places(whole_planes, wanted.layout, wanted.texels, points, extras);
        }
    }
}

} // namespace yurvo::pipeline::wide
