#include "yurvo/scene/turn.hpp"
#include "yurvo/geometry/transform.hpp"

#include <cmath>

namespace yurvo::inline v0_1 {

namespace {

vec3<double> about_vertical(const vec3<double>& v, double angle) {
    const double c = std::cos(angle);
    const double s = std::sin(angle);
    return {c * v.x + s * v.z, v.y, c * v.z - s * v.x};
}

// The angles about X, then Y, then Z of a rotation that follows another.
vec3<double> followed_by(const vec3<double>& rotation, double about_y) {
    placement only;
    only.rotation = rotation;
    const matrix3 after = turn_about_y(about_y) * linear_part(object_to_world(only));
    // after = Rz · Ry · Rx; where Ry is a quarter turn, Rx and Rz are about one axis and all of it goes to
    // Rz.
    const double sine = -after(2, 0);
    if (std::abs(sine) > 1 - 1e-15) {
        return {0, std::copysign(pi / 2, sine), std::atan2(-after(0, 1), after(1, 1))};
    }
    return {std::atan2(after(2, 1), after(2, 2)), std::atan2(sine, std::hypot(after(2, 1), after(2, 2))),
            std::atan2(after(1, 0), after(0, 0))};
}

} // namespace

scene turned(const scene& from, turned_part what, double angle, const std::string& name) {
    scene result = from;
    const vec3<double>& target = from.view.target;
    switch (what) {
    case turned_part::object:
        for (object& object : result.objects) {
            if (name.empty() || object.name == name) {
                object.placed.rotation = followed_by(object.placed.rotation, angle);
            }
        }
        break;
    case turned_part::eye:
        result.view.eye = target + about_vertical(from.view.eye - target, angle);
        result.view.up = about_vertical(from.view.up, angle);
        break;
    case turned_part::light:
        for (named_light& light : result.lights) {
            if (name.empty() || light.name == name) {
                light.light = light_in_world(light, make_camera(from.view));
                light.space = light_space::world;
                light.light.position = target + about_vertical(light.light.position - target, angle);
                light.light.shines = about_vertical(light.light.shines, angle);
            }
        }
        break;
    }
    return result;
}

} // namespace yurvo::inline v0_1
