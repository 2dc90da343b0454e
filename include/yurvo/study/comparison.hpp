// comparison: how two pictures differ, in linear values and in codes.
#pragma once

#include <cstddef>

#include "yurvo/picture/comparison.hpp"

namespace yurvo::study {

/// In codes, as both pictures would be written into a PNG.
struct code_difference {
    int largest = 0; ///< signed: of the second picture against the first
    int x = 0, y = 0;
    double mean = 0;        ///< of the magnitudes
    std::size_t pixels = 0; ///< that differ
};

struct comparison {
    difference linear;
    code_difference codes;

    [[nodiscard]] bool same() const { return linear.largest == 0 && linear.largest_alpha == 0; }
};

/// Of the second picture against the first; both have the same size.
comparison compare_pictures(const picture& a, const picture& b);

} // namespace yurvo::study
