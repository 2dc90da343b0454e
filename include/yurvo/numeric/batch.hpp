// batch: numbers side by side, as wide as the instruction set this file is compiled for.
//
// Includes xsimd, and gives its batches what the formulas need beyond it: scalar_of, reciprocal,
// inverse_sqrt and cosine_power. A file compiled for a wider set than the rest of a program must not
// share inline functions with it: see kernels.hpp.
#pragma once

#include <array>
#include <cfloat>
#include <cstdint>

#include <xsimd/xsimd.hpp>

#include "yurvo/numeric/functions.hpp"
#include "yurvo/numeric/number.hpp"
#include "yurvo/numeric/vec3.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

template <class Scalar, class Arch> struct scalar_of<xsimd::batch<Scalar, Arch>> { using type = Scalar; };

/// How many numbers a Real is.
template <class Real> inline constexpr std::size_t lanes_of = 1;
template <class Scalar, class Arch>
inline constexpr std::size_t lanes_of<xsimd::batch<Scalar, Arch>> = xsimd::batch<Scalar, Arch>::size;

/// Lanes from and to memory; the address of a batch is a multiple of its size.
template <std::floating_point Real> Real load_lanes(const Real* from) { return *from; }
/// To its place.
template <std::floating_point Real> void store_lanes(Real* to, const Real& value) { *to = value; }
/// From its place.
template <class Real>
requires std::same_as<Real, number<scalar_t<Real>>> Real load_lanes(const scalar_t<Real>* from) {
    return Real(*from);
}
/// To its place.
template <class Scalar> void store_lanes(Scalar* to, const number<Scalar>& value) { *to = value.value; }
/// As many numbers as a batch has lanes.
template <class Real>
requires requires(const scalar_t<Real>* from) { Real::load_aligned(from); }
Real load_lanes(const scalar_t<Real>* from) { return Real::load_aligned(from); }
/// To as many places.
template <class Scalar, class Arch> void store_lanes(Scalar* to, const xsimd::batch<Scalar, Arch>& value) {
    value.store_aligned(to);
}

namespace detail {

/// cosine_power in one go for floats: the logarithm of 1 − versine is never rounded to a number near 1 on the
/// way, and what underflows is 0. Both polynomials are the minimax ones of Moshier's Cephes (1992), good to
/// the last bit of a float on their intervals.
template <class Arch>
xsimd::batch<float, Arch> batch_cosine_power(const xsimd::batch<float, Arch>& versine,
                                             const xsimd::batch<float, Arch>& exponent) {
    using real = xsimd::batch<float, Arch>;
    using whole = xsimd::batch<std::int32_t, Arch>;
    const real unity(1.0F);
    const auto positive = versine < unity;
    // Where it is not, whatever comes out is replaced by 0.
    // cosine = 2^k · m with m in [√½, √2), and k ≥ −24. So 2^−k − 1 and 2^−k · versine are exact, and m − 1,
    // their difference, is rounded once.
    constexpr std::int32_t root_half = 0x3f3504f3;
    constexpr std::int32_t exponent_bits = -0x800000;
    const whole k_shifted =
        (xsimd::bitwise_cast<whole>(unity - versine) - whole(root_half)) & whole(exponent_bits);
    const real back = xsimd::bitwise_cast<real>(whole(0x3f800000) - k_shifted); // 2^−k
    const real f = (back - unity) - versine * back;
    const real squared = f * f;
    // Pairs of terms, then pairs of pairs (Estrin 1960): the chain of operations is half as long.
    const auto pair = [](const real& x, float higher, float lower) {
        return xsimd::fma(x, real(higher), real(lower));
    };
    const real fourth = squared * squared;
    const real p01 = pair(f, -2.4999993993e-1F, 3.3333331174e-1F);
    const real p23 = pair(f, -1.6668057665e-1F, 2.0000714765e-1F);
    const real p45 = pair(f, -1.2420140846e-1F, 1.4249322787e-1F);
    const real p67 = pair(f, -1.1514610310e-1F, 1.1676998740e-1F);
    const real low = xsimd::fma(p23, squared, p01);
    const real high = xsimd::fma(xsimd::fma(real(7.0376836292e-2F), squared, p67), squared, p45);
    const real p = xsimd::fma(high, fourth, low);
    const real steps = xsimd::to_float(k_shifted); // 2^23 · k
    // ln 2 in two parts, the first of so few digits that its products with k are exact.
    const real tail =
        xsimd::fma(p, f * squared, steps * real(-2.12194440e-4F * 0x1p-23F)) - real(0.5F) * squared;
    const real logarithm = xsimd::fma(steps, real(0.693359375F * 0x1p-23F), f + tail);

    const real power = exponent * logarithm;
    constexpr float last = -87.0F; // e^−87 is the last that is no subnormal
    const auto kept = positive && power > real(last);
    const real argument = max(power, real(last)); // or the steps below would leave the numbers
    const real turns = xsimd::nearbyint(argument * real(1.44269504088896341F));
    real r = xsimd::fma(turns, real(-0.693359375F), argument);
    r = xsimd::fma(turns, real(2.12194440e-4F), r);
    const real r2 = r * r;
    const real e01 = pair(r, 1.6666665459e-1F, 5.0000001201e-1F);
    const real e23 = pair(r, 8.3334519073e-3F, 4.1665795894e-2F);
    const real e45 = pair(r, 1.9875691500e-4F, 1.3981999507e-3F);
    const real tail_of_e = xsimd::fma(xsimd::fma(e45, r2, e23), r2, e01);
    const real e = xsimd::fma(tail_of_e, r2, r) + unity;
    const whole doublings = xsimd::to_int(turns) << 23;
    const real scaled = xsimd::bitwise_cast<real>(xsimd::bitwise_cast<whole>(e) + doublings);
    return select(kept, scaled, real(0.0F));
}

} // namespace detail

template <class Scalar, class Arch> struct real_functions<xsimd::batch<Scalar, Arch>> {
    using real = xsimd::batch<Scalar, Arch>;

    static real reciprocal(const real& x) { return real(Scalar(1)) / x; }

    static real inverse_sqrt(const real& x) { return real(Scalar(1)) / sqrt(x); }

    /// 1 / √x, and 0 where x is 0.
    static real inverse_sqrt_or_zero(const real& x) {
        const auto positive = x > real(Scalar(0));
        return select(positive, inverse_sqrt(select(positive, x, real(Scalar(1)))), real(Scalar(0)));
    }

    static auto any(const real& x, const real& y, const real& z) {
        return x * x + y * y + z * z > real(Scalar(0));
    }

    static real cosine_power(const real& versine, const real& exponent) {
        if constexpr (std::is_same_v<Scalar, float>) {
            return detail::batch_cosine_power(versine, exponent);
        } else {
            const auto positive = versine < real(Scalar(1));
            const real logarithm = log1p(-select(positive, versine, real(Scalar(0))));
            return select(positive, exp(exponent * logarithm), real(Scalar(0)));
        }
    }
};

} // namespace yurvo::inline v0_1

#if defined(__AVX512F__)
#include "yurvo/numeric/batch_avx512.hpp"
#endif
#pragma GCC visibility pop
