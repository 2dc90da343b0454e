// sampling: colours between the texels of a texture, sixteen points at a time. Part of attributes.cpp; see
// vertices.hpp for how it is compiled.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <cstring>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"

namespace yurvo::pipeline::wide {

inline constexpr std::size_t sampled_at_once = 16;
using sampled_numbers = std::array<std::int32_t, sampled_at_once>;

// Texels that may lie a little beyond the texture, brought back into it, and the ones after them.
inline void repeat_texels(const std::int32_t* from, int size, sampled_numbers& texels, sampled_numbers& next) {
    const float each = 1.0F / static_cast<float>(size);
    for (std::size_t l = 0; l < sampled_at_once; ++l) {
        // Off by one at most, by rounding.
        const auto times = static_cast<std::int32_t>(static_cast<float>(from[l]) * each);
        std::int32_t texel = from[l] - times * size;
        texel += texel < 0 ? size : 0;
        texel -= texel >= size ? size : 0;
        texels[l] = texel;
        next[l] = texel + 1 == size ? 0 : texel + 1;
    }
}

// The same arithmetic as texture::sample(): the same digits.
inline void sample(const sample_request& wanted) {
    using four = float __attribute__((vector_size(16), aligned(4)));
    const texel_places& at = wanted.at;
    const std::int32_t last = at.width * at.height - 1; // has no three numbers and one more
    const auto texel = [&](std::int32_t number) __attribute__((always_inline)) {
        const rgb<float>* const from = wanted.texels + number;
        four result;
        if (number == last) [[unlikely]] {
            result = four{from->r, from->g, from->b, 0};
        } else {
            std::memcpy(&result, from, sizeof result);
        }
        return result;
    };
    for (std::size_t l = wanted.count; l % sampled_at_once != 0; ++l) { // looked up with the others
        at.column[l] = 0;
        at.row[l] = 0;
    }
    for (std::size_t i = 0; i < wanted.count; i += sampled_at_once) {
        alignas(64) uninitialized<sampled_numbers> left;
        alignas(64) uninitialized<sampled_numbers> right;
        alignas(64) uninitialized<sampled_numbers> low;
        alignas(64) uninitialized<sampled_numbers> high;
        repeat_texels(at.column + i, at.width, left, right);
        repeat_texels(at.row + i, at.height, low, high);
        for (std::size_t l = 0; l < sampled_at_once; ++l) {
            low[l] = (at.height - 1 - low[l]) * at.width;
            high[l] = (at.height - 1 - high[l]) * at.width;
        }
        alignas(64) uninitialized<std::array<std::array<float, 4>, sampled_at_once>> colors;
        for (std::size_t l = 0; l < sampled_at_once; ++l) {
            const float across = at.across[i + l];
            const float up = at.up[i + l];
            const float from_left = 1 - across;
            const four below = texel(low[l] + left[l]) * from_left + texel(low[l] + right[l]) * across;
            const four above = texel(high[l] + left[l]) * from_left + texel(high[l] + right[l]) * across;
            const four color = below * (1 - up) + above * up;
            std::memcpy(colors[l].data(), &color, sizeof color);
        }
        for (std::size_t k = 0; k < wanted.into.size(); ++k) {
            for (std::size_t l = 0; l < sampled_at_once; ++l) {
                wanted.into[k][i + l] = colors[l][k];
            }
        }
    }
}

} // namespace yurvo::pipeline::wide
