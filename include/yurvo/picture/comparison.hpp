// How two pictures differ.
#pragma once

#include <cstddef>

#include "yurvo/picture/picture.hpp"

namespace yurvo {

/// Of the signed differences b − a, over every pixel and every colour component (alpha apart).
struct difference {
    double largest = 0; ///< the greatest magnitude
    int largest_x = 0, largest_y = 0;
    double mean = 0; ///< of the magnitudes
    double root_mean_square = 0;
    double mean_signed = 0;
    std::size_t pixels_that_differ = 0;
    double largest_alpha = 0; ///< the greatest magnitude of the difference in alpha
};

/// Both pictures have the same size.
difference compare(const picture& a, const picture& b);

} // namespace yurvo
