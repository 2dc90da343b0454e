// The kernel of one built-in model for one instruction set; the build names both.
#include "pipeline/wide/shading.hpp"

#include "yurvo/pipeline/shading_kernel.hpp"

namespace yurvo::pipeline::wide {

shade_kernel<float> YURVO_KERNELS() {
    return shade_with<formula, four<xsimd::batch<float, YURVO_BATCH>>, loop_for_each_law,
                      built_in::YURVO_MODEL>;
}

} // namespace yurvo::pipeline::wide
