// clusters: what is known of every 64 triangles of a mesh before it is looked at from anywhere: the box
// around them, which way they face, and which vertices they have.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "yurvo/geometry/mesh.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

struct triangle_cluster {
    // Around all corners, in the object's space; rounded outwards.
    std::array<float, 3> low{}, high{};
    // All triangles' normals lie within a cone about this unit vector ...
    std::array<float, 3> axis{};
    // ... whose half-angle has this sine; `any_way` where it would be a right angle or more.
    float sine = any_way;
    // Blocks of vertices that hold a corner, or more of them than there is room for.
    std::uint32_t block_count = 0;
    std::array<std::uint32_t, 8> blocks{};

    static constexpr float any_way = 2;
};

struct mesh_clusters {
    static constexpr std::size_t triangles_each = 64;
    static constexpr std::size_t vertices_each_block = 64;

    std::vector<triangle_cluster> list; // triangle t is in list[t / triangles_each]

    [[nodiscard]] static std::size_t count_for(const mesh& the_mesh) {
        return (the_mesh.triangles.size() + triangles_each - 1) / triangles_each;
    }
};

// What is known of cluster i of a mesh.
triangle_cluster make_cluster(const mesh& the_mesh, std::size_t i);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
