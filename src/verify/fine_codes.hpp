// fine_codes: what is written for the light of a pixel, in codes that are not rounded.
#pragma once

#include <array>

#include "verify/point_by_point.hpp"

namespace yurvo::inline v0_1::verify {

// Codes, 0 to 255, not rounded: red, green, blue, alpha.
using codes = std::array<double, 4>;

// What comes of a linear colour where the curve of its format was left out, or applied twice; decoded as its
// format is.
double with_curve_mistaken(double linear, mistake which, pixel_format held);

bool is_float(pixel_format held);

// What a mistaken program writes for the light of a pixel, in the codes of a format.
codes fine_codes(const lit_pixel& pixel, const mistake_set& wrong, pixel_format held, double exposure = 1);
// The same of one number.
double fine_code(double linear, const mistake_set& wrong, pixel_format held);

} // namespace yurvo::inline v0_1::verify
