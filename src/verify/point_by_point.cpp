#include "verify/point_by_point.hpp"

#include <algorithm>
#include <optional>

#include "pipeline/parallel.hpp"
#include "pipeline/probe.hpp"
#include "verify/corner_blending.hpp"
#include "verify/point_lighting.hpp"
#include "yurvo/geometry/normals.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

using enum mistake;
using weights = corner_weights;

// A mistake in a step that the scene does not have changes nothing.
mistake_set those_that_apply(const mistake_set& wanted, const scene& to, lit_by model) {
    mistake_set result;
    for (const mistake_entry& entry : all_mistakes()) {
        if (wanted.has(entry.which) && (applies(entry.which, to, model) || is_of_output(entry.which))) {
            result.add(entry.which);
        }
    }
    return result;
}

} // namespace

std::shared_ptr<const seen_scene> see(const scene& the_scene) {
    auto result = std::make_shared<seen_scene>();
    result->staged = pipeline::make_stage(the_scene);
    result->visible = pipeline::find_visible(result->staged);
    return result;
}

struct point_painter::parts {
    scene of; // rewritten
    mistake_set wrong;
    std::shared_ptr<const seen_scene> seen;
    pipeline::stage staged;
    pipeline::visibility other_visible;
    const pipeline::visibility* visible = nullptr;
    std::vector<lighting_data> objects;
    bool unit_at_vertices = true;
    model_descriptor model;
    bool own_model;
    std::optional<point_lighting> lighting;

    parts(const scene& the_scene, const mistake_set& with, std::shared_ptr<const seen_scene> seen_,
          const painting& how)
        : of(mistaken_scene(the_scene, those_that_apply(with, the_scene, lit_by_of(how, the_scene)))),
          wrong(those_that_apply(with, the_scene, lit_by_of(how, the_scene))),
          seen(std::move(seen_)),
          unit_at_vertices(how.unit_at_vertices),
          model(yurvo::model_of(of)),
          own_model(own_of(how, the_scene) != nullptr) {
        if (how.own != nullptr) {
            model = {.lit = how.own->needs_lights(), .sums_terms = !how.own->has_own_finish()};
        }
        if (wrong.has(normal_shared_corners)) {
            staged = pipeline::make_stage(of);
        } else { // the same geometry
            staged = seen->staged;
            staged.lights.assign(1, {});
            for (const named_light& lamp : of.lights) {
                staged.lights.front().push_back(light_in_world(lamp, staged.seen_from));
            }
            for (std::size_t i = 0; i < staged.materials.size(); ++i) {
                staged.materials[i] = of.materials[i];
            }
            staged.ambient_light = of.ambient_color * of.ambient_strength;
            staged.rate = of.shading.rate;
        }
        visible = &seen->visible;
        if (wrong.has(depth_test_missing) || wrong.has(depth_test_reversed)) {
            other_visible = mistaken_visibility(staged, wrong);
            visible = &other_visible;
        }
        for (const pipeline::staged_object& each : staged.objects) {
            objects.push_back(lighting_data_of(staged, each, wrong));
        }
        lighting.emplace(of, staged, objects, wrong, how.terms, own_of(how, the_scene),
                         how.cosines_end_at_one);
    }

    static const point_model* own_of(const painting& how, const scene& the_scene) {
        return how.own != nullptr ? how.own : the_scene.shading.own.model.get();
    }
    static lit_by lit_by_of(const painting& how, const scene& the_scene) {
        return own_of(how, the_scene) != nullptr ? lit_by::own_model : lit_by::scene_model;
    }

    [[nodiscard]] vec3<double> moved_normal(std::size_t o, const vec3<double>& normal) const {
        const vec3<double> moved = transform_point(objects[o].normal_to_world, normal);
        return unit_at_vertices || staged.rate != rate::fragment ? normalize(moved) : moved;
    }
    [[nodiscard]] vec3<double> moved_point(std::size_t o, const vec3<double>& point) const {
        return transform_point(objects[o].to_world, point);
    }

    struct seen_triangle {
        pipeline::triangle_place place;
        const pipeline::staged_object* object = nullptr;
        const material* look = nullptr;
        const texture* image = nullptr;
        bool front = true, turned = false;
        weights share{}; // of the corners
    };

    [[nodiscard]] seen_triangle triangle_at(int x, int y, std::uint32_t id) const {
        seen_triangle result;
        result.place = place_of(staged, id);
        result.object = &staged.objects[result.place.object];
        const named_material& material = staged.materials[result.object->material];
        result.look = &material.look;
        result.image = material.image.get();
        if (!result.object->field) {
            const pipeline::triangle_weights all = weights_of(staged, result.place);
            result.front = (all.determinant() < 0) != result.object->mirrored;
            result.share = all.at(x + 0.5, y + 0.5);
            if (wrong.has(interpolation_affine)) {
                result.share = affine_weights(corners_in_picture(result), x + 0.5, y + 0.5, result.share);
            }
        }
        result.turned = result.look->two_sided && !result.front;
        return result;
    }

    [[nodiscard]] std::array<vec3<double>, 3> corners_in_picture(const seen_triangle& of_it) const {
        const mesh& shape = *of_it.object->shape;
        std::array<vec3<double>, 3> result;
        for (std::size_t k = 0; k < 3; ++k) {
            const vec3<double>& p = shape.positions[shape.triangles[of_it.place.triangle][k]];
            result[k] =
                staged.seen_from.to_pixels(transform_point(of_it.object->to_world, p) - staged.seen_from.eye);
        }
        return result;
    }

    // The texel that a pixel shows; white without a texture.
    [[nodiscard]] rgb<double> texel_at(const seen_triangle& at) const {
        if (at.image == nullptr) {
            return rgb<double>(1.0);
        }
        const mesh& shape = *at.object->shape;
        texcoord place;
        if (!shape.texcoords.empty()) {
            const triangle& corners = shape.texcoord_corners(at.place.triangle);
            for (std::size_t k = 0; k < 3; ++k) {
                place.u += shape.texcoords[corners[k]].u * at.share[k];
                place.v += shape.texcoords[corners[k]].v * at.share[k];
            }
        }
        return rgb<double>(at.image->sample(place.u, place.v));
    }

    [[nodiscard]] rgb<double> vertex_color(const mesh& shape, std::uint32_t vertex) const {
        return shape.colors.empty() ? rgb<double>(1.0) : shape.colors[vertex];
    }

    // The lighting of a pixel: what the model gives there, times the texture.
    lit_pixel finish(const seen_triangle& at, const point_result& result, const rgb<double>& tint) const {
        lit_pixel pixel{result.lit.tinted * tint + result.lit.untinted, at.look->alpha};
        if (wrong.has(alpha_lit)) { // 1 where the model has no such terms
            pixel.alpha *= std::clamp(result.lightness, 0.0, 1.0);
        }
        return pixel;
    }

    lit_pixel field_pixel(int x, int y, seen_triangle at, explanation* explained) const {
        const pipeline::staged_object& object = *at.object;
        const std::optional<pipeline::seen_point> met = probe(staged, *visible, x, y);
        const vec3<double> in_object = transform_point(inverse(object.to_world), met->position);
        const vec3<double> gradient = normalize(yurvo::evaluate(*object.field, in_object).gradient);
        const vec3<double> facing = transform_direction(object.normal_to_world, gradient);
        at.front = dot(facing, met->position - staged.seen_from.eye) < 0;
        at.turned = at.look->two_sided && !at.front;
        point_input input;
        input.position = moved_point(at.place.object, in_object);
        input.normal = moved_normal(at.place.object, gradient);
        if (at.turned) {
            input.normal = -input.normal;
        }
        input.base = at.look->base;
        input.front = at.front;
        const point_result result = lighting->evaluate(at.place.object, *at.look, input,
                                                       explained != nullptr ? &explained->point : nullptr);
        return tell(explained, at, finish(at, result, rgb<double>(1.0)));
    }

    lit_pixel fragment_pixel(const seen_triangle& at, explanation* explained) const {
        const std::size_t o = at.place.object;
        const mesh& shape = *at.object->shape;
        const triangle& corners = shape.triangles[at.place.triangle];
        corner_places places;
        std::array<vec3<double>, 3> normals;
        std::array<rgb<double>, 3> colors;
        for (std::size_t k = 0; k < 3; ++k) {
            places.position[k] = moved_point(o, shape.positions[corners[k]]);
            normals[k] = moved_normal(o, shape.normals[corners[k]]) * (at.turned ? -1.0 : 1.0);
            colors[k] = vertex_color(shape, corners[k]);
        }
        places.share = at.share;
        point_input input;
        input.position = blended(places.position, at.share);
        input.normal = blended(normals, at.share);
        input.between_vertices = true;
        input.base = at.look->base * texel_at(at) * blended(colors, at.share);
        input.front = at.front;
        input.corners = &places;
        const point_result result =
            lighting->evaluate(o, *at.look, input, explained != nullptr ? &explained->point : nullptr);
        return tell(explained, at, finish(at, result, rgb<double>(1.0)));
    }

    [[nodiscard]] point_input vertex_input(const seen_triangle& at, std::size_t k) const {
        const std::size_t o = at.place.object;
        const mesh& shape = *at.object->shape;
        const std::uint32_t vertex = shape.triangles[at.place.triangle][k];
        point_input input;
        input.position = moved_point(o, shape.positions[vertex]);
        input.normal = moved_normal(o, shape.normals[vertex]) * (at.turned ? -1.0 : 1.0);
        input.base = at.look->base * vertex_color(shape, vertex);
        input.front = at.front;
        return input;
    }

    lit_pixel vertex_pixel(const seen_triangle& at, explanation* explained) const {
        point_result sum;
        sum.lightness = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            explained_vertex vertex;
            const point_result result = lighting->evaluate(at.place.object, *at.look, vertex_input(at, k),
                                                           explained != nullptr ? &vertex.at : nullptr);
            sum.lit.tinted = sum.lit.tinted + result.lit.tinted * at.share[k];
            sum.lit.untinted = sum.lit.untinted + result.lit.untinted * at.share[k];
            sum.lightness += result.lightness * at.share[k];
            if (explained != nullptr) {
                vertex.weight = at.share[k];
                explained->vertices.push_back(std::move(vertex));
            }
        }
        const rgb<double> texel = texel_at(at);
        if (explained != nullptr) {
            tell_blend(*explained, at, texel);
        }
        return tell(explained, at, finish(at, sum, texel));
    }

    lit_pixel face_pixel(const seen_triangle& at, explanation* explained) const {
        const mesh& shape = *at.object->shape;
        const triangle& corners = shape.triangles[at.place.triangle];
        std::array<vec3<double>, 3> places;
        std::array<vec3<double>, 3> lit_places;
        std::array<rgb<double>, 3> colors;
        for (std::size_t k = 0; k < 3; ++k) {
            places[k] = transform_point(at.object->to_world, shape.positions[corners[k]]);
            lit_places[k] = moved_point(at.place.object, shape.positions[corners[k]]);
            colors[k] = vertex_color(shape, corners[k]);
        }
        constexpr weights thirds{1.0 / 3, 1.0 / 3, 1.0 / 3};
        point_input input;
        input.position = blended(lit_places, thirds);
        input.normal = triangle_normal(places[0], places[1], places[2]);
        if (at.object->mirrored != at.turned) {
            input.normal = -input.normal;
        }
        input.base = at.look->base * blended(colors, thirds);
        input.front = at.front;
        const rgb<double> texel = texel_at(at);
        const point_result result = lighting->evaluate(at.place.object, *at.look, input,
                                                       explained != nullptr ? &explained->point : nullptr);
        if (explained != nullptr) {
            tint(explained->point, texel);
        }
        return tell(explained, at, finish(at, result, texel));
    }

    // What the texture does to a point that was lit before it was sampled.
    static void tint(explained_point& point, const rgb<double>& texel) {
        point.base = point.base * texel;
        point.ambient = point.ambient * texel;
        for (explained_light& light : point.lights) {
            light.ambient = light.ambient * texel;
            light.diffuse = light.diffuse * texel;
        }
    }

    // At rate vertex: the pixel's own place, with the terms blended from the vertices.
    void tell_blend(explanation& explained, const seen_triangle& at, const rgb<double>& texel) const {
        point_input input = vertex_input(at, 0);
        input.position = {};
        input.normal = {};
        input.base = {};
        for (std::size_t k = 0; k < 3; ++k) {
            const point_input corner = vertex_input(at, k);
            input.position = input.position + corner.position * at.share[k];
            input.normal = input.normal + corner.normal * at.share[k];
            input.base = input.base + corner.base * at.share[k];
        }
        lighting->evaluate(at.place.object, *at.look, input, &explained.point);
        explained_point& point = explained.point;
        point.ambient = {};
        point.emission = {};
        for (explained_light& light : point.lights) {
            light.ambient = {};
            light.diffuse = {};
            light.specular = {};
        }
        for (const explained_vertex& vertex : explained.vertices) {
            point.ambient = point.ambient + vertex.at.ambient * vertex.weight;
            point.emission = point.emission + vertex.at.emission * vertex.weight;
            for (std::size_t i = 0; i < point.lights.size(); ++i) {
                point.lights[i].ambient =
                    point.lights[i].ambient + vertex.at.lights[i].ambient * vertex.weight;
                point.lights[i].diffuse =
                    point.lights[i].diffuse + vertex.at.lights[i].diffuse * vertex.weight;
                point.lights[i].specular =
                    point.lights[i].specular + vertex.at.lights[i].specular * vertex.weight;
            }
        }
        tint(point, texel);
    }

    lit_pixel tell(explanation* explained, const seen_triangle& at, const lit_pixel& pixel) const {
        if (explained != nullptr) {
            const std::size_t source = at.object->source;
            explained->object = source;
            explained->object_name = label_of(of.objects[source], source);
            explained->material = at.object->material;
            explained->material_name = staged.materials[at.object->material].name;
            explained->triangle = at.place.triangle;
            explained->front = at.front;
            explained->turned = at.turned;
            explained->textured = at.image != nullptr;
            explained->texel = at.object->field ? rgb<double>(1.0) : texel_at(at);
            explained->point.color = pixel.color;
        }
        return pixel;
    }

    lit_pixel pixel(int x, int y, explanation* explained) const {
        if (wrong.has(picture_upside_down)) {
            y = staged.view.height - 1 - y;
        }
        lit_pixel result{staged.view.background, staged.view.background_alpha};
        const std::uint32_t id = visible->triangles[visible->index(x, y)];
        if (id != pipeline::visibility::nothing) {
            const seen_triangle at = triangle_at(x, y, id);
            if (at.object->field) {
                result = field_pixel(x, y, at, explained);
            } else if (staged.rate == rate::fragment) {
                result = fragment_pixel(at, explained);
            } else if (staged.rate == rate::vertex) {
                result = vertex_pixel(at, explained);
            } else {
                result = face_pixel(at, explained);
            }
        }
        if (wrong.has(channels_swapped)) {
            std::swap(result.color.r, result.color.b);
        }
        return result;
    }
};

point_painter::point_painter(const scene& the_scene, const mistake_set& wrong,
                             std::shared_ptr<const seen_scene> seen, const painting& how)
    : parts_(std::make_unique<const parts>(the_scene, wrong, std::move(seen), how)) {}
point_painter::~point_painter() = default;
point_painter::point_painter(point_painter&&) noexcept = default;
point_painter& point_painter::operator=(point_painter&&) noexcept = default;

lit_pixel point_painter::at(int x, int y) const { return parts_->pixel(x, y, nullptr); }

explanation point_painter::explain(int x, int y) const {
    explanation explained;
    explained.rate = parts_->staged.rate;
    explained.model = parts_->model;
    explained.own_model = parts_->own_model;
    const lit_pixel pixel = parts_->pixel(x, y, &explained);
    explained.linear = pixel.color;
    explained.alpha = pixel.alpha;
    const std::array<double, 3> linear{pixel.color.r, pixel.color.g, pixel.color.b};
    for (std::size_t c = 0; c < 3; ++c) {
        explained.encoded[c] = code_with(linear[c], parts_->wrong);
        explained.clamped[c] = linear[c] > 1 || linear[c] < 0;
    }
    return explained;
}

picture point_painter::whole() const {
    const view& seen = parts_->staged.view;
    picture result(seen.width, seen.height);
    pipeline::for_each_of(result.height, [&](int y) {
        for (int x = 0; x < result.width; ++x) {
            const lit_pixel pixel = at(x, y);
            result.set(x, y, rgb<float>(pixel.color), static_cast<float>(pixel.alpha));
        }
    });
    return result;
}

} // namespace yurvo::inline v0_1::verify
