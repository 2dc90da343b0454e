#include "wide/geometry.hpp"

namespace yurvo::pipeline::wide {

alignas(64) const std::array<double, 16> lane_number{0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15};

const kernels& kernels_for(instruction_set asked) {
    switch (asked) {
#if defined(YURVO_WIDE_KERNELS)
    case instruction_set::avx512:
        return avx512_kernels();
    case instruction_set::avx2:
        return avx2_kernels();
#endif
    default:
        return baseline_kernels();
    }
}

} // namespace yurvo::pipeline::wide
