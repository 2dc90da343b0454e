#include "yurvo/pipeline/visibility.hpp"

#include <algorithm>
#include <cmath>

#include <Eigen/LU>

#include "yurvo/pipeline/interpolation.hpp"

namespace yurvo::pipeline {

projected project_vertices(const stage& from) {
    projected made;
    made.first_triangle.push_back(0);
    for (const staged_object& object : from.objects) {
        // The eye is taken off the translation before any point is moved, so that what is near keeps its
        // digits.
        matrix4 from_eye = object.to_world;
        from_eye(0, 3) -= from.seen_from.eye.x;
        from_eye(1, 3) -= from.seen_from.eye.y;
        from_eye(2, 3) -= from.seen_from.eye.z;
        std::vector<homogeneous>& corners = made.corners.emplace_back();
        corners.reserve(object.shape->positions.size());
        for (const vec3<double>& position : object.shape->positions) {
            corners.push_back(from.seen_from.to_pixels(transform_point(from_eye, position)));
        }
        const std::size_t count = object.field ? 1 : object.shape->triangles.size();
        made.first_triangle.push_back(made.first_triangle.back() + static_cast<std::uint32_t>(count));
    }
    return made;
}

namespace {

// True where no part of a triangle can be in the picture.
bool outside(const homogeneous& a, const homogeneous& b, const homogeneous& c, const camera& seen_from) {
    const auto all = [&](auto&& beyond) { return beyond(a) && beyond(b) && beyond(c); };
    const double width = seen_from.width;
    const double height = seen_from.height;
    // A pixel's width of room for what snapping moves.
    return all([&](const homogeneous& p) { return p.z < seen_from.near; }) ||
           all([&](const homogeneous& p) { return p.z > seen_from.far; }) ||
           all([&](const homogeneous& p) { return p.x < -p.z; }) ||
           all([&](const homogeneous& p) { return p.x > (width + 1) * p.z; }) ||
           all([&](const homogeneous& p) { return p.y < -p.z; }) ||
           all([&](const homogeneous& p) { return p.y > (height + 1) * p.z; });
}

// The pixels that a field can be seen at: those around its box.
struct pixel_box {
    int left = 0, top = 0, right = 0, bottom = 0; // half-open
};

pixel_box pixels_around(const staged_object& object, const camera& seen_from) {
    const bounds box = bounds_of(*object.field);
    const pixel_box whole{0, 0, seen_from.width, seen_from.height};
    double low_x = seen_from.width;
    double low_y = seen_from.height;
    double high_x = 0;
    double high_y = 0;
    for (unsigned corner = 0; corner < 8; ++corner) {
        const vec3<double> at{(corner & 1U) != 0 ? box.high.x : box.low.x,
                              (corner & 2U) != 0 ? box.high.y : box.low.y,
                              (corner & 4U) != 0 ? box.high.z : box.low.z};
        const homogeneous p = seen_from.to_pixels(transform_point(object.to_world, at) - seen_from.eye);
        if (p.z < seen_from.near) {
            return whole;
        }
        low_x = std::min(low_x, p.x / p.z);
        low_y = std::min(low_y, p.y / p.z);
        high_x = std::max(high_x, p.x / p.z);
        high_y = std::max(high_y, p.y / p.z);
    }
    const auto within = [](double value, int most) {
        return static_cast<int>(std::clamp(value, 0.0, 1.0 * most));
    };
    return {within(std::floor(low_x) - 1, whole.right), within(std::floor(low_y) - 1, whole.bottom),
            within(std::ceil(high_x) + 1, whole.right), within(std::ceil(high_y) + 1, whole.bottom)};
}

} // namespace

field_rays::field_rays(const staged_object& object, const camera& seen_from_)
    : of(*object.field),
      seen_from(seen_from_),
      to_object(object.to_world.inverse()),
      from(transform_point(to_object, seen_from.eye)) {}

vec3<double> field_rays::along(double x, double y) const {
    return transform_direction(to_object.topLeftCorner<3, 3>(), seen_from.ray(x, y));
}

std::optional<double> field_rays::meet(double x, double y) const {
    return march(of, from, along(x, y), seen_from.near, seen_from.far);
}

visibility find_visible(const stage& from, const projected& vertices) {
    const camera& seen_from = from.seen_from;
    visibility found;
    found.width = seen_from.width;
    found.height = seen_from.height;
    const auto pixels = static_cast<std::size_t>(found.width) * static_cast<std::size_t>(found.height);
    // Near and far are held pixel by pixel: farther than far loses against an empty pixel, and nearer than
    // near is left out below. Cutting the triangle only keeps what is behind the eye from being projected.
    const float nearest = static_cast<float>(1 / seen_from.near);
    const float empty = std::nextafter(static_cast<float>(1 / seen_from.far), 0.0F);
    const double cut_at = seen_from.near * (1 - 0x1p-10);
    found.nearness.assign(pixels, empty);
    found.triangles.assign(pixels, visibility::nothing);
    for (std::size_t o = 0; o < from.objects.size(); ++o) {
        if (from.objects[o].field) {
            const field_rays rays(from.objects[o], seen_from);
            const pixel_box box = pixels_around(from.objects[o], seen_from);
            for (int y = box.top; y < box.bottom; ++y) {
                for (int x = box.left; x < box.right; ++x) {
                    const std::optional<double> depth = rays.meet(x + 0.5, y + 0.5);
                    const std::size_t at =
                        static_cast<std::size_t>(y) * static_cast<std::size_t>(found.width) +
                        static_cast<std::size_t>(x);
                    const float nearness = depth ? static_cast<float>(1 / *depth) : 0.0F;
                    if (nearness > found.nearness[at]) {
                        found.nearness[at] = nearness;
                        found.triangles[at] = vertices.first_triangle[o];
                    }
                }
            }
            continue;
        }
        const mesh& shape = *from.objects[o].shape;
        const std::vector<homogeneous>& corners = vertices.corners[o];
        for (std::size_t t = 0; t < shape.triangles.size(); ++t) {
            const triangle& corner = shape.triangles[t];
            const homogeneous& a = corners[corner[0]];
            const homogeneous& b = corners[corner[1]];
            const homogeneous& c = corners[corner[2]];
            depth_plane plane;
            if (outside(a, b, c, seen_from) || !plane.set(a, b, c, seen_from.near)) {
                continue;
            }
            const std::uint32_t id = vertices.first_triangle[o] + static_cast<std::uint32_t>(t);
            cover_clipped(a, b, c, cut_at, found.width, found.height, [&](int y, int begin, int end) {
                const std::size_t row = static_cast<std::size_t>(y) * static_cast<std::size_t>(found.width);
                for (int x = begin; x < end; ++x) {
                    const float nearness = plane.at(x + 0.5, y + 0.5);
                    const std::size_t at = row + static_cast<std::size_t>(x);
                    if (nearness > found.nearness[at] && nearness <= nearest) {
                        found.nearness[at] = nearness;
                        found.triangles[at] = id;
                    }
                }
            });
        }
    }
    return found;
}

} // namespace yurvo::pipeline
