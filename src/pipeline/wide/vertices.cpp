// See vertices.hpp. Plain loops over many at a time, which the compiler turns into whichever batches the
// instruction set has; YURVO_KERNELS names the table that this compilation makes.
#include "pipeline/wide/vertices.hpp"

#include <algorithm>
#include <bit>
#include <cmath>

#include "pipeline/triangle_coverage.hpp"
#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/lanes.hpp"
#include "pipeline/wide/turned_normal.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

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
    alignas(64) uninitialized<some<float>> inverse_depth;
    alignas(64) uninitialized<some<std::int32_t>> steps_x;
    alignas(64) uninitialized<some<std::int32_t>> steps_y;
    take_apart(run.positions + first, count, x, y, z);
    for (std::size_t i = 0; i < vertices_at_once; ++i) {
        const vec3<double> p = homogeneous_corner(m, {x[i], y[i], z[i]});
        const bool whole = can_be_projected(p, near);
        const vec3<double> at = on_picture({p.x, p.y, whole ? p.z : 1});
        x[i] = whole ? at.x : 0;
        y[i] = whole ? at.y : 0;
        z[i] = whole ? at.z : 0;
    }
    for (std::size_t i = 0; i < vertices_at_once; ++i) {
        inverse_depth[i] = static_cast<float>(z[i]);
        steps_x[i] = to_steps(x[i]);
        steps_y[i] = to_steps(y[i]);
    }
    for (std::size_t i = 0; i < vertices_at_once; ++i) {
        const float n = inverse_depth[i];
        steps_x[i] = n > 0 ? steps_x[i] : not_projected;
        steps_y[i] = n > 0 ? steps_y[i] : not_projected;
    }
    for (std::size_t i = 0; i < count; ++i) {
        run.at[first + i] = {steps_x[i], steps_y[i]};
    }
    std::copy_n(inverse_depth.begin(), count, run.inverse_depth + first);
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

// Eight clusters at a time.
constexpr std::size_t clusters_abreast = 8;
template <class Value> using eight = std::array<Value, clusters_abreast>;

// Room for what the corners' own roundings are apart from the box's.
constexpr double just_inside = 1 - 1e-9;
constexpr double just_nearer = 1 + 1e-6;

void sort_eight_clusters(const cluster_run& run, std::size_t first, sorted_clusters& into) {
    alignas(64) uninitialized<std::array<std::array<eight<double>, 3>, 2>> box;
    alignas(64) uninitialized<std::array<eight<double>, 3>> axis;
    alignas(64) uninitialized<eight<double>> sine;
    for (std::size_t l = 0; l < clusters_abreast; ++l) {
        // Those beyond the last are the last once more.
        const triangle_cluster& cluster = run.clusters[lesser(first + l, run.count - 1)];
        for (std::size_t k = 0; k < 3; ++k) {
            box[0][k][l] = cluster.low[k];
            box[1][k][l] = cluster.high[k];
            axis[k][l] = cluster.axis[k];
        }
        sine[l] = cluster.sine;
    }
    // Around the box's corners, and so around all that is in it, as long as all of them can be projected.
    alignas(64) uninitialized<eight<double>> low_x;
    alignas(64) uninitialized<eight<double>> low_y;
    alignas(64) uninitialized<eight<double>> high_x;
    alignas(64) uninitialized<eight<double>> high_y;
    alignas(64) uninitialized<eight<double>> nearest;
    alignas(64) uninitialized<eight<double>> astray;
    low_x.fill(guard_band);
    low_y.fill(guard_band);
    high_x.fill(-guard_band);
    high_y.fill(-guard_band);
    nearest.fill(0);
    astray.fill(0);
    for (std::size_t corner = 0; corner < 8; ++corner) {
        const eight<double>& x = box[corner & 1][0];
        const eight<double>& y = box[(corner >> 1) & 1][1];
        const eight<double>& z = box[corner >> 2][2];
        for (std::size_t l = 0; l < clusters_abreast; ++l) {
            const vec3<double> p = homogeneous_corner(run.to_pixels, {x[l], y[l], z[l]});
            const bool good = can_be_projected({p.x, p.y, p.z * just_inside}, run.near);
            const vec3<double> at = on_picture({p.x, p.y, good ? p.z : 1});
            low_x[l] = lesser(low_x[l], at.x);
            low_y[l] = lesser(low_y[l], at.y);
            high_x[l] = greater(high_x[l], at.x);
            high_y[l] = greater(high_y[l], at.y);
            nearest[l] = greater(nearest[l], at.z);
            astray[l] = good ? astray[l] : 1;
        }
    }
    alignas(64) uninitialized<eight<double>> away; // not negative where all of it faces away
    for (std::size_t l = 0; l < clusters_abreast; ++l) {
        const vec3<double> low{box[0][0][l], box[0][1][l], box[0][2][l]};
        const vec3<double> high{box[1][0][l], box[1][1][l], box[1][2][l]};
        const vec3<double> across = high - low;
        const vec3<double> ahead = (high + low) * 0.5 - run.eye;
        const double radius = 0.5 * std::sqrt(dot(across, across));
        const double along = dot(ahead, {axis[0][l], axis[1][l], axis[2][l]});
        away[l] = along - radius - sine[l] * (std::sqrt(dot(ahead, ahead)) + radius);
    }
    for (std::size_t l = 0; l < clusters_abreast; ++l) {
        const std::size_t i = first + l;
        // A pixel more on every side, for the snap.
        const double width = run.width;
        const double height = run.height;
        const auto left = static_cast<std::int32_t>(greater(lesser(low_x[l] - 1, width), 0.0));
        const auto top = static_cast<std::int32_t>(greater(lesser(low_y[l] - 1, height), 0.0));
        const auto right = static_cast<std::int32_t>(greater(lesser(high_x[l] + 1, width - 1), -1.0));
        const auto bottom = static_cast<std::int32_t>(greater(lesser(high_y[l] + 1, height - 1), -1.0));
        into.left[i] = left;
        into.top[i] = top;
        into.right[i] = right;
        into.bottom[i] = bottom;
        into.inverse_depth[i] = static_cast<float>(nearest[l] * just_nearer);
        const fate facing = away[l] >= 0 ? fate::back : fate::front;
        const fate what = left > right || top > bottom ? fate::unseen : facing;
        into.what[i] = astray[l] > 0 ? fate::front : what;
    }
}

void sort_clusters(const cluster_run& run, sorted_clusters& into) {
    for (std::size_t first = 0; first < run.count; first += clusters_abreast) {
        sort_eight_clusters(run, first, into);
    }
}

template <class Value> using each = sorted_triangles::each<Value>;
template <class Value> using by_corner = std::array<each<Value>, 3>;

template <class Choose>
std::int32_t chosen(const each<std::int32_t>& values, std::int32_t from, Choose&& choose) {
    std::int32_t best = from;
    for (std::size_t t = 0; t < triangles_at_once; ++t) {
        best = choose(best, values[t]);
    }
    return best;
}

// Of the triangles that face away: the box around all, and the greatest inverse_depth.
void enclose_backs(const each<std::int32_t>& nearest, sorted_triangles& into) {
    constexpr auto back = static_cast<std::int32_t>(fate::back);
    alignas(64) uninitialized<each<std::int32_t>> left;
    alignas(64) uninitialized<each<std::int32_t>> top;
    alignas(64) uninitialized<each<std::int32_t>> right;
    alignas(64) uninitialized<each<std::int32_t>> bottom;
    alignas(64) uninitialized<each<std::int32_t>> inverse_depth;
    for (std::size_t t = 0; t < triangles_at_once; ++t) {
        const std::int32_t counts = into.what[t] == back ? -1 : 0; // all bits, or none
        left[t] = (into.left[t] & counts) | (INT32_MAX & ~counts);
        top[t] = (into.top[t] & counts) | (INT32_MAX & ~counts);
        right[t] = into.right[t] & counts;
        bottom[t] = into.bottom[t] & counts;
        inverse_depth[t] = nearest[t] & counts;
    }
    into.back = {chosen(left, INT32_MAX, lesser<std::int32_t>), chosen(top, INT32_MAX, lesser<std::int32_t>),
                 chosen(right, 0, greater<std::int32_t>), chosen(bottom, 0, greater<std::int32_t>)};
    into.any_back = into.back.left < INT32_MAX;
    into.back_inverse_depth = std::bit_cast<float>(chosen(inverse_depth, 0, greater<std::int32_t>));
}

void sort(const triangle_run& run, sorted_triangles& into) {
    alignas(64) uninitialized<by_corner<std::int32_t>> x;
    alignas(64) uninitialized<by_corner<std::int32_t>> y;
    // Nearness is never negative, and such floats are ordered as their bits are.
    alignas(64) uninitialized<each<std::int32_t>> nearest;
    for (std::size_t t = 0; t < triangles_at_once; ++t) {
        // Those beyond the last are the last once more.
        const triangle& corners = run.triangles[lesser(t, run.count - 1)];
        std::int32_t most = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const steps at = run.at[corners[k]];
            x[k][t] = at.x;
            y[k][t] = at.y;
            most = greater(most, std::bit_cast<std::int32_t>(run.inverse_depth[corners[k]]));
        }
        nearest[t] = most;
    }
    // Positive for those that face the eye. Exact: differences have at most 25 bits, products 50, double
    // holds 53; a float keeps the sign.
    const double front_sign = run.mirrored ? 1 : -1;
    alignas(64) uninitialized<each<float>> facing;
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
    static constexpr vertex_kernels result{project, sort_clusters, turn<float>, turn<double>, sort};
    return result;
}

} // namespace yurvo::inline v0_1::pipeline::wide
