#include "yurvo/geometry/field.hpp"

#include <algorithm>
#include <cmath>

#include "geometry/field_lanes.hpp"
#include "geometry/simple_fields.hpp"
#include "yurvo/numeric/assert.hpp"

namespace yurvo::inline v0_1 {

namespace {

double distance_to(const field_part& part, const vec3<double>& at) {
    return with_simple_field(part.kind, [&](auto kind) { return kind.distance(part, at - part.position); });
}

field_value evaluate(const field_part& part, const vec3<double>& at) {
    const vec3<double> p = at - part.position;
    return with_simple_field(part.kind, [&](auto kind) {
        return field_value{kind.distance(part, p), kind.gradient(part, p)};
    });
}

// What marching asks for, at most of its steps.
double distance_to(const field& the_field, const vec3<double>& at) {
    double distance = distance_to(the_field.parts.front(), at);
    for (std::size_t i = 1; i < the_field.parts.size(); ++i) {
        distance = blended(distance, distance_to(the_field.parts[i], at), the_field.blend);
    }
    return distance;
}

vec3<double> half_extent(const field_part& part) {
    switch (part.kind) {
    case field_kind::rounded_box:
        return part.size * 0.5;
    case field_kind::torus:
        return {part.radius + part.tube, part.tube, part.radius + part.tube};
    case field_kind::capsule:
        return {part.radius, part.radius + part.height / 2, part.radius};
    case field_kind::sphere:
    case field_kind::smooth_union:
        break;
    }
    return {part.radius, part.radius, part.radius};
}

} // namespace

field_value evaluate(const field& the_field, const vec3<double>& at) {
    YURVO_ASSERT(!the_field.parts.empty());
    field_value value = evaluate(the_field.parts.front(), at);
    for (std::size_t i = 1; i < the_field.parts.size(); ++i) {
        value = blended(value, evaluate(the_field.parts[i], at), the_field.blend);
    }
    return value;
}

bounds bounds_of(const field& the_field) {
    // Each blending moves the surface out by at most a quarter of its width.
    const double room = the_field.blend / 4 * static_cast<double>(the_field.parts.size() - 1);
    bounds box;
    for (std::size_t i = 0; i < the_field.parts.size(); ++i) {
        const vec3<double> half = half_extent(the_field.parts[i]) + vec3<double>{room, room, room};
        const vec3<double> low = the_field.parts[i].position - half;
        const vec3<double> high = the_field.parts[i].position + half;
        if (i == 0) {
            box = {low, high};
        } else {
            box.low = {std::min(box.low.x, low.x), std::min(box.low.y, low.y), std::min(box.low.z, low.z)};
            box.high = {std::max(box.high.x, high.x), std::max(box.high.y, high.y),
                        std::max(box.high.z, high.z)};
        }
    }
    return box;
}

double polish(const field& the_field, const vec3<double>& from, const vec3<double>& along, double t) {
    field_lanes::vectors one; // NOLINT: of one lane, which is written
    one.x[0] = along.x;
    one.y[0] = along.y;
    one.z[0] = along.z;
    field_lanes::lane at; // NOLINT: likewise
    at[0] = t;
    field_lanes::polish(field_lanes::surface(the_field), from, one, 1, at);
    return at[0];
}

double march_together(const field& the_field, const vec3<double>& from, const vec3<double>& along,
                      double spread, double nearest, double farthest) {
    YURVO_ASSERT(dot(along, along) > 0);
    const double fastest = length(along) + spread;
    // Where steps get this short the rays are better off each alone.
    const double shortest = 1e-3 * length(half_extent(the_field.parts.front()));
    double t = nearest;
    constexpr int most_steps = 200;
    for (int i = 0; i < most_steps && t <= farthest; ++i) {
        // All of them are that near the one in the middle; a little less than what is left stays clear.
        const double left = std::abs(distance_to(the_field, from + along * t)) - t * spread;
        if (!(left > shortest)) {
            break;
        }
        t += 0.999 * left / fastest;
    }
    return t;
}

std::optional<double> march(const field& the_field, const vec3<double>& from, const vec3<double>& along,
                            double nearest, double farthest) {
    YURVO_ASSERT(dot(along, along) > 0);
    YURVO_ASSERT(nearest <= farthest);
    field_lanes::bundle one; // NOLINT: of one ray, whose lanes are written
    one.count = 1;
    one.from = from;
    one.farthest = farthest;
    one.along.x[0] = along.x;
    one.along.y[0] = along.y;
    one.along.z[0] = along.z;
    one.nearest[0] = nearest;
    field_lanes::marching(field_lanes::surface(the_field), bounds_of(the_field), one);
    return one.met[0] < field_lanes::unmet ? std::optional(one.met[0]) : std::nullopt;
}

} // namespace yurvo::inline v0_1
