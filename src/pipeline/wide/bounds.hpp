// bounds: the box around points. Part of attributes.cpp; see vertices.hpp for how it is compiled.
#pragma once

#include <algorithm>
#include <array>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/batches.hpp"
#include "pipeline/wide/lanes.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// The least and the greatest of count numbers; the last batch overlaps others.
inline void enclose(const float* value, std::size_t count, float& low, float& high) {
    constexpr std::size_t lanes = lanes_of<real>;
    if (count < lanes) {
        low = *std::min_element(value, value + count);
        high = *std::max_element(value, value + count);
        return;
    }
    real least = load_from<real>(value + count - lanes);
    real most = least;
    for (std::size_t i = 0; i + lanes <= count; i += lanes) {
        const real here = load_from<real>(value + i);
        least = min(least, here);
        most = max(most, here);
    }
    alignas(64) uninitialized<std::array<float, lanes>> lows;
    alignas(64) uninitialized<std::array<float, lanes>> highs;
    store_lanes(lows.data(), least);
    store_lanes(highs.data(), most);
    for (std::size_t width = lanes / 2; width > 0; width /= 2) {
        for (std::size_t l = 0; l < width; ++l) {
            lows[l] = lesser(lows[l], lows[l + width]);
            highs[l] = greater(highs[l], highs[l + width]);
        }
    }
    low = lows[0];
    high = highs[0];
}

inline box bounds(const float* x, const float* y, const float* z, std::size_t count) {
    box result;
    enclose(x, count, result.low[0], result.high[0]);
    enclose(y, count, result.low[1], result.high[1]);
    enclose(z, count, result.low[2], result.high[2]);
    return result;
}

} // namespace yurvo::inline v0_1::pipeline::wide
