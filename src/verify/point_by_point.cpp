#include "verify/point_by_point.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

#include "pipeline/parallel.hpp"
#include "pipeline/probe.hpp"
#include "verify/point_lighting.hpp"
#include "yurvo/geometry/normals.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::verify {

namespace {

using enum mistake;
using weights = corner_weights;

rgb<double> blended(const std::array<rgb<double>, 3>& of, const weights& by) {
    return of[0] * by[0] + of[1] * by[1] + of[2] * by[2];
}
vec3<double> blended(const std::array<vec3<double>, 3>& of, const weights& by) {
    return of[0] * by[0] + of[1] * by[1] + of[2] * by[2];
}

// A mistake in a step that the scene does not have changes nothing.
mistake_set those_that_apply(const mistake_set& asked, const scene& to, lit_by model) {
    mistake_set made;
    for (const mistake_entry& one : all_mistakes()) {
        if (asked.has(one.which) && (applies(one.which, to, model) || is_of_output(one.which))) {
            made.add(one.which);
        }
    }
    return made;
}

// Weights on the screen, without the division by depth. Where a corner lies behind the eye there are none,
// and the right ones are taken.
weights affine_weights(const std::array<vec3<double>, 3>& corners, double x, double y,
                       const weights& right_ones) {
    if (!(corners[0].z > 0 && corners[1].z > 0 && corners[2].z > 0)) {
        return right_ones;
    }
    const auto at = [&](std::size_t i) {
        return std::array<double, 2>{corners[i].x / corners[i].z, corners[i].y / corners[i].z};
    };
    const auto [ax, ay] = at(0);
    const auto [bx, by] = at(1);
    const auto [cx, cy] = at(2);
    const double area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (!(std::abs(area) > 1e-9)) {
        return right_ones;
    }
    const double of_b = ((x - ax) * (cy - ay) - (y - ay) * (cx - ax)) / area;
    const double of_c = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / area;
    return {1 - of_b - of_c, of_b, of_c};
}

} // namespace

std::shared_ptr<const seen_scene> see(const scene& of) {
    auto made = std::make_shared<seen_scene>();
    made->staged = pipeline::make_stage(of);
    made->visible = pipeline::find_visible(made->staged);
    return made;
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

    parts(const scene& given, const mistake_set& with, std::shared_ptr<const seen_scene> seen_,
          const painting& how)
        : of(mistaken_scene(given, those_that_apply(with, given, model_of(how)))),
          wrong(those_that_apply(with, given, model_of(how))),
          seen(std::move(seen_)),
          unit_at_vertices(how.unit_at_vertices),
          model(descriptor_of(of.shading.model)),
          own_model(how.own != nullptr) {
        if (own_model) {
            model = {.lit = how.own->needs_lights(), .sums_terms = !how.own->has_own_finish()};
        }
        if (wrong.has(normal_shared_corners)) {
            staged = pipeline::make_stage(of);
        } else { // the same geometry
            staged = seen->staged;
            staged.lights.assign(1, {});
            for (const named_light& one : of.lights) {
                staged.lights.front().push_back(light_in_world(one, staged.seen_from));
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
        for (const pipeline::staged_object& one : staged.objects) {
            objects.push_back(lighting_data_of(staged, one, wrong));
        }
        lighting.emplace(of, staged, objects, wrong, how.terms, how.own);
    }

    static lit_by model_of(const painting& how) {
        return how.own != nullptr ? lit_by::own_model : lit_by::scene_model;
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
        seen_triangle made;
        made.place = place_of(staged, id);
        made.object = &staged.objects[made.place.object];
        const named_material& material = staged.materials[made.object->material];
        made.look = &material.look;
        made.image = material.image.get();
        if (!made.object->field) {
            const pipeline::triangle_weights all = weights_of(staged, made.place);
            made.front = (all.determinant() < 0) != made.object->mirrored;
            made.share = all.at(x + 0.5, y + 0.5);
            if (wrong.has(interpolation_affine)) {
                made.share = affine_weights(corners_in_picture(made), x + 0.5, y + 0.5, made.share);
            }
        }
        made.turned = made.look->two_sided && !made.front;
        return made;
    }

    [[nodiscard]] std::array<vec3<double>, 3> corners_in_picture(const seen_triangle& of_it) const {
        const mesh& shape = *of_it.object->shape;
        std::array<vec3<double>, 3> made;
        for (std::size_t k = 0; k < 3; ++k) {
            const vec3<double>& p = shape.positions[shape.triangles[of_it.place.triangle][k]];
            made[k] =
                staged.seen_from.to_pixels(transform_point(of_it.object->to_world, p) - staged.seen_from.eye);
        }
        return made;
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
    lit_pixel finish(const seen_triangle& at, const point_result& made, const rgb<double>& tint) const {
        lit_pixel pixel{made.lit.tinted * tint + made.lit.untinted, at.look->alpha};
        if (wrong.has(alpha_lit)) { // 1 where the model has no such terms
            pixel.alpha *= std::clamp(made.lightness, 0.0, 1.0);
        }
        return pixel;
    }

    lit_pixel field_pixel(int x, int y, seen_triangle at, explanation* told) const {
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
        const point_result made =
            lighting->evaluate(at.place.object, *at.look, input, told != nullptr ? &told->point : nullptr);
        return tell(told, at, finish(at, made, rgb<double>(1.0)));
    }

    lit_pixel fragment_pixel(const seen_triangle& at, explanation* told) const {
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
        input.corners = &places;
        const point_result made =
            lighting->evaluate(o, *at.look, input, told != nullptr ? &told->point : nullptr);
        return tell(told, at, finish(at, made, rgb<double>(1.0)));
    }

    [[nodiscard]] point_input vertex_input(const seen_triangle& at, std::size_t k) const {
        const std::size_t o = at.place.object;
        const mesh& shape = *at.object->shape;
        const std::uint32_t vertex = shape.triangles[at.place.triangle][k];
        point_input input;
        input.position = moved_point(o, shape.positions[vertex]);
        input.normal = moved_normal(o, shape.normals[vertex]) * (at.turned ? -1.0 : 1.0);
        input.base = at.look->base * vertex_color(shape, vertex);
        return input;
    }

    lit_pixel vertex_pixel(const seen_triangle& at, explanation* told) const {
        point_result sum;
        sum.lightness = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            explained_vertex vertex;
            const point_result made = lighting->evaluate(at.place.object, *at.look, vertex_input(at, k),
                                                         told != nullptr ? &vertex.at : nullptr);
            sum.lit.tinted = sum.lit.tinted + made.lit.tinted * at.share[k];
            sum.lit.untinted = sum.lit.untinted + made.lit.untinted * at.share[k];
            sum.lightness += made.lightness * at.share[k];
            if (told != nullptr) {
                vertex.weight = at.share[k];
                told->vertices.push_back(std::move(vertex));
            }
        }
        const rgb<double> texel = texel_at(at);
        if (told != nullptr) {
            tell_blend(*told, at, texel);
        }
        return tell(told, at, finish(at, sum, texel));
    }

    lit_pixel face_pixel(const seen_triangle& at, explanation* told) const {
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
        const rgb<double> texel = texel_at(at);
        const point_result made =
            lighting->evaluate(at.place.object, *at.look, input, told != nullptr ? &told->point : nullptr);
        if (told != nullptr) {
            tint(told->point, texel);
        }
        return tell(told, at, finish(at, made, texel));
    }

    // What the texture does to a point that was lit before it was sampled.
    static void tint(explained_point& point, const rgb<double>& texel) {
        point.base = point.base * texel;
        point.ambient = point.ambient * texel;
        for (explained_light& light : point.lights) {
            light.diffuse = light.diffuse * texel;
        }
    }

    // At rate vertex: the pixel's own place, with the terms blended from the vertices.
    void tell_blend(explanation& told, const seen_triangle& at, const rgb<double>& texel) const {
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
        lighting->evaluate(at.place.object, *at.look, input, &told.point);
        explained_point& point = told.point;
        point.ambient = {};
        point.emission = {};
        for (explained_light& light : point.lights) {
            light.diffuse = {};
            light.specular = {};
        }
        for (const explained_vertex& vertex : told.vertices) {
            point.ambient = point.ambient + vertex.at.ambient * vertex.weight;
            point.emission = point.emission + vertex.at.emission * vertex.weight;
            for (std::size_t i = 0; i < point.lights.size(); ++i) {
                point.lights[i].diffuse =
                    point.lights[i].diffuse + vertex.at.lights[i].diffuse * vertex.weight;
                point.lights[i].specular =
                    point.lights[i].specular + vertex.at.lights[i].specular * vertex.weight;
            }
        }
        tint(point, texel);
    }

    lit_pixel tell(explanation* told, const seen_triangle& at, const lit_pixel& pixel) const {
        if (told != nullptr) {
            const std::size_t source = at.object->source;
            told->object = source;
            told->object_name = label_of(of.objects[source], source);
            told->material = at.object->material;
            told->material_name = staged.materials[at.object->material].name;
            told->triangle = at.place.triangle;
            told->front = at.front;
            told->turned = at.turned;
            told->textured = at.image != nullptr;
            told->texel = at.object->field ? rgb<double>(1.0) : texel_at(at);
            told->point.color = pixel.color;
        }
        return pixel;
    }

    lit_pixel pixel(int x, int y, explanation* told) const {
        if (wrong.has(picture_upside_down)) {
            y = staged.view.height - 1 - y;
        }
        lit_pixel made{staged.view.background, staged.view.background_alpha};
        const std::uint32_t id = visible->triangles[visible->index(x, y)];
        if (id != pipeline::visibility::nothing) {
            const seen_triangle at = triangle_at(x, y, id);
            if (at.object->field) {
                made = field_pixel(x, y, at, told);
            } else if (staged.rate == rate::fragment) {
                made = fragment_pixel(at, told);
            } else if (staged.rate == rate::vertex) {
                made = vertex_pixel(at, told);
            } else {
                made = face_pixel(at, told);
            }
        }
        if (wrong.has(channels_swapped)) {
            std::swap(made.color.r, made.color.b);
        }
        return made;
    }
};

point_painter::point_painter(const scene& of, const mistake_set& wrong,
                             std::shared_ptr<const seen_scene> seen, const painting& how)
    : parts_(std::make_unique<const parts>(of, wrong, std::move(seen), how)) {}
point_painter::~point_painter() = default;
point_painter::point_painter(point_painter&&) noexcept = default;
point_painter& point_painter::operator=(point_painter&&) noexcept = default;

lit_pixel point_painter::at(int x, int y) const { return parts_->pixel(x, y, nullptr); }

explanation point_painter::explain(int x, int y) const {
    explanation told;
    told.rate = parts_->staged.rate;
    told.model = parts_->model;
    told.own_model = parts_->own_model;
    const lit_pixel pixel = parts_->pixel(x, y, &told);
    told.linear = pixel.color;
    told.alpha = pixel.alpha;
    const std::array<double, 3> linear{pixel.color.r, pixel.color.g, pixel.color.b};
    for (std::size_t c = 0; c < 3; ++c) {
        told.encoded[c] = code_with(linear[c], parts_->wrong);
        told.clamped[c] = linear[c] > 1 || linear[c] < 0;
    }
    return told;
}

picture point_painter::whole() const {
    const view& seen = parts_->staged.view;
    picture made(seen.width, seen.height);
    pipeline::for_each_of(made.height, [&](int y) {
        for (int x = 0; x < made.width; ++x) {
            const lit_pixel one = at(x, y);
            made.set(x, y, rgb<float>(one.color), static_cast<float>(one.alpha));
        }
    });
    return made;
}

} // namespace yurvo::verify
