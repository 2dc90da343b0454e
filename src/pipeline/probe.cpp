#include "pipeline/probe.hpp"

#include "pipeline/field_rays.hpp"
#include "pipeline/interpolation.hpp"

namespace yurvo::inline v0_1::pipeline {

std::optional<seen_point> probe(const stage& from, const visibility& visible, int x, int y) {
    const std::size_t at = visible.index(x, y);
    if (visible.triangles[at] == visibility::nothing) {
        return std::nullopt;
    }
    const triangle_place seen = place_of(from, visible.triangles[at]);
    const staged_object& object = from.objects[seen.object];
    const bool two_sided = from.materials[object.material].look.two_sided;
    seen_point point;
    point.object = object.source;
    point.material = object.material;
    bool front = true;
    if (object.field) {
        const field_rays rays(object, from.seen_from);
        const vec3<double> along = rays.along(x + 0.5, y + 0.5);
        point.depth = polish(rays.of, rays.from, along, 1 / static_cast<double>(visible.inverse_depth[at]));
        const vec3<double> met = rays.from + along * point.depth;
        const vec3<double> gradient = evaluate(rays.of, met).gradient;
        point.position = transform_point(object.to_world, met);
        point.normal = normalize(transform_direction(object.normal_to_world, gradient));
        front = dot(gradient, along) < 0;
    } else {
        const triangle& corners = object.shape->triangles[seen.triangle];
        const triangle_weights weights = weights_of(from, seen);
        const std::array<double, 3> shares = weights.at(x + 0.5, y + 0.5);
        for (std::size_t k = 0; k < 3; ++k) {
            point.position =
                point.position +
                transform_point(object.to_world, object.shape->positions[corners[k]]) * shares[k];
            point.normal = point.normal + normalize(transform_direction(object.normal_to_world,
                                                                        object.shape->normals[corners[k]])) *
                                              shares[k];
        }
        point.normal = normalize(point.normal);
        point.depth = -dot(point.position - from.seen_from.eye, from.seen_from.axes.backward);
        front = (weights.determinant() < 0) != object.mirrored;
    }
    if (two_sided && !front) {
        point.normal = -point.normal;
    }
    return point;
}

} // namespace yurvo::inline v0_1::pipeline
