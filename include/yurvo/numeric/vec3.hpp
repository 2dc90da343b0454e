// vec3: a point, a direction or a normal, with the algebra the formulas need.
#pragma once

#include "yurvo/numeric/functions.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// A point or a direction, right-handed, y up.
template <class Real> struct vec3 {
    Real x{}, y{}, z{}; ///< right, up, backward

    constexpr vec3() = default;
    /// Of its three numbers.
    constexpr vec3(const Real& x_, const Real& y_, const Real& z_) : x(x_), y(y_), z(z_) {}
    /// From another number type: rounds, or fills every lane of a batch.
    template <class Other>
    explicit constexpr vec3(const vec3<Other>& other)
        : x(static_cast<Real>(other.x)), y(static_cast<Real>(other.y)), z(static_cast<Real>(other.z)) {}

    friend bool operator==(const vec3&, const vec3&) = default;
};

/// Number by number.
template <class Real> constexpr vec3<Real> operator+(const vec3<Real>& a, const vec3<Real>& b) {
    return {a.x + b.x, a.y + b.y, a.z + b.z};
}
/// Number by number.
template <class Real> constexpr vec3<Real> operator-(const vec3<Real>& a, const vec3<Real>& b) {
    return {a.x - b.x, a.y - b.y, a.z - b.z};
}
/// The opposite vector.
template <class Real> constexpr vec3<Real> operator-(const vec3<Real>& a) { return {-a.x, -a.y, -a.z}; }
/// By a Real, or by any number that becomes one: a float scales doubles and batches.
template <class Real, std::convertible_to<Real> Number>
constexpr vec3<Real> operator*(const vec3<Real>& a, const Number& by) {
    const Real s = static_cast<Real>(by);
    return {a.x * s, a.y * s, a.z * s};
}
/// Each number times one.
template <class Real, std::convertible_to<Real> Number>
constexpr vec3<Real> operator*(const Number& by, const vec3<Real>& a) {
    return a * by;
}
/// Each number by one.
template <class Real> constexpr vec3<Real> operator/(const vec3<Real>& a, const Real& s) {
    return {a.x / s, a.y / s, a.z / s};
}

/// a·b
template <class Real> constexpr Real dot(const vec3<Real>& a, const vec3<Real>& b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
/// Square to both, by the right hand.
template <class Real> constexpr vec3<Real> cross(const vec3<Real>& a, const vec3<Real>& b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
/// The square root of a·a.
template <class Real> Real length(const vec3<Real>& a) { return sqrt(dot(a, a)); }

/// a / |a|; the zero vector stays zero, so that nothing it meets becomes NaN.
template <class Real> vec3<Real> normalize(const vec3<Real>& a) {
    return a * inverse_sqrt_or_zero(dot(a, a));
}

/// Whether what normalize() gave has a length at all: it is of length 1, or zero.
template <class Real> auto has_direction(const vec3<Real>& a) {
    return real_functions<Real>::any(a.x, a.y, a.z);
}

/// 1 − cos of the angle between two unit vectors, as |a − b|² / 2: unlike 1 − a·b it keeps its digits when
/// the angle is small, and unit lengths that are off by a rounding cancel to first order.
template <class Real> constexpr Real versine(const vec3<Real>& a, const vec3<Real>& b) {
    const vec3<Real> difference = a - b;
    return dot(difference, difference) * Real(0.5);
}

/// max(cos, 0)^exponent from the versine 1 − cos.
template <class Real> Real cosine_power(const Real& versine, const Real& exponent) {
    return real_functions<Real>::cosine_power(versine, exponent);
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
