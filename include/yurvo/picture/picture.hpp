// picture: linear colours and alpha in memory, top row first.
#pragma once

#include <cstddef>
#include <vector>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/picture/pixel_allocator.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Linear RGB, unbounded, and straight alpha, 0 to 1; four floats a pixel, row by row from the top left.
struct picture {
    int width = 0, height = 0; ///< pixels
    /// resize() leaves new values unwritten; the constructor below writes all.
    std::vector<float, pixel_allocator<float>> values;

    picture() = default;
    /// A picture of one colour. width, height ≥ 1.
    picture(int width_, int height_, const rgb<float>& color = {}, float alpha = 1);

    /// Where the pixel's red stands in `values`.
    [[nodiscard]] std::size_t index(int x, int y) const {
        return 4 *
               (static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x));
    }
    /// Of the pixel, linear.
    [[nodiscard]] rgb<float> color(int x, int y) const {
        const std::size_t i = index(x, y);
        return {values[i], values[i + 1], values[i + 2]};
    }
    /// Of the pixel, 0 to 1.
    [[nodiscard]] float alpha(int x, int y) const { return values[index(x, y) + 3]; }
    /// Gives the pixel a colour and an alpha.
    void set(int x, int y, const rgb<float>& color, float alpha) {
        const std::size_t i = index(x, y);
        values[i] = color.r;
        values[i + 1] = color.g;
        values[i + 2] = color.b;
        values[i + 3] = alpha;
    }
    /// How many there are.
    [[nodiscard]] std::size_t pixels() const { return values.size() / 4; }

    friend bool operator==(const picture&, const picture&) = default;
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
