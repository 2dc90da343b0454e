// field_rays: the picture's rays in the space of a field.
#pragma once

#include <optional>

#include "pipeline/stage.hpp"

namespace yurvo::inline v0_1::pipeline {

struct field_rays {
    const field& of;
    const camera& seen_from;
    matrix4 to_object;
    matrix3 turn;      // of directions
    vec3<double> from; // the eye

    field_rays(const staged_object& object, const camera& seen_from);
    [[nodiscard]] vec3<double> along(double x,
                                     double y) const; // its length in world space is 1 along the view
    // The depth at which the ray through a place in pixels first meets the field, from `nearest` to far.
    [[nodiscard]] std::optional<double> meet(double x, double y, double nearest) const;
    // How near the field can be at most to the eye at any of the size x size pixels from (x, y) on.
    [[nodiscard]] double nearest_of(int x, int y, int size) const;
};

} // namespace yurvo::inline v0_1::pipeline
