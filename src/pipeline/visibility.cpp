#include "pipeline/visibility.hpp"

#include "pipeline/field_rays.hpp"
#include "pipeline/frame.hpp"
#include "pipeline/wide/kernels.hpp"

namespace yurvo::inline v0_1::pipeline {

visibility find_visible(const stage& from) { return frame().see(from); }

triangle_place place_of(const stage& from, std::uint32_t seen) {
    triangle_place at{0, seen};
    while (true) {
        const staged_object& object = from.objects[at.object];
        const auto own = static_cast<std::uint32_t>(object.field ? 1 : object.shape->triangles.size());
        if (at.triangle < own) {
            return at;
        }
        at.triangle -= own;
        ++at.object;
    }
}

pixel_matrix object_to_pixels(const matrix4& object_to_world, const camera& seen_from) {
    matrix4 from_eye = object_to_world;
    from_eye(0, 3) -= seen_from.eye.x;
    from_eye(1, 3) -= seen_from.eye.y;
    from_eye(2, 3) -= seen_from.eye.z;
    pixel_matrix result{};
    for (std::size_t column = 0; column < 4; ++column) {
        // Moving and projecting are both linear, so the columns can be projected instead of every point.
        const vec3<double> projected =
            seen_from.to_pixels({from_eye(0, column), from_eye(1, column), from_eye(2, column)});
        result[column] = projected.x;
        result[4 + column] = projected.y;
        result[8 + column] = projected.z;
    }
    return result;
}

triangle_weights weights_of(const stage& from, const triangle_place& at) {
    const staged_object& object = from.objects[at.object];
    const pixel_matrix to_pixels = object_to_pixels(object.to_world, from.seen_from);
    const triangle& corners = object.shape->triangles[at.triangle];
    const auto corner = [&](std::size_t k) {
        return wide::homogeneous_corner(to_pixels, object.shape->positions[corners[k]]);
    };
    return {corner(0), corner(1), corner(2)};
}

field_rays::field_rays(const staged_object& object, const camera& seen_from_)
    : of(*object.field), seen_from(seen_from_) {
    const matrix4 to_object = inverse(object.to_world);
    const matrix3 turn = linear_part(to_object);
    const double pixel = 2 * seen_from.tangent / seen_from.height; // metres across, 1 metre away
    from = transform_point(to_object, seen_from.eye);
    corner = transform_direction(turn, seen_from.ray(0, 0));
    across = transform_direction(turn, seen_from.axes.right * pixel);
    down = transform_direction(turn, seen_from.axes.up * -pixel);
}

double field_rays::nearest_of(int x, int y, int size) const {
    const vec3<double> middle = along(x + size / 2.0, y + size / 2.0);
    double spread = 0;
    for (const int right : {x, x + size}) {
        for (const int bottom : {y, y + size}) {
            spread = std::max(spread, length(along(right, bottom) - middle));
        }
    }
    return march_together(of, from, middle, spread, seen_from.near, seen_from.far);
}

} // namespace yurvo::inline v0_1::pipeline
