#include "geometry/clusters.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <span>

namespace yurvo::inline v0_1 {

namespace {

using some_triangles = std::span<const triangle>;

float rounded_towards(double value, float end) {
    const auto nearest = static_cast<float>(value);
    const bool inside = end > 0 ? static_cast<double>(nearest) < value : static_cast<double>(nearest) > value;
    return inside ? std::nextafter(nearest, end) : nearest;
}

void enclose(const mesh& the_mesh, const some_triangles& triangles, triangle_cluster& into) {
    constexpr float infinity = std::numeric_limits<float>::infinity();
    vec3<double> low(infinity, infinity, infinity);
    vec3<double> high = -low;
    for (const triangle& corners : triangles) {
        for (const std::uint32_t corner : corners) {
            const vec3<double>& at = the_mesh.positions[corner];
            low = {std::min(low.x, at.x), std::min(low.y, at.y), std::min(low.z, at.z)};
            high = {std::max(high.x, at.x), std::max(high.y, at.y), std::max(high.z, at.z)};
        }
    }
    into.low = {rounded_towards(low.x, -infinity), rounded_towards(low.y, -infinity),
                rounded_towards(low.z, -infinity)};
    into.high = {rounded_towards(high.x, infinity), rounded_towards(high.y, infinity),
                 rounded_towards(high.z, infinity)};
}

// The axis is the sum of the triangles' normals, each as long as its area: good enough, and cheap.
void face(const mesh& the_mesh, const some_triangles& triangles, triangle_cluster& into) {
    std::array<vec3<double>, mesh_clusters::triangles_each> normals;
    vec3<double> sum;
    for (std::size_t i = 0; i < triangles.size(); ++i) {
        const vec3<double>& a = the_mesh.positions[triangles[i][0]];
        normals[i] = cross(the_mesh.positions[triangles[i][1]] - a, the_mesh.positions[triangles[i][2]] - a);
        sum = sum + normals[i];
    }
    const vec3<double> axis = normalize(sum);
    into.axis = {static_cast<float>(axis.x), static_cast<float>(axis.y), static_cast<float>(axis.z)};
    double least = 1; // cosine, squared
    for (std::size_t i = 0; i < triangles.size(); ++i) {
        const double squared = dot(normals[i], normals[i]);
        const double along = dot(normals[i], axis);
        if (squared > 0) { // one without an area faces nowhere
            least = std::min(least, along > 0 ? along * along / squared : 0.0);
        }
    }
    // A little more than the sine that comes out: for the roundings on the way.
    into.sine = least > 0 ? static_cast<float>(std::sqrt(std::max(1 - least, 0.0)) + 1e-6)
                          : triangle_cluster::any_way;
}

void find_blocks(const some_triangles& triangles, triangle_cluster& into) {
    for (const triangle& corners : triangles) {
        for (const std::uint32_t corner : corners) {
            const auto block = static_cast<std::uint32_t>(corner / mesh_clusters::vertices_each_block);
            const auto end = into.blocks.begin() + into.block_count;
            if (std::find(into.blocks.begin(), end, block) != end) {
                continue;
            }
            if (into.block_count == into.blocks.size()) {
                into.block_count = static_cast<std::uint32_t>(into.blocks.size()) + 1;
                return;
            }
            into.blocks[into.block_count++] = block;
        }
    }
}

} // namespace

triangle_cluster make_cluster(const mesh& the_mesh, std::size_t i) {
    const std::size_t first = i * mesh_clusters::triangles_each;
    const some_triangles triangles(
        the_mesh.triangles.data() + first,
        std::min(mesh_clusters::triangles_each, the_mesh.triangles.size() - first));
    triangle_cluster result;
    enclose(the_mesh, triangles, result);
    face(the_mesh, triangles, result);
    find_blocks(triangles, result);
    return result;
}

} // namespace yurvo::inline v0_1
