// The shapes, centred on the origin, with their exact normals and texture coordinates. Sizes in metres, > 0.
#pragma once

#include <cstdint>

#include "yurvo/geometry/mesh.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// In XZ, normal +Y; each cell's diagonal runs from its (−x, −z) to its (+x, +z) corner. cells ≥ 1.
mesh make_plane(double size_x, double size_z, std::uint32_t cells_x, std::uint32_t cells_z);

/// 24 vertices; each face's diagonal runs from its smallest to its greatest corner, compared by x, then y,
/// then z.
mesh make_box(const vec3<double>& size);

/// Poles on ±Y, rows from +Y down, longitude from +X towards +Z. around ≥ 3, rows ≥ 1.
mesh make_sphere(double radius, std::uint32_t around, std::uint32_t rows);

/// Along Y, capped. around ≥ 3, along ≥ 1.
mesh make_cylinder(double radius, double height, std::uint32_t around, std::uint32_t along);

/// The tip at +Y, where each slice has the normal of its middle longitude; capped below.
mesh make_cone(double radius, double height, std::uint32_t around, std::uint32_t along);

/// The ring in XZ, `radius` to the tube's centre; around the tube from the outside towards +Y. Both cells
/// ≥ 3.
mesh make_torus(double radius, double tube, std::uint32_t around, std::uint32_t around_tube);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
