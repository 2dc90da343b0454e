// bounds: between which numbers a formula's value lies, given between which those lie that it knows.
#pragma once

#include <array>
#include <cstdint>
#include <limits>
#include <optional>
#include <vector>

#include "yurvo/formula/expression.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::formulas {

/// From `low` to `high`, both included; infinite where nothing is known, not even that it is a number.
struct bounds {
    double low = -std::numeric_limits<double>::infinity(); ///< not above `high`
    double high = std::numeric_limits<double>::infinity(); ///< not below `low`

    /// It is a number, also where it is worked out in float.
    [[nodiscard]] bool finite() const;
    /// It is 0, and nothing else.
    [[nodiscard]] bool zero() const { return low == 0 && high == 0; }
};

/// A number as it is given, which is a float's next to it where it is worked out in float.
bounds exactly(double number);

/// Those of each component; a truth value is 0 or 1 in the first.
using component_bounds = std::array<bounds, 4>;

/// What is known of vectors beyond the bounds of their components.
struct known_directions {
    std::vector<std::uint32_t> unit; ///< inputs of length 1 or 0, by their index
    std::optional<bounds> n_dot_l;   ///< where a formula asks for the `dot` of n and l of formula_set.hpp
};

/// What a formula's value lies between, worked out in float or double: there is room for the rounding of a
/// float in every step but those that round nothing, and only what is 0 in every one of them is said to be 0.
/// `inputs[i]` is for the known name of index i.
/// Interval arithmetic: R. E. Moore, Interval Analysis, 1966.
component_bounds bounds_of(const expression& formula, const std::vector<component_bounds>& inputs,
                           const known_directions& directions = {});

} // namespace yurvo::inline v0_1::formulas
#pragma GCC visibility pop
