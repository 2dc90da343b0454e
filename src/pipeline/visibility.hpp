// visibility: which triangle is seen at each pixel, before anything is shaded.
#pragma once

#include <array>
#include <cstdint>
#include <limits>
#include <vector>

#include "pipeline/interpolation.hpp"
#include "pipeline/stage.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

struct visibility {
    static constexpr std::uint32_t nothing = std::numeric_limits<std::uint32_t>::max();

    int width = 0, height = 0;
    std::vector<float> inverse_depth;     // 1 / depth
    std::vector<std::uint32_t> triangles; // counted over all the stage's objects, or nothing

    [[nodiscard]] std::size_t index(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x);
    }
};

visibility find_visible(const stage& from);

// Which object a triangle of a visibility belongs to, and which of its own triangles it is. A field counts as
// one triangle.
struct triangle_place {
    std::size_t object = 0;
    std::uint32_t triangle = 0;
};
triangle_place place_of(const stage& from, std::uint32_t seen);

// From an object's space to homogeneous pixels, three rows. The eye is taken off the translation before any
// point is moved, so that what is near keeps its digits.
using pixel_matrix = std::array<double, 12>;
pixel_matrix object_to_pixels(const matrix4& object_to_world, const camera& seen_from);

// The weights of one of an object's triangles.
triangle_weights weights_of(const stage& from, const triangle_place& at);

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
