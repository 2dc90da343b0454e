// The built-in models' kernels for one instruction set; YURVO_KERNELS names the table that this compilation
// makes.
#include "shading.hpp"

#include "yurvo/pipeline/block.hpp"

namespace yurvo::pipeline::wide {

const std::array<shade_kernel<float>, built_in_models>& YURVO_KERNELS() {
    using real = four<xsimd::batch<float, YURVO_BATCH>>;
    static constexpr std::array<shade_kernel<float>, built_in_models> made{
        shade_with<formula, real, true, unlit>, shade_with<formula, real, true, lambert<>>,
        shade_with<formula, real, true, phong<>>, shade_with<formula, real, true, blinn_phong<>>,
        shade_with<formula, real, true, cel<>>};
    return made;
}

} // namespace yurvo::pipeline::wide
