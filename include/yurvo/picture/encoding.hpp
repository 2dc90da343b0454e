// Linear light to 8-bit codes and back: the sRGB curve of IEC 61966-2-1.
#pragma once

#include <cstdint>
#include <vector>

#include "yurvo/picture/picture.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// How a picture's numbers become codes.
enum class encoding : std::uint8_t { srgb, linear };

/// The curve itself, for 0 ≤ value ≤ 1.
double srgb_encoded(double linear);
/// The linear number of an sRGB one, both 0 to 1 (IEC 61966-2-1).
double srgb_decoded(double encoded);

/// Clamped to [0, 1], encoded, rounded to 0 … 255. NaN is 0.
std::uint8_t code_of(float linear, encoding how = encoding::srgb);

/// A whole picture as 8-bit codes, four a pixel; alpha is clamped and rounded, never encoded.
std::vector<std::uint8_t> codes_of(const picture& from, encoding how = encoding::srgb);

/// Back from codes: four a pixel.
picture picture_of(int width, int height, const std::vector<std::uint8_t>& codes,
                   encoding how = encoding::srgb);

/// True where a picture needs an alpha channel: some pixel's alpha is below 1.
bool has_transparency(const picture& image);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
