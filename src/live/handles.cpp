#include "yurvo/live/handles.hpp"

#include <algorithm>
#include <cmath>
#include <string>

#include "yurvo/geometry/transform.hpp"

namespace yurvo::inline v0_1::live {

namespace {

using point = vec3<double>;

constexpr double least_slope = 0.15;    // of a ray, by which a plane is met where a hand can mean it
constexpr double share_of_height = 0.3; // how far a direction's handle is from its lamp, of half the picture
constexpr double share_without_place = 0.55; // ... of a light that hangs on the view's target

struct seen_at {
    double x = 0, y = 0;
    bool in_front = false;
};
seen_at seen(const camera& by, const point& at) {
    const point pixels = by.to_pixels(at - by.eye);
    return pixels.z > by.near ? seen_at{pixels.x / pixels.z, pixels.y / pixels.z, true} : seen_at{};
}

// Half of what the picture's height is at a place, times a share.
double reach(const camera& by, const point& at, double share) {
    return std::max(dot(by.eye - at, by.axes.backward), by.near) * by.tangent * share;
}

bool has_place(const light& of) { return of.kind != light_kind::directional; }

// A direction's sphere: where it hangs, how far out its handle is, and the unit vector there. The handle of a
// light without a place is where it shines from.
struct pointing {
    point anchor;
    double radius = 1;
    point towards;
};
pointing pointing_of(const scene& the_scene, const camera& by, const light& lamp) {
    if (has_place(lamp)) {
        return {lamp.position, reach(by, lamp.position, share_of_height), normalize(lamp.shines)};
    }
    const point& target = the_scene.view.target;
    return {target, reach(by, target, share_without_place), -normalize(lamp.shines)};
}

// Square to a cone's axis, so that the border there is seen from the side.
point side_of(const camera& by, const pointing& axis) {
    const point across = cross(axis.towards, by.eye - axis.anchor);
    const double size = length(across);
    return size > 1e-6 * length(by.eye - axis.anchor) ? across / size
                                                      : normalize(cross(axis.towards, by.axes.up));
}

matrix3 turn_of(const point& rotation) {
    placement placed;
    placed.rotation = rotation;
    return linear_part(object_to_world(placed));
}

// Angles about X, then Y, then Z that give a rotation Rz · Ry · Rx.
point angles_of(const matrix3& turned) {
    const double sine = std::clamp(-turned(2, 0), -1.0, 1.0);
    if (std::abs(sine) > 1 - 1e-12) { // Y stands on Z: the two others are one
        return {std::atan2(-turned(1, 2), turned(1, 1)), std::asin(sine), 0};
    }
    return {std::atan2(turned(2, 1), turned(2, 2)), std::asin(sine), std::atan2(turned(1, 0), turned(0, 0))};
}

// Where an object's X axis points to, about the vertical.
double heading_of(const point& rotation) {
    const point axis = transform_direction(turn_of(rotation), {1, 0, 0});
    return std::hypot(axis.x, axis.z) > 1e-6 ? std::atan2(-axis.z, axis.x) : 0;
}
point on_ring(const point& middle, double radius, double angle) {
    return middle + point{std::cos(angle), 0, -std::sin(angle)} * radius;
}

handle hung(handle_kind kind, std::size_t index, const camera& by, const point& at, const point& from) {
    const seen_at there = seen(by, at);
    const seen_at hook = seen(by, from);
    return {kind, index, there.x, there.y, hook.x, hook.y, there.in_front && hook.in_front};
}

std::string light_key(std::size_t i, const char* key) { return "lights[" + std::to_string(i) + "]." + key; }
std::string object_key(std::size_t i, const char* key) { return "objects[" + std::to_string(i) + "]." + key; }

// Where a place goes whose handle is at a ray's pixel, the mouse having gone by dx and dy.
std::optional<point> place_at(const camera& by, const point& start, const point& ray, double dx, double dy,
                              drag_along along) {
    const double depth = dot(by.eye - start, by.axes.backward);
    if (along == drag_along::view) {
        return by.eye + ray * depth;
    }
    if (along == drag_along::height) { // the place on the vertical that the ray comes nearest to
        const double across = ray.x * ray.x + ray.z * ray.z;
        if (!(across > 1e-9)) {
            return std::nullopt; // seen from right above
        }
        const double t = ((start.x - by.eye.x) * ray.x + (start.z - by.eye.z) * ray.z) / across;
        return point{start.x, by.eye.y + t * ray.y, start.z};
    }
    const double t = (start.y - by.eye.y) / ray.y;
    point to{};
    if (std::abs(ray.y) / length(ray) > least_slope && t > by.near && t < 3 * depth) {
        to = by.eye + ray * t;
    } else {
        const double a_pixel = 2 * by.tangent * depth / by.height;
        const point towards = normalize(point{by.axes.backward.x, 0, by.axes.backward.z});
        to = start + by.axes.right * (dx * a_pixel) + towards * (dy * 3 * a_pixel);
    }
    to.y = start.y;
    return to;
}

// On a sphere, where the ray meets it next to where the handle is; at its rim where the ray passes by.
point direction_at(const camera& by, const pointing& now, const point& ray) {
    const point from = by.eye - now.anchor;
    const double a = dot(ray, ray);
    const double b = dot(from, ray);
    const double inside = b * b - a * (dot(from, from) - now.radius * now.radius);
    if (inside <= 0) {
        return normalize(from + ray * (-b / a));
    }
    const double root = std::sqrt(inside);
    const point near = normalize(from + ray * ((-b - root) / a));
    const point far = normalize(from + ray * ((-b + root) / a));
    return dot(near, now.towards) >= dot(far, now.towards) ? near : far;
}

// The angle off a cone's axis under which the ray passes.
double opened_to(const camera& by, const pointing& axis, const point& ray) {
    const point side = side_of(by, axis);
    const point square = cross(axis.towards, side);
    const point from = axis.anchor - by.eye;
    const double slope = std::abs(dot(square, ray)) / length(ray);
    if (slope > least_slope) { // the plane of axis and border
        const point at = ray * (dot(from, square) / dot(ray, square)) - from;
        return std::atan2(std::abs(dot(at, side)), dot(at, axis.towards));
    }
    const point tip = from + axis.towards * axis.radius; // seen along the axis: the plane across it
    const double along = dot(ray, axis.towards);
    const point at = ray * (dot(tip, axis.towards) / (std::abs(along) > 1e-9 ? along : 1e-9)) - tip;
    return std::atan2(length(at), axis.radius);
}

std::optional<double> ring_angle(const camera& by, const point& middle, const point& ray) {
    const double t = (middle.y - by.eye.y) / ray.y;
    if (!(std::abs(ray.y) / length(ray) > least_slope && t > by.near)) {
        return std::nullopt;
    }
    const point at = by.eye + ray * t - middle;
    return std::atan2(-at.z, at.x);
}

} // namespace

std::vector<handle> handles_of(const scene& the_scene, std::optional<std::size_t> light,
                               std::optional<std::size_t> object) {
    const camera by = make_camera(the_scene.view);
    std::vector<handle> all;
    for (std::size_t i = 0; i < the_scene.lights.size(); ++i) {
        const yurvo::light lamp = light_in_world(the_scene.lights[i], by);
        if (has_place(lamp)) {
            all.push_back(hung(handle_kind::light_place, i, by, lamp.position, lamp.position));
        }
        if (!has_place(lamp) || (light == i && lamp.kind == light_kind::spot)) {
            const pointing at = pointing_of(the_scene, by, lamp);
            all.push_back(
                hung(handle_kind::light_direction, i, by, at.anchor + at.towards * at.radius, at.anchor));
            if (lamp.kind == light_kind::spot) {
                const point border =
                    at.towards * std::cos(lamp.outer) + side_of(by, at) * std::sin(lamp.outer);
                all.push_back(
                    hung(handle_kind::cone_border, i, by, at.anchor + border * at.radius, at.anchor));
            }
        }
    }
    if (object && *object < the_scene.objects.size()) {
        const placement& placed = the_scene.objects[*object].placed;
        all.push_back(hung(handle_kind::object_place, *object, by, placed.position, placed.position));
        const point turn = on_ring(placed.position, reach(by, placed.position, share_of_height),
                                   heading_of(placed.rotation));
        all.push_back(hung(handle_kind::object_turn, *object, by, turn, placed.position));
    }
    return all;
}

std::optional<handle> handle_at(const std::vector<handle>& all, double x, double y, double within) {
    std::optional<handle> nearest;
    for (const handle& each : all) {
        const double away = std::hypot(each.x - x, each.y - y);
        if (each.in_front && away <= within) {
            within = away;
            nearest = each;
        }
    }
    return nearest;
}

std::vector<std::array<double, 2>> circle_of(const scene& the_scene, const handle& which) {
    const bool border = which.kind == handle_kind::cone_border;
    if (!border && which.kind != handle_kind::object_turn) {
        return {};
    }
    const camera by = make_camera(the_scene.view);
    point middle;
    point across; // two radii, square to each other
    point along;
    if (border) {
        const light lamp = light_in_world(the_scene.lights[which.index], by);
        const pointing at = pointing_of(the_scene, by, lamp);
        const double radius = at.radius * std::sin(lamp.outer);
        middle = at.anchor + at.towards * (at.radius * std::cos(lamp.outer));
        across = side_of(by, at) * radius;
        along = cross(at.towards, side_of(by, at)) * radius;
    } else {
        middle = the_scene.objects[which.index].placed.position;
        const double radius = reach(by, middle, share_of_height);
        across = {radius, 0, 0};
        along = {0, 0, radius};
    }
    std::vector<std::array<double, 2>> result;
    constexpr int steps = 48;
    for (int i = 0; i <= steps; ++i) {
        const double angle = 2 * pi * i / steps;
        const seen_at at = seen(by, middle + across * std::cos(angle) + along * std::sin(angle));
        if (at.in_front) {
            result.push_back({at.x, at.y});
        }
    }
    return result;
}

held_handle::held_handle(const scene& the_scene, const handle& taken, double x, double y)
    : taken_(taken), mouse_x_(x), mouse_y_(y) {
    if (taken.kind == handle_kind::object_place || taken.kind == handle_kind::object_turn) {
        start_ = the_scene.objects[taken.index].placed.position;
        rotation_ = the_scene.objects[taken.index].placed.rotation;
    } else {
        start_ = light_in_world(the_scene.lights[taken.index], make_camera(the_scene.view)).position;
    }
}

std::vector<edit> held_handle::moved_to(const scene& the_scene, double x, double y, drag_along along) const {
    const bool of_object =
        taken_.kind == handle_kind::object_place || taken_.kind == handle_kind::object_turn;
    const std::size_t i = taken_.index;
    if (i >= (of_object ? the_scene.objects.size() : the_scene.lights.size())) {
        return {};
    }
    const camera by = make_camera(the_scene.view);
    const double dx = x - mouse_x_;
    const double dy = y - mouse_y_;
    const point ray = by.ray(taken_.x + dx, taken_.y + dy);
    if (of_object) {
        if (taken_.kind == handle_kind::object_place) {
            const std::optional<point> to = place_at(by, start_, ray, dx, dy, along);
            return to ? std::vector{set_by_hand(object_key(i, "position"), *to)} : std::vector<edit>{};
        }
        const std::optional<double> before = ring_angle(by, start_, by.ray(taken_.x, taken_.y));
        const std::optional<double> now = ring_angle(by, start_, ray);
        const double by_angle = before && now ? *now - *before : dx * 0.01;
        // Where the object stands upright, only its turn about Y is written.
        const bool upright = rotation_.x == 0 && rotation_.z == 0;
        const point turned = upright ? point{0, std::remainder(rotation_.y + by_angle, 2 * pi), 0}
                                     : angles_of(turn_about_y(by_angle) * turn_of(rotation_));
        const auto tenths = [](double angle) { return std::round(degrees(angle) * 10) / 10 + 0.0; };
        return {
            set_by_hand(object_key(i, "rotation"), {tenths(turned.x), tenths(turned.y), tenths(turned.z)})};
    }
    const named_light& named = the_scene.lights[i];
    const light lamp = light_in_world(named, by);
    const bool in_view = named.space == light_space::view;
    const auto as_written = [&](const point& world) {
        return in_view
                   ? point{dot(by.axes.right, world), dot(by.axes.up, world), dot(by.axes.backward, world)}
                   : world;
    };
    switch (taken_.kind) {
    case handle_kind::light_place: {
        const std::optional<point> to = place_at(by, start_, ray, dx, dy, along);
        if (!to || !has_place(lamp)) {
            return {};
        }
        return {set_by_hand(light_key(i, "position"), as_written(in_view ? *to - by.eye : *to))};
    }
    case handle_kind::light_direction: {
        if (lamp.kind == light_kind::point) {
            return {};
        }
        const point to = direction_at(by, pointing_of(the_scene, by, lamp), ray);
        return {set_by_hand(light_key(i, "shines"), as_written(has_place(lamp) ? to : -to))};
    }
    default: {
        if (lamp.kind != light_kind::spot) {
            return {};
        }
        const double opened = degrees(opened_to(by, pointing_of(the_scene, by, lamp), ray));
        const double outer = std::clamp(std::round(opened * 10) / 10, 1.0, 90.0);
        std::vector<edit> edits;
        const bool has_inner = lamp.penumbra != penumbra_kind::hard && lamp.penumbra != penumbra_kind::power;
        if (has_inner && degrees(lamp.inner) > outer) { // first: never wider than the outer one
            edits.push_back(set_number(light_key(i, "inner"), outer));
        }
        edits.push_back(set_number(light_key(i, "outer"), outer));
        return edits;
    }
    }
}

} // namespace yurvo::inline v0_1::live
