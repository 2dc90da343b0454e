// Other normals for a mesh than those it came with.
#pragma once

#include "yurvo/geometry/mesh.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The unit normal of a triangle by its counter-clockwise corners; zero where it has no area.
vec3<double> triangle_normal(const vec3<double>& a, const vec3<double>& b, const vec3<double>& c);

/// Every triangle gets its own three vertices, with the triangle's normal.
mesh with_flat_normals(const mesh& the_mesh);

/// Equal positions become one vertex, whose normal is the average of its triangles' normals weighted by the
/// angle each has there (Thürmer and Wüthrich 1998). Texture coordinates stay as they are; of merged vertex
/// colours the first counts.
mesh with_shared_normals(const mesh& the_mesh);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
