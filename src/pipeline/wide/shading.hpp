// The built-in models' kernels: one compilation for each model and instruction set.
#pragma once

#include "yurvo/pipeline/shading_block.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

#define YURVO_KERNELS_OF(set)                                                                                \
    shade_kernel<float> set##_shading_unlit();                                                               \
    shade_kernel<float> set##_shading_lambert();                                                             \
    shade_kernel<float> set##_shading_phong();                                                               \
    shade_kernel<float> set##_shading_blinn_phong();                                                         \
    shade_kernel<float> set##_shading_cel();
YURVO_KERNELS_OF(baseline)
YURVO_KERNELS_OF(avx2)
YURVO_KERNELS_OF(avx512)
#undef YURVO_KERNELS_OF

} // namespace yurvo::inline v0_1::pipeline::wide
