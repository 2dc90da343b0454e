// evaluate: a formula at one point, in double.
#pragma once

#include <array>
#include <vector>

#include "yurvo/formula/expression.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::formulas {

/// The components of one value; a truth value is 0 or 1 in the first.
using components = std::array<double, 4>;

/// The result. `inputs[i]` is what the known name of index i is.
components evaluate(const expression& formula, const std::vector<components>& inputs);

} // namespace yurvo::inline v0_1::formulas
#pragma GCC visibility pop
