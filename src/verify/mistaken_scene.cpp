#include "verify/mistaken_scene.hpp"

#include <memory>

#include "pipeline/interpolation.hpp"
#include "pipeline/triangle_coverage.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::verify {

namespace {

using enum mistake;

double falloff_at_one_metre(const light& of) {
    const ready_light<double> ready = make_ready<double>(of);
    return falloff_at<formula>(ready, 1.0, ready.law());
}

void mistake_light(named_light& one, const mistake_set& wrong) {
    light& given = one.light;
    if (given.kind != light_kind::directional) {
        if (wrong.has(falloff_missing)) {
            given.falloff = falloff_kind::none;
        }
        if (wrong.has(falloff_after_normalize)) {
            given.intensity *= falloff_at_one_metre(given);
            given.falloff = falloff_kind::none;
        }
    } else if (wrong.has(falloff_on_directional)) {
        given.kind = light_kind::point;
        given.position = -given.shines;
        given.falloff = falloff_kind::inverse_square;
    }
    if (wrong.has(cone_full_angle)) {
        given.inner /= 2;
        given.outer /= 2;
    }
    if (wrong.has(light_color_ignored)) {
        given.color = rgb<double>(1.0);
    }
    if (wrong.has(light_moves_with_eye)) {
        one.space = light_space::view;
    }
}

// Linear texels back to what the file's codes say.
std::shared_ptr<const texture> not_decoded(const texture& given) {
    auto made = std::make_shared<texture>(given);
    const auto back = [](float linear) {
        return static_cast<float>(srgb_encoded(static_cast<double>(linear)));
    };
    for (rgb<float>& texel : made->texels) {
        texel = {back(texel.r), back(texel.g), back(texel.b)};
    }
    return made;
}

// The transform with another upper left 3×3.
matrix4 with_linear_part(const matrix4& of, const matrix3& part) {
    matrix4 made = of;
    for (std::size_t row = 0; row < 3; ++row) {
        for (std::size_t column = 0; column < 3; ++column) {
            made(row, column) = part(row, column);
        }
    }
    return made;
}

matrix3 rows_of(const view_axes& axes) {
    return {{axes.right.x, axes.up.x, axes.backward.x, axes.right.y, axes.up.y, axes.backward.y, axes.right.z,
             axes.up.z, axes.backward.z}};
}

// {vec3 position; vec3 color} packed, 6 numbers a light; read as std140, 8 numbers a light: position at 0,
// color at 4.
std::vector<light> read_with_padding(const std::vector<light>& written) {
    std::vector<double> memory;
    for (const light& one : written) {
        const vec3<double> p = one.kind == light_kind::directional ? vec3<double>{} : one.position;
        memory.insert(memory.end(), {p.x, p.y, p.z, one.color.r, one.color.g, one.color.b});
    }
    memory.resize(8 * written.size(), 0.0);
    std::vector<light> read = written;
    for (std::size_t i = 0; i < read.size(); ++i) {
        const double* const at = &memory[8 * i];
        read[i].position = {at[0], at[1], at[2]};
        read[i].color = {at[4], at[5], at[6]};
    }
    return read;
}

} // namespace

scene mistaken_scene(const scene& of, const mistake_set& wrong) {
    scene made = of;
    if (wrong.has(single_light_only) && made.lights.size() > 1) {
        made.lights.resize(1);
    }
    for (named_light& one : made.lights) {
        mistake_light(one, wrong);
    }
    if (wrong.has(ambient_missing)) {
        made.ambient_strength = 0;
    }
    if (wrong.has(ambient_per_light)) {
        made.ambient_strength *= static_cast<double>(made.lights.size());
    }
    if (wrong.has(specular_half_for_reflect) && made.shading.model == model_kind::phong) {
        made.shading.model = model_kind::blinn_phong;
    }
    if (wrong.has(rate_vertex_for_fragment)) {
        made.shading.rate = rate::vertex;
    }
    if (wrong.has(rate_face_for_fragment)) {
        made.shading.rate = rate::face;
    }
    if (wrong.has(texture_not_decoded)) {
        for (named_material& one : made.materials) {
            one.image = one.image ? not_decoded(*one.image) : nullptr;
        }
    }
    if (wrong.has(normal_shared_corners)) {
        for (object& one : made.objects) {
            one.normals = normals_kind::shared;
        }
    }
    return made;
}

lighting_data lighting_data_of(const pipeline::stage& from, const pipeline::staged_object& object,
                               const mistake_set& wrong) {
    lighting_data made;
    made.to_world = object.to_world;
    made.normal_to_world = as_matrix4(object.normal_to_world);
    if (wrong.has(matrix_transposed)) {
        const matrix3 wrong_part = transposed(linear_part(object.to_world));
        made.to_world = with_linear_part(object.to_world, wrong_part);
        made.normal_to_world = as_matrix4(wrong_part);
    }
    if (wrong.has(position_in_object_space)) {
        made.to_world = matrix4::identity();
    }
    if (wrong.has(normal_without_inverse_transpose)) {
        made.normal_to_world = as_matrix4(linear_part(object.to_world));
    }
    if (wrong.has(normal_as_point)) {
        made.normal_to_world = object.to_world;
    }
    if (wrong.has(normal_in_object_space)) {
        made.normal_to_world = matrix4::identity();
    }
    if (wrong.has(normal_in_view_space)) {
        made.normal_to_world = as_matrix4(rows_of(from.seen_from.axes)) * made.normal_to_world;
    }
    made.lights = from.lights.front();
    if (wrong.has(block_padding_missed)) {
        made.lights = read_with_padding(made.lights);
    }
    if (wrong.has(light_moves_with_object)) {
        for (light& one : made.lights) {
            one.position = transform_point(object.to_world, one.position);
            one.shines = transform_direction(linear_part(object.to_world), one.shines);
        }
    }
    return made;
}

pipeline::visibility mistaken_visibility(const pipeline::stage& from, const mistake_set& wrong) {
    using namespace pipeline;
    const bool last_wins = wrong.has(depth_test_missing);
    visibility made;
    made.width = from.view.width;
    made.height = from.view.height;
    const auto pixels = static_cast<std::size_t>(made.width) * static_cast<std::size_t>(made.height);
    made.inverse_depth.assign(pixels, 0.0F);
    made.triangles.assign(pixels, visibility::nothing);
    const auto nearest = static_cast<float>(1 / from.seen_from.near);
    const auto farthest = static_cast<float>(1 / from.seen_from.far);
    const auto put = [&](std::size_t at, float here, std::uint32_t id) {
        if (here <= nearest && here >= farthest &&
            (last_wins || made.triangles[at] == visibility::nothing || here < made.inverse_depth[at])) {
            made.inverse_depth[at] = here;
            made.triangles[at] = id;
        }
    };
    std::uint32_t id = 0;
    for (const staged_object& object : from.objects) {
        if (object.field) { // met by rays: what the pipeline sees of it alone
            stage alone = from;
            alone.objects.assign(1, object);
            const visibility of_it = find_visible(alone);
            for (std::size_t at = 0; at < pixels; ++at) {
                if (of_it.triangles[at] != visibility::nothing) {
                    put(at, of_it.inverse_depth[at], id);
                }
            }
            ++id;
            continue;
        }
        const pixel_matrix to_pixels = object_to_pixels(object.to_world, from.seen_from);
        const auto corner = [&](std::uint32_t v) {
            const vec3<double>& p = object.shape->positions[v];
            const auto row = [&](std::size_t r) {
                return to_pixels[4 * r] * p.x + to_pixels[4 * r + 1] * p.y + to_pixels[4 * r + 2] * p.z +
                       to_pixels[4 * r + 3];
            };
            return homogeneous{row(0), row(1), row(2)};
        };
        for (const triangle& corners : object.shape->triangles) {
            const homogeneous a = corner(corners[0]);
            const homogeneous b = corner(corners[1]);
            const homogeneous c = corner(corners[2]);
            depth_plane depth;
            if (depth.set(a, b, c, from.seen_from.near)) {
                // Near and far are held pixel by pixel; the cut only keeps corners in front of the eye.
                in_snapped_pieces(a, b, c, from.seen_from.near * (1 - 0x1p-10),
                                  [&](const snapped& p, const snapped& q, const snapped& r) {
                                      cover(p, q, r, made.width, made.height, [&](int y, int begin, int end) {
                                          for (int x = begin; x < end; ++x) {
                                              put(made.index(x, y), depth.at(x + 0.5, y + 0.5), id);
                                          }
                                      });
                                  });
            }
            ++id;
        }
    }
    return made;
}

} // namespace yurvo::verify
