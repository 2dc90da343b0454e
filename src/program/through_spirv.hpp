// through_spirv: shading languages that the driver does not take, as GLSL by way of SPIR-V.
#pragma once

#include "program/translate.hpp"

namespace yurvo::inline v0_1::program {

// GLSL for Vulkan, HLSL and SPIR-V itself; see translate(). Only where the build has the translators.
translated_program through_spirv(const shader_program& the_program, bool as_declared);

} // namespace yurvo::inline v0_1::program
