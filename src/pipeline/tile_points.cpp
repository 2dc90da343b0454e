// tile_shading's part about points: what a triangle's corners hand to its pixels.
#include <algorithm>
#include <cmath>

#include "pipeline/tile_shading.hpp"
#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/turned_normal.hpp"

namespace yurvo::pipeline {

namespace {

// In the order of the corners' attributes at rate fragment.
constexpr std::size_t normal_attributes = 3;
constexpr std::size_t color_attributes = 3;

using wide::beyond_least;
using wide::beyond_most;
using wide::thin;

} // namespace

// What the corners of a triangle hand to its pixels, by put(attribute, corner, value); how many numbers each.
// Normals are the object's own.
template <class Scalar>
template <class Put>
std::size_t scene_shading<Scalar>::corner_attributes(std::size_t o, std::uint32_t t, bool front,
                                                     Put&& put) const {
    const prepared_object& object = objects_[o];
    const triangle& corners = object.shape.triangles[t];
    std::size_t count = 0;
    for (std::size_t k = 0; k < 3; ++k) {
        count = 0;
        const auto put_three = [&](double a, double b, double c) {
            put(count, k, a);
            put(count + 1, k, b);
            put(count + 2, k, c);
            count += 3;
        };
        if (from_.rate == rate::fragment) {
            const vec3<double>& n = object.shape.normals[corners[k]];
            put_three(n.x, n.y, n.z);
            if (!object.shape.colors.empty()) {
                const rgb<double>& color = object.shape.colors[corners[k]];
                put_three(color.r, color.g, color.b);
            }
        } else if (from_.rate == rate::vertex) {
            const bool back = two_colors(object) && !front;
            const outgoing<Scalar>& lit = (back ? lit_[o].back : lit_[o].front)[corners[k]];
            if (object.material.image) {
                put_three(lit.tinted.r, lit.tinted.g, lit.tinted.b);
                put_three(lit.untinted.r, lit.untinted.g, lit.untinted.b);
            } else {
                const rgb<double> sum = rgb<double>(lit.tinted) + rgb<double>(lit.untinted);
                put_three(sum.r, sum.g, sum.b);
            }
        }
        if (object.material.image) {
            const texcoord at = object.shape.texcoords.empty()
                                    ? texcoord{}
                                    : object.shape.texcoords[object.shape.texcoord_corners(t)[k]];
            put(count, k, at.u);
            put(count + 1, k, at.v);
            count += 2;
        }
    }
    return count;
}

// The same, normals turned to the world and to the side that is seen.
template <class Scalar>
std::size_t scene_shading<Scalar>::corner_attributes_one_by_one(std::size_t o, std::uint32_t t, bool front,
                                                                corner_values& into) const {
    const prepared_object& object = objects_[o];
    const std::size_t count =
        corner_attributes(o, t, front, [&](std::size_t attribute, std::size_t corner, double value) {
            into[attribute][corner] = value;
        });
    if (from_.rate == rate::fragment) {
        const double sign = object.material.look.two_sided && !front ? -1 : 1;
        for (std::size_t k = 0; k < 3; ++k) {
            const vec3<double> unit =
                wide::turned_normal(object.normal_to_world, {into[0][k], into[1][k], into[2][k]}) * sign;
            into[0][k] = unit.x;
            into[1][k] = unit.y;
            into[2][k] = unit.z;
        }
    }
    return count;
}

// A triangle with a corner behind the eye: its planes come from the whole of it in homogeneous coordinates.
template <class Scalar>
void scene_shading<Scalar>::set_planes_of_whole(wide::attribute_planes& planes, std::size_t o,
                                                std::uint32_t t) const {
    const wide::object_view& view = vertices_.objects[o];
    const triangle& corners = view.triangles[t];
    uninitialized<corner_values> values;
    const auto corner = [&](std::size_t k) {
        return wide::homogeneous_corner(view.to_pixels, view.positions[corners[k]]);
    };
    const std::array<homogeneous, 3> at{corner(0), corner(1), corner(2)};
    const std::array<vec3<double>, 3> rows{cross(at[1], at[2]), cross(at[2], at[0]), cross(at[0], at[1])};
    const double determinant = dot(at[0], rows[0]);
    planes.front = (determinant < 0) != view.mirrored;
    const std::size_t count = corner_attributes_one_by_one(o, t, planes.front, values);
    planes.x = 0;
    planes.y = 0;
    planes.few_pixels = false;
    const double nearest = std::min({at[0].z, at[1].z, at[2].z});
    planes.least = beyond_least / std::max({at[0].z, at[1].z, at[2].z});
    planes.most =
        nearest >= from_.seen_from.near ? beyond_most / nearest : std::numeric_limits<double>::infinity();
    const auto plane = [&](double at_a, double at_b, double at_c) {
        const vec3<double> sum =
            rows[0] * (at_a / determinant) + rows[1] * (at_b / determinant) + rows[2] * (at_c / determinant);
        return wide::plane_over_pixels{sum.z, sum.x, sum.y};
    };
    const wide::plane_over_pixels inverse_depth = plane(1, 1, 1);
    planes.set(0, inverse_depth);
    for (std::size_t i = 0; i < count; ++i) {
        planes.set(i + 1, plane(values[i][0], values[i][1], values[i][2]));
    }
    // Seen edge-on (the eye all but in its plane), as above.
    const double slope = std::hypot(inverse_depth.across, inverse_depth.down);
    planes.one_by_one = !std::isfinite(slope) || !std::isfinite(inverse_depth.at);
    const double across = std::min(planes.most, 1 / from_.seen_from.near) / std::max(slope, 1e-300);
    planes.one_by_one = planes.one_by_one || across < thin;
}

// The planes of triangles that are new in the block.
template <class Scalar>
void scene_shading<Scalar>::set_planes(shading_scratch<Scalar>& mine, std::size_t o) const {
    const prepared_object& object = objects_[o];
    wide::plane_batch& batch = mine.batch;
    batch.object = &vertices_.objects[o];
    batch.normals = from_.rate == rate::fragment;
    batch.two_sided = object.material.look.two_sided;
    batch.normal_to_world = object.normal_to_world;
    for (std::size_t begin = 0; begin < mine.to_set.size(); begin += wide::planes_at_once) {
        batch.count = std::min(wide::planes_at_once, mine.to_set.size() - begin);
        const std::uint16_t* const slots = mine.to_set.data() + begin;
        for (std::size_t l = 0; l < batch.count; ++l) {
            batch.triangles[l] = mine.triangles[slots[l]];
            batch.into[l] = &mine.planes[slots[l]];
        }
        kernels_.attributes.place(batch);
        for (std::size_t l = 0; l < batch.count; ++l) {
            batch.attributes =
                corner_attributes(o, batch.triangles[l], batch.front[l],
                                  [&](std::size_t attribute, std::size_t corner, double value) {
                                      batch.values[attribute][corner][l] = value;
                                  });
        }
        kernels_.attributes.set(batch);
        for (std::size_t l = 0; l < batch.count; ++l) {
            wide::attribute_planes& planes = *batch.into[l];
            if (batch.behind[l]) {
                set_planes_of_whole(planes, o, batch.triangles[l]);
            }
            mine.square[slots[l]] =
                planes.few_pixels || planes.one_by_one ? wide::always_doubles : wide::no_square;
            mine.any_one_by_one = mine.any_one_by_one || planes.one_by_one;
        }
    }
}

// Pixel by pixel, with weights that are brought back into a triangle thinner than the snap.
template <class Scalar>
void scene_shading<Scalar>::put_run_one_by_one(shading_scratch<Scalar>& mine, std::size_t o,
                                               const wide::pixel_run& run, std::size_t at) const {
    const prepared_object& object = objects_[o];
    block<Scalar>& points = mine.points;
    const std::uint32_t t = mine.triangles[run.slot];
    const triangle& corners = object.shape.triangles[t];
    const triangle_weights all = weights(o, corners);
    uninitialized<corner_values> values;
    corner_attributes_one_by_one(o, t, mine.planes[run.slot].front, values);
    for (std::size_t l = 0; l < static_cast<std::size_t>(run.count); ++l) {
        const std::array<double, 3> w = all.at(run.x + static_cast<double>(l) + 0.5, run.y + 0.5);
        const auto blended = [&](std::size_t attribute) {
            const std::array<double, 3>& value = values[attribute];
            return static_cast<Scalar>(w[0] * value[0] + w[1] * value[1] + w[2] * value[2]);
        };
        const std::size_t i = at + l;
        if (from_.rate == rate::fragment) {
            points.position.put(i, vec3<Scalar>(object.lit_position(corners[0]) * w[0] +
                                                object.lit_position(corners[1]) * w[1] +
                                                object.lit_position(corners[2]) * w[2]));
            points.normal.put(i, vec3<Scalar>(blended(0), blended(1), blended(2)));
            if (!object.shape.colors.empty()) {
                points.base.put(i, rgb<Scalar>(blended(3), blended(4), blended(5)));
            }
        } else if (from_.rate == rate::vertex) {
            const rgb<Scalar> first(blended(0), blended(1), blended(2));
            if (object.material.image) {
                points.tinted.put(i, first);
                points.untinted.put(i, rgb<Scalar>(blended(3), blended(4), blended(5)));
            } else {
                points.lit.put(i, first);
            }
        }
    }
}

// The attributes of all points of a block.
template <class Scalar>
void scene_shading<Scalar>::put_points(shading_scratch<Scalar>& mine, std::size_t o) const {
    const prepared_object& object = objects_[o];
    block<Scalar>& points = mine.points;
    const bool textured = object.material.image != nullptr;
    if (from_.rate == rate::face) {
        put_faces(mine, o);
        if (!textured) {
            return; // nothing is spread
        }
    }
    set_planes(mine, o);
    if (from_.rate != rate::face) {
        uninitialized<wide::spread_request<Scalar>> request;
        request.planes = mine.planes.data();
        request.runs = mine.waiting.data();
        request.run_count = mine.waiting.size();
        request.points = points.count;
        const auto into = [&](lane3<Scalar>& lanes) {
            request.into[request.attributes++] = lanes.x.data();
            request.into[request.attributes++] = lanes.y.data();
            request.into[request.attributes++] = lanes.z.data();
        };
        if (from_.rate == rate::fragment) {
            into(points.normal);
            if (!object.shape.colors.empty()) {
                into(points.base);
            }
            request.rays = &rays_;
            request.in_square = request.attributes == normal_attributes ? mine.in_square.data() : nullptr;
            request.square = mine.square.data();
            request.position = {points.position.x.data(), points.position.y.data(), points.position.z.data()};
        } else {
            if (textured) {
                into(points.tinted);
                into(points.untinted);
            } else {
                into(points.lit);
            }
        }
        if constexpr (std::is_same_v<Scalar, float>) {
            kernels_.attributes.spread(request);
        } else {
            kernels_.attributes.spread_double(request);
        }
    }
    if (mine.any_one_by_one) {
        std::size_t at = 0;
        for (const wide::pixel_run& run : mine.waiting) {
            if (mine.planes[run.slot].one_by_one) {
                put_run_one_by_one(mine, o, run, at);
            }
            at += static_cast<std::size_t>(run.count);
        }
    }
    if (from_.rate == rate::fragment) {
        move_for_light(points, object);
    }
    if (points.own_base || textured) {
        std::size_t at = 0;
        for (const wide::pixel_run& run : mine.waiting) {
            tint_run(mine, o, run, at);
            at += static_cast<std::size_t>(run.count);
        }
    }
}

// The points of a whole square, whose pieces are shown; false where a triangle in it has to go pixel by
// pixel.
template <class Scalar>
bool scene_shading<Scalar>::put_square(shading_scratch<float>& mine, std::size_t o, int x, int y,
                                       const pixel_target& into) const {
    if constexpr (std::is_same_v<Scalar, float>) {
        set_planes(mine, o);
        if (mine.any_one_by_one) {
            return false;
        }
        block<float>& points = mine.points;
        points.count = block_size;
        points.own_base = false;
        points.between_vertices = true;
        uninitialized<wide::square_request> request;
        request.planes = mine.planes.data();
        request.in_square = mine.in_square.data();
        request.square = mine.square.data();
        request.triangles = mine.shown_triangles.data();
        request.triangle_count = mine.shown_count;
        request.pieces = mine.shown_pieces.data();
        request.x = x;
        request.y = y;
        request.rays = &rays_;
        request.into = {points.normal.x.data(),   points.normal.y.data(),   points.normal.z.data(),
                        points.position.x.data(), points.position.y.data(), points.position.z.data()};
        request.rgba = into.at(x, y);
        request.pitch = 4 * into.width;
        kernels_.attributes.spread_square(request);
        move_for_light(points, objects_[o]);
    }
    return true;
}

// To where they are lit, which need not be where they are seen.
template <class Scalar>
void scene_shading<Scalar>::move_for_light(block<Scalar>& points, const prepared_object& object) const {
    if (!object.moved_for_light) {
        return;
    }
    for (std::size_t i = 0; i < points.count; ++i) {
        points.position.put(
            i, vec3<Scalar>(transform_point(object.to_light_place, vec3<double>(points.position.vector(i)))));
    }
}

template <class Scalar>
void scene_shading<Scalar>::put_faces(shading_scratch<Scalar>& mine, std::size_t o) const {
    block<Scalar>& points = mine.points;
    std::size_t i = 0;
    for (const wide::pixel_run& run : mine.waiting) {
        const outgoing<Scalar>& lit = lit_[o].front[mine.triangles[run.slot]];
        for (int l = 0; l < run.count; ++l) {
            points.tinted.put(i, lit.tinted);
            points.untinted.put(i, lit.untinted);
            points.lit.put(i, lit.tinted + lit.untinted);
            ++i;
        }
    }
}

// The base colours of a run at rate fragment, or its lit colours times the texture at the others.
template <class Scalar>
void scene_shading<Scalar>::tint_run(shading_scratch<Scalar>& mine, std::size_t o, const wide::pixel_run& run,
                                     std::size_t at) const {
    const prepared_object& object = objects_[o];
    block<Scalar>& points = mine.points;
    const wide::attribute_planes& planes = mine.planes[run.slot];
    const bool per_fragment = from_.rate == rate::fragment;
    const bool colored = !object.shape.colors.empty();
    // After the attributes that come before them.
    const std::size_t uv = per_fragment                 ? normal_attributes + (colored ? color_attributes : 0)
                           : from_.rate == rate::vertex ? 2 * color_attributes
                                                        : 0;
    corner_values values;
    triangle_weights all;
    if (object.material.image && planes.one_by_one) {
        const std::uint32_t t = mine.triangles[run.slot];
        corner_attributes_one_by_one(o, t, planes.front, values);
        all = weights(o, object.shape.triangles[t]);
    }
    for (std::size_t l = 0; l < static_cast<std::size_t>(run.count); ++l) {
        const std::size_t i = at + l;
        rgb<Scalar> color = per_fragment ? object.factors.base : points.tinted.color(i);
        if (per_fragment && colored) {
            color = color * points.base.color(i);
        }
        if (object.material.image) {
            const double x = run.x + static_cast<double>(l) + 0.5;
            const double y = run.y + 0.5;
            double u = 0;
            double v = 0;
            if (planes.one_by_one) {
                const std::array<double, 3> w = all.at(x, y);
                u = w[0] * values[uv][0] + w[1] * values[uv][1] + w[2] * values[uv][2];
                v = w[0] * values[uv + 1][0] + w[1] * values[uv + 1][1] + w[2] * values[uv + 1][2];
            } else {
                const auto value = [&](std::size_t index) {
                    const wide::plane_over_pixels plane = planes.plane(index);
                    return plane.at + plane.across * (x - planes.x) + plane.down * (y - planes.y);
                };
                const double depth = 1 / std::clamp(value(0), planes.least, planes.most);
                u = value(uv + 1) * depth;
                v = value(uv + 2) * depth;
            }
            color = color * rgb<Scalar>(object.material.image->sample(u, v));
        }
        if (per_fragment) {
            points.base.put(i, color);
        } else {
            points.lit.put(i, color + points.untinted.color(i));
        }
    }
}

template void scene_shading<float>::put_points(shading_scratch<float>&, std::size_t) const;
template void scene_shading<double>::put_points(shading_scratch<double>&, std::size_t) const;
template bool scene_shading<float>::put_square(shading_scratch<float>&, std::size_t, int, int,
                                               const pixel_target&) const;

} // namespace yurvo::pipeline
