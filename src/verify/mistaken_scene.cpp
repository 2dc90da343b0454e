#include "verify/mistaken_scene.hpp"

#include <memory>

#include "pipeline/interpolation.hpp"
#include "pipeline/triangle_coverage.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

using enum mistake;

double falloff_at_one_metre(const light& lamp) {
    const ready_light<double> ready = make_ready<double>(lamp);
    return falloff_at<formula>(ready, 1.0, ready.law());
}

// `own_falloff`: a formula stands for the law.
void mistake_light(named_light& lamp, const mistake_set& wrong, bool own_falloff) {
    light& a_light = lamp.light;
    if (a_light.kind != light_kind::directional) {
        if (wrong.has(falloff_missing)) {
            a_light.falloff = falloff_kind::none;
        }
        if (wrong.has(falloff_after_normalize) && !own_falloff) {
            a_light.intensity *= falloff_at_one_metre(a_light);
            a_light.falloff = falloff_kind::none;
        }
    } else if (wrong.has(falloff_on_directional)) {
        a_light.kind = light_kind::point;
        a_light.position = -a_light.shines;
        a_light.falloff = falloff_kind::inverse_square;
    }
    if (wrong.has(cone_full_angle)) {
        a_light.inner /= 2;
        a_light.outer /= 2;
    }
    if (wrong.has(light_color_ignored)) {
        a_light.color = rgb<double>(1.0);
    }
    if (wrong.has(light_intensity_ignored)) {
        a_light.intensity = 1;
    }
    if (wrong.has(parts_ignored)) {
        a_light.ambient = {};
        a_light.diffuse = rgb<double>(1.0);
        a_light.specular = rgb<double>(1.0);
    }
    if (wrong.has(ambient_without_falloff)) {
        a_light.follows = ambient_follows::nothing;
    }
    if (wrong.has(ambient_missing)) {
        a_light.ambient = {};
    }
    if (wrong.has(light_moves_with_eye)) {
        lamp.space = light_space::view;
    }
}

// Linear texels back to what the file's codes say.
std::shared_ptr<const texture> not_decoded(const texture& the_texture) {
    auto result = std::make_shared<texture>(the_texture);
    if (the_texture.of_codes) { // blended as they are, and left so
        result->of_codes = false;
        return result;
    }
    const auto back = [](float linear) {
        return static_cast<float>(srgb_encoded(static_cast<double>(linear)));
    };
    for (rgb<float>& texel : result->texels) {
        texel = {back(texel.r), back(texel.g), back(texel.b)};
    }
    return result;
}

// The transform with another upper left 3×3.
matrix4 with_linear_part(const matrix4& affine, const matrix3& part) {
    matrix4 result = affine;
    for (std::size_t row = 0; row < 3; ++row) {
        for (std::size_t column = 0; column < 3; ++column) {
            result(row, column) = part(row, column);
        }
    }
    return result;
}

matrix3 rows_of(const view_axes& axes) {
    return {{axes.right.x, axes.up.x, axes.backward.x, axes.right.y, axes.up.y, axes.backward.y, axes.right.z,
             axes.up.z, axes.backward.z}};
}

// {vec3 position; vec3 color} packed, 6 numbers a light; read as std140, 8 numbers a light: position at 0,
// color at 4.
std::vector<light> read_with_padding(const std::vector<light>& written) {
    std::vector<double> memory;
    for (const light& lamp : written) {
        const vec3<double> p = lamp.kind == light_kind::directional ? vec3<double>{} : lamp.position;
        memory.insert(memory.end(), {p.x, p.y, p.z, lamp.color.r, lamp.color.g, lamp.color.b});
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

scene mistaken_scene(const scene& the_scene, const mistake_set& wrong) {
    scene result = the_scene;
    if (wrong.has(single_light_only) && result.lights.size() > 1) {
        result.lights.resize(1);
    }
    for (named_light& lamp : result.lights) {
        mistake_light(lamp, wrong, result.formulas.has(formulas::slot::falloff));
    }
    if (wrong.has(falloff_missing)) {
        result.formulas[formulas::slot::falloff].clear();
    }
    if (wrong.has(ambient_missing)) {
        result.ambient_strength = 0;
    }
    if (wrong.has(ambient_per_light)) {
        result.ambient_strength *= static_cast<double>(result.lights.size());
    }
    if (wrong.has(specular_half_for_reflect) && result.shading.model == model_kind::phong) {
        result.shading.model = model_kind::blinn_phong;
    }
    if (wrong.has(rate_vertex_for_fragment)) {
        result.shading.rate = rate::vertex;
    }
    if (wrong.has(rate_face_for_fragment)) {
        result.shading.rate = rate::face;
    }
    if (wrong.has(texture_not_decoded)) {
        for (named_material& entry : result.materials) {
            entry.image = entry.image ? not_decoded(*entry.image) : nullptr;
        }
    }
    if (wrong.has(normal_shared_corners)) {
        for (object& item : result.objects) {
            item.normals = normals_kind::shared;
        }
    }
    return result;
}

lighting_data lighting_data_of(const pipeline::stage& from, const pipeline::staged_object& object,
                               const mistake_set& wrong) {
    lighting_data result;
    result.to_world = object.to_world;
    result.normal_to_world = as_matrix4(object.normal_to_world);
    if (wrong.has(matrix_transposed)) {
        const matrix3 wrong_part = transposed(linear_part(object.to_world));
        result.to_world = with_linear_part(object.to_world, wrong_part);
        result.normal_to_world = as_matrix4(wrong_part);
    }
    if (wrong.has(position_in_object_space)) {
        result.to_world = matrix4::identity();
    }
    if (wrong.has(normal_without_inverse_transpose)) {
        result.normal_to_world = as_matrix4(linear_part(object.to_world));
    }
    if (wrong.has(normal_as_point)) {
        result.normal_to_world = object.to_world;
    }
    if (wrong.has(normal_in_object_space)) {
        result.normal_to_world = matrix4::identity();
    }
    if (wrong.has(normal_in_view_space)) {
        result.normal_to_world = as_matrix4(rows_of(from.seen_from.axes)) * result.normal_to_world;
    }
    result.lights = from.lights.front();
    if (wrong.has(block_padding_missed)) {
        result.lights = read_with_padding(result.lights);
    }
    if (wrong.has(light_moves_with_object)) {
        for (light& lamp : result.lights) {
            lamp.position = transform_point(object.to_world, lamp.position);
            lamp.shines = transform_direction(linear_part(object.to_world), lamp.shines);
        }
    }
    return result;
}

namespace {

// A picture of what is seen in which the last of what is drawn wins, or the farthest.
class mistaken_depth_test {
    const pipeline::stage& from_;
    bool last_wins_;
    float nearest_, farthest_;

    void put(std::size_t at, float here, std::uint32_t id) {
        if (here <= nearest_ && here >= farthest_ &&
            (last_wins_ || seen.triangles[at] == pipeline::visibility::nothing ||
             here < seen.inverse_depth[at])) {
            seen.inverse_depth[at] = here;
            seen.triangles[at] = id;
        }
    }

  public:
    pipeline::visibility seen;

    mistaken_depth_test(const pipeline::stage& from, bool last_wins)
        : from_(from),
          last_wins_(last_wins),
          nearest_(static_cast<float>(1 / from.seen_from.near)),
          farthest_(static_cast<float>(1 / from.seen_from.far)) {
        seen.width = from.view.width;
        seen.height = from.view.height;
        const auto pixels = static_cast<std::size_t>(seen.width) * static_cast<std::size_t>(seen.height);
        seen.inverse_depth.assign(pixels, 0.0F);
        seen.triangles.assign(pixels, pipeline::visibility::nothing);
    }

    // Met by rays: what the pipeline sees of it alone.
    void draw_field(const pipeline::staged_object& object, std::uint32_t id) {
        pipeline::stage alone = from_;
        alone.objects.assign(1, object);
        const pipeline::visibility of_it = find_visible(alone);
        for (std::size_t at = 0; at < of_it.triangles.size(); ++at) {
            if (of_it.triangles[at] != pipeline::visibility::nothing) {
                put(at, of_it.inverse_depth[at], id);
            }
        }
    }

    void draw_triangle(const pipeline::homogeneous& a, const pipeline::homogeneous& b,
                       const pipeline::homogeneous& c, std::uint32_t id) {
        using namespace pipeline;
        depth_plane depth;
        if (!depth.set(a, b, c, from_.seen_from.near)) {
            return;
        }
        const auto row = [&](int y, int begin, int end) {
            for (int x = begin; x < end; ++x) {
                put(seen.index(x, y), depth.at(x + 0.5, y + 0.5), id);
            }
        };
        // Near and far are held pixel by pixel; the cut only keeps corners in front of the eye.
        in_snapped_pieces(a, b, c, from_.seen_from.near * (1 - 0x1p-10),
                          [&](const snapped& p, const snapped& q, const snapped& r) {
                              cover(p, q, r, seen.width, seen.height, row);
                          });
    }
};

} // namespace

pipeline::visibility mistaken_visibility(const pipeline::stage& from, const mistake_set& wrong) {
    using namespace pipeline;
    mistaken_depth_test test(from, wrong.has(depth_test_missing));
    std::uint32_t id = 0;
    for (const staged_object& object : from.objects) {
        if (object.field) {
            test.draw_field(object, id++);
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
            test.draw_triangle(corner(corners[0]), corner(corners[1]), corner(corners[2]), id++);
        }
    }
    return std::move(test.seen);
}

} // namespace yurvo::inline v0_1::verify
