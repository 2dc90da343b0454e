// The inner loops of geometry: vertices projected, triangles sorted out, pixels covered, attributes spread.
//
// Compiled once for each instruction set, and without contraction: every set gives the same digits, so what
// is seen at a pixel never depends on the processor. Only plain data goes in and out.
#pragma once

#include <array>
#include <cstdint>

#include "yurvo/geometry/mesh.hpp"
#include "yurvo/numeric/vec3.hpp"
#include "yurvo/pipeline/instruction_set.hpp"

namespace yurvo::pipeline::wide {

// A vertex as the picture sees it. Nearness, 1 / depth, is 0 for one that cannot be projected: nearer than
// near, or beyond the guard band.
struct seen_vertex {
    double x = 0, y = 0; // pixels from the top left
    double nearness = 0;
};

inline constexpr std::int32_t not_projected = INT32_MAX;

template <class Scalar> struct vertex_run {
    const vec3<double>* positions = nullptr;
    const vec3<double>* normals = nullptr; // null: none are asked for
    std::size_t count = 0;
    std::array<double, 12> to_pixels{}; // rows; homogeneous pixels from the object's space
    std::array<double, 9> normal_to_world{};
    double near = 0;
    seen_vertex* seen = nullptr;
    std::int32_t* x = nullptr; // in steps of 1/256 pixel, or not_projected
    std::int32_t* y = nullptr;
    vec3<Scalar>* world_normals = nullptr; // unit, or zero
};

// What becomes of a triangle.
enum class fate : std::int32_t { unseen, front, back, cut };

inline constexpr std::size_t triangles_at_once = 256;

// Of each triangle the pixels whose centres it can cover, [left, right] by [top, bottom], and its fate.
struct sorted_triangles {
    template <class Value> using each = std::array<Value, triangles_at_once>;
    alignas(64) each<std::int32_t> left, top, right, bottom, what;
};

struct triangle_run {
    const triangle* triangles = nullptr;
    std::size_t count = 0; // at most triangles_at_once
    const std::int32_t* x = nullptr;
    const std::int32_t* y = nullptr;
    int width = 0, height = 0;
    bool mirrored = false;
};

// One object as the tiles need it.
struct object_view {
    std::int32_t first = 0, end = 0; // its triangles, counted over all objects
    const triangle* triangles = nullptr;
    const seen_vertex* seen = nullptr;
    const std::int32_t* x = nullptr;
    const std::int32_t* y = nullptr;
    const vec3<double>* positions = nullptr;
    std::array<double, 12> to_pixels{};
    bool mirrored = false;
};

// A part of the picture while it is found out what is seen there. Rows begin at multiples of 16 floats.
struct tile_view {
    int left = 0, top = 0, width = 0, height = 0, pitch = 0;
    float* nearness = nullptr;
    std::int32_t* seen = nullptr; // triangles, −1 where nothing is
    float nearest = 0;            // 1 / near
    double near = 0;
};

struct cover_request {
    const std::uint32_t* triangles = nullptr;
    std::size_t count = 0;
    const object_view* objects = nullptr;
    std::size_t object_count = 0;
    // The least nearness of each 8×8 pixels, rows of pitch / 8; null: nothing is known.
    const float* coarse = nullptr;
};

// Attributes over one triangle: each, times nearness, is a plane over the picture.
inline constexpr std::size_t most_attributes = 8;
struct attribute_planes {
    std::int32_t triangle = -1;
    bool front = true;
    bool one_by_one = false; // too thin: weights are found pixel by pixel
    double x = 0, y = 0;     // where the planes are measured from, in pixels
    double least = 0, most = 0;
    std::array<double, 3> nearness{}; // there, its change across, its change down
    std::array<std::array<double, 3>, most_attributes> attribute{};
};

// Pixels of one row that show one triangle.
struct pixel_run {
    std::int16_t x, y;
    std::int16_t count; // 1 to 16
    std::int32_t triangle;
};

// Asked for once a run: nothing is written that is not needed.
template <class Scalar> struct attribute_lanes { // NOLINT
    const attribute_planes* planes = nullptr;
    pixel_run run{};
    std::size_t attributes = 0;
    std::array<Scalar*, most_attributes> into; // 16 of each may be written
    // Positions relative to the eye, where asked for: the ray through pixel (0, 0)'s corner and its changes.
    const std::array<vec3<double>, 3>* rays = nullptr;
    std::array<Scalar*, 3> position;
};

// Red, green and blue, lane by lane.
using color_lanes = std::array<const float*, 3>;

struct box {
    std::array<float, 3> low{}, high{};
};

struct kernels {
    void (*project)(const vertex_run<float>&);
    void (*project_double)(const vertex_run<double>&);
    void (*sort)(const triangle_run&, sorted_triangles&);
    void (*cover)(const cover_request&, const tile_view&);
    void (*coarsen)(const tile_view&, float* coarse);
    void (*spread)(const attribute_lanes<float>&);
    void (*spread_double)(const attribute_lanes<double>&);
    box (*bounds)(const float* x, const float* y, const float* z, std::size_t count);
    // `count` pixels in a row: two parts of each colour added up, alpha put to them, NaN written as 0.
    void (*write)(const color_lanes& a, const color_lanes& b, float alpha, std::size_t count, float* rgba);
};

// One of these for each instruction set that the build has.
const kernels& baseline_kernels();
const kernels& avx2_kernels();
const kernels& avx512_kernels();

const kernels& kernels_for(instruction_set asked);

// 0 to 15, where the compiler cannot see them: it would take each product apart otherwise, instead of
// multiplying a batch.
extern const std::array<double, 16> lane_number;

// The object that a triangle belongs to, `guess` if it does.
inline std::size_t object_of(std::int32_t triangle, const object_view* objects, std::size_t count,
                             std::size_t guess) {
    if (triangle >= objects[guess].first && triangle < objects[guess].end) {
        return guess;
    }
    std::size_t low = 0;
    std::size_t high = count;
    while (high - low > 1) {
        const std::size_t middle = (low + high) / 2;
        (objects[middle].first <= triangle ? low : high) = middle;
    }
    return low;
}

// A corner in homogeneous pixels (x·w, y·w, w).
inline vec3<double> homogeneous_corner(const std::array<double, 12>& m, const vec3<double>& p) {
    return {m[0] * p.x + m[1] * p.y + m[2] * p.z + m[3], m[4] * p.x + m[5] * p.y + m[6] * p.z + m[7],
            m[8] * p.x + m[9] * p.y + m[10] * p.z + m[11]};
}

} // namespace yurvo::pipeline::wide
