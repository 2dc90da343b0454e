// The few functions that let one formula work for float, double and a batch of either.
//
// Formulas call these unqualified. For a batch type the overloads of its own library are found instead; what
// they must provide is max, min, sqrt, exp, log1p and select(mask, if_true, if_false); see batch.hpp.
#pragma once

#include <cmath>
#include <concepts>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The number a Real is made of: itself, or the element of a batch (specialised where batches are).
template <class Real> struct scalar_of {
    using type = Real; ///< itself, where it is a plain number
};
/// The plain number that a Real is made of.
template <class Real> using scalar_t = typename scalar_of<Real>::type;

/// The first where it is so, else the second.
template <std::floating_point Real> constexpr Real select(bool condition, Real if_true, Real if_false) {
    return condition ? if_true : if_false;
}

/// The greater one; where `a` is not a number, b: a NaN that met max(x, 0) is gone.
template <std::floating_point Real> constexpr Real max(Real a, Real b) { return a > b ? a : b; }
/// The less of two numbers; the second where the first is NaN.
template <std::floating_point Real> constexpr Real min(Real a, Real b) { return a < b ? a : b; }

using std::cos;
using std::exp;
using std::log1p;
using std::pow;
using std::sqrt;

/// What a batch may have a faster way for, to the same digits; specialised where batches are (batch.hpp).
template <class Real> struct real_functions {
    /// 1 / x.
    static Real reciprocal(const Real& x) { return Real(1) / x; }
    /// 1 / √x.
    static Real inverse_sqrt(const Real& x) { return Real(1) / sqrt(x); }
    /// 1 / √x, and 0 where x is.
    static Real inverse_sqrt_or_zero(const Real& x) { return x > Real(0) ? Real(1) / sqrt(x) : Real(0); }
    /// Whether any of three is not 0.
    static auto any(const Real& x, const Real& y, const Real& z) { return x * x + y * y + z * z > Real(0); }
    /// max(1 − versine, 0)^exponent; exponent > 0. The logarithm of 1 − versine is taken as log1p(−versine):
    /// a rounding in the cosine would be multiplied by the exponent, one in the versine is not.
    static Real cosine_power(const Real& versine, const Real& exponent) {
        const auto positive = versine < Real(1);
        const Real logarithm = log1p(-select(positive, versine, Real(0)));
        return select(positive, exp(exponent * logarithm), Real(0));
    }
};

/// 1 / x and 1 / √x, for x > 0 that is no subnormal.
template <class Real> Real one_over(const Real& x) { return real_functions<Real>::reciprocal(x); }
/// 1 / √x, as quick as the number type has it.
template <class Real> Real inverse_sqrt(const Real& x) { return real_functions<Real>::inverse_sqrt(x); }
/// 1 / √x, and 0 where x is 0: what brings a vector to length 1 and leaves none alone.
template <class Real> Real inverse_sqrt_or_zero(const Real& x) {
    return real_functions<Real>::inverse_sqrt_or_zero(x);
}

/// The nearest number to x from low to high.
template <class Real> constexpr Real clamp(const Real& x, const Real& low, const Real& high) {
    return min(max(x, low), high);
}

/// The ratio of a circle's circumference to its diameter.
inline constexpr double pi = 3.14159265358979323846;

/// Degrees, as files have them, to radians, as code has them.
constexpr double radians(double degrees) { return degrees * (pi / 180.0); }
/// From radians.
constexpr double degrees(double radians) { return radians * (180.0 / pi); }

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
