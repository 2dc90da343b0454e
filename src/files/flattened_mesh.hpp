// flattened_mesh: a mesh as formats want it that have one index for everything at a corner.
#pragma once

#include <cstdint>
#include <vector>

#include "yurvo/geometry/mesh.hpp"

namespace yurvo::inline v0_1::files {

// The vertices of a mesh with a texture coordinate each: where corners differ in theirs, a vertex is doubled.
struct flattened_mesh {
    std::vector<float> positions, normals, colors; // three numbers a vertex; colors may be empty
    std::vector<float> texcoords;                  // two numbers a vertex, from the top left; may be empty
    std::vector<std::uint32_t> indices;            // three a triangle
};
flattened_mesh flatten(const mesh& shape);

} // namespace yurvo::inline v0_1::files
