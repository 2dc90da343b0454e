// unit_normals: where a shader makes normals unit.
#pragma once

#include <functional>

#include "program/claims.hpp"
#include "yurvo/picture/picture.hpp"
#include "yurvo/scene/scene.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// Whether normals are made unit at the vertices or only at each fragment: what fits the unevenly scaled buoys
// better, as `draw` draws them. Both are right. True where nothing decides.
bool fits_unit_at_vertices(const shader_program& source, const claims& claimed,
                           const std::function<picture(const scene&)>& draw);

} // namespace yurvo::inline v0_1::program
