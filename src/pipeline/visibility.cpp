#include "yurvo/pipeline/visibility.hpp"

#include <cmath>

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
        made.first_triangle.push_back(made.first_triangle.back() +
                                      static_cast<std::uint32_t>(object.shape->triangles.size()));
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

} // namespace

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
