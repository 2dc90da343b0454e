// What the formulas need of numbers, called for many at once as one instruction set has them.
#pragma once

#include <cstddef>

namespace yurvo::testing {

// Many numbers; `count` is a multiple of 64, all arrays begin at a cache line.
struct wide_numbers {
    void (*power)(const float* versine, const float* exponent, std::size_t count, float* into);
    void (*inverse_sqrt)(const float* of, std::size_t count, float* into);
    void (*inverse_sqrt_or_zero)(const float* of, std::size_t count, float* into);
    void (*reciprocal)(const float* of, std::size_t count, float* into);
    // The first operation of a `four` whose lanes are not what its batches give, or null.
    const char* (*first_that_differs)(const float* x, const float* y, const float* z);
};

} // namespace yurvo::testing
