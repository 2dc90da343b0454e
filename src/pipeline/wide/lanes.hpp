// lanes: what the loops over batches share.
#pragma once

#include <array>

namespace yurvo::inline v0_1::pipeline::wide {

// 0 to 15, where the compiler cannot see them: it would take each product apart otherwise, instead of
// multiplying a batch.
extern const std::array<double, 16> lane_number;

// std::min and std::max give references, and a load through one of two addresses stays a load apiece.
template <class Number> constexpr Number lesser(Number a, Number b) { return a < b ? a : b; }
template <class Number> constexpr Number greater(Number a, Number b) { return a > b ? a : b; }

} // namespace yurvo::inline v0_1::pipeline::wide
