// field_rays: the picture's rays in the space of a field.
#pragma once

#include "geometry/field_lanes.hpp"
#include "pipeline/stage.hpp"

namespace yurvo::inline v0_1::pipeline {

struct field_rays {
    const field& of;
    const camera& seen_from;
    vec3<double> from;                 // the eye
    vec3<double> corner, across, down; // a ray at the picture's corner, and what a pixel changes it by

    field_rays(const staged_object& object, const camera& seen_from);
    // Its length in world space is 1 along the view.
    [[nodiscard]] vec3<double> along(double x, double y) const {
        return {corner.x + across.x * x + down.x * y, corner.y + across.y * x + down.y * y,
                corner.z + across.z * x + down.z * y};
    }
    // Puts the ray through the centre of a pixel into a bundle of rays from the eye.
    void put(int x, int y, field_lanes::bundle& into) const {
        const vec3<double> to = along(x + 0.5, y + 0.5);
        const std::size_t lane = into.count++;
        into.along.x[lane] = to.x;
        into.along.y[lane] = to.y;
        into.along.z[lane] = to.z;
    }
    // How near the field can be at most to the eye at any of the size x size pixels from (x, y) on.
    [[nodiscard]] double nearest_of(int x, int y, int size) const;
};

} // namespace yurvo::inline v0_1::pipeline
