// tile_shading's part about points: what a triangle's corners hand to its pixels.
#include <algorithm>
#include <cmath>

#include "pipeline/tile_shading.hpp"
#include "pipeline/uninitialized.hpp"
#include "pipeline/wide/turned_normal.hpp"

namespace yurvo::inline v0_1::pipeline {

namespace {

using wide::beyond_least;
using wide::beyond_most;
using wide::thin;

// Room for planes of squares that only some objects need.
template <class Scalar>
wide::square_planes* extras_in_square(shading_scratch<Scalar>& mine, const wide::attribute_layout& layout) {
    if (!layout.extras()) {
        return nullptr;
    }
    mine.extras_in_square.resize(mine.planes.size());
    return mine.extras_in_square.data();
}

} // namespace

// What the corners of a triangle hand to its pixels, by put(attribute, corner, value). Normals are the
// object's own.
template <class Scalar>
template <class Put>
void scene_shading<Scalar>::corner_attributes(shading_scratch<Scalar>& mine, std::size_t o, std::uint32_t t,
                                              bool front, Put&& put) const {
    const prepared_object& object = objects_[o];
    const triangle& corners = object.shape.triangles[t];
    const wide::attribute_layout layout = layout_of(object);
    const auto put_three = [&](std::size_t first, std::size_t k, double a, double b, double c) {
        put(first, k, a);
        put(first + 1, k, b);
        put(first + 2, k, c);
    };
    for (std::size_t k = 0; k < 3; ++k) {
        if (layout.normals) {
            const vec3<double>& n = object.shape.normals[corners[k]];
            put_three(0, k, n.x, n.y, n.z);
            if (layout.more) {
                const rgb<double>& color = object.shape.colors[corners[k]];
                put_three(wide::more_at, k, color.r, color.g, color.b);
            }
        } else {
            const bool per_vertex = from_.rate == rate::vertex;
            const outgoing<Scalar>& from =
                lit(mine, o, !per_vertex || front || !two_colors(object), per_vertex ? corners[k] : t);
            if (layout.more) {
                put_three(0, k, from.tinted.r, from.tinted.g, from.tinted.b);
                put_three(wide::more_at, k, from.untinted.r, from.untinted.g, from.untinted.b);
            } else {
                const rgb<double> sum = rgb<double>(from.tinted) + rgb<double>(from.untinted);
                put_three(0, k, sum.r, sum.g, sum.b);
            }
        }
    }
    if (!layout.textured) {
        return;
    }
    std::array<texcoord, 3> at;
    if (!object.shape.texcoords.empty()) {
        const triangle& of_texture = object.shape.texcoord_corners(t);
        at = {object.shape.texcoords[of_texture[0]], object.shape.texcoords[of_texture[1]],
              object.shape.texcoords[of_texture[2]]};
    }
    // The texture is repeated: whole times that all of the triangle is beyond it are left out, however many.
    const texcoord whole{std::floor(at[0].u), std::floor(at[0].v)};
    for (std::size_t k = 0; k < 3; ++k) {
        // Texels have their centres at half numbers.
        put(layout.texels_at(), k, (at[k].u - whole.u) * object.material.image->width - 0.5);
        put(layout.texels_at() + 1, k, (at[k].v - whole.v) * object.material.image->height - 0.5);
    }
}

// The same, normals turned to the world and to the side that is seen.
template <class Scalar>
void scene_shading<Scalar>::corner_attributes_one_by_one(shading_scratch<Scalar>& mine, std::size_t o,
                                                         std::uint32_t t, bool front,
                                                         corner_values& into) const {
    const prepared_object& object = objects_[o];
    corner_attributes(mine, o, t, front, [&](std::size_t attribute, std::size_t corner, double value) {
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
}

// A triangle with a corner behind the eye: its planes come from the whole of it in homogeneous coordinates.
template <class Scalar>
void scene_shading<Scalar>::set_planes_of_whole(shading_scratch<Scalar>& mine, wide::attribute_planes& planes,
                                                std::size_t o, std::uint32_t t) const {
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
    corner_attributes_one_by_one(mine, o, t, planes.front, values);
    const wide::attribute_layout layout = layout_of(objects_[o]);
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
    const auto least_of = [&](std::size_t attribute) {
        const std::array<double, 3>& of_it = values[attribute];
        return std::min({std::abs(of_it[0]), std::abs(of_it[1]), std::abs(of_it[2])});
    };
    for (std::size_t k = 0; !layout.normals && k < wide::first_attributes; ++k) {
        planes.least_of_first[k] = least_of(k);
    }
    for (std::size_t k = 0; layout.more && k < wide::more_attributes; ++k) {
        const std::array<double, 3>& of_it = values[wide::more_at + k];
        planes.size_of_more[k] = layout.normals
                                     ? least_of(wide::more_at + k)
                                     : std::max({std::abs(of_it[0]), std::abs(of_it[1]), std::abs(of_it[2])});
    }
    for (std::size_t i = 0; i < layout.count(); ++i) {
        planes.set(i + 1, plane(values[i][0], values[i][1], values[i][2]));
    }
    for (std::size_t i = layout.count(); layout.extras() && i < wide::most_attributes; ++i) {
        planes.set(i + 1, {}); // looked at with the others
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
    batch.layout = layout_of(object);
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
            corner_attributes(mine, o, batch.triangles[l], batch.front[l],
                              [&](std::size_t attribute, std::size_t corner, double value) {
                                  batch.values[attribute][corner][l] = value;
                              });
        }
        kernels_.attributes.set(batch);
        for (std::size_t l = 0; l < batch.count; ++l) {
            wide::attribute_planes& planes = *batch.into[l];
            if (batch.behind[l]) {
                set_planes_of_whole(mine, planes, o, batch.triangles[l]);
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
    corner_attributes_one_by_one(mine, o, t, mine.planes[run.slot].front, values);
    const wide::attribute_layout layout = layout_of(object);
    for (std::size_t l = 0; l < static_cast<std::size_t>(run.count); ++l) {
        const std::array<double, 3> w = all.at(run.x + static_cast<double>(l) + 0.5, run.y + 0.5);
        const auto blended = [&](std::size_t attribute) {
            const std::array<double, 3>& value = values[attribute];
            return static_cast<Scalar>(w[0] * value[0] + w[1] * value[1] + w[2] * value[2]);
        };
        const std::size_t i = at + l;
        const auto three = [&](std::size_t first) {
            return rgb<Scalar>(blended(first), blended(first + 1), blended(first + 2));
        };
        if (layout.normals) {
            points.position.put(i, vec3<Scalar>(object.lit_position(corners[0]) * w[0] +
                                                object.lit_position(corners[1]) * w[1] +
                                                object.lit_position(corners[2]) * w[2]));
            points.normal.put(i, vec3<Scalar>(blended(0), blended(1), blended(2)));
        } else {
            (layout.textured ? points.tinted : points.lit).put(i, three(0));
        }
        if (layout.more) {
            (layout.normals ? points.base : points.untinted).put(i, three(wide::more_at));
        }
        if (layout.textured) {
            const wide::texel_places into = texels_of(mine, object);
            const auto put_texel = [&](std::size_t coordinate, int size, std::int32_t* texel, float* left) {
                const std::array<double, 3>& value = values[layout.texels_at() + coordinate];
                const double place = w[0] * value[0] + w[1] * value[1] + w[2] * value[2];
                const double below = std::floor(place);
                const double within = below - size * std::floor(below / size);
                texel[i] = static_cast<std::int32_t>(std::clamp(within, 0.0, size - 1.0));
                left[i] = static_cast<float>(place - below);
            };
            put_texel(0, into.width, into.column, into.across);
            put_texel(1, into.height, into.row, into.up);
        }
    }
}

// The attributes of all points of a block.
template <class Scalar>
void scene_shading<Scalar>::put_points(shading_scratch<Scalar>& mine, std::size_t o) const {
    const prepared_object& object = objects_[o];
    block<Scalar>& points = mine.points;
    if (flat(object)) {
        set_flat(mine, o);
        put_flat(mine);
        return;
    }
    set_planes(mine, o);
    const auto pointers = [](lane3<Scalar>& lanes) {
        return std::array<Scalar*, 3>{lanes.x.data(), lanes.y.data(), lanes.z.data()};
    };
    uninitialized<wide::spread_request<Scalar>> request;
    request.layout = layout_of(object);
    request.planes = mine.planes.data();
    request.in_square = mine.in_square.data();
    request.extras_in_square = extras_in_square(mine, request.layout);
    request.square = mine.square.data();
    request.runs = mine.waiting.data();
    request.run_count = mine.waiting.size();
    request.points = points.count;
    request.rays = &rays_;
    request.position = pointers(points.position);
    if (request.layout.normals) {
        request.first = pointers(points.normal);
        request.more = pointers(points.base);
    } else {
        request.first = pointers(request.layout.textured ? points.tinted : points.lit);
        request.more = pointers(points.untinted);
    }
    request.texels = texels_of(mine, object);
    if constexpr (std::is_same_v<Scalar, float>) {
        kernels_.attributes.spread(request);
    } else {
        kernels_.attributes.spread_double(request);
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
    if (request.layout.normals) {
        move_for_light(points, object);
    }
    tint(mine, object);
}

// The points of a whole square, whose pieces are shown; false where a triangle in it has to go pixel by
// pixel.
template <class Scalar>
bool scene_shading<Scalar>::put_square(shading_scratch<float>& mine, std::size_t o, int x, int y,
                                       const pixel_target& into) const {
    if constexpr (std::is_same_v<Scalar, float>) {
        const prepared_object& object = objects_[o];
        block<float>& points = mine.points;
        points.count = block_size;
        points.between_vertices = true;
        const auto pointers = [](lane3<float>& lanes) {
            return std::array<float*, 3>{lanes.x.data(), lanes.y.data(), lanes.z.data()};
        };
        if (flat(object)) {
            set_flat(mine, o);
            kernels_.attributes.flat_square({mine.shown_triangles.data(), mine.shown_count,
                                             mine.shown_pieces.data(), mine.flat.data(),
                                             pointers(points.lit)});
            return true;
        }
        set_planes(mine, o);
        if (mine.any_one_by_one) {
            return false;
        }
        uninitialized<wide::square_request> request;
        request.planes = mine.planes.data();
        request.in_square = mine.in_square.data();
        request.extras_in_square = extras_in_square(mine, layout_of(object));
        request.square = mine.square.data();
        request.triangles = mine.shown_triangles.data();
        request.triangle_count = mine.shown_count;
        request.pieces = mine.shown_pieces.data();
        request.x = x;
        request.y = y;
        request.rays = &rays_;
        request.layout = layout_of(object);
        lane3<float>& first = request.layout.normals    ? points.normal
                              : request.layout.textured ? points.tinted
                                                        : points.lit;
        request.into = {first.x.data(),           first.y.data(),           first.z.data(),
                        points.position.x.data(), points.position.y.data(), points.position.z.data()};
        request.more = pointers(request.layout.normals ? points.base : points.untinted);
        request.texels = texels_of(mine, object);
        request.rgba = into.at(x, y);
        request.pitch = 4 * into.width;
        kernels_.attributes.spread_square(request);
        points.own_base = request.layout.extras();
        if (request.layout.normals) {
            move_for_light(points, object);
        }
        tint(mine, object);
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

template void scene_shading<float>::put_points(shading_scratch<float>&, std::size_t) const;
template void scene_shading<double>::put_points(shading_scratch<double>&, std::size_t) const;
template bool scene_shading<float>::put_square(shading_scratch<float>&, std::size_t, int, int,
                                               const pixel_target&) const;

} // namespace yurvo::inline v0_1::pipeline
