// pixel_format: how a picture that is judged holds its colours.
#pragma once

#include <cstdint>

namespace yurvo {

/// As they are; rounded to 8-bit codes, encoded or not; or clamped and encoded but not rounded.
enum class pixel_format : std::uint8_t { floats, srgb_codes, linear_codes, srgb_floats };

/// Whether colours are floats, and not whole codes.
constexpr bool holds_floats(pixel_format format) {
    return format == pixel_format::floats || format == pixel_format::srgb_floats;
}

} // namespace yurvo
