// The scenes that are measured: a buoy of so many triangles that fills the picture, under so many lights of
// mixed kinds.
#pragma once

#include <cmath>
#include <cstdint>
#include <memory>

#include "yurvo/picture/encoding.hpp"
#include "yurvo/picture/texture.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::bench {

inline named_light mixed_light(int i) {
    named_light made;
    made.name = "lamp " + std::to_string(i);
    light& one = made.light;
    // Over the side that is seen, outwards by the golden angle: no two alike, none inside the buoy.
    const double turn = 2.399963 * i;
    const double ahead = 0.95 - 0.04 * (i % 16);
    const double aside = std::sqrt(1 - ahead * ahead);
    const vec3<double> place =
        vec3<double>{aside * std::cos(turn), aside * std::sin(turn), ahead} * (2.6 + 0.08 * (i % 16));
    one.color = {1.0, 0.8 + 0.2 * std::cos(turn), 0.6 + 0.3 * std::sin(turn)};
    one.intensity = 0.6;
    one.position = place;
    one.shines = place * -1.0;
    switch (i % 4) {
    case 0:
        one.kind = light_kind::point;
        break;
    case 1:
        one.kind = light_kind::directional;
        break;
    case 2:
        one.kind = light_kind::spot;
        one.inner = radians(20);
        one.outer = radians(40);
        break;
    default:
        one.kind = light_kind::point;
        one.falloff = falloff_kind::windowed;
        one.range = 4;
        break;
    }
    return made;
}

// around × down cells, two triangles each but for the poles. The eye is where the buoy's outline leaves only
// the corners free: 975,608 of 1,024,000 pixels show it with 2,048 triangles, 978,356 with 2,000,000, and a
// fifth of its triangles face the eye.
inline scene buoy(std::uint32_t around, std::uint32_t down, int lights, rate at = rate::fragment) {
    scene made;
    made.title = "A buoy from close by";
    made.view.eye = {0, 0, 3.54530};
    made.view.target = {0, 0, 0};
    made.view.fov = radians(45);
    made.view.width = 1280;
    made.view.height = 800;
    made.shading.model = model_kind::blinn_phong;
    made.shading.rate = at;
    named_material paint;
    paint.name = "paint";
    paint.look.base = {0.7, 0.15, 0.1};
    paint.look.specular = {0.4, 0.4, 0.4};
    paint.look.shininess = 48;
    made.materials.push_back(paint);
    object buoy;
    buoy.name = "buoy";
    buoy.shape = sphere_shape{2.0, {around, down}};
    made.objects.push_back(buoy);
    for (int i = 0; i < lights; ++i) {
        made.lights.push_back(mixed_light(i));
    }
    return made;
}

// Planks across the buoy, of 256x256 texels, of which 8-bit codes hold every one.
inline void cover_with_planks(scene& made) {
    constexpr int size = 256;
    constexpr int wide = 32; // texels of one plank
    texture planks;
    planks.width = size;
    planks.height = size;
    planks.texels.clear();
    std::uint32_t grain = 11; // NOLINT: the same every time
    for (int i = 0; i < size * size; ++i) {
        grain = grain * 1664525U + 1013904223U; // of Numerical Recipes (1992)
        const int y = i / size;
        const double shade =
            (y % wide < 2 ? 40 : 120 + 40 * (y / wide % 3)) + static_cast<double>(grain >> 27U);
        const auto decoded = [&](double code) {
            return static_cast<float>(srgb_decoded(std::floor(code) / 255));
        };
        planks.texels.emplace_back(decoded(shade), decoded(shade * 0.8), decoded(shade * 0.6));
    }
    made.materials[0].texture_file = "planks.png";
    made.materials[0].image = std::make_shared<const texture>(std::move(planks));
}

} // namespace yurvo::bench
