// A buoy under the moon: the smallest scene that shows every term.
#pragma once

#include "yurvo/scene/scene.hpp"

namespace yurvo::testing {

inline scene buoy_scene(model_kind model) {
    scene made;
    made.view.width = 96;
    made.view.height = 60;
    made.view.eye = {0, 0, 4};
    made.shading.model = model;
    named_material paint;
    paint.name = "paint";
    paint.look.base = {0.6, 0.2, 0.1};
    paint.look.specular = {0.7, 0.7, 0.7};
    paint.look.emission = {0.02, 0, 0.01};
    made.materials.push_back(paint);
    object buoy;
    buoy.name = "buoy";
    buoy.shape = sphere_shape{1, {32, 16}};
    made.objects.push_back(buoy);
    named_light moon;
    moon.name = "moon";
    moon.light.kind = light_kind::directional;
    moon.light.shines = {-1, -0.5, -1};
    made.lights.push_back(moon);
    return made;
}

} // namespace yurvo::testing
