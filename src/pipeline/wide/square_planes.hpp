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

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/lanes.hpp"
#include "pipeline/wide/operations.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

inline constexpr int half_square = square / 2;

inline double floor_of(double number) { return std::floor(number); }
inline float floor_of(float number) { return std::floor(number); }
template <several Batch> Batch floor_of(const Batch& numbers) { return xsimd::floor(numbers); }
// Of whole numbers.
inline std::int32_t whole_part(float number) { return static_cast<std::int32_t>(number); }
template <several Batch> whole whole_part(const Batch& numbers) { return xsimd::to_int(numbers); }

// A pixel's centre from the middle of its square, column by column or row by row, and some more beyond its
// end.
alignas(64) static constexpr auto from_middle = [] {
    std::array<float, std::size_t{2} * square> result{};
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
        const wide_real stored = widened(into.whole.data() + i * step);
        const wide_real left = middle - stored * wide_real(inverse_depth);
        const wide_real left_across = across[i] - stored * wide_real(group.across[0]);
        const wide_real left_down = down[i] - stored * wide_real(group.down[0]);
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

// The same of what comes after the first numbers, of a triangle whose first ones are set: false where floats
// do not hold enough of it. Colours may differ as much as those before, and what is added to another colour
// by half of the greatest at the triangle's corners; places in a texture by two texels, so that eight
// roundings come to a millionth of one.
inline bool set_square_extras(const attribute_planes& planes, const attribute_layout& layout,
                              const square_rays& rays, const square_planes& first, square_planes& into) {
    constexpr std::size_t step = lanes_of<wide_real>;
    constexpr double texels_in_floats = 2;
    constexpr double exact_as_float = 1 << 22;
    constexpr double nearness_in_floats = 0.125; // as in set_square
    // Colours first where there are any, then two places in the texture.
    using eight = std::array<double, 8>;
    alignas(64) static constexpr std::array<eight, 2> places_of{
        {{1, 1, 0, 0, 0, 0, 0, 0}, {0, 0, 0, 1, 1, 0, 0, 0}}};
    const eight& are_places = places_of[layout.more ? 1 : 0];
    alignas(64) eight shares{texels_in_floats, texels_in_floats};
    for (std::size_t k = 0; layout.more && k < more_attributes; ++k) {
        shares[k] = colors_in_floats * planes.size_of_more[k];
        shares[more_attributes + k] = k < texel_attributes ? texels_in_floats : 0;
    }
    const double x = rays.x - planes.x;
    const double y = rays.y - planes.y;
    const plane_over_pixels nearness = planes.plane(0);
    const double inverse_depth =
        multiply_add(nearness.across, x, multiply_add(nearness.down, y, nearness.at));
    const wide_real depth(1 / inverse_depth);
    bool good = (std::abs(first.across[0]) + std::abs(first.down[0])) * half_square <=
                nearness_in_floats * inverse_depth;
    const eight_reals at = both(planes.groups[1].at.data(), planes.groups[2].at.data());
    const eight_reals across = both(planes.groups[1].across.data(), planes.groups[2].across.data());
    const eight_reals down = both(planes.groups[1].down.data(), planes.groups[2].down.data());
    for (std::size_t i = 0; i < at.size(); ++i) {
        using std::abs; // of plain numbers; batches bring their own
        const wide_real is_place = load_lanes<wide_real>(are_places.data() + i * step);
        const wide_real share = load_lanes<wide_real>(shares.data() + i * step);
        const wide_real middle =
            multiply_add(across[i], wide_real(x), multiply_add(down[i], wide_real(y), at[i]));
        const wide_real value = middle * depth;
        store_rounded(into.whole.data() + i * step, value - is_place * (value - floor_of(value)));
        const wide_real stored = widened(into.whole.data() + i * step);
        const wide_real left = middle - stored * wide_real(inverse_depth);
        const wide_real left_across = across[i] - stored * wide_real(nearness.across);
        const wide_real left_down = down[i] - stored * wide_real(nearness.down);
        store_rounded(into.at.data() + i * step, left);
        store_rounded(into.across.data() + i * step, left_across);
        store_rounded(into.down.data() + i * step, left_down);
        good = good &&
               all_of(most_in_square(left, left_across, left_down) <= share * wide_real(inverse_depth)) &&
               all_of(is_place * abs(stored) <= wide_real(exact_as_float));
    }
    return good;
}

// All planes of a slot's triangle for the square `here`: what its entry in `square` is then.
template <bool Normals, class Request>
inline std::int32_t set_all_of_square(const Request& wanted, std::uint16_t slot, const square_rays& rays,
                                      std::int32_t here) {
    const attribute_planes& planes = wanted.planes[slot];
    square_planes& into = wanted.in_square[slot];
    const bool first = set_square<Normals>(planes, rays, into);
    const bool extras = wanted.layout.extras() &&
                        set_square_extras(planes, wanted.layout, rays, into, wanted.extras_in_square[slot]);
    return here | (first ? 0 : first_in_doubles) | (extras ? 0 : extras_in_doubles);
}

// A normal and a position, or a colour.
template <bool Normals> using point_reals = std::array<real, Normals ? 6 : 3>;

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
    [[gnu::always_inline]] point_reals<Normals> values(const real& dx, const real& dy) const {
        const auto left = [&](std::size_t i) __attribute__((always_inline)) {
            return multiply_add(across[i], dx, multiply_add(down[i], dy, at[i]));
        };
        const real depth = inverse(left(0));
        uninitialized<point_reals<Normals>> result;
        for_each_number<count>([&](auto i) __attribute__((always_inline)) {
            result[i] = multiply_add(left(i + 1), depth, whole[i]);
        });
        return result;
    }
};

// What comes after them, once for all pixels as well.
struct square_extras_of_lanes {
    struct plane {
        real at, across, down, whole;
        [[gnu::always_inline]] real left(const real& dx, const real& dy) const {
            return multiply_add(across, dx, multiply_add(down, dy, at));
        }
    };
    static plane plane_of(const square_planes& planes, std::size_t i) {
        return {real(planes.at[i]), real(planes.across[i]), real(planes.down[i]), real(planes.whole[i])};
    }
    plane nearness;
    std::array<plane, more_attributes + texel_attributes> each; // colours, if any, then places
    attribute_layout layout;

    [[gnu::always_inline]] square_extras_of_lanes(const square_planes& first, const square_planes& extras,
                                                  const attribute_layout& are)
        : nearness(plane_of(first, 0)), layout(are) { // NOLINT: as many as there are
        for_each_number<more_attributes + texel_attributes>([&](auto i) __attribute__((always_inline)) {
            each[i] = plane_of(extras, i);
        });
    }

    // As put_extras() has them; dx and dy are from the square's middle.
    template <class Put, class PutTexel>
    [[gnu::always_inline]] void put_all(const real& dx, const real& dy, Put&& put,
                                        PutTexel&& put_texel) const {
        const real depth = inverse(nearness.left(dx, dy));
        const auto put_texels = [&](std::size_t begin) __attribute__((always_inline)) {
            for_each_number<texel_attributes>([&](auto i) __attribute__((always_inline)) {
                const plane& of = each[begin + i];
                const real place = of.left(dx, dy) * depth;
                const real below = floor_of(place);
                put_texel(i, whole_part(of.whole + below), place - below);
            });
        };
        if (layout.more) {
            for_each_number<more_attributes>([&](auto k) __attribute__((always_inline)) {
                put(k, multiply_add(each[k].left(dx, dy), depth, each[k].whole));
            });
            if (layout.textured) {
                put_texels(more_attributes);
            }
        } else {
            put_texels(0);
        }
    }
};

// The first numbers at the points of a run, from its square's planes.
template <bool Normals>
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
    }
}

// And what comes after them.
inline void spread_extras_over_square(const spread_request<float>& wanted, const pixel_run& run,
                                      std::size_t first) {
    constexpr std::size_t step = lanes_of<real>;
    const square_extras_of_lanes planes(wanted.in_square[run.slot], wanted.extras_in_square[run.slot],
                                        wanted.layout);
    const float* const x = from_middle.data() + (run.x & in_square);
    const real dy(from_middle[static_cast<std::size_t>(run.y & in_square)]);
    const auto count = static_cast<std::size_t>(run.count);
    for (std::size_t l = 0; l < count; l += step) {
        const std::size_t there = first + l;
        planes.put_all(
            load_from<real>(x + l), dy,
            [&](std::size_t component, const real& values)
                __attribute__((always_inline)) { store_to(wanted.more[component] + there, values); },
            [&](std::size_t coordinate, const whole& texel, const real& left) __attribute__((always_inline)) {
                store_to((coordinate == 0 ? wanted.texels.across : wanted.texels.up) + there, left);
                store_to((coordinate == 0 ? wanted.texels.column : wanted.texels.row) + there, texel);
            });
    }
}

} // namespace yurvo::inline v0_1::pipeline::wide
