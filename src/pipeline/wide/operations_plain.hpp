// operations_plain: what an instruction set may have an instruction for, written without any. operations.hpp
// takes each operation from the set's own file, or from here where it has none.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/batches.hpp"
#include "pipeline/wide/coverage.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

// Eight doubles side by side.
using eight_reals = std::array<wide_real, 8 / lanes_of<wide_real>>;

// Four floats, whatever the set: the compilers' own vectors.
using four_reals = float __attribute__((vector_size(16)));

// Where sixteen points are in a texture of at least two columns and three rows, whose numbers a std::int32_t
// counts: as in texel_places, from one of its points on.
struct close_texels {
    const float* texels = nullptr;
    std::int32_t width = 0, height = 0;
    const std::int32_t* column = nullptr;
    const std::int32_t* row = nullptr;
    const float* across = nullptr;
    const float* up = nullptr;
};

namespace plain {

// A bit for each lane of a comparison of whole numbers.
template <class Mask> std::uint32_t bits_of(const Mask& mask) {
    if constexpr (std::is_same_v<Mask, bool>) {
        return mask ? 1 : 0;
    } else {
        std::array<bool, lanes_of<whole>> each{};
        mask.store_unaligned(each.data());
        std::uint32_t bits = 0;
        for (std::size_t l = 0; l < each.size(); ++l) {
            bits |= static_cast<std::uint32_t>(each[l]) << l;
        }
        return bits;
    }
}

// a · b + c, rounded once where the instruction set can.
template <several Batch> Batch multiply_add(const Batch& a, const Batch& b, const Batch& c) {
    return xsimd::fma(a, b, c);
}

// Eight floats: a · factor + c. All begin at a multiple of 32 bytes.
inline void multiply_add_eight(const float* a, float factor, const float* c, float* to) {
    for (std::size_t i = 0; i < 8; ++i) {
        to[i] = wide::multiply_add(a[i], factor, c[i]);
    }
}

// 1 / number.
template <class Number> Number inverse(const Number& number) { return Number(1) / number; }

// Rounded to floats, anywhere in memory.
inline void store_rounded(float* to, const wide_real& numbers) {
    alignas(64) uninitialized<std::array<double, lanes_of<wide_real>>> all;
    store_lanes(all.data(), numbers);
    for (const double number : all) {
        *to++ = static_cast<float>(number);
    }
}

// As many floats as doubles have lanes.
inline wide_real widened(const float* from) {
    alignas(64) uninitialized<std::array<double, lanes_of<wide_real>>> all;
    for (double& number : all) {
        number = *from++;
    }
    return load_lanes<wide_real>(all.data());
}

inline real rounded(const wide_reals& numbers) {
    alignas(64) uninitialized<std::array<float, lanes_of<real>>> narrow;
    for (std::size_t i = 0; i < numbers.size(); ++i) {
        plain::store_rounded(narrow.data() + i * lanes_of<wide_real>, numbers[i]);
    }
    return load_lanes<real>(narrow.data());
}

// Doubles that are whole numbers; beyond what 32 bits hold, any number.
inline void store_whole(std::int32_t* to, const wide_real& numbers) {
    alignas(64) uninitialized<std::array<double, lanes_of<wide_real>>> all;
    store_lanes(all.data(), numbers);
    for (const double number : all) {
        constexpr double most = 2147483520; // the last float before 2^31
        const double held = number > -most ? (number < most ? number : most) : -most;
        *to++ = static_cast<std::int32_t>(held);
    }
}
inline whole whole_of(const wide_reals& numbers) {
    alignas(64) uninitialized<std::array<std::int32_t, lanes_of<whole>>> all;
    for (std::size_t i = 0; i < numbers.size(); ++i) {
        plain::store_whole(all.data() + i * lanes_of<wide_real>, numbers[i]);
    }
    return load_lanes<whole>(all.data());
}

// Four doubles and four more, anywhere in memory.
inline eight_reals both(const double* a, const double* b) {
    uninitialized<eight_reals> result;
    for (std::size_t i = 0; i < result.size(); ++i) {
        const std::size_t from = i * lanes_of<wide_real>;
        result[i] = load_from<wide_real>(from < 4 ? a + from : b + (from - 4));
    }
    return result;
}

// Of a cell's pixels, its part `part`, those whose bits are set.
[[gnu::always_inline]] inline auto among_pixels(std::uint32_t pixels, std::size_t part) {
    alignas(64) static constexpr auto bits = [] {
        std::array<std::int32_t, cell_pixels> result{};
        for (unsigned i = 0; i < cell_pixels; ++i) {
            result[i] = static_cast<std::int32_t>(1U << i);
        }
        return result;
    }();
    return (whole(static_cast<std::int32_t>(pixels)) &
            load_lanes<whole>(bits.data() + part * lanes_of<whole>)) != whole(0);
}

// Puts numbers there.
[[gnu::always_inline]] inline void store_where(std::uint32_t pixels, std::size_t part, const whole& numbers,
                                               std::int32_t* cell_of) {
    std::int32_t* const to = cell_of + part * lanes_of<whole>;
    store_lanes(to, choose(among_pixels(pixels, part), numbers, load_lanes<whole>(to)));
}
[[gnu::always_inline]] inline void store_where(std::uint32_t pixels, std::size_t part, const real& numbers,
                                               float* cell_of) {
    float* const to = cell_of + part * lanes_of<real>;
    const whole there = same_bits<whole>(load_lanes<real>(to));
    store_lanes(to, same_bits<real>(choose(among_pixels(pixels, part), same_bits<whole>(numbers), there)));
}

// Infinities may meet zeros on the way when lights are beyond all measure; a picture holds no NaN.
inline void put_one(const color_lanes& lit, float alpha, std::size_t i, float* to) {
    for (std::size_t k = 0; k < 3; ++k) {
        const float value = lit[k][i];
        to[k] = value == value ? value : 0.0F;
    }
    to[3] = alpha;
}

// A colour between four texels, of which two lie side by side, of three numbers each; eight numbers may be
// read from either row, and four are put, the last of which is of no use.
inline void blend_texels(const float* below, const float* above, float across, float up, float* to) {
    for (std::size_t k = 0; k < 3; ++k) {
        const float left = wide::multiply_add(above[k] - below[k], up, below[k]);
        const float right = wide::multiply_add(above[3 + k] - below[3 + k], up, below[3 + k]);
        to[k] = wide::multiply_add(right - left, across, left);
    }
    to[3] = 0;
}

// Four times four numbers, the first three of each apart; `from` begins at a multiple of 16 bytes.
inline std::array<four_reals, 3> take_four(const float* from) {
    std::array<four_reals, 3> result;
    for (std::size_t k = 0; k < 3; ++k) {
        result[k] = four_reals{from[k], from[4 + k], from[8 + k], from[12 + k]};
    }
    return result;
}

// Four pixels, from the i-th on, to anywhere in memory; no NaN.
inline void put_four(const color_lanes& lit, float alpha, std::size_t i, float* to) {
    for (std::size_t l = 0; l < 4; ++l) {
        put_one(lit, alpha, i + l, to + 4 * l);
    }
}

} // namespace plain
} // namespace yurvo::inline v0_1::pipeline::wide
