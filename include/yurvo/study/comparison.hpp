// comparison: how two pictures differ, in linear values and in codes.
#pragma once

#include <cstddef>

#include "yurvo/picture/comparison.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// In codes, as both pictures would be written into a PNG.
struct code_difference {
    int largest = 0;        ///< signed: of the second picture against the first
    int x = 0, y = 0;       ///< the pixel
    double mean = 0;        ///< of the magnitudes
    std::size_t pixels = 0; ///< that differ
};

/// Two pictures of the same size, compared.
struct comparison {
    difference linear;     ///< in linear numbers
    code_difference codes; ///< in sRGB codes

    /// Whether no number differs.
    [[nodiscard]] bool same() const { return linear.largest == 0 && linear.largest_alpha == 0; }
};

/// Of the second picture against the first; both have the same size.
comparison compare_pictures(const picture& a, const picture& b);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
