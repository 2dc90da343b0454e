// pixel_format: how a picture that is judged holds its colours.
#pragma once

#include <cstdint>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// As they are; rounded to 8-bit codes, encoded or not; or clamped and encoded but not rounded, by the sRGB
/// curve or by the power of 1 / 2.2 (and decoded again).
enum class pixel_format : std::uint8_t { floats, srgb_codes, linear_codes, srgb_floats, gamma_floats };

/// The exponent of gamma_floats.
inline constexpr double usual_gamma = 2.2;

/// Whether colours are floats that have been clamped, encoded and decoded.
constexpr bool holds_encoded_floats(pixel_format format) {
    return format == pixel_format::srgb_floats || format == pixel_format::gamma_floats;
}

/// Whether colours are floats, and not whole codes.
constexpr bool holds_floats(pixel_format format) {
    return format == pixel_format::floats || holds_encoded_floats(format);
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
