// tile_shading's part that comes before any pixel: vertices lit at rate vertex, triangles at rate face.
#include <algorithm>
#include <memory>

#include "pipeline/tile_shading.hpp"

namespace yurvo::pipeline {

// Lights `count` points that `put(block, place in it, point)` puts into blocks, on all threads.
template <class Scalar>
template <class Put>
std::vector<outgoing<Scalar>> scene_shading<Scalar>::light_points(const prepared_object& object,
                                                                  std::size_t count, Put&& put) {
    std::vector<outgoing<Scalar>> lit(count);
    in_pieces(count, 4 * block_size, [&](std::size_t first, std::size_t last) {
        const auto points = std::make_unique<block<Scalar>>();
        reaching_lights<Scalar> lights;
        points->own_base = true;
        points->in_parts = true;
        for (std::size_t begin = first; begin < last; begin += block_size) {
            points->count = std::min(block_size, last - begin);
            for (std::size_t i = 0; i < points->count; ++i) {
                put(*points, i, begin + i);
            }
            run(*points, object, lights);
            evaluations_.fetch_add(points->count, std::memory_order_relaxed);
            for (std::size_t i = 0; i < points->count; ++i) {
                lit[begin + i] = {points->tinted.color(i), points->untinted.color(i)};
            }
        }
    });
    return lit;
}

template <class Scalar> auto scene_shading<Scalar>::light_vertices(std::size_t o) -> lit_colors {
    const prepared_object& object = objects_[o];
    // Normals turn round where the material is two-sided; a formula may ask for the facing alone.
    const auto side = [&](Scalar sign, Scalar facing) {
        return light_points(object, object.shape.positions.size(),
                            [&](block<Scalar>& points, std::size_t i, std::size_t v) {
                                const auto vertex = static_cast<std::uint32_t>(v);
                                points.position.put(i, vec3<Scalar>(object.lit_position(vertex)));
                                points.normal.put(i, normals_[vertices_.first_vertex[o] + v] * sign);
                                points.front[i] = facing;
                                points.base.put(i, object.factors.base * rgb<Scalar>(object.color(vertex)));
                            });
    };
    lit_colors lit;
    lit.front = side(1, 1);
    if (two_colors(object)) {
        lit.back = side(object.material.look.two_sided ? -1 : 1, 0);
    }
    return lit;
}

template <class Scalar> auto scene_shading<Scalar>::light_faces(std::size_t o) -> lit_colors {
    const prepared_object& object = objects_[o];
    lit_colors lit;
    lit.front = light_points(
        object, object.shape.triangles.size(), [&](block<Scalar>& points, std::size_t i, std::size_t t) {
            const triangle& corners = object.shape.triangles[t];
            const auto mean = [&](const auto& a, const auto& b, const auto& c) {
                return (a + b + c) * (1.0 / 3);
            };
            vec3<double> normal = object.face_normal(corners);
            const bool away =
                two_colors(object) && (weights(o, corners).determinant() < 0) == object.staged.mirrored;
            if (away && object.material.look.two_sided) {
                normal = -normal;
            }
            points.front[i] = static_cast<Scalar>(away ? 0 : 1);
            points.position.put(
                i, vec3<Scalar>(mean(object.lit_position(corners[0]), object.lit_position(corners[1]),
                                     object.lit_position(corners[2]))));
            points.normal.put(i, vec3<Scalar>(normal));
            points.base.put(i, object.factors.base *
                                   rgb<Scalar>(mean(object.color(corners[0]), object.color(corners[1]),
                                                    object.color(corners[2]))));
        });
    return lit;
}

template auto scene_shading<float>::light_vertices(std::size_t) -> lit_colors;
template auto scene_shading<double>::light_vertices(std::size_t) -> lit_colors;
template auto scene_shading<float>::light_faces(std::size_t) -> lit_colors;
template auto scene_shading<double>::light_faces(std::size_t) -> lit_colors;

} // namespace yurvo::pipeline
