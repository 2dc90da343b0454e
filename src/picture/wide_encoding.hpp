// wide_encoding: sRGB codes sixteen components at a time, where the processor can; the same codes.
#pragma once

#include <cstddef>
#include <cstdint>

namespace yurvo::inline v0_1 {

/// Codes of as many of `count` pixels from the first on as go this way: how many. Four floats and four bytes
/// each; alpha is rounded, or 255 where they are `opaque`. `encoded_at_once` pixels of which a component is
/// too near the border between two codes for floats to decide get theirs by exactly(first float, first byte).
inline constexpr std::size_t encoded_at_once = 8;
std::size_t encode_wide(const float* values, std::size_t count, bool opaque, std::uint8_t* to,
                        void (*exactly)(const float*, std::uint8_t*));

} // namespace yurvo::inline v0_1
