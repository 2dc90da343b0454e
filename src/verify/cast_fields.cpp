// Rays at fields.
#include <algorithm>
#include <cmath>

#include "verify/cast_parts.hpp"
#include "verify/plain_shapes.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

constexpr double unmet = std::numeric_limits<double>::infinity();

} // namespace

caster::parts::object_ray caster::parts::to_object(std::size_t o, const vec3<double>& along) const {
    const placement& placed = the_scene.objects[o].placed;
    const auto back = [&](const vec3<double>& v) {
        const vec3<double> turned = geometry->shapes->turns[o].undone(v);
        return vec3<double>{turned.x / placed.scale.x, turned.y / placed.scale.y, turned.z / placed.scale.z};
    };
    return {back(the_scene.view.eye - placed.position), back(along)};
}

namespace {

struct distance_at {
    double t, distance;
};

// The last place before a distance's sign changes, to the last digit: by the Illinois rule (Dowell and
// Jarratt 1971), and by halving where that is slow.
template <class Distance>
double last_before_crossing(const Distance& distance, distance_at low, distance_at high) {
    const bool inside = low.distance < 0;
    enum class end { none, lower, upper } moved = end::none;
    double width_before = high.t - low.t;
    for (int i = 1; i <= 200; ++i) {
        const double width = high.t - low.t;
        const bool slow = i % 3 == 0 && width > width_before / 8;
        width_before = i % 3 == 0 ? width : width_before;
        const double share = slow ? 0.5 : low.distance / (low.distance - high.distance);
        // On an end itself nothing would be learned.
        const double least = 0x1p-52 * high.t;
        const double next =
            std::max(std::min(std::max(low.t + width * share, low.t + least), high.t - least), low.t);
        if (next <= low.t || next >= high.t) {
            break;
        }
        const double here = distance(next);
        if ((here < 0) == inside) {
            low = {next, here};
            high.distance *= moved == end::lower ? 0.5 : 1;
            moved = end::lower;
        } else {
            high = {next, here};
            low.distance *= moved == end::upper ? 0.5 : 1;
            moved = end::upper;
        }
    }
    return low.t;
}

} // namespace

double caster::parts::meet_field(std::size_t o, const field& shape, const vec3<double>& along) const {
    const object_ray ray = to_object(o, along);
    const double unit = std::hypot(ray.along.x, ray.along.y, ray.along.z);
    const auto distance = [&](double t) { return plain_distance(shape, ray.from + ray.along * t); };
    const double size = 2 * plain_extent(shape);
    // Nothing of it is farther from the eye than this.
    const vec3<double> middle = -ray.from;
    const double last =
        std::min(the_scene.view.far, (std::hypot(middle.x, middle.y, middle.z) + size) / unit);
    double t = the_scene.view.near;
    double before = distance(t);
    while (t <= last) {
        const double next = t + std::max(std::abs(before), 1e-5 * size) / unit;
        const double now = distance(next);
        if ((now < 0) != (before < 0)) {
            const double low = last_before_crossing(distance, {t, before}, {next, now});
            return low <= the_scene.view.far ? low : unmet;
        }
        t = next;
        before = now;
    }
    return unmet;
}

cast_color caster::parts::color_of_field(const field_hit& hit, const vec3<double>& along) const {
    const field& shape = std::get<field_shape>(the_scene.objects[hit.object].shape).field;
    const object_ray ray = to_object(hit.object, along);
    const vec3<double> met = ray.from + ray.along * hit.depth;
    const double step = 1e-6 * plain_extent(shape);
    const auto slope = [&](const vec3<double>& axis) {
        return (plain_distance(shape, met + axis * step) - plain_distance(shape, met - axis * step)) /
               (2 * step);
    };
    const object& object = the_scene.objects[hit.object];
    const material& look = the_scene.materials[object.material].look;
    plain_point point;
    point.position = the_scene.view.eye + along * hit.depth;
    point.normal =
        unit_or_zero(normal_to_world(hit.object, {slope({1, 0, 0}), slope({0, 1, 0}), slope({0, 0, 1})}));
    point.front = dot(point.normal, along) <= 0;
    if (look.two_sided && !point.front) {
        point.normal = -point.normal;
    }
    // Rounded once. Differences over 1e-6 of its size leave less than 1e-9, of curvature and of rounding.
    point.normal_error = 2 * u + 1e-9;
    point.base = range3(look.base, 2 * u);
    const plain_lit lit = lighting.light_point(point, look);
    return finished(lit.tinted + lit.untinted, look.alpha, hit.object);
}

field_hit caster::parts::find_field(const vec3<double>& along) const {
    field_hit best;
    for (std::size_t o = 0; o < the_scene.objects.size(); ++o) {
        if (const auto* the_shape = std::get_if<field_shape>(&the_scene.objects[o].shape)) {
            const double depth = meet_field(o, the_shape->field, along);
            if (depth < best.depth) {
                best = {o, depth};
            }
        }
    }
    return best;
}

} // namespace yurvo::inline v0_1::verify
