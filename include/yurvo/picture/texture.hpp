// texture: a picture looked up between its texels, repeated in both directions.
#pragma once

#include <cmath>
#include <cstddef>
#include <vector>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/picture/encoding.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Colours, top row first; width and height ≥ 1.
struct texture {
    int width = 1, height = 1;                        ///< texels
    std::vector<rgb<float>> texels{rgb<float>(1.0F)}; ///< row by row from the top; linear, but for codes
    /// Texels are codes of sRGB over 255, which are blended as they are and decoded then: a shader that is
    /// handed a file's codes shows its texture so.
    bool of_codes = false;

    /// Linear, bilinear, repeating; (0, 0) is the bottom left, texels have their centres at half numbers. u,
    /// v finite.
    [[nodiscard]] rgb<float> sample(double u, double v) const {
        const auto place = [](double coordinate, int size, int& first, int& second) {
            const double wrapped = (coordinate - std::floor(coordinate)) * size - 0.5;
            const double below = std::floor(wrapped);
            first = static_cast<int>(below);
            second = first + 1 >= size ? 0 : first + 1;
            if (first < 0) {
                first += size;
            } else if (first >= size) { // u so near below 1 that the product rounded up
                first = size - 1;
            }
            return static_cast<float>(wrapped - below);
        };
        int left = 0;
        int right = 0;
        int lower = 0;
        int upper = 0;
        const float across = place(u, width, left, right);
        const float up = place(v, height, lower, upper);
        const auto texel = [&](int x, int y_from_bottom) {
            return texels[static_cast<std::size_t>(height - 1 - y_from_bottom) *
                              static_cast<std::size_t>(width) +
                          static_cast<std::size_t>(x)];
        };
        const rgb<float> low = texel(left, lower) * (1 - across) + texel(right, lower) * across;
        const rgb<float> high = texel(left, upper) * (1 - across) + texel(right, upper) * across;
        const rgb<float> blended = low * (1 - up) + high * up;
        return of_codes ? decoded(blended) : blended;
    }

    /// A blend of codes, linear.
    static rgb<float> decoded(const rgb<float>& codes) {
        const auto each = [](float code) {
            return static_cast<float>(srgb_decoded(static_cast<double>(code)));
        };
        return {each(codes.r), each(codes.g), each(codes.b)};
    }

    friend bool operator==(const texture&, const texture&) = default;
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
