// The scenes that are measured: a buoy of so many triangles that fills the picture, under so many lights of
// mixed kinds.
#pragma once

#include <cmath>

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

} // namespace yurvo::bench
