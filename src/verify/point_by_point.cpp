#include "point_by_point.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include <Eigen/LU>
#include <oneapi/tbb/parallel_for.h>

#include "mistaken_scene.hpp"
#include "yurvo/geometry/normals.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/probe.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::verify {

namespace {

using enum mistake;
using weights = std::array<double, 3>;

// A light as one object's lighting is handed it.
struct handed_light {
    light given;
    ready_light<double> ready;
};

struct object_lighting {
    lighting_data data;
    std::vector<handed_light> lights;
};

// Where the corners of the triangle are, for what is interpolated from them.
struct corner_places {
    std::array<vec3<double>, 3> position;
    weights share{};
};

// What the model is given at one point.
struct point_input {
    vec3<double> position; // of the lighting, world
    vec3<double> normal;   // of any length
    bool between_vertices = false;
    rgb<double> base{1, 1, 1};
    const corner_places* corners = nullptr; // at rate fragment, on a mesh
};

struct point_result {
    outgoing<double> lit;
    double lightness = 1; // luminance of the ambient and diffuse factors
};

// The greatest power that is carried on: that of a vector by far too long. A product with zero must stay
// zero.
constexpr double most_power = 1e30;

double luminance(const rgb<double>& c) { return 0.2126 * c.r + 0.7152 * c.g + 0.0722 * c.b; }

rgb<double> blended(const std::array<rgb<double>, 3>& of, const weights& by) {
    return of[0] * by[0] + of[1] * by[1] + of[2] * by[2];
}
vec3<double> blended(const std::array<vec3<double>, 3>& of, const weights& by) {
    return of[0] * by[0] + of[1] * by[1] + of[2] * by[2];
}

// A mistake in a step that the scene does not have changes nothing.
mistake_set those_that_apply(const mistake_set& asked, const scene& to) {
    mistake_set made;
    for (const mistake_entry& one : all_mistakes()) {
        if (asked.has(one.which) && (applies(one.which, to) || is_of_output(one.which))) {
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
    term_choice terms;
    pipeline::stage staged;
    pipeline::visibility other_visible;
    const pipeline::visibility* visible = nullptr;
    std::vector<object_lighting> objects;
    vec3<double> eye;     // to which v points
    bool all_unit = true; // every vector that formulas take for unit is
    bool unit_at_vertices = true;
    bool vertex_rays = false; // l is interpolated from the vertices

    parts(const scene& given, const mistake_set& with, std::shared_ptr<const seen_scene> seen_,
          const term_choice& terms_, bool unit_at_vertices_)
        : of(mistaken_scene(given, those_that_apply(with, given))),
          wrong(those_that_apply(with, given)),
          seen(std::move(seen_)),
          terms(terms_),
          unit_at_vertices(unit_at_vertices_) {
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
        eye = wrong.has(specular_eye_at_origin) ? vec3<double>{} : staged.lit_eye;
        vertex_rays = wrong.has(to_light_normalized_per_vertex) && staged.rate == rate::fragment;
        all_unit = !(wrong.has(normal_not_renormalized) || wrong.has(half_not_normalized) ||
                     wrong.has(to_light_not_normalized) || vertex_rays || wrong.has(shines_not_normalized));
        for (const pipeline::staged_object& one : staged.objects) {
            object_lighting made{lighting_data_of(staged, one, wrong), {}};
            for (const light& light : made.data.lights) {
                made.lights.push_back(hand(light));
            }
            objects.push_back(std::move(made));
        }
    }

    [[nodiscard]] handed_light hand(const light& given) const {
        handed_light made{given, make_ready<double>(given)};
        if (wrong.has(cone_angle_in_degrees)) {
            // The cosine of an angle in degrees, taken as if it were in radians.
            made.ready.inner_versine = 1 - std::cos(degrees(given.inner));
            made.ready.outer_versine = 1 - std::cos(degrees(given.outer));
        }
        if (wrong.has(cone_inner_outer_swapped) && made.ready.penumbra != penumbra_kind::hard &&
            made.ready.penumbra != penumbra_kind::power) {
            std::swap(made.ready.inner_versine, made.ready.outer_versine);
        }
        if (wrong.has(shines_not_normalized)) {
            made.ready.axis = given.shines;
            made.ready.to_light = -given.shines;
        }
        return made;
    }

    [[nodiscard]] double falloff(const handed_light& of_light, double d) const {
        const light& given = of_light.given;
        if (wrong.has(falloff_not_squared)) {
            switch (given.falloff) {
            case falloff_kind::inverse_square:
                return 1 / d;
            case falloff_kind::polynomial:
                return 1 / (given.coefficients[0] + given.coefficients[1] * d + given.coefficients[2] * d);
            case falloff_kind::windowed:
                return formula::falloff_windowed(d, given.range) * d;
            case falloff_kind::none:
            case falloff_kind::linear:
                break;
            }
        }
        return falloff_at<formula>(of_light.ready, d, of_light.ready.law());
    }

    [[nodiscard]] double penumbra(const handed_light& of_light, const vec3<double>& l, double& cosine) const {
        const ready_light<double>& ready = of_light.ready;
        double theta = all_unit ? formula::penumbra_versine(l, ready.axis) : 1 + dot(l, ready.axis);
        if (wrong.has(cone_axis_flipped)) {
            theta = 2 - theta;
        }
        cosine = 1 - theta;
        const auto position = [&] {
            return formula::penumbra_position(theta, ready.inner_versine, ready.outer_versine);
        };
        switch (ready.penumbra) {
        case penumbra_kind::hard:
            return formula::penumbra_hard(theta, ready.outer_versine);
        case penumbra_kind::ramp:
            return formula::penumbra_ramp(position());
        case penumbra_kind::squared:
            return formula::penumbra_squared(position());
        case penumbra_kind::smooth:
            return formula::penumbra_smooth(position());
        case penumbra_kind::power:
            break;
        }
        if (all_unit) {
            return formula::penumbra_power(theta, ready.outer_versine, ready.exponent);
        }
        return theta <= ready.outer_versine ? power(cosine, ready.exponent) : 0;
    }

    static double power(double cosine, double exponent) {
        return cosine > 0 ? std::min(std::pow(cosine, exponent), most_power) : 0;
    }

    // What one light does; `of_object` has it as its i-th.
    struct light_result {
        rgb<double> diffuse, specular; // before base and the material's factors
        double gradient = 0;
    };
    [[nodiscard]] light_result light_up(const handed_light& from, const point_input& at,
                                        const vec3<double>& n, const vec3<double>& v, const material& look,
                                        explained_light* told) const {
        const bool directional = from.given.kind == light_kind::directional;
        const vec3<double> whole = directional ? from.ready.to_light : from.ready.position - at.position;
        const double d = directional ? std::numeric_limits<double>::infinity() : length(whole);
        const vec3<double> unit = directional ? whole : normalize(whole);
        double fall = 1;
        double around = 1;
        double cone = 1;
        if (!directional) {
            fall = d > 0 ? falloff(from, d) : 0;
            around = from.given.kind == light_kind::spot && d > 0 ? penumbra(from, unit, cone) : 1;
        }
        const double brightness = from.given.intensity * fall * around;
        if (brightness == 0 && told == nullptr && !wrong.has(specular_without_falloff)) {
            return {}; // it does not reach
        }
        const rgb<double> arriving = from.given.color * brightness;

        vec3<double> l = unit;
        if (!directional) {
            if (vertex_rays && at.corners != nullptr) {
                std::array<vec3<double>, 3> of_corners;
                for (std::size_t k = 0; k < 3; ++k) {
                    of_corners[k] = normalize(from.ready.position - at.corners->position[k]);
                }
                l = blended(of_corners, at.corners->share);
            }
            if (wrong.has(to_light_not_normalized)) {
                l = whole;
            }
        }
        if (wrong.has(light_direction_flipped)) {
            l = -l;
        }
        const double cosine = dot(n, l);
        const double kept = wrong.has(cosine_not_clamped) ? cosine : std::max(cosine, 0.0);

        light_result made;
        made.gradient = brightness * kept;
        made.diffuse = arriving * kept;
        if (wrong.has(clamp_per_light)) {
            made.diffuse = min(made.diffuse, rgb<double>(1.0));
        }
        if (wrong.has(factor_pi)) {
            made.diffuse = made.diffuse * (1 / pi);
        }
        const model_kind model = of.shading.model;
        vec3<double> h = formula::half(l, v);
        vec3<double> r = formula::reflect(n, l);
        double highlight = 0;
        double its_cosine = 0;
        if (model == model_kind::phong || model == model_kind::blinn_phong) {
            if (wrong.has(half_not_normalized)) {
                h = (l + v) * 0.5;
            }
            if (wrong.has(specular_reflect_flipped)) {
                r = -r;
            }
            const bool by_half = model == model_kind::blinn_phong || wrong.has(specular_half_for_reflect);
            its_cosine = by_half ? dot(n, h) : dot(r, v);
            if (!all_unit) {
                highlight = power(its_cosine, look.shininess);
            } else if (by_half) {
                highlight = formula::blinn_phong_highlight(n, h, look.shininess);
            } else {
                highlight = formula::phong_highlight(r, v, look.shininess);
            }
            if (!wrong.has(specular_on_unlit_side)) {
                highlight = cosine > 0 ? highlight : 0;
            }
            if (wrong.has(specular_times_cosine)) {
                highlight *= cosine;
            }
            const bool bare = wrong.has(specular_without_falloff) && !directional && d > 0;
            made.specular = (bare ? from.given.color * from.given.intensity : arriving) * highlight;
        }
        if (told != nullptr) {
            *told = {.kind = from.given.kind,
                     .falloff_law = from.given.falloff,
                     .penumbra_law = from.ready.penumbra,
                     .whole = whole,
                     .to_light = unit,
                     .distance = d,
                     .cosine = cosine,
                     .falloff = fall,
                     .cone_cosine = cone,
                     .penumbra = around,
                     .arriving = arriving,
                     .half = h,
                     .reflected = r,
                     .highlight_cosine = its_cosine,
                     .highlight = highlight,
                     .gradient = made.gradient};
        }
        return made;
    }

    point_result evaluate(std::size_t o, const material& look, const point_input& at,
                          explained_point* told) const {
        vec3<double> n = at.normal;
        if (!at.between_vertices || !wrong.has(normal_not_renormalized)) {
            n = formula::interpolated_normal(n);
        }
        if (wrong.has(normal_flipped)) {
            n = -n;
        }
        vec3<double> v = formula::to_eye(at.position, eye);
        if (wrong.has(eye_vector_flipped)) {
            v = -v;
        }
        const model_kind model = of.shading.model;
        rgb<double> diffuse;
        rgb<double> specular;
        double gradient = 0;
        if (model != model_kind::unlit) {
            for (std::size_t i = 0; i < objects[o].lights.size(); ++i) {
                explained_light one;
                const light_result made =
                    light_up(objects[o].lights[i], at, n, v, look, told != nullptr ? &one : nullptr);
                diffuse = diffuse + made.diffuse;
                specular = specular + made.specular;
                gradient += made.gradient;
                if (told != nullptr) {
                    one.name = label_of(of.lights[i], i);
                    if (model != model_kind::cel) {
                        one.diffuse = made.diffuse * look.diffuse * at.base;
                        one.specular = made.specular * look.specular;
                    }
                    told->lights.push_back(std::move(one));
                }
            }
        }
        point_result made = put_together(look, at.base, n, v, {diffuse, specular}, gradient, told);
        if (told != nullptr) {
            told->position = at.position;
            told->normal = n;
            told->normal_length = length(at.normal);
            told->to_eye = v;
            told->eye_distance = length(eye - at.position);
            told->base = at.base;
            told->color = made.lit.tinted + made.lit.untinted;
        }
        return made;
    }

    [[nodiscard]] point_result put_together(const material& look, const rgb<double>& base,
                                            const vec3<double>& n, const vec3<double>& v,
                                            const reflected<double>& sum, double gradient,
                                            explained_point* told) const {
        point_result made;
        if (of.shading.model == model_kind::unlit) {
            made.lit = {base, {}};
            return made;
        }
        if (of.shading.model == model_kind::cel) {
            const cel_settings& cel = of.shading.cel;
            const double g = std::clamp(gradient, 0.0, 1.0);
            std::size_t band = 0;
            for (const double threshold : cel.thresholds) {
                band += threshold <= g ? 1U : 0U;
            }
            const bool outlined = dot(n, v) < cel.outline;
            made.lit = outlined ? outgoing<double>{{}, cel.outline_color}
                                : outgoing<double>{cel.bands[band] * base, {}};
            if (told != nullptr) {
                told->gradient = g;
                told->band = outlined ? -1 : static_cast<int>(band);
            }
            return made;
        }
        const rgb<double> none(0.0);
        const rgb<double> ambient = terms.ambient ? staged.ambient_light * look.ambient : none;
        const rgb<double> diffuse = terms.diffuse ? sum.diffuse * look.diffuse : none;
        const rgb<double> both =
            of.shading.ambient_rule == ambient_rule::max ? max(ambient, diffuse) : ambient + diffuse;
        rgb<double> tinted = both * base;
        rgb<double> untinted = terms.emission ? look.emission : none;
        if (terms.specular) {
            const rgb<double> specular = sum.specular * look.specular;
            if (wrong.has(specular_tinted_by_base)) {
                tinted = tinted + specular * base;
            } else {
                untinted = untinted + specular;
            }
        }
        made.lit = {tinted, untinted};
        made.lightness = luminance(ambient + diffuse);
        if (told != nullptr) {
            told->ambient = ambient * base;
            told->emission = terms.emission ? look.emission : none;
        }
        return made;
    }

    [[nodiscard]] vec3<double> moved_normal(std::size_t o, const vec3<double>& normal) const {
        const vec3<double> moved = transform_point(objects[o].data.normal_to_world, normal);
        return unit_at_vertices || staged.rate != rate::fragment ? normalize(moved) : moved;
    }
    [[nodiscard]] vec3<double> moved_point(std::size_t o, const vec3<double>& point) const {
        return transform_point(objects[o].data.to_world, point);
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
        const model_kind model = of.shading.model;
        if (wrong.has(alpha_lit) && model != model_kind::unlit && model != model_kind::cel) {
            pixel.alpha *= std::clamp(made.lightness, 0.0, 1.0);
        }
        return pixel;
    }

    lit_pixel field_pixel(int x, int y, seen_triangle at, explanation* told) const {
        const pipeline::staged_object& object = *at.object;
        const std::optional<pipeline::seen_point> met = probe(staged, *visible, x, y);
        const vec3<double> in_object = transform_point(object.to_world.inverse(), met->position);
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
            evaluate(at.place.object, *at.look, input, told != nullptr ? &told->point : nullptr);
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
        const point_result made = evaluate(o, *at.look, input, told != nullptr ? &told->point : nullptr);
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
            const point_result made = evaluate(at.place.object, *at.look, vertex_input(at, k),
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
            evaluate(at.place.object, *at.look, input, told != nullptr ? &told->point : nullptr);
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
        evaluate(at.place.object, *at.look, input, &told.point);
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
                             std::shared_ptr<const seen_scene> seen, const term_choice& terms,
                             bool unit_at_vertices)
    : parts_(std::make_unique<const parts>(of, wrong, std::move(seen), terms, unit_at_vertices)) {}
point_painter::~point_painter() = default;
point_painter::point_painter(point_painter&&) noexcept = default;
point_painter& point_painter::operator=(point_painter&&) noexcept = default;

lit_pixel point_painter::at(int x, int y) const { return parts_->pixel(x, y, nullptr); }

explanation point_painter::explain(int x, int y) const {
    explanation told;
    told.rate = parts_->staged.rate;
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
    oneapi::tbb::parallel_for(0, made.height, [&](int y) {
        for (int x = 0; x < made.width; ++x) {
            const lit_pixel one = at(x, y);
            made.set(x, y, rgb<float>(one.color), static_cast<float>(one.alpha));
        }
    });
    return made;
}

picture draw_with_mistakes(const scene& of, const mistake_set& wrong, const term_choice& terms) {
    return point_painter(of, wrong, see(of), terms).whole();
}

std::uint8_t code_with(double linear, const mistake_set& wrong, encoding how) {
    int times = how == encoding::srgb ? 1 : 0;
    if (wrong.has(encode_missing)) {
        times = 0;
    }
    if (wrong.has(encode_twice)) {
        times *= 2;
    }
    const bool wraps = wrong.has(output_wraps);
    double value = wraps ? linear : std::clamp(linear, 0.0, 1.0);
    if (std::isnan(value)) {
        return 0;
    }
    for (int i = 0; i < times; ++i) {
        value = srgb_encoded(value);
    }
    const double code = std::round(255 * value);
    return static_cast<std::uint8_t>(wraps ? code - 256 * std::floor(code / 256) : code);
}

std::vector<std::uint8_t> codes_with(const picture& linear, const mistake_set& wrong, encoding how) {
    std::vector<std::uint8_t> codes = codes_of(linear, how);
    if (!(wrong.has(encode_missing) || wrong.has(encode_twice) || wrong.has(output_wraps))) {
        return codes;
    }
    for (std::size_t i = 0; i < linear.values.size(); ++i) {
        if (i % 4 != 3) {
            codes[i] = code_with(static_cast<double>(linear.values[i]), wrong, how);
        }
    }
    return codes;
}

} // namespace yurvo::verify
