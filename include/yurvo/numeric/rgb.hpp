// rgb: linear red, green and blue, unbounded. Products are componentwise: light times reflectance.
#pragma once

#include "yurvo/numeric/functions.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// A linear colour, or a factor for each of its three numbers.
template <class Real> struct rgb {
    Real r{}, g{}, b{}; ///< red, green, blue

    constexpr rgb() = default;
    /// Of its three numbers.
    constexpr rgb(const Real& r_, const Real& g_, const Real& b_) : r(r_), g(g_), b(b_) {}
    /// A grey: the same number in every component.
    explicit constexpr rgb(const Real& grey) : r(grey), g(grey), b(grey) {}
    /// From another number type: rounds, or fills every lane of a batch.
    template <class Other>
    explicit constexpr rgb(const rgb<Other>& other)
        : r(static_cast<Real>(other.r)), g(static_cast<Real>(other.g)), b(static_cast<Real>(other.b)) {}

    friend bool operator==(const rgb&, const rgb&) = default;
};

/// Number by number.
template <class Real> constexpr rgb<Real> operator+(const rgb<Real>& a, const rgb<Real>& b) {
    return {a.r + b.r, a.g + b.g, a.b + b.b};
}
/// Number by number.
template <class Real> constexpr rgb<Real> operator-(const rgb<Real>& a, const rgb<Real>& b) {
    return {a.r - b.r, a.g - b.g, a.b - b.b};
}
/// Number by number.
template <class Real> constexpr rgb<Real> operator*(const rgb<Real>& a, const rgb<Real>& b) {
    return {a.r * b.r, a.g * b.g, a.b * b.b};
}
/// By a Real, or by any number that becomes one: a float scales doubles and batches.
template <class Real, std::convertible_to<Real> Number>
constexpr rgb<Real> operator*(const rgb<Real>& a, const Number& by) {
    const Real s = static_cast<Real>(by);
    return {a.r * s, a.g * s, a.b * s};
}
/// Each number times one.
template <class Real, std::convertible_to<Real> Number>
constexpr rgb<Real> operator*(const Number& by, const rgb<Real>& a) {
    return a * by;
}

/// The greater of each pair.
template <class Real> constexpr rgb<Real> max(const rgb<Real>& a, const rgb<Real>& b) {
    return {max(a.r, b.r), max(a.g, b.g), max(a.b, b.b)};
}
/// The less of each pair.
template <class Real> constexpr rgb<Real> min(const rgb<Real>& a, const rgb<Real>& b) {
    return {min(a.r, b.r), min(a.g, b.g), min(a.b, b.b)};
}
/// The first where the mask is set, else the second.
template <class Mask, class Real>
constexpr rgb<Real> select(const Mask& mask, const rgb<Real>& a, const rgb<Real>& b) {
    return {select(mask, a.r, b.r), select(mask, a.g, b.g), select(mask, a.b, b.b)};
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
