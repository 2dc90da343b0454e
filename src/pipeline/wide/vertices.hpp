// Vertices snapped to the picture's grid, normals turned to the world, triangles sorted by what becomes of
// them.
//
// Compiled once for each instruction set, and without contraction, like all that decides what is seen: every
// set gives the same digits, so a picture's shapes never depend on the processor. Only plain data goes in and
// out.
#pragma once

#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>

#include "geometry/clusters.hpp"
#include "pipeline/triangle_coverage.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// A place in the picture in steps of 1/256 pixel, y downwards.
struct steps {
    std::int32_t x = 0, y = 0;
};

// Both coordinates of a vertex that cannot be projected: nearer than near, or beyond the guard band. Greater
// than every other, and small enough that differences do not overflow.
inline constexpr std::int32_t not_projected = 1 << 30;

struct vertex_run {
    const vec3<double>* positions = nullptr;
    std::size_t count = 0;
    std::array<double, 12> to_pixels{}; // rows; homogeneous pixels from the object's space
    double near = 0;
    steps* at = nullptr;
    float* inverse_depth = nullptr; // 1 / depth; 0 for those that cannot be projected
};

template <class Scalar> struct normal_run {
    const vec3<double>* normals = nullptr;
    std::size_t count = 0;
    std::array<double, 9> to_world{};
    vec3<Scalar>* turned = nullptr; // unit, or zero
};

// What becomes of a triangle.
enum class fate : std::int32_t { unseen, front, back, cut };

inline constexpr std::size_t triangles_at_once = 64;

// Pixels, all four inclusive.
struct pixel_box {
    std::int32_t left = 0, top = 0, right = -1, bottom = -1;
};

struct triangle_run {
    const triangle* triangles = nullptr;
    std::size_t count = 0; // at most triangles_at_once
    const steps* at = nullptr;
    const float* inverse_depth = nullptr;
    int width = 0, height = 0;
    bool mirrored = false;
};

struct sorted_triangles {
    template <class Value> using each = std::array<Value, triangles_at_once>;
    // Of each triangle the pixels whose centres it can cover, and its fate.
    alignas(64) each<std::int32_t> left, top, right, bottom, what;
    bool any_shown = false; // front or cut
    // Of those that face away the box around all, and the greatest inverse_depth of any corner.
    bool any_back = false;
    pixel_box back;
    float back_inverse_depth = 0;
};

// Clusters of one object, to be looked at before any vertex is.
struct cluster_run {
    const triangle_cluster* clusters = nullptr;
    std::size_t count = 0; // at most triangles_at_once
    std::array<double, 12> to_pixels{};
    double near = 0;
    vec3<double> eye; // in the object's space
    int width = 0, height = 0;
};

// `unseen`: all of it is beside the picture. `back`: all of it faces away, all of it can be projected, and
// its box and inverse_depth are no less than any of its triangles'. `front`: anything else; the rest is not
// set.
struct sorted_clusters {
    template <class Value> using each = std::array<Value, triangles_at_once>;
    alignas(64) each<std::int32_t> left, top, right, bottom;
    alignas(64) each<float> inverse_depth;
    alignas(64) each<fate> what;
};

struct vertex_kernels {
    void (*project)(const vertex_run&);
    void (*sort_clusters)(const cluster_run&, sorted_clusters&);
    void (*turn)(const normal_run<float>&);
    void (*turn_double)(const normal_run<double>&);
    void (*sort)(const triangle_run&, sorted_triangles&);
};

// A corner in homogeneous pixels (x·w, y·w, w).
inline vec3<double> homogeneous_corner(const std::array<double, 12>& m, const vec3<double>& p) {
    return {m[0] * p.x + m[1] * p.y + m[2] * p.z + m[3], m[4] * p.x + m[5] * p.y + m[6] * p.z + m[7],
            m[8] * p.x + m[9] * p.y + m[10] * p.z + m[11]};
}

// Where such a corner is in the picture, in pixels, and how near. One formula for all who ask: they must
// agree to the last bit.
inline vec3<double> on_picture(const vec3<double>& p) {
    const double inverse = 1 / p.z;
    return {p.x * inverse, p.y * inverse, inverse};
}

// Whether a corner can be projected: not nearer than near, and within the guard band. Both sides of each
// comparison are finite, and depth is positive where the first holds.
inline bool can_be_projected(const vec3<double>& p, double near) {
    return (p.z >= near) & (std::abs(p.x) <= guard_band * p.z) &
           (std::abs(p.y) <= guard_band * p.z); // NOLINT
}

// A place in pixels to the nearest step, halves upwards.
inline std::int32_t to_steps(double place) {
    return static_cast<std::int32_t>(std::floor(place * steps_per_pixel + 0.5));
}

// The first pixel whose centre is at or after a place in steps, and the last at or before it.
inline constexpr std::int32_t centre_in_steps = 128;
inline std::int32_t first_after(std::int32_t place) { return (place + (centre_in_steps - 1)) >> 8; }
inline std::int32_t last_before(std::int32_t place) { return (place - centre_in_steps) >> 8; }

} // namespace yurvo::inline v0_1::pipeline::wide
