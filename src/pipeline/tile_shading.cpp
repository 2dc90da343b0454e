#include "tile_shading.hpp"

#include <algorithm>
#include <cmath>

#include <Eigen/LU>

namespace yurvo::pipeline {

namespace {

// In the order of the corners' attributes at rate fragment.
constexpr std::size_t normal_attributes = 3;
constexpr std::size_t color_attributes = 3;

// Thinner than this many pixels, a triangle's planes are not carried on to a centre that only the snap to
// 1/256 pixel has brought into it: the weights could then be off by more than a quarter.
constexpr double thin = 1.0 / 64;
constexpr double beyond_least = 0.5;
constexpr double beyond_most = 2;

bool all_the_same(const std::int32_t* ids) {
    std::int32_t different = 0;
    for (int i = 0; i < 16; ++i) {
        different |= ids[i] ^ ids[0];
    }
    return different == 0;
}

matrix4 from_eye(matrix4 matrix, const vec3<double>& eye) {
    matrix(0, 3) -= eye.x;
    matrix(1, 3) -= eye.y;
    matrix(2, 3) -= eye.z;
    return matrix;
}

} // namespace

template <class Scalar>
scene_shading<Scalar>::prepared_object::prepared_object(const stage& from, const staged_object& object)
    : staged(object),
      shape(*object.shape),
      material(from.materials[object.material]),
      from_eye_of_light(from_eye(object.to_world_of_light, from.seen_from.eye)),
      moved_for_light(object.to_world_of_light != object.to_world) {
    if (moved_for_light) {
        to_light_place = from_eye_of_light * from_eye(object.to_world, from.seen_from.eye).inverse();
    }
    const yurvo::material& look = material.look;
    factors.base = rgb<Scalar>(look.base);
    factors.ambient = rgb<Scalar>(look.ambient);
    factors.diffuse = rgb<Scalar>(look.diffuse);
    factors.specular = rgb<Scalar>(look.specular);
    factors.shininess = static_cast<Scalar>(look.shininess);
    factors.emission = rgb<Scalar>(look.emission);
}

// The geometric normal; a mirror's turn is mended.
template <class Scalar>
vec3<double> scene_shading<Scalar>::prepared_object::face_normal(const triangle& corners) const {
    const auto at = [&](std::size_t i) {
        return transform_point(staged.to_world, shape.positions[corners[i]]);
    };
    const vec3<double> normal = triangle_normal(at(0), at(1), at(2));
    return staged.mirrored ? -normal : normal;
}

template <class Scalar>
scene_shading<Scalar>::scene_shading(const stage& from, const shader<Scalar>& with,
                                     const projected_scene& vertices, vertex_normals<Scalar>& normals,
                                     const wide::kernels& kernels, bool skip_unreachable)
    : from_(from),
      with_(with),
      vertices_(vertices),
      normals_(normals.values.data()),
      kernels_(kernels),
      lit_(from.objects.size()),
      skip_unreachable_(skip_unreachable) {
    settings_.ambient_light = rgb<Scalar>(from.ambient_light);
    settings_.rule = from.rule;
    settings_.terms = from.terms;
    const vec3<double>& eye = from.seen_from.eye;
    eye_ = vec3<Scalar>(from.lit_eye - eye);
    for (const std::vector<light>& set : from.lights) {
        auto& ready = lights_.emplace_back();
        for (const light& light : set) {
            ready.push_back(with.prepare(light, eye));
        }
        reach_.emplace_back(set, eye);
    }
    for (const staged_object& object : from.objects) {
        objects_.emplace_back(from, object);
    }
    rays_[0] = from.seen_from.ray(0, 0);
    rays_[1] = from.seen_from.ray(1, 0) - rays_[0];
    rays_[2] = from.seen_from.ray(0, 1) - rays_[0];
}

template <class Scalar>
void scene_shading<Scalar>::run(block<Scalar>& points, const prepared_object& object,
                                std::vector<const ready_light<Scalar>*>& lights) {
    const std::size_t set = object.staged.lights;
    lights.clear();
    thread_local std::vector<unsigned char> reached;
    bool all = true;
    if constexpr (std::is_same_v<Scalar, float>) {
        const light_reach& reach = reach_[set];
        const bool by_reach = skip_unreachable_ && with_.dark_adds_nothing && reach.limited();
        const bool by_side = skip_unreachable_ && with_.behind_adds_nothing && !lights_[set].empty();
        if (by_reach || by_side) {
            const wide::box places = kernels_.bounds(points.position.x.data(), points.position.y.data(),
                                                     points.position.z.data(), points.count);
            all = false;
            reached.assign(lights_[set].size(), 1);
            if (by_reach) {
                reach.find(places, reached);
            }
            if (by_side) {
                reach.leave_out_behind(places,
                                       kernels_.bounds(points.normal.x.data(), points.normal.y.data(),
                                                       points.normal.z.data(), points.count),
                                       reached);
            }
        }
    }
    for (std::size_t i = 0; i < lights_[set].size(); ++i) {
        if (all || reached[i] != 0) {
            lights.push_back(&lights_[set][i]);
        }
    }
    with_.shade({points, object.factors, lights, settings_, eye_, with_.model});
    evaluations_.fetch_add(points.count, std::memory_order_relaxed);
}

// Lights `count` points that `put(block, place in it, point)` puts into blocks, on all threads.
template <class Scalar>
template <class Put>
std::vector<outgoing<Scalar>> scene_shading<Scalar>::light_points(const prepared_object& object,
                                                                  std::size_t count, Put&& put) {
    std::vector<outgoing<Scalar>> lit(count);
    in_pieces(count, 4 * block_size, [&](std::size_t first, std::size_t last) {
        const auto points = std::make_unique<block<Scalar>>();
        std::vector<const ready_light<Scalar>*> lights;
        points->own_base = true;
        for (std::size_t begin = first; begin < last; begin += block_size) {
            points->count = std::min(block_size, last - begin);
            for (std::size_t i = 0; i < points->count; ++i) {
                put(*points, i, begin + i);
            }
            run(*points, object, lights);
            for (std::size_t i = 0; i < points->count; ++i) {
                lit[begin + i] = {points->tinted.color(i), points->untinted.color(i)};
            }
        }
    });
    return lit;
}

template <class Scalar> auto scene_shading<Scalar>::light_vertices(std::size_t o) -> lit_colors {
    const prepared_object& object = objects_[o];
    const auto side = [&](Scalar sign) {
        return light_points(object, object.shape.positions.size(),
                            [&](block<Scalar>& points, std::size_t i, std::size_t v) {
                                const auto vertex = static_cast<std::uint32_t>(v);
                                points.position.put(i, vec3<Scalar>(object.lit_position(vertex)));
                                points.normal.put(i, normals_[vertices_.first_vertex[o] + v] * sign);
                                points.base.put(i, object.factors.base * rgb<Scalar>(object.color(vertex)));
                            });
    };
    lit_colors lit;
    lit.front = side(1);
    if (object.material.look.two_sided) {
        lit.back = side(-1);
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
            if (object.material.look.two_sided &&
                (weights(o, corners).determinant() < 0) == object.staged.mirrored) {
                normal = -normal;
            }
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

template <class Scalar>
triangle_weights scene_shading<Scalar>::weights(std::size_t o, const triangle& corners) const {
    const wide::object_view& view = vertices_.objects[o];
    const auto corner = [&](std::size_t k) {
        return wide::homogeneous_corner(view.to_pixels, view.positions[corners[k]]);
    };
    return {corner(0), corner(1), corner(2)};
}

// What the corners of a triangle hand to its pixels; how many numbers each.
template <class Scalar>
std::size_t scene_shading<Scalar>::corner_attributes(std::size_t o, std::uint32_t t, bool front,
                                                     corner_values& into) const {
    const prepared_object& object = objects_[o];
    const triangle& corners = object.shape.triangles[t];
    const bool back = object.material.look.two_sided && !front;
    std::size_t count = 0;
    for (std::size_t k = 0; k < 3; ++k) {
        count = 0;
        const auto put = [&](double a, double b, double c) {
            into[count++][k] = a;
            into[count++][k] = b;
            into[count++][k] = c;
        };
        if (from_.rate == rate::fragment) {
            const vec3<Scalar>& n = normals_[vertices_.first_vertex[o] + corners[k]];
            const double sign = back ? -1 : 1;
            put(sign * n.x, sign * n.y, sign * n.z);
            if (!object.shape.colors.empty()) {
                const rgb<double>& color = object.shape.colors[corners[k]];
                put(color.r, color.g, color.b);
            }
        } else if (from_.rate == rate::vertex) {
            const outgoing<Scalar>& lit = (back ? lit_[o].back : lit_[o].front)[corners[k]];
            if (object.material.image) {
                put(lit.tinted.r, lit.tinted.g, lit.tinted.b);
                put(lit.untinted.r, lit.untinted.g, lit.untinted.b);
            } else {
                const rgb<double> sum = rgb<double>(lit.tinted) + rgb<double>(lit.untinted);
                put(sum.r, sum.g, sum.b);
            }
        }
        if (object.material.image) {
            const texcoord at = object.shape.texcoords.empty()
                                    ? texcoord{}
                                    : object.shape.texcoords[object.shape.texcoord_corners(t)[k]];
            into[count++][k] = at.u;
            into[count++][k] = at.v;
        }
    }
    return count;
}

template <class Scalar>
void scene_shading<Scalar>::set_planes(wide::attribute_planes& planes, std::size_t o, std::int32_t id) const {
    const wide::object_view& view = vertices_.objects[o];
    const auto t = static_cast<std::uint32_t>(id - view.first);
    const triangle& corners = view.triangles[t];
    const wide::seen_vertex& a = view.seen[corners[0]];
    const wide::seen_vertex& b = view.seen[corners[1]];
    const wide::seen_vertex& c = view.seen[corners[2]];
    planes.triangle = id;
    corner_values values; // NOLINT: written before it is read
    if (a.nearness > 0 && b.nearness > 0 && c.nearness > 0) {
        const double ux = b.x - a.x;
        const double uy = b.y - a.y;
        const double vx = c.x - a.x;
        const double vy = c.y - a.y;
        const double area = ux * vy - uy * vx;
        planes.front = (area < 0) != view.mirrored;
        const double longest =
            std::max({ux * ux + uy * uy, vx * vx + vy * vy, (ux - vx) * (ux - vx) + (uy - vy) * (uy - vy)});
        planes.one_by_one = !(area * area > thin * thin * longest);
        const std::size_t count = corner_attributes(o, t, planes.front, values);
        if (planes.one_by_one) {
            return;
        }
        planes.x = a.x;
        planes.y = a.y;
        // A centre that only the snap has brought in lies on the plane carried on a little; bounds keep it
        // before the eye.
        planes.least = beyond_least * std::min({a.nearness, b.nearness, c.nearness});
        planes.most = beyond_most * std::max({a.nearness, b.nearness, c.nearness});
        const double one = 1 / area;
        // The screen's weights of b and c are planes that are 1 there and 0 at the other corners.
        const std::array<double, 2> of_b{vy * one, -vx * one};
        const std::array<double, 2> of_c{-uy * one, ux * one};
        const auto plane = [&](double at_a, double at_b, double at_c) {
            const double to_b = at_b - at_a;
            const double to_c = at_c - at_a;
            return std::array<double, 3>{at_a, to_b * of_b[0] + to_c * of_c[0],
                                         to_b * of_b[1] + to_c * of_c[1]};
        };
        planes.nearness = plane(a.nearness, b.nearness, c.nearness);
        for (std::size_t i = 0; i < count; ++i) {
            planes.attribute[i] =
                plane(values[i][0] * a.nearness, values[i][1] * b.nearness, values[i][2] * c.nearness);
        }
        return;
    }
    // A corner behind the eye: the planes come from the whole triangle in homogeneous coordinates.
    const auto corner = [&](std::size_t k) {
        return wide::homogeneous_corner(view.to_pixels, view.positions[corners[k]]);
    };
    const std::array<homogeneous, 3> at{corner(0), corner(1), corner(2)};
    const std::array<vec3<double>, 3> rows{cross(at[1], at[2]), cross(at[2], at[0]), cross(at[0], at[1])};
    const double determinant = dot(at[0], rows[0]);
    planes.front = (determinant < 0) != view.mirrored;
    const std::size_t count = corner_attributes(o, t, planes.front, values);
    planes.x = 0;
    planes.y = 0;
    const double nearest = std::min({at[0].z, at[1].z, at[2].z});
    planes.least = beyond_least / std::max({at[0].z, at[1].z, at[2].z});
    planes.most =
        nearest >= from_.seen_from.near ? beyond_most / nearest : std::numeric_limits<double>::infinity();
    const auto plane = [&](double at_a, double at_b, double at_c) {
        const vec3<double> sum =
            rows[0] * (at_a / determinant) + rows[1] * (at_b / determinant) + rows[2] * (at_c / determinant);
        return std::array<double, 3>{sum.z, sum.x, sum.y};
    };
    planes.nearness = plane(1, 1, 1);
    for (std::size_t i = 0; i < count; ++i) {
        planes.attribute[i] = plane(values[i][0], values[i][1], values[i][2]);
    }
    // Seen edge-on (the eye all but in its plane), as above.
    const double slope = std::hypot(planes.nearness[1], planes.nearness[2]);
    planes.one_by_one = !std::isfinite(slope) || !std::isfinite(planes.nearness[0]);
    const double across = std::min(planes.most, 1 / from_.seen_from.near) / std::max(slope, 1e-300);
    planes.one_by_one = planes.one_by_one || across < thin;
}

template <class Scalar>
const wide::attribute_planes& scene_shading<Scalar>::planes_of(shading_scratch<Scalar>& mine, std::size_t o,
                                                               std::int32_t id) const {
    wide::attribute_planes& planes = mine.planes[static_cast<std::size_t>(id) % mine.planes.size()];
    if (planes.triangle != id) {
        set_planes(planes, o, id);
    }
    return planes;
}

// Pixel by pixel, with weights that are brought back into a triangle thinner than the snap.
template <class Scalar>
void scene_shading<Scalar>::put_run_one_by_one(block<Scalar>& points, std::size_t o,
                                               const wide::pixel_run& run, bool front) const {
    const prepared_object& object = objects_[o];
    const auto t = static_cast<std::uint32_t>(run.triangle - vertices_.objects[o].first);
    const triangle& corners = object.shape.triangles[t];
    const triangle_weights all = weights(o, corners);
    corner_values values; // NOLINT: written before it is read
    corner_attributes(o, t, front, values);
    for (std::size_t l = 0; l < static_cast<std::size_t>(run.count); ++l) {
        const std::array<double, 3> w = all.at(run.x + static_cast<double>(l) + 0.5, run.y + 0.5);
        const auto blended = [&](std::size_t attribute) {
            const std::array<double, 3>& of = values[attribute];
            return static_cast<Scalar>(w[0] * of[0] + w[1] * of[1] + w[2] * of[2]);
        };
        const std::size_t i = points.count + l;
        if (from_.rate == rate::fragment) {
            points.position.put(i, vec3<Scalar>(object.lit_position(corners[0]) * w[0] +
                                                object.lit_position(corners[1]) * w[1] +
                                                object.lit_position(corners[2]) * w[2]));
            points.normal.put(i, vec3<Scalar>(blended(0), blended(1), blended(2)));
            if (!object.shape.colors.empty()) {
                points.base.put(i, rgb<Scalar>(blended(3), blended(4), blended(5)));
            }
        } else if (from_.rate == rate::vertex) {
            points.tinted.put(i, rgb<Scalar>(blended(0), blended(1), blended(2)));
            if (object.material.image) {
                points.untinted.put(i, rgb<Scalar>(blended(3), blended(4), blended(5)));
            }
        }
    }
}

template <class Scalar>
void scene_shading<Scalar>::put_run(shading_scratch<Scalar>& mine, std::size_t o,
                                    const wide::pixel_run& run) const {
    const prepared_object& object = objects_[o];
    block<Scalar>& points = mine.points;
    const std::size_t at = points.count;
    const wide::attribute_planes& planes = planes_of(mine, o, run.triangle);
    if (from_.rate == rate::face) {
        const outgoing<Scalar>& lit =
            lit_[o].front[static_cast<std::size_t>(run.triangle - vertices_.objects[o].first)];
        for (std::size_t l = 0; l < static_cast<std::size_t>(run.count); ++l) {
            points.tinted.put(at + l, lit.tinted);
            points.untinted.put(at + l, lit.untinted);
        }
    } else if (planes.one_by_one) {
        put_run_one_by_one(points, o, run, planes.front);
    } else {
        wide::attribute_lanes<Scalar> asked; // NOLINT: see there
        asked.planes = &planes;
        asked.run = run;
        const auto into = [&](lane3<Scalar>& lanes) {
            asked.into[asked.attributes++] = lanes.x.data() + at;
            asked.into[asked.attributes++] = lanes.y.data() + at;
            asked.into[asked.attributes++] = lanes.z.data() + at;
        };
        if (from_.rate == rate::fragment) {
            into(points.normal);
            if (!object.shape.colors.empty()) {
                into(points.base);
            }
            asked.rays = &rays_;
            asked.position = {points.position.x.data() + at, points.position.y.data() + at,
                              points.position.z.data() + at};
        } else {
            into(points.tinted);
            if (object.material.image) {
                into(points.untinted);
            }
        }
        if constexpr (std::is_same_v<Scalar, float>) {
            kernels_.spread(asked);
        } else {
            kernels_.spread_double(asked);
        }
        if (from_.rate == rate::fragment && object.moved_for_light) {
            for (std::size_t i = at; i < at + static_cast<std::size_t>(run.count); ++i) {
                points.position.put(i, vec3<Scalar>(transform_point(
                                           object.to_light_place, vec3<double>(points.position.vector(i)))));
            }
        }
    }
    if (points.own_base || object.material.image) {
        tint_run(mine, o, run);
    }
}

// The base colours of a run at rate fragment, or its lit colours times the texture at the others.
template <class Scalar>
void scene_shading<Scalar>::tint_run(shading_scratch<Scalar>& mine, std::size_t o,
                                     const wide::pixel_run& run) const {
    const prepared_object& object = objects_[o];
    block<Scalar>& points = mine.points;
    const wide::attribute_planes& planes = planes_of(mine, o, run.triangle);
    const bool per_fragment = from_.rate == rate::fragment;
    lane3<Scalar>& tinted = per_fragment ? points.base : points.tinted;
    const bool colored = !object.shape.colors.empty();
    // After the attributes that come before them.
    const std::size_t uv = per_fragment                 ? normal_attributes + (colored ? color_attributes : 0)
                           : from_.rate == rate::vertex ? 2 * color_attributes
                                                        : 0;
    corner_values values;
    triangle_weights all;
    if (object.material.image && planes.one_by_one) {
        const auto t = static_cast<std::uint32_t>(run.triangle - vertices_.objects[o].first);
        corner_attributes(o, t, planes.front, values);
        all = weights(o, object.shape.triangles[t]);
    }
    for (std::size_t l = 0; l < static_cast<std::size_t>(run.count); ++l) {
        const std::size_t i = points.count + l;
        rgb<Scalar> color = per_fragment ? object.factors.base : tinted.color(i);
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
                const auto value = [&](const std::array<double, 3>& plane) {
                    return plane[0] + plane[1] * (x - planes.x) + plane[2] * (y - planes.y);
                };
                const double depth = 1 / std::clamp(value(planes.nearness), planes.least, planes.most);
                u = value(planes.attribute[uv]) * depth;
                v = value(planes.attribute[uv + 1]) * depth;
            }
            color = color * rgb<Scalar>(object.material.image->sample(u, v));
        }
        tinted.put(i, color);
    }
}

// The ray is met again from the depth that was kept, so that the point has all its digits.
template <class Scalar>
void scene_shading<Scalar>::put_field_run(block<Scalar>& points, std::size_t o, const wide::pixel_run& run,
                                          const tile& at, const tile_scratch& seen) const {
    const prepared_object& object = objects_[o];
    const field_rays rays(object.staged, from_.seen_from);
    for (int l = 0; l < run.count; ++l) {
        const int x = run.x + l;
        const vec3<double> along = rays.along(x + 0.5, run.y + 0.5);
        const auto kept = static_cast<std::size_t>((run.y - at.top) * seen.pitch + (x - at.left));
        const double depth = polish(rays.of, rays.from, along, 1 / static_cast<double>(seen.nearness[kept]));
        const vec3<double> met = rays.from + along * depth;
        const vec3<double> gradient = evaluate(rays.of, met).gradient;
        vec3<double> normal = normalize(transform_direction(object.staged.normal_to_world, gradient));
        if (object.material.look.two_sided && dot(gradient, along) > 0) {
            normal = -normal;
        }
        const std::size_t i = points.count + static_cast<std::size_t>(l);
        points.position.put(i, vec3<Scalar>(transform_point(object.from_eye_of_light, met)));
        points.normal.put(i, vec3<Scalar>(normal));
    }
}

template <class Scalar>
void scene_shading<Scalar>::write(shading_scratch<Scalar>& mine, const prepared_object& object,
                                  picture& into) const {
    const auto alpha = static_cast<float>(object.material.look.alpha);
    const block<Scalar>& points = mine.points;
    const auto lanes = [](const lane3<Scalar>& from, lane3<float>& narrowed, std::size_t count) {
        if constexpr (std::is_same_v<Scalar, float>) {
            return wide::color_lanes{from.x.data(), from.y.data(), from.z.data()};
        } else {
            for (std::size_t i = 0; i < count; ++i) {
                narrowed.put(i, rgb<float>(from.color(i)));
            }
            return wide::color_lanes{narrowed.x.data(), narrowed.y.data(), narrowed.z.data()};
        }
    };
    lane3<float> narrow_tinted;   // NOLINT: written where it is needed
    lane3<float> narrow_untinted; // NOLINT
    const wide::color_lanes tinted = lanes(points.tinted, narrow_tinted, points.count);
    const wide::color_lanes untinted = lanes(points.untinted, narrow_untinted, points.count);
    std::size_t at = 0;
    for (std::size_t r = 0; r < mine.waiting.size();) {
        // Runs that follow one another in a row are written in one go.
        const wide::pixel_run& first = mine.waiting[r];
        auto count = static_cast<std::size_t>(first.count);
        for (++r; r < mine.waiting.size() && mine.waiting[r].y == first.y &&
                  mine.waiting[r].x == first.x + static_cast<int>(count);
             ++r) {
            count += static_cast<std::size_t>(mine.waiting[r].count);
        }
        const std::size_t pixel = static_cast<std::size_t>(first.y) * static_cast<std::size_t>(into.width) +
                                  static_cast<std::size_t>(first.x);
        kernels_.write({tinted[0] + at, tinted[1] + at, tinted[2] + at},
                       {untinted[0] + at, untinted[1] + at, untinted[2] + at}, alpha, count,
                       into.values.data() + 4 * pixel);
        at += count;
    }
}

template <class Scalar>
void scene_shading<Scalar>::shade_runs(shading_scratch<Scalar>& mine, std::size_t o, const tile& at,
                                       const tile_scratch& seen, picture& into) {
    const prepared_object& object = objects_[o];
    const bool field = object.staged.field != nullptr;
    block<Scalar>& points = mine.points;
    points.count = 0;
    points.own_base =
        from_.rate == rate::fragment && (!object.shape.colors.empty() || (object.material.image && !field));
    points.between_vertices = !field;
    if (from_.rate == rate::vertex && !object.material.image) {
        points.untinted = {};
    }
    const auto flush = [&] {
        if (from_.rate == rate::fragment || field) {
            run(points, object, mine.lights);
        }
        write(mine, object, into);
        points.count = 0;
        mine.waiting.clear();
    };
    for (const wide::pixel_run& one : mine.runs[o]) {
        if (points.count + 16 > block_size) {
            flush();
        }
        if (field) {
            put_field_run(points, o, one, at, seen);
        } else {
            put_run(mine, o, one);
        }
        points.count += static_cast<std::size_t>(one.count);
        mine.waiting.push_back(one);
    }
    flush();
}

// The runs of every object in the tile, in squares of 16 pixels so that a block's points lie close together;
// what shows nothing gets the background.
template <class Scalar>
void scene_shading<Scalar>::gather(const tile& at, const tile_scratch& seen, shading_scratch<Scalar>& mine,
                                   picture& into) {
    constexpr int square = 16;
    mine.runs.resize(objects_.size());
    for (const std::size_t o : mine.objects) {
        mine.runs[o].clear();
    }
    mine.objects.clear();
    const rgb<float> background(from_.view.background);
    const auto background_alpha = static_cast<float>(from_.view.background_alpha);
    std::size_t object = 0;
    std::uint64_t pixels = 0;
    const auto row_of_square = [&](int left, int y) {
        const std::int32_t* const ids = seen.triangles.data() + static_cast<std::ptrdiff_t>(y) * seen.pitch;
        const int end = std::min(at.width, left + square);
        // What will be written is fetched meanwhile: 256 bytes a row are too short for the processor to
        // guess.
        const float* const pixels_ahead = into.values.data() + 4 * (static_cast<std::size_t>(at.top + y) *
                                                                        static_cast<std::size_t>(into.width) +
                                                                    static_cast<std::size_t>(at.left + left));
        for (int line = 0; line < square / 4; ++line) {
            __builtin_prefetch(pixels_ahead + 16 * line, 1, 2);
        }
        for (int x = left; x < end;) {
            const std::int32_t id = ids[x];
            const int begin = x;
            if (begin == left && all_the_same(ids + left)) { // a row of 16, whatever the tile's border
                x = end;
            } else {
                for (++x; x < end && ids[x] == id; ++x) {
                }
            }
            if (id < 0) {
                for (int p = begin; p < x; ++p) {
                    into.set(at.left + p, at.top + y, background, background_alpha);
                }
                continue;
            }
            object = wide::object_of(id, vertices_.objects.data(), vertices_.objects.size(), object);
            if (mine.runs[object].empty()) {
                mine.objects.push_back(object);
            }
            mine.runs[object].push_back({static_cast<std::int16_t>(at.left + begin),
                                         static_cast<std::int16_t>(at.top + y),
                                         static_cast<std::int16_t>(x - begin), id});
            pixels += static_cast<std::uint64_t>(x - begin);
        }
    };
    for (int top = 0; top < at.height; top += square) {
        for (int left = 0; left < at.width; left += square) {
            for (int y = top; y < std::min(at.height, top + square); ++y) {
                row_of_square(left, y);
            }
        }
    }
    pixels_.fetch_add(pixels, std::memory_order_relaxed);
}

template <class Scalar>
void scene_shading<Scalar>::shade(const tile& at, const tile_scratch& seen, shading_scratch<Scalar>& mine,
                                  picture& into) {
    for (wide::attribute_planes& planes : mine.planes) {
        planes.triangle = -1; // of another scene, it may be
    }
    gather(at, seen, mine, into);
    for (const std::size_t o : mine.objects) {
        shade_runs(mine, o, at, seen, into);
    }
}

template class scene_shading<float>;
template class scene_shading<double>;

} // namespace yurvo::pipeline
