// Some rows of a picture: as a screen takes them, and as a file does.
#pragma once

#include <cstdint>

#include "yurvo/picture/encoding.hpp"
#include "yurvo/picture/picture.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// sRGB codes of the rows [top, bottom), four bytes a pixel, alpha 255: a screen has nothing behind it. `to`
/// has room for the whole picture, so that threads may share one.
void screen_codes(const picture& from, int top, int bottom, std::uint8_t* to);

/// The rows [top, bottom) as codes_of() has them, put from `to` on: a file needs no more of them at a time.
void codes_of_rows(const picture& from, int top, int bottom, encoding how, std::uint8_t* to);

/// has_transparency() of the rows [top, bottom) alone.
bool has_transparency_in_rows(const picture& image, int top, int bottom);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
