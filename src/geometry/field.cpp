#include "yurvo/geometry/field.hpp"
#include "yurvo/numeric/assert.hpp"

#include <algorithm>
#include <cmath>

namespace yurvo::inline v0_1 {

namespace {

// Each field's distance is written once; what its gradient needs of the way there goes along.
double distance_to_sphere(const field_part& part, const vec3<double>& p) { return length(p) - part.radius; }

// How far each coordinate is beyond the box that the rounding is put around.
vec3<double> beyond_box(const field_part& part, const vec3<double>& p) {
    const double r = part.rounding;
    return {std::abs(p.x) - part.size.x * 0.5 + r, std::abs(p.y) - part.size.y * 0.5 + r,
            std::abs(p.z) - part.size.z * 0.5 + r};
}
double distance_to_rounded_box(const field_part& part, const vec3<double>& p) {
    const vec3<double> q = beyond_box(part, p);
    const double most = std::max({q.x, q.y, q.z});
    return (most <= 0 ? most
                      : length(vec3<double>{std::max(q.x, 0.0), std::max(q.y, 0.0), std::max(q.z, 0.0)})) -
           part.rounding;
}

// Metres: no square of them overflows, and std::hypot takes ten times as long.
double long_side(double x, double y) { return std::sqrt(x * x + y * y); }
double distance_to_torus(const field_part& part, const vec3<double>& p) {
    return long_side(long_side(p.x, p.z) - part.radius, p.y) - part.tube;
}

vec3<double> from_line_of(const field_part& part, const vec3<double>& p) {
    const double half = part.height / 2;
    return {p.x, p.y - std::clamp(p.y, -half, half), p.z};
}
double distance_to_capsule(const field_part& part, const vec3<double>& p) {
    return length(from_line_of(part, p)) - part.radius;
}

double simple_distance(const field_part& part, const vec3<double>& at) {
    const vec3<double> p = at - part.position;
    switch (part.kind) {
    case field_kind::rounded_box:
        return distance_to_rounded_box(part, p);
    case field_kind::torus:
        return distance_to_torus(part, p);
    case field_kind::capsule:
        return distance_to_capsule(part, p);
    case field_kind::sphere:
    case field_kind::smooth_union:
        break;
    }
    return distance_to_sphere(part, p);
}

vec3<double> gradient_of_rounded_box(const field_part& part, const vec3<double>& p) {
    const vec3<double> q = beyond_box(part, p);
    const auto with_sign = [&](const vec3<double>& v) {
        return vec3<double>{std::copysign(v.x, p.x), std::copysign(v.y, p.y), std::copysign(v.z, p.z)};
    };
    const double most = std::max({q.x, q.y, q.z});
    if (most > 0) {
        return with_sign(normalize(vec3<double>{std::max(q.x, 0.0), std::max(q.y, 0.0), std::max(q.z, 0.0)}));
    }
    const vec3<double> axis = q.x == most   ? vec3<double>{1, 0, 0}
                              : q.y == most ? vec3<double>{0, 1, 0}
                                            : vec3<double>{0, 0, 1};
    return {axis.x == 0 ? 0 : std::copysign(1.0, p.x), axis.y == 0 ? 0 : std::copysign(1.0, p.y),
            axis.z == 0 ? 0 : std::copysign(1.0, p.z)};
}

vec3<double> gradient_of_torus(const field_part& part, const vec3<double>& p) {
    const double around = long_side(p.x, p.z);
    const double out = around - part.radius;
    const double d = long_side(out, p.y);
    // On the axis every way out is as good; on the tube's centre line there is none.
    const double x = around > 0 ? p.x / around : 1;
    const double z = around > 0 ? p.z / around : 0;
    return d > 0 ? vec3<double>{x * out / d, p.y / d, z * out / d} : vec3<double>{x, 0, z};
}

vec3<double> simple_gradient(const field_part& part, const vec3<double>& at) {
    const vec3<double> p = at - part.position;
    switch (part.kind) {
    case field_kind::rounded_box:
        return gradient_of_rounded_box(part, p);
    case field_kind::torus:
        return gradient_of_torus(part, p);
    case field_kind::capsule:
        return normalize(from_line_of(part, p));
    case field_kind::sphere:
    case field_kind::smooth_union:
        break;
    }
    return normalize(p);
}

// The smaller of two distances, rounded where they are closer than `blend`: min(a, b) − blend · h² / 4 with
// h = max(1 − |a − b| / blend, 0). Each distance's share in the change is its weight in the gradient.
double closeness(double a, double b, double blend) { return std::max(1 - std::abs(a - b) / blend, 0.0); }
double blended(double a, double b, double blend) {
    const double h = closeness(a, b, blend);
    return std::min(a, b) - blend * h * h / 4;
}
field_value blended(const field_value& a, const field_value& b, double blend) {
    const double h = closeness(a.distance, b.distance, blend);
    const double share_of_a = a.distance < b.distance ? 1 - h / 2 : h / 2;
    return {blended(a.distance, b.distance, blend), a.gradient * share_of_a + b.gradient * (1 - share_of_a)};
}

field_value simple(const field_part& part, const vec3<double>& at) {
    return {simple_distance(part, at), simple_gradient(part, at)};
}

// What marching asks for, at most of its steps.
double distance_to(const field& the_field, const vec3<double>& at) {
    double distance = simple_distance(the_field.parts.front(), at);
    for (std::size_t i = 1; i < the_field.parts.size(); ++i) {
        distance = blended(distance, simple_distance(the_field.parts[i], at), the_field.blend);
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
    field_value value = simple(the_field.parts.front(), at);
    for (std::size_t i = 1; i < the_field.parts.size(); ++i) {
        value = blended(value, simple(the_field.parts[i], at), the_field.blend);
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

namespace {

// The part of a ray inside a box, or nothing.
bool clip_to(const bounds& box, const vec3<double>& from, const vec3<double>& along, double& nearest,
             double& farthest) {
    const double starts[] = {from.x, from.y, from.z};
    const double directions[] = {along.x, along.y, along.z};
    const double lows[] = {box.low.x, box.low.y, box.low.z};
    const double highs[] = {box.high.x, box.high.y, box.high.z};
    for (int axis = 0; axis < 3; ++axis) {
        if (directions[axis] == 0) {
            if (starts[axis] < lows[axis] || starts[axis] > highs[axis]) {
                return false;
            }
            continue;
        }
        const double a = (lows[axis] - starts[axis]) / directions[axis];
        const double b = (highs[axis] - starts[axis]) / directions[axis];
        nearest = std::max(nearest, std::min(a, b));
        farthest = std::min(farthest, std::max(a, b));
    }
    return nearest <= farthest;
}

} // namespace

double polish(const field& the_field, const vec3<double>& from, const vec3<double>& along, double t) {
    for (int i = 0; i < 4; ++i) {
        const field_value here = evaluate(the_field, from + along * t);
        const double slope = dot(here.gradient, along);
        // Where the ray only grazes, the slope says nothing.
        if (here.distance == 0 || std::abs(slope) < 1e-6 * length(along)) {
            break;
        }
        t -= here.distance / slope;
    }
    return t;
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
    double first = nearest;
    double last = farthest;
    bounds box = bounds_of(the_field);
    const vec3<double> extent = box.high - box.low;
    const double size = length(extent);
    const double room = 1e-6 * size;
    box.low = box.low - vec3<double>{room, room, room};
    box.high = box.high + vec3<double>{room, room, room};
    if (!clip_to(box, from, along, first, last)) {
        return std::nullopt;
    }
    const double unit = length(along);
    // Near enough for Newton's method to go on from; a ray that grazes comes this near without meeting.
    const double close = 1e-7 * size;
    double t = first;
    double before = distance_to(the_field, from + along * t);
    constexpr int most_steps = 2000;
    for (int i = 0; i < most_steps && t <= last; ++i) {
        if (std::abs(before) <= close) {
            const double met = polish(the_field, from, along, t);
            const bool on_surface =
                std::abs(distance_to(the_field, from + along * met)) <= 1e-12 * (size + unit * met);
            if (on_surface && std::abs(met - t) * unit <= 1e-2 * size) {
                if (met >= nearest && met <= farthest) {
                    return met;
                }
            }
        }
        // Never less than a little: past what is grazed, and past what is cut off by `nearest`.
        t += std::max(std::abs(before), close) / unit;
        const double now = distance_to(the_field, from + along * t);
        if ((now < 0) != (before < 0) && t <= last + size) {
            // The surface was crossed on the way.
            const double met = polish(the_field, from, along, t);
            if (met >= nearest && met <= farthest) {
                return met;
            }
        }
        before = now;
    }
    return std::nullopt;
}

} // namespace yurvo::inline v0_1
