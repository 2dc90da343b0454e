// plain_shapes: the scene's shapes once more, from the words that define them: every triangle with corners of
// its own, and the distances of implicit surfaces.
#pragma once

#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::verify {

// The object's triangles in its own space, counter-clockwise seen from outside, with the normals it asks for;
// empty for a field.
mesh plain_mesh(const object& of);

// The signed distance to an implicit surface; negative inside.
double plain_distance(const field& to, const vec3<double>& from);

// Nothing of the surface is farther from the origin of its object than this.
double plain_extent(const field& of);

} // namespace yurvo::inline v0_1::verify
