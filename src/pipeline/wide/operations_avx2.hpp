// operations_avx2: see operations.hpp. With fused multiplication and addition.
#pragma once

#include "pipeline/wide/operations_sse2.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

using plain::both;
using plain::inverse;
using plain::multiply_add;
using plain::store_where;

template <class Mask> std::uint32_t bits_of(const Mask& mask) {
    return static_cast<std::uint32_t>(_mm256_movemask_ps(_mm256_castsi256_ps(mask)));
}
inline void multiply_add_eight(const float* a, float factor, const float* c, float* to) {
    _mm256_store_ps(to, _mm256_fmadd_ps(_mm256_load_ps(a), _mm256_set1_ps(factor), _mm256_load_ps(c)));
}
inline void store_rounded(float* to, const wide_real& numbers) {
    _mm_storeu_ps(to, _mm256_cvtpd_ps(numbers));
}
inline wide_real widened(const float* from) { return _mm256_cvtps_pd(_mm_loadu_ps(from)); }
inline void store_whole(std::int32_t* to, const wide_real& numbers) {
    _mm_storeu_si128(reinterpret_cast<__m128i*>(to), _mm256_cvttpd_epi32(numbers)); // NOLINT
}
inline whole whole_of(const wide_reals& numbers) {
    return _mm256_set_m128i(_mm256_cvttpd_epi32(numbers[1]), _mm256_cvttpd_epi32(numbers[0]));
}
inline real rounded(const wide_reals& numbers) {
    return _mm256_set_m128(_mm256_cvtpd_ps(numbers[1]), _mm256_cvtpd_ps(numbers[0]));
}

} // namespace yurvo::inline v0_1::pipeline::wide
