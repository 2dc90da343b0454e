#include "pipeline/wide/kernels.hpp"

#include "pipeline/wide/lanes.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

alignas(64) const std::array<double, 16> lane_number{0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15};

#define YURVO_TABLES(set)                                                                                    \
    const vertex_kernels& set##_vertices();                                                                  \
    const coverage_kernels& set##_coverage();                                                                \
    const attribute_kernels& set##_attributes();                                                             \
    const field_kernels& set##_fields();
YURVO_TABLES(baseline)
#if defined(YURVO_WIDE_KERNELS)
YURVO_TABLES(avx2)
YURVO_TABLES(avx512)
#endif
#undef YURVO_TABLES

kernels kernels_for(instruction_set wanted) {
    switch (wanted) {
#if defined(YURVO_WIDE_KERNELS)
    case instruction_set::avx512:
        return {avx512_vertices(), avx512_coverage(), avx512_attributes(), avx512_fields()};
    case instruction_set::avx2:
        return {avx2_vertices(), avx2_coverage(), avx2_attributes(), avx2_fields()};
#endif
    default:
        return {baseline_vertices(), baseline_coverage(), baseline_attributes(), baseline_fields()};
    }
}

} // namespace yurvo::inline v0_1::pipeline::wide
