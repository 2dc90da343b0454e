// What is said of NaN and infinity in a picture.
#pragma once

namespace yurvo::inline v0_1::verify {

inline constexpr const char* why_no_number = "often a division by 0, the square root or the power of a "
                                             "number below 0, or a vector of length 0 made unit";

} // namespace yurvo::inline v0_1::verify
