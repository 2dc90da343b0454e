// formula_shader: a scene's formulas as the pipeline takes them.
#pragma once

#include "pipeline/built_in_shader.hpp"

namespace yurvo::inline v0_1::pipeline {

// Of a valid scene that has formulas.
owned_shader formula_shader(const scene& the_scene);

} // namespace yurvo::inline v0_1::pipeline
