// visibility: which triangle is seen at each pixel, before anything is shaded.
#pragma once

#include <cstdint>
#include <limits>
#include <optional>
#include <vector>

#include "yurvo/pipeline/coverage.hpp"
#include "yurvo/pipeline/stage.hpp"

namespace yurvo::pipeline {

// The corners of every object's mesh as the picture sees them, one list for each object.
struct projected {
    std::vector<std::vector<homogeneous>> corners;
    std::vector<std::uint32_t> first_triangle; // of each object in the count over all; one more at the end
};

projected project_vertices(const stage& from);

// The picture's rays in the space of a field.
struct field_rays {
    const field& of;
    const camera& seen_from;
    matrix4 to_object;
    vec3<double> from; // the eye

    field_rays(const staged_object& object, const camera& seen_from);
    [[nodiscard]] vec3<double> along(double x,
                                     double y) const; // its length in world space is 1 along the view
    // The depth at which the ray through a place in pixels first meets the field, from near to far.
    [[nodiscard]] std::optional<double> meet(double x, double y) const;
};

struct visibility {
    static constexpr std::uint32_t nothing = std::numeric_limits<std::uint32_t>::max();

    int width = 0, height = 0;
    std::vector<float> nearness;          // 1 / depth
    std::vector<std::uint32_t> triangles; // counted over all objects, or nothing
};

visibility find_visible(const stage& from, const projected& vertices);

} // namespace yurvo::pipeline
