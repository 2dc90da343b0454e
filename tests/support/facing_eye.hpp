// A view along -Z: the plane z = 0, four metres away, fills it from -2 to 2 metres, a pixel a tenth of a
// metre.
#pragma once

#include <cmath>
#include <numbers>

#include "yurvo/scene/scene.hpp"

namespace yurvo::testing {

/// A picture of 40x40 pixels, of nothing yet, with one material.
inline scene facing_eye(model_kind model) {
    scene made;
    made.view.eye = {0, 0, 4};
    made.view.target = {0, 0, 0};
    made.view.fov = 2 * std::atan(0.5);
    made.view.width = 40;
    made.view.height = 40;
    made.shading.model = model;
    made.materials = {{"planks", {}}};
    return made;
}

/// A plank that faces the eye, in the plane z = 0.
inline object facing_plank(double width, double height) {
    object plank;
    plank.shape = plane_shape{{width, height}, {1, 1}};
    plank.placed.rotation.x = std::numbers::pi / 2;
    return plank;
}

} // namespace yurvo::testing
