// The few functions that let one formula work for float, double and a batch of either.
//
// Formulas call these unqualified. For a batch type the overloads of its own library are found instead; what
// they must provide is max, min, sqrt, exp, log1p and select(mask, if_true, if_false).
#pragma once

#include <cmath>
#include <concepts>

namespace yurvo {

// The number a Real is made of: itself, or the element of a batch (specialised where batches are).
template <class Real> struct scalar_of { using type = Real; };
template <class Real> using scalar_t = typename scalar_of<Real>::type;

template <std::floating_point Real> constexpr Real select(bool condition, Real if_true, Real if_false) {
    return condition ? if_true : if_false;
}

// The greater one; where `a` is not a number, b: a NaN that met max(x, 0) is gone.
template <std::floating_point Real> constexpr Real max(Real a, Real b) { return a > b ? a : b; }
template <std::floating_point Real> constexpr Real min(Real a, Real b) { return a < b ? a : b; }

using std::cos;
using std::exp;
using std::log1p;
using std::pow;
using std::sqrt;

template <class Real> constexpr Real clamp(const Real& x, const Real& low, const Real& high) {
    return min(max(x, low), high);
}

inline constexpr double pi = 3.14159265358979323846;

// Degrees, as files have them, to radians, as code has them.
constexpr double radians(double degrees) { return degrees * (pi / 180.0); }
constexpr double degrees(double radians) { return radians * (180.0 / pi); }

} // namespace yurvo
