#include "yurvo/live/walk.hpp"

#include <algorithm>
#include <cmath>

#include "yurvo/geometry/transform.hpp"

namespace yurvo::inline v0_1::live {

std::vector<edit> orbited(const view& of, double around, double up) {
    const vec3<double> from = of.eye - of.target;
    const double far = length(from);
    const double level = std::hypot(from.x, from.z);
    const double turned = std::atan2(from.x, from.z) + around;
    constexpr double most = 1.5; // radians above or below
    const double risen = std::clamp(std::atan2(from.y, level) + up, -most, most);
    const vec3<double> eye = of.target + vec3<double>{std::sin(turned) * std::cos(risen), std::sin(risen),
                                                      std::cos(turned) * std::cos(risen)} *
                                             far;
    return {set_by_hand("view.eye", eye)};
}

std::vector<edit> zoomed(const view& of, double factor) {
    const vec3<double> eye = of.target + (of.eye - of.target) * factor;
    if (length(eye - of.target) < 2 * of.near) {
        return {};
    }
    return {set_by_hand("view.eye", eye)};
}

std::vector<edit> panned(const view& of, double dx, double dy) {
    const camera seen = make_camera(of);
    const double a_pixel = 2 * seen.tangent * length(of.eye - of.target) / static_cast<double>(seen.height);
    const vec3<double> by = (seen.axes.right * -dx + seen.axes.up * dy) * a_pixel;
    return {set_by_hand("view.eye", of.eye + by), set_by_hand("view.target", of.target + by)};
}

std::vector<edit> fitted(const scene& the_scene) {
    vec3<double> low{1e300, 1e300, 1e300};
    vec3<double> high{-1e300, -1e300, -1e300};
    for (const object& each : the_scene.objects) {
        const matrix4 to_world = object_to_world(each.placed);
        for (const vec3<double>& corner : build_mesh(each).positions) {
            const vec3<double> at = transform_point(to_world, corner);
            low = {std::min(low.x, at.x), std::min(low.y, at.y), std::min(low.z, at.z)};
            high = {std::max(high.x, at.x), std::max(high.y, at.y), std::max(high.z, at.z)};
        }
    }
    if (low.x > high.x) {
        return {};
    }
    const view& of = the_scene.view;
    const vec3<double> middle = (low + high) * 0.5;
    const double radius = std::max(length(high - low) / 2, 2 * of.near);
    const vec3<double> eye = middle + normalize(of.eye - of.target) * (radius / std::sin(of.fov / 2));
    std::vector<edit> edits{set_by_hand("view.eye", eye), set_by_hand("view.target", middle)};
    const double far = length(eye - middle) + radius;
    if (far > of.far) {
        edits.push_back(set_number("view.far", std::ceil(far)));
    }
    return edits;
}

std::vector<edit> with_model(const scene& the_scene, const std::string& name) {
    std::vector<edit> edits{set_text("shading.model", name)};
    const bool was_cel = the_scene.shading.own.name.empty() && the_scene.shading.model == model_kind::cel;
    if (name == "cel" && !was_cel) {
        edits.push_back(set_numbers("shading.thresholds", {0.3, 0.8}));
        edits.push_back(set_numbers("shading.bands", {0.2, 0.6, 1.0}));
        if (the_scene.shading.rate != rate::fragment) {
            edits.push_back(set_text("shading.rate", "fragment"));
        }
    } else if (name != "cel" && was_cel) {
        for (const char* key : {"thresholds", "bands", "outline", "outline_color"}) {
            edits.push_back({std::string("shading.") + key, ""});
        }
    }
    return edits;
}

} // namespace yurvo::inline v0_1::live
