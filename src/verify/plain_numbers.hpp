// plain_numbers: functions of numbers, each with the interval in which float would leave it.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <optional>
#include <string_view>

#include "verify/range.hpp"

namespace yurvo::inline v0_1::verify {

inline constexpr double largest_float = 3.4028234663852886e38;
// Smaller numbers are flushed to 0.
inline constexpr double least_float = 1.1754943508222875e-38;

// As float rounds what comes out of one operation.
inline range rounded(const range& exact, double operations = 1) {
    const auto room = [&](double end) {
        return std::abs(end) * operations * unit_roundoff + (end == 0 ? 0 : least_float);
    };
    return {exact.low - room(exact.low), exact.value, exact.high + room(exact.high)};
}

inline bool crosses(const range& x, double border) { return x.low <= border && x.high >= border; }
inline range hull(const range& a, const range& b, double value) {
    return {std::min(a.low, b.low), value, std::max(a.high, b.high)};
}
inline range truth(bool can_be_false, bool value, bool can_be_true) {
    return {can_be_false ? 0.0 : 1.0, value ? 1.0 : 0.0, can_be_true ? 1.0 : 0.0};
}
inline bool may_hold(const range& x) { return x.high != 0; }
inline bool may_not_hold(const range& x) { return x.low == 0; }

// A function that rises all the way.
template <class Function> range rising(Function&& function, const range& x) {
    return {function(x.low), function(x.value), function(x.high)};
}

inline range square_root(const range& x, bool& doubtful) {
    doubtful = doubtful || x.low < 0;
    return rounded({std::sqrt(std::max(x.low, 0.0)), std::sqrt(x.value), std::sqrt(std::max(x.high, 0.0))});
}

inline range divided(const range& a, const range& b, bool& doubtful) {
    if (crosses(b, 0)) {
        doubtful = true;
        return {-largest_float, a.value / b.value, largest_float};
    }
    const auto [least, most] = std::minmax({a.low / b.low, a.low / b.high, a.high / b.low, a.high / b.high});
    return rounded({least, a.value / b.value, most});
}

inline range absolute(const range& x) {
    if (crosses(x, 0)) {
        return {0, std::abs(x.value), x.magnitude()};
    }
    return x.low > 0 ? x : -x;
}

// Which function of one, two or three numbers a name calls, for of_numbers(); none of vectors.
std::optional<std::size_t> number_function(std::string_view name);

// Up to three numbers that lie elsewhere.
class three_ranges {
    std::array<const range*, 3> each_{};

  public:
    void set(std::size_t i, const range& number) { each_[i] = &number; }
    const range& operator[](std::size_t i) const { return *each_[i]; }
};

// Sets `doubtful` where float may find no number.
range of_numbers(std::size_t which, const three_ranges& x, bool& doubtful);

// The arc whose tangent is x.
range arc_of_tangent(const range& x);
// The angle at which (x, y) lies.
range arc_of_two(const range& y, const range& x);

} // namespace yurvo::inline v0_1::verify
