// mesh: triangles over shared vertices, attribute by attribute.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// A place in a texture: u to the right, v up, (0, 0) the picture's bottom left.
struct texcoord {
    double u = 0, v = 0; ///< across and up, 0 to 1 over the texture once
    friend bool operator==(const texcoord&, const texcoord&) = default;
};

/// The indices of three vertices, counter-clockwise seen from outside.
using triangle = std::array<std::uint32_t, 3>;

/// The most triangles that one object may have.
inline constexpr std::uint64_t most_triangles = 16'000'000;

/// Front faces are counter-clockwise. Every index is below the size of what it points into. Everything is
/// finite.
struct mesh {
    std::vector<vec3<double>> positions; ///< metres, in the object's space
    std::vector<vec3<double>> normals;   ///< as many as positions, unit (or zero where there is none)
    std::vector<rgb<double>> colors;     ///< none, or as many as positions; linear, multiply the base colour
    std::vector<triangle> triangles;     ///< indices of positions, normals and colors
    std::vector<texcoord> texcoords;     ///< none, or pointed into by texcoord_triangles
    std::vector<triangle> texcoord_triangles; ///< none (then `triangles` serves), or as many as triangles
    std::vector<std::uint32_t> materials;     ///< none, or as many as triangles: which of several materials

    /// Marks a triangle without a material of its own.
    static constexpr std::uint32_t no_material = 0xFFFFFFFFU;

    /// The corners of triangle t in `texcoords`. A texture is looked up per fragment at every rate, so its
    /// seams need no vertices of their own.
    [[nodiscard]] const triangle& texcoord_corners(std::size_t t) const {
        return texcoord_triangles.empty() ? triangles[t] : texcoord_triangles[t];
    }

    friend bool operator==(const mesh&, const mesh&) = default;
};

/// The triangles of one material with the vertices they use, in their order.
struct mesh_part {
    std::uint32_t material = mesh::no_material; ///< the index of all of its triangles, or no_material
    mesh shape;                                 ///< with the vertices that they use, and no others
};

/// A mesh by its materials, in the order in which they first appear; one part where it has none.
std::vector<mesh_part> split_by_material(mesh whole);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
