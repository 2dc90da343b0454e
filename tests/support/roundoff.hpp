// roundoff: u, half the distance between 1 and the next float, for tolerances.
#pragma once

namespace yurvo::testing {

inline constexpr double u = 0x1p-24;

} // namespace yurvo::testing
