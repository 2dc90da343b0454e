// The kernel of one built-in model for one instruction set; the build names both.
#include "pipeline/wide/shading.hpp"

#include "yurvo/pipeline/shading_kernel.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// Where wider sets are compiled as well, hardly a processor is left for the baseline: one loop that reads the
// law serves it, which is built in a fraction of the time.
#if defined(YURVO_ONE_LOOP)
constexpr bool own_loops = false;
#else
constexpr bool own_loops = loop_for_each_law;
#endif

shade_kernel<float> YURVO_KERNELS() {
    return shade_with<formula, four<xsimd::batch<float, YURVO_BATCH>>, own_loops, built_in::YURVO_MODEL>;
}

} // namespace yurvo::inline v0_1::pipeline::wide
