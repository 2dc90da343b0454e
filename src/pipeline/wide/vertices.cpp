// See vertices.hpp. Plain loops over many at a time, which the compiler turns into whichever batches the
// instruction set has; YURVO_KERNELS names the table that this compilation makes.
#include "vertices.hpp"

#include <algorithm>
#include <bit>
#include <cmath>

#include "lanes.hpp"
#include "turned_normal.hpp"
#include "yurvo/pipeline/coverage.hpp"

namespace yurvo::pipeline::wide {

namespace {

// Some at a time, coordinate by coordinate: what lies x, y, z in memory is taken apart first.
constexpr std::size_t vertices_at_once = 64;
template <class Number> using some = std::array<Number, vertices_at_once>;

void take_apart(const vec3<double>* from, std::size_t count, some<double>& x, some<double>& y,
                some<double>& z) {
    for (std::size_t i = 0; i < count; ++i) {
        x[i] = from[i].x;
        y[i] = from[i].y;
        z[i] = from[i].z;
    }
}

// The arrays are whole, whatever of them is used: loops of one length become batches.
void project_some(const vertex_run& run, std::size_t first, std::size_t count) {
    const std::array<double, 12>& m = run.to_pixels;
    const double near = run.near;
    alignas(64) some<double> x{};
    alignas(64) some<double> y{};
    alignas(64) some<double> z{};
    alignas(64) some<float> nearness;       // NOLINT: written before it is read
    alignas(64) some<std::int32_t> steps_x; // NOLINT
    alignas(64) some<std::int32_t> steps_y; // NOLINT
    take_apart(run.positions + first, count, x, y, z);
    for (std::size_t i = 0; i < vertices_at_once; ++i) {
        const vec3<double> p = homogeneous_corner(m, {x[i], y[i], z[i]});
        // Both sides of each comparison are finite and w is positive where the first holds.
        const bool whole =
            (p.z >= near) & (std::abs(p.x) <= guard_band * p.z) & (std::abs(p.y) <= guard_band * p.z);
        const vec3<double> at = on_picture({p.x, p.y, whole ? p.z : 1});
        x[i] = whole ? at.x : 0;
        y[i] = whole ? at.y : 0;
        z[i] = whole ? at.z : 0;
    }
    for (std::size_t i = 0; i < vertices_at_once; ++i) {
        nearness[i] = static_cast<float>(z[i]);
        // To the nearest step, halves upwards.
        steps_x[i] = static_cast<std::int32_t>(std::floor(x[i] * steps_per_pixel + 0.5));
        steps_y[i] = static_cast<std::int32_t>(std::floor(y[i] * steps_per_pixel + 0.5));
    }
    for (std::size_t i = 0; i < vertices_at_once; ++i) {
        const float n = nearness[i];
        steps_x[i] = n > 0 ? steps_x[i] : not_projected;
        steps_y[i] = n > 0 ? steps_y[i] : not_projected;
    }
    for (std::size_t i = 0; i < count; ++i) {
        run.at[first + i] = {steps_x[i], steps_y[i]};
    }
    std::copy_n(nearness.begin(), count, run.nearness + first);
}

void project(const vertex_run& run) {
    for (std::size_t first = 0; first < run.count; first += vertices_at_once) {
        project_some(run, first, std::min(vertices_at_once, run.count - first));
    }
}

template <class Scalar> void turn(const normal_run<Scalar>& run) {
    alignas(64) some<double> x{};
    alignas(64) some<double> y{};
    alignas(64) some<double> z{};
    for (std::size_t first = 0; first < run.count; first += vertices_at_once) {
        const std::size_t count = std::min(vertices_at_once, run.count - first);
        take_apart(run.normals + first, count, x, y, z);
        for (std::size_t i = 0; i < vertices_at_once; ++i) {
            const vec3<double> unit = turned_normal(run.to_world, {x[i], y[i], z[i]});
            x[i] = unit.x;
            y[i] = unit.y;
            z[i] = unit.z;
        }
        for (std::size_t i = 0; i < count; ++i) {
            run.turned[first + i] = {static_cast<Scalar>(x[i]), static_cast<Scalar>(y[i]),
                                     static_cast<Scalar>(z[i])};
        }
    }
}

template <class Value> using each = sorted_triangles::each<Value>;
template <class Value> using by_corner = std::array<each<Value>, 3>;

template <class Choose>
std::int32_t chosen(const each<std::int32_t>& of, std::int32_t from, Choose&& choose) {
    std::int32_t best = from;
    for (std::size_t t = 0; t < triangles_at_once; ++t) {
        best = choose(best, of[t]);
    }
    return best;
}

// Of the triangles that face away: the box around all, and the greatest nearness.
void enclose_backs(const each<std::int32_t>& nearest, sorted_triangles& into) {
    constexpr auto back = static_cast<std::int32_t>(fate::back);
    alignas(64) each<std::int32_t> left;     // NOLINT: written before they are read
    alignas(64) each<std::int32_t> top;      // NOLINT
    alignas(64) each<std::int32_t> right;    // NOLINT
    alignas(64) each<std::int32_t> bottom;   // NOLINT
    alignas(64) each<std::int32_t> nearness; // NOLINT
    for (std::size_t t = 0; t < triangles_at_once; ++t) {
        const std::int32_t counts = into.what[t] == back ? -1 : 0; // all bits, or none
        left[t] = (into.left[t] & counts) | (INT32_MAX & ~counts);
        top[t] = (into.top[t] & counts) | (INT32_MAX & ~counts);
        right[t] = into.right[t] & counts;
        bottom[t] = into.bottom[t] & counts;
        nearness[t] = nearest[t] & counts;
    }
    into.back = {chosen(left, INT32_MAX, lesser<std::int32_t>), chosen(top, INT32_MAX, lesser<std::int32_t>),
                 chosen(right, 0, greater<std::int32_t>), chosen(bottom, 0, greater<std::int32_t>)};
    into.any_back = into.back.left < INT32_MAX;
    into.back_nearness = std::bit_cast<float>(chosen(nearness, 0, greater<std::int32_t>));
}

void sort(const triangle_run& run, sorted_triangles& into) {
    alignas(64) by_corner<std::int32_t> x; // NOLINT: written before they are read
    alignas(64) by_corner<std::int32_t> y; // NOLINT
    // Nearness is never negative, and such floats are ordered as their bits are.
    alignas(64) each<std::int32_t> nearest; // NOLINT
    for (std::size_t t = 0; t < triangles_at_once; ++t) {
        // Those beyond the last are the last once more.
        const triangle& corners = run.triangles[lesser(t, run.count - 1)];
        std::int32_t most = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const steps at = run.at[corners[k]];
            x[k][t] = at.x;
            y[k][t] = at.y;
            most = greater(most, std::bit_cast<std::int32_t>(run.nearness[corners[k]]));
        }
        nearest[t] = most;
    }
    // Positive for those that face the eye. Exact: differences have at most 25 bits, products 50, double
    // holds 53; a float keeps the sign.
    const double front_sign = run.mirrored ? 1 : -1;
    alignas(64) each<float> facing; // NOLINT
    for (std::size_t t = 0; t < triangles_at_once; ++t) {
        const double ux = x[1][t] - x[0][t];
        const double uy = y[1][t] - y[0][t];
        const double vx = x[2][t] - x[0][t];
        const double vy = y[2][t] - y[0][t];
        facing[t] = static_cast<float>((ux * vy - uy * vx) * front_sign);
    }
    const std::int32_t last_x = run.width - 1;
    const std::int32_t last_y = run.height - 1;
    constexpr auto unseen = static_cast<std::int32_t>(fate::unseen);
    constexpr auto front = static_cast<std::int32_t>(fate::front);
    constexpr auto back = static_cast<std::int32_t>(fate::back);
    constexpr auto to_cut = static_cast<std::int32_t>(fate::cut);
    std::int32_t shown = 0;
    for (std::size_t t = 0; t < triangles_at_once; ++t) {
        const std::int32_t most_x = greater(x[0][t], greater(x[1][t], x[2][t]));
        const std::int32_t most_y = greater(y[0][t], greater(y[1][t], y[2][t]));
        const std::int32_t least_x = lesser(x[0][t], lesser(x[1][t], x[2][t]));
        const std::int32_t least_y = lesser(y[0][t], lesser(y[1][t], y[2][t]));
        const std::int32_t left = greater(0, first_after(least_x));
        const std::int32_t right = lesser(last_x, last_before(most_x));
        const std::int32_t top = greater(0, first_after(least_y));
        const std::int32_t bottom = lesser(last_y, last_before(most_y));
        const float turned = facing[t];
        std::int32_t what = turned > 0 ? front : back;
        what = turned == 0 ? unseen : what;
        what = left > right ? unseen : what;
        what = top > bottom ? unseen : what;
        what = most_x == not_projected ? to_cut : what;
        into.left[t] = left;
        into.top[t] = top;
        into.right[t] = right;
        into.bottom[t] = bottom;
        into.what[t] = what;
        shown |= what & 1; // front or cut: both are odd
    }
    static_assert((front & 1) == 1 && (to_cut & 1) == 1 && (back & 1) == 0 && (unseen & 1) == 0);
    into.any_shown = shown != 0;
    enclose_backs(nearest, into);
}

} // namespace

const vertex_kernels& YURVO_KERNELS() {
    static constexpr vertex_kernels made{project, turn<float>, turn<double>, sort};
    return made;
}

} // namespace yurvo::pipeline::wide
