// Random right scenes in the harbour: whatever the scene file can say, from a seed.
#pragma once

#include <cstdint>
#include <memory>
#include <random>

#include "yurvo/scene/scene.hpp"

namespace yurvo::testing {

class random_scenes {
    std::mt19937_64 engine_;
    bool textures_;

    double between(double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(engine_);
    }
    std::uint32_t whole(std::uint32_t low, std::uint32_t high) {
        return std::uniform_int_distribution<std::uint32_t>(low, high)(engine_);
    }
    bool chance(double probability) { return between(0, 1) < probability; }
    rgb<double> color() { return {between(0, 1), between(0, 1), between(0, 1)}; }
    vec3<double> point(double reach) {
        return {between(-reach, reach), between(-reach, reach), between(-reach, reach)};
    }
    template <class Enum> Enum any(std::size_t count) {
        return static_cast<Enum>(whole(0, static_cast<std::uint32_t>(count - 1)));
    }

    field_shape random_field() {
        field made;
        made.parts.clear();
        made.kind = any<field_kind>(5);
        const bool several = made.kind == field_kind::smooth_union;
        made.blend = several ? between(0.1, 0.5) : made.blend;
        const std::uint32_t count = several ? whole(2, 4) : 1;
        for (std::uint32_t i = 0; i < count; ++i) {
            field_part part;
            part.kind = several ? any<field_kind>(4) : made.kind;
            part.position = several ? point(0.5) : vec3<double>{};
            // What a kind does not use keeps its default, as when it is read from a file.
            if (part.kind == field_kind::rounded_box) {
                part.size = {between(0.5, 1.5), between(0.5, 1.5), between(0.5, 1.5)};
                part.rounding = between(0.02, 0.24);
            } else {
                part.radius = between(0.3, 0.8);
            }
            if (part.kind == field_kind::torus) {
                part.tube = between(0.1, 0.25);
            }
            if (part.kind == field_kind::capsule) {
                part.height = between(0.2, 1);
            }
            made.parts.push_back(part);
        }
        return {made};
    }

    std::shared_ptr<const texture> picture_of_planks() {
        texture made;
        made.width = static_cast<int>(whole(1, 9));
        made.height = static_cast<int>(whole(1, 9));
        made.texels.clear();
        for (int i = 0; i < made.width * made.height; ++i) {
            made.texels.emplace_back(color());
        }
        return std::make_shared<const texture>(made);
    }

    any_shape shape() {
        switch (whole(0, 6)) {
        case 0:
            return plane_shape{{between(0.5, 5), between(0.5, 5)}, {whole(1, 6), whole(1, 6)}};
        case 1:
            return box_shape{{between(0.3, 2), between(0.3, 2), between(0.3, 2)}};
        case 2:
            return cylinder_shape{between(0.2, 1), between(0.3, 2), {whole(3, 24), whole(1, 4)}};
        case 3:
            return cone_shape{between(0.2, 1), between(0.3, 2), {whole(3, 24), whole(1, 4)}};
        case 4:
            return torus_shape{between(0.5, 1), between(0.1, 0.4), {whole(3, 24), whole(3, 12)}};
        case 5:
            return random_field();
        default:
            return sphere_shape{between(0.3, 1.2), {whole(3, 24), whole(2, 12)}};
        }
    }

    named_light light() {
        named_light named;
        yurvo::light& made = named.light;
        made.kind = any<light_kind>(3);
        made.position = point(4);
        made.shines = point(1);
        if (made.kind == light_kind::spot) {
            made.shines = (vec3<double>{} - made.position) * between(0.2, 3); // at the scene, of any length
        }
        made.color = color();
        made.intensity = between(0.2, 2);
        made.falloff = any<falloff_kind>(5);
        made.coefficients = {between(0.1, 1), between(0, 1), between(0, 1)};
        made.range = between(2, 10);
        made.penumbra = any<penumbra_kind>(5);
        const double outer = between(5, made.penumbra == penumbra_kind::power ? 90 : 120);
        made.outer = radians(outer);
        made.inner = radians(outer * between(0, 1));
        made.exponent = between(0.5, 30);
        if (chance(0.4)) {
            made.ambient = color() * between(0, 0.5);
            made.diffuse = color();
            made.specular = color() * between(0, 2);
            made.follows = any<ambient_follows>(3);
        }
        if (chance(0.3)) {
            named.space = light_space::view;
            made.position.z -= 4;
        }
        return named;
    }

  public:
    // Textures are made here, not read: a scene file would not find them.
    explicit random_scenes(std::uint64_t seed, bool textures = false) : engine_(seed), textures_(textures) {}

    scene next(int width = 64, int height = 40) {
        scene made;
        made.view.eye = normalize(point(1)) * between(5, 9);
        made.view.target = point(0.5);
        made.view.up = normalize(vec3<double>{0.1, 1, 0.2} + point(0.3));
        made.view.fov = radians(between(25, 70));
        made.view.near = between(0.05, 0.5);
        made.view.far = chance(0.2) ? between(6, 9) : between(20, 200);
        made.view.width = width;
        made.view.height = height;
        made.view.background = color() * 0.2;
        made.ambient_color = color();
        made.ambient_strength = between(0, 0.3);
        made.shading.model = any<model_kind>(5);
        made.shading.rate = any<rate>(3);
        if (made.shading.model == model_kind::cel) {
            made.shading.rate = rate::fragment;
            made.shading.cel.outline = between(0, 0.4);
            made.shading.cel.outline_color = color();
        }
        made.shading.ambient_rule = any<ambient_rule>(2);
        const std::uint32_t materials = whole(1, 3);
        for (std::uint32_t i = 0; i < materials; ++i) {
            named_material material;
            material.name = "paint-" + std::to_string(i);
            material.look.base = color();
            material.look.alpha = chance(0.2) ? between(0, 1) : 1;
            material.look.ambient = chance(0.5) ? color() : rgb<double>(1.0);
            material.look.diffuse = chance(0.5) ? color() : rgb<double>(1.0);
            material.look.specular = color();
            material.look.shininess = between(1, 200);
            material.look.emission = chance(0.3) ? color() * 0.2 : rgb<double>();
            material.look.two_sided = chance(0.4);
            if (textures_ && chance(0.4)) {
                material.texture_file = "planks.png";
                material.image = picture_of_planks();
            }
            made.materials.push_back(material);
        }
        const std::uint32_t objects = whole(1, 5);
        for (std::uint32_t i = 0; i < objects; ++i) {
            object one;
            one.shape = shape();
            one.material = whole(0, materials - 1);
            one.normals = any<normals_kind>(3);
            one.placed.position = point(1.5);
            one.placed.rotation = {radians(between(-180, 180)), radians(between(-180, 180)),
                                   radians(between(-180, 180))};
            one.placed.scale = {between(0.4, 2), between(0.4, 2), between(0.4, 2)};
            if (chance(0.3)) {
                one.placed.scale.x *= -1;
            }
            if (std::holds_alternative<field_shape>(one.shape)) {
                made.shading.rate = rate::fragment;
            }
            made.objects.push_back(one);
        }
        const std::uint32_t lights = whole(0, 8);
        for (std::uint32_t i = 0; i < lights; ++i) {
            made.lights.push_back(light());
        }
        return made;
    }
};

} // namespace yurvo::testing
