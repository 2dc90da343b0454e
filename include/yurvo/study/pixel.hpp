// pixel: one pixel worked by hand, and what another picture shows there.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/picture/pixel_format.hpp"
#include "yurvo/verify/explain.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// What another picture shows at the pixel, and which number, changed alone, would give it.
struct found_pixel {
    rgb<double> linear;                         ///< as found
    std::array<std::uint8_t, 3> encoded{};      ///< as found
    std::vector<verify::needed_change> changes; ///< each alone would give what was found
};

/// The picture has the explained picture's size; x and y lie within it.
found_pixel find_pixel(const verify::explanation& right, const picture& found, int x, int y,
                       pixel_format format);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
