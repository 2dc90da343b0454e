// The built-in models' kernels, one table for each instruction set beyond the baseline: unlit, lambert,
// phong, blinn-phong, cel.
#pragma once

#include <array>

#include "yurvo/pipeline/block.hpp"

namespace yurvo::pipeline::wide {

inline constexpr std::size_t built_in_models = 5;

const std::array<shade_kernel<float>, built_in_models>& avx2_shading();
const std::array<shade_kernel<float>, built_in_models>& avx512_shading();

} // namespace yurvo::pipeline::wide
