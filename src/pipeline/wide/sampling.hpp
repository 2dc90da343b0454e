// sampling: colours between the texels of a texture, sixteen points at a time. Part of attributes.cpp; see
// vertices.hpp for how it is compiled.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <limits>
#include <type_traits>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/operations.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

inline constexpr std::size_t sampled_at_once = 16;
// Four or as many as a batch has, from and to anywhere.
template <class Numbers> Numbers load_numbers(const float* from) {
    if constexpr (std::is_same_v<Numbers, four_reals>) {
        four_reals result;
        std::memcpy(&result, from, sizeof result);
        return result;
    } else {
        return load_from<Numbers>(from);
    }
}
template <class Numbers> void store_numbers(const Numbers& numbers, float* to) {
    if constexpr (std::is_same_v<Numbers, four_reals>) {
        std::memcpy(to, &numbers, sizeof numbers);
    } else {
        store_to(to, numbers);
    }
}
template <class Numbers> Numbers all_of_them(float number) {
    if constexpr (std::is_same_v<Numbers, four_reals>) {
        return four_reals{number, number, number, number};
    } else {
        return Numbers(number);
    }
}
using sampled_numbers = std::array<std::int32_t, sampled_at_once>;

// Texels brought back into the texture, which is repeated, and the ones after them.
inline void repeat_texels(const std::int32_t* from, int size, sampled_numbers& texels,
                          sampled_numbers& next) {
    constexpr std::int32_t exact_as_float = 1 << 24;
    const float each = 1.0F / static_cast<float>(size);
    std::uint32_t far = 0;
    for (std::size_t l = 0; l < sampled_at_once; ++l) {
        far |= from[l] <= -exact_as_float || from[l] >= exact_as_float ? 1U : 0U;
    }
    for (std::size_t l = 0; far == 0 && l < sampled_at_once; ++l) {
        // Times the texture is passed; rounding makes it one off at the most.
        const auto times = static_cast<std::int32_t>(static_cast<float>(from[l]) * each);
        std::int32_t texel = from[l] - times * size;
        texel += texel < 0 ? size : 0;
        texels[l] = texel >= size ? texel - size : texel;
    }
    for (std::size_t l = 0; far != 0 && l < sampled_at_once; ++l) {
        const std::int32_t texel = from[l] % size;
        texels[l] = texel < 0 ? texel + size : texel;
    }
    for (std::size_t l = 0; l < sampled_at_once; ++l) {
        next[l] = texels[l] + 1 == size ? 0 : texels[l] + 1;
    }
}

// Of sixteen points the texels around each: the left ones, by the first of their three numbers, and how far
// it is to the right ones.
struct sampled_points {
    alignas(64) std::array<std::uint32_t, sampled_at_once> below, above;
    alignas(64) sampled_numbers to_right;
    bool plain; // the right ones come next, and eight numbers from the left ones on are the texture's
};
// Wherever they are.
inline void find_repeated_texels(const texel_places& at, std::size_t i, sampled_points& into) {
    const std::int32_t many = at.width * at.height - 2;
    std::uint32_t others = 0;
    alignas(64) uninitialized<sampled_numbers> left;
    alignas(64) uninitialized<sampled_numbers> right;
    alignas(64) uninitialized<sampled_numbers> low;
    alignas(64) uninitialized<sampled_numbers> high;
    repeat_texels(at.column + i, at.width, left, right);
    repeat_texels(at.row + i, at.height, low, high);
    for (std::size_t l = 0; l < sampled_at_once; ++l) {
        const std::int32_t below = (at.height - 1 - low[l]) * at.width + left[l];
        const std::int32_t above = (at.height - 1 - high[l]) * at.width + left[l];
        into.below[l] = 3 * static_cast<std::uint32_t>(below);
        into.above[l] = 3 * static_cast<std::uint32_t>(above);
        into.to_right[l] = 3 * (right[l] - left[l]);
        others |= right[l] != left[l] + 1 || below >= many || above >= many ? 1U : 0U;
    }
    into.plain = others == 0;
}

inline void find_texels(const texel_places& at, std::size_t i, sampled_points& into) {
    // Inside the texture, most often, and not in its last row: then all follows from one of the four.
    const auto width = static_cast<std::uint32_t>(at.width);
    const auto height = static_cast<std::uint32_t>(at.height);
    std::uint32_t outside = 0;
    for (std::size_t l = 0; l < sampled_at_once; ++l) {
        const std::int32_t column = at.column[i + l];
        const std::int32_t row = at.row[i + l];
        const auto below =
            (height - 1 - static_cast<std::uint32_t>(row)) * width + static_cast<std::uint32_t>(column);
        into.below[l] = 3 * below;
        into.above[l] = 3 * (below - width);
        outside |= column < 0 || row < 1 || column >= at.width - 1 || row >= at.height - 1 ? 1U : 0U;
    }
    into.plain = outside == 0; // no texture of one column has a place inside
    if (!into.plain) {
        find_repeated_texels(at, i, into);
    }
}

template <bool Times, bool Plus> void sample_of(const sample_request& request) {
    const sample_request wanted = request; // what is stored must not be taken for it
    for (std::size_t l = wanted.count; l % sampled_at_once != 0; ++l) { // looked up with the others
        wanted.at.column[l] = 0;
        wanted.at.row[l] = 0;
    }
    const float* const numbers = &wanted.texels->r;
    const std::int64_t all = std::int64_t{3} * wanted.at.width * wanted.at.height;
    // What is asked for beside the texture's colour: of some numbers from the i-th point on.
    const auto put = [&](const auto& sampled, std::size_t k, std::size_t i) __attribute__((always_inline)) {
        using numbers_of = std::remove_cvref_t<decltype(sampled)>;
        numbers_of color = sampled * all_of_them<numbers_of>(wanted.factor[k]);
        if constexpr (Times) {
            color *= load_numbers<numbers_of>(wanted.times[k] + i);
        }
        if constexpr (Plus) {
            color += load_numbers<numbers_of>(wanted.plus[k] + i);
        }
        store_numbers(color, wanted.into[k] + i);
    };
    const bool in_rows = close_at_once && wanted.at.width >= 2 && wanted.at.height >= 3 &&
                         all <= std::numeric_limits<std::int32_t>::max();
    for (std::size_t i = 0; i < wanted.count; i += sampled_at_once) {
        if (in_rows) {
            uninitialized<std::array<real, 3>> colors;
            if (blend_close_texels({numbers, wanted.at.width, wanted.at.height, wanted.at.column + i,
                                    wanted.at.row + i, wanted.at.across + i, wanted.at.up + i},
                                   colors)) {
                for_each_number<3>([&](auto k) __attribute__((always_inline)) { put(colors[k], k, i); });
                continue;
            }
        }
        uninitialized<sampled_points> points;
        find_texels(wanted.at, i, points);
        alignas(64) uninitialized<std::array<float, 4 * sampled_at_once>> colors;
        for (std::size_t l = 0; points.plain && l < sampled_at_once; ++l) {
            blend_texels(numbers + points.below[l], numbers + points.above[l], wanted.at.across[i + l],
                         wanted.at.up[i + l], colors.data() + 4 * l);
        }
        for (std::size_t l = 0; !points.plain && l < sampled_at_once; ++l) {
            alignas(32) std::array<float, 8> below{}; // texels side by side
            alignas(32) std::array<float, 8> above{};
            for (std::size_t k = 0; k < 3; ++k) {
                const float* const low = numbers + points.below[l] + k;
                const float* const high = numbers + points.above[l] + k;
                below[k] = *low;
                above[k] = *high;
                below[3 + k] = low[points.to_right[l]];
                above[3 + k] = high[points.to_right[l]];
            }
            blend_texels(below.data(), above.data(), wanted.at.across[i + l], wanted.at.up[i + l],
                         colors.data() + 4 * l);
        }
        // Four points at a time: what was stored as fours is not to be waited for as sixteens.
        for (std::size_t l = 0; l < sampled_at_once; l += 4) {
            const std::array<four_reals, 3> components = take_four(colors.data() + 4 * l);
            for (std::size_t k = 0; k < components.size(); ++k) {
                put(components[k], k, i + l);
            }
        }
    }
}

inline void sample(const sample_request& request) {
    if (request.plus[0] != nullptr) {
        sample_of<true, true>(request);
    } else if (request.times[0] != nullptr) {
        sample_of<true, false>(request);
    } else {
        sample_of<false, false>(request);
    }
}

} // namespace yurvo::inline v0_1::pipeline::wide
