// turned_normal: an object's normal in the world, the one formula for vertices and for corners of triangles.
#pragma once

#include <array>
#include <cmath>

#include "yurvo/numeric/vec3.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// Unit, or zero; the matrix by rows. Written without branches, so that loops over it become batches.
inline vec3<double> turned_normal(const std::array<double, 9>& to_world, const vec3<double>& normal) {
    const std::array<double, 9>& m = to_world;
    const vec3<double> moved{m[0] * normal.x + m[1] * normal.y + m[2] * normal.z,
                             m[3] * normal.x + m[4] * normal.y + m[5] * normal.z,
                             m[6] * normal.x + m[7] * normal.y + m[8] * normal.z};
    const double squared = dot(moved, moved);
    const double scale = squared > 0 ? 1 / std::sqrt(squared > 0 ? squared : 1) : 0;
    return moved * scale;
}

} // namespace yurvo::inline v0_1::pipeline::wide
