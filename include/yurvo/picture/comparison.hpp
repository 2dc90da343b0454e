// How two pictures differ.
#pragma once

#include <cstddef>

#include "yurvo/picture/picture.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Of the signed differences b − a, over every pixel and every colour component (alpha apart). What is no
/// number differs by infinitely much from all but its like.
struct difference {
    double largest = 0;                 ///< the greatest magnitude
    int largest_x = 0, largest_y = 0;   ///< where the largest difference is
    double mean = 0;                    ///< of the magnitudes
    double root_mean_square = 0;        ///< over all colour numbers
    double mean_signed = 0;             ///< second less first, over all colour numbers
    std::size_t pixels_that_differ = 0; ///< how many differ at all
    double largest_alpha = 0;           ///< the greatest magnitude of the difference in alpha
};

/// Both pictures have the same size.
difference compare(const picture& a, const picture& b);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
