// range: a number with the interval in which rounding may have left it.
#pragma once

#include <algorithm>
#include <cmath>

#include "yurvo/numeric/rgb.hpp"

namespace yurvo::inline v0_1::verify {

// Half the distance between 1 and the next float: the most by which rounding to float changes a number,
// relative to it.
inline constexpr double unit_roundoff = 0x1p-24;
inline constexpr double u = unit_roundoff; // in bounds, as papers write it

struct range {
    double low = 0, value = 0, high = 0;

    range() = default;
    range(double exact) : low(exact), value(exact), high(exact) {} // NOLINT: a number is a range
    range(double low_, double value_, double high_) : low(low_), value(value_), high(high_) {}

    // Widened by a relative error.
    [[nodiscard]] range widened(double relative) const {
        return {low - std::abs(low) * relative, value, high + std::abs(high) * relative};
    }
    [[nodiscard]] double tolerance() const { return std::max(high - value, value - low); }
    [[nodiscard]] double magnitude() const { return std::max(std::abs(low), std::abs(high)); }
};

inline range operator+(const range& a, const range& b) {
    return {a.low + b.low, a.value + b.value, a.high + b.high};
}
inline range operator-(const range& a) { return {-a.high, -a.value, -a.low}; }
inline range operator-(const range& a, const range& b) { return a + -b; }
inline range operator*(const range& a, const range& b) {
    if (a.low >= 0 && b.low >= 0) {
        return {a.low * b.low, a.value * b.value, a.high * b.high};
    }
    const auto [least, most] = std::minmax({a.low * b.low, a.low * b.high, a.high * b.low, a.high * b.high});
    return {least, a.value * b.value, most};
}
inline range larger(const range& a, const range& b) {
    return {std::max(a.low, b.low), std::max(a.value, b.value), std::max(a.high, b.high)};
}

// A function of a number known to ± error: its value there and its least and greatest at both ends. The
// function is monotonic over so small an interval, or steps once.
template <class Function> range over(Function&& function, double at, double error) {
    const double value = function(at);
    const double before = function(at - error);
    const double after = function(at + error);
    return {std::min({before, value, after}), value, std::max({before, value, after})};
}

struct range3 {
    range r, g, b;

    range3() = default;
    range3(const range& r_, const range& g_, const range& b_) : r(r_), g(g_), b(b_) {}
    explicit range3(const rgb<double>& color) : r(color.r), g(color.g), b(color.b) {}
    // Known to a relative error.
    range3(const rgb<double>& color, double relative)
        : r(range(color.r).widened(relative)),
          g(range(color.g).widened(relative)),
          b(range(color.b).widened(relative)) {}
};

inline range3 operator+(const range3& a, const range3& b) { return {a.r + b.r, a.g + b.g, a.b + b.b}; }
inline range3 operator*(const range3& a, const range3& b) { return {a.r * b.r, a.g * b.g, a.b * b.b}; }
inline range3 operator*(const range3& a, const range& s) { return {a.r * s, a.g * s, a.b * s}; }
inline range3 larger(const range3& a, const range3& b) {
    return {larger(a.r, b.r), larger(a.g, b.g), larger(a.b, b.b)};
}

} // namespace yurvo::inline v0_1::verify
