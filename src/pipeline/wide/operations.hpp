// operations: the few things that instruction sets have instructions for beyond batches, from the file of the
// set that this is compiled for. Intrinsics stand in those files and nowhere else in the pipeline.
//
// bits_of, store_whole, whole_of, multiply_add, multiply_add_eight, inverse, store_rounded, widened, rounded,
// both, store_where, put_four, blend_texels, take_four: see operations_plain.hpp. put_cell puts sixteen
// pixels in four lines, `pitch` numbers apart, no NaN among them; cell_at_once says that this is quicker than
// line by line. blend_close_texels is quicker than blend_texels for each, of sixteen points close together;
// both give the same digits.
#pragma once

#if defined(__AVX512F__)
#include "pipeline/wide/operations_avx512.hpp"
#elif defined(__AVX2__)
#include "pipeline/wide/operations_avx2.hpp"
#elif defined(__SSE2__)
#include "pipeline/wide/operations_sse2.hpp"
#else
#include "pipeline/wide/operations_plain.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

using plain::bits_of;
using plain::blend_texels;
using plain::both;
using plain::inverse;
using plain::multiply_add;
using plain::multiply_add_eight;
using plain::put_four;
using plain::rounded;
using plain::store_rounded;
using plain::store_where;
using plain::store_whole;
using plain::take_four;
using plain::whole_of;
using plain::widened;

} // namespace yurvo::inline v0_1::pipeline::wide
#endif

namespace yurvo::inline v0_1::pipeline::wide {

#if defined(__AVX512F__)
inline constexpr bool cell_at_once = true;
inline constexpr bool close_at_once = true;
#else
inline constexpr bool cell_at_once = false;
inline constexpr bool close_at_once = false;

inline bool blend_close_texels(const close_texels& /*at*/, std::array<real, 3>& /*into*/) { return false; }

inline void put_cell(const color_lanes& lit, float alpha, float* to, std::size_t pitch) {
    for (std::size_t row = 0; row < cell; ++row) {
        put_four(lit, alpha, row * cell, to + row * pitch);
    }
}
#endif

} // namespace yurvo::inline v0_1::pipeline::wide
